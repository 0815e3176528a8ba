"""`make prove`: kills, random calls, many hands, a full disk, bombs; prints a table and fails on a miss."""

from __future__ import annotations

import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

from tests.service.test_bombs import BOMBS, RUN

from . import disk, fuzz, hands, kills

Line = tuple[str, str, str, bool]


def _kills(folder: Path) -> Iterator[Line]:
    found = kills.on_the_program(folder / "program", 60)
    yield (
        f"{found.kills} kills of the program, {found.acknowledged} edits acknowledged",
        "none lost, whole",
        f"{found.lost} lost, {found.broken} broken",
        not found.lost and not found.broken,
    )
    for kind, one in kills.on_the_store(folder / "store", 48).items():
        yield (
            f"{one.kills} kills of the store during {kind}, {one.acknowledged} acknowledged",
            "none lost, whole",
            f"{one.lost} lost, {one.broken} broken",
            not one.lost and not one.broken,
        )


def _fuzz(folder: Path) -> Iterator[Line]:
    found = fuzz.fuzz(folder / "fuzz", 100_000, memory=True)
    for fault in found.faults[:10]:
        print("  fault:", fault)
    yield (
        f"{found.calls} random calls, {found.kinds}",
        "no fault",
        f"{len(found.faults)} faults",
        not found.faults,
    )
    yield "  the longest answer", "2 s", f"{found.longest_s:.2f} s", found.longest_s <= 2
    grown = found.last_mb / found.first_mb - 1
    yield (
        "  memory, before and after",
        "+20 %",
        f"{found.first_mb:.0f} to {found.last_mb:.0f} MB ({grown:+.0%})",
        grown <= 0.2,
    )


def _hands(folder: Path) -> Iterator[Line]:
    found = hands.edit_together(folder / "hands", 1, seconds=60)
    yield (
        f"20 editors for 60 s, {found.edits} edits",
        "20 a second",
        f"{found.a_second:.1f} a second",
        found.a_second >= 20,
    )
    yield "  the longest without progress", "3 s", f"{found.longest_s:.2f} s", found.longest_s <= 3
    yield "  edits lost", "0", str(found.lost), not found.lost


def _crews(folder: Path) -> Iterator[Line]:
    found = hands.crews(folder / "crews", 40)
    yield (
        "16 crews on jobs of their own, each edit with two pages",
        "",
        f"{found.a_second:.1f} edits a second, wait p95 {found.p95_s * 1000:.0f} ms",
        True,
    )
    yield (
        "  as crews at 20 edits an hour, at a quarter of that",
        "",
        f"{found.a_second * 3600 / 20 / 4:.0f} crews",
        True,
    )


def _disk(folder: Path) -> Iterator[Line]:
    found = disk.fill_up(folder / "disk", 200)
    good = found.whole and found.refused > 0 and found.odd == "none" and found.kept == 200
    yield (
        "a disk full in the middle of 200 edits",
        "refused in words, goes on",
        f"{found.refused} refused, the last kept is {found.kept}, whole: {found.whole}",
        good,
    )


def _bombs(folder: Path) -> Iterator[Line]:
    for name, (reader, make, word) in BOMBS.items():
        file = folder / ("bomb.tif" if name == "tile" else "bomb")
        file.write_bytes(make())
        done = subprocess.run(
            [sys.executable, "-c", RUN.format(reader=reader), str(file)],
            capture_output=True,
            text=True,
        )
        said, took, memory = done.stdout.split()
        yield (
            f"bomb: {name}, {file.stat().st_size / 1e6:.1f} MB",
            f"{word}, 2 s, 300 MB",
            f"{said}, {float(took):.2f} s, {float(memory):.0f} MB",
            said == word and float(took) <= 2 and float(memory) <= 300,
        )


def main() -> int:
    """Run all, or those whose names are given."""
    parts = {
        "bombs": _bombs,
        "disk": _disk,
        "hands": _hands,
        "crews": _crews,
        "kills": _kills,
        "fuzz": _fuzz,
    }
    missed = 0
    with tempfile.TemporaryDirectory(prefix="evtro-hammer-") as folder:
        for name in sys.argv[1:] or parts:
            start = time.monotonic()
            for what, wanted, got, good in parts[name](Path(folder)):
                missed += not good
                print(f"{'ok  ' if good else 'MISS'} {what:<70} {wanted:<28} {got}", flush=True)
            print(f"     {name}: {time.monotonic() - start:.0f} s", flush=True)
    return 1 if missed else 0


if __name__ == "__main__":
    sys.exit(main())
