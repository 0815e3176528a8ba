"""The designer: least cost and most reserve for 24 and 96 outlets, and the curve between them."""

from __future__ import annotations

import time

from large import house

from evtro import catalogue, profiles
from evtro.core.job import Job
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.design.compare import compared
from evtro.core.stations.coax.design.designer import Designer
from evtro.core.stations.coax.design.wish import Route, Wish

Row = tuple[str, str, str]


def _bare(outlets: int) -> Job:
    """A house of which only the array is there, and no satellite."""
    job = house(outlets, 12)
    wanted = tuple(o.model_copy(update={"satellite": False}) for o in job.outlets)
    targets = tuple(t for t in job.targets if t.kind == "transmitter")
    carriers = tuple(
        c.model_copy(update={"power": 30.0}) for c in job.carriers if c.target == targets[0].id
    )
    parts = tuple(p for p in job.parts if p.antenna == "a1")
    return job.model_copy(
        update={
            "outlets": wanted,
            "parts": parts,
            "links": (),
            "targets": targets,
            "carriers": carriers,
            "dishes": (),
        }
    )


def _routes(outlets: int, risers: int) -> tuple[Route, ...]:
    return tuple(
        Route(
            outlet=f"o{n + 1}",
            riser=n // 3 % risers + 1,
            floor=n // (3 * risers),
            drop_m=6.0 + n % 3,
        )
        for n in range(outlets)
    )


def designs() -> list[Row]:
    """Searches proven to their end, each once."""
    shop, limits, rows = catalogue.load(), profiles.load("europe"), []
    for outlets, risers, targets in ((24, 2, ("3 s", "8 s")), (96, 4, ("20 s", ""))):
        job, wish = _bare(outlets), Wish(routes=_routes(outlets, risers))
        for aim, target in zip(("cost", "margin"), targets, strict=True):
            start = time.perf_counter()
            at = Designer(job, shop, limits, wish, seconds=60)
            found = at.search(aim, 3.0 if aim == "cost" else 0.0)  # type: ignore[arg-type]
            taken = time.perf_counter() - start
            said = "proven" if found.plan is not None and found.plan.proven else "not proven"
            name = f"design for {outlets} outlets, {aim}, {said} ({found.binaries} choices, {found.cuts} cuts)"
            rows.append((name, target, f"{taken:.1f} s"))
    start = time.perf_counter()
    design, _ = compared(
        NetworkContext(_bare(24), shop, limits), Wish(routes=_routes(24, 2)), seconds=60
    )
    taken = time.perf_counter() - start
    rows.append(
        (f"  the curve for 24 outlets, {len(design.plans)} plans", "15 s", f"{taken:.1f} s")
    )
    return rows
