"""What each verb does to a job. Pure: the same change to the same job gives the same job."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Any, NamedTuple

from pydantic import ValidationError

from ..job import Job, Row, changes
from ..job.changes import Change
from ..job.context import JobContext
from ..job.parts import Catalogue
from ..job.profile import Profile
from ..job.references import check_references, missing, without
from ..job.registry import Kind, new_row_id, registry, registry_of, rows_of
from ..job.stock import limits, stocked
from ..job.words import in_words
from ..network import branches
from ..network import edits as run
from ..stations.sky.moves import move_mount
from ..units.quantities import InputError, Step
from .actions import ACTION_WORDS, acted, ticked
from .guards import check_made
from .side_effects import side_effects
from .typed import Reader

HEAD = "job"


@dataclass(frozen=True)
class ChangeContext:
    """What a change may need beside the job: the workshop's parts and limits, the moment of now as
    text, and the steps of a job by their keys."""

    catalogue: Catalogue
    profile: Profile
    now: str = ""
    steps: Callable[[Job], Mapping[str, Step]] = lambda job: {}


def words_of(change: Change) -> str:
    """What history calls a change."""
    if isinstance(change, changes.Several):
        return change.words
    if isinstance(change, changes.Anew):
        return f"begin {change.axis} anew"
    noun = _noun(change)
    return {
        "add": f"add {noun}",
        "set": f"change {noun}",
        "remove": f"remove {noun}",
        "insert": "add part",
        "replace": "replace part",
        "join": "join parts",
        "copy": "copy branch",
        "lead": "lead a branch from elsewhere",
        "move": "move the mount",
        **ACTION_WORDS,
    }[change.verb]


def _noun(change: Change) -> str:
    rows = getattr(change, "rows", "")
    if rows == HEAD:
        return "the job"
    kind = registry(Job).kinds.get(rows) if rows else None
    return kind.noun if kind is not None else rows


class Applied(NamedTuple):
    """A job with a change carried out, notes on how typed text was read, and the ids that rows got which
    the change added under a name such as `$new`."""

    job: Job
    notes: list[str]
    named: dict[str, str]


def carry_out(job: Job, change: Change, bench: ChangeContext) -> Applied:
    """Carry out a change on a job. Raises InputError; nothing of a change that fails is kept."""
    reader = Reader(job, limits(job, bench.profile))
    work = _Work(job, bench, reader)
    work.carry_out(change)
    check_references(work.job)
    check_made(job, work.ctx)
    return Applied(work.job, reader.told(), work.named)


class _Work:
    """One change on its way: the job so far, and the ids of rows that it added by name."""

    def __init__(self, job: Job, bench: ChangeContext, reader: Reader) -> None:
        self.job, self.bench, self.reader = job, bench, reader
        self.named: dict[str, str] = {}

    @property
    def ctx(self) -> JobContext:
        """The job so far, with the data that it carries before the workshop's."""
        return JobContext(
            self.job,
            stocked(self.job, self.bench.catalogue),
            limits(self.job, self.bench.profile),
        )

    def carry_out(self, change: Change) -> None:
        if isinstance(change, changes.Several):
            for one in change.changes:
                self.carry_out(one)
        elif isinstance(change, changes.Add):
            self._add(change)
        elif isinstance(change, changes.Set):
            self._set(change)
        elif isinstance(change, changes.Remove):
            self._remove(change)
        elif isinstance(change, changes.Move):
            self.job = move_mount(self.job, change.bearing_deg, change.distance_m, change.height_m)
        elif isinstance(change, changes.Action):
            self._act(change)
        else:
            self._run(change)

    def _act(self, change: changes.Action) -> None:
        bench = self.bench
        if isinstance(change, changes.Tick):
            self.job = ticked(
                self.job, change, bench.steps(self.job), bench.now, reader=self.reader
            )
            return
        own = isinstance(change, changes.OwnLimit)
        named = {k: self._id(v) for k, v in change if k in ("array", "dish", "spot", "stop") and v}
        self.job = acted(
            replace(self.ctx, profile=bench.profile) if own else self.ctx,
            change.model_copy(update=named),
            reader=self.reader,
        )

    def _id(self, name: str) -> str:
        if not name.startswith("$"):
            return name
        if name not in self.named:
            raise InputError(
                "Change", f"{name} was not added before.", "Add it first.", "not-named"
            )
        return self.named[name]

    def _kind(self, rows: str) -> Kind:
        return registry_of(self.job).kind(rows)

    def _values(self, kind: Kind, given: changes.Values) -> dict[str, Any]:
        return {
            k: self._id(v)
            if isinstance(v, str) and v.startswith("$") and (c := kind.column(k)) and c.ref
            else v
            for k, v in given.items()
        }

    def _habits(
        self, kind: Kind, old: Row | None, change: changes.Add | changes.Set
    ) -> dict[str, Any]:
        given = self._values(kind, change.values)
        if not change.as_is:
            given = side_effects(
                self.ctx,
                kind,
                old=old,
                given=given,
                now=self.bench.now,
                reader=self.reader,
            )
        self._names_what_is_there(kind, given)
        return given

    def _names_what_is_there(self, kind: Kind, given: dict[str, Any]) -> None:
        for name, value in given.items():
            column = kind.column(name)
            if column is None or column.ref is None or not value:
                continue
            known = [self._kind(to) for to in column.ref.to]
            if all(r.id != value for k in known for r in rows_of(self.job, k.field)):
                raise InputError(
                    known[0].noun.capitalize(),
                    f"{value} is not in the job.",
                    "Choose one that is there.",
                    "reference-missing",
                )

    def _add(self, change: changes.Add) -> None:
        kind = self._kind(change.rows)
        _no_ticks(kind)
        _no_pictures(kind)
        if not kind.many:
            raise InputError(
                "Rows", f"a job has one {kind.noun}.", "Change it instead.", "rows-unknown"
            )
        if len(rows_of(self.job, kind.field)) >= (kind.most or 0):
            raise InputError(
                kind.noun.capitalize(),
                f"a job holds at most {kind.most}.",
                "Remove one first.",
                "too-many",
            )
        values = self._habits(kind, None, change)
        _no_empty_name(kind, values)
        row = _row(kind, {"id": new_row_id(self.job, kind.field), **values})
        self.job = self.job.model_copy(update={kind.field: (*rows_of(self.job, kind.field), row)})
        if change.called is not None:
            self.named[change.called] = row.id  # type: ignore[attr-defined]

    def _set(self, change: changes.Set) -> None:
        if change.rows == HEAD:
            self._set_head(change.values)
            return
        kind = self._kind(change.rows)
        _no_ticks(kind)
        if not kind.many:
            old = getattr(self.job, kind.field)
            values = self._habits(kind, old, change)
            row = _row(kind, {**old.model_dump(), **values})
            self.job = self.job.model_copy(update={kind.field: row})
            return
        key = self._id(change.id)
        old = next((r for r in rows_of(self.job, kind.field) if r.id == key), None)
        if old is None:
            raise missing(kind, key)
        values = self._habits(kind, old, change)
        row = _row(kind, {**old.model_dump(), **values})
        self.job = self.job.model_copy(
            update={
                kind.field: tuple(row if r.id == key else r for r in rows_of(self.job, kind.field))
            }
        )

    def _set_head(self, given: changes.Values) -> None:
        known = registry_of(self.job)
        for name in given:
            if name not in known.head:
                raise InputError(
                    name, "it is not a field of the job.", "Take it out.", "unknown-field"
                )
        try:
            head = type(self.job).model_validate(
                {**{k: getattr(self.job, k) for k in known.head}, **given}
            )
        except ValidationError as error:
            raise in_words(error)[0] from error
        self.job = self.job.model_copy(update={k: getattr(head, k) for k in known.head})

    def _remove(self, change: changes.Remove) -> None:
        kind, key = self._kind(change.rows), self._id(change.id)
        if kind.field == "parts":
            self.job = run.remove(self.ctx, key)
        else:
            self.job = without(self.job, kind.field, key)

    def _run(
        self,
        change: changes.Insert
        | changes.Replace
        | changes.Join
        | changes.CopyBranch
        | changes.LeadFrom,
    ) -> None:
        if isinstance(change, changes.CopyBranch | changes.LeadFrom):
            part, after = self._id(change.part), self._id(change.after)
            if isinstance(change, changes.LeadFrom):
                self.job = branches.lead_from(self.ctx, part, after=after, port=change.port)
                return
            self.job, new = branches.copy_branch(
                self.ctx,
                part,
                after=after,
                port=change.port,
                floor=change.floor,
            )
            if change.called is not None:
                self.named[change.called] = new
            return
        if isinstance(change, changes.Replace):
            self.job = run.replace(self.ctx, self._id(change.part), change.type)
            return
        cable = change.cable
        if cable not in self.ctx.catalogue.cables:
            raise InputError(
                "Cable",
                f"“{cable}” is not in the catalogue.",
                f"Use one of {', '.join(self.ctx.catalogue.cables)}.",
                "cable-unknown",
            )
        length = self.reader.figure(self._kind("links"), "length_m", change.length_m)
        if isinstance(change, changes.Join):
            self.job = run.join(
                self.ctx,
                after=self._id(change.part),
                to=self._id(change.to),
                cable=cable,
                length_m=length,
                to_port=change.to_port,
            )
            return
        new = self._insert(change, cable, length)
        if change.setting_db is not None:
            self.job = run.with_setting(self.job, new, change.setting_db)
        if change.called is not None:
            self.named[change.called] = new

    def _insert(self, change: changes.Insert, cable: str, length_m: float) -> str:
        if change.antenna is not None:
            self.job = run.add_source(self.ctx, self._id(change.antenna), change.type)
            return self.job.parts[-1].id
        if change.into is not None:
            self.job, new = run.insert(self.ctx, self._id(change.into), change.type)
            return new
        if change.after is None:
            raise InputError(
                "Part", "it is not said where it goes.", "Name the part before it.", "part-nowhere"
            )
        outlet = None if change.outlet is None else self._id(change.outlet)
        if outlet is not None and all(o.id != outlet for o in self.job.outlets):
            raise missing(self._kind("outlets"), outlet)
        self.job, new = run.add_after(
            self.ctx,
            after=self._id(change.after),
            type_key=change.type,
            cable=cable,
            length_m=length_m,
            outlet=outlet,
            port=change.port,
        )
        return new


def _no_ticks(kind: Kind) -> None:
    """A step is ticked where its danger is read and confirmed, and nowhere else."""
    if kind.field == "marks":
        raise InputError(
            "Step",
            "a step is ticked at its own place.",
            "Open the station's steps, read the danger and tick it there.",
            "danger-unread",
        )


def _no_pictures(kind: Kind) -> None:
    """A photo comes with its file."""
    if kind.field == "photos":
        raise InputError(
            "Photo",
            "a photo is taken at its step.",
            "Open the station's steps and take it there.",
            "photo-bare",
        )


def _no_empty_name(kind: Kind, values: dict[str, Any]) -> None:
    for column in kind.columns:
        plain = kind.model.model_fields[column.name].annotation is str
        if plain and column.required and column.name != "id" and column.ref is None:
            value = values.get(column.name)
            if value is not None and not str(value).strip():
                raise InputError(column.title, "it is empty.", "Type it.", "missing")


def _row(kind: Kind, values: dict[str, Any]) -> Row:
    try:
        return kind.model.model_validate(values)
    except ValidationError as error:
        raise in_words(error, kind.model)[0] from error
