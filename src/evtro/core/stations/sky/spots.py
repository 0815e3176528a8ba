"""Places where the mount could stand, side by side: which is best, and why; or what each lacks."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ...job import Array, Spot, Target
from ...job.changes import Change
from ...physics.beams import array_gain_dbi
from ...physics.geodesy import Floats
from ...physics.modulation import MODULATIONS
from ...physics.propagation.field import free_field_dbuvm, isotropic_dbuv
from ...units.phrases import listed, say
from ...units.quantities import Phrase, Quantity, noise_dbuv
from ...units.severity import State
from ..site.skyline import SkylinePoints, View, ground_of
from .lines import Survey
from .moves import seen_after, step, to_spot
from .path import loss_db, pattern_loss_db, relief_for, sent_toward, way_of
from .remedies import Wants, least_slack

RESERVE_DEG = 0.5
RESERVE_DB = 3.0
DIPOLE_DBI = 2.15
RECEIVER_NOISE_DB = 7.0  # a television's own; ATSC A/74 (from memory)

# What speaks against a place, and how much it weighs beside the others. Common practice, no source.
DRAWBACKS: dict[tuple[str, str], tuple[float, str]] = {
    ("surface", "render"): (1.0, "render alone holds nothing: find what is behind it"),
    ("surface", "chimney"): (1.0, "only if the chimney is sound, and it is lashed, not drilled"),
    ("surface", "metal"): (0.5, "clamped, not drilled, and bonded"),
    ("access", "ladder"): (0.5, "by ladder"),
    ("access", "roof"): (1.0, "over the roof"),
    ("access", "scaffold"): (2.0, "wants scaffold"),
    ("wind", "open"): (0.5, "open to the wind"),
    ("wind", "edge"): (1.0, "at an edge, where the wind is strongest"),
    ("in_way", "gutter"): (1.0, "the gutter is in the way"),
    ("in_way", "ridge"): (1.0, "the ridge is in the way"),
    ("noise", "near"): (1.0, "interference near by"),
}  # fmt: skip


@dataclass(frozen=True)
class SpotLine:
    """One place compared: how many satellites it frees with the least slack [deg] and whose, how many
    multiplexes arrive with the least margin [dB] and whose, height above ground and cable [m]. The
    place of now has no id."""

    id: str | None
    name: str
    bearing_deg: float
    distance_m: float
    height_m: float
    cable_m: float | None
    clear: int
    slack_deg: float | None
    least_target: str
    arrives: int
    of_arrives: int
    margin_db: float | None
    least_carrier: str
    drawbacks: list[str]
    state: State
    best: bool
    why: Phrase
    change: Change | None


@dataclass(frozen=True)
class _Judged:
    """One place with what counts: slack by satellite [deg], margin by multiplex [dB]."""

    id: str | None
    name: str
    bearing_deg: float
    distance_m: float
    height_m: float
    cable_m: float | None
    slack: list[tuple[str, float]]
    margins: list[tuple[str, float]]
    drawbacks: list[tuple[float, str]]
    barred: str

    @property
    def lacking(self) -> list[str]:
        """What keeps the place from doing."""
        found = [f"{name} lacks {-v:.1f}°" for name, v in self.slack if v < -1e-3]
        found += [f"{name} is {-v:.0f} dB short" for name, v in self.margins if v < 0]
        return found + ([self.barred] if self.barred else [])

    @property
    def state(self) -> State:
        """Out where something is missing, near where little is left."""
        if self.lacking:
            return "fail"
        tight = any(v < RESERVE_DEG for _, v in self.slack)
        tight = tight or any(v < RESERVE_DB for _, v in self.margins)
        return "marginal" if tight else "ok"

    def rank(self) -> tuple[float, ...]:
        """What decides, the gravest first: how much is served, what speaks against it, how much room
        is left up to what anybody needs, a lower mount, less cable."""
        served = sum(v >= -1e-3 for _, v in self.slack) + sum(v >= 0 for _, v in self.margins)
        against = sum(w for w, _ in self.drawbacks)
        room = min((v for _, v in self.slack), default=2.0)
        level = min((v for _, v in self.margins), default=10.0)
        return (
            served,
            -against,
            min(room, 2.0),
            min(level, 10.0),
            -self.height_m,
            -(self.cable_m or 0.0),
        )


def compare(
    job: Survey, wants: Wants, names: Sequence[str], height_m: float, years: float
) -> list[SpotLine]:
    """The place of now and all others: what each frees for so many summers, what arrives there by the
    forecast with the antenna turned straight at each transmitter, and what else speaks against it.
    None is best while all lack something; then each says what."""
    sends = [t for t in job.targets if t.wanted and t.kind == "transmitter"]
    if not len(wants.azimuth_deg) and not sends:
        return []
    ground = ground_of(job.obstructions)
    places = [
        _judge(
            job,
            wants,
            names=names,
            ground=ground,
            sends=sends,
            spot=None,
            height_m=height_m,
            years=years,
        )
    ]
    places += [
        _judge(
            job,
            wants,
            names=names,
            ground=ground,
            sends=sends,
            spot=s,
            height_m=s.mount_height_m,
            years=years,
        )
        for s in job.spots
    ]
    good = [i for i, p in enumerate(places) if p.state != "fail"]
    winner = max(good, key=lambda i: places[i].rank(), default=None)
    changes = [None, *(to_spot(job.site.mount_height_m, s) for s in job.spots)]
    return [
        replace(
            _line(p, None if winner is None else places[winner], i == winner), change=changes[i]
        )
        for i, p in enumerate(places)
    ]


def _judge(
    job: Survey,
    wants: Wants,
    names: Sequence[str],
    ground: SkylinePoints,
    sends: list[Target],
    spot: Spot | None,
    height_m: float,
    years: float,
) -> _Judged:
    bearing, away = (spot.bearing_deg, spot.distance_m) if spot else (0.0, 0.0)
    east, north = step(bearing, away)
    slack = []
    if len(wants.azimuth_deg):
        found = least_slack(wants, ground, View(height_m, east, north, years))
        slack = list(zip(names, (float(s) for s in found), strict=True))
    drawbacks, barred = [], ""
    if spot is not None:
        drawbacks = [DRAWBACKS[k, getattr(spot, k)] for k, v in DRAWBACKS if getattr(spot, k) == v]
        if spot.in_way == "neighbour":
            barred = "it reaches over the neighbour's ground"
    return _Judged(
        id=spot.id if spot else None,
        name=spot.name if spot else "Mount as planned",
        bearing_deg=bearing,
        distance_m=away,
        height_m=height_m,
        cable_m=spot.cable_m if spot else None,
        slack=slack,
        margins=_margins(job, sends, east_m=east, north_m=north, height_m=height_m),
        drawbacks=drawbacks,
        barred=barred,
    )


def _margins(
    job: Survey, sends: list[Target], east_m: float, north_m: float, height_m: float
) -> list[tuple[str, float]]:
    """Margin of every wanted multiplex over its threshold at a place [dB], noise alone."""
    array = next(iter(job.arrays), None)
    around = seen_after(job.obstructions, east_m, north_m)
    found = []
    for target in sends:
        own = [c for c in job.carriers if c.target == target.id and c.power > 0 and not c.mobile]
        if not own:
            continue
        f = tuple(c.frequency_mhz for c in own)
        way = way_of(
            job.site,
            target,
            relief=relief_for(job.reliefs, job.site, target),
            obstructions=around,
            above_ground_m=height_m,
            frequencies_mhz=f,
            horizontal=tuple(c.polarisation == "H" for c in own),
        )
        if way is None:
            continue
        down = pattern_loss_db(target.pattern, sent_toward(job.site, target))
        field = free_field_dbuvm([c.power for c in own], way.distance_km) - loss_db(way) - down
        level = isotropic_dbuv(field, f) + _gain_dbi(array, np.array(f))
        for c, v in zip(own, level, strict=True):
            noise = noise_dbuv(c.bandwidth_mhz) + RECEIVER_NOISE_DB
            found.append(
                (c.name or target.name, float(v) - noise - MODULATIONS[c.modulation].cn_db)
            )
    return found


def _gain_dbi(array: Array | None, f: Floats) -> Floats:
    if array is None:
        return np.full_like(f, DIPOLE_DBI)
    band = array.low_mhz, array.high_mhz
    return array_gain_dbi(array.gain_table, array.gain_dbi, band, f)


def _line(p: _Judged, winner: _Judged | None, best: bool) -> SpotLine:
    tightest = min(p.slack, key=lambda s: s[1], default=("", None))
    weakest = min(p.margins, key=lambda m: m[1], default=("", None))
    return SpotLine(
        id=p.id,
        name=p.name,
        bearing_deg=p.bearing_deg,
        distance_m=p.distance_m,
        height_m=p.height_m,
        cable_m=p.cable_m,
        clear=sum(v >= -1e-3 for _, v in p.slack),
        slack_deg=tightest[1],
        least_target=tightest[0],
        arrives=sum(v >= 0 for _, v in p.margins),
        of_arrives=len(p.margins),
        margin_db=weakest[1],
        least_carrier=weakest[0],
        drawbacks=[said for _, said in p.drawbacks],
        state=p.state,
        best=best,
        why=_why(p, winner, best=best, tightest=tightest, weakest=weakest),
        change=None,
    )


def _why(
    p: _Judged,
    winner: _Judged | None,
    best: bool,
    tightest: tuple[str, float | None],
    weakest: tuple[str, float | None],
) -> Phrase:
    if p.lacking:
        more = f", and {len(p.lacking) - 3} more" if len(p.lacking) > 3 else ""
        return ("; ".join(p.lacking[:3]) + more,)
    has = []
    if tightest[1] is not None:
        has.append(
            f"all free, {tightest[0]} with {tightest[1]:+.1f}°" if tightest[1] < 90 else "all free"
        )
    if weakest[1] is not None:
        has.append(f"all arrive, {weakest[0]} with {weakest[1]:.0f} dB over")
    against = [said for _, said in p.drawbacks]
    if best or winner is None:
        return ("; ".join(has + against),)
    first: list[str | Phrase] = [*against, _behind(p, winner), *has]
    return listed(first[:3], "; ")


def _behind(p: _Judged, winner: _Judged) -> Phrase:
    """Why a place that does is not the best one: the first thing in which it falls behind."""
    mine, best = p.rank(), winner.rank()
    words: tuple[str | Phrase, ...] = (
        f"serves {best[0] - mine[0]:.0f} fewer",
        f"more speaks against it than against {winner.name}",
        "less room",
        "weaker",
        say("{} higher", Quantity(p.height_m - winner.height_m, "m")),
        say("{} more cable", Quantity((p.cable_m or 0) - (winner.cable_m or 0), "m", 0)),
    )
    found: str | Phrase = next(
        (w for w, a, b in zip(words, mine, best, strict=True) if a < b - 1e-6), "as good"
    )
    return (found,) if isinstance(found, str) else found
