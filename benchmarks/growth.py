"""How the plant grows: from a dozen elements to ten thousand, many variants, a house of 200 outlets
through the service and in the browser."""

from __future__ import annotations

import asyncio
import os
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import httpx
import numpy as np
from large import house
from playwright.sync_api import sync_playwright
from timing import PAINT, TYPING_MS, median_ms, until_it_answers

from evtro import catalogue, profiles
from evtro.core.job import Cable, Part
from evtro.core.job.parts import Catalogue
from evtro.core.network.arrays import Columns, compile_arrays
from evtro.core.network.echo import with_echoes
from evtro.core.network.excitation import excite
from evtro.core.network.graph import wire
from evtro.core.network.solve import Alteration, solve, solve_variants
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.fixes.inline import advised
from evtro.core.stations.coax.fixes.search import find_fixes
from evtro.core.stations.coax.levels.outlets import solve_job
from evtro.core.stations.coax.views.answer import work_out
from evtro.formats.jobfile import write_job
from evtro.service.app import create_app, settle

Row = tuple[str, str, str]
SMALL, LARGE = (12, 8), (200, 60)
PORT = 8795


def _tree(elements: int, columns: int) -> tuple[list[Part], list[Cable], Columns]:
    """Splitters behind splitters, a plate at every end: so many parts and cables together."""
    parts, links = [Part(id="p1", type="antenna")], []
    ends = [("p1", 0)]
    while len(parts) + len(links) < elements:
        part, port = ends.pop(0)
        new = f"p{len(parts) + 1}"
        parts.append(Part(id=new, type="splitter-4"))
        links.append(
            Cable(
                id=f"l{len(links) + 1}",
                from_part=part,
                from_port=port,
                to_part=new,
                cable="rg11",
                length_m=4,
            )
        )
        ends += [(new, o) for o in range(4)]
    level = np.full(columns, 80.0)
    return (
        parts,
        links,
        Columns(
            tuple(f"c{i + 1}" for i in range(columns)),
            np.linspace(474, 858, columns),
            np.full(columns, 7.61),
            (("p1", "out", 0),) * columns,
            {("p1", "out", 0): (level, level - 40)},
            (None,) * columns,
        ),
    )


def solver() -> list[Row]:
    """The curve of one solution, and a thousand variants."""
    parts_at_hand, rows = catalogue.load(), []
    for elements in (10, 100, 1000, 10_000):
        parts, links, columns = _tree(elements, 40)
        circuit = compile_arrays(wire(parts, links, parts_at_hand), parts_at_hand, columns)
        driven = excite(circuit)
        taken = median_ms(lambda c=circuit, d=driven: solve(c, d), 20)  # type: ignore[misc]
        each = taken * 1e6 / (elements * 40)
        rows.append(
            (f"solve {elements} elements x 40 carriers ({each:.0f} ns each)", "", f"{taken:.2f} ms")
        )
    run = solve_job(NetworkContext(house(*LARGE), parts_at_hand, profiles.load("europe"))).run
    taken = median_ms(lambda: solve(run.circuit, run.driven), 20)
    rows.append(("solve 200 outlets x 60 carriers, switches", "10 ms", f"{taken:.1f} ms"))
    taken = median_ms(lambda: solve(run.circuit, run.driven, run.distorting), 20)
    rows.append(("  the same with distortion", "", f"{taken:.1f} ms"))
    taken = median_ms(lambda: with_echoes(run.circuit, run.driven, run.found, run.matched), 20)
    rows.append(("  its echoes", "", f"{taken:.1f} ms"))
    large, limits = house(*LARGE), profiles.load("europe")
    solved = solve_job(NetworkContext(large, parts_at_hand, limits))
    bare = NetworkContext(large, parts_at_hand, limits)
    taken = median_ms(lambda: advised(bare.with_solved(solved)), 10)
    rows.append(("  powering, all checks and remedies of it", "30 ms", f"{taken:.1f} ms"))
    rows.append(_cured(parts_at_hand))
    parts, links, columns = _tree(100, 40)
    circuit = compile_arrays(wire(parts, links, parts_at_hand), parts_at_hand, columns)
    driven = excite(circuit)
    base = solve(circuit, driven)
    rng = np.random.default_rng(1)
    variants = [
        Alteration({int(e): circuit.gain_db[e] - 3})
        for e in rng.integers(0, len(circuit.edges), 1000)
    ]
    joined = set(circuit.edges[:, 0].tolist())
    at = np.array([n for n in range(len(circuit.nodes)) if n not in joined])
    taken = median_ms(
        lambda: solve_variants(circuit, driven, base=base, variants=variants, at=at), 5
    )
    rows.append(("1,000 variants of 100 elements x 40 carriers", "300 ms", f"{taken:.0f} ms"))
    return rows


