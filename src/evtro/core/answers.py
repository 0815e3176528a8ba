"""The whole job worked out, station by station in the order of the signal."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

from .aim import answer as aim
from .coax import answer as coax
from .coax.levels import Solved
from .earth import answer as earth
from .handover import answer as handover
from .handover.answer import Section, StationLine
from .handover.sheet import sheet
from .job import Job
from .mast import answer as mast
from .parts import Catalogue
from .profile import Profile
from .quantities import Problem, State, Step
from .readings import answer as readings
from .site import answer as site
from .sky import answer as sky
from .sky.targets import wanted_job
from .steps import steps_of

STATIONS = ("site", "sky", "aim", "mast", "earth", "coax", "readings", "handover")


class _Answer(Protocol):
    @property
    def figure(self) -> str: ...
    @property
    def state(self) -> State: ...
    @property
    def problems(self) -> list[Problem]: ...


@dataclass(frozen=True)
class Answers:
    """Everything that is computed from a job."""

    stations: list[StationLine]
    site: site.SiteAnswer
    sky: sky.SkyAnswer
    aim: aim.AimAnswer
    mast: mast.MastAnswer
    earth: earth.EarthAnswer
    coax: coax.CoaxAnswer
    readings: readings.ReadingsAnswer
    handover: handover.HandoverAnswer
    steps: dict[str, list[Step]]

    @property
    def problems(self) -> list[Problem]:
        """The problems of all stations, in the order of the signal."""
        return [p for key in STATIONS for p in getattr(self, key).problems]


def work_out(job: Job, catalogue: Catalogue, profile: Profile) -> tuple[Answers, Solved]:
    """Compute a job. Pure: the same job gives the same answers."""
    at_site = site.work_out(job)
    in_sky = sky.work_out(job, profile)
    aimed = aim.work_out(job, in_sky, profile.margin_db, profile.margin_reserve_db)
    on_mast = mast.work_out(job, profile)
    earthed = earth.work_out(job, profile)
    run, solved = coax.work_out(job, catalogue, profile)
    job = wanted_job(job)
    read = readings.work_out(job, profile, run, solved)
    seven: tuple[tuple[str, str, _Answer], ...] = (
        ("site", "Site", at_site),
        ("sky", "Sky", in_sky),
        ("aim", "Aim", aimed),
        ("mast", "Mast", on_mast),
        ("earth", "Earth", earthed),
        ("coax", "Coax", run),
        ("readings", "Readings", read),
    )
    lines = [
        StationLine(
            i + 1, key, name, answer.figure, getattr(answer, "figure_compass", None), answer.state
        )
        for i, (key, name, answer) in enumerate(seven)
    ]
    found = [p for _, _, answer in seven for p in answer.problems]
    over = handover.work_out(job, lines, found)
    lines.append(StationLine(8, "handover", "Handover", over.figure, None, over.state))
    steps = steps_of(job, profile, catalogue, aimed, on_mast, earthed, run, read)
    return (
        Answers(
            lines,
            at_site,
            in_sky,
            aimed,
            on_mast,
            earthed,
            run,
            read,
            over,
            steps,
        ),
        solved,
    )


def sheet_of(job: Job, catalogue: Catalogue, profile: Profile, answers: Answers) -> list[Section]:
    """The job sheet, written only when somebody looks at it."""
    a = answers
    return sheet(
        wanted_job(job), profile, catalogue, a.site, a.aim, a.mast, a.earth, a.coax, a.readings,
        [p for key in STATIONS[:7] for p in getattr(a, key).problems], a.sky,
        a.steps,
    )  # fmt: skip
