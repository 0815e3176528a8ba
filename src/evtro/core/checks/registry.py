"""A check is one decorated function: it yields problems and declares what it tells and what it reads."""

from __future__ import annotations

import inspect
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from importlib import import_module
from pkgutil import iter_modules
from types import ModuleType
from typing import Any, Generic, TypeVar

from ..job.problems import Problem

Facts = TypeVar("Facts")
Run = TypeVar("Run", bound=Callable[..., Iterable[Any]])

_DECLARED = "declared_check"


@dataclass(frozen=True)
class Finding:
    """A problem at one place that may have one cause with those of other places; `by` says how far
    outside its limit the figure lies [in its unit]."""

    problem: Problem
    by: float = 0.0


@dataclass(frozen=True)
class Declared:
    """What a check says of itself: its station, the codes of its problems, the facts that it reads.
    A check that is `told_first` explains others of its state; one that is `of_figures` tells what
    figures say already, which are compared by themselves."""

    station: str
    codes: tuple[str, ...]
    needs: tuple[str, ...]
    told_first: bool = False
    of_figures: bool = False


@dataclass(frozen=True)
class Check(Generic[Facts]):
    """A check as it was found: its name, what it declares, and the function that runs it."""

    name: str
    declared: Declared
    run: Callable[[Facts], Iterable[Problem | Finding]]


def check(
    station: str,
    *,
    codes: tuple[str, ...],
    needs: tuple[str, ...],
    told_first: bool = False,
    of_figures: bool = False,
) -> Callable[[Run], Run]:
    """Declare a function as a check. It stays the function that it was."""
    declared = Declared(station, codes, needs, told_first=told_first, of_figures=of_figures)

    def mark(function: Run) -> Run:
        setattr(function, _DECLARED, declared)
        return function

    return mark


def checks_of(package: ModuleType) -> tuple[Check[Any], ...]:
    """The checks in the modules of a package, in the order of module names and lines. Raises
    ValueError where two checks tell problems of one code."""
    found = []
    for module in sorted(iter_modules(package.__path__), key=lambda m: m.name):
        here = import_module(f"{package.__name__}.{module.name}")
        own = [
            Check(name, function.__dict__[_DECLARED], function)
            for name, function in vars(here).items()
            if _DECLARED in getattr(function, "__dict__", {})
            and function.__module__ == here.__name__
        ]
        found += sorted(own, key=lambda c: inspect.getsourcelines(c.run)[1])
    codes = [code for one in found for code in one.declared.codes]
    twice = {code for code in codes if codes.count(code) > 1}
    if twice:
        raise ValueError(f"told by two checks: {', '.join(sorted(twice))}")
    return tuple(found)
