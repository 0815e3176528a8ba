"""The designer against brute force, against the full solution, and against itself."""

from __future__ import annotations

import itertools
import random

import numpy as np
import pytest

from evtro import catalogue, profiles
from evtro.core.job import Job, Outlet, Part
from evtro.core.job.context import JobParts
from evtro.core.network.optimise import Filler, PartChoice, Served, Task, best, levels_of
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.design.build import built
from evtro.core.stations.coax.design.compare import compared
from evtro.core.stations.coax.design.designer import LENIENT, Designer, reserve_of
from evtro.core.stations.coax.design.wish import Route, Wish
from evtro.core.stations.coax.levels.outlets import solve_job
from evtro.core.stations.coax.verdict import judged
from evtro.core.stations.coax.views.answer import work_out as coax_of
from evtro.core.units.quantities import InputError, text_of
from evtro.demo.block import sorrel_court
from evtro.demo.world import demo_jobs, kept_jobs
from tests.changes import taken
from tests.core.stations.coax.test_checks import house
from tests.proving import whole_only

CATALOGUE = catalogue.load()
EUROPE = profiles.load("europe")


def _made_up(seed: int) -> Task:
    """A small tree: a trunk, two branches, a part and a cable for each of up to four places."""
    rng = random.Random(seed)
    waves = rng.choice([1, 2, 3])
    source = np.array([rng.uniform(55, 85) for _ in range(waves)])

    def option(ends: int) -> Filler:
        flat = [[rng.uniform(-22, 0) - 2 * w for w in range(waves)] for _ in range(ends)]
        return Filler(np.array(flat), round(rng.uniform(0, 40), 2), rng.choice([0, 1, 2]))

    trunk = PartChoice(tuple(option(2) for _ in range(rng.choice([2, 3, 4]))))
    legs = [
        PartChoice(tuple(option(1) for _ in range(rng.choice([2, 3, 4]))), rng.choice([1, 1, 2]))
        for _ in range(4)
    ]
    low, high = np.full(waves, 45.0), np.full(waves, rng.choice([70.0, 74.0]))
    slopes = (((0, waves - 1), rng.choice([4.0, 8.0])),) if waves > 1 else ()
    places = tuple(
        Served(((0, n % 2), (1 + n, 0)), source, low, high, slopes)
        for n in range(rng.choice([2, 3, 4]))
    )
    used = 1 + len(places)
    aim = rng.choice(["cost", "margin", "parts"])
    return Task((trunk, *legs)[:used], places, aim, rng.choice([0.0, 1.0, 3.0]))  # type: ignore[arg-type]


def _by_force(task: Task) -> float | None:
    """Every combination tried."""
    found: float | None = None
    for picks in itertools.product(*(range(len(c.options)) for c in task.choices)):
        room, fits = np.inf, True
        for place in task.places:
            level = levels_of(task, picks, place)
            room = min(
                room, float((level - place.low_dbuv).min()), float((place.high_dbuv - level).min())
            )
            for group, limit in place.slopes:
                fits &= bool(np.ptp(level[list(group)]) <= limit + 1e-9)
        if not fits or room < task.reserve_db - 1e-9:
            continue
        options = [(c.options[o], c.copies) for c, o in zip(task.choices, picks, strict=True)]
        value = {
            "margin": room,
            "cost": sum(o.cost * n for o, n in options),
            "parts": sum((o.count + o.cost * 1e-4) * n for o, n in options),
        }[task.aim]
        better = found is None or (value > found if task.aim == "margin" else value < found)
        found = value if better else found
    return found


@pytest.mark.long
@pytest.mark.parametrize("seed", range(0, 200, 20))
def test_the_best_of_small_plants_is_what_trying_everything_finds(seed: int) -> None:
    """Two hundred made-up trees, each solved by trying every combination (brute force)."""
    for one in range(seed, seed + 20):
        task = _made_up(one)
        told, found = _by_force(task), best(task)
        assert found.proven
        if told is None:
            assert not found.picks, one
        else:
            assert found.value == pytest.approx(told, abs=1e-5), one
            assert found.bound == pytest.approx(told, abs=1e-4), one


