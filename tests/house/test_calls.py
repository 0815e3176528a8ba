"""How the source is written: calls that name their arguments, modules that stay small, no generated
file in git. The arrows between rooms are held by import-linter, see pyproject.toml."""

from __future__ import annotations

import ast
import subprocess
from pathlib import Path

from tests.share import lines

ROOT = Path(__file__).parents[2]
SOURCES = sorted((ROOT / "src").rglob("*.py"))
# Modules past 400 lines that wait to be parted. The list may only get shorter.
LONG = {
    "cli.py",
    "core/day/view.py",
    "core/network/solve.py",
    "core/stations/aim/finding/peaking.py",
    "core/stations/aim/steps.py",
    "core/stations/coax/design/designer.py",
    "core/stations/coax/design/planter.py",
    "core/stations/coax/levels/outlets.py",
    "core/stations/earth/answer.py",
    "core/stations/sky/answer.py",
    "core/stations/steps.py",
    "core/units/figures.py",
    "demo/arrays.py",
    "demo/dishes.py",
    "demo/world.py",
    "service/job_service.py",
}


def test_a_call_with_more_than_four_arguments_names_them() -> None:
    found = [
        f"{path.relative_to(ROOT)}:{node.lineno} {ast.unparse(node.func)}"
        for path in SOURCES
        for node in ast.walk(ast.parse(path.read_text()))
        if isinstance(node, ast.Call)
        and len(node.args) > 4
        # One figure for each place of a sentence, one code for each problem.
        and ast.unparse(node.func) not in ("say", "may_cure")
    ]
    assert not found


def test_a_module_is_one_idea() -> None:
    long = {
        str(path.relative_to(ROOT / "src/evtro"))
        for path in SOURCES
        if len(path.read_text().splitlines()) > 400
    }
    assert long <= LONG


def test_nothing_generated_lies_in_git() -> None:
    kept = subprocess.run(["git", "ls-files"], cwd=ROOT, capture_output=True, text=True, check=True)
    made = (".coverage", "openapi.json", "schema.d.ts", ".pyc", "index-")
    assert not [f for f in kept.stdout.split() if f.endswith(made)]


def test_a_quarter_to_a_third_of_the_code_are_tests() -> None:
    tests, code = lines()
    assert 0.25 <= tests / (tests + code) <= 0.33
