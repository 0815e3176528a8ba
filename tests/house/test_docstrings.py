"""Public functions of the core that return a physical quantity give its unit in brackets."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

CORE = Path(__file__).parents[2] / "src/evtro/core"
QUANTITY = re.compile(r"(float|Floats)( \| None)?|tuple\[(float|Floats)(, (float|Floats))*\]")
UNIT = re.compile(r"\[[^\]\n]+\]")
LEAST = 0.9


def _functions() -> Iterator[tuple[str, str]]:
    """Public functions of modules and classes that return a quantity, with their docstrings."""
    for path in sorted(CORE.rglob("*.py")):
        tree = ast.parse(path.read_text())
        protocols = {
            id(c)
            for c in ast.walk(tree)
            if isinstance(c, ast.ClassDef) and any("Protocol" in ast.unparse(b) for b in c.bases)
        }
        holders = [tree, *(c for c in ast.walk(tree) if isinstance(c, ast.ClassDef))]
        for holder in holders:
            for node in holder.body:
                if (
                    isinstance(node, ast.FunctionDef)
                    and not node.name.startswith("_")
                    and node.returns is not None
                    and QUANTITY.fullmatch(ast.unparse(node.returns))
                    and id(holder) not in protocols
                ):
                    name = f"{path.relative_to(CORE)}:{node.lineno} {node.name}"
                    yield name, ast.get_docstring(node) or ""


def test_quantities_have_units() -> None:
    found = list(_functions())
    without = [name for name, text in found if not UNIT.search(text)]
    assert len(found) > 100
    assert len(without) <= (1 - LEAST) * len(found), without