def _block(outlets: int, risers: int = 1, erp_kw: float = 30.0) -> Job:
    """One array, an inserter, and outlets that hang on nothing yet."""
    job = house("block-1", metres=10, erp_kw=erp_kw)
    more = tuple(
        Outlet(
            id=f"o{n}",
            name=f"Flat {n}",
            floor=f"Floor {(n - 1) // (3 * risers) + 1}",
            satellite=False,
        )
        for n in range(1, outlets + 1)
    )
    parts = tuple(p for p in job.parts if not p.outlet)
    links = tuple(k for k in job.links if k.to_part in {p.id for p in parts})
    return job.model_copy(update={"outlets": more, "parts": parts, "links": links})


def _routes(outlets: int, risers: int) -> tuple[Route, ...]:
    return tuple(
        Route(
            outlet=f"o{n + 1}",
            riser=n // 3 % risers + 1,
            floor=n // (3 * risers),
            drop_m=6.0 + n % 3,
        )
        for n in range(outlets)
    )


def test_the_plans_of_a_curve_are_clean_in_every_check() -> None:
    outlets, risers = 4, 1
    job = _block(outlets, risers)
    wish = Wish(reserve_db=3.0, routes=_routes(outlets, risers))
    design, changes = compared(NetworkContext(job, CATALOGUE, EUROPE), wish, seconds=60)
    assert design.chosen is not None, design.nearest
    assert design.plans
    assert all(p.proven for p in design.plans)
    for plan, change in zip(design.plans, changes, strict=True):
        after = coax_of(NetworkContext(taken(job, change), CATALOGUE, EUROPE))
        assert after.verdict.inside == after.verdict.wanted == outlets
        assert [p.code for p in after.problems if p.state == "fail" or p.code not in LENIENT] == []
        assert reserve_of(after.verdict) == pytest.approx(plan.reserve_db, abs=1e-6)
    assert design.plans[design.chosen].reserve_db > 3.0 - 1e-4  # type: ignore[operator]
    costs = [p.cost for p in design.plans]
    # More reserve never costs less, and what costs nothing is had.
    assert costs == sorted(set(costs))


@pytest.mark.parametrize(("outlets", "risers"), [(24, 2), pytest.param(96, 4, marks=whole_only)])
def test_a_design_from_nothing_is_proven_and_clean(outlets: int, risers: int) -> None:
    job = _block(outlets, risers)
    at = Designer(
        NetworkContext(job, CATALOGUE, EUROPE), Wish(routes=_routes(outlets, risers)), seconds=60
    )
    plan = at.search("cost", 3.0).plan
    assert plan is not None
    assert plan.proven
    after = coax_of(NetworkContext(taken(job, at.change(plan)), CATALOGUE, EUROPE))
    assert after.verdict.inside == after.verdict.wanted == outlets
    assert [p.code for p in after.problems if p.state == "fail" or p.code not in LENIENT] == []
    assert reserve_of(after.verdict) == pytest.approx(plan.reserve_db, abs=1e-6)


def test_no_other_cable_of_a_least_cost_plan_is_cheaper_and_right() -> None:
    """Every single drop in a cheaper cable breaks the wish: the plan is at its edge, judged anew."""
    job = _block(4)
    wish = Wish(reserve_db=6.0, routes=_routes(4, 1))
    at = Designer(NetworkContext(job, CATALOGUE, EUROPE), wish)
    plan = at.search("cost", 6.0).plan
    assert plan is not None
    rank = ["rg59", "rg6", "c7cu", "rg11"]
    links = plan.job.links
    for link in links:
        if link.length_m < 1 or link.cable not in rank[1:] or link in job.links:
            continue
        less = link.model_copy(update={"cable": rank[rank.index(link.cable) - 1]})
        cheaper = plan.job.model_copy(
            update={"links": tuple(less if k is link else k for k in links)}
        )
        assert reserve_of(coax_of(NetworkContext(cheaper, CATALOGUE, EUROPE)).verdict) < 6.0


