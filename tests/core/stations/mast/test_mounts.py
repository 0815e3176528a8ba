"""Mounts of every kind in a job: what each is asked for, and that what is offered cures and harms nothing."""

from __future__ import annotations

import random

import pytest

from evtro.core.job import Job
from evtro.core.job.changes import Set
from evtro.core.units.quantities import InputError, text_of
from tests.changes import JOBS, answers_of, taken
from tests.refusals import refused

RANK = {"ok": 0, "unknown": 0, "marginal": 1, "fail": 2}


def _on(fixing: str, **more: object) -> Job:
    job = JOBS["skerry-house"]
    mast = type(job.mast).model_validate({**job.mast.model_dump(), "fixing": fixing, **more})
    return job.model_copy(update={"mast": mast})


def test_what_it_is_fixed_to_changes_the_answer() -> None:
    found = {
        kind: answers_of(_on(kind, base="brick")).mast
        for kind in (
            "wall",
            "eave",
            "balcony",
            "chimney",
            "roof",
            "jpole",
            "pole",
            "ballast",
            "loft",
        )
    }
    assert len({(m.mount, m.state, tuple(u.name for u in m.uses)) for m in found.values()}) >= 7
    assert found["loft"].pressure_pa == 0
    assert found["loft"].moment.value == 0
    assert {u.name for u in found["pole"].uses} == {"pole in the ground"}
    assert {u.name for u in found["ballast"].uses} == {"turning over the edge", "sliding"}
    assert found["chimney"].uses == []
    # The whole length stands on a foot on the roof: more moment than at an upper bracket.
    turned = next(u.gauge.value or 0 for u in found["ballast"].uses if u.name.startswith("turning"))
    assert turned > (found["wall"].moment.value or 0)


@pytest.mark.parametrize("base", ["unknown", "render"])
def test_bolts_in_nobody_knows_what_are_not_called_in(base: str) -> None:
    found = answers_of(_on("wall", base=base)).mast
    problem = next(p for p in found.problems if p.code == "base-unknown")
    assert problem.state == ("fail" if base == "render" else "marginal")
    assert found.state == problem.state
    # Own figures of the anchor are as good as a known base.
    own = answers_of(_on("wall", base=base, bolt_pull_n=3000, bolt_shear_n=3000)).mast
    assert "base-unknown" not in {p.code for p in own.problems}
    assert own.state == "ok"


def test_a_weak_base_is_told_with_what_would_do() -> None:
    job = _on("wall", base="block")
    problem = next(p for p in answers_of(job).mast.problems if p.code == "bolt-pull")
    assert problem.state == "fail"
    cured = taken(job, problem.change)
    assert cured.mast.bolts > job.mast.bolts
    assert "bolt-pull" not in {p.code for p in answers_of(cured).mast.problems}
    firm = answers_of(_on("wall", base="concrete"))
    assert not [p for p in firm.mast.problems if p.code.startswith("bolt")]


@pytest.mark.parametrize(
    ("fixing", "more"),
    [
        ("wall", {"base": "block"}),
        ("wall", {"base": "timber", "held_m": 0.3}),
        ("roof", {"base": "timber"}),
        ("ballast", {"ballast_kg": 20.0, "held_m": 0.6}),
        ("pole", {"buried_m": 0.4}),
        ("pole", {"buried_m": 1.0, "footing_mm": 600.0}),
        ("balcony", {"base": "metal", "standoff_m": 0.6}),
        ("eave", {"base": "brick", "bolts": 2}),
        ("jpole", {"base": "brick", "bolts": 2}),
    ],
)
def test_every_remedy_of_a_mount_cures_and_harms_nothing(
    fixing: str, more: dict[str, object]
) -> None:
    job = _on(fixing, **more)
    for _ in range(8):
        before = answers_of(job)
        problem = next((p for p in before.mast.problems if p.change is not None), None)
        if problem is None:
            break
        job = taken(job, problem.change)
        after = answers_of(job)
        states = {p.code: p.state for p in after.mast.problems}
        assert RANK[states.get(problem.code, "ok")] < RANK[problem.state], text_of(problem.remedy)
        was = {(p.station, p.code, p.place): RANK[p.state] for p in before.problems}
        worse = [
            p
            for p in after.problems
            if RANK[p.state] > was.get((p.station, p.code, p.place), 0) and p.station != "mast"
        ]
        assert not worse
    else:
        pytest.fail("the remedies lead in a circle")


