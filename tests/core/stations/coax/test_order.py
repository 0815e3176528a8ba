"""What stands where in the run, on plants that break a rule and on ones that keep it."""

from __future__ import annotations

import pytest

from evtro import catalogue, profiles
from evtro.core.job import Job
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.fixes.search import find_fixes
from evtro.core.units.quantities import text_of
from tests.changes import taken

from .test_checks import answer, house
from .test_regressions import harmed

CATALOGUE = catalogue.load()
EUROPE = profiles.load("europe")


def _codes(job: Job) -> dict[str, str]:
    return {p.code: p.state for p in answer(job).problems}


@pytest.mark.parametrize(("metres", "late"), [(4.0, False), (60.0, True)])
def test_a_preamplifier_after_a_long_cable(metres: float, late: bool) -> None:
    job = house("preamp-13", "inserter-12", metres=4.0, extra_db=12)
    links = tuple(
        k.model_copy(update={"length_m": metres}) if k.id == "l1" else k for k in job.links
    )
    job = job.model_copy(update={"links": links})
    assert (_codes(job).get("amp-late") == "marginal") == late
    if not late:
        return
    problem = next(p for p in answer(job).problems if p.code == "amp-late")
    found = find_fixes(
        NetworkContext(job, CATALOGUE, EUROPE), code="amp-late", ref=problem.ref or ""
    )
    assert "under Array" in text_of(found.fixes[0].do)
    moved = taken(job, found.fixes[0].change)
    assert "amp-late" not in _codes(moved)
    assert not harmed(answer(job), answer(moved))
    # What the cable took is back in the quality.
    margins = [min(a.outlets[0].judged.margin_db[0]) for a in (answer(job), answer(moved))]
    assert margins[1] > margins[0] + 5


@pytest.mark.parametrize(("count", "told"), [(1, False), (2, False), (3, True), (4, True)])
def test_splitters_one_behind_another(count: int, told: bool) -> None:
    job = house(*["splitter-2"] * count, erp_kw=50)
    assert ("splitters-in-line" in _codes(job)) == told
    if told:
        problem = next(p for p in answer(job).problems if p.code == "splitters-in-line")
        assert text_of(problem.title).startswith(f"{count} splitters")
        assert problem.outlets == ("o1",)


def test_a_knob_turned_further_than_it_goes() -> None:
    job = house("preamp-13", "inserter-12")
    far = job.model_copy(
        update={
            "parts": tuple(
                p.model_copy(update={"setting_db": 14.0}) if p.type == "preamp-13" else p
                for p in job.parts
            )
        }
    )
    assert _codes(far)["setting-range"] == "fail"
    near = job.model_copy(
        update={
            "parts": tuple(
                p.model_copy(update={"setting_db": 10.0}) if p.type == "preamp-13" else p
                for p in job.parts
            )
        }
    )
    assert "setting-range" not in _codes(near)


def test_an_inserter_that_feeds_nothing_is_surplus() -> None:
    assert _codes(house("inserter-12"))["idle-supply"] == "marginal"
    assert "idle-supply" not in _codes(house("preamp-13", "inserter-12"))
    # One that waits for a part in the dark is told there.
    assert "idle-supply" not in _codes(house("preamp-13", "splitter-2", "inserter-12"))
