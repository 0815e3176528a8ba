"""Station Sky: what can be seen from here, and what is in the way."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

from ..antennas import dish_beamwidth_deg
from ..job import Antenna, Carrier, Job, Obstruction, Site, Target
from ..profile import Profile
from ..quantities import Gauge, Problem, Quantity, State, gauge, worst
from .skyline import Clearance, Silhouette, clearance, clearance_of, outline, silhouettes
from .targets import Sight, arc, field_strength_dbuvm, sight_of

CLEAR_RESERVE_DEG = 0.5  # how well an inclinometer is read in the hand; common practice, no source
HIGHEST_MOUNT_M = 30.0


@dataclass(frozen=True)
class Survey:
    """What the station needs of a job: as long as it stays the same, so does the answer."""

    site: Site
    obstructions: tuple[Obstruction, ...]
    targets: tuple[Target, ...]
    carriers: tuple[Carrier, ...]
    antennas: tuple[Antenna, ...]
    keep_clear_deg: float
    keep_clear_origin: str


@dataclass(frozen=True)
class TargetSight:
    """A target on the skyline. `gauge` is its clearance, or the rise over the skyline of a
    transmitter; `field_dbuvm` the free-space field of its strongest carrier."""

    id: str
    name: str
    kind: str
    sight: Sight | None
    gauge: Gauge
    nearest: str | None
    nearest_azimuth_deg: float
    nearest_elevation_deg: float
    field_dbuvm: float | None
    state: State


@dataclass(frozen=True)
class SkyAnswer:
    """The answer of the station."""

    targets: list[TargetSight]
    skyline: list[Silhouette]
    arc: list[tuple[float, float, float]]
    keep_clear_deg: float
    clear: int
    least: Gauge
    least_target: str | None
    problems: list[Problem]
    state: State
    figure: str


def wanted_clearance_deg(job: Survey, target: str) -> float:
    """The margin to keep round a satellite [deg]: the job's or profile's, and never less than
    half a beamwidth of the dish that looks at it."""
    own = job.site.keep_clear_deg
    margin = job.keep_clear_deg if own is None else own
    dishes = [a for a in job.antennas if a.kind == "dish" and a.target == target]
    waves = [c.frequency_mhz for c in job.carriers if c.target == target]
    if dishes and waves:
        margin = max(margin, dish_beamwidth_deg(dishes[0].diameter_m, min(waves)) / 2)
    return margin


def work_out(job: Job, profile: Profile) -> SkyAnswer:
    """Clearance of every target over the skyline, with the problems and what to do."""
    return _worked_out(
        Survey(job.site, job.obstructions, job.targets, job.carriers, job.antennas,
               profile.keep_clear_deg, profile.keep_clear_origin)
    )  # fmt: skip


@lru_cache(maxsize=64)
def _worked_out(job: Survey) -> SkyAnswer:
    skyline = silhouettes(job.obstructions, job.site.mount_height_m)
    names = {s.id: s for s in skyline}
    seen = {t.id: s for t in job.targets if (s := sight_of(job.site, t)) is not None}
    rows: list[TargetSight] = []
    problems: list[Problem] = []
    for target in job.targets:
        sight = seen.get(target.id)
        if sight is None:
            rows.append(
                TargetSight(target.id, target.name, target.kind, None,
                            gauge(None, "deg"), None, 0, 0, None, "todo")
            )  # fmt: skip
            continue
        clear = clearance(sight.azimuth_deg, sight.elevation_deg, skyline)
        if target.kind == "satellite":
            row = _satellite(job, target.name, sight, clear, problems, names)
        else:
            row = _transmitter(job, target.name, target.id, sight, clear, problems, names)
        rows.append(row)
    satellites = [r for r in rows if r.kind == "satellite" and r.gauge.value is not None]
    least = min(satellites, key=lambda r: r.gauge.value or 0.0, default=None)
    clear_count = sum(r.state in ("in", "near") for r in rows)
    state = worst([r.state for r in rows])
    own = job.site.keep_clear_deg
    return SkyAnswer(
        rows,
        skyline,
        arc(job.site),
        job.keep_clear_deg if own is None else own,
        clear_count,
        least.gauge if least else gauge(None, "deg"),
        least.name if least else None,
        problems,
        state,
        f"{clear_count} of {len(rows)} clear" if rows else "no targets",
    )


def _satellite(
    job: Survey, name: str, sight: Sight, clear: Clearance,
    problems: list[Problem], names: dict[str, Silhouette],
) -> TargetSight:  # fmt: skip
    wanted = wanted_clearance_deg(job, sight.target)
    judged = gauge(clear.angle_deg, "deg", low=wanted, reserve=CLEAR_RESERVE_DEG)
    state = judged.state
    origin = "this job's own rule" if job.site.keep_clear_deg else job.keep_clear_origin
    if not sight.visible:
        state = "out"
        problems.append(
            Problem(
                "below-horizon", "sky", "out", name,
                (f"{name} stands below the horizon here",),
                gauge(sight.elevation_deg, "deg", low=0.0),
                ("above ", Quantity(0, "deg", 0)), "geometry of the place",
                ("Choose a satellite nearer to this longitude, or check the position's signs.",),
                ref=sight.target,
            )
        )  # fmt: skip
    elif state == "out":
        shape = names[clear.obstruction or ""]
        fix, remedy, effect = _raise(job, wanted, sight, shape)
        problems.append(
            Problem(
                "clearance", "sky", "out", name,
                (f"{shape.name} is too close to {name}",), judged,
                (Quantity(wanted, "deg"), " keep-clear"), origin, remedy, fix, effect,
                ref=sight.target,
            )
        )  # fmt: skip
    return TargetSight(
        sight.target, name, "satellite", sight, judged, clear.obstruction,
        clear.azimuth_deg, clear.elevation_deg, None, state,
    )  # fmt: skip


def _raise(
    job: Survey, wanted: float, sight: Sight, shape: Silhouette
) -> tuple[str | None, tuple[str | Quantity, ...], tuple[str | Quantity, ...]]:
    """The least raise of the mount that gives the margin, found by trying."""
    row = next(o for o in job.obstructions if o.id == shape.id)
    if row.distance_m is None:
        return (
            None,
            (f"Measure the distance to {shape.name}; then the height that clears it is computed.",),
            (),
        )

    def margin(height_m: float) -> float:
        edges = {o.id: outline(o, height_m) for o in job.obstructions}
        return clearance_of(sight.azimuth_deg, sight.elevation_deg, edges).angle_deg - wanted

    start = job.site.mount_height_m
    if start >= HIGHEST_MOUNT_M or margin(HIGHEST_MOUNT_M) < 0:
        return None, (f"No mast clears it. Move the mount sideways, or have {shape.name} cut.",), ()
    # Bisect whole decimetres: nobody sets a mast finer.
    low, high = 0, math.ceil((HIGHEST_MOUNT_M - start) * 10)
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (low, middle) if margin(start + middle / 10) >= 0 else (middle, high)
    height = start + high / 10
    rise = height - job.site.mount_height_m
    return (
        f"mount-height:{height:.1f}",
        ("Raise the mount ", Quantity(rise, "m"), ", then check the mast"),
        (Quantity(margin(height) + wanted, "deg"), " clear, in"),
    )


def _transmitter(
    job: Survey, name: str, target: str, sight: Sight, clear: Clearance,
    problems: list[Problem], names: dict[str, Silhouette],
) -> TargetSight:  # fmt: skip
    powers = [c.power for c in job.carriers if c.target == target and c.power > 0]
    field = field_strength_dbuvm(max(powers), sight.distance_km) if powers else None
    hidden = clear.angle_deg < 0
    judged = gauge(clear.angle_deg, "deg", low=0.0)
    state: State = "near" if hidden or not sight.visible else "in"
    judged = Gauge(judged.value, "deg", 0.0, None, 0.0, state)
    if hidden:
        shape = names[clear.obstruction or ""]
        problems.append(
            Problem(
                "hidden", "sky", "near", name, (f"{shape.name} hides {name}",), judged,
                ("line of sight over ", shape.name), "free-space forecast",
                ("Read it on the roof before promising it, then enter the loss beyond free "
                 "space with the transmitter.",),
                ref=target,
            )
        )  # fmt: skip
    elif not sight.visible:
        problems.append(
            Problem(
                "beyond-horizon", "sky", "near", name, (f"{name} is beyond the radio horizon",),
                gauge(sight.distance_km, "km", high=sight.horizon_km),
                (Quantity(sight.horizon_km or 0, "km"), " radio horizon"),
                "smooth earth, k = 4/3",
                ("Take another transmitter, raise the antenna, or read it on the roof.",),
                ref=target,
            )
        )  # fmt: skip
    return TargetSight(
        target, name, "transmitter", sight, judged, clear.obstruction,
        clear.azimuth_deg, clear.elevation_deg, field, state,
    )  # fmt: skip