def test_a_tripod_is_held_by_its_ballast() -> None:
    job = JOBS["fjell-caravan"]
    assert answers_of(job).mast.state == "ok"
    bare = job.model_copy(update={"mast": job.mast.model_copy(update={"ballast_kg": 0.0})})
    problem = next(p for p in answers_of(bare).mast.problems if p.code == "ballast-low")
    assert problem.state == "fail"
    assert answers_of(taken(bare, problem.change)).mast.state == "ok"


def test_what_is_too_heavy_for_one_is_said_with_how_many() -> None:
    job = _on("wall", base="concrete")
    heavy = job.model_copy(
        update={"dishes": (job.dishes[0].model_copy(update={"weight_kg": 46.0}),)}
    )
    problem = next(p for p in answers_of(heavy).mast.problems if p.code == "lift")
    assert "with 3" in text_of(problem.remedy)
    assert "lift" not in {p.code for p in answers_of(taken(heavy, problem.change)).mast.problems}
    step = next(s for s in answers_of(heavy).steps["mast"] if s.key == f"mast.{job.dishes[0].id}")
    assert "a lift for 3, 46 kg" in text_of(step.hint)


def test_a_dish_on_a_short_pole_does_not_stand_in_the_ground() -> None:
    job = _on("pole", buried_m=1.2, length_m=3.0)
    dish = job.dishes[0].model_copy(update={"on_mast_m": 0.1})
    low = job.model_copy(update={"dishes": (dish,)})
    problem = next(p for p in answers_of(low).mast.problems if p.code == "dish-low")
    assert "dish-low" not in {p.code for p in answers_of(taken(low, problem.change)).mast.problems}
    # Higher up it pulls more at a footing that is too shallow already: that is said beside it.
    assert "pole in the ground is further outside then" in text_of(problem.effect)


def test_guys_hold_a_mast_and_their_rope_is_judged() -> None:
    tall = {"length_m": 5.0, "held_m": 0.9, "base": "concrete", "wall_mm": 3.0, "outer_mm": 48.0}
    bare, tied = (
        answers_of(_on("wall", **tall, **more)).mast
        for more in ({}, {"guys": 3, "guy_m": 2.5, "guy_out_m": 2.5})
    )
    assert (tied.moment.value or 0) < 0.6 * (bare.moment.value or 0)
    assert (tied.tube.value or 0) < (bare.tube.value or 0)
    assert tied.guys_n > 0 == bare.guys_n
    assert {u.name for u in tied.uses} - {u.name for u in bare.uses} == {
        "a guy in the wind",
        "pressed along the tube",
    }
    assert all(b.deg > t.deg for b, t in zip(bare.sway, tied.sway, strict=True))
    # Steeper guys are pulled harder, thin ones are too thin.
    steep = answers_of(_on("wall", **tall, guys=3, guy_m=2.5, guy_out_m=0.6)).mast
    pull = {
        n: next(u.gauge for u in m.uses if u.name.startswith("a guy"))
        for n, m in (("flat", tied), ("steep", steep))
    }
    assert (pull["steep"].value or 0) > (pull["flat"].value or 0)
    thin = answers_of(
        _on("wall", **tall, guys=3, guy_m=2.5, guy_out_m=0.6, guy_mm=2.0, wind_ms=45)
    ).mast
    assert any(p.code == "guy-pull" for p in thin.problems)


