"""Sentences with quantities in their places."""

from __future__ import annotations

import pytest

from evtro.core.units.phrases import listed, say
from evtro.core.units.quantities import SHOWN, Quantity, show, text_of, unit_table
from evtro.core.units.wire import awg_to_mm2, wire_name, wire_sizes

TEN = Quantity(10.0, "m", 0)


def test_figures_stand_in_their_places_and_follow_the_units() -> None:
    said = say("From {} to {}, {}.", TEN, (Quantity(20.0, "m", 0), " or so"), "as seen")
    assert said == ("From ", TEN, " to ", Quantity(20.0, "m", 0), " or so, as seen.")
    assert text_of(said) == "From 10 m to 20 m or so, as seen."
    assert text_of(said, "us") == "From 33 ft to 66 ft or so, as seen."
    assert listed([said, "b", ()], "; ")[-1] == " or so, as seen.; b; "
    assert listed([]) == ()


@pytest.mark.parametrize("figures", [(), (TEN, TEN)])
def test_a_figure_too_few_or_too_many_is_no_sentence(figures: tuple[Quantity, ...]) -> None:
    with pytest.raises(ValueError, match="for 1 places"):
        say("at {} m", *figures)


def test_the_table_of_the_client_is_the_cores_own() -> None:
    table = unit_table()
    assert set(table["names"]) == set(SHOWN)  # type: ignore[call-overload]
    for unit, (size, name, digits) in table["us"].items():  # type: ignore[attr-defined]
        one = show(Quantity(size, unit, digits or 0), "us")
        assert one.split()[0].startswith("1")
        assert one.endswith(name)


def test_a_wire_is_the_nearest_size_that_is_one() -> None:
    sizes = dict(wire_sizes())
    assert sizes["10 AWG"] == pytest.approx(5.261, abs=0.001)  # ASTM B258, from memory
    assert sizes["4/0 AWG"] == pytest.approx(107.2, abs=0.05)
    assert sizes["500 kcmil"] == pytest.approx(253.4, abs=0.1)
    for name, area in sizes.items():
        assert wire_name(area) == name
    assert wire_name((awg_to_mm2(10) * awg_to_mm2(9)) ** 0.5) is None
    assert wire_name(0.0) is None
