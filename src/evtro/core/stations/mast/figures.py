"""Every figure of a mast: wind, moments, what holds it, what is lifted. Checks read them."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ...job import Dish, Job, Mast
from ...job.profile import Profile
from ...physics.beams import dish_beamwidth_deg, off_axis_loss_db
from ...units.quantities import Gauge, Phrase, gauge
from .guys import AxialLoad, GuyFigures, guy_figures, pressed
from .mounts import GRAVITY, Held, held, inertia_mm4
from .statics import (
    ELEMENT_MM,
    ICE_KG_M3,
    FreeTube,
    guys_of,
    iced_area_m2,
    iced_dish_m2,
    stiffness_nm2,
    worst_nm,
)
from .uses import Weight, weights_of
from .wind import Pressure, area_m2, pressure

STEEL_SAFETY = 1.5  # on yield; common practice, no source
GALE_PA = 250.0  # of 20 m/s: what reception should outlast; common practice, no source
USUAL_MHZ = 12_000.0  # where no carrier is planned
POINTS = 25


@dataclass(frozen=True)
class WindLoad:
    """The wind on one thing: force [N] at a height above the upper bracket [m], moment [N m]."""

    name: str
    kind: str
    antenna: str | None
    height_m: float
    area_m2: float
    force_n: float
    moment_nm: float
    area_words: Phrase = ()


@dataclass(frozen=True)
class Sway:
    """How far a gale turns a dish about the bracket [deg], and what that costs at its highest frequency [dB]."""

    antenna: str
    name: str
    deg: float
    cost_db: float


@dataclass(frozen=True, eq=False)
class MastFigures:
    """The figures of a mast as its mount makes it. `total_nm` is the moment at the fixing, `bent_nm` the
    largest in the tube, `limit_nm` and `bearable_nm` what they may be; `own_limit` whether the first is the
    mount's own; `carried_kg` what the mount carries."""

    job: Job
    profile: Profile
    mast: Mast
    blows: Pressure
    loads: list[WindLoad]
    weights: list[Weight]
    beam: FreeTube
    squeeze: AxialLoad
    total_nm: float
    bent_nm: float
    limit_nm: float
    own_limit: bool
    bearable_nm: float
    least_held_m: float
    held_gauge: Gauge
    used: Held
    guys: GuyFigures | None
    sway: list[Sway]

    @property
    def free_m(self) -> float:
        """What stands free above what holds it [m]."""
        return self.beam.free_m

    @property
    def moment(self) -> Gauge:
        """The moment at the fixing against what it bears [N m]."""
        return gauge(self.total_nm, "nm", high=self.limit_nm, reserve=0.1 * self.limit_nm)

    @property
    def moment_origin(self) -> str:
        """Where it comes from what the fixing bears."""
        return "the mount's own limit" if self.own_limit else self.profile.wind.origin

    @property
    def tube(self) -> Gauge:
        """The largest moment in the tube against what it bears [N m]."""
        return gauge(self.bent_nm, "nm", high=self.bearable_nm, reserve=0.1 * self.bearable_nm)

    @property
    def diagram(self) -> list[tuple[float, float]]:
        """Bending moment [N m] by height [m]."""
        return [(z, self.beam.moment_nm(z)) for z in heights_of(self.free_m)]


def heights_of(free_m: float) -> list[float]:
    """Heights along the free tube [m]."""
    return [free_m * i / (POINTS - 1) for i in range(POINTS)]


def section_modulus_mm3(outer_mm: float, wall_mm: float) -> float:
    """Section modulus of a round tube [mm³], pi (D⁴ - d⁴) / 32 D (R. J. Roark, from memory)."""
    inner = max(outer_mm - 2 * wall_mm, 0.0)
    return math.pi * (outer_mm**4 - inner**4) / (32 * outer_mm)


def standing(job: Job) -> Mast:
    """The mast as its mount makes it: what a pole has in the ground is held; a tripod is a foot with ballast
    that carries the dish alone, as high as it stands above ground."""
    mast = job.mast
    if job.rig.kind == "tripod":
        top = max((a.on_mast_m for a in job.antennas), default=0.5)
        head = max(job.site.mount_height_m - top, 0.0)
        return mast.model_copy(update={"fixing": "ballast", "length_m": top + head, "held_m": head})
    if mast.fixing == "pole":
        return mast.model_copy(update={"held_m": min(mast.buried_m, mast.length_m)})
    if mast.fixing == "jpole":
        return mast.model_copy(update={"held_m": 0.0})  # its foot plate holds it, at one place
    return mast