def test_what_is_there_is_kept_and_costs_nothing() -> None:
    """Skerry House is short at one drop: the design pulls that and leaves the rest."""
    job = demo_jobs()["skerry-house"]
    design, changes = compared(NetworkContext(job, CATALOGUE, EUROPE), Wish(reserve_db=0.0))
    assert design.chosen is not None
    plan = design.plans[design.chosen]
    assert (plan.parts, plan.cable_m, plan.inside) == (0, 48.0, 12)
    assert design.as_it_is.inside == 11
    assert not design.already
    assert compared(NetworkContext(demo_jobs()["mill-loft"], CATALOGUE, EUROPE), Wish())[0].already
    after = taken(job, changes[design.chosen])
    assert {p.id for p in after.parts} == {p.id for p in job.parts}
    changed = [k for k in after.links if k not in job.links]
    assert len(changed) == 1


def test_the_price_of_a_plan_is_that_of_its_list() -> None:
    """Every part and cable that is new, and no other."""
    for name in ("marten-lodge", "skerry-house", "mill-loft"):
        job = demo_jobs()[name]
        design, _ = compared(
            NetworkContext(job, CATALOGUE, profiles.load(job.profile)), Wish(reserve_db=1.0)
        )
        assert design.plans
        for plan in design.plans:
            assert plan.cost == pytest.approx(sum(b.price for b in plan.buy), abs=0.01), plan.words
            assert plan.parts == sum(b.count for b in plan.buy)


def test_an_amplifier_ahead_gets_the_inserter_that_it_needs() -> None:
    """Larch Street's preamplifier is dark behind its splitter; in a design it has its voltage."""
    job = demo_jobs()["marten-lodge"]
    design, changes = compared(NetworkContext(job, CATALOGUE, profiles.load(job.profile)), Wish())
    assert design.chosen is not None
    after = coax_of(
        NetworkContext(taken(job, changes[design.chosen]), CATALOGUE, profiles.load(job.profile))
    )
    assert not [p for p in after.problems if p.code.startswith("dc-")]
    assert [text_of(t) for t in design.ahead]


def test_where_nothing_fits_the_smallest_thing_to_give_up_is_told() -> None:
    """An array that hears next to nothing: which outlet, which limit, by how much."""
    job = _block(8, erp_kw=0.001)
    design, _ = compared(NetworkContext(job, CATALOGUE, EUROPE), Wish(routes=_routes(8, 1)))
    assert design.plans == []
    assert design.nearest is not None
    assert "Flat" in text_of(design.nearest)
    assert len(design.tried) >= 3


def test_a_search_that_is_stopped_says_so() -> None:
    job = _block(24, 2)
    at = Designer(
        NetworkContext(job, CATALOGUE, EUROPE), Wish(routes=_routes(24, 2)), stop=lambda: True
    )
    found = at.search("cost", 3.0)
    assert found.stopped
    assert found.plan is None or not found.plan.proven


@pytest.mark.parametrize(
    ("job", "says"),
    [
        (house().model_copy(update={"parts": (), "links": ()}), "no antenna"),
        (house().model_copy(update={"outlets": ()}), "no outlet"),
        (
            _block(3).model_copy(
                update={
                    "outlets": tuple(
                        Outlet(id=f"o{n}", name=f"N {n}", satellite=False) for n in range(1, 130)
                    )
                }
            ),
            "more than",
        ),
    ],
)
def test_what_cannot_be_designed_is_refused_in_words(job: Job, says: str) -> None:
    with pytest.raises(InputError, match=says):
        Designer(NetworkContext(job, CATALOGUE, EUROPE), Wish())


def test_prices_that_are_told_count() -> None:
    """A splitter that is dear is not taken while two small ones do."""
    dear = CATALOGUE.parts["splitter-4"].model_copy(update={"price": 500.0})
    shop = CATALOGUE.model_copy(update={"parts": {**CATALOGUE.parts, "splitter-4": dear}})
    job = _block(4)
    plan = (
        Designer(NetworkContext(job, shop, EUROPE), Wish(routes=_routes(4, 1)))
        .search("cost", 3.0)
        .plan
    )
    assert plan is not None
    assert "splitter-4" not in {p.type for p in plan.job.parts}
    assert isinstance(plan.job.parts[0], Part)


