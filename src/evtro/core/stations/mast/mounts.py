"""What holds the mast: brackets and their bolts, straps round a chimney, a foot on a rafter, a pole in the
ground, ballast on a flat roof. Forces are those of the wind; dead weight is added where it loads a bolt.

References
----------
1. Statics: sums of moments about the edge, the bolts' row and the upper bracket; any textbook.
2. International Building Code 1807.3.2.1, posts that nothing holds at the ground (from memory).
3. Working loads of anchors: typical of their class, common practice, no source; the anchor's own sheet leads.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from ...job import Mast
from ...units.quantities import Gauge, gauge

GRAVITY = 9.80665
BRACKETED = ("wall", "eave", "balcony")
DRILLED = (*BRACKETED, "jpole")  # into a wall, where something may be hidden
BOLTED = (*DRILLED, "roof")
OVERTURN_SAFETY = 1.5  # ballast against the wind; common practice, no source
SLIDE_SAFETY = 1.5  # common practice, no source
FRICTION = 0.4  # a foot on a mat on a flat roof; common practice, no source
SOIL_PA_PER_M = (
    15_700.0  # lateral bearing of clay and silt, 100 psf per foot (IBC table 1806.2, from memory)
)
WEAK = ("render", "unknown")


@dataclass(frozen=True)
class MountKind:
    """A kind of mount that can be chosen, and the columns of the mast that it has figures in."""

    key: str
    name: str
    fields: tuple[str, ...]


_TUBE = ("outer_mm", "wall_mm", "yield_mpa", "moment_limit_nm", "wind_ms")
_OWN_TUBE = ("length_m", *_TUBE)
_BOLTS = (
    "base",
    "bolts",
    "bolt_mm",
    "bolts_apart_m",
    "bolt_pull_n",
    "bolt_shear_n",
    "bolt_torque_nm",
)
_WALL = (*_BOLTS, "standoff_m", "behind", "held_m", *_OWN_TUBE)
_OPEN = ("guys", "ice_mm", "crew")  # out in the wind
_FOOT = ("ballast_kg", "foot_m")
MOUNT_KINDS = (
    MountKind("wall", "wall, brackets", (*_WALL, *_OPEN)),
    MountKind("eave", "eave, brackets", (*_WALL, *_OPEN)),
    MountKind("balcony", "balcony, brackets", (*_WALL, *_OPEN)),
    MountKind("chimney", "chimney, straps", ("held_m", *_OWN_TUBE, *_OPEN)),
    MountKind("roof", "roof, foot on the rafter", (*_BOLTS, "held_m", *_OWN_TUBE, *_OPEN)),
    MountKind("jpole", "J-pole on a foot plate",
              (*_BOLTS, "rows_apart_m", "standoff_m", "behind", *_OWN_TUBE, *_OPEN)),
    MountKind("pole", "pole in the ground", ("buried_m", "footing_mm", *_OWN_TUBE, *_OPEN)),
    MountKind("ballast", "flat roof, ballast", (*_FOOT, "held_m", *_OWN_TUBE, *_OPEN)),
    MountKind("loft", "loft", ("held_m", *_OWN_TUBE, "crew")),
)  # fmt: skip
# What a portable dish stands on is chosen at Aim.
PORTABLE_KINDS = (
    MountKind("tripod", "tripod", (*_FOOT, *_TUBE)),
    MountKind("vehicle", "vehicle's roof", _TUBE),
)


@dataclass(frozen=True)
class Anchor:
    """What one M8 anchor bears in a base, pulled and across [N], and how it is set: drill, depth, distance
    from an edge [mm]; with which torque, where one is usual [N m]."""

    pull_n: float
    shear_n: float
    drill_mm: float
    depth_mm: float
    edge_mm: float
    words: str
    torque_nm: float | None = None


# Working loads of M8 in each base, safety within; others go by the square of the diameter, torques by its
# cube. Typical, common practice, no source.
ANCHORS = {
    "concrete": Anchor(pull_n=2_500.0, shear_n=3_500.0, drill_mm=10.0, depth_mm=60.0, edge_mm=80.0,
                       words="expansion anchor, hole blown out", torque_nm=20.0),
    "brick": Anchor(pull_n=900.0, shear_n=1_500.0, drill_mm=10.0, depth_mm=80.0, edge_mm=120.0,
                    words="frame plug or resin into the brick, never the joint"),
    "block": Anchor(pull_n=400.0, shear_n=900.0, drill_mm=12.0, depth_mm=85.0, edge_mm=150.0,
                    words="resin in a sieve sleeve; no hammer on hollow block"),
    "timber": Anchor(pull_n=1_800.0, shear_n=1_600.0, drill_mm=5.5, depth_mm=70.0, edge_mm=40.0,
                     words="coach screw into the middle of the beam, drilled ahead"),
    "metal": Anchor(pull_n=2_000.0, shear_n=3_000.0, drill_mm=8.5, depth_mm=0.0, edge_mm=20.0,
                    words="through bolt with a plate behind", torque_nm=20.0),
    "render": Anchor(pull_n=0.0, shear_n=0.0, drill_mm=0.0, depth_mm=0.0, edge_mm=0.0,
                     words="find what is behind it: render bears nothing"),
    "unknown": Anchor(pull_n=0.0, shear_n=0.0, drill_mm=0.0, depth_mm=0.0, edge_mm=0.0,
                      words="find out what the wall is made of"),
}  # fmt: skip


@dataclass(frozen=True)
class Held:
    """How a mount is used: each figure against what it bears; the ballast that is just enough, and that which is
    enough with the reserve [kg]. A figure that a mount does not have is None."""

    upper_n: float | None = None
    lower_n: float | None = None
    pull: Gauge | None = None
    shear: Gauge | None = None
    overturn: Gauge | None = None
    slide: Gauge | None = None
    buried: Gauge | None = None
    ballast_needed_kg: float | None = None
    ballast_easy_kg: float | None = None

    @property
    def gauges(self) -> tuple[Gauge, ...]:
        """Those that there are."""
        every = (self.pull, self.shear, self.overturn, self.slide, self.buried)
        return tuple(g for g in every if g is not None)


def anchor(mast: Mast) -> Anchor:
    """What one bolt of the mount bears: its own figures, else the typical ones of the base."""
    typical = ANCHORS[mast.base]
    factor = (mast.bolt_mm / 8.0) ** 2
    return replace(
        typical,
        pull_n=typical.pull_n * factor if mast.bolt_pull_n is None else mast.bolt_pull_n,
        shear_n=typical.shear_n * factor if mast.bolt_shear_n is None else mast.bolt_shear_n,
        drill_mm=typical.drill_mm * mast.bolt_mm / 8.0,
        torque_nm=None
        if typical.torque_nm is None
        else typical.torque_nm * (mast.bolt_mm / 8.0) ** 3,
    )


def bracket_bolts_n(
    force_n: float, weight_n: float, standoff_m: float, apart_m: float, bolts: int
) -> tuple[float, float]:
    """Pull and shear of the worst bolt of a bracket [N], from the wind's force on it and the weight it
    carries, the mast `standoff_m` off the wall, bolts in two columns `apart_m` apart sideways [1].

    Wind from the wall pulls all of them alike. Wind along the wall shears them and turns the bracket
    about its upright middle: half of them are pulled, the other half pressed. The weight shears always.
    """
    away = force_n / bolts
    along = force_n * standoff_m / apart_m / max(bolts / 2, 1)
    return max(away, along), math.hypot(force_n, weight_n) / bolts


def plate_bolts_n(
    moment_nm: float,
    shear_n: float,
    weight_n: float,
    *,
    reach_m: float,
    rows_m: float,
    columns_m: float,
    bolts: int,
) -> tuple[float, float]:
    """Pull and shear of the worst bolt of a J-pole's foot plate [N]: bolts in two rows and two columns, the tube
    `reach_m` off the wall, the wind's moment about the plate and its force, the weight carried [1].

    Wind square to the wall turns the plate about its lower row; wind along the wall turns it in its plane,
    which shears the bolts, and about its upright middle. The weight at its reach pulls the upper row always.
    """
    side = max(bolts / 2, 1)
    hangs = weight_n * reach_m / rows_m / side
    away = moment_nm / rows_m / side + shear_n / bolts
    along = shear_n * reach_m / columns_m / side
    ring = bolts * math.hypot(rows_m, columns_m) / 2
    across = math.hypot(weight_n, shear_n) / bolts + moment_nm / ring
    return hangs + max(away, along), across


def embedment_m(force_n: float, height_m: float, width_m: float) -> float:
    """How deep a pole that nothing holds at the ground must stand [m]: 0.5 A (1 + sqrt(1 + 4.36 h / A)) with
    A = 2.34 P / (S1 b), S1 the soil's bearing at a third of the depth [2]; solved for the depth."""
    if force_n <= 0:
        return 0.0
    depth = 1.0
    for _ in range(60):
        bearing = SOIL_PA_PER_M * depth / 3
        a = 2.34 * force_n / (bearing * width_m)
        depth = (depth + 0.5 * a * (1 + math.sqrt(1 + 4.36 * height_m / a))) / 2
    return depth


