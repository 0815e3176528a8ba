"""What nobody wants and comes down all the same: it loads the amplifier."""

from __future__ import annotations

import numpy as np
import pytest

from evtro import catalogue, profiles
from evtro.core.job import Carrier, Job, Target
from evtro.core.job.context import JobParts
from evtro.core.job.problems import Problem
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.fixes.front_end import front_end, with_front
from evtro.core.stations.coax.levels.ratings import output_limits
from evtro.core.stations.coax.views.answer import CoaxAnswer
from evtro.core.units.quantities import text_of

from .test_checks import answer, house

CATALOGUE = catalogue.load()
EUROPE = profiles.load("europe")


def _told(found: CoaxAnswer, code: str) -> Problem | None:
    return next((p for p in found.problems if p.code == code), None)


def beside(job: Job, *carriers: Carrier, wanted: bool = True) -> Job:
    """The job with another transmitter 1.5 km away, in line with the wanted one."""
    mast = Target(
        id="t2",
        kind="transmitter",
        name="Sill",
        latitude_deg=53.4850,
        longitude_deg=-9.9492,
        height_m=60,
        wanted=wanted,
    )
    return job.model_copy(
        update={"targets": (*job.targets, mast), "carriers": (*job.carriers, *carriers)}
    )


def _base_station(power_kw: float, mhz: float = 763.0) -> Carrier:
    return Carrier(
        id="c9",
        target="t2",
        name="sector 1",
        frequency_mhz=mhz,
        bandwidth_mhz=10,
        polarisation="H",
        power=power_kw,
        modulation="Mobile OFDM",
    )


def strong(power_kw: float) -> Carrier:
    return Carrier(
        id="c8",
        target="t2",
        name="local mux",
        frequency_mhz=650,
        bandwidth_mhz=7.61,
        polarisation="H",
        power=power_kw,
        modulation="DVB-T 64QAM 2/3",
    )


def _amplified() -> Job:
    return house("preamp-22", "inserter-12", extra_db=10, metres=20)


def test_a_base_station_as_entered_overdrives_at_coax_as_at_front_end() -> None:
    job = beside(_amplified(), _base_station(20.0))
    found = answer(job)
    problem = _told(found, "overload")
    assert problem is not None
    assert problem.state == "fail"
    assert "Sill, sector 1" in text_of(problem.title)
    front = front_end(NetworkContext(job, CATALOGUE, EUROPE), job.arrays[0])
    assert front is not None
    now = next(o for o in front.options if o.now)
    assert now.load.state == "fail"
    assert problem.gauge is not None
    assert now.load.value == pytest.approx(problem.gauge.value, abs=1e-9)
    assert front.advised.startswith("filter-694")
    filtered = answer(with_front(JobParts(job, CATALOGUE), "a1", front.advised))
    assert _told(filtered, "overload") is None


def test_a_base_station_is_no_channel_of_an_outlet() -> None:
    found = answer(beside(_amplified(), _base_station(0.01)))
    assert [c.id for c in found.channels] == ["c1", "c2", "c3"]
    assert [cell.carrier for cell in found.outlets[0].cells] == ["c1", "c2", "c3"]


def test_a_supposed_base_station_warns_and_one_that_is_entered_counts() -> None:
    job = house("preamp-22", "inserter-12", "amp-house-20", extra_db=30, metres=5)
    supposed = answer(job)
    problem = _told(supposed, "overload-supposed")
    assert problem is not None
    assert problem.state == "marginal"
    assert _told(supposed, "overload") is None

    def at(away_m: float) -> CoaxAnswer:
        return answer(
            job.model_copy(update={"site": job.site.model_copy(update={"mobile_m": away_m})})
        )

    assert _told(at(1000), "overload") is not None
    assert _told(at(30_000), "overload") is None
    assert _told(at(30_000), "overload-supposed") is None
    # What makes distortion is only what is known: it takes from the margin then, more the nearer.
    margin = [
        float(np.min(a.outlets[0].judged.margin_db))
        for a in (supposed, at(2000), at(1000), at(700))
    ]
    assert margin == sorted(margin, reverse=True)
    assert margin[0] > margin[-1] + 1


def test_distortion_takes_the_margin_and_the_amplifier_that_makes_it_is_named() -> None:
    job = house("preamp-22", "inserter-12", "amp-house-20", extra_db=30, metres=5)
    job = job.model_copy(update={"site": job.site.model_copy(update={"mobile_m": 700.0})})
    problem = _told(answer(job), "distortion")
    assert problem is not None
    assert "House amplifier" in text_of(problem.remedy)


def test_a_transmitter_that_nobody_wants_loads_the_preamplifier() -> None:
    quiet = answer(_amplified())
    assert _told(quiet, "overload") is None
    job = beside(_amplified(), strong(60.0), wanted=False)
    found = answer(job)
    problem = _told(found, "overload")
    assert problem is not None
    assert "Sill, local mux" in text_of(problem.title)
    assert "c8" not in [c.id for c in found.channels]
    limits = output_limits(found.solved, "p2")
    assert [x.bound for x in limits] == ["carrier", "total", "supposed"]
    assert limits[1].now(found.solved)[1] > limits[0].now(found.solved)[1] + 3


def test_without_an_amplifier_nothing_but_the_wanted_is_reckoned() -> None:
    found = answer(beside(house(), strong(60.0), wanted=False))
    assert found.solved.loud == []
    assert found.solved.run.found.distortion is None
