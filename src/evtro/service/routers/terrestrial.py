"""Stations Sky, Aim and Readings for terrestrial antennas: ways, headings, front end, spots, scans."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Query
from fastapi.responses import Response
from pydantic import TypeAdapter

from evtro.core.job import Array, Job
from evtro.core.physics.propagation.clutter import COVERINGS, SURROUNDINGS, Covering
from evtro.core.stations.aim.array.ways import Paths, paths
from evtro.core.stations.coax.views.antenna_detail import ArrayDetail, array_detail
from evtro.core.stations.readings.expected import ExpectedOutlet
from evtro.core.stations.readings.lists import expected_lists
from evtro.core.units.quantities import InputError

from ..common import (
    READ,
    AtDesk,
    JobId,
    RowId,
    job_response,
)
from ..job_service import JobService

router = APIRouter(prefix="/api/jobs/{job_id}", tags=["terrestrial"])
_PATHS = TypeAdapter(Paths)
_DETAIL = TypeAdapter(ArrayDetail)
_EXPECTED = TypeAdapter(list[ExpectedOutlet])


def _array(desk: JobService, job_id: str, row_id: str) -> tuple[Job, Array]:
    job = desk.jobs.get(job_id).job
    found = next((a for a in job.arrays if a.id == row_id), None)
    if found is None:
        raise InputError(
            "Antenna",
            f"{row_id} is no terrestrial antenna of this job.",
            "Choose one at Aim.",
            "row-missing",
        )
    return job, found


@router.get("/paths", response_model=Paths, responses=READ)
def all_paths(desk: AtDesk, job_id: JobId) -> Response:
    """The way to every transmitter: profile, losses, what arrives."""
    job = desk.jobs.get(job_id).job
    return job_response(_PATHS.dump_json(paths(job, desk.profile(job))))


@router.get("/coverings", response_model=list[Covering], responses=READ)
def coverings(desk: AtDesk, job_id: JobId) -> list[Covering]:
    """What an antenna may stand behind, with the practice values."""
    desk.jobs.get(job_id)
    return list(COVERINGS.values())


@router.get("/surroundings", response_model=list[str], responses=READ)
def surroundings(desk: AtDesk, job_id: JobId) -> list[str]:
    """What may stand round a house."""
    desk.jobs.get(job_id)
    return list(SURROUNDINGS)


@router.get("/antennas/{row_id}/array", response_model=ArrayDetail, responses=READ)
def detail(
    desk: AtDesk,
    job_id: JobId,
    row_id: RowId,
    behind: Annotated[Literal["run", "preamplifier"], Query()] = "run",
) -> Response:
    """Heading, antennas to choose from, front end and spots of one antenna."""
    job, antenna = _array(desk, job_id, row_id)
    found = array_detail(
        desk.context(job).with_solved(desk.answers(desk.jobs.get(job_id)).network.solved),
        antenna=antenna,
        behind_preamplifier=behind == "preamplifier",
    )
    if found is None:
        raise InputError(
            "Transmitter",
            "no transmitter with a multiplex is placed yet.",
            "Add one at Sky, Transmitters.",
            "no-target",
        )
    return job_response(_DETAIL.dump_json(found))


@router.get("/expected", response_model=list[ExpectedOutlet], responses=READ)
def expected(desk: AtDesk, job_id: JobId) -> Response:
    """What a scan should find at each outlet, against the last one."""
    kept = desk.jobs.get(job_id)
    coax = desk.answers(kept).coax
    found = expected_lists(kept.job, desk.profile(kept.job), coax.outlets, coax.solved)
    return job_response(_EXPECTED.dump_json(found))
