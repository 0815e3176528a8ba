"""Own sheets: what is typed from a data sheet, in any of the ways that people type it."""

from __future__ import annotations

import datetime as dt

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro import catalogue
from evtro.core.job.parts import CableType, PartType
from evtro.core.units.quantities import InputError
from evtro.core.workshop import copied, data_of, lines_of, retyped, shop_with
from evtro.core.workshop.lines import curve_of, text_of_curve
from tests.refusals import refused

GENERIC = catalogue.load()
DAY = dt.date(2026, 11, 27)


@pytest.mark.parametrize(
    "text",
    [
        "950 3.2; 2150 6",
        "950 3,2; 2150 6",
        "2150 6\n950 3.2",
        "950 MHz 3.2 dB, 2150 MHz 6 dB",
        "950:3.2 | 2150:6",
        "950MHz 3.2dB; 2150MHz 6.0dB",
        "950=3,2;2150=6,0;",
    ],
)
def test_a_curve_as_people_type_it(text: str) -> None:
    assert curve_of(text) == ((950.0, 3.2), (2150.0, 6.0))


@pytest.mark.parametrize(
    ("text", "word"),
    [
        ("", "no points"),
        ("950", "no frequency with its figure"),
        ("950 3.2 4", "no frequency"),
        ("950 3; 950 4", "two figures"),
        ("low 3; 950 4", "no frequency"),
    ],
)
def test_a_curve_that_cannot_be_read(text: str, word: str) -> None:
    with pytest.raises(InputError, match=word):
        curve_of(text)


def test_losses_are_typed_without_a_sign_and_gains_with_theirs() -> None:
    splitter = data_of(GENERIC, "part", "splitter-2")
    for text in ("5 3.4; 2150 5.9", "5 -3.4; 2150 -5.9"):
        new = retyped("part", splitter, "paths.0.gain_db", text)
        assert isinstance(new, PartType)
        assert new.paths[0].gain_db == ((5.0, -3.4), (2150.0, -5.9))
    with refused("unreadable", "some losses have a sign"):
        retyped("part", splitter, "paths.0.gain_db", "5 -3.4; 2150 5.9")
    amp = data_of(GENERIC, "part", "preamp-13")
    louder = retyped("part", amp, "paths.0.gain_db", "470 14; 700 -2")
    assert isinstance(louder, PartType)
    assert louder.paths[0].gain_db == ((470.0, 14.0), (700.0, -2.0))
    # Nothing is told beyond the points of a sheet.
    assert louder.range_mhz == (470.0, 700.0)
    assert float(louder.paths[0].gain_at(800.0)) == -1000.0


def test_a_figure_in_another_unit_and_wrong_ones_by_their_line() -> None:
    amp = data_of(GENERIC, "part", "amp-house-20")
    new = retyped("part", amp, "paths.0.rated_output_dbuv", "50 dBmV")
    assert isinstance(new, PartType)
    assert new.paths[0].rated_output_dbuv == pytest.approx(110.0)
    with pytest.raises(InputError) as caught:
        retyped("part", amp, "paths.0.noise_figure_db", "loud")
    assert "noise figure" in caught.value.field
    with refused("row-missing", "no “paths"):
        retyped("part", amp, "paths.9.gain_db", "5 1")


@given(
    st.floats(0.2, 2.0),
    st.floats(0.0, 0.002),
    st.lists(st.integers(40, 2200), min_size=2, max_size=9, unique=True),
)
def test_a_cables_points_give_back_its_curve(a: float, b: float, waves: list[int]) -> None:
    """Points of a√f + bf, rounded to a hundredth as a sheet does."""
    points = "; ".join(f"{f} {a * f**0.5 + b * f:.2f}" for f in waves)
    cable = retyped("cable", data_of(GENERIC, "cable", "rg6"), "points", points)
    assert isinstance(cable, CableType)
    f = np.array(waves, float)
    assert np.allclose(cable.loss_db(100, f), a * np.sqrt(f) + b * f, atol=0.06)


