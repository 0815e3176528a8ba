"""Changes as values: what each verb does, what goes along, and that any two jobs are a change apart."""

from __future__ import annotations

import json
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError

from evtro.core.job import Job
from evtro.core.job.changes import Add, Change, Insert, Join, Move, Remove, Replace, Set, Several
from evtro.core.job.diff import as_change
from evtro.core.job.references import check_references
from evtro.core.job.registry import registry, rows_of
from evtro.core.units.quantities import InputError
from evtro.demo.world import demo_jobs
from tests.changes import taken
from tests.proving import examples
from tests.refusals import refused

JOBS = demo_jobs()
SKERRY = JOBS["skerry-house"]
WIRE: TypeAdapter[Change] = TypeAdapter(Change)


def _sorted(job: Job) -> dict[str, Any]:
    """A job's values without the order of its rows."""
    values = job.model_dump(mode="json")
    return {
        k: sorted(v, key=lambda r: r["id"]) if isinstance(v, list) else v for k, v in values.items()
    }


@st.composite
def changes(draw: st.DrawFn, job: Job) -> Change:
    """A change that may be made to a job: any verb, any list."""
    known = registry(Job)
    verb = draw(st.sampled_from(["add", "set", "remove", "move", "insert", "several"]))
    if verb == "move":
        return Move(bearing_deg=draw(st.integers(0, 359)), distance_m=draw(st.integers(0, 9)))
    if verb == "add":
        return Add(rows="outlets", values={"name": draw(st.sampled_from(["Loft", "Attic"]))})
    if verb == "insert" and job.links:
        link = draw(st.sampled_from(job.links)).id
        return Insert(type="attenuator", into=link, setting_db=float(draw(st.integers(1, 20))))
    if verb == "several":
        return Several(words="two", changes=(draw(changes(job)), draw(changes(job))))
    lists = [k.field for k in known.lists if rows_of(job, k.field)]
    rows = draw(st.sampled_from(lists))
    row = draw(st.sampled_from(rows_of(job, rows)))
    if verb == "remove":
        return Remove(rows=rows, id=row.id)
    kind = known.kind(rows)
    names = [c.name for c in kind.columns if c.name in ("name", "note", "floor")]
    if not names:
        return Remove(rows=rows, id=row.id)
    return Set(rows=rows, id=row.id, values={draw(st.sampled_from(names)): "Another"})


@given(st.data(), st.sampled_from(sorted(JOBS)))
@examples(20, 400)
def test_a_change_and_the_change_back_give_the_same_job(data: st.DataObject, name: str) -> None:
    job = JOBS[name]
    change = data.draw(changes(job))
    try:
        after = taken(job, change)
    except InputError:
        return  # it cannot be done to this job, and said why
    check_references(after)
    # Any two jobs are a change apart, both ways.
    there = as_change(job, after, "there")
    assert _sorted(taken(job, there)) == _sorted(after)
    back = taken(after, as_change(after, job, "back"))
    assert _same_but_ids(back, job)
    # It crosses the wire and history as it is.
    assert WIRE.validate_json(WIRE.dump_json(there)) == there


def _same_but_ids(one: Job, other: Job) -> bool:
    """Rows that came back have ids of their own, also where a single row names them."""
    return _but_ids(one) == _but_ids(other)


def _but_ids(job: Job) -> dict[str, object]:
    found = {k: len(v) if isinstance(v, list) else v for k, v in _sorted(job).items()}
    for kind in registry(Job).singles:
        refs = {c.name for c in kind.columns if c.ref is not None}
        row = found[kind.field]
        if refs and isinstance(row, dict):
            found[kind.field] = {k: v is not None if k in refs else v for k, v in row.items()}
    return found


def test_what_goes_along_with_a_typed_value() -> None:
    placed = taken(SKERRY, Set(rows="site", values={"position_text": "57.5 N 3.25 W"}))
    assert (placed.site.latitude_deg, placed.site.longitude_deg) == (57.5, -3.25)
    typed = taken(SKERRY, Set(rows="dishes", id="a1", values={"wind_area_m2": "0,8 m²"}))
    assert (typed.dishes[0].wind_area_m2, typed.dishes[0].area_from) == (0.8, "own")
    tree = SKERRY.obstructions[0]
    seen = taken(SKERRY, Set(rows="obstructions", id=tree.id, values={"top_deg": 12}))
    lower = seen.obstructions[0]
    assert (lower.top_deg, lower.above_m) == (12, None)
    assert lower.seen_from_m == SKERRY.site.mount_height_m
    # As it is: nothing goes along.
    bare = taken(SKERRY, Set(rows="dishes", id="a1", values={"wind_area_m2": 0.8}, as_is=True))
    assert bare.dishes[0].area_from == SKERRY.dishes[0].area_from


def test_rows_that_are_added_together_name_each_other() -> None:
    change = Several(
        words="a satellite with its carrier",
        changes=(
            Add(
                rows="targets",
                called="$sat",
                values={"kind": "satellite", "name": "Petrel", "orbit_deg_e": "10 E"},
            ),
            Add(
                rows="carriers",
                values={
                    "target": "$sat",
                    "name": "T1",
                    "frequency_mhz": "11,5 GHz",
                    "bandwidth_mhz": "27,5",
                    "polarisation": "V",
                    "power": "52",
                    "modulation": "DVB-S2 8PSK 3/4",
                },
            ),
        ),
    )
    job = taken(SKERRY, change)
    assert job.carriers[-1].target == job.targets[-1].id
    assert (job.targets[-1].orbit_deg_e, job.carriers[-1].frequency_mhz) == (10.0, 11500.0)


