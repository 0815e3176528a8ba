"""Every number of the job file at its bounds, beyond them, and at plus and minus 1e308: taken and worked
out, or refused; never kept and then fatal."""

from __future__ import annotations

import json
import math
from collections.abc import Iterator
from typing import Any

import pytest

from evtro import catalogue, profiles
from evtro.core.answers import work_out
from evtro.core.units.quantities import InputError
from evtro.demo.world import demo_jobs
from evtro.formats.jobfile import read_job, schema, write_job

PARTS = catalogue.load()
# The smallest first: a figure is tried in the smallest job that has one.
DOCUMENTS = dict(
    sorted(
        ((name, json.loads(write_job(job))) for name, job in demo_jobs().items()),
        key=lambda d: len(d[1]["job"]["parts"]),
    )
)
Place = tuple[str, tuple[str, ...]]


def _numbers(
    node: dict[str, Any], path: tuple[str, ...], all_: dict[str, Any]
) -> Iterator[tuple[tuple[str, ...], dict[str, Any]]]:
    if "$ref" in node:
        yield from _numbers(all_[node["$ref"].split("/")[-1]], path, all_)
    for part in node.get("anyOf", []):
        yield from _numbers(part, path, all_)
    for i, part in enumerate(node.get("prefixItems", [])):
        yield from _numbers(part, (*path, str(i)), all_)
    if isinstance(node.get("items"), dict):
        yield from _numbers(node["items"], (*path, "*"), all_)
    for name, part in node.get("properties", {}).items():
        yield from _numbers(part, (*path, name), all_)
    if node.get("type") in ("number", "integer"):
        yield path, node


_SCHEMA = schema()
FIELDS = dict(_numbers(_SCHEMA["properties"]["job"], (), _SCHEMA["$defs"]))


def _least(rule: dict[str, Any]) -> float:
    return float(rule["minimum"] if "minimum" in rule else rule["exclusiveMinimum"])


def _most(rule: dict[str, Any]) -> float:
    return float(rule["maximum"] if "maximum" in rule else rule["exclusiveMaximum"])


def test_every_number_is_bounded() -> None:
    assert len(FIELDS) > 120
    for path, rule in FIELDS.items():
        assert math.isfinite(_least(rule)), path
        assert math.isfinite(_most(rule)), path


def _holders(document: Any, path: tuple[str, ...]) -> Iterator[tuple[Any, Any]]:
    """Where in a document a path leads: containers and keys."""
    step, rest = path[0], path[1:]
    if step == "*":
        keys: list[Any] = list(range(min(len(document), 2)))
    elif isinstance(document, list):
        keys = [int(step)] if int(step) < len(document) else []
    else:
        keys = [step] if step in document else []
    for key in keys:
        if not rest:
            yield document, key
        elif document[key] is not None:
            yield from _holders(document[key], rest)


@pytest.mark.long
@pytest.mark.parametrize("path", FIELDS, ids="/".join)
def test_a_number_at_and_beyond_its_bounds(path: tuple[str, ...]) -> None:
    rule = FIELDS[path]
    document, found = next(
        ((d, at) for d in DOCUMENTS.values() for at in _holders(d["job"], path)), (None, None)
    )
    if document is None or found is None:
        pytest.skip("no demo job has such a row")
    holder, key = found
    kept = holder[key]
    low, high = _least(rule), _most(rule)
    try:
        for value in (low, high, low - 1, high + 1, 1e308, -1e308):
            holder[key] = int(value) if rule["type"] == "integer" and abs(value) < 1e18 else value
            try:
                job = read_job(json.dumps(document).encode(), PARTS)
            except InputError:
                continue
            assert low <= value <= high
            answers = work_out(job, PARTS, profiles.load(job.profile))
            assert len(answers.stations) == 8
    finally:
        holder[key] = kept
