"""What the program promises about chances and best choices, counted over many made-up cases with a
fixed seed, or tried one by one."""

from __future__ import annotations

import math

import numpy as np
import pytest

from evtro import catalogue, profiles
from evtro.core.job import Antenna, Carrier, Job, Lock
from evtro.core.stations.aim.array.choices import choices
from evtro.core.stations.aim.array.heading import (
    BehindTerminals,
    bare_beyond,
    best_of,
    compare,
    preamplified,
    services_of,
    sweep,
)
from evtro.core.stations.aim.array.terminals import as_antenna, duty_of, terminals
from evtro.core.stations.aim.finding.identify import HIT, MISS, Identity, Seen, identify
from evtro.core.stations.sky.incident import IncidentField, incident_at
from evtro.core.units.quantities import noise_dbuv
from evtro.demo.world import demo_jobs

CATALOGUE = catalogue.load()


# --- which satellite, with the tries that the program proposes --------------------------------------


def _sky(random: np.random.Generator) -> list[Seen]:
    """A dozen satellites three degrees apart that share a raster of frequencies."""
    raster = [10_714.0 + 41.5 * i for i in range(48)]
    found = []
    for s in range(12):
        waves = random.choice(raster, size=int(random.integers(6, 16)), replace=False)
        carriers = tuple(
            Carrier(
                id=f"c{s * 20 + i}",
                target=f"t{s}",
                name=f"{mhz:.0f}",
                frequency_mhz=float(mhz),
                bandwidth_mhz=float(random.choice([22.0, 27.5, 30.0])),
                polarisation="HV"[int(random.integers(2))],
                power=50,
                modulation="DVB-S2 QPSK 3/4",
            )  # type: ignore[arg-type]
            for i, mhz in enumerate(waves)
        )
        found.append(Seen(f"t{s}", f"Bird {s}", 160.0 + 3.4 * s, 30.0, s == 5, carriers))
    return found


def _walk(random: np.random.Generator, tries: int) -> tuple[str, Identity, int]:
    """Set the dish by a tool that is 4° good, and follow the proposed tries: which satellite it really
    is, what the program says in the end, after how many tries."""
    sky = _sky(random)
    landed = int(np.clip(round(5 + random.normal(0, 4.0) / 3.4), 0, 11))
    real = sky[landed]
    aimed = (sky[5].azimuth_deg, 30.0)
    locks: list[Lock] = []
    said = identify(sky, locks, aimed, 4.0, "t5")
    for n in range(tries):
        if said.following is None or (said.confidence >= 0.9 and any(k.locked for k in locks)):
            return real.target, said, n
        ask = said.following
        there = any(
            abs(c.frequency_mhz - ask.frequency_mhz) < 3
            and c.polarisation == ask.polarisation
            and abs(c.bandwidth_mhz - ask.symbol_mbd) < 0.3
            for c in real.carriers
        )
        locked = bool(random.random() < (HIT if there else MISS))
        locks.append(
            Lock(
                id=f"k{n}",
                antenna="a1",
                frequency_mhz=ask.frequency_mhz,
                polarisation=ask.polarisation,
                symbol_mbd=ask.symbol_mbd,
                locked=locked,
            )
        )  # type: ignore[arg-type]
        said = identify(sky, locks, aimed, 4.0, "t5")
    return real.target, said, tries


@pytest.mark.long
def test_who_is_sure_is_right_as_often_as_is_said() -> None:
    random = np.random.default_rng(20261126)
    sure = right = 0
    taken = []
    for _ in range(150):
        real, said, tries = _walk(random, 16)
        if said.confidence < 0.9:
            continue
        sure += 1
        taken.append(tries)
        right += said.candidates[0].target == real
    assert sure >= 130, sure
    assert right / sure >= 0.9, (right, sure)
    assert np.median(taken) <= 9, np.median(taken)


def test_a_proposed_try_tells_something_and_never_was_tried() -> None:
    random = np.random.default_rng(7)
    for _ in range(40):
        sky = _sky(random)
        locks: list[Lock] = []
        for n in range(5):
            said = identify(sky, locks, (sky[5].azimuth_deg, 30.0), 4.0, "t5")
            ask = said.following
            if ask is None:
                break
            assert ask.gain_bits > 0
            assert ask.gain_bits <= math.log2(len(sky)) + 1e-9
            assert ask.if_on
            done = {(round(k.frequency_mhz), k.polarisation) for k in locks}
            assert (round(ask.frequency_mhz), ask.polarisation) not in done
            locks.append(
                Lock(
                    id=f"k{n}",
                    antenna="a1",
                    frequency_mhz=ask.frequency_mhz,
                    polarisation=ask.polarisation,
                    symbol_mbd=ask.symbol_mbd,  # type: ignore[arg-type]
                    locked=bool(random.random() < 0.4),
                )
            )


def test_the_weights_of_all_satellites_make_no_more_than_one() -> None:
    random = np.random.default_rng(11)
    for _ in range(30):
        sky = _sky(random)
        c = sky[3].carriers[0]
        lock = Lock(
            id="k1",
            antenna="a1",
            frequency_mhz=c.frequency_mhz,
            polarisation=c.polarisation,
            symbol_mbd=c.bandwidth_mhz,
        )
        said = identify(sky, [lock], None, 4.0, "t5")
        total = sum(x.likelihood for x in said.candidates)
        assert 0 < total <= 1 + 1e-9
        assert [x.likelihood for x in said.candidates] == sorted(
            (x.likelihood for x in said.candidates), reverse=True
        )
        listed = {
            s.target
            for s in sky
            if any(
                abs(o.frequency_mhz - c.frequency_mhz) < 3
                and o.polarisation == c.polarisation
                and abs(o.bandwidth_mhz - c.bandwidth_mhz) < 0.3
                for o in s.carriers
            )
        }
        assert said.candidates[0].target in listed


