"""Station Handover: the sheet, and the steps that were carried out."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from fastapi import APIRouter, Path
from fastapi.responses import Response

from evtro.core.job import Job, edits
from evtro.core.stations.handover.answer import Section
from evtro.core.units.quantities import InputError
from evtro.report.pdf import job_sheet_pdf

from ..common import READ, VIEW, AtDesk, JobId, Seen, job_response
from ..schemas import MarkPatch
from ..typing import plain

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["handover"])


@router.get("/sheet.pdf", response_class=Response, responses={
    **READ, 200: {"content": {"application/pdf": {}}, "description": "The job sheet"}})  # fmt: skip
def sheet_pdf(
    desk: AtDesk, job_id: JobId, units: Literal["metric", "us"] | None = None,
    level: Literal["dbuv", "dbmv", "dbm"] | None = None,
) -> Response:  # fmt: skip
    """The job sheet as PDF, in the units that are asked for; without, those of the job's practice."""
    kept = desk.jobs.get(job_id)
    answers = desk.answers(kept)
    sections = answers.sheet
    practice = desk.profile(kept.job)
    made = job_sheet_pdf(kept.job, sections, units or practice.units, level or practice.level)
    return Response(made, media_type="application/pdf")


@router.get("/sheet", response_model=list[Section], responses=READ)
def sheet(desk: AtDesk, job_id: JobId) -> list[Section]:
    """The job sheet, section by section."""
    kept = desk.jobs.get(job_id)
    answers = desk.answers(kept)
    return answers.sheet


@router.put("/steps/{step}", **VIEW)
def mark_step(
    desk: AtDesk,
    job_id: JobId,
    step: Annotated[str, Path(pattern=r"^[a-z0-9.-]{1,60}$")],
    seen: Seen,
    body: MarkPatch,
) -> Response:
    """Tick a step, confirm its danger, keep what was measured or a note."""
    kept = desk.jobs.get(job_id)
    answers = desk.answers(kept)
    known = {s.key: s for steps in answers.steps.values() for s in steps}
    if step not in known:
        raise InputError("Step", f"{step} is not a step of this job.", "Reload the job.",
                         "row-missing")  # fmt: skip
    sent = body.model_dump(exclude_unset=True)
    values: dict[str, object] = {
        k: sent[k] for k in ("danger_read", "note") if sent.get(k) is not None
    }
    if "value" in sent:
        unit = known[step].measure.unit if known[step].measure else "count"  # type: ignore[union-attr]
        text = sent["value"]
        values["value"] = None if text in (None, "") else plain("It reads", text, unit)
    if "done" in sent:
        now = dt.datetime.now(dt.UTC).isoformat(timespec="seconds")
        values["at"] = now if sent["done"] else ""
        danger = known[step].danger
        read = values.get("danger_read") or any(
            m.step == step and m.danger_read for m in kept.job.marks
        )
        if sent["done"] and danger and not read:
            raise InputError("Danger", f"“{danger}” is not confirmed.",
                             "Read it and tick it first.", "danger-unread")  # fmt: skip

    def edit(job: Job) -> Job:
        return edits.set_mark(job, step, values)

    return job_response(desk.change(job_id, seen, "mark step", edit))
