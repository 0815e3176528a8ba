"""Generators of changes: each is one decorated function that declares which problems it may cure."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from importlib import import_module
from pkgutil import iter_modules
from types import MappingProxyType, ModuleType
from typing import Any, TypeVar

from .engine import CandidateChange

Generator = Callable[[Any], Iterable[CandidateChange]]
Run = TypeVar("Run", bound=Generator)

_CURES = "cures_codes"


def may_cure(*codes: str) -> Callable[[Run], Run]:
    """Declare a function as a generator for problems of some codes. It stays the function that it was."""

    def mark(function: Run) -> Run:
        setattr(function, _CURES, codes)
        return function

    return mark


def generators_of(package: ModuleType) -> Mapping[str, tuple[Generator, ...]]:
    """The generators in the modules of a package, by the code of the problem."""
    found: dict[str, tuple[Generator, ...]] = {}
    for module in sorted(iter_modules(package.__path__), key=lambda m: m.name):
        here = import_module(f"{package.__name__}.{module.name}")
        for function in vars(here).values():
            if getattr(function, "__module__", None) == here.__name__:
                for code in getattr(function, "__dict__", {}).get(_CURES, ()):
                    found[code] = (*found.get(code, ()), function)
    return MappingProxyType(found)