def test_what_holds_a_guy_is_asked_and_judged() -> None:
    tall = {
        "length_m": 5.0,
        "held_m": 0.9,
        "base": "concrete",
        "guys": 3,
        "guy_m": 2.5,
        "guy_out_m": 2.5,
    }
    unsaid = answers_of(_on("wall", **tall)).mast
    assert any(p.code == "guy-anchor-unknown" and p.state == "marginal" for p in unsaid.problems)
    good, weak, own = (
        answers_of(_on("wall", **tall, **more)).mast
        for more in (
            {"guy_base": "concrete"},
            {"guy_base": "block", "wind_ms": 45},
            {"guy_anchor_n": 50},
        )
    )
    assert not any(p.code.startswith("guy-anchor") for p in good.problems)
    assert any(u.name == "an anchor of the guys" for u in good.uses)
    for bad in (weak, own):
        assert any(p.code == "guy-anchor" and p.state == "fail" for p in bad.problems)
        assert bad.state == "fail"


def test_guys_on_a_thin_tube_buckle_it() -> None:
    tall = {
        "length_m": 9.0,
        "held_m": 1.5,
        "base": "concrete",
        "guys": 4,
        "guy_m": 7.0,
        "guy_out_m": 1.0,
        "guy_mm": 4.0,
        "guy_base": "concrete",
    }
    thin, wide = (
        answers_of(_on("wall", **tall, outer_mm=mm, wall_mm=2.0)).mast for mm in (30.0, 76.0)
    )
    assert any(p.code == "mast-buckles" and p.state == "fail" for p in thin.problems)
    assert not any(p.code == "mast-buckles" for p in wide.problems)


def test_a_j_pole_is_held_by_its_plate_alone() -> None:
    short = {"base": "timber", "length_m": 1.2, "bolts": 4, "bolt_mm": 10.0}
    plain, far, large = (
        answers_of(_on("jpole", **short, **more)).mast
        for more in ({}, {"standoff_m": 0.6}, {"rows_apart_m": 0.4, "bolts_apart_m": 0.4})
    )
    use = {u.name: u.gauge.value or 0 for u in plain.uses}
    assert set(use) == {"pull on the worst bolt", "across the worst bolt"}
    assert (far.tube.value or 0) > (plain.tube.value or 0)
    for name, value in use.items():
        assert next(u.gauge.value or 0 for u in far.uses if u.name == name) >= value
        assert next(u.gauge.value or 0 for u in large.uses if u.name == name) < value
    assert not any(p.code == "mast-held" for p in plain.problems)
    # What is typed as held between brackets has no effect where there are none.
    assert answers_of(_on("jpole", **short, held_m=0.5)).mast == plain


def test_guys_count_only_where_they_are_tied() -> None:
    job = _on("wall", base="concrete")
    for more in ({"guys": 3}, {"guy_m": 2.0}, {"guys": 0, "guy_m": 2.0, "guy_mm": 8.0}):
        other = _on("wall", base="concrete", **more)
        assert answers_of(other).mast.moment == answers_of(job).mast.moment


@pytest.mark.parametrize("fixing", ["wall", "ballast", "pole", "roof", "jpole"])
def test_ice_makes_nothing_lighter(fixing: str) -> None:
    bare, iced = (
        answers_of(_on(fixing, base="concrete", ballast_kg=150, ice_mm=mm)).mast for mm in (0, 15)
    )
    assert (iced.moment.value or 0) > (bare.moment.value or 0)
    assert all(i.area_m2 > b.area_m2 for b, i in zip(bare.loads, iced.loads, strict=True))
    for use in iced.uses:
        before = next(u for u in bare.uses if u.name == use.name)
        if use.gauge.high == before.gauge.high:
            assert (use.gauge.value or 0) >= (before.gauge.value or 0)


def test_a_dish_that_sways_off_its_satellite_is_told_with_its_cost() -> None:
    thin = _on("wall", base="concrete", outer_mm=25.0, wall_mm=1.5, length_m=3.2)
    stiff = _on("wall", base="concrete", outer_mm=76.0, wall_mm=3.6, length_m=3.2)
    swayed, stood = answers_of(thin).mast, answers_of(stiff).mast
    (problem,) = (p for p in swayed.problems if p.code == "mast-sway")
    assert problem.state == "marginal"
    assert "0.8 m" in text_of(problem.title)
    assert swayed.sway[0].cost_db > 1 > stood.sway[0].cost_db
    assert not any(p.code == "mast-sway" for p in stood.problems)
    # A calm design wind sways it no more than it blows.
    assert (
        answers_of(
            _on("wall", base="concrete", outer_mm=25.0, wall_mm=1.5, length_m=3.2, wind_ms=10)
        )
        .mast.sway[0]
        .deg
        < swayed.sway[0].deg
    )


