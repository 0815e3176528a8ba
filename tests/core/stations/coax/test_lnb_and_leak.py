"""What an LNB does to narrow and to many carriers, and what leaks over a switch."""

from __future__ import annotations

import numpy as np
import pytest

from evtro import catalogue, profiles
from evtro.core.answers import work_out
from evtro.core.job import Job
from evtro.core.job.parts import Catalogue
from evtro.core.stations.coax.views.answer import CoaxAnswer
from evtro.core.stations.coax.views.terms import terms
from evtro.core.units.quantities import text_of
from evtro.demo.world import skerry_house

CATALOGUE = catalogue.load()


def _coax(job: Job, parts: Catalogue = CATALOGUE) -> CoaxAnswer:
    return work_out(job, parts, profiles.load(job.profile)).coax


def _other(kind: str, **data: object) -> Catalogue:
    return CATALOGUE.model_copy(
        update={"parts": {**CATALOGUE.parts, kind: CATALOGUE.parts[kind].model_copy(update=data)}}
    )


@pytest.fixture
def house() -> Job:
    """The guesthouse with the data of the catalogue, so that a test may turn them."""
    return skerry_house().model_copy(update={"part_data": (), "cable_data": (), "limit_data": ()})


def _narrow(job: Job, mbd: float) -> Job:
    first = next(c for c in job.carriers if c.frequency_mhz > 3000)
    return job.model_copy(
        update={
            "carriers": tuple(
                c.model_copy(update={"bandwidth_mhz": mbd}) if c.id == first.id else c
                for c in job.carriers
            )
        }
    )


def test_a_narrow_carrier_under_a_drifting_oscillator_is_told(house: Job) -> None:
    lnb = next(p.type for p in house.parts if CATALOGUE.parts[p.type].bands)
    codes = [p.code for p in _coax(house).problems]
    assert "lnb-drift" not in codes
    told = next(p for p in _coax(_narrow(house, 2.2)).problems if p.code == "lnb-drift")
    assert told.state == "marginal"
    assert "2.2 MBd" in text_of(told.limit)
    locked = _other(lnb, drift_mhz=0.1)
    assert all(p.code != "lnb-drift" for p in _coax(_narrow(house, 2.2), locked).problems)
    wild = _other(lnb, drift_mhz=6.0)
    assert any(p.code == "lnb-drift" for p in _coax(house, wild).problems)


def test_what_all_transponders_together_are_is_their_power_sum(house: Job) -> None:
    lnb = next(p.type for p in house.parts if CATALOGUE.parts[p.type].bands)
    coax = _coax(house)
    columns = coax.solved.columns
    part = next(p.id for p in house.parts if p.type == lnb)
    ports = [p for p in columns.given if p[0] == part]
    sums = []
    for port in ports:
        level = columns.given[port][0]
        by_state: dict[object, float] = {}
        for c in np.flatnonzero(~np.isnan(level)):
            by_state[columns.asks[c]] = by_state.get(columns.asks[c], 0.0) + 10 ** (level[c] / 10)
        sums += [10 * np.log10(v) for v in by_state.values()]
    most = max(sums)
    for limit, state in ((most + 4, None), (most + 1, "marginal"), (most - 0.1, "fail")):
        found = [
            p
            for p in _coax(house, _other(lnb, most_output_dbuv=limit)).problems
            if p.code == "lnb-loud"
        ]
        assert [p.state for p in found] == ([state] if state else [])
        if found:
            assert found[0].gauge is not None
            assert found[0].gauge.value == pytest.approx(most, abs=1e-6)


def test_what_leaks_over_a_switch_is_the_other_carrier_less_the_isolation(house: Job) -> None:
    """By hand: of two equal carriers at one frequency in both polarisations each has the other under it by
    the isolation between inputs, and half as much where they share half their width."""
    satellite = [c for c in house.carriers if c.frequency_mhz > 3000]
    low = [c for c in satellite if c.polarisation == "V" and c.frequency_mhz < 11_700][:1]
    assert low
    twin = low[0].model_copy(update={"id": "c90", "polarisation": "H", "name": "twin"})
    switch = next(p.type for p in house.parts if CATALOGUE.parts[p.type].selects)
    for shift, share in ((0.0, 1.0), (low[0].bandwidth_mhz / 2, 0.5), (low[0].bandwidth_mhz, 0.0)):
        own = twin.model_copy(update={"frequency_mhz": twin.frequency_mhz + shift})
        others = tuple(c for c in house.carriers if c.frequency_mhz < 3000)
        job = house.model_copy(update={"carriers": (*others, low[0], own), "readings": ()})
        ratio = {}
        for isolation in (20.0, 120.0):
            coax = _coax(
                job, _other(switch, input_isolation_db=((950.0, isolation), (2150.0, isolation)))
            )
            node = coax.solved.run.outlet_node(coax.outlets[0].part)
            c = next(n for n, ch in enumerate(coax.solved.channels) if ch.id == low[0].id)
            ratio[isolation] = 10 ** (-coax.solved.run.levels.cn_db[node, c] / 10)
            if isolation == 20.0:
                levels = coax.solved.run.levels.level_dbuv[node]
                v, h = (
                    levels[c],
                    levels[next(n for n, ch in enumerate(coax.solved.channels) if ch.id == "c90")],
                )
        expected = share * 10 ** ((h - v - 20.0) / 10) if share else 0.0
        assert ratio[20.0] - ratio[120.0] == pytest.approx(expected, rel=0.03, abs=1e-9)


def test_the_leak_stands_among_what_quality_is_made_of(house: Job) -> None:
    satellite = [c for c in house.carriers if c.frequency_mhz > 3000]
    low = next(c for c in satellite if c.polarisation == "V" and c.frequency_mhz < 11_700)
    twin = low.model_copy(update={"id": "c90", "polarisation": "H", "name": "twin"})
    job = house.model_copy(update={"carriers": (*house.carriers, twin), "readings": ()})
    switch = next(p.type for p in house.parts if CATALOGUE.parts[p.type].selects)
    parts = _other(switch, input_isolation_db=((950.0, 15.0), (2150.0, 15.0)))
    coax = _coax(job, parts)
    plate = coax.outlets[0].part
    assert plate is not None
    made = terms(
        coax.ctx,
        part_id=plate,
        carrier_id=low.id,
    )
    names = {text_of(t.name) if isinstance(t.name, tuple) else str(t.name): t for t in made.quality}
    assert any("over the switch" in n for n in names)
    total = -10 * np.log10(sum(10 ** (-t.cn_db / 10) for t in made.quality))
    assert total == pytest.approx(made.cn_db, abs=0.05)