def ballast_kg(moment_nm: float, force_n: float, side_m: float, own_kg: float) -> float:
    """What must lie on a square foot so that it neither turns over its edge nor slides [kg], beside what
    stands there already [1]."""
    turn = OVERTURN_SAFETY * moment_nm / (GRAVITY * side_m / 2)
    slide = SLIDE_SAFETY * force_n / (FRICTION * GRAVITY)
    return max(turn, slide, 0.0) if own_kg <= 0 else max(max(turn, slide) - own_kg, 0.0)


def held(mast: Mast, moment_nm: float, shear_n: float, weight_kg: float) -> Held:
    """How the mount of a mast is used by the moment at its upper bracket or foot [N m], the force of the
    wind [N] and what it carries [kg]."""
    over = min(mast.held_m, mast.length_m)
    free = max(mast.length_m - over, 0.0)
    if mast.fixing == "loft":
        return Held()
    if mast.fixing == "ballast":
        # The foot stands at the bottom of the tube: the moment there is that of the whole length.
        at_foot = abs(moment_nm + shear_n * over)
        shear_n = abs(shear_n)
        own = weight_kg + mast.ballast_kg
        against = own * GRAVITY * mast.foot_m / 2 / OVERTURN_SAFETY
        grip = own * GRAVITY * FRICTION / SLIDE_SAFETY
        return Held(
            overturn=gauge(at_foot, "nm", high=against, reserve=0.1 * against),
            slide=gauge(shear_n, "n", high=grip, reserve=0.1 * grip),
            ballast_needed_kg=ballast_kg(at_foot, shear_n, mast.foot_m, weight_kg),
            ballast_easy_kg=ballast_kg(at_foot / 0.9, shear_n / 0.9, mast.foot_m, weight_kg),
        )
    if mast.fixing == "pole":
        # What is held is what is in the ground; the wind acts at the height that its moment says.
        shear_n = abs(shear_n)
        arm = abs(moment_nm) / shear_n if shear_n > 0 else free / 2
        need = embedment_m(shear_n, arm, mast.footing_mm / 1000)
        return Held(buried=gauge(mast.buried_m, "m", low=need, reserve=0.1 * need))
    if mast.fixing == "jpole":
        pull, across = plate_bolts_n(
            abs(moment_nm),
            abs(shear_n),
            weight_kg * GRAVITY,
            reach_m=mast.standoff_m,
            rows_m=mast.rows_apart_m,
            columns_m=mast.bolts_apart_m,
            bolts=mast.bolts,
        )
        return _bolted(mast, pull, across)
    if over <= 0:
        return Held()
    moment_nm = abs(moment_nm)  # guys may bend it the other way
    upper, lower = moment_nm / over + abs(shear_n), moment_nm / over
    if mast.fixing == "chimney":
        return Held(upper_n=upper, lower_n=lower)  # straps: no bolt; the chimney is looked at
    if mast.fixing == "roof":
        # One foot on the rafter takes it all: its bolts, in two rows, hold the moment.
        pull = moment_nm / mast.bolts_apart_m / max(mast.bolts / 2, 1)
        across = math.hypot(shear_n, weight_kg * GRAVITY) / mast.bolts
    else:
        pull, across = bracket_bolts_n(
            upper,
            weight_kg * GRAVITY,
            standoff_m=mast.standoff_m,
            apart_m=mast.bolts_apart_m,
            bolts=mast.bolts,
        )
    return replace(_bolted(mast, pull, across), upper_n=upper, lower_n=lower)


