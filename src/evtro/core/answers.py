"""The whole job worked out, station by station in the order of the signal, each when it is asked for."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Protocol, TypeVar

from .job import Job
from .job.measured import OnSite, as_measured, on_site, told
from .job.parts import Catalogue
from .job.problems import Problem
from .job.profile import Profile
from .job.sections import Section
from .job.stock import Stock, limits, stock_of, stocked
from .job.targets import wanted_job
from .memo import Memo
from .stations.aim import answer as aim
from .stations.aim.sheet import aim_section, terminal_section
from .stations.coax.context import NetworkContext
from .stations.coax.fixes import search as coax_fixes
from .stations.coax.fixes.inline import advised
from .stations.coax.levels.outlets import solve_job
from .stations.coax.sheet import cable_section, company_section, level_section
from .stations.coax.views import answer as coax
from .stations.earth import answer as earth
from .stations.earth.sheet import earth_section
from .stations.handover import answer as handover
from .stations.handover.answer import StationLine
from .stations.handover.sheet import work_sections
from .stations.kit.kit import KitView, kit_of
from .stations.mast import answer as mast
from .stations.mast.sheet import mast_section
from .stations.readings import answer as readings
from .stations.readings.sheet import reading_section, scan_section
from .stations.site import answer as site
from .stations.site.sheet import job_section
from .stations.sky import answer as sky
from .stations.steps import steps_of
from .units.quantities import Step
from .units.severity import State, worst

STATIONS = ("site", "sky", "aim", "mast", "earth", "coax", "readings", "handover")
_NAMES = ("Site", "Sky", "Aim", "Mast", "Earth", "Coax", "Readings", "Handover")


class _Answer(Protocol):
    @property
    def figure(self) -> str: ...
    @property
    def state(self) -> State: ...
    @property
    def problems(self) -> list[Problem]: ...


Told = TypeVar("Told", sky.SkyAnswer, aim.AimAnswer, mast.MastAnswer)


def _with(answer: Told, read: tuple[Problem, ...]) -> Told:
    """An answer with what was read otherwise than planned."""
    if not read:
        return answer
    state = worst([answer.state, *(p.state for p in read)])
    return replace(answer, problems=[*answer.problems, *read], state=state)


@dataclass(frozen=True, eq=False)
class Answers:
    """Everything that is computed from a job: each answer once, when somebody asks. Pure: the same
    job gives the same answers."""

    job: Job
    shop: Catalogue
    shop_profile: Profile
    memo: Memo = field(default_factory=Memo)

    @cached_property
    def catalogue(self) -> Catalogue:
        """Parts, cables and antennas: the job's own data before the workshop's."""
        return self.memo.of(
            "catalogue", self.job, lambda job: stocked(job, self.shop), (self.shop,)
        )

    @cached_property
    def profile(self) -> Profile:
        """Limits: those that the job carries."""
        return limits(self.job, self.shop_profile)

    @cached_property
    def stock(self) -> Stock:
        """What the job carries otherwise than the workshop has it."""
        return stock_of(self.job, self.shop, self.shop_profile)

    @cached_property
    def _on_site(self) -> tuple[OnSite, ...]:
        return on_site(self.job)

    @cached_property
    def measured(self) -> Job:
        """The job with what was read on site in the place of what was planned."""
        return as_measured(self.job, self._on_site)

    def _told(self, station: str) -> tuple[Problem, ...]:
        return told(tuple(f for f in self._on_site if f.station == station), station)

    @cached_property
    def _wanted(self) -> Job:
        return wanted_job(self.measured)

    @cached_property
    def site(self) -> site.SiteAnswer:
        """Station Site."""
        return self.memo.of("site", self.job, site.work_out)

    @cached_property
    def sky(self) -> sky.SkyAnswer:
        """Station Sky."""
        limits, read = self.profile, self._told("sky")
        return self.memo.of(
            "sky", self.measured, lambda job: _with(sky.work_out(job, limits), read), (limits, read)
        )

    @cached_property
    def aim(self) -> aim.AimAnswer:
        """Station Aim."""
        limits, above, read = self.profile, self.sky, self._told("aim")
        return self.memo.of(
            "aim",
            self.measured,
            lambda job: _with(
                aim.work_out(job, above, limits.margin_db, limits.margin_reserve_db), read
            ),
            (limits, above, read),
        )

    @cached_property
    def mast(self) -> mast.MastAnswer:
        """Station Mast."""
        limits, read = self.profile, self._told("mast")
        return self.memo.of(
            "mast",
            self.measured,
            lambda job: _with(mast.work_out(job, limits), read),
            (limits, read),
        )

    @cached_property
    def earth(self) -> earth.EarthAnswer:
        """Station Earth."""
        limits = self.profile
        return self.memo.of(
            "earth", self.measured, lambda job: earth.work_out(job, limits), (limits,)
        )

    @cached_property
    def network(self) -> NetworkContext:
        """The network of the job, solved, with what was read in the place of what was planned."""
        bare = NetworkContext(self.measured, self.catalogue, self.profile)
        solved = self.memo.of(
            "network",
            self.measured,
            lambda job: solve_job(bare.with_job(job)),
            (bare.catalogue, bare.profile),
        )
        return bare.with_solved(solved)

    @cached_property
    def coax(self) -> coax.CoaxAnswer:
        """Station Coax."""
        ctx = self.network
        verdict = self.memo.of(
            "coax",
            self.measured,
            lambda job: advised(ctx.with_job(job).with_solved(ctx.solved)),
            (ctx.catalogue, ctx.profile, ctx.solved),
        )
        return coax.answer_of(ctx, verdict)

    def fixes(self, code: str, ref: str) -> coax_fixes.Fixes:
        """What would cure a problem of the run, by its code and what it is told of."""
        return coax_fixes.find_fixes(self.network, code=code, ref=ref)

    def _read(self, *, whole: bool) -> readings.ReadingsAnswer:
        ctx, verdict = self.network, self.coax.verdict

        def work(job: Job) -> readings.ReadingsAnswer:
            run = coax.answer_of(ctx.with_job(job), verdict)
            return readings.work_out(wanted_job(job), ctx.profile, run, whole=whole)

        return self.memo.of(f"readings {whole}", self.measured, work, (ctx.profile, verdict))

    @cached_property
    def _as_read(self) -> readings.ReadingsAnswer:
        return self._read(whole=False)

    @cached_property
    def readings(self) -> readings.ReadingsAnswer:
        """Station Readings."""
        return self._read(whole=True)

    @cached_property
    def handover(self) -> handover.HandoverAnswer:
        """Station Handover, which looks back on the seven before it."""
        before = [self._line(i) for i in range(7)]
        problems = [p for key in STATIONS[:7] for p in self._of(key).problems]
        return handover.work_out(self._wanted, before, problems)

    @cached_property
    def stations(self) -> list[StationLine]:
        """The spine: figure and state of all eight."""
        return [self._line(i) for i in range(8)]

    @cached_property
    def outlets(self) -> dict[str, State]:
        """The state of each outlet."""
        return {row.outlet: row.state for row in self.coax.outlets}

    @cached_property
    def steps(self) -> dict[str, list[Step]]:
        """What is to be done at each station."""
        return steps_of(
            self.network.with_job(self._wanted),
            aim=self.aim,
            mast=self.mast,
            earth=self.earth,
            coax=self.coax,
            readings=self.readings,
        )

    @cached_property
    def kit(self) -> KitView:
        """What goes into the van."""
        return kit_of(self.network.with_job(self._wanted), self.coax, self.earth)

    @property
    def problems(self) -> list[Problem]:
        """The problems of all stations, in the order of the signal."""
        return [p for key in STATIONS for p in self._of(key).problems]

    @cached_property
    def sheet(self) -> list[Section]:
        """The job sheet: a section or more of each station, in the order of the work."""
        job, ctx = self._wanted, self.network.with_job(self._wanted)
        problems = [p for key in STATIONS[:7] for p in self._of(key).problems]
        sections = [
            job_section(ctx, self.site),
            aim_section(job, self.sky, self.aim),
            terminal_section(job),
            mast_section(self.mast),
            earth_section(job, self.earth),
            cable_section(ctx, self.coax),
            level_section(self.coax),
            company_section(job),
            reading_section(job, self.coax.channels, self.readings),
            scan_section(job),
            *work_sections(job, problems, self.steps),
        ]
        return [section for section in sections if section is not None]

    def _of(self, key: str) -> _Answer:
        # The rows of all places are made when the station is looked at.
        found: _Answer = self._as_read if key == "readings" else getattr(self, key)
        return found

    def _line(self, index: int) -> StationLine:
        answer = self._of(STATIONS[index])
        return StationLine(
            number=index + 1,
            key=STATIONS[index],
            name=_NAMES[index],
            figure=answer.figure,
            figure_compass=getattr(answer, "figure_compass", None),
            state=answer.state,
        )


def work_out(job: Job, catalogue: Catalogue, profile: Profile, memo: Memo | None = None) -> Answers:
    """The answers of a job, none of them computed yet, with the workshop's catalogue and profile;
    what `memo` remembers of other jobs is used again."""
    return Answers(job, catalogue, profile, memo or Memo())
