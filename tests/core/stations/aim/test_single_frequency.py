"""Networks on one frequency: help inside the guard interval, disturbance beyond it."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro import profiles
from evtro.core.job import Array, Carrier, Job, Site, Target
from evtro.core.stations.aim.array.terminals import terminals
from evtro.core.stations.aim.array.ways import paths
from evtro.core.stations.sky.incident import incident_at
from evtro.core.stations.sky.single_frequency import (
    Frame,
    arrivals_us,
    frame_of,
    weight,
    window_start_us,
)
from evtro.core.units.quantities import noise_dbuv

EUROPE = profiles.load("europe")
DVB_T = Frame(896.0, 224.0, "")
HOUSE = Site(latitude_deg=52.0, longitude_deg=8.0, mount_height_m=10.0)


def _mux(i: int, target: str, network: str = "N", **more: Any) -> Carrier:
    return Carrier(
        id=f"c{i}",
        target=target,
        name="Mux",
        frequency_mhz=530.0,
        bandwidth_mhz=7.61,
        polarisation="H",
        power=50.0,
        modulation="DVB-T 64QAM 2/3",
        network=network,
        **more,
    )


def _job(far_km: float, network: str = "N", delay_us: float = 0.0, **more: Any) -> Job:
    """One transmitter 20 km to the north, another of the same multiplex to the east."""
    at = (
        Target(
            id="t1",
            kind="transmitter",
            name="North",
            latitude_deg=52.0 + 20 / 111.2,
            longitude_deg=8.0,
            height_m=300,
            own_loss_db=0.0,
        ),
        Target(
            id="t2",
            kind="transmitter",
            name="East",
            latitude_deg=52.0,
            height_m=300,
            own_loss_db=0.0,
            longitude_deg=8.0 + far_km / 111.2 / math.cos(math.radians(52.0)),
            delay_us=delay_us,
        ),
    )
    return Job(
        name="x",
        date="2026-03-25",
        site=HOUSE,
        targets=at,  # type: ignore[arg-type]
        carriers=(_mux(1, "t1", network, **more), _mux(2, "t2", network, **more)),
        arrays=(Array(id="a1", name="A", target="t1", gain_dbi=12),),
    )


def _cn(job: Job) -> float:
    at = terminals(job, job.arrays[0])
    assert at is not None
    return float(at.cn_db[at.incident.ids.index("c1")])


def _alone(job: Job) -> float:
    return _cn(job.model_copy(update={"carriers": job.carriers[:1]}))


# By the rule of EBU Tech 3348 (from memory), worked by hand for 8k, guard 1/4: 300 us late is 76 us
# over the guard: (820/896)^2 = 0.8375; 600 us late lies beyond 7/24 of the symbol past the guard.
@pytest.mark.parametrize(
    ("delay", "share"),
    [
        (0, 1.0),
        (224, 1.0),
        (300, 0.83755),
        (485, 0.50275),
        (486, 0.0),
        (600, 0.0),
        (-50, 0.89151),
        (-262, 0.0),
    ],
)
def test_weights_by_hand(delay: float, share: float) -> None:
    assert float(weight(delay, DVB_T)) == pytest.approx(share, abs=5e-4)


@given(st.floats(-900, 900), st.floats(1, 300))
def test_a_longer_guard_never_harms(delay: float, guard: float) -> None:
    short, long = Frame(896.0, guard, ""), Frame(896.0, guard + 30, "")
    assert float(weight(delay, long)) >= float(weight(delay, short))
    assert 0 <= float(weight(delay, short)) <= 1


def test_delay_is_the_way_at_the_speed_of_light_and_the_networks_own() -> None:
    """30 km are 100.07 us."""
    assert arrivals_us([30.0, 30.0], [0.0, -50.0]) == pytest.approx([100.07, 50.07], abs=0.01)


def test_inside_the_guard_it_helps_beyond_it_disturbs_and_strangers_always_do() -> None:
    """40 km more are 133 us: inside 224. 100 km more are 334 us: 110 over it. Strangers on the same
    channel disturb wherever they stand."""
    near, far = _job(60.0), _job(120.0)
    assert _cn(near) >= _alone(near)
    assert _cn(far) < _alone(far) - 3
    stranger = near.model_copy(
        update={"carriers": (near.carriers[0], near.carriers[1].model_copy(update={"network": ""}))}
    )
    assert _cn(stranger) < _cn(near) - 5


def test_late_echo_by_hand() -> None:
    """334 us late: w = ((896 - 110) / 896)^2; the rest of its power stands beside the noise."""
    job = _job(120.0)
    at = terminals(job, job.arrays[0])
    assert at is not None
    one, two = (at.incident.ids.index(k) for k in ("c1", "c2"))
    late = float(at.incident.at_us[two] - at.incident.at_us[one])
    assert late == pytest.approx(100 / 0.299792, abs=2.0)
    w = ((896 - (late - 224)) / 896) ** 2
    own, other = (10 ** (float(at.level_dbuv[k]) / 10) for k in (one, two))
    noise = 10 ** (noise_dbuv(7.61) / 10)
    hand = 10 * math.log10((own + w * other) / (noise + (1 - w) * other))
    assert float(at.cn_db[one]) == pytest.approx(hand, abs=0.01)


def test_the_networks_timing_and_a_typed_guard_count() -> None:
    late = _job(120.0)
    timed = _job(120.0, delay_us=-150.0)  # sends earlier: arrives 184 us after the near one
    assert _cn(timed) > _cn(late) + 3
    short = _job(60.0, guard_us=28.0)  # 1/128 of 32k: 133 us are far outside
    assert _cn(short) < _cn(_job(60.0)) - 3


def test_the_window_follows_the_power() -> None:
    """A strong early arrival pulls the window to it as long as the own one stays inside."""
    at, power = np.array([0.0, 100.0, 400.0]), np.array([10.0, 1.0, 1.0])
    assert window_start_us(at, power, 1, DVB_T) == 0.0
    assert window_start_us(at, power, 2, DVB_T) == 400.0


@pytest.mark.parametrize(
    ("modulation", "guard"),
    [
        ("DVB-T 64QAM 2/3", 224),
        ("DVB-T2 256QAM 2/3", 224),
        ("ISDB-T 64QAM 3/4", 126),
        ("DAB DQPSK", 246),
        ("ATSC 8-VSB", 40),
        ("DTMB 64QAM 0.6", 55.6),
    ],
)
def test_every_system_has_its_guard(modulation: str, guard: float) -> None:
    width = {"ISDB-T": 5.57, "DAB": 1.536, "ATSC": 5.38, "DTMB": 7.56}.get(
        modulation.split()[0], 7.61
    )
    row = _mux(1, "t1").model_copy(update={"modulation": modulation, "bandwidth_mhz": width})
    found = frame_of(row)
    assert found is not None
    assert found.guard_us == pytest.approx(guard)
    assert found.origin


def test_a_narrow_raster_has_longer_symbols() -> None:
    """DVB-T in 7 MHz: 8k lasts 1024 us, a quarter of it 256 (EN 300 744 annex E, from memory)."""
    row = _mux(1, "t1").model_copy(update={"bandwidth_mhz": 6.66})
    found = frame_of(row)
    assert found is not None
    assert found.useful_us == pytest.approx(1024, rel=2e-3)
    assert found.guard_us == pytest.approx(256, rel=2e-3)


def test_the_echo_pattern_is_shown_with_the_multiplex() -> None:
    job = _job(120.0)
    line = next(m for p in paths(job, EUROPE).paths if p.target == "t1" for m in p.muxes)
    assert line.network is not None
    assert [e.name for e in line.network.echoes] == ["North", "East"]
    assert line.network.echoes[0].delay_us == 0
    assert line.network.echoes[1].delay_us == pytest.approx(333.6, abs=2)
    assert 0 < line.network.echoes[1].useful < 1
    assert line.network.guard_us == 224
    alone = job.model_copy(update={"carriers": job.carriers[:1]})
    assert paths(alone, EUROPE).paths[0].muxes[0].network is None


def test_without_networks_nothing_changes() -> None:
    job = _job(60.0, network="")
    assert incident_at(job, job.arrays[0]).at_us.shape == (2,)
    at = terminals(job, job.arrays[0])
    assert at is not None
    one, two = (at.incident.ids.index(k) for k in ("c1", "c2"))
    own, other = (10 ** (float(at.level_dbuv[k]) / 10) for k in (one, two))
    hand = 10 * math.log10(own / (10 ** (noise_dbuv(7.61) / 10) + other))
    assert float(at.cn_db[one]) == pytest.approx(hand, abs=1e-6)