def figures_of(job: Job, profile: Profile) -> MastFigures:
    """Work out all of them."""
    mast, wind = standing(job), profile.wind
    blows = pressure(job, profile)
    free = mast.length_m - min(mast.held_m, mast.length_m)
    loads = _loads(job, mast, blows.pa * wind.coefficient, free)
    beam = FreeTube(
        tuple((w.force_n, w.height_m) for w in loads if w.antenna is not None),
        spread_n=loads[0].force_n,
        free_m=free,
        stiff_nm2=stiffness_nm2(inertia_mm4(mast.outer_mm, mast.wall_mm)),
        guys=guys_of(mast),
    )
    weights = weights_of(job, mast)
    carried = sum(w.kg for w in weights) + _ice_kg(job, mast)
    squeeze = pressed(beam, carried)
    total = abs(beam.moment_nm(0.0))
    bent = max(total, worst_nm(beam, heights_of(free))) * squeeze.moment_amplification
    if mast.fixing == "jpole":
        # What hangs beside its foot bends the tube, too.
        bent += carried * GRAVITY * mast.standoff_m
    own = mast.moment_limit_nm
    limit = min(wind.moment_limit_nm, own) if own is not None else wind.moment_limit_nm
    modulus = section_modulus_mm3(mast.outer_mm, mast.wall_mm)
    if beam.guys is not None:
        carried += beam.guys.axial_load_n(beam.held_n) / GRAVITY  # the brackets carry it, too
    least_held = wind.held_fraction * mast.length_m
    return MastFigures(
        job=job,
        profile=profile,
        mast=mast,
        blows=blows,
        loads=loads,
        weights=weights,
        beam=beam,
        squeeze=squeeze,
        total_nm=total,
        bent_nm=bent,
        limit_nm=limit,
        own_limit=own is not None and own <= limit,
        bearable_nm=mast.yield_mpa / STEEL_SAFETY * modulus / 1000,
        least_held_m=least_held,
        held_gauge=_held_gauge(job, mast, least_held),
        used=held(mast, beam.moment_nm(0.0), beam.shear_n, carried),
        guys=guy_figures(mast, beam, squeeze),
        sway=_sway(job, beam, min(GALE_PA / blows.pa, 1.0) if blows.pa > 0 else 0.0),
    )


def _held_gauge(job: Job, mast: Mast, least_m: float) -> Gauge:
    if job.rig.kind != "none" or mast.fixing in ("pole", "loft", "jpole"):
        return Gauge(value=mast.held_m, unit="m", low=None, high=None, reserve=0.0, state="ok")
    return gauge(mast.held_m, "m", low=least_m, high=mast.length_m)


def _loads(job: Job, mast: Mast, pa: float, free_m: float) -> list[WindLoad]:
    """The wind on the tube, and on each antenna, of so much pressure times coefficient [Pa]."""
    tube_area = iced_area_m2(mast.outer_mm / 1000 * free_m, mast.ice_mm, mast.outer_mm)
    loads = [
        WindLoad(
            name="tube",
            kind="tube",
            antenna=None,
            height_m=free_m / 2,
            area_m2=tube_area,
            force_n=pa * tube_area,
            moment_nm=pa * tube_area * free_m / 2,
        )
    ]
    for antenna in job.antennas:
        area, words = area_m2(job, antenna)
        if mast.ice_mm:
            area = (
                iced_dish_m2(area, mast.ice_mm, antenna.diameter_m)
                if isinstance(antenna, Dish)
                else iced_area_m2(area, mast.ice_mm, ELEMENT_MM)
            )
            words = (*words, ", with ice round it")
        loads.append(
            WindLoad(
                name=antenna.name,
                kind=antenna.kind,
                antenna=antenna.id,
                height_m=antenna.on_mast_m,
                area_m2=area,
                force_n=pa * area,
                moment_nm=pa * area * antenna.on_mast_m,
                area_words=words,
            )
        )
    return loads


def _ice_kg(job: Job, mast: Mast) -> float:
    """What ice adds to carry [kg]: a sleeve round the tube, a layer on each dish."""
    ice = mast.ice_mm / 1000
    sleeve = math.pi * (mast.outer_mm / 1000 + ice) * ice * mast.length_m
    layers = sum(math.pi / 4 * d.diameter_m**2 * ice for d in job.dishes)
    return ICE_KG_M3 * (sleeve + layers)


def _sway(job: Job, beam: FreeTube, share: float) -> list[Sway]:
    """What a gale, a share of the design wind, does to the aim of each dish."""
    found = []
    for dish in job.dishes:
        high = max(
            (c.frequency_mhz for c in job.carriers if c.target == dish.target), default=USUAL_MHZ
        )
        turned = math.degrees(abs(beam.turn_rad(dish.on_mast_m))) * share
        cost = float(off_axis_loss_db(turned, dish_beamwidth_deg(dish.diameter_m, high)))
        found.append(Sway(dish.id, dish.name, turned, cost))
    return found
