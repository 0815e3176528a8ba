"""`make mutants`: change a hundred places of the numeric modules, one at a time, and see which the tests notice.

The places are drawn by a fixed seed and by what stands there, so that a change of the source moves few of them. Which tests run for a place is
read from a run of the whole core under coverage, kept in `.mutants/` for as long as neither source nor tests change.
A change that cannot make a difference is listed in EQUAL by hand, with its reason, and does not count.
"""

from __future__ import annotations

import argparse
import ast
import copy
import hashlib
import json
import os
import signal
import subprocess
import sys
from collections import Counter
from collections.abc import Iterator, Mapping
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parents[1]
SRC = ROOT / "src"
KEPT = ROOT / ".mutants"
NUMERIC = (
    "core/physics",
    "core/network",
    "core/units/figures.py",
    "core/units/angles.py",
    "core/units/quantities.py",
    "core/stations/coax",
    "core/stations/sky",
    "core/stations/aim",
    "core/stations/mast",
    "core/stations/earth",
    "core/practice",
)
TESTS = ("tests/core", "tests/reference")
SEED = 24
COUNT = 100
WANTED = 80  # per cent
MOST_TESTS = 150
PATIENCE_S = 120

# What changes nothing that anybody could notice: module, line of the source as it stands, change, and why.
EQUAL: dict[tuple[str, str, str], str] = {
    ("core/stations/aim/answer.py", "away = (azimuth_deg - corner + 180) % 360 - 180", "Add to Sub"):
        "half a turn added or taken away is the same turn",
    ("core/network/scattering.py", "solve = _dense if 2 * count <= DENSE else _sparse", "Mult to Div"):
        "which of two solvers is quicker; both find the same",
}  # fmt: skip


@dataclass(frozen=True)
class Place:
    """A change of one node of a module's syntax tree: the n-th place of the module."""

    module: str
    n: int
    line: int
    source: str
    change: str
    table: bool

    @property
    def key(self) -> tuple[str, str, str]:
        """What names it in EQUAL."""
        return self.module, self.source, self.change


SWAPS: dict[type[ast.AST], type[ast.AST]] = {
    ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult, ast.Lt: ast.GtE,
    ast.LtE: ast.Gt, ast.Gt: ast.LtE, ast.GtE: ast.Lt, ast.And: ast.Or, ast.Or: ast.And,
}  # fmt: skip
NAMES = {
    "min": "max",
    "max": "min",
    "minimum": "maximum",
    "maximum": "minimum",
    "sin": "cos",
    "cos": "sin",
    "radians": "degrees",
    "degrees": "radians",
    "log10": "log2",
    "any": "all",
    "all": "any",
}


def _is_sum_of_texts(node: ast.BinOp) -> bool:
    return isinstance(node.op, ast.Add) and any(
        isinstance(side, ast.JoinedStr | ast.Tuple | ast.List)
        or (isinstance(side, ast.Constant) and isinstance(side.value, str))
        for side in (node.left, node.right)
    )


def _ways(node: ast.AST) -> Iterator[tuple[str, str]]:
    """How a node can be changed: in words, and the part of it that changes."""
    if isinstance(node, ast.BinOp) and type(node.op) in SWAPS and not _is_sum_of_texts(node):
        yield f"{type(node.op).__name__} to {SWAPS[type(node.op)].__name__}", "op"
    elif isinstance(node, ast.Compare) and len(node.ops) == 1 and type(node.ops[0]) in SWAPS:
        yield f"{type(node.ops[0]).__name__} to {SWAPS[type(node.ops[0])].__name__}", "ops"
    elif isinstance(node, ast.BoolOp):
        yield f"{type(node.op).__name__} to {SWAPS[type(node.op)].__name__}", "op"
    elif isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.USub):
        yield "minus left out", "operand"
    elif (
        isinstance(node, ast.Constant)
        and type(node.value) in (int, float)
        and node.value not in (0, 1)
    ):
        yield f"{node.value!r} to {_other(node.value)!r}", "value"
    elif isinstance(node, ast.Name) and node.id in NAMES:
        yield f"{node.id} to {NAMES[node.id]}", "id"
    elif isinstance(node, ast.Attribute) and node.attr in NAMES:
        yield f"{node.attr} to {NAMES[node.attr]}", "attr"


def _other(value: float) -> float:
    return value + 1 if isinstance(value, int) else value * 1.3 + 0.1


