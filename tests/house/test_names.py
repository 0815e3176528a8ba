"""One word for one thing: no two classes of the program bear one name."""

from __future__ import annotations

import ast
from collections import Counter
from pathlib import Path

SRC = Path(__file__).parents[2] / "src/evtro"


def test_no_two_classes_of_one_name() -> None:
    names = [
        node.name
        for path in sorted(SRC.rglob("*.py"))
        for node in ast.parse(path.read_text()).body
        if isinstance(node, ast.ClassDef) and not node.name.startswith("_")
    ]
    assert {name for name, count in Counter(names).items() if count > 1} == set()
