"""What is refused says figures as quantities, beside its words in metric units."""

from __future__ import annotations

import pytest
from pydantic import ValidationError

from evtro.core.job import Cable, Mast
from evtro.core.job.words import in_words
from evtro.core.units.quantities import InputError, Quantity, text_of


def _refused(**values: object) -> InputError:
    with pytest.raises(ValidationError) as told:
        Mast.model_validate(values)
    return in_words(told.value, Mast)[0]


def test_bounds_are_told_in_the_units_of_whoever_reads() -> None:
    error = _refused(length_m=152.4)
    assert (error.reason, error.remedy) == (
        "152.4 m is too large.",
        "It may be at most 40 m. Check unit and decimal point.",
    )
    reason, remedy = error.said
    assert reason[0] == Quantity(152.4, "m", 1)
    assert text_of(reason, "us") == "500.0 ft is too large."
    assert text_of(remedy, "us").startswith("It may be at most 131 ft.")
    least = _refused(length_m=0.1)
    assert least.remedy == "It must be at least 0.2 m."
    assert text_of(least.said[1], "us") == "It must be at least 0.7 ft."
    # A field that is put in place keeps the quantities.
    assert error.at("Tube").said == error.said


@pytest.mark.parametrize(
    ("value", "words"),
    [
        ("x", "“x” is not a number."),
        (1e160, "1e+160 m is too large."),
        (10**400, "a number of hundreds of figures"),
        (float("nan"), "is not a number"),
    ],
)
def test_what_is_no_figure_is_told_as_it_was_typed(value: object, words: str) -> None:
    with pytest.raises(ValidationError) as told:
        Cable.model_validate(
            {"id": "l1", "from_part": "p1", "to_part": "p2", "cable": "rg6", "length_m": value}
        )
    assert words in in_words(told.value, Cable)[0].reason


def test_half_a_character_is_told_back_as_text() -> None:
    error = InputError("Name", ("\ud800 is no text ", Quantity(1.0, "m", 0)), "Type it \ud800.")
    assert error.reason == "? is no text 1 m"
    assert error.said[1] == ("Type it ?.",)
