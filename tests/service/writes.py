"""Changes in the short writing that tests use: a method and the place of a row, such as
`PATCH /outlets/o1`, said as the change that the service takes."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

from fastapi.testclient import TestClient

from evtro.core.job import Job
from evtro.core.job.registry import registry

KNOWN = registry(Job)
SINGLES = {k.field for k in KNOWN.singles}
LISTS = {k.field for k in KNOWN.lists}
OF_ANTENNA = {"samples", "feed_tries", "locks", "feeds", "presets", "trial_spots"}
RENAMED = {
    "targets": {"orbit": "orbit_deg_e"},
    "carriers": {"frequency": "frequency_mhz", "bandwidth": "bandwidth_mhz"},
    "stops": {"position": "position_text"},
    "locks": {"frequency": "frequency_mhz"},
}
_AT = re.compile(r"^(/api/jobs/[a-z0-9-]+)(/.*)?$")

Change = dict[str, Any]


def change_of(
    method: str, path: str, body: Any, job: Callable[[], dict[str, Any]]
) -> Change | None:
    """The change that a short writing stands for; none for a call that is one of its own."""
    parts = path.strip("/").split("/") if path.strip("/") else []
    values = body if isinstance(body, dict) else {}
    if method == "PATCH" and not parts:
        return {"verb": "set", "rows": "job", "values": values}
    if method == "PATCH" and len(parts) == 1 and parts[0] in SINGLES:
        return {"verb": "set", "rows": parts[0], "values": values}
    action = _action(parts, values)
    if action is not None:
        return action
    if len(parts) == 2 and parts[0] in LISTS and method in ("PATCH", "DELETE"):
        return _row(method, parts[0], row=parts[1], values=values)
    if method == "PUT" and parts[:1] == ["readings"]:
        return _meter("readings", {"part": parts[1], "carrier": parts[2]}, values, job())
    if method == "PUT" and len(parts) == 4 and parts[2] == "trial_readings":
        return _meter("trial_readings", {"spot": parts[1], "carrier": parts[3]}, values, job())
    if method == "POST":
        return _added(parts, values)
    return None


# What is done to an antenna, a spot or a stop as a whole: by the last word of its place.
ACTIONS = {
    "model": ("model", "array"), "front": ("front", "array"), "second": ("second", "array"),
    "take": ("stand", "spot"), "zero": ("learn-scale", "dish"), "here": ("arrive", "stop"),
    "compass": ("learn-compass", "dish"),
}  # fmt: skip


def _action(parts: list[str], values: dict[str, Any]) -> Change | None:
    if len(parts) == 2 and parts[0] == "steps":
        return {"verb": "tick", "step": parts[1], **values}
    if len(parts) == 3 and parts[2] in ACTIONS:
        verb, named = ACTIONS[parts[2]]
        return {"verb": verb, named: parts[1], **values}
    if len(parts) == 4 and parts[2] == "samples":
        axis, _, feed = parts[3].partition("?feed=")
        return {"verb": "anew", "dish": parts[1], "axis": axis, "target": feed}
    return None


def _row(method: str, rows: str, *, row: str, values: dict[str, Any]) -> Change:
    if method == "DELETE":
        return {"verb": "remove", "rows": rows, "id": row}
    values = _named(rows, values)
    if rows == "parts" and values.get("type"):
        rest = {k: v for k, v in values.items() if k != "type"}
        several: list[Change] = [{"verb": "replace", "part": row, "type": values["type"]}]
        if rest:
            several.append({"verb": "set", "rows": rows, "id": row, "values": rest})
        return {"verb": "several", "words": "change part", "changes": several}
    return {"verb": "set", "rows": rows, "id": row, "values": values}


def _named(rows: str, values: dict[str, Any]) -> dict[str, Any]:
    names = RENAMED.get(rows, {})
    return {names.get(k, k): v for k, v in values.items() if not (k in names and v == "")}


def _added(parts: list[str], values: dict[str, Any]) -> Change | None:
    if parts == ["sources"]:
        return {"verb": "insert", **values}
    if parts == ["beams", "typed"]:
        parts = ["beams"]
    if len(parts) == 3 and parts[0] == "parts" and parts[2] == "after":
        return {"verb": "insert", "after": parts[1], **values}
    if len(parts) == 3 and parts[0] == "parts" and parts[2] == "join":
        return {"verb": "join", "part": parts[1], **values}
    if len(parts) == 3 and parts[0] == "antennas" and parts[2] in OF_ANTENNA:
        values = {"antenna": parts[1], **_named(parts[2], values)}
        return {"verb": "add", "rows": parts[2], "values": values}
    if len(parts) == 3 and parts[0] == "outlets" and parts[2] == "scans":
        return {"verb": "add", "rows": "scans", "values": {"outlet": parts[1], **values}}
    if len(parts) == 1 and parts[0] in LISTS and parts[0] != "beams":
        return {"verb": "add", "rows": parts[0], "values": _named(parts[0], values)}
    if parts == ["beams"] and values:
        return {"verb": "add", "rows": "beams", "values": values}
    return None


def _meter(
    rows: str, at: dict[str, str], values: dict[str, Any], job: dict[str, Any]
) -> Change | None:
    old = next((r for r in job[rows] if all(r[k] == v for k, v in at.items())), None)
    said = {"level_dbuv": None, "cn_db": None, **(old or {}), **values}
    if old and said["level_dbuv"] is None and said["cn_db"] is None:
        return {"verb": "remove", "rows": rows, "id": old["id"]}
    if old:
        return {"verb": "set", "rows": rows, "id": old["id"], "values": values}
    return {"verb": "add", "rows": rows, "values": {**at, **values}}


class Client(TestClient):
    """A client that says short writings as changes."""

    def request(self, method: str, url: Any, **more: Any) -> Any:  # type: ignore[override]
        at = _AT.match(str(url))
        if (
            at is not None
            and method in ("PATCH", "PUT", "POST", "DELETE")
            and more.get("content") is None
        ):
            base, path = at.group(1), at.group(2) or ""
            if base not in ("/api/jobs/import", "/api/jobs/quick"):
                change = change_of(
                    method, path, more.get("json"),
                    lambda: super(Client, self).request("GET", base).json()["job"],
                )  # fmt: skip
                if change is not None:
                    more["json"] = change
                    return super().request("POST", f"{base}/changes", **more)
        return super().request(method, url, **more)
