"""Stations Sky and Aim: the link budget with its rain, and the frequency plan."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response
from pydantic import TypeAdapter

from evtro.core.stations.aim.dish.link_view import LinkView, link_view
from evtro.core.stations.coax.views.frequency_plan import (
    FrequencyPlan,
    WrongTuning,
    frequency_plan,
    wrong_oscillator,
)

from ..common import READ, AtDesk, JobId, RowId, dish_at, job_response
from ..rain import Progress
from ..typing import plain

router = APIRouter(prefix="/api/jobs/{job_id}/antennas/{row_id}", tags=["link"])


@dataclass(frozen=True)
class LinkAnswer:
    """The link of a dish, and how far the rain maps have come."""

    link: LinkView
    rain: Progress


@dataclass(frozen=True)
class Frequencies:
    """The plan of each LNB on a dish, and what a wrong oscillator would tune."""

    plans: list[FrequencyPlan]
    told_lo_mhz: float | None
    wrong: list[WrongTuning]


_LINK = TypeAdapter(LinkAnswer)
_PLAN = TypeAdapter(Frequencies)


@router.get("/link", response_model=LinkAnswer, responses=READ)
def read_link(desk: AtDesk, job_id: JobId, row_id: RowId) -> Response:
    """The link at once in clear sky; with rain as soon as its maps are read: ask again while the
    state is `working`."""
    job, antenna = dish_at(desk, job_id, row_id)
    climate, progress = None, Progress("waiting", 0.0, "the site has no position yet")
    if job.site.latitude_deg is not None and job.site.longitude_deg is not None:
        climate, progress = desk.rain.climate(job.site.latitude_deg, job.site.longitude_deg)
    found = link_view(
        desk.context(job),
        antenna_id=antenna.id,
        climate=climate,
    )
    assert found is not None
    return job_response(_LINK.dump_json(LinkAnswer(found, progress)))


@router.get("/frequencies", response_model=Frequencies, responses=READ)
def read_frequencies(
    desk: AtDesk, job_id: JobId, row_id: RowId, lo: Annotated[str, Query(max_length=40)] = ""
) -> Response:
    """Where every transponder lies on its cable; with `lo`, what a receiver that was told this
    oscillator tunes instead."""
    job, antenna = dish_at(desk, job_id, row_id)
    plans = frequency_plan(desk.context(job), antenna.id)
    told = plain("LNB oscillator", lo, "mhz") if lo.strip() else None
    wrong: list[WrongTuning] = []
    if told is not None:
        for plan in plans:
            own = {line.carrier for line in plan.lines}
            wrong += wrong_oscillator(plan.lines, told, [c for c in job.carriers if c.id in own])
    return job_response(_PLAN.dump_json(Frequencies(plans, told, wrong)))