def _functions(tree: ast.Module) -> Iterator[ast.AST]:
    """What is computed: bodies of functions and constants of modules, no docstrings and no types."""
    for node in tree.body:
        if isinstance(node, ast.FunctionDef):
            yield from node.body
        elif isinstance(node, ast.ClassDef):
            for inner in node.body:
                if isinstance(inner, ast.FunctionDef):
                    yield from inner.body
        elif isinstance(node, ast.Assign) and not isinstance(node.value, ast.Constant | ast.Dict):
            yield node.value


def _nodes(tree: ast.Module) -> list[tuple[ast.AST, str, str]]:
    """Every node that can be changed, with its change in words and its part, in the order of the source."""
    found: list[tuple[ast.AST, str, str]] = []
    for root in _functions(tree):
        for node in ast.walk(root):
            found += [(node, words, part) for words, part in _ways(node)]
    return sorted(found, key=lambda f: (f[0].lineno, f[0].col_offset, f[1]))  # type: ignore[attr-defined]


def places() -> list[Place]:
    """Every place of the numeric modules."""
    found = []
    for path in sorted(SRC.rglob("*.py")):
        module = str(path.relative_to(SRC / "evtro"))
        if not module.startswith(NUMERIC):
            continue
        text = path.read_text("utf-8")
        lines = text.splitlines()
        tree = ast.parse(text)
        outside = {id(n) for top in tree.body if isinstance(top, ast.Assign) for n in ast.walk(top)}
        for n, (node, words, _) in enumerate(_nodes(tree)):
            line: int = node.lineno  # type: ignore[attr-defined]
            found.append(
                Place(module, n, line, lines[line - 1].strip(), words, id(node) in outside)
            )
    return found


def changed(place: Place) -> str:
    """The source of a module with one place changed."""
    tree = ast.parse((SRC / "evtro" / place.module).read_text("utf-8"))
    node, _, part = _nodes(tree)[place.n]
    old = getattr(node, part)
    if part == "ops":
        node.ops = [SWAPS[type(old[0])]()]  # type: ignore[attr-defined]
    elif part == "op":
        setattr(node, part, SWAPS[type(old)]())
    elif part == "operand":
        node.op = ast.UAdd()  # type: ignore[attr-defined]
    elif part == "value":
        node.value = _other(old)  # type: ignore[attr-defined]
    else:
        setattr(node, part, NAMES[old])
    return ast.unparse(ast.fix_missing_locations(copy.deepcopy(tree)))


def _state() -> str:
    """What the map of tests holds for: the sources of the core and its tests."""
    found = hashlib.sha256()
    for top in (SRC / "evtro/core", *(ROOT / t for t in TESTS)):
        for path in sorted(top.rglob("*.py")):
            found.update(path.read_bytes())
    return found.hexdigest()[:16]


def covering() -> dict[str, list[str]]:
    """The tests that run each line, by `module:line`; those that look closest first."""
    kept = KEPT / f"covering-{_state()}.json"
    if kept.exists():
        known: dict[str, list[str]] = json.loads(kept.read_text("utf-8"))
        return known
    KEPT.mkdir(exist_ok=True)
    data = KEPT / "coverage.data"
    run = [
        sys.executable,
        "-m",
        "pytest",
        "-n",
        "2",
        "--dist",
        "worksteal",
        "-q",
        "--no-header",
        "-p",
        "no:cacheprovider",
        "--cov=evtro.core",
        "--cov-context=test",
        "--cov-report=",
        "-m",
        "not long",
        *TESTS,
    ]
    done = subprocess.run(
        run,
        cwd=ROOT,
        capture_output=True,
        text=True,
        env={**os.environ, "COVERAGE_FILE": str(data)},
    )
    if done.returncode:
        raise SystemExit(f"the tests fail before anything is changed:\n{done.stdout[-3000:]}")
    import coverage

    measured = coverage.CoverageData(str(data))
    measured.read()
    lines: dict[str, dict[int, set[str]]] = {}
    ran: Counter[str] = Counter()
    for file in measured.measured_files():
        module = str(Path(file).relative_to(SRC / "evtro"))
        lines[module] = {
            n: {c.partition("|")[0] for c in contexts if c}
            for n, contexts in measured.contexts_by_lineno(file).items()
        }
        for tests in lines[module].values():
            ran.update(tests)
    found: dict[str, list[str]] = {}
    for module, by_line in lines.items():
        # What stands outside of functions runs before any test: all that use the module may notice it, and
        # those first that name it.
        of_module = _in_turn(set().union(*by_line.values()), ran)
        table = [*_naming(module), *of_module[:MOST_TESTS]]
        for line_no, tests in by_line.items():
            found[f"{module}:{line_no}"] = _in_turn(tests, ran)[:MOST_TESTS] if tests else table
    for old in KEPT.glob("covering-*.json"):
        old.unlink()
    kept.write_text(json.dumps(found), "utf-8")
    return found