def _cured(parts_at_hand: Catalogue) -> Row:
    """What cures the worst problem of a house of 96 outlets whose riser is too long."""
    job, limits = house(96, 40), profiles.load("europe")
    links = tuple(
        k.model_copy(update={"length_m": 70.0}) if k.to_part == "p8" else k for k in job.links
    )
    job = job.model_copy(update={"links": links})
    problem = next(
        p
        for p in work_out(NetworkContext(job, parts_at_hand, limits)).problems
        if p.fixable and p.ref
    )
    found = find_fixes(
        NetworkContext(job, parts_at_hand, limits), code=problem.code, ref=problem.ref or ""
    )
    taken = median_ms(
        lambda: find_fixes(
            NetworkContext(job, parts_at_hand, limits), code=problem.code, ref=problem.ref or ""
        ),
        3,
    )
    name = f"what cures a cause, 96 outlets x 40 carriers ({found.tried} changes tried)"
    return name, "500 ms", f"{taken:.0f} ms"


async def _changes(folder: Path, outlets: int, carriers: int) -> tuple[float, float, int, float]:
    """Medians of a changed cable and of a note [ms], bytes of the cable's answer, and the time of
    opening the job anew [ms]."""
    app = create_app(folder)
    settle()
    app.state.desk.jobs.add(house(outlets, carriers), "house")
    found: dict[str, list[float]] = {"links": [], "handover": []}
    shown = {"Evtro-Include": "coax,aim"}
    transport = httpx.ASGITransport(app)
    async with httpx.AsyncClient(transport=transport, base_url="http://localhost") as client:
        start = time.perf_counter()
        assert (await client.get("/api/jobs/house", headers=shown)).status_code == 200
        opened, size_b = (time.perf_counter() - start) * 1000, 0
        for i in range(60):
            longer = {"rows": "links", "id": "l8", "values": {"length_m": f"{4 + i % 7} m"}}
            note = {"rows": "handover", "values": {"remarks": f"note {i}"}}
            one, show = (longer, shown) if i < 40 else (note, {"Evtro-Include": "handover"})
            start = time.perf_counter()
            answer = await client.post(
                "/api/jobs/house/changes",
                json={"verb": "set", **one},
                headers={"If-Match": str(i), **show},
            )
            found[str(one["rows"])].append((time.perf_counter() - start) * 1000)
            assert answer.status_code == 200
            size_b = max(size_b, len(answer.content))
    app.state.desk.jobs.close()
    cable, note_ms = (statistics.median(found[k][5:]) for k in ("links", "handover"))
    return cable, note_ms, size_b, opened


def service() -> list[Row]:
    """One changed cable in a small and in a large house."""
    rows, taken = [], {}
    for size, target in ((SMALL, "15 ms"), (LARGE, "60 ms")):
        with tempfile.TemporaryDirectory() as folder:
            median, note, size_b, opened = asyncio.run(_changes(Path(folder), *size))
        taken[size] = median
        rows.append(
            (
                f"a cable changed, {size[0]} outlets x {size[1]} carriers, median",
                target,
                f"{median:.1f} ms",
            )
        )
    rows.append(("  large over small", "5", f"{taken[LARGE] / taken[SMALL]:.1f}"))
    rows.append(
        ("  a note kept in the large one, which leaves the plant alone", "", f"{note:.1f} ms")
    )
    rows.append(("  bytes of the large one's answer", "400 kB", f"{size_b / 1000:.0f} kB"))
    rows.append(
        ("  a house of 200 outlets opened for the first time", "1000 ms", f"{opened:.0f} ms")
    )
    return rows


def browser(flags: list[str]) -> list[Row]:
    """Key press to repainted figure in the large house, and the server's memory with it open."""
    with tempfile.TemporaryDirectory() as folder:
        server = subprocess.Popen(
            [sys.executable, "-m", "evtro.cli", "serve", "--port", str(PORT)],
            env={**os.environ, "EVTRO_DATA": folder},
            stdout=subprocess.DEVNULL,
        )
        with httpx.Client(base_url=f"http://127.0.0.1:{PORT}", timeout=30) as client:
            until_it_answers(client)
            made = client.post(
                "/api/jobs/import",
                content=write_job(house(*LARGE)).encode(),
                headers={"content-type": "application/json"},
            ).json()
        plate = next(p["id"] for p in made["job"]["parts"] if p["type"] == "plate")
        with sync_playwright() as play:
            chromium = play.chromium.launch(
                executable_path="/usr/bin/chromium-headless-shell", args=flags
            )
            page = chromium.new_page(viewport={"width": 1280, "height": 800})
            page.goto(f"http://127.0.0.1:{PORT}/jobs/{made['id']}/coax")
            page.get_by_role("button", name="Unfold all").click()
            page.locator(f"#network-{plate}").click()
            page.locator("[aria-label=Sheet] .font-mono").first.wait_for()
            page.wait_for_timeout(1000)
            found = page.evaluate(PAINT, [[8 + i % 23 for i in range(50)], TYPING_MS])[5:]
            chromium.close()
        text = Path(f"/proc/{server.pid}/status").read_text()
        memory = int(text.split("VmRSS:")[1].split()[0]) / 1000
        server.terminate()
        server.wait()
    high = statistics.quantiles(found, n=20)[18]
    return [
        (
            "key press to repainted figure at 200 outlets, 95th percentile",
            "150 ms",
            f"{high:.0f} ms",
        ),
        ("  median", "", f"{statistics.median(found):.0f} ms"),
        ("server memory with 200 outlets open", "250 MB", f"{memory:.0f} MB"),
    ]
