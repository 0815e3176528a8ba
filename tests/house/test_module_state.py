"""The core has no memory of its own: what is remembered between two calls is passed in.

Functions that are remembered by their arguments (`lru_cache`) give the same with and without; those that
stand here wait for a place in the memo that is passed in. The list may only get shorter.
"""

from __future__ import annotations

import ast
from pathlib import Path

CORE = Path(__file__).parents[2] / "src/evtro/core"
REMEMBERED = {
    "job/measured.py": 1,
    "job/registry.py": 1,
    "job/targets.py": 2,
    "memo.py": 1,
    "physics/geodesy.py": 1,
    "physics/magnetism.py": 2,
    "stations/aim/array/terminals.py": 1,
    "stations/aim/dish/polar.py": 2,
    "stations/aim/dishes.py": 2,
    "stations/aim/multifeed.py": 2,
    "stations/coax/levels/outlets.py": 1,
    "stations/coax/sources/source_levels.py": 1,
    "stations/site/grids.py": 1,
    "stations/site/skyline.py": 2,
    "stations/sky/answer.py": 1,
    "stations/sky/dish_size.py": 1,
    "stations/sky/incident.py": 2,
    "stations/sky/path.py": 1,
}
# The last networks and pictures, which incremental solving starts from: to be handed in as well.
KEPT = {
    "network/incremental.py: _kept",
    "network/incremental.py: _solved",
    "stations/coax/views/layout.py: _kept",
}
MUTABLE = (ast.Dict, ast.List, ast.Set, ast.DictComp, ast.ListComp, ast.SetComp)


def _modules() -> list[tuple[str, ast.Module]]:
    paths = sorted(CORE.rglob("*.py"))
    return [(str(p.relative_to(CORE)), ast.parse(p.read_text())) for p in paths]


def _changes(tree: ast.Module, name: str) -> bool:
    """Whether a function writes into a variable of the module."""
    for node in ast.walk(tree):
        if isinstance(node, ast.Global) and name in node.names:
            return True
        written = isinstance(node, ast.Subscript) and isinstance(node.ctx, ast.Store | ast.Del)
        if written and ast.unparse(node.value) == name:
            return True
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute):
            writes = node.func.attr in ("append", "add", "update", "setdefault", "pop", "clear")
            if writes and isinstance(node.func.value, ast.Name) and node.func.value.id == name:
                return True
    return False


def test_no_module_keeps_what_it_worked_out() -> None:
    found = []
    for path, tree in _modules():
        for node in tree.body:
            if not isinstance(node, ast.Assign | ast.AnnAssign) or node.value is None:
                continue
            targets = node.targets if isinstance(node, ast.Assign) else [node.target]
            made = isinstance(node.value, ast.Call) and ast.unparse(node.value.func) in (
                "Memo",
                "dict",
                "list",
                "set",
                "OrderedDict",
                "defaultdict",
                "WeakKeyDictionary",
                "WeakValueDictionary",
                "ContextVar",
            )
            for target in targets:
                name = ast.unparse(target)
                if made or (isinstance(node.value, MUTABLE) and _changes(tree, name)):
                    found.append(f"{path}: {name}")
    assert set(found) <= KEPT


def test_what_is_remembered_by_arguments_gets_less() -> None:
    found = {}
    for path, tree in _modules():
        count = sum(
            "cache" in ast.unparse(decorator) and "cached_property" not in ast.unparse(decorator)
            for node in ast.walk(tree)
            if isinstance(node, ast.FunctionDef)
            for decorator in node.decorator_list
        )
        if count:
            found[path] = count
    assert all(count <= REMEMBERED.get(path, 0) for path, count in found.items()), found
