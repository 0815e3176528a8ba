"""What the installer keeps for every job: transmitters and elevation tiles."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from fastapi import APIRouter, Path, Query, Request
from fastapi.responses import Response

from evtro.core.job import Job
from evtro.core.stations.sky.senders import NearLine, Sender, into_job, near, senders_of
from evtro.core.units.quantities import InputError
from evtro.formats import transmitters
from evtro.store.library import TileRow

from ..common import (
    READ,
    VIEW,
    AtDesk,
    JobId,
    RawBody,
    Seen,
    body_of,
    download,
    file_of,
    job_response,
)
from ..schemas import TakeSender

router = APIRouter(prefix="/api", tags=["library"])
PROFILED = (
    40  # transmitters whose way is read from the tiles for the list; the rest over smooth earth
)
LibraryId = Annotated[str, Path(pattern=r"^[a-z0-9]{1,16}$")]


@dataclass(frozen=True)
class KnownSender:
    """A transmitter of the list."""

    id: str
    sender: Sender


@dataclass(frozen=True)
class Senders:
    """The list, and what of a file was left out."""

    senders: list[KnownSender]
    notes: list[str]


@dataclass(frozen=True)
class Tiles:
    """The elevation tiles at hand."""

    tiles: list[TileRow]


def _senders(desk: AtDesk, notes: list[str]) -> Senders:
    return Senders([KnownSender(k, s) for k, s in desk.library.senders()], notes)


@router.get("/transmitters", response_model=Senders, responses=READ)
def senders(desk: AtDesk) -> Senders:
    """All transmitters that are known here."""
    return _senders(desk, [])


@router.post(
    "/transmitters", response_model=Senders, responses=READ, openapi_extra=body_of("text/csv")
)
def import_senders(
    desk: AtDesk,
    body: RawBody,
    channels: Annotated[str, Query(pattern="^(north-america|europe|australia)$")] = "europe",
) -> Senders:
    """Take transmitters into the list, CSV or GeoJSON; `channels` names the region's table."""
    found, notes = transmitters.read(body, channels)
    desk.library.keep(found)
    return _senders(desk, notes)


@router.delete("/transmitters/{key}", response_model=Senders, responses=READ)
def forget_sender(desk: AtDesk, key: LibraryId) -> Senders:
    """Remove a transmitter from the list; jobs keep theirs."""
    desk.library.forget(key)
    return _senders(desk, [])


@router.get("/transmitters.csv", response_class=Response, responses=file_of("text/csv"))
def senders_csv(desk: AtDesk) -> Response:
    """The list as CSV."""
    text = transmitters.write_csv([s for _, s in desk.library.senders()])
    return download(text, "text/csv", "transmitters.csv")


@router.get(
    "/transmitters.geojson", response_class=Response, responses=file_of("application/geo+json")
)
def senders_geojson(desk: AtDesk) -> Response:
    """The list as GeoJSON."""
    text = transmitters.write_geojson([s for _, s in desk.library.senders()])
    return download(text, "application/geo+json", "transmitters.geojson")


@router.get(
    "/jobs/{job_id}/transmitters.csv", response_class=Response, responses=file_of("text/csv")
)
def job_csv(desk: AtDesk, job_id: JobId) -> Response:
    """The job's transmitters with their multiplexes as CSV."""
    text = transmitters.write_csv(senders_of(desk.jobs.get(job_id).job))
    return download(text, "text/csv", "transmitters.csv")


@router.get(
    "/jobs/{job_id}/transmitters.geojson",
    response_class=Response,
    responses=file_of("application/geo+json"),
)
def job_geojson(desk: AtDesk, job_id: JobId) -> Response:
    """The job's transmitters with their multiplexes as GeoJSON."""
    text = transmitters.write_geojson(senders_of(desk.jobs.get(job_id).job))
    return download(text, "application/geo+json", "transmitters.geojson")


@router.post("/jobs/{job_id}/transmitters", openapi_extra=body_of("text/csv"), **VIEW)
def import_into_job(desk: AtDesk, job_id: JobId, seen: Seen, body: RawBody) -> Response:
    """Take transmitters of a file into the job, CSV or GeoJSON; what cannot be used is told."""
    notes: list[str] = []
    channels = desk.profile(desk.jobs.get(job_id).job).channels
    found, left = transmitters.read(body, channels)

    def edit(job: Job) -> Job:
        notes[:] = left
        for sender in found:
            try:
                job = into_job(job, sender)
            except InputError as error:
                notes.append(f"{sender.name}: {error.reason} {error.remedy}")
        return job

    return job_response(desk.change(job_id, seen, "import transmitters", edit, notes=notes))


@router.get("/jobs/{job_id}/near", response_model=list[NearLine], responses=READ)
def near_here(desk: AtDesk, job_id: JobId) -> list[NearLine]:
    """Transmitters of the list within reach of the job's place, the strongest first."""
    job = desk.jobs.get(job_id).job
    known = [s for _, s in desk.library.senders()]
    tiles = desk.library.tiles()
    read = 0

    def relief(target):  # type: ignore[no-untyped-def]
        nonlocal read
        if not tiles or read >= PROFILED:
            return None
        read += 1
        return desk.terrain.relief(job.site, target, tiles)

    there = {t.name.casefold() for t in job.targets if t.kind == "transmitter"}
    return near(job.site, known, height_m=job.site.mount_height_m, relief=relief, in_job=there)


@router.post("/jobs/{job_id}/near", **VIEW)
def take_sender(desk: AtDesk, job_id: JobId, seen: Seen, body: TakeSender) -> Response:
    """Take a transmitter of the list into the job."""
    found = next((s for _, s in desk.library.senders() if s.name == body.name), None)
    if found is None:
        raise InputError(
            "Transmitter", f"{body.name} is not in the list.", "Reload the list.", "row-missing"
        )
    return job_response(
        desk.change(job_id, seen, "add transmitter", lambda job: into_job(job, found))
    )


@router.post("/jobs/{job_id}/keep-transmitters", response_model=Senders, responses=READ)
def keep_senders(desk: AtDesk, job_id: JobId) -> Senders:
    """Put the job's transmitters into the list, for the next house."""
    desk.library.keep(senders_of(desk.jobs.get(job_id).job))
    return _senders(desk, [])


@router.get("/tiles", response_model=Tiles, responses=READ)
def tiles(desk: AtDesk) -> Tiles:
    """The elevation tiles at hand."""
    return Tiles(desk.library.tiles())


@router.post(
    "/tiles",
    response_model=Tiles,
    responses=READ,
    openapi_extra=body_of("application/octet-stream"),
)
async def add_tile(
    desk: AtDesk, request: Request, name: Annotated[str, Query(min_length=1, max_length=120)]
) -> Tiles:
    """Take in an elevation tile: GeoTIFF, HGT or ESRI ASCII grid. It goes to disk as it comes."""
    await desk.terrain.receive(name, request.stream())
    return Tiles(desk.library.tiles())


@router.delete("/tiles/{key}", response_model=Tiles, responses=READ)
def remove_tile(desk: AtDesk, key: LibraryId) -> Tiles:
    """Take a tile off the list; profiles that were read from it stay with their jobs."""
    desk.terrain.drop(key)
    return Tiles(desk.library.tiles())


@router.post("/jobs/{job_id}/terrain", **VIEW)
def read_again(desk: AtDesk, job_id: JobId, seen: Seen) -> Response:
    """Read all profiles of the job from the tiles at hand."""
    return job_response(desk.change(job_id, seen, "read the terrain", desk.terrain.again))
