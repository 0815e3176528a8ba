"""Jobs at the edge of what is held: as many rows as are let in, and rows at their own bounds. They are
worked out whole, finite, and the same as the small job they were grown from."""

from __future__ import annotations

import math
from typing import Any

import pytest
from pydantic import ValidationError

from evtro import catalogue, profiles
from evtro.core.answers import Answers, work_out
from evtro.core.job import (
    Cable,
    Carrier,
    Conductor,
    Job,
    Obstruction,
    Outlet,
    Part,
    Site,
    Spot,
    Target,
)
from evtro.core.job.consistency import check_job
from evtro.core.job.context import JobParts
from evtro.demo.world import demo_jobs, skerry_house
from evtro.formats.jobfile import read_job, write_job

pytestmark = pytest.mark.long

CATALOGUE = catalogue.load()
EUROPE = profiles.load("europe")


def _answers(job: Job) -> Answers:
    check_job(JobParts(job, CATALOGUE))
    return work_out(job, CATALOGUE, profiles.load(job.profile))


def _finite(value: Any) -> bool:
    if isinstance(value, float):
        return math.isfinite(value)
    if isinstance(value, (list, tuple)):
        return all(_finite(v) for v in value)
    if hasattr(value, "__dataclass_fields__"):
        return all(_finite(getattr(value, f)) for f in value.__dataclass_fields__)
    return True


def _sats(count: int) -> tuple[tuple[Target, ...], tuple[Carrier, ...]]:
    targets = tuple(
        Target(
            id=f"t{100 + i}",
            kind="satellite",
            name=f"Bird {i}",
            orbit_deg_e=round(-60 + 120 * i / count, 2),
            wanted=False,
        )
        for i in range(count)
    )
    carriers = tuple(
        Carrier(
            id=f"c{1000 + i * 10 + n}",
            target=t.id,
            name=f"{n}",
            frequency_mhz=10_720 + 97 * n + i % 7,
            bandwidth_mhz=27.5,
            polarisation="HV"[n % 2],
            power=50,
            modulation="DVB-S2 8PSK 2/3",
        )
        for i, t in enumerate(targets)
        for n in range(8)
    )
    return targets, carriers


def test_a_sky_full_of_satellites_changes_nothing_for_those_that_are_wanted() -> None:
    small = skerry_house()
    targets, carriers = _sats(40)
    large = small.model_copy(
        update={"targets": small.targets + targets, "carriers": small.carriers + carriers}
    )
    here, there = _answers(small), _answers(large)
    by_id = {t.id: t for t in there.sky.targets}
    for sight in here.sky.targets:
        assert by_id[sight.id].gauge == sight.gauge
    # Neighbours disturb, so that quality may fall; the levels are the same, and so is every verdict.
    for a, b in zip(here.coax.outlets, there.coax.outlets, strict=True):
        assert (a.part, a.name, a.state) == (b.part, b.name, b.state)
        for one, two in zip(a.cells, b.cells, strict=True):
            assert (one.carrier, one.level) == (two.carrier, two.level)
            assert (two.cn_db or 0) <= (one.cn_db or 0) + 1e-9
    assert [p.code for p in here.coax.problems] == [p.code for p in there.coax.problems]
    assert _finite(there.sky)


def test_two_hundred_things_in_the_way() -> None:
    small = skerry_house()
    rows = tuple(
        Obstruction(
            id=f"b{100 + i}",
            name=f"stone {i}",
            from_deg=round(1.8 * i, 1),
            to_deg=round(1.8 * i + 1, 1) % 360,
            top_deg=0.5,
            distance_m=200 + i,
            outline=("block", "gable", "crowns", "ridge")[i % 4],
        )
        for i in range(180)
    )
    here = _answers(small)
    there = _answers(small.model_copy(update={"obstructions": small.obstructions + rows}))
    for a, b in zip(here.sky.targets, there.sky.targets, strict=True):
        assert (b.gauge.value or 0) <= (a.gauge.value or 0) + 1e-9
    assert len(there.sky.skyline) == len(small.obstructions) + 180
    assert _finite(there.sky)


