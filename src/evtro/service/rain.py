"""Rain maps off the request path: the library is heavy, so a worker loads it and looks places up."""

from __future__ import annotations

import threading
import warnings
from dataclasses import dataclass
from typing import Any

import numpy as np

from evtro.core.physics.propagation.air import GHZ, Air
from evtro.core.physics.propagation.rain import Climate

MOST_PLACES = 256


@dataclass(frozen=True)
class Progress:
    """How far the look-up of a place has come, 0 to 1, in words."""

    state: str
    share: float
    words: str


WAITING = Progress("working", 0.1, "loading the rain maps")
READY = Progress(
    "ready", 1.0, "rain by the maps of ITU-R P.837-7 and P.839-4, air by P.676-12 and P.836-6"
)


def _air(key: tuple[float, float], gases: Any, vapour: Any, warmth: Any) -> Air:
    """Zenith attenuation of a place's air, as wet as it is half of the year."""
    wet = float(vapour.surface_water_vapour_density(*key, 50, 0.0).value)
    kelvin = float(warmth.surface_mean_temperature(*key).value)
    zenith = gases.gaseous_attenuation_slant_path(
        f=np.array(GHZ), el=90.0, rho=wet, P=1013.25, T=kelvin, mode="approx"
    ).value
    words = f"oxygen and {wet:.1f} g/m³ of vapour, ITU-R P.676 and P.836"
    return Air(tuple(float(z) for z in zenith), words)


class RainMaps:
    """Climates by place. `climate` never waits; ask again until it is there."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._known: dict[tuple[float, float], Climate] = {}
        self._progress: dict[tuple[float, float], Progress] = {}
        self._threads: dict[tuple[float, float], threading.Thread] = {}

    def climate(self, latitude_deg: float, longitude_deg: float) -> tuple[Climate | None, Progress]:
        """The rain climate of a place, or None with the progress of looking it up."""
        # A hundredth of a degree is far finer than the maps are.
        key = round(latitude_deg, 2), round(longitude_deg, 2)
        with self._lock:
            if key in self._known:
                return self._known[key], READY
            progress = self._progress.get(key)
            if progress is None or progress.state == "failed":
                self._progress[key] = WAITING
                thread = threading.Thread(target=self._look_up, args=(key,), daemon=True)
                self._threads[key] = thread
                thread.start()
                return None, progress or WAITING
            return None, progress

    def wait(self, latitude_deg: float, longitude_deg: float) -> Climate | None:
        """Look a place up and wait for it, for the command line and tests."""
        key = round(latitude_deg, 2), round(longitude_deg, 2)
        with self._lock:
            thread = self._threads.get(key)
        if thread is not None:
            thread.join()  # it is being looked up already
        elif key not in self._known:
            self._look_up(key)
        return self._known.get(key)

    def _look_up(self, key: tuple[float, float]) -> None:
        try:
            with warnings.catch_warnings():
                warnings.simplefilter("ignore")
                from itur.models import itu676, itu836, itu837, itu839, itu1510

                self._progress[key] = Progress("working", 0.6, "reading the rain maps")
                found = Climate(
                    float(itu837.rainfall_rate(*key, 0.01).value),
                    float(itu839.rain_height(*key).value),
                    _air(key, itu676, itu836, itu1510),
                )
        except Exception as error:  # the library raises what it likes; the screen must say so
            with self._lock:
                self._progress[key] = Progress(
                    "failed", 0.0, f"the rain maps could not be read: {error}"
                )
                self._threads.pop(key, None)
            return
        with self._lock:
            self._known[key] = found
            while len(self._known) > MOST_PLACES:
                del self._known[next(iter(self._known))]
            self._progress.pop(key, None)
            self._threads.pop(key, None)