def _bolted(mast: Mast, pull_n: float, across_n: float) -> Held:
    bears = anchor(mast)
    return Held(
        pull=gauge(pull_n, "n", high=bears.pull_n, reserve=0.1 * bears.pull_n),
        shear=gauge(across_n, "n", high=bears.shear_n, reserve=0.1 * bears.shear_n),
    )


def dish_kg(diameter_m: float, mesh: bool = False) -> float:
    """What a dish weighs with arm and mount [kg]: 4 kg at 0.6 m, 9 at 0.85, 20 at 1.2, 60 at 2, of mesh half
    of it; typical, common practice, no source."""
    return float(13.2 * diameter_m**2.2) * (0.5 if mesh else 1.0)


ARRAY_KG = 2.5  # a terrestrial antenna with its clamp; common practice, no source
STEEL_KG_M3 = 7_850.0


def tube_kg(mast: Mast) -> float:
    """What the tube weighs [kg], of steel."""
    inner = max(mast.outer_mm - 2 * mast.wall_mm, 0.0)
    area = math.pi / 4 * (mast.outer_mm**2 - inner**2) / 1e6
    return area * mast.length_m * STEEL_KG_M3


def inertia_mm4(outer_mm: float, wall_mm: float) -> float:
    """Second moment of area of a round tube [mm4], pi (D^4 - d^4) / 64 [1]."""
    inner = max(outer_mm - 2 * wall_mm, 0.0)
    return math.pi * (outer_mm**4 - inner**4) / 64