# --- antennas and headings, each tried on its own ---------------------------------------------------


def _farm() -> tuple[Job, Antenna, IncidentField]:
    job = demo_jobs()["harrow-farm"].model_copy(update={"trial_readings": ()})
    antenna = job.arrays[0].model_copy(update={"stands_at": None})
    return job, antenna, duty_of(job, antenna, incident_at(job, antenna))


def _served(
    job: Job,
    antenna: Antenna,
    heading: float,
    beyond: BehindTerminals,
    margin: float,
    wanted: set[str],
) -> tuple[int, float]:
    """Services over their margin at one heading, and the weakest of them, by `terminals` alone."""
    at = terminals(job, antenna.model_copy(update={"heading_deg": heading}))
    assert at is not None
    services, weakest = 0, math.inf
    for i, carrier in enumerate(at.incident.carriers):
        if carrier.id not in wanted:
            continue
        unwanted = 10 ** (float(at.level_dbuv[i] - at.cn_db[i]) / 10) + 10 ** (
            beyond.noise_dbuv[i] / 10
        )
        over = float(at.level_dbuv[i]) - 10 * math.log10(unwanted) - float(at.incident.wanted_db[i])
        if over >= margin:
            services += max(len(carrier.services), 1)
            weakest = min(weakest, over)
    return services, weakest


@pytest.mark.parametrize("behind", [bare_beyond, preamplified])
def test_no_heading_brings_more_than_the_best_one(behind) -> None:  # type: ignore[no-untyped-def]
    job, antenna, incident = _farm()
    beyond = behind(incident)
    margin = profiles.load(job.profile).margin_db
    total = int(services_of(incident).sum())
    best = best_of(sweep(incident, [antenna], beyond, margin), 0, total)
    wanted = {c.id for c, w in zip(incident.carriers, incident.wanted, strict=True) if w}
    tried = {h: _served(job, antenna, float(h), beyond, margin, wanted) for h in range(0, 360, 3)}
    assert max(n for n, _ in tried.values()) <= best.services
    at_best = _served(job, antenna, best.heading_deg, beyond, margin, wanted)
    assert at_best[0] == best.services
    assert at_best[1] == pytest.approx(best.least_db, abs=0.01)
    # Within the stretch as many, just outside of it fewer.
    for edge in (best.from_deg, best.to_deg):
        assert _served(job, antenna, edge, beyond, margin, wanted)[0] == best.services
    for outside in (best.from_deg - 1.5, best.to_deg + 1.5):
        assert _served(job, antenna, outside % 360, beyond, margin, wanted)[0] < best.services


def test_no_smaller_antenna_does_what_the_smallest_does() -> None:
    job, antenna, incident = _farm()
    beyond = preamplified(incident)
    margin = profiles.load(job.profile).margin_db
    total = int(services_of(incident).sum())
    rows, words = choices(incident, beyond, margin, CATALOGUE, antenna, total)
    wanted = {c.id for c, w in zip(incident.carriers, incident.wanted, strict=True) if w}
    marked = [r for r in rows if r.mark == "smallest"]
    assert len(marked) == 1
    assert marked[0].name in words
    sizes = [r.wind_area_m2 * r.length_m for r in rows]
    assert sizes == sorted(sizes)
    for row in rows[: rows.index(marked[0])]:
        own = as_antenna(CATALOGUE.antennas[row.key], antenna)
        most = max(_served(job, own, float(h), beyond, margin, wanted)[0] for h in range(0, 360, 4))
        assert most < marked[0].services
        assert most <= row.services


def test_two_antennas_and_a_combiner_by_hand() -> None:
    """Each straight at one transmitter, what comes in stronger counts, 4 dB less for the combiner."""
    job, antenna, incident = _farm()
    beyond = preamplified(incident)
    margin = profiles.load(job.profile).margin_db
    total = int(services_of(incident).sum())
    best = best_of(sweep(incident, [antenna], beyond, margin), 0, total)
    two = next(
        w
        for w in compare(incident, antenna, beyond, margin, best, combiner_db=4.0)
        if w.key == "two"
    )
    levels = []
    for heading in two.headings_deg:
        at = terminals(job, antenna.model_copy(update={"heading_deg": heading}))
        assert at is not None
        levels.append(at.level_dbuv)
    stronger = np.maximum(*levels) - 4.0
    share = _shares(incident)
    services, weakest = 0, math.inf
    for i, carrier in enumerate(incident.carriers):
        if not incident.wanted[i]:
            continue
        unwanted = 10 ** (noise_dbuv(carrier.bandwidth_mhz) / 10) + 10 ** (
            beyond.noise_dbuv[i] / 10
        )
        unwanted += sum(10 ** (stronger[j] / 10) * share[j][i] for j in range(len(stronger)))
        over = stronger[i] - 10 * math.log10(unwanted) - float(incident.wanted_db[i])
        if over >= margin:
            services += max(len(carrier.services), 1)
            weakest = min(weakest, over)
    assert services == two.services
    assert weakest == pytest.approx(two.least_db, abs=0.01)


def _shares(incident: IncidentField) -> list[list[float]]:
    from evtro.core.stations.sky.incident import disturbance

    rows: list[list[float]] = disturbance(
        incident.carriers, incident.frequency_mhz, incident.bandwidth_mhz
    ).tolist()
    return rows
