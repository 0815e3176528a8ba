"""What the antennas and LNBs give: the levels and C/N that the plant starts from."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

import numpy as np

from ....job import Carrier, Job
from ....job.context import JobParts
from ....job.parts import PartType
from ....job.paths import Band
from ....job.targets import Sight, sights
from ....network.arrays import Columns, Port
from ....physics.geodesy import Floats
from ....physics.modulation import tolerated_echo_us
from ....units.quantities import noise_dbuv
from ...aim.array.terminals import Terminals, is_for, terminals
from ...aim.dishes import link_dish, lnb_part, neighbours_of
from ...sky.answer import dish_of
from ...sky.interference import NeighbourSatellite, both_db, disturbances, interference_db
from ...sky.receiving import ReceivingDish, clear_sky
from .unwanted_signals import UnwantedSignal


def lnb_band(kind: PartType, carrier: Carrier) -> Band | None:
    """The LNB's band that converts a carrier, or None."""
    for band in kind.bands:
        inside = band.low_mhz <= carrier.frequency_mhz <= band.high_mhz
        if inside and carrier.polarisation in band.polarisations:
            return band
    return None


def same_bands(kind: PartType, band: Band) -> list[Band]:
    """The same band at every output that gives it."""
    return [
        b for b in kind.bands if (b.name, b.lo_mhz, b.asked) == (band.name, band.lo_mhz, band.asked)
    ]


def user_slot(kind: PartType, index: int) -> int | None:
    """Which user band a tuner's carrier gets, by turns; None for an LNB without user bands."""
    return index % len(kind.user_bands) if kind.user_bands else None


MOST_OVER_DB = 30.0  # one multiplex over the rest of a line; more is no line
DROP_MER_DB = 40.0  # of a company's line whose quality nobody read; common practice, no source
AtArrays = dict[str, Terminals]  # what each array of the job hears, by antenna


def from_the_air(job: Job) -> AtArrays:
    """What every array that looks somewhere hears: wanted or not, from its front or its back."""
    found = {a.id: terminals(job, a) for a in job.arrays}
    return {key: at for key, at in found.items() if at is not None}


def _best_array(job: Job, heard: AtArrays) -> dict[str, str]:
    """Which antenna each terrestrial carrier is meant to come from: the one that is set on its
    transmitter, else the one that hears it strongest."""
    given: dict[str, str] = {}
    best: dict[str, tuple[int, float]] = {}
    for antenna in job.arrays:
        at = heard.get(antenna.id)
        for i, carrier in enumerate(at.incident.carriers if at is not None else ()):
            rank = (is_for(antenna, carrier), float(at.level_dbuv[i]) if at is not None else 0.0)
            if carrier.id not in best or rank > best[carrier.id]:
                best[carrier.id] = rank
                given[carrier.id] = antenna.id
    return given


@lru_cache(maxsize=64)
def _through_the_dish(
    dish: ReceivingDish,
    sight: Sight,
    own: tuple[Carrier, ...],
    others: tuple[NeighbourSatellite, ...],
) -> tuple[Floats, Floats]:
    """Level [dBµV] and C/N [dB] of a satellite's carriers at the LNB's output, what disturbs counted."""
    waves = np.array([c.frequency_mhz for c in own])
    clear = clear_sky(
        dish,
        sight.distance_km,
        elevation_deg=sight.elevation_deg,
        frequency_mhz=waves,
        eirp_dbw=[c.power for c in own],
        bandwidth_mhz=[c.bandwidth_mhz for c in own],
    )
    disturbing = disturbances(sight, own, others, dish.skew_error_deg)
    return clear.level_dbuv, both_db(clear.cn_db, interference_db(dish, disturbing, waves))


def sources_of(
    ctx: JobParts,
    heard: AtArrays,
    around: Job | None = None,
    loud: Sequence[UnwantedSignal] = (),
) -> Columns:
    """Every carrier of the job as a column, and what each source port gives of it: each array all
    that it hears, each LNB its own satellite's carriers. `around` is the job with the satellites that
    nobody wants: they disturb all the same, and what disturbs counts as noise. What is `loud` and not
    wanted has a column beside them."""
    job = ctx.job
    carriers = job.carriers
    count = len(carriers) + len(loud)
    ports: list[Port | None] = [None] * count
    asks: list[tuple[float, bool] | None] = [None] * count
    everything: list[Carrier | UnwantedSignal] = [*carriers, *loud]
    frequency = np.array([c.frequency_mhz for c in everything])
    width = np.array([c.bandwidth_mhz for c in everything])
    given: dict[Port, tuple[Floats, Floats]] = {}
    _arrays(ctx, heard, loud=loud, ports=ports, given=given)
    _line(ctx, ports=ports, given=given)
    seen = sights(job)
    by_target: dict[str, list[int]] = {}
    for i, carrier in enumerate(carriers):
        by_target.setdefault(carrier.target, []).append(i)
    used: dict[str, int] = {}
    for target in job.targets:
        rows, sight = by_target.get(target.id, []), seen.get(target.id)
        antenna = dish_of(job, target.id) if target.kind == "satellite" else None
        part = lnb_part(job, antenna, target.id) if antenna else None
        kind = ctx.catalogue.part(part.type) if part else None
        if antenna is None or part is None or kind is None or sight is None or not sight.visible:
            continue
        taken = [(i, b) for i in rows if (b := lnb_band(kind, carriers[i])) is not None]
        if not taken:
            continue
        own = tuple(carriers[i] for i, _ in taken)
        dish = link_dish(
            job, antenna, target=target, lnb_noise_db=kind.noise_db, lnb_gain_db=kind.lnb_gain_db
        )
        level, ratio = _through_the_dish(
            dish, sight, own, tuple(neighbours_of(around or job, target))
        )
        for n, (i, band) in enumerate(taken):
            slot = user_slot(kind, used.setdefault(part.id, 0))
            used[part.id] += 1
            frequency[i] = (
                abs(own[n].frequency_mhz - band.lo_mhz)
                if slot is None
                else kind.user_bands[slot][0]
            )
            for same in same_bands(kind, band):
                port = (part.id, "out", same.output)
                at = given.setdefault(port, (np.full(count, np.nan), np.full(count, np.nan)))
                at[0][i], at[1][i] = level[n], level[n] - ratio[n]
            ports[i], asks[i] = (part.id, "out", band.output), band.asked
    _lnb_noise(ctx, given, frequency=frequency, width=width)
    return Columns(
        ids=tuple(c.id for c in everything),
        frequency_mhz=frequency,
        bandwidth_mhz=width,
        port=tuple(ports),
        given=given,
        asks=tuple(asks),
        beside=len(loud),
        supposed=sum(one.supposed for one in loud),
        echo_us=np.array(
            [
                *(tolerated_echo_us(c.modulation, c.bandwidth_mhz) for c in carriers),
                *[0.0] * len(loud),
            ]
        ),
    )


