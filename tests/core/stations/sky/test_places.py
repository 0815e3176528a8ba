"""Places to mount: none is best while all lack something, a terrestrial job compares by what
arrives, and what a place is like counts with its reason."""

from __future__ import annotations

from typing import Any

import pytest

from evtro.core.job import Array, Carrier, Job, Obstruction, Site, Spot, Target
from evtro.core.job.profile import Profile
from evtro.core.stations.sky.answer import work_out
from evtro.core.stations.sky.spots import DRAWBACKS, SpotLine
from evtro.core.units.quantities import text_of

SITE = Site(latitude_deg=50.0, longitude_deg=10.0, mount_height_m=6.0)
SAT = Target(id="t1", kind="satellite", name="Corvus", orbit_deg_e=10)
MAST = Target(
    id="t2",
    kind="transmitter",
    name="Alder Top",
    latitude_deg=50.3,
    longitude_deg=10.0,
    height_m=220,
)
MUX = Carrier(
    id="c1",
    target="t2",
    name="Mux 1",
    frequency_mhz=530,
    bandwidth_mhz=7.61,
    polarisation="H",
    power=5.0,
    modulation="DVB-T 64QAM 2/3",
)
ARRAY = Array(id="a1", name="A", target="t2", gain_dbi=11)
# A barn to the south that hides the satellite from the mount, and one to the north before the mast.
BARN = Obstruction(
    id="b1", name="Barn", outline="block", from_deg=150, to_deg=210, distance_m=12, above_m=12
)
SHED = Obstruction(
    id="b2", name="Silo", outline="block", from_deg=340, to_deg=20, distance_m=15, above_m=25
)


def _spots(europe: Profile, *spots: Spot, **rows: Any) -> list[SpotLine]:
    values: dict[str, Any] = {"targets": (SAT,), "obstructions": (BARN,)} | rows
    job = Job(name="x", date="2026-03-25", site=SITE, spots=spots, **values)  # type: ignore[arg-type]
    return work_out(job, europe).spots


def _spot(i: int, **values: Any) -> Spot:
    return Spot(**{"id": f"s{i}", "name": f"Spot {i}"} | values)


def test_none_is_best_while_all_fail_and_each_says_what_is_missing(europe: Profile) -> None:
    found = _spots(
        europe, _spot(1, bearing_deg=0, distance_m=2), _spot(2, bearing_deg=180, distance_m=3)
    )
    assert [s.state for s in found] == ["fail"] * 3
    assert not any(s.best for s in found)
    assert all("Corvus lacks" in text_of(s.why) for s in found)


def test_the_place_that_sees_is_best(europe: Profile) -> None:
    found = _spots(europe, _spot(1, bearing_deg=0, distance_m=2), _spot(2, mount_height_m=22))
    assert [s.best for s in found] == [False, False, True]
    assert "all free" in text_of(found[2].why)


def test_a_terrestrial_job_compares_by_what_arrives(europe: Profile) -> None:
    """Behind the silo the multiplex is short; 40 m to the east it is not."""
    rows = {
        "targets": (MAST,),
        "carriers": (MUX.model_copy(update={"power": 0.002}),),
        "obstructions": (SHED,),
        "arrays": (ARRAY,),
    }
    found = _spots(europe, _spot(1, bearing_deg=90, distance_m=40), **rows)
    assert len(found) == 2
    behind, aside = found
    assert behind.margin_db is not None
    assert aside.margin_db is not None
    assert aside.margin_db > behind.margin_db + 6
    assert (aside.of_arrives, behind.least_carrier) == (1, "Mux 1")
    assert aside.best
    assert "dB short" in text_of(behind.why) or "weaker" in text_of(behind.why)


def test_a_job_without_targets_compares_nothing(europe: Profile) -> None:
    assert _spots(europe, _spot(1), targets=()) == []


@pytest.mark.parametrize(("key", "value"), list(DRAWBACKS))
def test_everything_that_is_said_of_a_place_counts(europe: Profile, key: str, value: str) -> None:
    """Two places alike but for one thing: the other one is best, and the reason stands there."""
    plain, worse = _spot(1, mount_height_m=22), _spot(2, mount_height_m=22, **{key: value})
    for pair in ((plain, worse), (worse, plain)):
        found = {s.id: s for s in _spots(europe, *pair)}
        assert found["s1"].best
        assert not found["s2"].best
        assert DRAWBACKS[key, value][1] in text_of(found["s2"].why)
        assert found["s2"].drawbacks == [DRAWBACKS[key, value][1]]


def test_over_the_neighbours_ground_is_no_place(europe: Profile) -> None:
    found = _spots(europe, _spot(1, mount_height_m=22, in_way="neighbour"))
    assert found[1].state == "fail"
    assert "neighbour" in text_of(found[1].why)
    assert not any(s.best for s in found)


def test_cable_and_height_decide_among_equals(europe: Profile) -> None:
    short, long = _spot(1, mount_height_m=22, cable_m=8), _spot(2, mount_height_m=22, cable_m=30)
    found = {s.id: s for s in _spots(europe, short, long)}
    assert found["s1"].best
    assert "22 m more cable" in text_of(found["s2"].why)
    high = _spot(3, mount_height_m=25, cable_m=8)
    found = {s.id: s for s in _spots(europe, short, high)}
    assert found["s1"].best
    assert "3.0 m higher" in text_of(found["s3"].why)
