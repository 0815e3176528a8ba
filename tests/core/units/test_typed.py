"""What a tired person types: positions, figures, orbits, survey lines."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro.core.physics.channels import parse_frequency
from evtro.core.stations.site.position import read_position, show_position
from evtro.core.stations.sky.survey import outline_of, parse_orbit, parse_row
from evtro.core.units.figures import read_figure, readings
from evtro.core.units.quantities import InputError, Quantity, show, text_of
from tests.refusals import refused

HERE = (53.4805, -9.9720)


def place(text: str) -> tuple[float, float]:
    found = read_position(text)
    return found.latitude_deg, found.longitude_deg


@pytest.mark.parametrize(
    "text",
    [
        "53.4805 -9.9720",
        "53.4805, -9.9720",
        "53.4805,-9.9720",
        "53,4805; -9,9720",
        "53,4805 -9,9720",
        "53,4805,-9,9720",
        "53.4805N 9.9720W",
        "53.4805 N 9.9720 W",
        "N 53.4805 W 9.9720",
        "N53.4805, W9.9720",
        "9.9720 W 53.4805 N",
        "53°28'49.8\"N 9°58'19.2\"W",
        "53° 28′ 49.8″ N, 9° 58′ 19.2″ W",
        "53 28 49.8 -9 58 19.2",
        "53°28.83'N 9°58.32'W",
        "53:28:49.8N 9:58:19.2W",
        "geo:53.4805,-9.9720",
        "geo:53.4805,-9.9720,12;u=5",
        "  53.4805   −9.9720 ",
        "53.4805 350.0280",
    ],
)
def test_positions_in_any_usual_form(text: str) -> None:
    assert place(text) == pytest.approx(HERE, abs=6e-5)


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("", "position-empty"),
        ("home", "position-unreadable"),
        ("95 10", "position-outside"),
        ("10 361", "position-outside"),
        ("-90.1 0", "position-outside"),
        ("53.4", "position-unreadable"),
        ("53 N 10 N", "position-unreadable"),
        ("53°61'N 9°W", "position-unreadable"),
        ("1,2,3", "position-unreadable"),
        ("geo:abc", "position-unreadable"),
    ],
)
def test_bad_positions_name_the_field_and_the_remedy(text: str, code: str) -> None:
    with pytest.raises(InputError) as said:
        read_position(text)
    assert said.value.code == code
    assert said.value.field == "Position"
    assert said.value.remedy


@given(st.floats(-90, 90), st.floats(-180, 180))
def test_a_shown_position_reads_back(latitude: float, longitude: float) -> None:
    assert place(show_position(latitude, longitude)) == pytest.approx(
        (latitude, longitude), abs=5.1e-5
    )


@pytest.mark.parametrize(
    ("text", "unit", "value"),
    [
        ("3,5", "m", 3.5),
        ("3.5 m", "m", 3.5),
        ("10 km", "m", 10_000),
        ("12 ft", "m", 3.6576),
        ("-3", "m", -3),
        ("−3", "m", -3),
        ("1e3", "m", 1000),
        ("10 AWG", "mm2", 5.261),
        ("16 mm²", "mm2", 16),
        ("48 dBmV", "dbuv", 108),
        ("-50 dBm", "dbuv", 58.75),
        ("11,47 GHz", "mhz", 11_470),
        ("25°", "deg", 25),
        (".5", "db", 0.5),
        ("361°", "deg", 361),
    ],
)
def test_figures_with_units(text: str, unit: str, value: float) -> None:
    assert read_figure(text, unit) == pytest.approx(value, rel=1e-3)  # type: ignore[arg-type]


@pytest.mark.parametrize("text", ["", "ten", "3 apples", "5..2", "1,2,3", "--4", "NaN", "inf"])
def test_what_is_no_figure_is_said(text: str) -> None:
    with pytest.raises(ValueError, match="not a"):
        read_figure(text, "m")


def test_frequencies_by_channel() -> None:
    assert parse_frequency("ch 36", "europe") == 594.0
    assert parse_frequency("E21", "europe") == 474.0
    assert parse_frequency("594 MHz", "europe") == 594.0
    with refused("channel-not-in-table"):
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
        "name": "barn",
        "from_deg": 212,
        "to_deg": 224,
        "outline": "gable",
        "top_deg": 11,
    }
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
    [
        ("11 727,48", 11_727.48),
        ("11\u00a0727.48 MHz", 11_727.48),
        ("11\u202f727", 11_727.0),
        ("11 727 480 kHz", 11_727.48),
        ("11.72748 GHz", 11_727.48),
    ],
)
def test_thousands_may_be_parted_by_a_space(text: str, value: float) -> None:
    assert read_figure(text, "mhz") == pytest.approx(value)


@pytest.mark.parametrize("text", ["11 72", "1 1727", "11 7274", "11  727"])
def test_two_figures_are_not_one(text: str) -> None:
    with pytest.raises(ValueError, match="not a unit that fits"):
        read_figure(text, "mhz")


@pytest.mark.parametrize(
    ("text", "value"),
    [
        # A letter behind the minutes is a side, not the mark of seconds.
        ("40 30.00N 3 42.00W", (40.5, -3.7)),
        ("34 12S 18 25.2E", (-34.2, 18.42)),
        ("34 12 30s 18 25 12e", (-34.208333, 18.42)),
        ("N40.5E12.1", (40.5, 12.1)),
        ("40 deg 30 min N 3 deg 42 min W", (40.5, -3.7)),
        ("40d30m36s N 3d42m0s W", (40.51, -3.7)),
        ("North 40 30, West 3 42", (40.5, -3.7)),
        ("53 28.5 -9 58.5", (53.475, -9.975)),
        ('40° 36" N 3°W', (40.01, -3.0)),
        ("-34.2 S 18.4 E", (-34.2, 18.4)),
    ],
)
def test_letters_words_and_signs_say_the_side(text: str, value: tuple[float, float]) -> None:
    assert place(text) == pytest.approx(value, abs=1e-6)


@pytest.mark.parametrize(
    ("text", "choices"),
    [
        ("53.4805 N 9.9720 O", ("53.4805 N 9.9720 E", "53.4805 N 9.9720 W")),
        ("30S 440000 4000000", ("36.142861 -3.666923", "-54.144601 -3.918537")),
        ("40,5", ("40 5",)),
    ],
)
def test_what_has_two_readings_is_asked(text: str, choices: tuple[str, ...]) -> None:
    with pytest.raises(InputError) as said:
        read_position(text)
    assert (said.value.code, said.value.choices) == ("two-readings", choices)
    for choice in said.value.choices:
        read_position(choice)


@pytest.mark.parametrize(
    "text",
    [
        "-34 N 18 E",
        "+34 S 18 E",
        "34 12m30s 18",
        "34d12m30s 18d25m10",
        "40.5 30 N 3 W",
        "N 40 S 3",
        "9G8F+6X",
        "8FVC9G8F+U",
        "30TVK123",
        "61T 440000 4474000",
        "30T 440000 9474000",
        "30T 44 4474000",
        "53°28 70'N 9W",
        "N 40",
        "40 30",
        "ten degrees",
        "53.4805 9.9720 W 3",
    ],
)
def test_what_contradicts_itself_is_refused(text: str) -> None:
    if text == "40 30":
        assert read_position(text).good_to_m > 50_000  # two whole degrees
        return
    with pytest.raises(InputError) as said:
        read_position(text)
    assert said.value.field == "Position"
    assert said.value.remedy


@pytest.mark.parametrize(
    ("text", "good_to_m"),
    [
        ("51°30' 0°7'W", 1091),
        ("51 0", 65_700),
        ("53.4805 -9.9720", 6.5),
        ("geo:53.40000,-9.90000;u=5", 5),
        ("geo:53.4,-9.9;u=5", 6481),
        ("53°28'49\"N 9°58'19\"W", 18),
        ("30TVK4074", 707),
        ("8FVC9G8F+6X", 8.4),
        ("53.5, -10", 33_250),
    ],
)
def test_how_good_a_position_is_follows_from_what_was_typed(text: str, good_to_m: float) -> None:
    assert read_position(text).good_to_m == pytest.approx(good_to_m, rel=0.02)


@pytest.mark.parametrize(
    ("text", "unit", "value"),
    [
        ("00 AWG", "mm2", 67.43),
        ("0000 AWG", "mm2", 107.2),
        ("2/0 AWG", "mm2", 67.43),
        ("AWG 10", "mm2", 5.261),
        ("#10 AWG", "mm2", 5.261),
        ("350 kcmil", "mm2", 177.3),
        ("6ft2in", "m", 1.8796),
        ("6ft2", "m", 1.8796),
        ("AWG2", "mm2", 33.6308),
        ("12' 6\"", "m", 3.81),
        ("12'-6\"", "m", 3.81),
        ("12 ft 6 1/2 in", "m", 3.8227),
        ("6″", "m", 0.1524),
        ('1/2"', "mm", 12.7),
        ("3/16 in", "mm", 4.7625),
        ("3½ in", "mm", 88.9),
        ("3 m 20 cm", "m", 3.2),
        ("12°30'", "deg", 12.5),
        ("–3", "m", -3),
        ("—3 m", "m", -3),
        ("84 dBμV", "dbuv", 84),
        ("84 dBµV", "dbuv", 84),
        ("5 feet", "m", 1.524),
        ("10 ft·lb", "nm", 13.558),
        ("10 ft-lb", "nm", 13.558),
        ("27 knots", "ms", 13.89),
        ("60 mph", "ms", 26.82),
        ("3 dBd", "dbi", 5.15),
        ("1 mW", "kw", 1e-6),
        ("1 MW", "kw", 1000),
        ("250 W", "kw", 0.25),
        ("27500 kS/s", "msym", 27.5),
        ("5 sq ft", "m2", 0.46452),
        ("20 psf", "pa", 957.6),
        ("1,234.5", "m", 1234.5),
        ("1.234,5", "m", 1234.5),
        ("212 T", "deg_true", 212),
    ],
)
def test_units_of_both_worlds(text: str, unit: str, value: float) -> None:
    assert read_figure(text, unit) == pytest.approx(value, rel=1e-3)  # type: ignore[arg-type]


def test_the_field_decides_between_thousands_and_decimals() -> None:
    assert read_figure("2,400 ft", "m", 100, 5000) == pytest.approx(731.52)
    assert read_figure("2,400 ft", "m", 0, 100) == pytest.approx(0.73152)
    assert read_figure("11,727", "mhz", 30, 32_000) == 11_727
    assert read_figure("0,850", "m", 0, 5000) == 0.85
    with pytest.raises(InputError) as said:
        read_figure("2,400 m", "m", 0, 5000)
    assert said.value.choices == ("2.4 m", "2400 m")


def test_a_compass_bearing_is_turned_or_refused() -> None:
    assert read_figure("212°M", "deg_true", 0, 360, lambda: 3.3) == pytest.approx(215.3)
    assert read_figure("358 mag", "deg_true", 0, 360, lambda: 3.3) == pytest.approx(1.3)
    for text, unit in (("212°M", "deg_true"), ("24°M", "deg"), ("24°T", "deg")):
        with refused("unreadable", "north"):
            read_figure(text, unit)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("text", "unit"),
    [
        ("-1 AWG", "mm2"),
        ("41 AWG", "mm2"),
        ("AWG", "mm2"),
        ("1 mw", "kw"),
        ("12' 13\"", "m"),
        ("1.5' 3\"", "m"),
        ("12°61'", "deg"),
        ("1/0", "m"),
        ("10-12 m", "m"),
        ("5 -", "m"),
        ("3 kg", "m"),
        ("1e400", "m"),
        ("9" * 201, "m"),
        ("12 3", "m"),
        ("2.400.00", "m"),
        ("1,23,456", "m"),
    ],
)
def test_what_is_no_such_figure_is_refused(text: str, unit: str) -> None:
    with pytest.raises(InputError) as said:
        read_figure(text, unit)  # type: ignore[arg-type]
    assert said.value.remedy


def test_wire_sizes_are_shown_as_they_are_called() -> None:
    assert show(Quantity(67.43, "mm2"), "us") == "2/0 AWG"
    assert show(Quantity(107.2, "mm2"), "us") == "4/0 AWG"
    assert show(Quantity(16.0, "mm2", 0), "us") == "16.0 mm²"  # between 6 and 5 AWG: no such wire
    assert show(Quantity(253.4, "mm2"), "us") == "500 kcmil"


@pytest.mark.parametrize("text", ["28.2O", "28.2 o"])
def test_an_orbit_with_an_o_is_asked(text: str) -> None:
    with pytest.raises(InputError) as said:
        parse_orbit(text)
    assert len(said.value.choices) == 2


@pytest.mark.parametrize("text", ["-30 E", "+30 W"])
def test_an_orbit_whose_sign_and_letter_disagree_is_refused(text: str) -> None:
    with refused("orbit-unreadable", "disagree"):
        parse_orbit(text)


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("1,234.5e1", 12_345.0),
        ("1.234,5e-1", 123.45),
        ("12,345,678e-3", 12_345.678),
        ("1.234.567e-2", 12_345.67),
        ("2 1/2", 2.5),
        ("1,5e2", 150.0),
    ],
)
def test_a_power_of_ten_moves_a_figure_whose_thousands_are_parted(text: str, value: float) -> None:
    assert readings(text) == [pytest.approx(value, rel=1e-12)]


def test_a_power_of_ten_moves_both_readings() -> None:
    assert readings("1,234e2") == [pytest.approx(123.4), pytest.approx(123_400.0)]