def _naming(module: str) -> list[str]:
    """The files of tests that import a module by its name."""
    name = "evtro." + module.removesuffix(".py").replace("/", ".")
    files = (f for top in TESTS for f in sorted((ROOT / top).rglob("test_*.py")))
    return [
        str(f.relative_to(ROOT)) for f in files if f"from {name} import" in f.read_text("utf-8")
    ]


def _in_turn(tests: set[str], ran: Mapping[str, int]) -> list[str]:
    """A case of every test before the second of any; those first that run the fewest lines: they look closest."""
    cases: Counter[str] = Counter()
    turns = []
    for test in sorted(tests, key=lambda t: (ran[t], t)):
        name = test.partition("[")[0]
        turns.append((cases[name], ran[test], test))
        cases[name] += 1
    return [test for *_, test in sorted(turns)]


# Run in a process of its own: the changed module takes the place of the one on the disk.
RUN = """
import importlib.abc, importlib.machinery, importlib.util, sys
name, path, source, *tests = sys.argv[1:]
class Changed(importlib.abc.MetaPathFinder, importlib.abc.SourceLoader):
    def find_spec(self, found, *_):
        if found == name:
            packaged = path.endswith('__init__.py')
            return importlib.util.spec_from_loader(name, self, origin=path, is_package=packaged)
    def get_filename(self, _): return path
    def get_data(self, _): return open(source, 'rb').read()
sys.meta_path.insert(0, Changed())
sys.dont_write_bytecode = True
import pytest
sys.exit(pytest.main(['-x', '-q', '-p', 'no:cacheprovider', '-p', 'no:xdist', '--no-header', *tests]))
"""


def killed(place: Place, tests: list[str]) -> bool:
    """Whether any of the tests fails, or does not end, with the place changed."""
    path = SRC / "evtro" / place.module
    name = "evtro." + place.module.removesuffix(".py").removesuffix("/__init__").replace("/", ".")
    source = KEPT / f"changed-{place.module.replace('/', '-')}-{place.n}.py"
    source.write_text(changed(place), "utf-8")
    with subprocess.Popen(
        [sys.executable, "-c", RUN, name, str(path), str(source), *tests],
        cwd=ROOT,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        start_new_session=True,
    ) as process:
        try:
            return process.wait(PATIENCE_S) != 0
        except subprocess.TimeoutExpired:
            os.killpg(process.pid, signal.SIGKILL)
            return True
        finally:
            source.unlink()


def _drawn(every: list[Place], seed: int) -> list[Place]:
    """All places, shuffled by the seed and by what each of them is."""
    seen: Counter[tuple[str, str, str]] = Counter()
    lots = []
    for place in every:
        seen[place.key] += 1
        text = repr((seed, *place.key, seen[place.key]))
        lots.append((hashlib.sha256(text.encode()).hexdigest(), place))
    return [place for _, place in sorted(lots, key=lambda lot: lot[0])]


def main() -> int:
    """Print a line for each place, and the share that was killed."""
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("--count", type=int, default=COUNT)
    asked.add_argument("--seed", type=int, default=SEED)
    given = asked.parse_args()
    tests = covering()
    every = places()
    drawn = [p for p in _drawn(every, given.seed)[: given.count] if p.key not in EQUAL]

    def judge(place: Place) -> tuple[Place, str]:
        # The later lines of a table are not counted as run, only its first.
        lines = range(place.line, 0, -1) if place.table else [place.line]
        mine = next((t for n in lines if (t := tests.get(f"{place.module}:{n}"))), [])
        return place, "no test" if not mine else "killed" if killed(place, mine) else "SURVIVES"

    count = 0
    with ThreadPoolExecutor(2) as pool:
        for place, what in pool.map(judge, drawn):
            count += what == "killed"
            print(
                f"{what:<9} {place.module}:{place.line} {place.change}: {place.source[:90]}",
                flush=True,
            )
    share = 100 * count / len(drawn)
    print(
        f"{count} of {len(drawn)} killed, {share:.0f} % (at least {WANTED} %); {len(every)} places in all"
    )
    return 0 if share >= WANTED else 1


if __name__ == "__main__":
    sys.exit(main())
