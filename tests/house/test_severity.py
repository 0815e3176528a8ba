"""One order of states: nothing but `units/severity` says which is worse; the client receives it as data."""

from __future__ import annotations

import re
from pathlib import Path

from evtro.core.units.quantities import unit_table
from evtro.core.units.severity import BY_SEVERITY, RANK, STATES, WORDS, worst

ROOT = Path(__file__).parents[2]
ORDER = re.compile(
    r"""["']?\b(?:ok|marginal|unknown|fail)\b["']?\s*:\s*-?\d"""
    r"""|\[\s*(?:["'](?:ok|marginal|unknown|fail)["'],?\s*){3,}\]"""
)
HERE = {"src/evtro/core/units/severity.py"}


def test_no_other_module_orders_states() -> None:
    sources = [*(ROOT / "src/evtro").rglob("*.py"), *(ROOT / "web/src").rglob("*.ts*")]
    assert len(sources) > 400
    found = {
        f"{path.relative_to(ROOT)}: {m.group(0)}"
        for path in sources
        if path.name != "schema.d.ts" and str(path.relative_to(ROOT)) not in HERE
        for m in ORDER.finditer(path.read_text())
    }
    assert not found
    # The pattern finds what it is there to find.
    assert ORDER.search("{ fail: 0, unknown: 1 }")
    assert ORDER.search('["ok", "marginal", "fail"]')


def test_the_order_is_fail_unknown_marginal_ok() -> None:
    assert BY_SEVERITY == ("fail", "unknown", "marginal", "ok")
    assert worst(["ok", "marginal", "unknown"]) == "unknown"
    assert worst(["unknown", "fail", "ok"]) == "fail"
    assert worst([], "ok") == "ok"
    assert [RANK[state] for state in STATES] == [0, 1, 2, 3]
    assert unit_table()["states"] == [[state, WORDS[state]] for state in BY_SEVERITY]
