"""What a design is asked for: where outlets are, what it aims for, which trees it may take."""

from __future__ import annotations

from collections.abc import Mapping
from statistics import median
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ....job import Job, Outlet
from ....network.optimise import Aim
from ....units.quantities import InputError
from .groups import designed_for
from .head import Hanging

TreeKind = Literal["star", "riser", "loop", "switch"]
Metres = Annotated[float, Field(ge=0, le=300, allow_inf_nan=False)]
MOST_OUTLETS = 120
DROP_M = 8.0


class Route(BaseModel):
    """Where an outlet hangs: which riser and floor of it, counted from the head, and how much cable from
    the riser [m]."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    outlet: Annotated[str, Field(pattern=r"^[a-z]+[0-9]+$", max_length=12)]
    riser: Annotated[int, Field(ge=1, le=20)] = 1
    floor: Annotated[int, Field(ge=0, le=60)] = 0
    drop_m: Metres = 8.0


class Wish(BaseModel):
    """The whole of it: from the head to the first floor, from floor to floor [m], the reserve inside of
    every window [dB]."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    aim: Aim = "cost"
    reserve_db: Annotated[float, Field(ge=0, le=20, allow_inf_nan=False)] = 3.0
    head_m: Metres = 3.0
    floor_m: Metres = 3.0
    trees: Annotated[tuple[TreeKind, ...], Field(min_length=1, max_length=4)] = (
        "star",
        "riser",
        "loop",
        "switch",
    )
    routes: Annotated[tuple[Route, ...], Field(max_length=400)] = ()

    def checked(
        self, job: Job, lengths_m: Mapping[str, float], hangs: Mapping[str, Hanging]
    ) -> Wish:
        """The wish with a route for each outlet that wants something, from the cable that leads there now
        [m] where nothing else is told. Raises InputError."""
        asking = {o.id for o in self.outlets_of(job)}
        # One that wants nothing now and has its line keeps one.
        wanted = [o for o in job.outlets if o.id in asking or o.id in lengths_m]
        told = {r.outlet: r for r in self.routes}
        if not told and wanted and all(o.id in hangs for o in wanted):
            return self._as_it_hangs([(o.id, hangs[o.id]) for o in wanted])
        floors = list(dict.fromkeys(o.floor for o in wanted))
        routes, head_m, floor_m = [], self.head_m, self.floor_m
        known = [
            lengths_m[o.id] - head_m - floor_m * floors.index(o.floor)
            for o in wanted
            if o.id in lengths_m
        ]
        if not told and min(known, default=0.0) < 0:
            head_m = floor_m = 0.0  # the run as it is has no room for them
        for o in wanted:
            floor = floors.index(o.floor)
            drop = lengths_m.get(o.id, head_m + floor_m * floor + DROP_M) - head_m - floor_m * floor
            routes.append(
                told.get(o.id) or Route(outlet=o.id, floor=floor, drop_m=round(max(drop, 0.0), 3))
            )
        return self.model_copy(
            update={"routes": tuple(routes), "head_m": head_m, "floor_m": floor_m}
        )

    def _as_it_hangs(self, outlets: list[tuple[str, Hanging]]) -> Wish:
        """The wish with the risers that are there."""
        ports = sorted({h.port for _, h in outlets})
        head_m = median(h.rises_m[0] for _, h in outlets)
        gaps = [m for _, h in outlets for m in h.rises_m[1:]]
        floor_m = median(gaps) if gaps else self.floor_m
        routes = []
        for outlet, h in outlets:
            floor = len(h.rises_m) - 1
            more = sum(h.rises_m) - head_m - floor_m * floor
            routes.append(
                Route(
                    outlet=outlet,
                    riser=ports.index(h.port) + 1,
                    floor=floor,
                    drop_m=round(max(h.drop_m + more, 0.0), 3),
                )
            )
        return self.model_copy(
            update={"routes": tuple(routes), "head_m": head_m, "floor_m": floor_m}
        )

    def outlets_of(self, job: Job) -> list[Outlet]:
        """The outlets that want something. Raises InputError for none, too many, or a route to none."""
        wanted = [o for o in job.outlets if designed_for(job, o)]
        if not wanted:
            raise InputError(
                "Outlets", "no outlet wants anything.", "Add outlets at Site.", "design-outlets"
            )
        if len(wanted) > MOST_OUTLETS:
            raise InputError(
                "Outlets",
                f"{len(wanted)} are more than a design takes on at once.",
                f"Plan up to {MOST_OUTLETS} in one job, a riser or a house each.",
                "design-outlets",
            )
        lost = sorted({r.outlet for r in self.routes} - {o.id for o in job.outlets})
        if lost:
            raise InputError(
                "Outlets", f"{lost[0]} is none of this job.", "Reload the page.", "design-outlets"
            )
        return wanted

    def by_riser(self) -> list[list[Route]]:
        """The routes of each riser, from the head on."""
        risers: dict[int, list[Route]] = {}
        for route in sorted(self.routes, key=lambda r: (r.riser, r.floor)):
            risers.setdefault(route.riser, []).append(route)
        return [risers[r] for r in sorted(risers)]

    def length_m(self, route: Route) -> float:
        """From the head to an outlet by its riser [m]."""
        return self.head_m + self.floor_m * route.floor + route.drop_m
