"""How much of the code are its tests: lines of Python and TypeScript that people wrote."""

from __future__ import annotations

from pathlib import Path

ROOT = Path(__file__).parents[1]
MADE = ("schema.d.ts",)
TESTS = ("tests", "web/tests")
CODE = ("src", "tools", "benchmarks", "docs", "web/src")


def _lines(*tops: str) -> int:
    return sum(
        len(path.read_text("utf-8").splitlines())
        for top in tops
        for path in (ROOT / top).rglob("*")
        if path.suffix in (".py", ".ts", ".tsx") and path.name not in MADE
    )


def lines() -> tuple[int, int]:
    """Lines of tests and of all else."""
    return _lines(*TESTS), _lines(*CODE)
