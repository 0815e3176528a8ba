"""What goes into the van: parts, cable cut from reels, connectors, fixings, consumables with spares, tools.
Quantities follow the plan; spares and reels are common practice with no published source."""

from __future__ import annotations

import math
import re
from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from typing import Literal

from ...job import Dish, Job
from ...job.checklist import KIT, thing
from ...job.context import JobParts
from ...units.quantities import InspectionItem, Phrase, Quantity, text_of
from ..coax.drilling import bit_mm
from ..coax.routes import SLACK_M, clips_of
from ..coax.views.answer import CoaxAnswer
from ..earth.answer import EarthAnswer
from ..mast.mounts import BOLTED, BRACKETED, anchor
from ..mast.statics import guy_rise_m, guys_of
from .cuts import cut

REEL_M = 100.0
SPARE_SHARE = 0.1  # of what is made by hand: connectors, clips, labels
GUY_ENDS_M = 1.0  # of a guy's rope, round its thimbles; common practice, no source
WASTE_M = 0.15  # at each end of a cable, for the connector and one that fails
SPANNERS = {
    6: 10,
    8: 13,
    10: 17,
    12: 19,
    16: 24,
}  # across the flats by thread, ISO 4032, from memory
Kind = Literal["antenna", "part", "cable", "connector", "fixing", "earth", "material", "tool"]


@dataclass(frozen=True)
class Need:
    """One line of the list, by its key: how many or how much, of that spare, its price in all where it is known,
    for what; the variant that is told apart by a colour or a mark."""

    key: str
    kind: Kind
    name: Phrase
    count: float
    unit: Literal["count", "m", "kg"]
    spare: float
    price: float | None
    why: Phrase
    variant: str = ""


@dataclass(frozen=True)
class Cut:
    """A piece of cable: its label, its ends, and its length with slack and waste [m]."""

    label: str
    from_name: str
    to_name: str
    length_m: float


@dataclass(frozen=True)
class CutReel:
    """What is cut from one reel [m], and what is left of it."""

    cable: str
    name: str
    reel_m: float
    cuts: list[Cut]
    left_m: float


@dataclass(frozen=True)
class KitView:
    """The whole list, the reels, whether no fewer would do, and what it costs as far as prices are known."""

    needs: list[Need]
    reels: list[CutReel]
    fewest: bool
    cost: float
    unpriced: int


def kit_of(ctx: JobParts, coax: CoaxAnswer, earth: EarthAnswer) -> KitView:
    """What a job needs, by its plan."""
    job = ctx.job
    reels, fewest = _reels(ctx, coax)
    needs = [
        *_antennas(job),
        *_parts(ctx),
        *_cables(ctx, reels),
        *_connectors(ctx, coax),
        *_fixings(job),
        *_guys(job),
        *_earth(job, earth),
        *_consumed(job),
        *_tools(ctx, coax),
    ]
    needs = [replace(n, key=key) for n, key in zip(needs, _keys(needs), strict=True)]
    priced = [n.price for n in needs if n.price is not None]
    unpriced = sum(n.price is None and n.kind in ("antenna", "part", "cable") for n in needs)
    return KitView(needs=needs, reels=reels, fewest=fewest, cost=sum(priced), unpriced=unpriced)


def _keys(needs: list[Need]) -> Iterator[str]:
    """A key for each line, its own where it has one, else by kind and name: the same line keeps it."""
    taken: Counter[str] = Counter()
    for need in needs:
        slug = _NOT_PLAIN.sub("-", text_of(need.name).lower()).strip("-")
        key = need.key or f"{need.kind}.{slug}"[:54]
        taken[key] += 1
        yield key if taken[key] == 1 else f"{key}.{taken[key]}"


_NOT_PLAIN = re.compile(r"[^a-z0-9]+")
_ARRIVES = ("antenna", "part", "cable", "connector", "fixing", "earth", "material")


def arrival(job: Job, needs: Iterable[Need]) -> tuple[InspectionItem, ...]:
    """What is looked at when the kit comes, line by line; tools are the crew's own."""
    return tuple(
        thing(job, KIT_STEP, need.key, name=_told(need), good=("there",), states=KIT)
        for need in needs
        if need.kind in _ARRIVES
    )


KIT_STEP = "site.kit"


def _told(need: Need) -> Phrase:
    many = Quantity(need.count, need.unit, 1 if need.unit == "m" else 0)
    return (*need.name, f", {need.variant}" if need.variant else "", ", ", many)


def _spare(count: float) -> float:
    return float(math.ceil(count * SPARE_SHARE)) if count else 0.0


