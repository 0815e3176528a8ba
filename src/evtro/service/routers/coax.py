"""Station Coax: the run, part by part and cable by cable."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from fastapi import APIRouter, Query
from fastapi.responses import Response

from evtro.core.job import edits
from evtro.core.job.own_limits import LimitLine, limit_lines
from evtro.core.network import edits as run
from evtro.core.network.candidates import Mode, NetworkCandidate, candidates
from evtro.core.stations.coax.fixes.search import Fixes
from evtro.core.stations.coax.views.answer import PartDetail
from evtro.core.stations.coax.views.level_plan import cable_register, level_plan
from evtro.core.stations.coax.views.powering import PowerView, power_view
from evtro.core.stations.coax.views.terms import Terms, terms
from evtro.formats import plans
from evtro.profiles import shop_profile
from evtro.report.run_pdf import run_pdf

from ..common import READ, AtDesk, JobId, RowId, download, file_of
from ..schemas import CatalogueView

router = APIRouter(prefix="/api", tags=["coax"])
CURVE_MHZ = (5.0, 200.0, 860.0, 2150.0)
CURVE_M = 50.0


@router.get("/catalogue", response_model=CatalogueView, responses=READ)
def catalogue(desk: AtDesk) -> dict[str, Any]:
    """All parts and cables at hand, each cable with what 50 m of it lose."""
    lost = {
        key: [(f, -float(cable.loss_db(CURVE_M, f))) for f in CURVE_MHZ]
        for key, cable in desk.shop.cables.items()
    }
    return {**dict(desk.shop), "cable_curves": lost}


@router.get("/jobs/{job_id}/parts/{row_id}/terms", response_model=Terms, responses=READ)
def level_terms(
    desk: AtDesk,
    job_id: JobId,
    row_id: RowId,
    carrier: Annotated[str, Query(pattern=r"^[a-z]+[0-9]+$", max_length=12)],
) -> Terms:
    """The staircase of a carrier's level from its source to a part."""
    kept = desk.jobs.get(job_id)
    run.find_part(kept.job, row_id)
    if all(c.id != carrier for c in kept.job.carriers):
        raise edits.missing("carriers", carrier)
    return terms(desk.answers(kept).network, part_id=row_id, carrier_id=carrier)


@router.get(
    "/jobs/{job_id}/parts/{row_id}/candidates",
    response_model=list[NetworkCandidate],
    responses=READ,
)
def candidates_at(desk: AtDesk, job_id: JobId, row_id: RowId, mode: Mode) -> list[NetworkCandidate]:
    """What may be added behind a part, put in its place or joined to it."""
    job = desk.jobs.get(job_id).job
    return candidates(desk.context(job), row_id, mode)


@router.get("/jobs/{job_id}/fixes", response_model=Fixes, responses=READ)
def fixes_of(
    desk: AtDesk,
    job_id: JobId,
    code: Annotated[str, Query(pattern=r"^[a-z-]+$", max_length=30)],
    ref: Annotated[str, Query(pattern=r"^[a-z]+[0-9]+$", max_length=12)],
) -> Fixes:
    """What would cure a problem of the run and leave everything else as good as it is."""
    return desk.answers(desk.jobs.get(job_id)).fixes(code, ref)


@router.get("/jobs/{job_id}/limits", response_model=list[LimitLine], responses=READ)
def limits_of(desk: AtDesk, job_id: JobId) -> list[LimitLine]:
    """Every limit of the run, the job's own beside its practice's."""
    job = desk.jobs.get(job_id).job
    return limit_lines(job, shop_profile(job))


@router.get("/jobs/{job_id}/powering", response_model=PowerView, responses=READ)
def powering(desk: AtDesk, job_id: JobId) -> PowerView:
    """What every line carries up the run, at both voltages of the receivers, and what each can ask for."""
    kept = desk.jobs.get(job_id)
    return power_view(desk.context(kept.job), desk.answers(kept).coax)


@router.get("/jobs/{job_id}/parts/{row_id}/levels", response_model=PartDetail, responses=READ)
def part_levels(desk: AtDesk, job_id: JobId, row_id: RowId) -> PartDetail:
    """Every carrier at a part; at an outlet judged."""
    kept = desk.jobs.get(job_id)
    run.find_part(kept.job, row_id)
    return desk.answers(kept).coax.detail(row_id)


@router.get("/jobs/{job_id}/levels.csv", response_class=Response, responses=file_of("text/csv"))
def levels_csv(desk: AtDesk, job_id: JobId) -> Response:
    """The level plan: every carrier at every outlet and device."""
    rows = level_plan(desk.answers(desk.jobs.get(job_id)).coax)
    return download(plans.write_levels(rows), "text/csv", "levels.csv")


@router.get("/jobs/{job_id}/run.pdf", response_class=Response, responses=file_of("application/pdf"))
def print_run(
    desk: AtDesk,
    job_id: JobId,
    units: Literal["metric", "us"] | None = None,
    level: Literal["dbuv", "dbmv", "dbm"] | None = None,
) -> Response:
    """The run with its level plan on one to four pages, in the units that are asked for; without, those of
    the job's practice."""
    kept = desk.jobs.get(job_id)
    practice = desk.profile(kept.job)
    made = run_pdf(
        kept.job, desk.answers(kept).coax, units or practice.units, level or practice.level
    )
    return download(made, "application/pdf", "run.pdf")


@router.get("/jobs/{job_id}/cables.csv", response_class=Response, responses=file_of("text/csv"))
def cables_csv(desk: AtDesk, job_id: JobId) -> Response:
    """The register of cables, with both ends and what is on them."""
    job = desk.jobs.get(job_id).job
    rows = cable_register(desk.context(job), desk.worked(job).coax)
    return download(plans.write_cables(rows), "text/csv", "cables.csv")