def test_the_block_of_the_demo_is_in_everywhere() -> None:
    """96 flats on four risers that are alike: all in, and alike in all figures."""
    job = sorrel_court()
    found = coax_of(NetworkContext(job, CATALOGUE, EUROPE))
    assert (found.verdict.inside, found.verdict.wanted) == (96, 96)
    assert not [p for p in found.problems if p.state == "fail"]
    level = found.outlets[0].judged.level_dbuv.reshape(4, 24, -1)
    assert np.allclose(level, level[0], atol=1e-9)


def _ends_of(name: str) -> Job:
    return kept_jobs()[name] if name in kept_jobs() else _block(int(name), 1)


@pytest.mark.long
@pytest.mark.parametrize(
    "name",
    [
        "5",
        "1",
        "marten-lodge",
        "larch-street",
        "skerry-house",
        *(
            pytest.param(name, marks=whole_only)
            for name in sorted(
                set(kept_jobs()) - {"fern-cottage", "marten-lodge", "larch-street", "skerry-house"}
            )
        ),
    ],
)
def test_the_linear_model_is_the_full_solution_on_every_tree(name: str) -> None:
    """Whatever is picked, the levels of the model are those of the job that is built from it."""
    job = _ends_of(name)
    profile = profiles.load(job.profile)
    at = Designer(NetworkContext(job, CATALOGUE, profile), Wish())
    assert at.trees
    rng = random.Random(1)
    compared_some = False
    for tree in at.trees:
        places = at.places(tree)
        task = Task(tuple(tree.choices), tuple(places), "cost", 0.0)
        for n in range(4):
            picks = tuple(rng.randrange(len(c.options)) if n else 0 for c in tree.choices)
            made, _ = built(JobParts(job, CATALOGUE), at.head, tree=tree, picks=picks)
            solved = solve_job(NetworkContext(made, CATALOGUE, profile))
            if solved.run.dark:
                continue  # the model is that of a plant under voltage; the full solution forbids this
            found = judged(NetworkContext(made, CATALOGUE, profile).with_solved(solved))
            j = found.outlets[0].judged
            rows = {r.outlet: r.index for r in found.outlets}
            spots = [s for s in tree.spots if s.outlet]
            for place, spot in zip(places, spots, strict=True):
                level = levels_of(task, picks, place)
                there = j.level_dbuv[rows[spot.outlet or ""]]
                # What a receiver cannot ask for, or has no voltage, is no sum of losses.
                seen = np.isfinite(place.low_dbuv) & (level > -100) & np.isfinite(there)
                assert there[seen] == pytest.approx(level[seen], abs=1e-6), tree.words
                compared_some |= bool(seen.any())
    assert compared_some


def test_the_risers_of_a_run_are_those_of_its_design() -> None:
    """The block as it is: four risers of eight floors, three metres apart; its own plan costs less than
    all new, and every plan is in."""
    job = kept_jobs()["sorrel-court"]
    at = Designer(NetworkContext(job, CATALOGUE, EUROPE), Wish(), seconds=60)
    assert {r.riser for r in at.wish.routes} == {1, 2, 3, 4}
    assert {r.floor for r in at.wish.routes} == set(range(8))
    assert (at.wish.head_m, at.wish.floor_m) == (6.0, 3.0)
    plan = at.search("cost", 3.0).plan
    assert plan is not None
    assert plan.proven
    assert plan.verdict.inside == 96


def test_an_outlet_that_wants_nothing_now_keeps_its_line() -> None:
    job = demo_jobs()["marten-lodge"]
    outlets = tuple(
        o.model_copy(update={"terrestrial": False}) if o.id == "o5" else o for o in job.outlets
    )
    job = job.model_copy(update={"outlets": outlets})
    design, changes = compared(NetworkContext(job, CATALOGUE, profiles.load(job.profile)), Wish())
    assert design.chosen is not None
    for change in changes:
        after = taken(job, change)
        assert {p.outlet for p in after.parts if p.outlet} == {o.id for o in job.outlets}