def _need(
    kind: Kind,
    name: str | Phrase,
    count: float,
    *,
    why: str | Phrase,
    spare: float = 0.0,
    price: float | None = None,
    unit: Literal["count", "m", "kg"] = "count",
    key: str = "",
    variant: str = "",
) -> Need:
    words: list[Phrase] = [(one,) if isinstance(one, str) else one for one in (name, why)]
    return Need(
        key=key,
        variant=variant,
        kind=kind,
        name=words[0],
        count=count + spare,
        unit=unit,
        spare=spare,
        price=price,
        why=words[1],
    )


def _antennas(job: Job) -> Iterator[Need]:
    for antenna in job.antennas:
        aims = next((t.name for t in job.targets if t.id == antenna.target), "")
        yield _need(
            "antenna",
            antenna.name,
            1,
            why=f"for {aims}" if aims else "no target yet",
            key=f"antenna.{antenna.id}",
            variant=antenna.variant if isinstance(antenna, Dish) else "",
        )


def _parts(ctx: JobParts) -> Iterator[Need]:
    kinds = Counter((p.type, p.variant) for p in ctx.job.parts)
    for (key, variant), count in sorted(kinds.items()):
        kind = ctx.catalogue.part(key)
        if kind is None or kind.draws_as in ("antenna", "line"):
            continue  # the antenna is told with its name; the company's line is there
        price = None if kind.price is None else kind.price * count
        caps = kind.draws_as == "terminator"
        yield _need(
            "part",
            kind.name,
            count,
            why="by the run",
            spare=_spare(count) if caps else 0.0,
            price=price,
            key=f"part.{key}.{variant}"[:54] if variant else f"part.{key}",
            variant=variant,
        )


def _length_m(job: Job, length_m: float, at_antenna: bool) -> float:
    """A cable with its slack, where a route does not tell it, and what its connectors take."""
    return length_m + 2 * WASTE_M + (SLACK_M[job.run_school.slack] if at_antenna else 0.0)


def _reels(ctx: JobParts, coax: CoaxAnswer) -> tuple[list[CutReel], bool]:
    job = ctx.job
    sources = {p.id for p in job.parts if p.antenna}
    by_cable: dict[str, list[Cut]] = {}
    for n, link in enumerate(job.links, start=1):
        ends = coax.names.get(link.from_part), coax.names.get(link.to_part)
        if link.length_m <= 0 or None in ends:
            continue
        told = any(kind in ("loop", "slack") for kind, _ in link.route)
        metres = _length_m(job, link.length_m, link.from_part in sources and not told)
        by_cable.setdefault(link.cable, []).append(
            Cut(
                label=f"W{n}",
                from_name=ends[0] or "",
                to_name=ends[1] or "",
                length_m=round(metres, 2),
            )
        )
    found, fewest = [], True
    for key, pieces in sorted(by_cable.items()):
        name = ctx.catalogue.cables[key].name
        reels, long, proven = cut([p.length_m for p in pieces], REEL_M)
        fewest &= proven
        found += [
            CutReel(
                cable=key,
                name=name,
                reel_m=REEL_M,
                cuts=[pieces[i] for i in r.pieces],
                left_m=round(r.left_m, 2),
            )
            for r in reels
        ]
        found += [
            CutReel(cable=key, name=name, reel_m=pieces[i].length_m, cuts=[pieces[i]], left_m=0.0)
            for i in long
        ]
    return found, fewest


def _cables(ctx: JobParts, reels: list[CutReel]) -> Iterator[Need]:
    for key in dict.fromkeys(r.cable for r in reels):
        mine = [r for r in reels if r.cable == key]
        metres = sum(c.length_m for r in mine for c in r.cuts)
        price = ctx.catalogue.cables[key].price_m
        yield _need(
            "cable",
            mine[0].name,
            round(metres, 1),
            unit="m",
            price=None if price is None else price * metres,
            why=_pieces(sum(len(r.cuts) for r in mine), len(mine)),
        )


def _pieces(pieces: int, reels: int) -> str:
    return f"{pieces} piece{'s' * (pieces > 1)} from {reels} reel{'s' * (reels > 1)}"


def _connectors(ctx: JobParts, coax: CoaxAnswer) -> Iterator[Need]:
    job = ctx.job
    joined = [k for k in job.links if k.length_m > 0 and k.to_part in coax.names]
    for key, count in sorted(Counter(k.cable for k in joined).items()):
        cable = ctx.catalogue.cables[key]
        yield _need(
            "connector",
            f"connector for {cable.short}",
            2 * count,
            spare=max(_spare(2 * count), 2.0),
            why="two for each cable",
        )
    outside = sum(p.antenna is not None for p in job.parts)
    if outside and job.mast.fixing != "loft":
        yield _need(
            "material",
            "boot or self-amalgamating tape",
            outside,
            spare=_spare(outside),
            why="connectors outdoors",
        )


