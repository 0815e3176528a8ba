"""Station Handover: the sheet, and the steps that were carried out; the kit for the work."""

from __future__ import annotations

from typing import Literal

from fastapi import APIRouter
from fastapi.responses import Response

from evtro.core.job.sections import Section
from evtro.core.stations.kit.kit import KitView
from evtro.formats import plans
from evtro.report.labels_pdf import labels_pdf
from evtro.report.pdf import job_sheet_pdf

from ..common import READ, AtDesk, JobId, download, file_of

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["handover"])


@router.get(
    "/sheet.pdf",
    response_class=Response,
    responses={**READ, 200: {"content": {"application/pdf": {}}, "description": "The job sheet"}},
)
def sheet_pdf(
    desk: AtDesk,
    job_id: JobId,
    units: Literal["metric", "us"] | None = None,
    level: Literal["dbuv", "dbmv", "dbm"] | None = None,
) -> Response:
    """The job sheet as PDF, in the units that are asked for; without, those of the job's practice."""
    kept = desk.jobs.get(job_id)
    answers = desk.answers(kept)
    sections = answers.sheet
    practice = desk.profile(kept.job)
    files = [(n, desk.photos.get(p.sha256)) for n, p in enumerate(kept.job.photos, 1)]
    pictures = [(n, data) for n, data in files if data is not None]
    made = job_sheet_pdf(
        kept.job,
        sections,
        units=units or practice.units,
        level=level or practice.level,
        pictures=pictures,
    )
    return Response(made, media_type="application/pdf")


@router.get("/sheet", response_model=list[Section], responses=READ)
def sheet(desk: AtDesk, job_id: JobId) -> list[Section]:
    """The job sheet, section by section."""
    kept = desk.jobs.get(job_id)
    answers = desk.answers(kept)
    return answers.sheet


@router.get("/kit", response_model=KitView, responses=READ)
def kit(desk: AtDesk, job_id: JobId) -> KitView:
    """What goes into the van, and how the cables are cut from their reels."""
    return desk.answers(desk.jobs.get(job_id)).kit


@router.get("/kit.csv", response_class=Response, responses=file_of("text/csv"))
def kit_csv(desk: AtDesk, job_id: JobId) -> Response:
    """The list of the kit."""
    rows = desk.answers(desk.jobs.get(job_id)).kit.needs
    return download(plans.write_kit(rows), "text/csv", "kit.csv")


@router.get(
    "/labels.pdf",
    response_class=Response,
    responses={
        **READ,
        200: {"content": {"application/pdf": {}}, "description": "Labels of the cables"},
    },
)
def labels(desk: AtDesk, job_id: JobId, units: Literal["metric", "us"] | None = None) -> Response:
    """Labels for both ends of every cable, to print."""
    kept = desk.jobs.get(job_id)
    made = labels_pdf(
        kept.job.name, desk.answers(kept).kit.reels, units or desk.profile(kept.job).units
    )
    return Response(made, media_type="application/pdf")
