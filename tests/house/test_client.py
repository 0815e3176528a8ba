"""How the client is built: imports point one way, lazy and type-only ones included, and the browser computes
nothing but the drawing."""

from __future__ import annotations

import re
from pathlib import Path

WEB = Path(__file__).parents[2] / "web/src"
SOURCES = sorted(p for p in WEB.rglob("*.ts*") if p.name != "schema.d.ts")
# What each room may import beside itself: the rooms below it.
BELOW = {
    "wire": (),
    "units": ("wire",),
    "instruments": ("units", "wire"),
    "service": ("units", "wire"),
    "parts": ("instruments", "service", "units", "wire"),
    "shell": ("parts", "instruments", "service", "units", "wire"),
    "catalogue": ("shell", "parts", "instruments", "service", "units", "wire"),
    "settings": ("shell", "parts", "service", "units", "wire"),
    "stations": ("parts", "instruments", "service", "units", "wire"),
    "do": ("stations", "parts", "instruments", "service", "units", "wire"),
    "jobs": ("shell", "parts", "instruments", "service", "units", "wire"),
    "day": ("shell", "parts", "instruments", "service", "units", "wire"),
}
STATIONS = ("site", "sky", "aim", "mast", "earth", "coax", "readings", "handover")
IMPORT = re.compile(r"""(?:from\s+|import\(\s*|^import\s+)["'](\.[^"']+)["']""", re.M)


def _imports(path: Path) -> list[Path]:
    return [(path.parent / m).resolve() for m in IMPORT.findall(path.read_text("utf-8"))]


def _room(path: Path) -> str:
    inside = path.relative_to(WEB).parts
    return inside[0] if len(inside) > 1 else "main"


def test_imports_point_down() -> None:
    found = [
        f"{path.relative_to(WEB)} -> {to.relative_to(WEB)}"
        for path in SOURCES
        for to in _imports(path)
        if _room(path) != "main" and _room(to) not in (_room(path), *BELOW[_room(path)])
    ]
    assert found == []


def test_every_room_is_known() -> None:
    assert {_room(p) for p in SOURCES} == {"main", *BELOW}


def test_a_station_uses_those_before_it_on_the_path() -> None:
    found = []
    for path in SOURCES:
        here = path.relative_to(WEB).parts
        if here[0] != "stations" or len(here) < 3:
            continue
        for to in _imports(path):
            there = to.relative_to(WEB).parts
            later = there[0] == "stations" and len(there) > 2 and there[1] in STATIONS
            if later and STATIONS.index(there[1]) > STATIONS.index(here[1]):
                found.append(f"{'/'.join(here)} -> {'/'.join(there)}")
    assert found == []


# What would be arithmetic of the trade, or knowledge that the core has. Pictures turn figures into pixels, so
# angles and powers are theirs; any other line here has its reason.
COMPUTING = {
    "trigonometry, roots and logarithms": r"Math\.(sin|cos|tan|asin|acos|atan2?|sqrt|cbrt|log\w*|exp|pow|PI)\b|\b10 \*\* ",
    "a length converted by hand": r"\b0\.3048\b|\b25\.4\b",
    "an id that is guessed": r"max\(0?,? ?\.\.\.\w*ids|\.id\.slice\(1\)\)? ?\+|Number\(\w+\.id\.slice",
    "a walk over the network": r"while \((pending|queue|stack)\b|\bconst walk = ",
    "a rule of what fits": r"\.inputs === |draws_as [!=]== \"plate\"",
    "a list of mounts": r"\"chimney\"[\s\S]{0,400}\"ballast\"",
}
DRAWING = ("instruments/", "units/")
ALLOWED = {
    ("do/Measure.tsx", "trigonometry, roots and logarithms"): "the step of a button, from its digits",
    ("stations/aim/KeepOut.tsx", "a length converted by hand"): "ticks of a scale in feet",
}  # fmt: skip


def test_the_browser_computes_nothing() -> None:
    found = {
        (str(path.relative_to(WEB)), what)
        for path in SOURCES
        if not str(path.relative_to(WEB)).startswith(DRAWING)
        for what, pattern in COMPUTING.items()
        if re.search(pattern, path.read_text("utf-8"))
    }
    assert found == set(ALLOWED)


def test_state_is_never_reset_by_an_effect() -> None:
    """An effect whose only work is to set state of its own component; keys or the rendering do that."""
    reset = re.compile(r"useEffect\(\s*\(\) => (?:void )?set[A-Z]\w*\([^;]*?\),\s*\[")
    assert [str(p.relative_to(WEB)) for p in SOURCES if reset.search(p.read_text("utf-8"))] == []


def test_tests_neither_sleep_nor_look_at_the_clock() -> None:
    tests = Path(__file__).parents[1]
    wrong = re.compile(
        r"time\.sleep\(|wait_for_timeout\(|time\.time\(|datetime\.now\(|date\.today\("
    )
    measured = re.compile(r"perf_counter\(|monotonic\(")
    found = [
        f"{path.relative_to(tests)}: {match.group()}"
        for path in sorted(tests.rglob("*.py"))
        # The large counts measure how long the longest took; they are no tests.
        if path != Path(__file__)
        for match in (
            *wrong.finditer(path.read_text("utf-8")),
            *(() if path.parent.name == "hammer" else measured.finditer(path.read_text("utf-8"))),
        )
    ]
    # What is drawn and what is in the page differ in their spaces: such a look would always be true.
    found += [
        f"{path.name}: {path.read_text('utf-8').count('not_to_have_text(before)')} looks that cannot fail"
        for path in sorted((tests / "browser").rglob("test_*.py"))
        if "not_to_have_text(before)" in path.read_text("utf-8")
    ]
    # Under load a page comes later: no look is less patient than the rest.
    hasty = re.compile(r"timeout=(?!60_000)[\d_]+\)")
    found += [
        f"{path.name}: {match.group()}"
        for path in sorted((tests / "browser").rglob("test_*.py"))
        for match in hasty.finditer(path.read_text("utf-8"))
        if "urlopen" not in path.read_text("utf-8")[: match.start()].rsplit("\n", 1)[-1]
    ]
    # A file that is too large for its reader says how long it took where `make prove` prints it.
    assert found == ["service/test_bombs.py: perf_counter("] * 2