def test_guys_tied_to_no_tube_hold_nothing_and_are_told() -> None:
    """They held: three metres above the end of the tube, and the mast was called in."""
    bare = answers_of(_on("wall", base="concrete", length_m=3.6, held_m=0.9)).mast
    high = answers_of(
        _on("wall", base="concrete", length_m=3.6, held_m=0.9, guys=3, guy_m=6.0)
    ).mast
    assert high.guys_n == 0
    assert high.moment == bare.moment
    assert next(p.state for p in high.problems if p.code == "guy-high") == "fail"


def test_two_guys_are_refused_and_three_are_tied_somewhere() -> None:
    with refused("too-small", "some winds only"):
        taken(_on("wall"), Set(rows="mast", values={"guys": 2}))
    assert (
        taken(
            _on("wall", length_m=3.6, held_m=0.6), Set(rows="mast", values={"guys": 3})
        ).mast.guy_m
        == 2.0
    )


def test_no_remedy_of_the_mast_makes_another_thing_of_it_worse() -> None:
    """Masts at random, each change that is offered taken: to hang a dish higher was offered where the tube then bent."""
    chance = random.Random(5)
    taken_ = 0
    for _ in range(120):
        job = JOBS[chance.choice(["skerry-house", "kauri-flat", "tern-hut", "marten-lodge"])]
        mast = type(job.mast).model_validate(
            {
                **job.mast.model_dump(),
                "fixing": chance.choice(["wall", "roof", "jpole", "pole", "ballast", "chimney"]),
                "base": "brick",
                "guy_base": chance.choice(["unknown", "brick", "ground"]),
                "guy_out_m": chance.uniform(0.4, 4),
                "length_m": chance.uniform(1.5, 7),
                "held_m": chance.uniform(0.3, 1.2),
                "outer_mm": chance.choice([32, 48, 60]),
                "guys": chance.choice([0, 3]),
                "guy_m": chance.uniform(0.2, 4),
                "ice_mm": chance.choice([0, 10]),
            }
        )
        job = job.model_copy(update={"mast": mast})
        found = answers_of(job).mast
        before = {(p.code, p.place): RANK[p.state] for p in found.problems}
        for problem in (p for p in found.problems if p.change is not None):
            after = {
                (p.code, p.place): RANK[p.state]
                for p in answers_of(taken(job, problem.change)).mast.problems
            }
            assert after.get((problem.code, problem.place), 0) < RANK[problem.state], problem
            assert all(rank <= before.get(key, 0) for key, rank in after.items()), problem
            taken_ += 1
    assert taken_ > 60


def test_what_no_field_can_hold_is_not_offered() -> None:
    """Five tonnes and more of ballast were offered, and refused when they were taken."""
    tall = _on("ballast", length_m=9.0, held_m=0.3, foot_m=0.4, wind_ms=60)
    problem = next(p for p in answers_of(tall).mast.problems if p.code == "ballast-low")
    assert problem.state == "fail"
    assert problem.change is None


def test_a_foot_that_is_hardly_heavy_enough_is_offered_what_makes_it_so() -> None:
    """No ballast at all was offered where the foot's own weight was just enough."""
    offered = 0
    for kg in range(0, 260, 4):
        job = _on("ballast", ballast_kg=float(kg), held_m=0.6)
        problem = next((p for p in answers_of(job).mast.problems if p.code == "ballast-low"), None)
        if problem is None or problem.change is None:
            continue
        after = taken(job, problem.change)
        assert after.mast.ballast_kg > kg
        assert not any(p.code == "ballast-low" for p in answers_of(after).mast.problems)
        offered += 1
    assert offered > 10


@pytest.mark.parametrize("typed", ["1", " 2 ", 2])
def test_one_or_two_guys_are_refused_however_they_are_typed(typed: object) -> None:
    with pytest.raises(InputError) as refused:
        taken(_on("wall"), Set(rows="mast", values={"guys": typed}))
    assert refused.value.code == "too-small"
