"""Speed of the terrestrial work: ways over terrain, the sweep of headings, a tile."""

from __future__ import annotations

import statistics
import subprocess
import sys
import tempfile
from pathlib import Path

import numpy as np
from timing import median_ms

from evtro.core.job import Array, Carrier, Job, Site, Target, TerrainProfile
from evtro.core.stations.aim.array.heading import bare_beyond, sweep
from evtro.core.stations.sky.incident import incident_at
from evtro.core.stations.sky.path import way_of
from evtro.core.stations.sky.senders import Mux, Sender, near
from evtro.demo.arrays import DAY

SITE = Site(latitude_deg=57.2, longitude_deg=-4.5, height_m=60.0, mount_height_m=8.0)
POINTS, AWAY_DEG = 600, 60 / 111.3
MODULATION = "DVB-T 64QAM 2/3"


def _round() -> tuple[list[Sender], dict[str, TerrainProfile]]:
    """A hundred transmitters all round, each 60 km away over rough ground, five multiplexes each."""
    rng = np.random.default_rng(60)
    senders, reliefs = [], {}
    for i in range(100):
        lat = 57.2 + AWAY_DEG * np.cos(i / 100 * 2 * np.pi)
        lon = -4.5 + AWAY_DEG * np.sin(i / 100 * 2 * np.pi) / np.cos(np.radians(57.2))
        muxes = tuple(
            Mux(
                name=f"m{k}",
                frequency_mhz=474.0 + 8 * ((i + 5 * k) % 27),
                erp_kw=1.0,
                modulation=MODULATION,
            )
            for k in range(5)
        )
        name = f"T{i}"
        senders.append(
            Sender(name=name, latitude_deg=lat, longitude_deg=lon, height_m=400.0, muxes=muxes)
        )
        ground = np.abs(np.cumsum(rng.normal(0, 6, POINTS))) + 40
        reliefs[name] = TerrainProfile(
            id="g1",
            target="t1",
            source="bench",
            from_latitude_deg=57.2,
            from_longitude_deg=-4.5,
            to_latitude_deg=lat,
            to_longitude_deg=lon,
            length_km=60.0,
            heights_m=tuple(ground.round(1).tolist()),
        )
    return senders, reliefs


def _ways() -> float:
    senders, reliefs = _round()

    def run() -> None:
        way_of.cache_clear()
        rows = near(SITE, senders, 8.0, lambda t: reliefs[t.name], set())
        assert len(rows) == 100

    return median_ms(run, 9)


def _headings() -> float:
    rng = np.random.default_rng(7)
    targets = tuple(
        Target(
            id=f"t{i + 1}",
            kind="transmitter",
            name=f"T{i}",
            latitude_deg=57.2 + rng.uniform(-0.4, 0.4),
            longitude_deg=-4.5 + rng.uniform(-0.8, 0.8),
            height_m=400.0,
        )
        for i in range(20)
    )
    carriers = tuple(
        Carrier(
            id=f"c{i + 1}",
            target=f"t{i % 20 + 1}",
            name=f"m{i}",
            frequency_mhz=474.0 + 8 * (i % 27),
            bandwidth_mhz=7.61,
            polarisation="H",
            power=0.01,
            modulation=MODULATION,
        )
        for i in range(100)
    )
    antennas = [
        Array(
            id=f"a{i + 1}",
            name=f"A{i}",
            gain_dbi=6.0 + 0.5 * i,
            beamwidth_deg=60.0 - 2 * i,
        )
        for i in range(20)
    ]
    job = Job(
        name="bench",
        date=DAY,
        site=SITE,
        targets=targets,
        carriers=carriers,
        arrays=tuple(antennas),
    )
    incident = incident_at(job, antennas[0])
    beyond = bare_beyond(incident)
    return median_ms(lambda: sweep(incident, antennas, beyond, 3.0), 15)


_TILE = """
import resource, sys, time
from pathlib import Path
import numpy as np
import rasterio
from evtro.formats import elevation
path = Path(sys.argv[1])
before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
start = time.perf_counter()
tile = elevation.inspect(path, path.name)
lat, lon = np.linspace(57.05, 57.55, 601), np.linspace(-4.9, -4.2, 601)
found = elevation.heights(tile, lat, lon)
taken = (time.perf_counter() - start) * 1000
assert np.isfinite(found).all()
print(taken, (resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before) / 1000)
"""


def _tile() -> tuple[float, float]:
    """Milliseconds and megabytes more to open a tile of 3601 x 3601 and read a profile, each time in
    a process of its own."""
    import rasterio
    from rasterio.transform import from_origin

    n = 3601
    rows = (np.add.outer(np.arange(n), np.arange(n)) % 900).astype("int16")
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "large.tif"
        with rasterio.open(
            path,
            "w",
            driver="GTiff",
            width=n,
            height=n,
            count=1,
            dtype="int16",
            crs="EPSG:4326",
            transform=from_origin(-5, 58, 1 / 3600, 1 / 3600),
            nodata=-32768,
            compress="deflate",
        ) as file:
            file.write(rows, 1)
        found = [
            [
                float(x)
                for x in subprocess.run(
                    [sys.executable, "-c", _TILE, str(path)],
                    check=True,
                    capture_output=True,
                    text=True,
                ).stdout.split()
            ]
            for _ in range(5)
        ]
    return statistics.median(f[0] for f in found), max(f[1] for f in found)


def arrays() -> list[tuple[str, str, str]]:
    """Rows of the table."""
    taken, grown = _tile()
    return [
        (
            "100 transmitters x 5 multiplexes, 600 points of terrain, median",
            "400 ms",
            f"{_ways():.0f} ms",
        ),
        (
            "best heading: 360 bearings, 100 multiplexes, 20 antennas, median",
            "50 ms",
            f"{_headings():.0f} ms",
        ),
        ("tile of 3601 x 3601 opened and a profile read, median", "300 ms", f"{taken:.0f} ms"),
        ("  memory it takes, of 26 MB of heights", "", f"{grown:.0f} MB"),
    ]
