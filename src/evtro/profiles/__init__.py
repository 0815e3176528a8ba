"""The regional profiles that ship with the program, one TOML file each."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib import resources

from evtro.core.job import Job
from evtro.core.job.profile import Profile
from evtro.core.units.quantities import InputError

NAMES = ("europe", "north-america", "australia-new-zealand")


@cache
def load(key: str) -> Profile:
    """The profile of that name. Raises InputError with the names there are."""
    if key not in NAMES:
        raise InputError(
            "Profile",
            f"“{key}” is not a practice profile.",
            f"Choose one of {', '.join(NAMES)}.",
            "profile-unknown",
        )
    text = resources.files(__name__).joinpath(f"{key}.toml").read_text("utf-8")
    return Profile.model_validate(tomllib.loads(text))


def shop_profile(job: Job) -> Profile:
    """The workshop's profile of a job; where it has none of that name, the one that the job carries.
    Raises InputError where neither has it."""
    if job.profile not in NAMES:
        carried = next((row.data for row in job.limit_data if row.key == job.profile), None)
        if carried is not None:
            return carried
    return load(job.profile)