def receivers_of(job: Job) -> tuple[str, ...]:
    """Outlets at which a receiver asks for satellites and gives its line voltage, each as often as it has
    tuners: none in a job that wants no satellite, whatever its outlets say."""
    wanted = {t.id for t in job.targets if t.kind == "satellite" and t.wanted}
    if not any(c.target in wanted for c in job.carriers):
        return ()
    return tuple(o.id for o in job.outlets if o.satellite for _ in range(o.tuners))


def _arrays(
    ctx: JobParts,
    heard: AtArrays,
    *,
    loud: Sequence[UnwantedSignal],
    ports: list[Port | None],
    given: dict[Port, tuple[Floats, Floats]],
) -> None:
    job = ctx.job
    index = {c.id: i for i, c in enumerate(job.carriers)}
    meant = _best_array(job, heard)
    for part in job.parts:
        at = heard.get(part.antenna or "")
        kind = ctx.catalogue.part(part.type)
        if at is None or kind is None or kind.inputs or kind.bands:
            continue
        port = (part.id, "out", 0)
        level, noise = np.full(len(ports), np.nan), np.full(len(ports), np.nan)
        for i, one in enumerate(loud, start=len(index)):
            level[i], noise[i] = one.at.get(part.antenna or "", (np.nan, np.nan))
        for n, carrier in enumerate(at.incident.carriers):
            if carrier.id in index:
                i = index[carrier.id]
                level[i], noise[i] = at.level_dbuv[n], at.unwanted_dbuv[n]
                if meant.get(carrier.id) == part.antenna:
                    ports[i] = port
        given[port] = level, noise


def _line(
    ctx: JobParts,
    *,
    ports: list[Port | None],
    given: dict[Port, tuple[Floats, Floats]],
) -> None:
    """The company's line gives its own carriers, at what was read at the drop."""
    job = ctx.job
    mine = {t.id for t in job.targets if t.kind == "line"}
    rows = [i for i, c in enumerate(job.carriers) if c.target in mine]
    levels = drop_levels_dbuv(job, [job.carriers[i] for i in rows])
    if levels is None or not rows:
        return
    mer_db = job.company.mer_db if job.company.mer_db is not None else DROP_MER_DB
    for part in job.parts:
        kind = ctx.catalogue.part(part.type)
        if kind is None or kind.draws_as != "line":
            continue
        port = (part.id, "out", 0)
        level, noise = np.full(len(ports), np.nan), np.full(len(ports), np.nan)
        level[rows], noise[rows] = levels, levels - mer_db
        given[port] = level, noise
        for i in rows:
            ports[i] = ports[i] or port


def drop_levels_dbuv(job: Job, carriers: Sequence[Carrier]) -> Floats | None:
    """Level of the company's carriers at its drop [dBµV], shape of the carriers: on the line between the
    two that were read there, over the root of the frequency as loss in copper goes, beyond them by the same lean,
    each more or less by what its row says. None while the drop was not read, and for a line that is left."""
    at = job.company
    if (
        at.plan == "leave"
        or at.low_dbuv is None
        or at.high_dbuv is None
        or at.high_mhz <= at.low_mhz
    ):
        return None
    root = np.sqrt([c.frequency_mhz for c in carriers])
    low, high = np.sqrt([at.low_mhz, at.high_mhz])
    lean = (at.high_dbuv - at.low_dbuv) / (high - low)
    over = np.clip([c.power for c in carriers], -MOST_OVER_DB, MOST_OVER_DB)
    return np.asarray(at.low_dbuv + (root - low) * lean + over)


def _lnb_noise(
    ctx: JobParts,
    given: dict[Port, tuple[Floats, Floats]],
    frequency: Floats,
    width: Floats,
) -> None:
    """An LNB gives its noise over its whole range, whether or not a carrier is there; its own antenna
    counts as being at 290 K, which is on the safe side."""
    kinds = {p.id: ctx.catalogue.part(p.type) for p in ctx.job.parts}
    for port, (_, noise) in given.items():
        kind = kinds[port[0]]
        if kind is None or not kind.bands:
            continue
        inside = np.isnan(noise) & (frequency >= kind.low_mhz) & (frequency <= kind.high_mhz)
        own = [noise_dbuv(float(w)) + kind.lnb_gain_db + kind.noise_db for w in width[inside]]
        noise[inside] = own
