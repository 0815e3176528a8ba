"""What goes into the van: cuts against every way there is, and a list that follows the plan."""

from __future__ import annotations

import itertools
import math
from collections import Counter

import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro.core.job import Job
from evtro.core.job.changes import Add, Remove, Replace, Set
from evtro.core.stations.kit.cuts import cut
from evtro.core.stations.kit.kit import WASTE_M, KitView
from evtro.core.units.quantities import text_of
from tests.changes import CATALOGUE, JOBS, answers_of, steps_of, taken
from tests.proving import examples


def _kit(job: Job) -> KitView:
    return answers_of(job).kit


def _fewest(pieces: list[int], reel: int) -> int:
    """Every way to lay pieces on reels, by brute force."""
    for count in range(1, len(pieces) + 1):
        for ways in itertools.product(range(count), repeat=len(pieces)):
            load = [0] * count
            for piece, at in zip(pieces, ways, strict=True):
                load[at] += piece
            if max(load) <= reel:
                return count
    return len(pieces)


@examples(20, 400)
@given(st.lists(st.integers(5, 70), min_size=1, max_size=6), st.sampled_from([70, 90, 100]))
def test_no_fewer_reels_would_do(pieces: list[int], reel: int) -> None:
    found, long, proven = cut([float(p) for p in pieces], float(reel))
    assert not long
    assert proven
    assert len(found) == _fewest(pieces, reel)
    assert sorted(n for r in found for n in r.pieces) == list(range(len(pieces)))
    for r in found:
        assert r.left_m == pytest.approx(reel - sum(pieces[n] for n in r.pieces))
        assert r.left_m >= 0


def test_first_fit_alone_would_open_a_reel_too_many() -> None:
    """44, 24, 24, 22, 21, 17, 8, 8, 6 and 6 m from reels of 60 m: the longest first wants four, three do."""
    found, _, proven = cut([44.0, 24, 24, 22, 21, 17, 8, 8, 6, 6], 60.0)
    assert len(found) == 3
    assert proven


@given(st.lists(st.floats(0.5, 140), min_size=1, max_size=60))
def test_many_pieces_are_all_cut_and_what_is_longer_than_a_reel_is_told(
    pieces: list[float],
) -> None:
    found, long, _ = cut(pieces, 100.0)
    assert sorted([*long, *(n for r in found for n in r.pieces)]) == list(range(len(pieces)))
    assert all(pieces[n] > 100 for n in long)
    assert all(r.left_m > -1e-6 for r in found)


@pytest.mark.parametrize("name", sorted(JOBS))
def test_the_list_holds_all_that_the_plan_has(name: str) -> None:
    job = JOBS[name]
    kit = _kit(job)
    parts = Counter(p.type for p in job.parts)
    told = {text_of(n.name): n for n in kit.needs if n.kind == "part"}
    for key, count in parts.items():
        kind = CATALOGUE.parts[key]
        if kind.draws_as not in ("antenna", "line"):
            assert told[kind.name].count - told[kind.name].spare == count
    pulled = [k for k in job.links if k.length_m > 0]
    cuts = [c for r in kit.reels for c in r.cuts]
    assert len(cuts) == len(pulled)
    assert len({c.label for c in cuts}) == len(cuts)
    assert sum(c.length_m for c in cuts) >= sum(k.length_m + 2 * WASTE_M for k in pulled) - 0.5
    labels = next((n for n in kit.needs if text_of(n.name) == "label"), None)
    assert (labels.count - labels.spare if labels else 0) == 2 * len(pulled)
    tools = {text_of(n.name) for n in kit.needs if n.kind == "tool"}
    assert ("inclinometer" in tools) == bool(job.dishes)
    if job.rig.kind != "none" or job.mast.fixing == "loft":
        assert not any(t.startswith(("drill", "ladder")) for t in tools)


def test_the_list_follows_a_changed_plan() -> None:
    job = JOBS["skerry-house"]
    before = {text_of(n.name): n.count for n in _kit(job).needs}
    brick = taken(job, Set(rows="mast", values={"base": "brick", "bolts": 6}))
    after = {text_of(n.name): n for n in _kit(brick).needs}
    assert after["M8 fixing"].count == 2 * 6 + 2
    assert "frame plug" in text_of(after["M8 fixing"].why)
    longer = taken(job, Set(rows="links", id="l20", values={"length_m": "60 m"}))
    name = CATALOGUE.cables["rg6"].name
    grown = next(n.count for n in _kit(longer).needs if text_of(n.name) == name)
    assert grown == pytest.approx(
        before[name] + 60 - next(k.length_m for k in job.links if k.id == "l20"), abs=0.11
    )
    plate = next(p.id for p in job.parts if p.type == "plate")
    fewer = taken(job, Remove(rows="parts", id=plate))
    assert {text_of(n.name): n.count for n in _kit(fewer).needs}["Wall plate"] == before[
        "Wall plate"
    ] - 1
    larger = taken(job, Replace(part="p6", type="multiswitch-16"))
    assert CATALOGUE.parts["multiswitch-16"].name in {text_of(n.name) for n in _kit(larger).needs}


def test_a_price_that_is_typed_is_added_up() -> None:
    job = JOBS["skerry-house"]
    assert _kit(job).cost == 0
    data = tuple(
        d.model_copy(update={"data": d.data.model_copy(update={"price": 7.5})})
        if d.data.key == "plate"
        else d
        for d in job.part_data
    )
    kit = _kit(job.model_copy(update={"part_data": data}))
    assert kit.cost == pytest.approx(12 * 7.5)
    assert kit.unpriced == _kit(job).unpriced - 1


def test_guys_and_every_stretch_of_a_conductor_are_on_the_list() -> None:
    house = JOBS["skerry-house"]
    first = next(c for c in house.conductors if c.role == "mast")
    longer = taken(
        house,
        Add(
            rows="conductors",
            values={
                "role": "mast",
                "after": first.id,
                "material": "steel",
                "size_mm2": 50,
                "length_m": 2,
            },
        ),
    )
    names = {text_of(n.name): n.count for n in _kit(longer).needs}
    assert names["steel conductor, 50.0 mm²"] == 2
    assert max(n.count for n in _kit(longer).needs if text_of(n.name).startswith("clamp")) == 3
    guyed = taken(house, Set(rows="mast", values={"guys": 3, "guy_m": 1.0, "guy_out_m": 2.0}))
    ropes = {text_of(n.name): n.count for n in _kit(guyed).needs}
    held = house.mast.held_m
    assert ropes["guy rope, 4 mm"] == pytest.approx(
        3 * (math.hypot(1.0 + held, 2.0) + 1.0), abs=0.06
    )
    assert ropes["anchor, turnbuckle and two thimbles for a guy"] == 3
    assert "mast.guys" in steps_of(guyed)