def test_several_are_all_or_none() -> None:
    broken = Several(
        words="",
        changes=(Add(rows="outlets", values={"name": "Loft"}), Remove(rows="outlets", id="o999")),
    )
    with pytest.raises(InputError, match="o999 is not in the job"):
        taken(SKERRY, broken)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (Set(rows="nothing", id="x1", values={}), "no list of a job"),
        (Set(rows="outlets", id="o1", values={"colour": "red"}), "not a field"),
        (Set(rows="outlets", id="o1", values={"id": "o2"}), "not a field"),
        (Add(rows="site", values={}), "a job has one site"),
        (Add(rows="outlets", values={"name": " "}), "it is empty"),
        (Add(rows="carriers", values={"target": "t99", "name": "x"}), "t99 is not in the job"),
        (Add(rows="readings", values={"part": "p99", "carrier": "c1"}), "p99 is not in the job"),
        (Set(rows="job", values={"date": "tomorrow"}), "not a date"),
        (Set(rows="job", values={"outlets": []}), "not a field of the job"),
        (Set(rows="links", id="l1", values={"length_m": "10 km"}), "at most 1000"),
        (Set(rows="mast", values={"length_m": True}), "no figure"),
        (Insert(type="splitter-2"), "not said where it goes"),
        (Insert(type="amplifier-20", after="p1", cable="rope"), "rope"),
        (Join(part="p1", to="p99"), "p99"),
        (Replace(part="p1", type="splitter-2"), "cannot stand in this place|too few ports"),
        (
            Add(rows="outlets", values={"name": "x"}, called=None).model_copy(
                update={"rows": "spots"}
            ),
            "",
        ),
    ],
)
def test_what_cannot_be_is_said(change: Change, words: str) -> None:
    if not words:
        assert taken(SKERRY, change).spots[-1].name == "x"
        return
    with pytest.raises(InputError, match=words) as told:
        taken(SKERRY, change)
    assert told.value.field


@pytest.mark.parametrize(
    "text",
    [
        '{"verb": "fly"}',
        '{"verb": "set", "rows": "site", "values": {"a": NaN}}',
        "[]",
        '{"verb": "add"}',
        '{"verb": "set", "rows": "site", "values": {"note": "\\ud800"}}',
        '{"verb": "remove", "rows": "outlets", "id": "../x"}',
        json.dumps({"verb": "set", "rows": "site", "values": {f"k{i}": 1 for i in range(200)}}),
    ],
)
def test_what_is_no_change_is_refused_at_the_edge(text: str) -> None:
    with pytest.raises((ValidationError, InputError)):
        WIRE.validate_json(text)


def test_a_job_of_many_rows_is_bounded() -> None:
    full = Several(
        words="many",
        changes=tuple(Add(rows="outlets", values={"name": f"{n}"}) for n in range(256)),
    )
    with pytest.raises(InputError, match="at most 256"):
        taken(SKERRY, full)


@pytest.mark.parametrize("as_is", [False, True])
@pytest.mark.parametrize(
    ("name", "rows", "row", "values", "words"),
    [
        (
            "tern-hut",
            "terminal",
            "",
            {"state": "commissioned", "esn0_db": None},
            "cannot be commissioned",
        ),
        ("skerry-house", "links", "l2", {"from_part": "p1", "from_port": 0}, "two cables"),
        ("skerry-house", "links", "l1", {"from_port": 60}, "no port"),
        ("skerry-house", "targets", "t1", {"kind": "transmitter"}, "another kind"),
        ("harrow-farm", "arrays", "a1", {"covering": "cheese"}, "cheese"),
        ("skerry-house", "parts", "p1", {"type": "splitter-2"}, "cannot stand"),
        ("skerry-house", "carriers", "c1", {"modulation": "nonsense"}, "not known"),
        ("skerry-house", "mast", "", {"wind_region": "moon"}, "moon"),
    ],
)
def test_no_writing_of_a_change_goes_round_a_gate(
    name: str, rows: str, row: str, values: dict[str, Any], words: str, as_is: bool
) -> None:
    """Not even one that says its values are all there is to it, as a remedy does."""
    with pytest.raises(InputError, match=words):
        taken(JOBS[name], Set(rows=rows, id=row, values=values, as_is=as_is))


@pytest.mark.parametrize("as_is", [False, True])
def test_a_danger_is_confirmed_at_its_step_and_nowhere_else(as_is: bool) -> None:
    ticked = {"step": "site.overhead", "at": "2026-03-01T10:00:00", "danger_read": True}
    with refused("danger-unread"):
        taken(SKERRY, Add(rows="marks", values=ticked, as_is=as_is))


def test_a_loop_is_refused_however_it_is_joined() -> None:
    job = taken(SKERRY, Insert(type="splitter-2", into=SKERRY.links[-1].id, called="$s"))
    split = next(p for p in job.parts if p.id not in {q.id for q in SKERRY.parts})
    into = next(k for k in job.links if k.to_part == split.id)
    with refused("loop"):
        taken(job, Set(rows="links", id=into.id, values={"from_part": split.id, "from_port": 1}))
