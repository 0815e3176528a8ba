"""The whole job worked out, station by station in the order of the signal."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

from .job import Job
from .job.problems import Problem
from .job.profile import Profile
from .job.targets import wanted_job
from .plant.parts import Catalogue
from .stations.aim import answer as aim
from .stations.coax import answer as coax
from .stations.coax.levels import Solved
from .stations.earth import answer as earth
from .stations.handover import answer as handover
from .stations.handover.answer import Section, StationLine
from .stations.handover.sheet import sheet
from .stations.mast import answer as mast
from .stations.readings import answer as readings
from .stations.site import answer as site
from .stations.sky import answer as sky
from .stations.steps import steps_of
from .units.quantities import (
    State,
    Step,
)

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
            number=i + 1,
            key=key,
            name=name,
            figure=answer.figure,
            figure_compass=getattr(answer, "figure_compass", None),
            state=answer.state,
        )
        for i, (key, name, answer) in enumerate(seven)
    ]
    found = [p for _, _, answer in seven for p in answer.problems]
    over = handover.work_out(job, lines, found)
    lines.append(
        StationLine(
            number=8,
            key="handover",
            name="Handover",
            figure=over.figure,
            figure_compass=None,
            state=over.state,
        )
    )
    steps = steps_of(
        job,
        profile,
        catalogue=catalogue,
        aim=aimed,
        mast=on_mast,
        earth=earthed,
        coax=run,
        readings=read,
    )
    return (
        Answers(
            stations=lines,
            site=at_site,
            sky=in_sky,
            aim=aimed,
            mast=on_mast,
            earth=earthed,
            coax=run,
            readings=read,
            handover=over,
            steps=steps,
        ),
        solved,
    )


def sheet_of(job: Job, catalogue: Catalogue, profile: Profile, answers: Answers) -> list[Section]:
    """The job sheet, written only when somebody looks at it."""
    a = answers
    return sheet(
        wanted_job(job), profile, catalogue=catalogue, site=a.site, aim=a.aim, mast=a.mast, earth=a.earth, coax=a.coax, readings=a.readings,
        problems=[p for key in STATIONS[:7] for p in getattr(a, key).problems], sky=a.sky,
        steps=a.steps,
    )  # fmt: skip