def _tree(outlets: int) -> Job:
    """One antenna on a chain of taps, an outlet at each, as far as the ids go."""
    small = demo_jobs()["mill-loft"]
    antenna = small.arrays[0]
    parts = [Part(id="p1", type="antenna", antenna=antenna.id), Part(id="p2", type="preamp-22")]
    links = [Cable(id="l1", from_part="p1", to_part="p2", cable="rg6", length_m=0.7)]
    rooms = []
    above = ("p2", 0)
    for n in range(outlets):
        tap, plate = f"p{10 + 2 * n}", f"p{11 + 2 * n}"
        rooms.append(Outlet(id=f"o{n + 1}", name=f"Room {n + 1}", satellite=False))
        parts += [Part(id=tap, type="tap-16"), Part(id=plate, type="plate", outlet=f"o{n + 1}")]
        links += [
            Cable(
                id=f"l{10 + 2 * n}",
                from_part=above[0],
                from_port=above[1],
                to_part=tap,
                cable="rg11",
                length_m=1,
            ),
            Cable(
                id=f"l{11 + 2 * n}",
                from_part=tap,
                from_port=1,
                to_part=plate,
                cable="rg6",
                length_m=4,
            ),
        ]
        above = (tap, 0)
    return small.model_copy(
        update={
            "parts": tuple(parts),
            "links": tuple(links),
            "outlets": tuple(rooms),
            "readings": (),
            "scans": (),
        }
    )


@pytest.mark.parametrize("outlets", [1, 12, 60])
def test_a_long_chain_of_taps_falls_evenly(outlets: int) -> None:
    """Each tap takes its through loss and its metre of cable: the levels are a straight line."""
    job = _tree(outlets)
    found = _answers(job)
    assert len(found.coax.outlets) == outlets
    carrier = found.coax.outlets[0].cells[0].carrier
    mhz = next(c.frequency_mhz for c in job.carriers if c.id == carrier)
    levels = [
        next(c.level.value for c in row.cells if c.carrier == carrier) for row in found.coax.outlets
    ]
    through = CATALOGUE.parts["tap-16"].gain_db(0, 0, mhz, None)
    assert through is not None
    step = -float(through) + float(CATALOGUE.cables["rg11"].loss_db(1.0, mhz))
    for n, level in enumerate(levels):
        assert level == pytest.approx((levels[0] or 0) - n * step, abs=1e-6)
    assert _finite(found.coax)


def test_a_large_job_goes_through_the_file_unharmed() -> None:
    targets, carriers = _sats(30)
    small = skerry_house()
    large = small.model_copy(
        update={"targets": small.targets + targets, "carriers": small.carriers + carriers}
    )
    assert read_job(write_job(large).encode(), CATALOGUE) == large


@pytest.mark.parametrize(
    "site",
    [
        Site(latitude_deg=90.0, longitude_deg=0.0),
        Site(latitude_deg=-90.0, longitude_deg=180.0),
        Site(latitude_deg=0.0, longitude_deg=-180.0),
        Site(latitude_deg=0.0, longitude_deg=28.0),
        Site(latitude_deg=81.4, longitude_deg=28.0),
        Site(latitude_deg=-81.2, longitude_deg=12.5),
        Site(latitude_deg=53.5, longitude_deg=-9.97, height_m=6000.0, mount_height_m=100.0),
        Site(latitude_deg=31.5, longitude_deg=35.5, height_m=-430.0, mount_height_m=0.0),
        Site(),
    ],
)
def test_a_house_at_the_ends_of_the_earth(site: Site) -> None:
    found = _answers(skerry_house().model_copy(update={"site": site, "reliefs": ()}))
    assert [s.number for s in found.stations] == list(range(1, 9))
    assert _finite(found.sky)
    assert _finite(found.aim)
    assert _finite(found.coax)


