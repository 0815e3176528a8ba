"""No sentence of the core carries a bare figure in a unit that people choose: its figures are
quantities, so that they follow the units in use on every screen and on paper."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

CORE = Path(__file__).parents[2] / "src" / "evtro" / "core"
UNIT = re.compile(
    r"^ ?(?:m|km|cm|mm|mm²|m²|m/s|N|N·m|Pa|N/m²|MPa|dBµV|dBmV|dBm|ft|metres?)(?![\w/µ²·])"
)
FIGURE = re.compile(
    r"[0-9] (?:m|km|cm|mm|mm²|m²|m/s|N·m|N/m²|MPa|dBµV|dBmV|dBm|ft|metres?)(?![\w/µ²·])"
)


def _sentences(tree: ast.AST) -> Iterator[ast.JoinedStr]:
    for node in ast.walk(tree):
        if isinstance(node, ast.JoinedStr):
            yield node


def _bare(node: ast.JoinedStr) -> bool:
    return any(
        isinstance(one, ast.FormattedValue)
        and isinstance(then, ast.Constant)
        and UNIT.match(str(then.value))
        for one, then in zip(node.values, node.values[1:], strict=False)
    )


def _docs(tree: ast.AST) -> set[int]:
    """Lines of texts that nobody is shown: descriptions of modules, classes and functions."""
    found: set[int] = set()
    for node in ast.walk(tree):
        body = getattr(node, "body", None)
        if isinstance(body, list):
            for one in body:
                if isinstance(one, ast.Expr) and isinstance(one.value, ast.Constant):
                    found |= set(range(one.lineno, (one.end_lineno or one.lineno) + 1))
    return found


def test_figures_in_sentences_are_quantities() -> None:
    found = []
    for path in sorted(CORE.rglob("*.py")):
        if path.parent.name == "units":  # where figures are turned into text
            continue
        tree = ast.parse(path.read_text("utf-8"))
        found += [f"{path.relative_to(CORE)}:{n.lineno}" for n in _sentences(tree) if _bare(n)]
        docs = _docs(tree)
        found += [
            f"{path.relative_to(CORE)}:{n.lineno} {n.value[:60]}"
            for n in ast.walk(tree)
            if isinstance(n, ast.Constant)
            and isinstance(n.value, str)
            and n.lineno not in docs
            and FIGURE.search(n.value)
        ]
    assert found == []
