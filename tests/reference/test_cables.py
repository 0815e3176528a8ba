"""Loss of the generic cables against the table of their class: ANSI/SCTE 74, maximum attenuation at
20 °C in dB for 100 ft (from memory)."""

from __future__ import annotations

import pytest

from evtro import catalogue

CABLES = catalogue.load().cables
IN_100_M = 100 / 30.48
MHZ = (55.0, 211.0, 250.0, 300.0, 400.0, 450.0, 550.0, 750.0, 865.0, 1000.0)
TABLE = {
    "rg59": (2.05, 3.80, 4.10, 4.45, 5.10, 5.40, 5.95, 6.97, 7.52, 8.12),
    "rg6": (1.60, 3.05, 3.30, 3.55, 4.15, 4.40, 4.90, 5.65, 6.10, 6.55),
    "rg11": (0.96, 1.90, 2.05, 2.25, 2.60, 2.75, 3.04, 3.65, 3.98, 4.35),
}


@pytest.mark.parametrize("key", sorted(TABLE))
def test_the_generic_cables_lose_what_their_class_does(key: str) -> None:
    for mhz, told in zip(MHZ, TABLE[key], strict=True):
        ours = float(CABLES[key].loss_db(100.0, mhz))
        assert ours == pytest.approx(told * IN_100_M, rel=0.06, abs=0.6), (key, mhz)


def test_copper_clad_steel_carries_the_same_signal_and_less_current() -> None:
    steel, copper = CABLES["rg6ccs"], CABLES["rg6"]
    assert steel.loss_db(100.0, 862.0) == copper.loss_db(100.0, 862.0)
    assert steel.loop_ohm_km > 2 * copper.loop_ohm_km
