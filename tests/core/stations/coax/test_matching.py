"""Open ports, steps between impedances, echoes and isolation, on plants of one's own."""

from __future__ import annotations

import numpy as np
import pytest

from evtro import catalogue, profiles
from evtro.core.job import Cable, Job, Part
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.fixes.search import find_fixes
from evtro.core.stations.coax.views.answer import CoaxAnswer
from evtro.core.stations.coax.views.answer import work_out as coax_of
from evtro.core.units.quantities import text_of
from tests.changes import taken
from tests.core.stations.coax.test_checks import house

CATALOGUE = catalogue.load()
EUROPE = profiles.load("europe")


def _answer(job: Job) -> CoaxAnswer:
    return coax_of(NetworkContext(job, CATALOGUE, EUROPE))


def _codes(job: Job) -> dict[str, str]:
    return {p.code: p.state for p in _answer(job).problems}


def _ripple(job: Job) -> float:
    found = _answer(job)
    return float(np.nanmax(found.outlets[0].judged.ripple_db))


def _with(job: Job, **changes: object) -> Job:
    return job.model_copy(update=changes)


def test_open_ports_lift_and_lower_and_caps_stop_it() -> None:
    job = house("splitter-8", metres=15)
    caps = [Part(id=f"p{20 + n}", type="terminator") for n in range(7)]
    lines = [
        Cable(
            id=f"l{20 + n}",
            from_part="p2",
            from_port=n + 1,
            to_part=c.id,
            cable="rg6",
            length_m=0.0,
        )
        for n, c in enumerate(caps)
    ]
    capped = _with(job, parts=(*job.parts, *caps), links=(*job.links, *lines))
    assert _ripple(job) > _ripple(capped) + 0.5
    assert "open-port" in _codes(job)
    assert "open-port" not in _codes(capped)


def test_the_cap_of_an_echo_is_among_what_cures_it() -> None:
    """Seven open ports of a splitter of eight, under a limit that they just miss."""
    job = house("splitter-8", metres=15)
    strict = EUROPE.model_copy(update={"ripple_db": _ripple(job) - 0.2})
    found = coax_of(NetworkContext(job, CATALOGUE, strict))
    problem = next(p for p in found.problems if p.code == "echo")
    assert "open port" in text_of(problem.remedy)
    offered = find_fixes(NetworkContext(job, CATALOGUE, strict), code="echo", ref=problem.ref or "")
    assert any("Cap the open ports" in text_of(c.do) for c in offered.fixes)


@pytest.mark.parametrize(("cable", "state"), [("rg58", "marginal"), ("twin-300", "fail")])
def test_a_cable_of_another_impedance_is_told_and_exchanged(cable: str, state: str) -> None:
    job = house("attenuator", metres=12)
    links = (*job.links[:-1], job.links[-1].model_copy(update={"cable": cable}))
    wrong = _with(job, links=links)
    problem = next(p for p in _answer(wrong).problems if p.code == "impedance")
    assert problem.state == state
    assert problem.change is not None
    mended = taken(wrong, problem.change)
    old, new = (CATALOGUE.loss_of_cables_db[j.links[-1].cable] for j in (wrong, mended))
    assert new <= old, "the right impedance costs no level"
    assert "impedance" not in _codes(mended)
    assert _ripple(wrong) > _ripple(mended)


def test_twin_lead_and_a_balun_are_a_right_way_in() -> None:
    """An antenna of 300 ohm, its lead, a balun: nothing to say; the same on coax alone is out."""
    job = house("balun-300", metres=12)
    parts = tuple(
        p.model_copy(update={"type": "antenna-300"}) if p.antenna else p for p in job.parts
    )
    feed = job.links[0].model_copy(update={"cable": "twin-300"})
    right = _with(job, parts=parts, links=(feed, *job.links[1:]))
    assert "impedance" not in _codes(right)
    assert _codes(_with(right, links=job.links))["impedance"] == "fail"


def test_outlets_that_hear_each_other_are_told_with_what_lies_between() -> None:
    """By hand: two plates of 1 dB on half a metre at a splitter of 20 dB between its outputs."""
    job = house("splitter-2", metres=0.5, channels=(862.0,))
    near = job.outlets[0].model_copy(update={"id": "o2", "name": "Hall"})
    two = _with(
        job,
        outlets=(*job.outlets, near),
        parts=(*job.parts, Part(id="p9", type="plate", outlet="o2")),
        links=(
            *job.links,
            job.links[-1].model_copy(update={"id": "l9", "from_port": 1, "to_part": "p9"}),
        ),
    )
    problem = next(p for p in _answer(two).problems if p.code == "isolation")
    cable = 2 * float(CATALOGUE.cables["rg6"].loss_db(0.5, 862.0))
    assert problem.gauge is not None
    assert problem.gauge.value == pytest.approx(20.0 + 2.0 + cable, abs=0.02)
    assert "Hall" in problem.place
