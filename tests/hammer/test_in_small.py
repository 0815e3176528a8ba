"""`make prove` in small: what its table says in full is held by each run of the tests."""

from __future__ import annotations

from pathlib import Path

from . import disk, fuzz, hands, kills


def test_kills_of_the_program(tmp_path: Path) -> None:
    found = kills.on_the_program(tmp_path, 2)
    assert found.kills == 2
    assert found.acknowledged >= 8
    assert (found.lost, found.broken) == (0, 0)


def test_kills_of_the_store(tmp_path: Path) -> None:
    for kind, found in kills.on_the_store(tmp_path, 3).items():
        assert found.kills == 3, kind
        assert (found.lost, found.broken) == (0, 0), kind


def test_random_calls(tmp_path: Path) -> None:
    found = fuzz.fuzz(tmp_path, 600)
    assert found.calls > 510
    assert not found.faults, found.faults[:5]
    assert found.kinds.get(2, 0) > 30  # enough of them get through to the core


def test_twenty_editors_lose_nothing(tmp_path: Path) -> None:
    found = hands.edit_together(tmp_path, 2)
    assert (found.edits, found.fewest, found.lost) == (40, 2, 0)


def test_a_disk_that_fills_up(tmp_path: Path) -> None:
    found = disk.fill_up(tmp_path, 40)
    assert found.refused > 0
    assert found.odd == "none"
    assert found.kept == 40
    assert found.whole
