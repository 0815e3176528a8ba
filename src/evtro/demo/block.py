"""A block of 96 flats: four risers of eight floors with taps, every riser alike."""

from __future__ import annotations

import datetime as dt

from evtro.core.job import (
    Array,
    Cable,
    Carrier,
    Conductor,
    Earth,
    Handover,
    Job,
    Mast,
    Outlet,
    Part,
    Site,
    Target,
)

DAY = dt.date(2026, 3, 25)
RISERS, FLOORS, FLATS = "ABCD", 8, 3
# From the top floor down: the loss of the tap falls as the level does.
TAPS = (
    "tap-4x20",
    "tap-4x20",
    "tap-4x16",
    "tap-4x16",
    "tap-4x16",
    "tap-4x12",
    "tap-4x12",
    "tap-4x12",
)


def sorrel_court() -> Job:
    """Multiplexes of two transmitters on one array, a head amplifier, taps on every floor; all of it in."""
    ridge = Target(
        id="t1",
        kind="transmitter",
        name="Cairnmore",
        latitude_deg=53.590,
        longitude_deg=-9.4195,
        height_m=385.0,
        own_loss_db=6.0,
    )
    carriers = tuple(
        Carrier(
            id=f"c{i + 1}",
            target="t1",
            name=f"mux {i + 1}",
            frequency_mhz=f,
            bandwidth_mhz=7.61,
            polarisation="H",
            power=30.0,
            modulation="DVB-T2 256QAM 2/3",
        )
        for i, f in enumerate((482.0, 506.0, 546.0, 586.0, 634.0, 690.0))
    )
    run = _Risers()
    for n, riser in enumerate(RISERS):
        run.riser(n, riser)
    return Job(
        name="Sorrel Court",
        place="Sorrel Head",
        profile="europe",
        date=DAY,
        site=Site(
            position_text="53.4730 -9.9510",
            latitude_deg=53.4730,
            longitude_deg=-9.9510,
            height_m=24.0,
            mount_height_m=28.0,
            building_length_m=60.0,
            building_width_m=14.0,
            surroundings="suburb",
            entry_distance_m=4.0,
            entry_bearing_deg=180.0,
            mobile_m=2400.0,
        ),
        mast=Mast(length_m=3.0, held_m=0.8, outer_mm=60.0, wall_mm=4.0, base="concrete"),
        earth=Earth(overhead_lines="none"),
        handover=Handover(customer="The owners of Sorrel Court", installer="A. Mender"),
        outlets=tuple(run.outlets),
        targets=(ridge,),
        carriers=carriers,
        arrays=(
            Array(
                id="a1",
                name="Roof array",
                target="t1",
                gain_dbi=14.0,
                on_mast_m=2.2,
                wind_area_m2=0.12,
            ),
        ),
        conductors=(
            Conductor(
                id="e1", role="mast", material="copper", size_mm2=16, length_m=9.0, connected=True
            ),
            Conductor(
                id="e2", role="shields", material="copper", size_mm2=4, length_m=5.0, connected=True
            ),
            Conductor(
                id="e3", role="devices", material="copper", size_mm2=4, length_m=2.0, connected=True
            ),
        ),
        parts=tuple(run.parts),
        links=tuple(run.links),
    )


class _Risers:
    """The run, riser by riser."""

    def __init__(self) -> None:
        self.outlets: list[Outlet] = []
        self.parts = [
            Part(id="p1", type="antenna", antenna="a1"),
            Part(id="p2", type="block-1", name="Grounding block"),
            Part(id="p3", type="amp-house-30", name="Head amplifier", setting_db=SETTING_DB),
            Part(id="p4", type="splitter-4", name="Riser splitter"),
        ]
        self.links: list[Cable] = []
        self._join("p1", 0, "p2", cable="rg11", length_m=12.0)
        self._join("p2", 0, "p3", cable="rg6", length_m=2.0)
        self._join("p3", 0, "p4", cable="rg6", length_m=1.0)

    def _join(self, start: str, port: int, end: str, *, cable: str, length_m: float) -> None:
        number = len(self.links) + 1
        self.links.append(
            Cable(
                id=f"l{number}",
                from_part=start,
                from_port=port,
                to_part=end,
                cable=cable,
                length_m=length_m,
            )
        )

    def _part(self, kind: str, name: str = "", outlet: str | None = None) -> str:
        key = f"p{len(self.parts) + 1}"
        self.parts.append(Part(id=key, type=kind, name=name, outlet=outlet))
        return key

    def riser(self, n: int, name: str) -> None:
        """One riser from the top floor down, a tap on each."""
        before, port, length_m = "p4", n, 6.0
        for floor, kind in zip(range(FLOORS, 0, -1), TAPS, strict=True):
            tap = self._part(kind, f"Tap {name}{floor}")
            self._join(before, port, tap, cable="rg11", length_m=length_m)
            before, port, length_m = tap, 0, 3.0
            for flat in range(FLATS):
                number = len(self.outlets) + 1
                self.outlets.append(
                    Outlet(
                        id=f"o{number}",
                        name=f"{name}{floor}.{flat + 1}",
                        floor=f"Riser {name}, floor {floor}",
                        satellite=False,
                    )
                )
                plate = self._part("plate", outlet=f"o{number}")
                self._join(tap, 1 + flat, plate, cable="rg6", length_m=7.0 + 3.0 * flat)
            self._join(tap, 4, self._part("terminator"), cable="rg6", length_m=0.0)
        self._join(before, 0, self._part("terminator"), cable="rg6", length_m=0.0)


SETTING_DB = 4.0
