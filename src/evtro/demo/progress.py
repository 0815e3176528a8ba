"""Work under way in the demo: a guesthouse half done, with what was read and photographed, and a day of four
jobs. Steps are ticked by the verbs that people use; the photographs are drawn."""

from __future__ import annotations

import datetime as dt
import io

from evtro import catalogue
from evtro.core.answers import work_out
from evtro.core.changes import ChangeContext, carry_out
from evtro.core.changes.photos import with_photo
from evtro.core.day.plan import DayPlan, Visit
from evtro.core.job import Job, Photo
from evtro.core.job.changes import SeenNow, Tick
from evtro.core.job.registry import new_row_id
from evtro.core.units.quantities import Step
from evtro.formats.forecast import simulated
from evtro.formats.photos import Picture, read_photo
from evtro.profiles import shop_profile

WHO = "A. Mender"
BEGAN = dt.datetime.fromisoformat("2026-04-13 08:10")
DAY = dt.date(2026, 4, 14)
# What was read at which step.
READ = {"mast.plumb": "0.3", "mast.brackets": "0.85"}
PAPER, INK, STEEL, BRICK, SKY, COPPER = (
    "#F4F1EA",
    "#1D2B2A",
    "#8D958F",
    "#A8715A",
    "#DDE8EA",
    "#A9551F",
)


def under_way(job: Job, stations: tuple[str, ...], some: dict[str, int] | None = None) -> Job:
    """The job with the steps of stations done in their order, and of others as many as `some` says."""
    shop = catalogue.load()
    profile = shop_profile(job)
    clock = BEGAN

    def steps(job: Job) -> dict[str, Step]:
        return {s.key: s for rows in work_out(job, shop, profile).steps.values() for s in rows}

    for station, rows in work_out(job, shop, profile).steps.items():
        done = len(rows) if station in stations else (some or {}).get(station, 0)
        for step in rows[:done]:
            clock += dt.timedelta(minutes=max(step.minutes, 1))
            bench = ChangeContext(shop, profile, clock.isoformat(" ", "minutes"), steps)
            if step.danger:
                job = carry_out(job, Tick(step=step.key, danger_read=True, by=WHO), bench).job
            read = READ.get(step.key) if step.measure is not None else None
            if read is not None:
                job = carry_out(job, Tick(step=step.key, value=read), bench).job
            seen = {t.key: SeenNow(state=t.good[-1]) for t in step.things}
            job = carry_out(job, Tick(step=step.key, done=True, by=WHO, seen=seen), bench).job
    return job


def with_pictures(job: Job) -> tuple[Job, list[Picture]]:
    """The job with a drawn photograph at some of its steps, and their files."""
    import hashlib

    shop = catalogue.load()
    steps = {
        s.key: s for rows in work_out(job, shop, shop_profile(job)).steps.values() for s in rows
    }
    found = []
    for n, (step, draw) in enumerate((("mast.plumb", 0), ("earth.mast", 1), ("coax.loop", 2))):
        if step not in steps:
            continue
        picture = read_photo(_drawn(draw))
        digest = hashlib.sha256(picture.data).hexdigest()
        photo = Photo(
            id=new_row_id(job, "photos"),
            step=step,
            sha256=digest,
            width_px=picture.width_px,
            height_px=picture.height_px,
            taken_by=WHO,
        )
        job = with_photo(job, photo, steps, now=BEGAN + dt.timedelta(hours=2 + n))
        found.append(picture)
    return job, found


def _drawn(kind: int) -> bytes:
    """A picture as a camera might have taken it: the level at the mast, the clamp, the loop."""
    from PIL import Image, ImageDraw

    picture = Image.new("RGB", (1200, 900), SKY)
    draw = ImageDraw.Draw(picture)
    for row in range(11):  # the wall
        for column in range(-1, 8):
            x, y = 120 * column + (60 if row % 2 else 0), 84 * row
            draw.rectangle((x, y, x + 112, y + 76), fill=BRICK)
    draw.rectangle((780, 0, 860, 900), fill=STEEL)
    draw.line((800, 0, 800, 900), fill=PAPER, width=6)
    if kind == 0:
        draw.rectangle((868, 180, 930, 640), fill=COPPER)
        draw.rectangle((878, 370, 920, 450), fill="#E8E38A")
        draw.ellipse((886, 396, 912, 424), fill=PAPER, outline=INK, width=3)
        for y in (380, 440):
            draw.line((878, y, 920, y), fill=INK, width=3)
    elif kind == 1:
        draw.rectangle((740, 380, 900, 470), fill=INK)
        draw.ellipse((700, 400, 752, 452), fill=STEEL, outline=INK, width=6)
        draw.line((726, 452, 726, 900), fill="#D9B33A", width=22)
    else:
        for n in range(4):
            draw.ellipse(
                (420 - 14 * n, 260 - 14 * n, 700 + 14 * n, 600 + 14 * n), outline=INK, width=10
            )
        draw.line((700, 430, 780, 300), fill=INK, width=12)
    out = io.BytesIO()
    picture.save(out, "JPEG", quality=85)
    return out.getvalue()


def demo_day() -> DayPlan:
    """Tuesday: a van, a house whose roof comes too late, the guesthouse half done, and levels to read."""
    return DayPlan(
        date=DAY,
        starts_min=390,
        crew=("Ada", "Ben"),
        utc_offset_min=0,
        home_min=36,
        visits=(
            Visit(job="kittiwake-van", travel_min=36),
            Visit(job="plover-cottage", travel_min=14),
            Visit(job="marten-lodge", travel_min=9),
            Visit(job="skerry-house", travel_min=14),
        ),
        forecast=simulated(DAY),
        forecast_from="simulated, not a real forecast",
    )
