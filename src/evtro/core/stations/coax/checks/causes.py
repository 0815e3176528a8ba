"""What is wrong at several outlets for one reason is one problem: it is told where they part."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace

from ....checks.composer import Composed
from ....checks.registry import Finding
from ....job.problems import Problem
from ....network.graph import Wiring
from ....units.quantities import Phrase, Quantity
from ....units.severity import worst
from ..context import NetworkContext
from ..levels.outlets import Group, OutletRow, Solved
from .matching import echo_remedy

SHARED = (
    "level-low",
    "level-high",
    "margin",
    "distortion",
    "slope",
    "echo",
    "range",
    "no-path",
    "choice-deaf",
)


@dataclass(frozen=True, eq=False, kw_only=True)
class OutletFinding(Finding):
    """A problem at an outlet: of which group and carrier."""

    row: OutletRow
    group: Group | None = None
    carrier: int = -1


@dataclass(frozen=True, eq=False)
class Cause:
    """Findings of one kind that have one cause, the worst first; `behind` is the part behind which every
    outlet has it, None for one outlet alone."""

    findings: tuple[OutletFinding, ...]
    behind: str | None

    @property
    def first(self) -> OutletFinding:
        """The worst of them."""
        return self.findings[0]

    @property
    def rows(self) -> list[OutletRow]:
        """The outlets, the worst first."""
        return [f.row for f in self.findings]


def causes(found: Iterable[OutletFinding], rows: list[OutletRow], solved: Solved) -> list[Cause]:
    """Group findings: where everything behind a part has the same one, that is where its cause lies,
    the part nearest to the source first."""
    kinds: dict[tuple[str, Group | None, str | None], list[OutletFinding]] = {}
    single: list[Cause] = []
    for one in found:
        p = one.problem
        if p.code in SHARED and one.row.part is not None:
            # A part that stops something is the cause itself.
            at = p.ref if p.code == "range" else None
            kinds.setdefault((p.code, one.group, at), []).append(one)
        else:
            single.append(Cause((one,), None))
    if not kinds:
        return single
    behind = _behind(solved.run.wiring, rows)
    wiring = solved.run.wiring
    for (_, group, _), same in kinds.items():
        left = {f.row.index: f for f in same}
        waiting, concerned = sum(1 << i for i in left), 0
        for r in rows:
            wants = r.judged.wants[r.index]
            if wants.any() if group is None else (wants & solved.of_group[group]).any():
                concerned |= 1 << r.index
        for part in wiring.order:
            here = behind[part] & concerned
            if here & ~waiting or here.bit_count() < 2:
                continue
            waiting &= ~here
            indices = [i for i in left if here >> i & 1]
            mine = sorted((left.pop(i) for i in indices), key=lambda f: -f.by)
            single.append(Cause(tuple(mine), _last_shared(wiring, behind, part, here)))
        single += [Cause((f,), None) for f in left.values()]
    return single


def by_cause(ctx: NetworkContext, found: list[Finding]) -> list[Composed]:
    """Findings at outlets as problems, one for each cause."""
    at_outlets = [f for f in found if isinstance(f, OutletFinding)]
    told = []
    for cause in causes(at_outlets, ctx.rows, ctx.solved):
        problem = together(cause, ctx.solved)
        if problem.code == "echo":
            first = cause.first
            problem = replace(problem, remedy=echo_remedy(ctx.solved, first.row, first.carrier))
        told.append(Composed(problem, cause.findings))
    return told


def _behind(wiring: Wiring, rows: list[OutletRow]) -> dict[str, int]:
    """For each part the outlets behind it, as bits by their row."""
    of = {r.part: 1 << r.index for r in rows if r.part is not None}
    found: dict[str, int] = {}
    for part in reversed(wiring.order):
        bits = of.get(part, 0)
        for link in wiring.after[part].values():
            bits |= found[link.to_part]
        found[part] = bits
    return found


def _last_shared(wiring: Wiring, behind: dict[str, int], part: str, outlets: int) -> str:
    """The last part that all of these outlets are behind."""
    while True:
        onward = {k.to_part for k in wiring.after[part].values() if behind[k.to_part] & outlets}
        following = next((p for p in onward if behind[p] & outlets == outlets), None)
        if following is None:
            return part
        part = following


def together(cause: Cause, solved: Solved) -> Problem:
    """A cause as one problem; that of one outlet as it is."""
    first = cause.first.problem
    outlets = tuple(r.outlet for r in cause.rows)
    if len(cause.findings) == 1:
        return replace(first, outlets=outlets)
    count = len(cause.findings)
    names = [r.name for r in cause.rows]
    said = ", ".join(names[:3]) + (f" and {count - 3} more" if count > 3 else "")
    waves = [solved.channels[f.carrier].frequency_mhz for f in cause.findings if f.carrier >= 0]
    where = f"{said}: all behind {solved.names[cause.behind or '']}"
    if waves:
        low, high = min(waves), max(waves)
        where += f", {low:.0f} MHz" if high - low < 1 else f", {low:.0f} to {high:.0f} MHz"
    return replace(
        first,
        state=worst([f.problem.state for f in cause.findings]),
        place=where,
        title=_title(cause, count),
        outlets=outlets,
    )


def _title(cause: Cause, count: int) -> Phrase:
    first = cause.first
    code = first.problem.code
    if code in ("level-low", "level-high"):
        side, end = ("under", "lower") if code == "level-low" else ("over", "upper")
        out = sum(f.problem.state == "fail" for f in cause.findings)
        if out == 0:
            return (f"{count} outlets: near the {end} limit",)
        near = f", {count - out} more near it" if out < count else ""
        said = f"{out} outlet{'s' if out > 1 else ''}: up to "
        return (said, Quantity(first.by, "db"), f" {side} the limit{near}")
    words = {
        "margin": "quality margin too small",
        "distortion": "quality margin too small",
        "echo": f"echoes lift and lower carriers of the {first.group} band",
        "slope": f"levels differ too much over the {first.group} band",
        "no-path": f"no {first.group} signal has a path to them",
    }
    if code in words:
        return (f"{count} outlets: {words[code]}",)
    return first.problem.title
