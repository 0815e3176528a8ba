"""Station Coax: the designer."""

from __future__ import annotations

import time
from typing import Annotated, Literal

from fastapi import APIRouter, Path, Query
from pydantic import ValidationError

from evtro.core.job.changes import Change
from evtro.core.job.targets import wanted_job
from evtro.core.job.words import in_words
from evtro.core.stations.coax.design.compare import Design
from evtro.core.stations.coax.design.head import head_of
from evtro.core.stations.coax.design.wish import Route, Wish
from evtro.core.units.quantities import InputError, Unit

from ..common import READ, AtDesk, JobId
from ..schemas import Closed
from ..typing import plain

router = APIRouter(prefix="/api/jobs/{job_id}/designs", tags=["design"])
_LINES: dict[str, tuple[str, Unit]] = {
    "reserve_db": ("Reserve", "db"), "head_m": ("To the first floor", "m"), "floor_m": ("From floor to floor", "m"),
    "riser": ("Riser", "count"), "floor": ("Floor from the head", "count"), "drop_m": ("Drop", "m"),
}  # fmt: skip
Key = Annotated[str, Path(pattern=r"^[a-f0-9]{10}$")]


class WishLine(Closed):
    """A line of a wish as somebody typed it: of the whole, or of an outlet's route."""

    field: Literal["reserve_db", "head_m", "floor_m", "riser", "floor", "drop_m"]
    text: Annotated[str, Query(max_length=60)]
    outlet: Annotated[str, Query(pattern=r"^([a-z]+[0-9]+)?$", max_length=12)] = ""


class WishAsked(Closed):
    """A wish, none yet for a first one, and what was typed of it."""

    wish: Wish | None = None
    typed: WishLine | None = None


class DesignBegun(Closed):
    """The key of a design that is being searched."""

    key: str


class DesignState(Closed):
    """How far a design is: the best value so far and what none can beat; and what came of it."""

    state: Literal["working", "done", "stopped"]
    seconds: float
    best: float | None
    bound: float | None
    design: Design | None


class DesignChange(Closed):
    """The change that takes a plan."""

    change: Change


@router.post("/options", response_model=Wish, responses=READ)
def read_wish(desk: AtDesk, job_id: JobId, body: WishAsked) -> Wish:
    """A wish with a route for each outlet, from the run as it is, and with a line as it was typed."""
    kept = desk.jobs.get(job_id)
    job = wanted_job(kept.job)
    wish = body.wish or Wish()
    wish.outlets_of(job)
    head = head_of(desk.answers(kept).network.wanted)
    wish = wish.checked(job, head.lengths_m, head.hangs)
    return _typed(wish, body.typed) if body.typed is not None else wish


def _typed(wish: Wish, line: WishLine) -> Wish:
    title, unit = _LINES[line.field]
    value: float = plain(title, line.text, unit)
    of = Route if line.field in Route.model_fields else Wish
    if line.field in ("riser", "floor"):
        if value != round(value):
            raise InputError(title, f"{value:g} is none.", "Count them: 1, 2, 3.", "design-count")
        value = int(value)
    try:
        if of is Wish:
            return Wish.model_validate(wish.model_dump() | {line.field: value})
        routes = [
            Route.model_validate(r.model_dump() | {line.field: value})
            if r.outlet == line.outlet
            else r
            for r in wish.routes
        ]
        return wish.model_copy(update={"routes": tuple(routes)})
    except ValidationError as error:
        raise in_words(error, of)[0].at(title) from None


@router.post("", response_model=DesignBegun, responses=READ)
def begin_design(desk: AtDesk, job_id: JobId, wish: Wish) -> DesignBegun:
    """Design a job's run; look at it by its key."""
    job = desk.jobs.get(job_id).job
    wish.outlets_of(wanted_job(job))
    key = desk.designs.start(job_id, desk.context(job), wish)
    return DesignBegun(key=key)


@router.get("/{key}", response_model=DesignState, responses=READ)
def design_state(desk: AtDesk, job_id: JobId, key: Key) -> DesignState:
    """How far a design is, and its plans."""
    found = desk.designs.look(job_id, key)
    if found.error is not None:
        raise found.error
    told = found.progress
    return DesignState(
        state="working"
        if not found.over.is_set()
        else "stopped"
        if found.stop.is_set()
        else "done",
        seconds=time.monotonic() - found.begun,
        best=told.best if told else None,
        bound=told.bound if told else None,
        design=found.design,
    )


@router.delete("/{key}", response_model=DesignState, responses=READ)
def stop_design(desk: AtDesk, job_id: JobId, key: Key) -> DesignState:
    """Stop a design; what it has found so far stays."""
    desk.designs.look(job_id, key).stop.set()
    return design_state(desk, job_id, key)


@router.get("/{key}/plans/{plan}", response_model=DesignChange, responses=READ)
def plan_change(
    desk: AtDesk, job_id: JobId, key: Key, plan: Annotated[int, Path(ge=0, le=20)]
) -> DesignChange:
    """The change that takes one of a design's plans."""
    changes = desk.designs.look(job_id, key).changes
    if plan >= len(changes):
        raise desk.designs.gone()
    return DesignChange(change=changes[plan])