@pytest.mark.parametrize(
    ("field", "row"),
    [
        (
            "obstructions",
            {"id": "b99", "name": "wall round all", "from_deg": 0, "to_deg": 360, "top_deg": 89},
        ),
        (
            "obstructions",
            {"id": "b99", "name": "a wire", "from_deg": 135.8, "to_deg": 135.8, "top_deg": 60},
        ),
        (
            "obstructions",
            {"id": "b99", "name": "a pit", "from_deg": 90, "to_deg": 270, "top_deg": -30},
        ),
        (
            "obstructions",
            {
                "id": "b99",
                "name": "near",
                "from_deg": 90,
                "to_deg": 270,
                "distance_m": 0.1,
                "above_m": 5000,
            },
        ),
        (
            "obstructions",
            {
                "id": "b99",
                "name": "eave",
                "outline": "eave",
                "from_deg": 0,
                "to_deg": 359.9,
                "top_deg": 0,
            },
        ),
        (
            "carriers",
            {
                "id": "c99",
                "target": "t1",
                "name": "wide",
                "frequency_mhz": 32000,
                "bandwidth_mhz": 600,
                "polarisation": "L",
                "power": 2000,
                "modulation": "DVB-S2 8PSK 2/3",
            },
        ),
        (
            "carriers",
            {
                "id": "c99",
                "target": "t3",
                "name": "thin",
                "frequency_mhz": 30,
                "bandwidth_mhz": 0.1,
                "polarisation": "V",
                "power": 0.001,
                "modulation": "DVB-T 64QAM 2/3",
            },
        ),
        (
            "targets",
            {
                "id": "t99",
                "kind": "transmitter",
                "name": "under the house",
                "latitude_deg": 53.4805,
                "longitude_deg": -9.972,
                "height_m": -430,
            },
        ),
        (
            "targets",
            {
                "id": "t99",
                "kind": "transmitter",
                "name": "at the other end",
                "latitude_deg": -53.4805,
                "longitude_deg": 170.028,
                "height_m": 9000,
            },
        ),
        ("targets", {"id": "t99", "kind": "satellite", "name": "nowhere yet"}),
        (
            "spots",
            {
                "id": "s99",
                "name": "far",
                "distance_m": 300,
                "mount_height_m": 100,
                "bearing_deg": 360,
            },
        ),
        ("conductors", {"id": "e99", "role": "nothing known", "size_mm2": 0.1, "length_m": 0}),
    ],
)
def test_one_row_at_its_bounds_leaves_the_rest(field: str, row: dict[str, Any]) -> None:
    kinds = {
        "obstructions": Obstruction,
        "carriers": Carrier,
        "targets": Target,
        "spots": Spot,
        "conductors": Conductor,
    }
    job = skerry_house()
    more = job.model_copy(update={field: (*getattr(job, field), kinds[field].model_validate(row))})
    found = _answers(more)
    for part in (
        found.site,
        found.sky,
        found.aim,
        found.mast,
        found.earth,
        found.coax,
        found.readings,
    ):
        assert _finite(part)
    assert len(found.coax.outlets) == len(job.outlets)


@pytest.mark.parametrize(
    "row",
    [
        {"name": "x" * 81},
        {"from_deg": -1},
        {"to_deg": 361},
        {"top_deg": 90},
        {"distance_m": 0},
        {"growth_m_year": 6},
        {"from_deg": float("nan")},
        {"top_deg": float("inf")},
        {"outline": "cloud"},
        {"id": "B 1"},
        {"colour": "red"},
    ],
)
def test_a_row_beyond_its_bounds_never_gets_in(row: dict[str, Any]) -> None:
    whole = {"id": "b1", "name": "x", "from_deg": 1, "to_deg": 2, "top_deg": 3, **row}
    with pytest.raises(ValidationError):
        Obstruction.model_validate(whole)
