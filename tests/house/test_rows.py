"""A row says everything about itself once: a made-up kind, with a reference out and one in, a class
and a migration and nothing else, is created, changed, removed with what names it, exported, imported
and undone; and every kind of the product lies in its table as its class says."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from functools import cache
from typing import Annotated, ClassVar, Literal, get_args

import pytest
from pydantic import Field

from evtro.core.job import In, Job, Target
from evtro.core.job.base import Id, Name, Ref, Row, Table
from evtro.core.job.references import check_references, without
from evtro.core.job.registry import Column, Kind, new_row_id, registry
from evtro.core.units.quantities import InputError
from evtro.demo.world import fern_cottage
from evtro.store.connection import migrate
from evtro.store.jobs import Jobs
from tests.refusals import refused


class Gadget(Row):
    """A made-up kind that names a target."""

    table: ClassVar[Table] = Table("gadget", "gadget", "xg")

    id: Id
    target: Annotated[Id | None, Ref("targets", gone="cleared")] = None
    size_m: Annotated[float, In("m"), Field(title="Size", ge=0, le=10)] = 1.0
    kind: Literal["round", "square"] = "round"
    tags: Annotated[tuple[Name, ...], Field(max_length=9)] = ()
    on: bool = False


class Lid(Row):
    """A made-up kind that goes with its gadget."""

    table: ClassVar[Table] = Table("lid", "lid", "xl")

    id: Id
    gadget: Annotated[Id, Ref("gadgets", gone="with it")]


class JobWithGadgets(Job):
    """A job with two kinds of row more."""

    gadgets: Annotated[tuple[Gadget, ...], Field(max_length=3000)] = ()
    lids: Annotated[tuple[Lid, ...], Field(max_length=3000)] = ()


MIGRATION = """
CREATE TABLE gadget (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE, id TEXT NOT NULL, seq INTEGER NOT NULL,
  target TEXT, size_m REAL NOT NULL, kind TEXT NOT NULL, tags TEXT NOT NULL, "on" INTEGER NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, target) REFERENCES target (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
CREATE TABLE lid (
  job TEXT NOT NULL REFERENCES job ON DELETE CASCADE, id TEXT NOT NULL, seq INTEGER NOT NULL,
  gadget TEXT NOT NULL,
  PRIMARY KEY (job, id),
  FOREIGN KEY (job, gadget) REFERENCES gadget (job, id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
"""


@cache
def _migrated() -> bytes:
    """A database with the tables of all kinds, made once."""
    made = sqlite3.connect(":memory:", isolation_level=None)
    made.row_factory = sqlite3.Row
    migrate(made)
    made.executescript(MIGRATION)
    whole = made.serialize()
    made.close()
    return whole


@pytest.fixture
def database() -> Iterator[sqlite3.Connection]:
    made = sqlite3.connect(":memory:", isolation_level=None, check_same_thread=False)
    made.row_factory = sqlite3.Row
    made.deserialize(_migrated())
    made.execute("PRAGMA foreign_keys = ON")
    yield made
    made.close()


def _job(**values: object) -> JobWithGadgets:
    return JobWithGadgets.model_validate({**fern_cottage().model_dump(), **values})


def test_a_new_kind_lives_a_whole_life(database: sqlite3.Connection) -> None:
    jobs = Jobs(database, job_type=JobWithGadgets)
    first = jobs.add(_job(), "house")
    target = first.job.targets[0].id

    def add(job: Job) -> Job:
        gadget = Gadget(id=new_row_id(job, "gadgets"), target=target, tags=("a", "b"))
        return job.model_copy(update={"gadgets": (gadget,), "lids": (Lid(id="xl1", gadget="xg1"),)})

    made = jobs.change("house", 0, "add gadget", add)
    assert made.job.gadgets[0].id == "xg1"
    check_references(made.job)
    # Read again from the file, as another program would.
    again = Jobs(database, job_type=JobWithGadgets)
    assert again.get("house").job == made.job
    assert again.raw("house")["gadgets"][0]["tags"] == ["a", "b"]
    # Out and in.
    copy = JobWithGadgets.model_validate(made.job.model_dump(mode="json"))
    assert jobs.add(copy, "copy").job == made.job

    def turn_on(job: Job) -> Job:
        gadget = job.gadgets[0].model_copy(update={"on": True, "size_m": 2.5})
        return job.model_copy(update={"gadgets": (gadget,)})

    changed = jobs.change("house", 1, "change gadget", turn_on)
    # Its target goes: the gadget stays without one. The gadget goes: its lid goes with it.
    cleared = jobs.change("house", 2, "remove target", lambda j: without(j, "targets", target))
    assert cleared.job.gadgets[0].target is None
    gone = jobs.change("house", 3, "remove gadget", lambda j: without(j, "gadgets", "xg1"))
    assert (gone.job.gadgets, gone.job.lids) == ((), ())
    for back in (cleared, changed, made, first):
        assert jobs.undo("house", jobs.get("house").revision).job == back.job
    for _ in range(4):
        jobs.redo("house", jobs.get("house").revision)
    assert jobs.get("house").job == gone.job


def test_the_ids_of_a_family_lie_in_one_table(database: sqlite3.Connection) -> None:
    """What may name a dish or an array is kept by the file itself, in SQL as in the core."""
    jobs = Jobs(database, job_type=JobWithGadgets)

    def kept() -> set[str]:
        return {r["id"] for r in database.execute("SELECT id FROM antenna WHERE job = 'house'")}

    house = jobs.add(_job(), "house").job
    assert kept() == {a.id for a in house.antennas}
    gone = jobs.change("house", 0, "remove dish", lambda j: without(j, "dishes", "a2")).job
    assert kept() == {"a1"}
    assert all(p.antenna != "a2" for p in gone.parts)
    jobs.undo("house", 1)
    assert kept() == {"a1", "a2"}
    with pytest.raises(sqlite3.IntegrityError):
        database.execute("UPDATE part SET antenna = 'a9' WHERE job = 'house' AND antenna = 'a1'")
    with pytest.raises(sqlite3.IntegrityError):
        database.execute(
            "INSERT INTO preset VALUES ('house', 'z1', 1, 'a1', 'zone of an array', 0)"
        )
    database.execute("DELETE FROM job WHERE id = 'house'")
    assert kept() == set()


def test_what_names_nothing_is_refused() -> None:
    gadget = Gadget(id="xg1", target="t99")
    with pytest.raises(InputError, match="t99 is not in the job"):
        check_references(_job(gadgets=[gadget]))
    with refused("id-twice"):
        check_references(_job(gadgets=[Gadget(id="xg1"), Gadget(id="xg1")]))


def test_a_class_that_contradicts_itself_is_no_row() -> None:
    class Loose(Row):
        table: ClassVar[Table] = Table("loose", "loose", "xx")
        id: Id
        target: Annotated[Id, Ref("targets", gone="cleared")]

    class Wrong(Job):
        loose: Annotated[tuple[Loose, ...], Field(max_length=9)] = ()

    with pytest.raises(TypeError, match="cannot be cleared"):
        registry(Wrong)

    class Either(Row):
        table: ClassVar[Table] = Table("either", "either", "xx")
        id: Id
        what: Annotated[Id, Ref("targets", "carriers", gone="with it")]

    class Stranger(Job):
        either: Annotated[tuple[Either, ...], Field(max_length=9)] = ()

    with pytest.raises(TypeError, match="of no one family"):
        registry(Stranger)

    class Unbound(Job):
        lids: tuple[Lid, ...] = ()

    with pytest.raises(TypeError, match="needs a bound"):
        registry(Unbound)


@pytest.mark.parametrize("at", [0, 1000, 1999])
def test_one_row_of_two_thousand_is_removed_by_one_row(
    database: sqlite3.Connection, at: int
) -> None:
    jobs = Jobs(database, job_type=JobWithGadgets)
    gadgets = tuple(Gadget(id=f"xg{n + 1}") for n in range(2000))
    jobs.add(_job(gadgets=gadgets), "house")
    gone = gadgets[at].id
    before = database.total_changes
    jobs.change("house", 0, "remove gadget", lambda j: without(j, "gadgets", gone))
    # The row, the job's revision, the change, what it moved.
    assert database.total_changes - before <= 5
    diff = database.execute("SELECT diff FROM change").fetchone()["diff"]
    assert len(diff) < 300
    back = jobs.undo("house", 1).job
    assert back.gadgets == gadgets
    database.execute("UPDATE job SET state = 'another'")
    assert Jobs(database, job_type=JobWithGadgets).get("house").job.gadgets == gadgets


def test_rows_put_between_others_stay_there(database: sqlite3.Connection) -> None:
    jobs = Jobs(database, job_type=JobWithGadgets)
    jobs.add(_job(gadgets=[Gadget(id="xg1"), Gadget(id="xg2")]), "house")
    order = ["xg1", "xg2"]
    for n in range(3, 40):
        order.insert(1 if n % 3 else 0, f"xg{n}")
        rows = tuple(Gadget(id=i) for i in order)
        jobs.change("house", n - 3, "insert", lambda j, r=rows: j.model_copy(update={"gadgets": r}))
        database.execute("UPDATE job SET state = ? WHERE id = 'house'", (f"another {n}",))
        fresh = Jobs(database, job_type=JobWithGadgets).get("house").job
        assert [g.id for g in fresh.gadgets] == order
        jobs = Jobs(database, job_type=JobWithGadgets)


def _stored_as(kind: Kind, column: Column) -> str:
    annotation = kind.model.model_fields[column.name].annotation
    inner = [a for a in get_args(annotation) if a is not type(None)]
    base = inner[0] if column.optional else annotation
    while get_args(base) and hasattr(base, "__metadata__"):
        base = get_args(base)[0]
    if column.json:
        return "TEXT"
    return {bool: "INTEGER", int: "INTEGER", float: "REAL"}.get(base, "TEXT")  # type: ignore[call-overload,no-any-return]


@pytest.mark.parametrize("kind", registry(JobWithGadgets).kinds.values(), ids=lambda k: k.field)
def test_a_table_is_what_its_class_says(database: sqlite3.Connection, kind: Kind) -> None:
    known = registry(JobWithGadgets)
    lying = {
        (r["name"], r["type"], bool(r["notnull"]))
        for r in database.execute(f"PRAGMA table_info({kind.table.name})")
    } - {("job", "TEXT", True), ("job", "TEXT", False), ("seq", "INTEGER", True)}
    said = {(c.name, _stored_as(kind, c), not c.optional) for c in kind.columns}
    assert lying == said
    keys = {
        (r["from"], r["table"])
        for r in database.execute(f"PRAGMA foreign_key_list({kind.table.name})")
        if r["from"] != "job"
    }
    assert keys == {(c.name, known.named_table(c.ref)) for c in kind.columns if c.ref is not None}


def test_rows_are_rows_of_their_job() -> None:
    assert registry(Job).by_table("target") == registry(Job).kind("targets")
    assert registry(Job).kind("targets").model is Target
    with refused("rows-unknown"):
        registry(Job).kind("gadgets")
