"""A fix that Coax offers is tried at every outlet before it is offered: taken, it leaves no figure of
any other in a worse state, and none that is out already further out."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro import profiles
from evtro.core.job import Job, Part
from evtro.core.job.changes import Set
from evtro.core.network.solve import Alteration
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.fixes import trials
from evtro.core.stations.coax.levels.outlets import Judged
from evtro.core.stations.coax.views.answer import CoaxAnswer, work_out
from evtro.core.units.quantities import text_of
from evtro.core.units.severity import FAIL
from evtro.demo.world import demo_jobs
from tests.changes import CATALOGUE, taken
from tests.core.stations.coax.test_checks import house
from tests.proving import examples

EUROPE = profiles.load("europe")
JOBS = {n: j for n, j in demo_jobs().items() if j.parts}
LEVELS = ("level-low", "level-high")


def answer(job: Job) -> CoaxAnswer:
    return work_out(NetworkContext(job, CATALOGUE, profiles.load(job.profile)))


def harmed(before: CoaxAnswer, after: CoaxAnswer) -> list[str]:
    """Figures at outlets that are worse than they were, each by itself, judged by a solution of its own."""
    one, two = before.outlets[0].judged, after.outlets[0].judged
    found = []
    for r, c in np.argwhere(one.wants):
        here = f"{before.outlets[r].name}, {one.channels[c].name}"
        if np.isnan(one.level_dbuv[r, c]):
            continue  # nothing arrives: it cannot get worse
        if np.isnan(two.level_dbuv[r, c]):
            found.append(f"{here}: gone")
            continue
        for name, rank, short in (
            ("level", "level_rank", lambda j, r=r, c=c: _outside(j, r, c)),
            ("margin", "margin_rank", lambda j, r=r, c=c: j.margin_low_db - j.margin_db[r, c]),
            ("ripple", "ripple_rank", lambda j, r=r, c=c: j.ripple_db[r, c] - j.ripple_high_db),
        ):
            was, now = (getattr(j, rank)[r, c] for j in (one, two))
            if now > was or (was == now == FAIL and short(two) > short(one) + 0.11):
                found.append(f"{here}: {name}")
    for x, y in zip(before.outlets, after.outlets, strict=True):
        old = {g.group: g.slope.value or 0.0 for g in x.groups if g.slope.state == "fail"}
        found += [
            f"{y.name}: slope"
            for g in y.groups
            if g.group in old and (g.slope.value or 0.0) > old[g.group] + 0.11
        ]
    return found


def _outside(of: Judged, r: int, c: int) -> float:
    """How far a level lies outside its window [dB]."""
    level = of.level_dbuv[r, c]
    return float(max(of.least_dbuv[c] - level, level - of.most_dbuv[c]))


@given(name=st.sampled_from(sorted(JOBS)), data=st.data())
@examples(10, 200)
def test_no_fix_of_a_level_harms_another_outlet(name: str, data: st.DataObject) -> None:
    """Demo houses with cables of other lengths, other gains and stronger or weaker transmitters."""
    job = JOBS[name]
    job = job.model_copy(
        update={
            "links": tuple(
                k.model_copy(
                    update={
                        "length_m": round(
                            k.length_m * data.draw(st.sampled_from([0.2, 1, 1, 3, 6])), 1
                        )
                    }
                )
                for k in job.links
            ),
            "carriers": tuple(
                c.model_copy(
                    update={
                        "power": min(
                            c.power * 10 ** data.draw(st.sampled_from([-1.0, 0.0, 0.0, 1.0])),
                            1000.0,
                        )
                    }
                )
                if c.power > 0
                else c
                for c in job.carriers
            ),
        }
    )
    before = answer(job)
    for problem in before.problems:
        if problem.code in LEVELS and problem.change is not None:
            assert harmed(before, answer(taken(job, problem.change))) == [], problem.remedy


def _one_strong() -> Job:
    """A local transmitter 38 dB stronger than the rest, on one antenna."""
    job = house(metres=4, erp_kw=0.05, channels=(474.0, 586.0, 690.0))
    strong = job.carriers[0].model_copy(update={"power": 315.0})
    return job.model_copy(update={"carriers": (strong, *job.carriers[1:])})


def test_a_strong_local_transmitter_is_not_fought_at_the_cost_of_the_weak() -> None:
    found = answer(_one_strong())
    high = next(p for p in found.problems if p.code == "level-high")
    assert high.state == "fail"
    assert high.change is None
    assert "levels" in text_of(high.remedy)


def _trunk_and_two(erp_kw: float) -> Job:
    """A thin trunk to a splitter; one outlet is near, the other at the end of 260 m of the best cable."""
    job = house("splitter-2", metres=50, channels=(474.0,), erp_kw=erp_kw)
    coax = [k for k in CATALOGUE.cables if CATALOGUE.exchangeable("rg6", k)]
    best, worst = (
        f(coax, key=lambda k: float(CATALOGUE.cables[k].loss_db(100, 690))) for f in (min, max)
    )
    trunk, drop = job.links
    links = (
        trunk.model_copy(update={"cable": worst}),
        drop.model_copy(update={"cable": best, "length_m": 260.0}),
        drop.model_copy(
            update={"id": "l9", "cable": best, "length_m": 0.5, "to_part": "p9", "from_port": 1}
        ),
    )
    near = job.outlets[0].model_copy(update={"id": "o2", "name": "Hall"})
    return job.model_copy(
        update={
            "parts": (*job.parts, Part(id="p9", type="plate", outlet="o2")),
            "links": links,
            "outlets": (*job.outlets, near),
        }
    )


def test_a_better_cable_that_would_be_too_much_for_a_neighbour_is_not_offered() -> None:
    quiet, loud = answer(_trunk_and_two(30.0)), answer(_trunk_and_two(100.0))
    assert [next(p for p in a.problems if p.code == "level-low").state for a in (quiet, loud)] == [
        "fail",
        "marginal",
    ]
    offered, held = (next(p for p in a.problems if p.code == "level-low") for a in (quiet, loud))
    assert offered.change is not None
    assert held.change is None
    assert "another outlet" in text_of(held.remedy)
    # The neighbour stands in; with the cable it would not.
    change = offered.change.model_copy(update={"values": {"cable": "rg11"}})
    assert harmed(loud, answer(taken(_trunk_and_two(100.0), change))) == ["Hall, mux 1: level"]


def test_a_better_cable_that_would_overdrive_an_amplifier_is_not_offered() -> None:
    """80 m of thin cable before a house amplifier that stands 3 dB under its rating, and 640 m behind."""
    job = house("amp-house-20", channels=(474.0,), erp_kw=300.0, gain_dbi=24.0)
    coax = [k for k in CATALOGUE.cables if CATALOGUE.exchangeable("rg6", k)]
    best, worst = (
        f(coax, key=lambda k: float(CATALOGUE.cables[k].loss_db(100, 690))) for f in (min, max)
    )
    before, behind = job.links
    job = job.model_copy(
        update={
            "links": (
                before.model_copy(update={"cable": worst, "length_m": 80.0}),
                behind.model_copy(update={"cable": best, "length_m": 640.0}),
            )
        }
    )
    found = answer(job)
    low = next(p for p in found.problems if p.code == "level-low")
    assert "overload" not in {p.code for p in found.problems}
    assert (low.state, low.change) == ("fail", None)
    assert "amplifier" in text_of(low.remedy)
    # The cable would bring the outlet in, and the amplifier out.
    pulled = answer(taken(job, Set(rows="links", id=before.id, values={"cable": best})))
    assert pulled.outlets[0].state == "ok"
    assert next(p for p in pulled.problems if p.code == "overload").state == "fail"


@pytest.mark.parametrize("erp_kw", [200.0, 400.0, 900.0])
def test_the_least_attenuator_that_does_it_is_taken(erp_kw: float) -> None:
    job = house(erp_kw=erp_kw, metres=2)
    high = next(p for p in answer(job).problems if p.code == "level-high")
    after = answer(taken(job, high.change))
    assert after.state in ("ok", "marginal")
    assert not [p for p in after.problems if p.code in LEVELS and p.state == "fail"]


def test_a_pad_reckoned_is_a_pad_solved() -> None:
    """At the end of a line a matched pad needs no solution: level and verdict are those of one."""
    job = house(erp_kw=400.0, metres=2, channels=(474.0, 586.0, 690.0))
    found = answer(job)
    row, solved = found.outlets[0], found.solved
    link = job.links[-1]
    steps = range(1, 40, 3)
    reckoned = trials._attenuated(found.ctx, row, link=link, steps=steps)
    run = solved.run
    own = CATALOGUE.cables[link.cable].loss_db(link.length_m, run.circuit.columns.frequency_mhz)
    pads = [Alteration({run.circuit.edge_of_link[link.id]: -own - s}) for s in steps]
    tried = trials.try_out(
        found.ctx,
        row.judged,
        link.to_part,
        variants=pads,
    )
    assert np.allclose(reckoned.level_dbuv, tried.level_dbuv, atol=1e-9)
    assert reckoned.outlet_rank.tolist() == tried.outlet_rank.tolist()
    assert reckoned.harmless.tolist() == tried.harmless.tolist()
    assert len(set(reckoned.outlet_rank[:, 0].tolist())) > 1
