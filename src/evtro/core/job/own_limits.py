"""Limits of a job's own over those of its practice profile: an association's, a company's, a customer's."""

from __future__ import annotations

from dataclasses import dataclass

from ..physics.modulation import MODULATIONS
from ..units.quantities import InputError, Unit
from . import Job
from .profile import Profile
from .registry import new_row_id
from .sheets import LimitData
from .stock import OWN_LIMITS, limits

# Beside the windows of levels: field, what it is called, the field of its origin.
_LINES = (
    ("margin_db", "quality over the threshold, at least", "margin_origin"),
    ("margin_reserve_db", "near under so much more of it", "margin_origin"),
    ("level_reserve_db", "near within so much of a level's limit", ""),
    ("slope_terrestrial_db", "levels apart, terrestrial and cable, at most", "slope_origin"),
    ("slope_satellite_db", "levels apart, satellite, at most", "slope_origin"),
    ("ripple_db", "ripple within a carrier, at most", "ripple_origin"),
    ("isolation_db", "isolation between outlets of a home, at least", "isolation_origin"),
    ("reading_tolerance_db", "reading beside its plan, at most", "reading_origin"),
)
OWN = "own limit of this job"
_ENDS = (("low_dbuv", "at least"), ("high_dbuv", "at most"))


@dataclass(frozen=True)
class LimitLine:
    """A limit of a job: its figure and that of the profile, whose it is, and whether it is the job's own."""

    field: str
    title: str
    value: float
    usual: float
    unit: Unit
    origin: str
    own: bool


def limit_lines(job: Job, profile: Profile) -> list[LimitLine]:
    """Every limit of the run: the windows of what the job has carriers of, then the others."""
    now, found = limits(job, profile), []
    systems = {}
    for carrier in job.carriers:
        kind = MODULATIONS.get(carrier.modulation)
        if kind is not None and not carrier.mobile:
            name = kind.code if kind.code in now.windows else kind.system
            systems[name] = now.windows[name]
    for name, window in sorted(systems.items()):
        usual = profile.windows.get(name, window)
        for end, words in _ENDS:
            value, was = getattr(window, end), getattr(usual, end)
            found.append(
                LimitLine(
                    f"windows.{name}.{end}",
                    f"{name} {words}",
                    value=value,
                    usual=was,
                    unit="dbuv",
                    origin=usual.origin,
                    own=value != was,
                )
            )
    for field, title, origin in _LINES:
        value, was = getattr(now, field), getattr(profile, field)
        found.append(
            LimitLine(
                field,
                title,
                value=value,
                usual=was,
                unit="db",
                origin=getattr(profile, origin) if origin else "common practice, no source",
                own=value != was,
            )
        )
    return found


def with_limit(job: Job, profile: Profile, field: str, value: float | None) -> Job:
    """The job with a limit of its own, or with None that of the profile again. Raises InputError."""
    line = next((one for one in limit_lines(job, profile) if one.field == field), None)
    if line is None:
        raise InputError(
            "Limit", f"this job has no limit “{field[:60]}”.", "Reload the list.", "row-missing"
        )
    new = line.usual if value is None else value
    data = limits(job, profile)
    if field.startswith("windows."):
        name, end = field.removeprefix("windows.").rsplit(".", 1)
        window = data.windows[name].model_copy(update={end: new})
        if window.low_dbuv >= window.high_dbuv:
            raise InputError(
                line.title,
                "the window would be shut: its lower end lies over the upper.",
                "Type a lower limit under the upper one.",
                "window-shut",
            )
        usual = profile.windows.get(name, window)
        same = (window.low_dbuv, window.high_dbuv) == (usual.low_dbuv, usual.high_dbuv)
        window = window.model_copy(update={"origin": usual.origin if same else OWN})
        data = data.model_copy(update={"windows": {**data.windows, name: window}})
    else:
        if not 0 <= new <= 100:
            raise InputError(
                line.title,
                f"{new:g} dB is not between 0 and 100.",
                "Type the limit in dB.",
                "out-of-range",
            )
        whose = next(origin for name, _, origin in _LINES if name == field)
        told = {whose: getattr(profile, whose) if new == line.usual else OWN} if whose else {}
        data = data.model_copy(update={field: new, **told})
    rows = tuple(r for r in job.limit_data if r.key != job.profile)
    old = next((r for r in job.limit_data if r.key == job.profile), None)
    own = data != profile
    row = LimitData(
        id=old.id if old is not None else new_row_id(job, "limit_data"),
        key=job.profile,
        data=data,
        origin=f"{OWN_LIMITS}, over {profile.name}" if own else profile.origin,
        of_date=job.date if own else profile.of_date,
    )
    return job.model_copy(update={"limit_data": (*rows, row)})
