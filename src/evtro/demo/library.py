"""What the demo's installer keeps for every job: transmitters of the invented country, its tile."""

from __future__ import annotations

from pathlib import Path

from evtro.core.job import Job
from evtro.core.stations.sky.senders import Sender, senders_of
from evtro.store.copies import set_aside
from evtro.store.days import Days
from evtro.store.folder import FILE_NAME
from evtro.store.jobs import Jobs
from evtro.store.library import Library, TileRow
from evtro.store.photos import Photos

from .arrays import harrow_farm, larch_street, mill_loft
from .progress import demo_day, under_way, with_pictures
from .terrain import EAST, NORTH, SOUTH, STEP_DEG, TILE, TILE_NAME, WEST
from .world import fern_cottage, kept_jobs, skerry_house

_MORE = (
    ("Fallow Top", 57.3950, -4.9300, 390.0, (("mux F1", 474.0, 1.0), ("mux F2", 522.0, 1.0))),
    ("Birkwood", 57.0800, -4.2500, 310.0, (("mux K1", 610.0, 0.2), ("mux K2", 658.0, 0.2))),
    ("Ness Point", 57.6200, -4.0200, 240.0, (("mux N1", 498.0, 10.0), ("mux N2", 562.0, 10.0))),
)


def demo_tile() -> TileRow:
    """The tile that ships with the demo."""
    return TileRow(
        id="orrick",
        name=TILE_NAME,
        path=str(TILE),
        format="GTiff",
        west=WEST,
        south=SOUTH,
        east=EAST,
        north=NORTH,
        step_m=round(STEP_DEG * 60_400, 1),
    )


def demo_senders() -> list[Sender]:
    """The transmitters of the demo's jobs, and some that none of them uses yet."""
    found: dict[str, Sender] = {}
    for job in (harrow_farm(), mill_loft(), larch_street(), fern_cottage(), skerry_house()):
        for sender in senders_of(job):
            old = found.get(sender.name)
            if old is None or len(old.muxes) < len(sender.muxes):
                found[sender.name] = sender
    for name, lat, lon, height, muxes in _MORE:
        found[name] = Sender.model_validate(
            {
                "name": name,
                "latitude_deg": lat,
                "longitude_deg": lon,
                "height_m": height,
                "muxes": [
                    {
                        "name": m,
                        "frequency_mhz": f,
                        "erp_kw": p,
                        "polarisation": "V",
                        "modulation": "DVB-T 64QAM 2/3",
                    }
                    for m, f, p in muxes
                ],
            }
        )
    return list(found.values())


def _as_it_stands(folder: Path, job_id: str, job: Job) -> Job:
    """A demo job as far as the work on it has come."""
    if job_id == "plover-cottage":
        return under_way(job, ("site", "sky", "mast", "earth", "aim", "coax"))
    if job_id == "marten-lodge":
        return under_way(job, ("site", "sky"))
    if job_id == "kittiwake-van":
        return under_way(job, ("site",))
    if job_id != "skerry-house":
        return job
    job, pictures = with_pictures(
        under_way(job, ("site", "sky", "mast", "earth", "aim"), {"coax": 12})
    )
    for picture in pictures:
        Photos(folder).put(picture.data)
    return job


def fill(folder: Path, jobs: Jobs, *, fresh: bool) -> None:
    """Put in the demo's jobs that are not there; `fresh` puts all of them back as they were, after a
    copy of what stands there is set aside."""
    demo = kept_jobs()
    for head in jobs.heads(removed=True):
        if head.id in demo:
            jobs.take_back(head.id)
    there = {h.id for h in jobs.heads()}
    if fresh and there & demo.keys():
        set_aside(folder / FILE_NAME, "before-fresh")
        for job_id in there & demo.keys():
            jobs.forget(job_id)
        there -= demo.keys()
    for job_id, job in demo.items():
        if job_id not in there:
            jobs.add(_as_it_stands(folder, job_id, job), job_id)
    days = Days(jobs)
    plan = demo_day()
    seen, kept = days.get(plan.date)
    if kept is None or fresh:
        days.put(plan, seen)
    library = Library(jobs)
    library.add_tile(demo_tile())
    library.keep(demo_senders())
