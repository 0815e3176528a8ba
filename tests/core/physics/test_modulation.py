"""How late an echo may come that a receiver makes good, by system and by symbol."""

from __future__ import annotations

import pytest

from evtro.core.physics.modulation import ECHO_SYMBOLS, MODULATIONS, tolerated_echo_us

OF = {m.system: m.code for m in MODULATIONS.values()}


@pytest.mark.parametrize(
    ("system", "microseconds"),
    # EN 300 744: the shortest guard interval of an 8 MHz channel, 2k and 1/32, is 7 µs. The others are typical
    # values, no published source.
    [("DVB-T", 7.0), ("DVB-T2", 7.0), ("ATSC", 10.0), ("DTMB", 50.0), ("DVB-C", 1.0)],
)
@pytest.mark.parametrize("bandwidth_mhz", [1.5, 6.0, 8.0])
def test_a_terrestrial_receiver_makes_good_what_its_guard_interval_holds(
    system: str, microseconds: float, bandwidth_mhz: float
) -> None:
    assert tolerated_echo_us(OF[system], bandwidth_mhz) == microseconds


@pytest.mark.parametrize(("symbols_m", "microseconds"), [(30.0, 0.1), (3.0, 1.0), (0.5, 6.0)])
def test_a_satellite_receiver_makes_good_some_symbols(
    symbols_m: float, microseconds: float
) -> None:
    """Three symbols of so many million a second last three over the rate."""
    assert ECHO_SYMBOLS == 3
    assert tolerated_echo_us(OF["DVB-S2"], symbols_m) == pytest.approx(microseconds)


def test_an_unknown_modulation_makes_good_nothing() -> None:
    assert tolerated_echo_us("none of these", 8.0) == 0
