"""Derating of amplifiers and level windows against their standards, from memory where the text is not at
hand: EN 60728-3 and -5 practice for n carriers; EN 60728-1 at outlets; SCTE 40 and North American practice;
a CATV handbook's table of the same rule (7.5 log for third order)."""

from __future__ import annotations

import numpy as np
import pytest

from evtro import catalogue, profiles
from evtro.core.job import Cable, Company, Job, Outlet, Part
from evtro.core.job.changes import PutOnLine
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.levels.outlets import solve_job
from evtro.core.stations.coax.levels.ratings import output_limits
from tests.changes import taken
from tests.core.stations.coax.test_company import kept_line

CATALOGUE = catalogue.load()


def _amplified(carriers: int) -> Job:
    job = kept_line()
    job = job.model_copy(
        update={
            "company": Company(plan="both", low_mhz=114, high_mhz=802, low_dbuv=70, high_dbuv=70)
        }
    )
    high = 114 + 8 * (carriers - 1)
    job = taken(job, PutOnLine(low_mhz=114, high_mhz=high, every_mhz=8, modulation="DVB-C 256QAM"))
    return job.model_copy(
        update={
            "parts": (
                job.parts[0],
                Part(id="p2", type="amp-house-20"),
                Part(id="p4", type="plate", outlet="o1"),
            ),
            "outlets": (
                Outlet(
                    id="o1", name="Den", terrestrial=False, satellite=False, company="television"
                ),
            ),
            "links": (
                Cable(id="l1", from_part=job.parts[0].id, to_part="p2", cable="rg6", length_m=1.0),
                Cable(id="l2", from_part="p2", to_part="p4", cable="rg6", length_m=1.0),
            ),
        }
    )


# Rated output less by dB for n carriers: the table that data sheets print beside the rule.
TABLE = {1: 0.0, 2: 0.0, 3: 2.3, 4: 3.6, 6: 5.2, 10: 7.2, 12: 7.8, 20: 9.6, 42: 12.1, 60: 13.3}


@pytest.mark.parametrize("carriers", sorted(TABLE))
def test_an_amplifier_is_rated_lower_for_more_carriers(carriers: int) -> None:
    job = _amplified(carriers)
    solved = solve_job(NetworkContext(job, CATALOGUE, profiles.load("europe")))
    one = next(limit for limit in output_limits(solved, "p2") if limit.bound == "carrier")
    rated = CATALOGUE.parts["amp-house-20"].paths[0].rated_output_dbuv
    assert rated is not None
    assert one.count == carriers
    assert one.high_dbuv == pytest.approx(rated - TABLE[carriers], abs=0.06)


def test_all_carriers_together_may_be_two_at_the_rating() -> None:
    job = _amplified(20)
    solved = solve_job(NetworkContext(job, CATALOGUE, profiles.load("europe")))
    together = next(limit for limit in output_limits(solved, "p2") if limit.bound == "total")
    rated = CATALOGUE.parts["amp-house-20"].paths[0].rated_output_dbuv
    assert rated is not None
    assert together.high_dbuv == pytest.approx(rated + 10 * np.log10(2), abs=0.02)
    level = solved.run.levels.level_dbuv[together.node]
    power = 10 * np.log10((10 ** (level[np.isfinite(level)] / 10)).sum())
    assert together.now(solved)[1] == pytest.approx(power, abs=1e-6)


# EN 60728-1:2014, levels at the system outlet [dBµV] (from memory).
EUROPE = {
    "DVB-T": (45, 74),
    "DVB-T2": (45, 74),
    "DVB-S": (47, 77),
    "DVB-S2": (47, 77),
    "DVB-C 64QAM": (47, 67),
    "DVB-C 256QAM": (54, 74),
    "FM": (50, 70),
}
# North American practice and SCTE 40 (from memory), dBmV and dBm turned into dBµV at 75 ohm.
AMERICA = {
    "ATSC": (-68 + 108.75, -20 + 108.75),
    "DVB-C 64QAM": (-15 + 60, 15 + 60),
    "DVB-C 256QAM": (-12 + 60, 15 + 60),
    "DVB-S2": (-65 + 108.75, -25 + 108.75),
}


@pytest.mark.parametrize(("school", "table"), [("europe", EUROPE), ("north-america", AMERICA)])
def test_windows_are_those_of_the_standard(
    school: str, table: dict[str, tuple[float, float]]
) -> None:
    profile = profiles.load(school)
    for code, (low, high) in table.items():
        window = profile.window(code, code.split()[0])
        assert (window.low_dbuv, window.high_dbuv) == pytest.approx((low, high), abs=0.01), code
        assert "from memory" in window.origin
