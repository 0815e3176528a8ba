"""Station Mast: what holds the antennas up in the wind."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from pydantic import ValidationError

from ...checks.composer import compose
from ...checks.registry import checks_of
from ...fixes.comparison import (
    Judgement,
    NamedFigure,
    named_by_problem,
    named_figure,
    regressions,
)
from ...job import Job, Mast
from ...job.changes import Set
from ...job.problems import Problem
from ...job.profile import Profile
from ...units.quantities import Gauge
from ...units.severity import State, worst
from . import checks
from .figures import Sway, WindLoad, figures_of
from .mounts import MOUNT_KINDS, PORTABLE_KINDS, MountKind
from .uses import Use, Weight, uses_of, weights_of
from .wind import Pressure, pressure

CHECKS = checks_of(checks)


@dataclass(frozen=True)
class MastAnswer:
    """The answer of the station. `diagram` is bending moment [N m] by height [m]. The upper bracket
    bears the moment over the held length and all the shear, the lower one the moment's part, the
    other way; both are None while nothing is held. `mount` says what holds it, `uses` how each part of
    that is used; `weights` what is lifted [kg]; `sway` how far a gale turns each dish; `guys_n` what the guys
    hold [N]. It stands as `kind`, `free_m` above what holds it and `held_m` within; `kinds` can be chosen, and
    `fields` are the columns of the mast that its own kind has figures in."""

    loads: list[WindLoad]
    pressure_pa: float
    pressure_origin: str
    moment: Gauge
    moment_origin: str
    tube: Gauge
    held: Gauge
    upper_bracket_n: float | None
    lower_bracket_n: float | None
    diagram: list[tuple[float, float]]
    percent: float
    mount: str
    uses: list[Use]
    weights: list[Weight]
    sway: list[Sway]
    guys_n: float
    kind: str
    kinds: list[MountKind]
    fields: list[str]
    free_m: float
    held_m: float
    problems: list[Problem]
    state: State
    figure: str


MOUNTS = {
    "wall": "two brackets on a wall", "eave": "brackets under the eave", "balcony": "brackets on a balcony",
    "chimney": "straps round a chimney", "roof": "a foot on the rafter", "jpole": "a J-pole on its foot plate", "pole": "a pole in the ground",
    "ballast": "a foot with ballast", "loft": "in the loft, out of the wind",
    "tripod": "a tripod", "vehicle": "a vehicle's roof",
}  # fmt: skip


def work_out(job: Job, profile: Profile) -> MastAnswer:
    """Wind load, moment at the upper bracket and the stress in the tube, against their limits. A change that
    would make anything on the mast worse is not offered."""
    found = _work_out(job, profile)
    return replace(found, problems=[_harmless(p, found, job, profile) for p in found.problems])


def _fits(job: Job, change: Set) -> bool:
    """Whether the row that is changed can hold what it would be given."""
    rows = [job.mast] if change.rows == "mast" else [d for d in job.dishes if d.id == change.id]
    try:
        for row in rows:
            type(row).model_validate({**row.model_dump(), **change.values})
    except ValidationError:
        return False
    return True


def _harmless(problem: Problem, found: MastAnswer, job: Job, profile: Profile) -> Problem:
    change = problem.change
    if not isinstance(change, Set) or change.rows not in ("mast", "dishes"):
        return problem
    if not _fits(job, change):
        return replace(problem, change=None, effect=())
    if change.rows == "mast":
        tried = job.model_copy(update={"mast": job.mast.model_copy(update=change.values)})
    else:
        tried = job.model_copy(
            update={
                "dishes": tuple(
                    d.model_copy(update=change.values) if d.id == change.id else d
                    for d in job.dishes
                )
            }
        )
    before = _figures(found)
    worse = list(regressions(before, _figures(_work_out(tried, profile))))
    if any(one.state != "fail" for key in worse for one in before.named.get(key, [_FINE])):
        return replace(problem, change=None, effect=())
    # What fails already and fails by more is said beside it.
    further = [key for key in worse if isinstance(key, str)]
    if further:
        words = (
            f"; {', '.join(further)} {'is' if len(further) == 1 else 'are'} further outside then"
        )
        return replace(problem, effect=(*problem.effect, words))
    return problem


_FINE = NamedFigure("ok")


def _figures(found: MastAnswer) -> Judgement:
    """Every figure of mast and mount, and what is told of them."""
    named = named_by_problem(found.problems)
    gauges = [("moment", found.moment), ("tube", found.tube), ("held", found.held)]
    for name, one in (*gauges, *((use.name, use.gauge) for use in found.uses)):
        named[name] = [named_figure(one)]
    return Judgement(named=named)


def _work_out(job: Job, profile: Profile) -> MastAnswer:
    if job.rig.kind == "vehicle":
        return _on_vehicle(job, pressure(job, profile))
    at = figures_of(job, profile)
    mast, moment, tube = at.mast, at.moment, at.tube
    problems = [told.problem for told in compose(CHECKS, at)]
    uses = uses_of(mast, at.used) + ([] if at.guys is None else at.guys.uses(mast))
    shares = [at.total_nm / at.limit_nm, at.bent_nm / at.bearable_nm]
    percent = 100 * max([*shares, *(_share(u.gauge) for u in uses)])
    states = [moment.state, tube.state, at.held_gauge.state, *(p.state for p in problems)]
    return MastAnswer(
        loads=at.loads,
        pressure_pa=at.blows.pa,
        pressure_origin=at.blows.origin,
        moment=moment,
        moment_origin=at.moment_origin,
        tube=tube,
        held=at.held_gauge,
        upper_bracket_n=at.used.upper_n,
        lower_bracket_n=at.used.lower_n,
        diagram=at.diagram,
        percent=percent,
        mount=MOUNTS["tripod" if job.rig.kind == "tripod" else mast.fixing],
        uses=uses,
        weights=at.weights,
        sway=at.sway,
        guys_n=at.beam.held_n,
        **_kind(job),
        free_m=max(mast.length_m - mast.held_m, 0.0),
        held_m=mast.held_m,
        problems=problems,
        state=worst(states) if job.antennas else "unknown",
        figure=_figure(job, mast, percent),
    )


def _kind(job: Job) -> dict[str, Any]:
    """What the mast stands as, what it could stand as, and what is asked of it."""
    key = job.mast.fixing if job.rig.kind == "none" else job.rig.kind
    own = next(k for k in (*MOUNT_KINDS, *PORTABLE_KINDS) if k.key == key)
    return {"kind": key, "kinds": list(MOUNT_KINDS), "fields": list(own.fields)}


def _figure(job: Job, mast: Mast, percent: float) -> str:
    if not job.antennas:
        return "no antenna"
    return "out of the wind" if mast.fixing == "loft" else f"{min(percent, 9999):.0f} % of limit"


def _share(one: Gauge) -> float:
    """How much of its limit a figure takes."""
    value = one.value or 0.0
    if one.high is not None:
        return value / one.high if one.high > 0 else (0.0 if value <= 0 else 99.0)
    return (one.low or 0.0) / value if value > 0 else 0.0


def _on_vehicle(job: Job, blows: Pressure) -> MastAnswer:
    """A base that its maker made for the roof: what it bears is the maker's word; Aim looks after the rest."""
    none = Gauge(value=None, unit="nm", low=None, high=None, reserve=0.0, state="ok")
    return MastAnswer(
        loads=[],
        pressure_pa=blows.pa,
        pressure_origin=blows.origin,
        moment=none,
        moment_origin="the base's own sheet",
        tube=none,
        held=none,
        upper_bracket_n=None,
        lower_bracket_n=None,
        diagram=[],
        percent=0.0,
        mount=MOUNTS["vehicle"],
        uses=[],
        weights=weights_of(job, job.mast),
        sway=[],
        guys_n=0.0,
        **_kind(job),
        free_m=max((a.on_mast_m for a in job.antennas), default=0.1),
        held_m=0.0,
        problems=[],
        state="ok" if job.antennas else "unknown",
        figure="vehicle's roof" if job.antennas else "no antenna",
    )
