"""The one composer of all stations: runs checks, groups by cause, orders by severity."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import TypeVar

from ..job.problems import Problem
from ..units.severity import RANK
from .registry import Check, Finding

Facts = TypeVar("Facts")


@dataclass(frozen=True)
class Composed:
    """A problem, and the findings of which it is the cause, the worst first."""

    problem: Problem
    findings: tuple[Finding, ...] = ()


def compose(
    checks: Sequence[Check[Facts]],
    facts: Facts,
    *,
    group: Callable[[Facts, list[Finding]], list[Composed]] | None = None,
    figures: bool = True,
) -> list[Composed]:
    """The problems that some checks find, the gravest first; without `figures` those are left out that
    only tell what figures say."""
    found: list[tuple[bool, Composed]] = []
    for one in checks:
        if one.declared.of_figures and not figures:
            continue
        plain, at_places = [], []
        for item in one.run(facts):
            if isinstance(item, Finding):
                at_places.append(item)
            else:
                plain.append(Composed(item))
        if at_places:
            plain += (
                group(facts, at_places)
                if group is not None
                else [Composed(f.problem, (f,)) for f in at_places]
            )
        found += [(one.declared.told_first, told) for told in plain]
    found.sort(
        key=lambda row: (-RANK[row[1].problem.state], not row[0], -len(row[1].problem.outlets))
    )
    return [told for _, told in found]