def test_more_outlets_than_a_switch_has_get_a_cascade() -> None:
    """24 satellite outlets: no single switch has as many; two in a cascade do, each outlet choosing freely."""
    job = kept_jobs()["skerry-house"]
    more = tuple(Outlet(id=f"o{n}", name=f"Room {n}", floor="Annexe") for n in range(13, 25))
    job = job.model_copy(update={"outlets": (*job.outlets, *more)})
    at = Designer(NetworkContext(job, CATALOGUE, EUROPE), Wish(), seconds=60)
    assert {"2", "24"} <= set(at.trees[0].words.split())
    at.trees[:] = at.trees[:1]
    plan = at.search("margin", 0.0).plan
    assert plan is not None
    assert plan.proven
    assert (plan.verdict.inside, plan.verdict.wanted) == (24, 24)
    assert plan.reserve_db > 2
    assert not [p for p in plan.verdict.problems if p.state == "fail"]
    choice = plan.verdict.solved.run.choice
    assert choice.bound == ()
    # Who is farthest away hangs on the first switch, where least is lost.
    first = next(p.id for p in plan.job.parts if p.type == "switch-cascade-8")
    near = {
        p.outlet
        for p in plan.job.parts
        if any(k.from_part == first and k.to_part == p.id for k in plan.job.links)
    }
    assert "o12" in near


@pytest.mark.long
def test_a_block_with_satellite_gets_cascades_along_its_risers() -> None:
    """The block as it is, its risers found by its switches; a plan that costs less, and one with more
    reserve, each proven, every flat in and choosing freely."""
    job = kept_jobs()["whimbrel-court"]
    at = Designer(NetworkContext(job, CATALOGUE, EUROPE), Wish(), seconds=60)
    assert [len(r) for r in at.wish.by_riser()] == [24] * 4
    assert (at.wish.head_m, at.wish.floor_m) == (8.0, 9.0)
    plans = [at.search("cost", 2.0).plan, at.search("margin", 0.0).plan]
    for plan in plans:
        assert plan is not None
        assert plan.proven
        assert (plan.verdict.inside, plan.verdict.wanted) == (96, 96)
        assert not [p for p in plan.verdict.problems if p.state == "fail"]
        assert plan.verdict.solved.run.choice.bound == ()
    cheap, full = plans
    assert cheap is not None
    assert full is not None
    assert cheap.cost < full.cost
    assert cheap.reserve_db < full.reserve_db


@pytest.mark.long
def test_switches_stand_where_the_outlets_of_their_riser_are() -> None:
    """Twelve more rooms in a wing of its own: two risers behind a splitter for all five lines, and every switch on
    the floor of those that it serves."""
    job = kept_jobs()["skerry-house"]
    more = tuple(Outlet(id=f"o{n}", name=f"Room {n}", floor="Wing") for n in range(13, 25))
    job = job.model_copy(update={"outlets": (*job.outlets, *more)})
    routes = tuple(
        Route(outlet=o.id, riser=1 + n // 12, floor=(n % 12) // 4, drop_m=6.0)
        for n, o in enumerate(job.outlets)
    )
    wish = Wish(routes=routes, head_m=5.0, floor_m=4.0, reserve_db=1.0)
    at = Designer(NetworkContext(job, CATALOGUE, EUROPE), wish, seconds=60)
    tree = next(n for n, t in enumerate(at.trees) if "along 2 risers" in t.words)
    assert at.trees[tree].words == "4 switches in cascades along 2 risers"
    at.trees[:] = [at.trees[tree]]
    plan = at.search("margin", 0.0).plan
    assert plan is not None
    assert plan.verdict.inside == 24
    links = plan.job.links
    shared = next(p.id for p in plan.job.parts if p.type == "splitter-trunk-5x4")
    heads = {k.to_part: k.length_m for k in links if k.from_part == shared and k.length_m}
    # Eight rooms on floors 0 and 1 hang on the first switch, on the floor of the fifth of them.
    assert set(heads.values()) == {9.0}
    for head in heads:
        on = {
            k.length_m
            for k in links
            if k.from_part == head
            and k.to_part
            in {p.id for p in plan.job.parts if p.type.startswith(("multiswitch", "switch"))}
        }
        assert on == {4.0}
        drops = [
            k.length_m
            for k in links
            if k.from_part == head and k.to_part in {p.id for p in plan.job.parts if p.outlet}
        ]
        assert sorted(drops) == [6.0] * 4 + [10.0] * 4