def _fixings(job: Job) -> Iterator[Need]:
    mast = job.mast
    if job.rig.kind == "none" and mast.fixing in BOLTED:
        brackets = 2 if mast.fixing in BRACKETED else 1
        bolt = anchor(mast)
        yield _need(
            "fixing", f"M{mast.bolt_mm:g} fixing", brackets * mast.bolts, spare=2, why=bolt.words
        )
        yield _need(
            "fixing",
            "mast bracket"
            if brackets == 2
            else "foot of the J-pole"
            if mast.fixing == "jpole"
            else "roof foot",
            brackets,
            why="by the mount",
        )
    if job.rig.kind == "none" and mast.fixing == "chimney":
        yield _need("fixing", "chimney strap with corner plates", 2, why="by the mount")
    if mast.ballast_kg > 0 and (mast.fixing == "ballast" or job.rig.kind == "tripod"):
        yield _need("fixing", "ballast", mast.ballast_kg, unit="kg", why="against the wind")
    clips = sum(clips_of(k) for k in job.links)
    if clips:
        yield _need("fixing", "cable clip", clips, spare=_spare(clips), why="by the routes")


def _earth(job: Job, earth: EarthAnswer) -> Iterator[Need]:
    planned = {c.id: c for c in job.conductors}
    for bond in earth.bonds:
        line = [planned[c] for c in bond.stretches if c in planned] if bond.needed else []
        for conductor in line:
            metal = conductor.material.replace("_", "-")
            yield _need(
                "earth",
                (f"{metal} conductor, ", Quantity(conductor.size_mm2, "mm2", 1)),
                conductor.length_m,
                unit="m",
                why=bond.name,
            )
        if line:
            yield _need("earth", "clamp with serrated washer", len(line) + 1, why=bond.name)


def _guys(job: Job) -> Iterator[Need]:
    mast = job.mast
    guys = guys_of(mast) if job.rig.kind == "none" else None
    if guys is None:
        return
    long = math.hypot(guy_rise_m(mast), mast.guy_out_m) + GUY_ENDS_M
    yield _need(
        "fixing",
        ("guy rope, ", Quantity(mast.guy_mm, "mm", 0)),
        round(mast.guys * long, 1),
        unit="m",
        why=f"{mast.guys} guys",
    )
    yield _need(
        "fixing", "anchor, turnbuckle and two thimbles for a guy", mast.guys, why="by the mount"
    )


def _consumed(job: Job) -> Iterator[Need]:
    cables = sum(k.length_m > 0 for k in job.links)
    if cables:
        yield _need(
            "material", "label", 2 * cables, spare=_spare(2 * cables), why="both ends of each cable"
        )
    holes = sum(kind == "hole" for k in job.links for kind, _ in k.route)
    if holes and job.rig.kind == "none":
        yield _need("material", "sealant, cartridge", 1, why=f"{holes} hole{'s' * (holes > 1)}")


def _tools(ctx: JobParts, coax: CoaxAnswer) -> Iterator[Need]:
    job = ctx.job
    mast = job.mast
    fixed = job.rig.kind == "none"
    if job.antennas:
        yield _need("tool", "meter", 1, why="levels and quality")
        yield _need("tool", "compass", 1, why="coarse aim")
    if any(isinstance(a, Dish) for a in job.antennas):
        yield _need("tool", "inclinometer", 1, why="elevation")
    if fixed and mast.fixing in BOLTED:
        bolt = anchor(mast)
        yield _need("tool", ("drill, ", Quantity(bolt.drill_mm, "mm", 1)), 1, why=bolt.words)
        yield _need("tool", "detector of cables and pipes", 1, why="before the first hole")
    drilled = {
        bit_mm(ctx.catalogue.cables[k.cable].diameter_mm)
        for k in job.links
        if k.cable in ctx.catalogue.cables and any(kind == "hole" for kind, _ in k.route)
    }
    for bit in sorted(drilled) if fixed else ():
        yield _need(
            "tool",
            ("long bit, ", Quantity(bit, "mm", 0), ", and a thin locator"),
            1,
            why="holes for cables",
        )
    if fixed and mast.fixing != "loft":
        wide = SPANNERS.get(round(mast.bolt_mm))
        if wide is not None:
            yield _need(
                "tool",
                ("spanner, ", Quantity(float(wide), "mm", 0), " across the flats"),
                2,
                why=f"M{mast.bolt_mm:g}",
            )
        yield _need("tool", "level for the mast", 1, why="plumb in two directions")
        if job.site.mount_height_m > 2.0:
            yield _need("tool", "ladder with ties, harness and line", 1, why="work at height")
    if coax.names:
        yield _need("tool", "cutter, stripper and press for the connectors", 1, why="connectors")
