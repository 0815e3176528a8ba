"""What a tired person types: positions, figures, orbits, survey lines."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro.core.channels import parse_frequency
from evtro.core.quantities import InputError, Quantity, parse_quantity, show, text_of
from evtro.core.site.position import parse_position, show_position
from evtro.core.sky.survey import outline_of, parse_orbit, parse_row

HERE = (53.4805, -9.9720)


@pytest.mark.parametrize(
    "text",
    [
        "53.4805 -9.9720", "53.4805, -9.9720", "53.4805,-9.9720", "53,4805; -9,9720",
        "53,4805 -9,9720", "53,4805,-9,9720", "53.4805N 9.9720W", "53.4805 N 9.9720 W",
        "N 53.4805 W 9.9720", "N53.4805, W9.9720", "9.9720 W 53.4805 N",
        "53°28'49.8\"N 9°58'19.2\"W", "53° 28′ 49.8″ N, 9° 58′ 19.2″ W", "53 28 49.8 -9 58 19.2",
        "53°28.83'N 9°58.32'W", "53:28:49.8N 9:58:19.2W", "geo:53.4805,-9.9720",
        "geo:53.4805,-9.9720,12;u=5", "  53.4805   −9.9720 ", "53.4805 350.0280",
        "53.4805 N 9.9720 O",
    ],
)  # fmt: skip
def test_positions_in_any_usual_form(text: str) -> None:
    assert parse_position(text) == pytest.approx(HERE, abs=6e-5)


@pytest.mark.parametrize(
    ("text", "code"),
    [("", "position-empty"), ("home", "position-unreadable"), ("95 10", "position-outside"),
     ("10 361", "position-outside"), ("-90.1 0", "position-outside"), ("53.4", "position-unreadable"),
     ("53 N 10 N", "position-unreadable"), ("53°61'N 9°W", "position-unreadable"),
     ("1,2,3", "position-unreadable"), ("geo:abc", "position-unreadable")],
)  # fmt: skip
def test_bad_positions_name_the_field_and_the_remedy(text: str, code: str) -> None:
    with pytest.raises(InputError) as said:
        parse_position(text)
    assert said.value.code == code
    assert said.value.field == "Position"
    assert said.value.remedy


@given(st.floats(-90, 90), st.floats(-180, 180))
def test_a_shown_position_reads_back(latitude: float, longitude: float) -> None:
    assert parse_position(show_position(latitude, longitude)) == pytest.approx(
        (latitude, longitude), abs=5.1e-5
    )


@pytest.mark.parametrize(
    ("text", "unit", "value"),
    [("3,5", "m", 3.5), ("3.5 m", "m", 3.5), ("10 km", "m", 10_000), ("12 ft", "m", 3.6576),
     ("-3", "m", -3), ("−3", "m", -3), ("1e3", "m", 1000), ("10 AWG", "mm2", 5.261),
     ("16 mm²", "mm2", 16), ("48 dBmV", "dbuv", 108), ("-50 dBm", "dbuv", 58.75),
     ("11,47 GHz", "mhz", 11_470), ("25°", "deg", 25), (".5", "db", 0.5), ("361°", "deg", 361)],
)  # fmt: skip
def test_figures_with_units(text: str, unit: str, value: float) -> None:
    assert parse_quantity(text, unit) == pytest.approx(value, rel=1e-3)  # type: ignore[arg-type]


@pytest.mark.parametrize("text", ["", "ten", "3 apples", "5..2", "1,2,3", "--4", "NaN", "inf"])
def test_what_is_no_figure_is_said(text: str) -> None:
    with pytest.raises(ValueError, match="not a"):
        parse_quantity(text, "m")


def test_frequencies_by_channel() -> None:
    assert parse_frequency("ch 36", "europe") == 594.0
    assert parse_frequency("E21", "europe") == 474.0
    assert parse_frequency("594 MHz", "europe") == 594.0
    with pytest.raises(InputError, match="not in this region"):
        parse_frequency("ch 60", "europe")


@pytest.mark.parametrize(
    ("text", "value"), [("28 E", 28), ("30.0W", -30), ("-30", -30), ("330", -30), ("12,5°E", 12.5)]
)
def test_orbits(text: str, value: float) -> None:
    assert parse_orbit(text) == value


@pytest.mark.parametrize("text", ["", "east", "400E", "28 N"])
def test_bad_orbits(text: str) -> None:
    with pytest.raises(InputError, match="Orbit position"):
        parse_orbit(text)


def test_survey_lines() -> None:
    assert parse_row("barn 212 224 11") == {
        "name": "barn", "from_deg": 212, "to_deg": 224, "outline": "gable", "top_deg": 11,
    }  # fmt: skip
    far = parse_row("Row of old oaks 148-171 8,5m at 40 m")
    assert (far["above_m"], far["distance_m"], far["outline"]) == (8.5, 40, "crowns")
    assert parse_row("mill 10 20 12 at 100ft")["distance_m"] == pytest.approx(30.48)
    assert outline_of("water tower") == "block"


@pytest.mark.parametrize("line", ["barn", "barn 212", "212 224", "barn 212 224", "barn 361 380 4"])
def test_bad_survey_lines(line: str) -> None:
    with pytest.raises(InputError):
        parse_row(line)


def test_quantities_in_the_units_in_force() -> None:
    assert show(Quantity(3.048, "m")) == "3.0 m"
    assert show(Quantity(3.048, "m"), "us") == "10.0 ft"
    assert show(Quantity(5.26, "mm2"), "us") == "10 AWG"
    assert show(Quantity(60.0, "dbuv"), level="dbmv") == "0.0 dBmV"
    assert show(Quantity(-0.04, "db")) == "0.0 dB"
    assert text_of(("Raise ", Quantity(1.4, "m"))) == "Raise 1.4 m"


@pytest.mark.parametrize(
    ("text", "value"),
    [("11 727,48", 11_727.48), ("11\u00a0727.48 MHz", 11_727.48), ("11\u202f727", 11_727.0),
     ("11 727 480 kHz", 11_727.48), ("11.72748 GHz", 11_727.48)],
)  # fmt: skip
def test_thousands_may_be_parted_by_a_space(text: str, value: float) -> None:
    assert parse_quantity(text, "mhz") == pytest.approx(value)


@pytest.mark.parametrize("text", ["11 72", "1 1727", "11 7274", "11  727"])
def test_two_figures_are_not_one(text: str) -> None:
    with pytest.raises(ValueError, match="not a unit that fits"):
        parse_quantity(text, "mhz")
