"""The best heading: services over their margin against bearing, for one antenna or many at once;
one antenna, two with a combiner, or a rotator."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ....job import Array
from ....physics.beams import array_loss_db
from ....physics.geodesy import Floats
from ....physics.propagation.field import isotropic_dbuv
from ....units.quantities import noise_dbuv
from ...sky.incident import IncidentField, sharing_of
from .terminals import gain_of, polar_loss_db, stands_upright, width_of

BEARINGS_DEG = np.arange(0.0, 360.0, 1.0)
PREAMPLIFIER_NOISE_DB = 2.5  # with what the run behind it adds; common practice, no source
RECEIVER_NOISE_DB = 7.0  # a television's own; ATSC A/74 (from memory)


@dataclass(frozen=True)
class BehindTerminals:
    """What lies behind the antenna's terminals, referred to them, by carrier: the noise that the
    run adds [dBµV], and the least level that keeps the worst outlet in its window [dBµV]."""

    noise_dbuv: Floats
    least_dbuv: Floats
    words: str


@dataclass(frozen=True)
class HeadingSweep:
    """Antennas (rows) against bearings (columns): services that stand over their margin, the least
    margin among them [dB], the least margin of all [dB]."""

    bearing_deg: Floats
    services: Floats
    least_served_db: Floats
    least_db: Floats


@dataclass(frozen=True)
class Best:
    """The best bearing of an antenna [deg], the stretch with as many services, what it serves."""

    heading_deg: float
    from_deg: float
    to_deg: float
    services: int
    of: int
    least_db: float


def bare_beyond(incident: IncidentField) -> BehindTerminals:
    """A receiver right at the antenna, for a job without a run."""
    noise = np.array([noise_dbuv(b) for b in incident.bandwidth_mhz])
    added = 10 * np.log10(10 ** ((noise + RECEIVER_NOISE_DB) / 10) - 10 ** (noise / 10))
    return BehindTerminals(
        added,
        np.full_like(noise, -np.inf),
        f"no run yet: a receiver of {RECEIVER_NOISE_DB:g} dB noise right at the antenna",
    )


def preamplified(incident: IncidentField) -> BehindTerminals:
    """A mast preamplifier right at the antenna that makes up for whatever hangs behind it."""
    noise = np.array([noise_dbuv(b) for b in incident.bandwidth_mhz])
    added = 10 * np.log10(10 ** ((noise + PREAMPLIFIER_NOISE_DB) / 10) - 10 ** (noise / 10))
    return BehindTerminals(
        added,
        np.full_like(noise, -np.inf),
        f"behind a mast preamplifier of {PREAMPLIFIER_NOISE_DB:g} dB noise that makes up for the run",
    )


def services_of(incident: IncidentField) -> Floats:
    """How many services each carrier brings [1]: those listed, else one."""
    return np.array([float(max(len(c.services), 1)) for c in incident.carriers]) * incident.wanted


@dataclass(frozen=True)
class _Power:
    """Linear powers [µV²] on axis (antennas, carriers), thermal and run noise, thresholds."""

    on_axis: Floats
    noise: Floats
    threshold: Floats
    least: Floats
    share: Floats
    helped: Floats | None
    which: np.typing.NDArray[np.int64]
    bearings: Floats


def _power(
    incident: IncidentField, antennas: list[Array], beyond: BehindTerminals, margin_db: float
) -> _Power:
    iso = isotropic_dbuv(incident.field_dbuvm, incident.frequency_mhz)
    on_axis = np.stack(
        [
            iso
            + gain_of(a, incident.frequency_mhz)
            - polar_loss_db(incident, stands_upright(a, incident))
            for a in antennas
        ]
    )
    thermal = np.array([noise_dbuv(b) for b in incident.bandwidth_mhz])
    share, helped = sharing_of(incident)
    bearings, which = np.unique(incident.bearing_deg, return_inverse=True)
    return _Power(
        on_axis=10 ** (on_axis / 10),
        noise=10 ** (thermal / 10) + 10 ** (beyond.noise_dbuv / 10),
        threshold=10 ** ((incident.wanted_db + margin_db) / 10),
        least=10 ** (beyond.least_dbuv / 10),
        share=share,
        helped=helped if helped.any() else None,
        which=which,
        bearings=bearings,
    )


def _ratios(
    incident: IncidentField, power: _Power, antennas: list[Array], bearing_deg: Floats
) -> tuple[Floats, Floats]:
    """Received power (antennas, bearings, carriers) and its ratio to what is needed: above one, the
    carrier stands over its margin and its outlet in the window."""
    widths = np.array([width_of(a) for a in antennas])[:, None, None]
    back = np.array([a.front_back_db for a in antennas])[:, None, None]
    off = array_loss_db(power.bearings[None, None] - bearing_deg[None, :, None], widths, back)
    received = power.on_axis[:, None] * (10 ** (-off / 10))[:, :, power.which]
    return received, _need(received, power)


def _need(received: Floats, power: _Power) -> Floats:
    unwanted = power.noise + received @ power.share
    useful = received if power.helped is None else received + received @ power.helped
    over = useful / (unwanted * power.threshold)
    if power.least.any():
        with np.errstate(divide="ignore"):
            over = np.minimum(over, received / power.least)
    return over


def sweep(
    incident: IncidentField,
    antennas: list[Array],
    beyond: BehindTerminals,
    margin_db: float,
    bearing_deg: Floats = BEARINGS_DEG,
) -> HeadingSweep:
    """Turn each antenna through the bearings.

    Parameters
    ----------
    incident : the carriers in the air, interferers included
    antennas : antennas to try, all at one place
    beyond : what the run behind the terminals does
    margin_db : margin over the wanted C/N that counts as served [dB]
    """
    counts = services_of(incident)
    if not counts.any():
        empty = np.zeros((len(antennas), len(bearing_deg)))
        return HeadingSweep(bearing_deg, empty, empty - np.inf, empty - np.inf)
    over = _ratios(incident, _power(incident, antennas, beyond, margin_db), antennas, bearing_deg)[
        1
    ]
    wanted = np.flatnonzero(counts)
    mine = over[:, :, wanted]
    good = mine >= 1
    served = good @ counts[wanted]
    with np.errstate(divide="ignore"):
        least = 10 * np.log10(mine.min(axis=2)) + margin_db
        least_served = 10 * np.log10(np.where(good, mine, np.inf).min(axis=2)) + margin_db
    return HeadingSweep(bearing_deg, served, np.where(served > 0, least_served, least), least)


def best_of(found: HeadingSweep, row: int, total: int) -> Best:
    """The bearing with most services; among these the one whose weakest service stands highest,
    and where nothing is served the one that comes nearest to it."""
    services, least = found.services[row], found.least_served_db[row]
    most = services.max()
    score = np.where(services == most, least, -np.inf)
    at = int(score.argmax())
    n = len(services)
    low = high = at
    while (high - low) < n - 1 and services[(low - 1) % n] == most:
        low -= 1
    while (high - low) < n - 1 and services[(high + 1) % n] == most:
        high += 1
    step = 360.0 / n
    return Best(
        heading_deg=float(found.bearing_deg[at]),
        from_deg=float(found.bearing_deg[at] - (at - low) * step) % 360,
        to_deg=float(found.bearing_deg[at] + (high - at) * step) % 360,
        services=int(most),
        of=total,
        least_db=float(least[at]),
    )


@dataclass(frozen=True)
class HeadingWay:
    """One way to get all services: with one antenna, two and a combiner, or a rotator."""

    key: str
    name: str
    headings_deg: tuple[float, ...]
    services: int
    of: int
    least_db: float
    words: str


def compare(
    incident: IncidentField,
    antenna: Array,
    beyond: BehindTerminals,
    margin_db: float,
    best: Best,
    combiner_db: float,
) -> list[HeadingWay]:
    """One antenna, two of the same kind with a combiner that loses so much each way [dB], and a
    rotator, side by side."""
    total = int(services_of(incident).sum())
    one = HeadingWay(
        key="one",
        name="one antenna",
        headings_deg=(best.heading_deg,),
        services=best.services,
        of=total,
        least_db=best.least_db,
        words="One antenna, one cable, everything at once.",
    )
    mine = np.flatnonzero(incident.wanted)
    if len(mine) == 0:
        return [one]
    power = _power(incident, [antenna], beyond, margin_db)
    counts = services_of(incident)[mine]
    straight = np.unique(np.round(incident.bearing_deg[mine], 3))
    if len(straight) < 2:
        return [one]
    received, over = _ratios(incident, power, [antenna], straight)
    turned = over[0][:, mine].max(axis=0)
    rotator = _way(
        "rotator",
        "a rotator",
        headings=tuple(straight.tolist()),
        over=turned,
        counts=counts,
        margin_db=margin_db,
        words="Each service at its own heading, one heading at a time: no use for several outlets.",
    )
    half = received[0] * 10 ** (-combiner_db / 10)
    first, second = np.triu_indices(len(straight), 1)
    both = _need(np.maximum(half[first], half[second]), power)[:, mine]
    served = (both >= 1) @ counts
    weakest = both.min(axis=1)
    at = int(np.lexsort((weakest, served))[-1])
    two = _way(
        "two",
        "two antennas and a combiner",
        headings=(float(straight[first[at]]), float(straight[second[at]])),
        over=both[at],
        counts=counts,
        margin_db=margin_db,
        words=f"Each straight at one transmitter; a wide-band combiner costs {combiner_db:.0f} dB on both. Stand "
        "them a metre apart and cut both cables to one length.",
    )
    return [one, two, rotator]


def _way(
    key: str,
    name: str,
    headings: tuple[float, ...],
    over: Floats,
    counts: Floats,
    margin_db: float,
    words: str,
) -> HeadingWay:
    good = over >= 1
    shown = over[good] if good.any() else over
    return HeadingWay(
        key=key,
        name=name,
        headings_deg=headings,
        services=int(counts[good].sum()),
        of=int(counts.sum()),
        least_db=float(10 * np.log10(shown.min()) + margin_db),
        words=words,
    )


def advised(ways: list[HeadingWay]) -> HeadingWay:
    """The simplest way with the most services; a rotator only where two antennas cannot."""
    most = max(w.services for w in ways)
    return next(w for w in ways if w.services == most)
