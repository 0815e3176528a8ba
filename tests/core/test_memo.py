"""What is used again is what would have been worked out anew, whatever changed in between."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro import catalogue, profiles
from evtro.core.answers import Answers, work_out
from evtro.core.job import Job, TaskRecord
from evtro.core.job.references import without
from evtro.core.job.registry import registry
from evtro.core.memo import Memo
from evtro.core.units.quantities import InputError
from evtro.demo.world import demo_jobs
from tests.proving import examples
from tests.rows import any_row

CATALOGUE = catalogue.load()
JOBS = demo_jobs()
KINDS = registry(Job)
# Kept apart: what the plan is drawn from, what names parts of the catalogue, the ground.
LASTING = {"part_data", "cable_data", "array_data", "limit_data", "reliefs", "marks"}
OWN = {
    "kind",
    "type",
    "cable",
    "role",
    "step",
    "from_part",
    "to_part",
    "from_port",
    "to_port",
    "modulation",
    "model",
    "material",
    "length_m",
}


def _answers(job: Job, memo: Memo | None = None) -> Answers:
    return work_out(job, CATALOGUE, profiles.load(job.profile), memo)


@st.composite
def changed(draw: st.DrawFn, job: Job) -> Job:
    """The job with one row made another, or taken away with what names it."""
    there = [
        k
        for k in KINDS.kinds.values()
        if k.field not in LASTING and (not k.many or getattr(job, k.field))
    ]
    kind = draw(st.sampled_from(there))
    if not kind.many:
        old = getattr(job, kind.field)
        fixed = {c.name: getattr(old, c.name) for c in kind.columns if c.ref is not None}
        return job.model_copy(update={kind.field: any_row(draw, kind.model, **fixed)})
    rows = getattr(job, kind.field)
    old = draw(st.sampled_from(rows))
    if draw(st.integers(0, 4)) == 0:
        return without(job, kind.field, old.id)
    keep = {c.name for c in kind.columns if c.ref is not None or c.name in OWN or c.json} | {"id"}
    keep |= {"covering", "pattern", "orbit_deg_e", "latitude_deg", "longitude_deg"}
    names = set(kind.model.model_fields)
    new = any_row(draw, kind.model, **{n: getattr(old, n) for n in keep & names})
    return job.model_copy(update={kind.field: tuple(new if r is old else r for r in rows)})


def _all(found: Answers) -> list[object]:
    return [
        found.site,
        found.sky,
        found.aim,
        found.mast,
        found.earth,
        found.coax.view,
        found.readings,
        found.handover,
        found.stations,
        found.steps,
        found.sheet,
        [found.coax.detail(p) for p in found.coax.names],
    ]


@pytest.mark.parametrize("name", ["skerry-house", "harrow-farm", "alder-terrace"])
@given(data=st.data())
@examples(3, 60)
def test_what_is_used_again_is_what_would_be_worked_out(name: str, data: st.DataObject) -> None:
    """A walk of changes, back to where it began at times; looked at now and then only, so that what
    was not looked at before is worked out later."""
    walk, memo = [JOBS[name]], Memo()
    for _ in range(data.draw(st.integers(1, 4))):
        try:
            walk.append(data.draw(changed(data.draw(st.sampled_from(walk)))))
        except InputError:
            continue
        job = walk[-1]
        again = _answers(job, memo)
        found = _all(again) if data.draw(st.booleans()) else [again.stations]
        fresh = _answers(job, Memo())
        assert found == (_all(fresh) if len(found) > 1 else [fresh.stations])


def test_only_what_reads_a_field_is_worked_out_anew() -> None:
    job = JOBS["skerry-house"]
    memo = Memo()
    before = _answers(job, memo)
    assert before.stations
    note = job.handover.model_copy(update={"remarks": "by the gate"})
    after = _answers(job.model_copy(update={"handover": note}), memo)
    assert after.coax.verdict is before.coax.verdict
    assert [
        getattr(after, k) is getattr(before, k) for k in ("site", "sky", "aim", "mast", "earth")
    ] == [True] * 5
    mast = _answers(
        job.model_copy(update={"mast": job.mast.model_copy(update={"wind_ms": 50.0})}), memo
    )
    assert mast.coax.solved is before.coax.solved
    assert mast.mast is not before.mast
    assert mast.mast.percent > before.mast.percent


def test_a_job_is_worked_out_from_its_fields() -> None:
    """What reads the whole of it at once would go unnoticed: it is refused."""
    memo = Memo()
    for read in (hash, lambda j: j == j, list, lambda j: j.model_dump()):
        with pytest.raises(TypeError, match="not from the whole"):
            memo.of("x", JOBS["skerry-house"], read)
    assert memo.of("x", JOBS["skerry-house"], lambda j: len(j.antennas)) == 2


def test_nothing_is_read_after_the_answer_is_kept() -> None:
    """It would be of the job of then, and no one would know."""
    kept = Memo().of("x", JOBS["skerry-house"], lambda j: [j, j.parts])[0]
    assert kept.parts
    with pytest.raises(TypeError, match="read after its answer"):
        kept.carriers  # noqa: B018


def test_which_answers_are_worked_out_again() -> None:
    """By the kind of change: nothing that it does not concern."""
    job, memo = JOBS["skerry-house"], Memo()
    names = ("site", "sky", "aim", "mast", "earth", "network", "coax")

    def looked(of: Job) -> dict[str, object]:
        found = _answers(of, memo)
        whole = {name: getattr(found, name) for name in names}
        # What is remembered of the network is its solution and the verdict on it.
        return whole | {"network": found.network.solved, "coax": found.coax.verdict}

    def first(rows: str, **values: object) -> Job:
        row, *others = getattr(job, rows)
        return job.model_copy(update={rows: (row.model_copy(update=values), *others)})

    before = looked(job)
    assert before["coax"] is looked(job)["coax"]
    for changed_job, again in (
        (
            job.model_copy(update={"marks": (TaskRecord(id="m1", step="coax.handy", note="yes"),)}),
            {"aim"},  # read azimuths stand in ticks
        ),
        (first("outlets", name="Snug"), {"site", "network", "coax"}),
        (
            job.model_copy(update={"mast": job.mast.model_copy(update={"crew": 2})}),
            {"mast", "earth", "coax"},
        ),
        (first("links", length_m=17.0), {"network", "coax"}),
    ):
        after = looked(changed_job)
        assert {name for name in names if after[name] is not before[name]} == again
