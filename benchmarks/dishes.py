"""Speed of what belongs to satellites, on made cases, side by side with a general library."""

from __future__ import annotations

import datetime as dt
import warnings

import numpy as np
from timing import median_ms

from evtro.core.job import Carrier, Obstruction, Site, Spot
from evtro.core.job.targets import Sight
from evtro.core.physics.geodesy import look
from evtro.core.physics.propagation.rain import Climate
from evtro.core.stations.aim.finding.peaking import fit
from evtro.core.stations.site.skyline import View, edges_of
from evtro.core.stations.sky.interference import NeighbourSatellite
from evtro.core.stations.sky.lines import Survey
from evtro.core.stations.sky.link import link
from evtro.core.stations.sky.receiving import ReceivingDish
from evtro.core.stations.sky.remedies import Wants, remedies, slack_deg
from evtro.core.stations.sky.spots import compare

Row = tuple[str, str, str]


def look_angles() -> list[Row]:
    """100 000 pairs, and the same by astropy's frames."""
    import astropy.units as u
    from astropy.coordinates import ITRS, AltAz, EarthLocation
    from astropy.time import Time
    from astropy.utils import iers

    iers.conf.auto_download, iers.conf.auto_max_age = False, None
    warnings.filterwarnings("ignore", module="astropy")
    random = np.random.default_rng(1)
    n = 100_000
    lat, lon = random.uniform(-70, 70, n), random.uniform(-180, 180, n)
    orbit = lon + random.uniform(-60, 60, n)

    def theirs() -> None:
        """The satellite, and two points of its axis for the tilt, as the reference test has it."""
        place = EarthLocation.from_geodetic(lon * u.deg, lat * u.deg, 0 * u.m)
        when = Time("2026-03-25T12:00:00")
        a = np.radians(orbit)
        site = np.array([place.x.to_value(u.m), place.y.to_value(u.m), place.z.to_value(u.m)])
        for raised in (0.0, -5000.0, 5000.0):
            sat = np.array([*(42_164_170.0 * np.array([np.cos(a), np.sin(a)])), np.full(n, raised)])
            line = ITRS(*((sat - site) * u.m), obstime=when, location=place)
            seen = line.transform_to(AltAz(obstime=when, location=place))
            _ = seen.az.deg, seen.alt.deg

    mine = median_ms(lambda: look(lat, lon, 0.0, orbit), 9)
    slow = median_ms(theirs, 3)
    return [
        ("look angles and tilt, 100 000 pairs, median", "50 ms", f"{mine:.1f} ms"),
        ("  against astropy on the same pairs", "20 times", f"{slow / mine:.0f} times"),
    ]


def survey() -> list[Row]:
    """60 obstructions, 80 satellites, 5 places, and the remedies of what is out at each."""
    random = np.random.default_rng(2)
    rows = [
        Obstruction(
            id=f"b{i}",
            name=f"thing {i}",
            outline=("block", "gable", "crowns", "ridge")[i % 4],
            nature="evergreen",
            from_deg=float(a),
            to_deg=float((a + random.uniform(4, 14)) % 360),
            distance_m=float(random.uniform(8, 120)),
            above_m=float(random.uniform(1, 9)),
            seen_from_m=6,
        )
        for i, a in enumerate(random.uniform(60, 300, 60))
    ]
    seen = look(50.0, 0.0, 0.0, np.linspace(-62, 62, 80))
    ones = np.ones(80)
    wants = Wants(seen.azimuth_deg, seen.elevation_deg, 5 * ones, 1.1 * ones, 0.4 * ones)
    spots = [
        Spot(
            id=f"s{i}", name=f"place {i}", bearing_deg=72.0 * i, distance_m=6, mount_height_m=6 + i
        )
        for i in range(5)
    ]
    names = [str(i) for i in range(80)]
    job = Survey(
        site=Site(),
        obstructions=tuple(rows),
        targets=(),
        carriers=(),
        dishes=(),
        arrays=(),
        feeds=(),
        spots=tuple(spots),
        reliefs=(),
        date=dt.date(2026, 3, 25),
        keep_clear_deg=5.0,
        keep_clear_two_way_deg=10.0,
        keep_clear_origin="",
        margin_reserve_db=1.0,
    )

    def whole() -> None:
        slack = slack_deg(wants, edges_of(rows, View(6.0))).min(axis=1)
        worst = int(slack.argmin())
        remedies(wants, worst, "t1", rows, 6.0, 0)
        compare(job, wants, names, 6.0, 0)

    def places() -> None:
        compare(job, wants, names, 6.0, 0)

    return [
        (
            "skyline, 60 things, 80 satellites, 5 places and remedies",
            "50 ms",
            f"{median_ms(whole, 15):.0f} ms",
        ),
        ("  the places alone", "", f"{median_ms(places, 15):.0f} ms"),
    ]


def peaks() -> list[Row]:
    """A fit over 200 readings."""
    random = np.random.default_rng(3)
    x = np.linspace(-2, 2, 200)
    y = 14 - 12 * ((x - 0.3) / 2.1) ** 2 + random.normal(0, 0.2, 200)
    return [
        ("peak fit over 200 readings, median", "5 ms", f"{median_ms(lambda: fit(x, y), 60):.2f} ms")
    ]


def links() -> list[Row]:
    """100 transponders with two neighbours, without rain and with it."""

    def carriers(shift: float) -> list[Carrier]:
        return [
            Carrier(
                id=f"c{i}",
                target="t1",
                name=str(i),
                frequency_mhz=10_720 + 20 * i + shift,
                bandwidth_mhz=22,
                polarisation="HV"[i % 2],
                power=50,
                modulation="DVB-S2 8PSK 2/3",
            )
            for i in range(100)
        ]

    sight = Sight("t1", 150.0, 30.0, -12.0, 38_500.0, True, None)
    others = [
        NeighbourSatellite("E", 147.0, 29.5, tuple(carriers(6))),
        NeighbourSatellite("W", 153.0, 30.4, tuple(carriers(-7))),
    ]
    own, dish = carriers(0), ReceivingDish(0.8, 0.65)

    def dry() -> object:
        return link(dish, sight, 50, 100, own, others, None, 99.7, 1.0)

    from itur.models import itu837, itu839

    def wet() -> object:
        rate, high = (
            float(itu837.rainfall_rate(50, 3, 0.01).value),
            float(itu839.rain_height(50, 3).value),
        )
        return link(dish, sight, 50, 100, own, others, Climate(rate, high), 99.7, 1.0)

    return [
        ("link of 100 transponders, no rain, median", "5 ms", f"{median_ms(dry, 20):.1f} ms"),
        ("  with rain and its maps, library loaded", "500 ms", f"{median_ms(wet, 10):.0f} ms"),
    ]


def dishes() -> list[Row]:
    """All of it."""
    return look_angles() + survey() + peaks() + links()