def test_points_that_no_cable_has_are_refused_by_the_worst_of_them() -> None:
    with pytest.raises(InputError, match="at 800 MHz"):
        retyped(
            "cable", data_of(GENERIC, "cable", "rg6"), "points", "100 6; 400 12.5; 800 30; 2150 30"
        )


def test_a_copy_has_its_own_name_and_key_and_only_what_is_typed_is_own() -> None:
    sheet = copied(GENERIC, "part", "splitter-2", "Splitter, bench sheet", DAY)
    assert sheet.key not in GENERIC.parts
    shop = shop_with(GENERIC, [sheet])
    assert shop.parts[sheet.key].paths == GENERIC.parts["splitter-2"].paths
    data = retyped("part", sheet.data, "paths.0.gain_db", "5 3.3; 2150 5")
    own = {line.field for line in lines_of(data, GENERIC.parts["splitter-2"]) if line.own}
    assert own == {"name", "paths.0.gain_db"}
    with refused("name-taken"):
        copied(shop, "part", "splitter-4", "splitter, BENCH sheet", DAY)
    again = copied(shop, "part", "splitter-2", "Splitter bench-sheet", DAY)
    assert again.key not in shop.parts


@pytest.mark.parametrize("shelf", ["part", "cable", "array"])
def test_every_line_of_every_sheet_can_be_typed_as_it_stands(shelf: str) -> None:
    """Typed over with its own text it stays what it is."""
    rows = {"part": GENERIC.parts, "cable": GENERIC.cables, "array": GENERIC.antennas}[shelf]
    for data in rows.values():
        for line in lines_of(data, data):
            assert not line.own
            text = (
                line.text
                if line.unit is None
                else ""
                if line.value is None
                else f"{line.value:.10g}"
            )
            same = retyped(shelf, data, line.field, text)  # type: ignore[arg-type]
            if line.field == "points":
                assert isinstance(same, CableType)
                assert np.allclose(
                    same.loss_db(100, [50.0, 2150.0]), data.loss_db(100, [50.0, 2150.0]), atol=0.05
                )  # type: ignore[union-attr]
            elif line.field.endswith(".gain_db"):
                n = int(line.field.split(".")[1])
                assert np.allclose(same.paths[n].gain_db, data.paths[n].gain_db, atol=0.006)  # type: ignore[union-attr]
            else:
                assert same == data, line.field


def test_a_cable_is_told_by_its_loss_in_a_hundred_metres() -> None:
    """a sqrt(f) + b f by hand: a = 1, b = 0.002 lose 7.17, 14.54, 31.05 and 50.67 dB at the four frequencies."""
    cable = data_of(GENERIC, "cable", "rg6").model_copy(update={"a": 1.0, "b": 0.002})
    assert text_of_curve(cable, "points") == "50 7.17; 200 14.54; 860 31.05; 2150 50.67"


def test_losses_are_told_without_a_sign_and_gains_with_theirs() -> None:
    splitter = data_of(GENERIC, "part", "splitter-2")
    assert isinstance(splitter, PartType)
    flat = splitter.paths[0].model_copy(update={"gain_db": ((5.0, -3.5), (2150.0, -6.0))})
    told = splitter.model_copy(update={"paths": (flat, *splitter.paths[1:])})
    assert text_of_curve(told, "paths.0.gain_db") == "5 3.5; 2150 6"
    amp = data_of(GENERIC, "part", "preamp-13")
    assert isinstance(amp, PartType)
    louder = amp.paths[0].model_copy(update={"gain_db": ((470.0, 14.0), (700.0, -2.25))})
    told = amp.model_copy(update={"paths": (louder, *amp.paths[1:])})
    assert text_of_curve(told, "paths.0.gain_db") == "470 14; 700 -2.25"
    assert text_of_curve(told, "paths.0.none_of_these") == ""
