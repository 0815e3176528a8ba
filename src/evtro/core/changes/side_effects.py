"""What goes along when rows are added or changed: a typed position moves the place, a typed area
stays somebody's own, a carrier's figures have the units of its kind of sender."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from ..job import Conductor, Job, Row
from ..job.base import bounds_of
from ..job.context import JobParts
from ..job.references import missing
from ..job.registry import Kind, registry_of
from ..physics.channels import parse_frequency
from ..stations.aim.dishes import sats_on
from ..stations.readings.expected import parse_found
from ..stations.site.position import read_position
from ..stations.sky.survey import parse_orbit, parse_row
from ..units.quantities import InputError, Unit
from .lines import along_route, degrees_c
from .typed import Reader

ARRAY_AREA_M2 = 0.09  # common practice, no source
MOST_FOUND = 600
_SCALES: dict[str, Unit] = {"db": "db", "pct": "pct", "tone": "count"}

# The units in which a carrier's width and power are typed, by what sends it.
_CARRIED: dict[str, dict[str, Unit]] = {
    "transmitter": {"bandwidth_mhz": "mhz", "power": "kw"},
    "satellite": {"bandwidth_mhz": "msym", "power": "dbw"},
    "line": {"bandwidth_mhz": "mhz", "power": "db"},
}

Values = dict[str, Any]


@dataclass(frozen=True)
class At:
    """Where a habit works: the job, the row that was there, what reads typed figures, the moment."""

    job: Job
    kind: Kind
    old: Any
    reader: Reader
    now: str
    catalogue: Any

    def read(self, given: Values, **units: Unit) -> Values:
        """Typed values read by their columns."""
        return self.reader.values(self.kind, given, units)

    def of(self, given: Values, name: str) -> Any:
        """A value as it will be: given now, or as it was."""
        return given.get(name, getattr(self.old, name, None))


def side_effects(
    ctx: JobParts,
    kind: Kind,
    *,
    old: Row | None,
    given: Values,
    now: str,
    reader: Reader,
) -> Values:
    """The values of a row that is added or changed, read, with what goes along. Raises InputError."""
    at = At(ctx.job, kind, old=old, reader=reader, now=now, catalogue=ctx.catalogue)
    special = _HABITS.get(kind.field)
    values = special(at, given) if special is not None else at.read(given)
    if kind.evidence and values and "at" not in values:
        # A figure that is typed anew was read anew.
        values["at"] = now
    return values


def _site(at: At, given: Values) -> Values:
    values = at.read(given)
    if values.get("position_text"):
        place = read_position(values["position_text"])
        values["latitude_deg"], values["longitude_deg"] = place.latitude_deg, place.longitude_deg
        # What was said of the place before holds no longer.
        values.setdefault("position_good_m", None)
    elif "position_text" in values and "latitude_deg" not in values:
        values["latitude_deg"] = values["longitude_deg"] = None
    return values


def _stop(at: At, given: Values) -> Values:
    values = at.read(given)
    if values.get("position_text") and "latitude_deg" not in values:
        place = read_position(values["position_text"])
        values["latitude_deg"], values["longitude_deg"] = place.latitude_deg, place.longitude_deg
    if at.old is None and not values.get("name"):
        values["name"] = f"Stop {len(at.job.stops) + 1}"
    return values


def _target(at: At, given: Values) -> Values:
    given = dict(given)
    position, orbit = given.pop("position", None), given.get("orbit_deg_e")
    if isinstance(orbit, str) and orbit.strip():
        given["orbit_deg_e"] = parse_orbit(orbit)
    values = at.read(given)
    if position is not None:
        place = read_position(str(position))
        values["latitude_deg"], values["longitude_deg"] = place.latitude_deg, place.longitude_deg
    sent, placed = at.of(values, "kind"), at.of(values, "latitude_deg") is not None
    if at.old is None and sent == "satellite" and values.get("orbit_deg_e") is None:
        parse_orbit("")  # says what is missing
    if at.old is None and sent == "transmitter" and not placed:
        read_position("")
    return values


def _carrier(at: At, given: Values) -> Values:
    target = next((t for t in at.job.targets if t.id == at.of(given, "target")), None)
    if target is None:
        raise missing(registry_of(at.job).kind("targets"), str(at.of(given, "target")))
    # A row that is there has its figures read plain; a difference of a line is in dB in any case.
    told = at.old is None or target.kind == "line"
    units: dict[str, Unit] = _CARRIED[target.kind] if told else {}
    given = dict(given)
    if isinstance(given.get("frequency_mhz"), str):
        given["frequency_mhz"] = _frequency(at, given["frequency_mhz"])
    return at.read(given, **units)


def _frequency(at: At, text: str) -> float:
    column = at.kind.column("frequency_mhz")
    assert column is not None
    least, most = bounds_of(list(column.rules))
    channels = at.reader.profile.channels
    try:
        found = parse_frequency(re.sub(r"\s+", " ", text), channels, least, most)
    except InputError as error:
        raise error if error.field else error.at("Frequency") from None
    assert isinstance(found, float)
    return found


def _obstruction(at: At, given: Values) -> Values:
    """A line such as `barn 212 224 11`; a new angle or height counts as seen from the mount of now."""
    given = dict(given)
    line = given.pop("line", None)
    values = {**(parse_row(str(line)) if line is not None else {}), **at.read(given)}
    if values.get("top_deg") is not None:
        values.setdefault("above_m", None)
    elif values.get("above_m") is not None:
        values.setdefault("top_deg", None)
    if "top_deg" in values or "above_m" in values or at.old is None:
        values.setdefault("seen_from_m", at.job.site.mount_height_m)
    return values


def _spot(at: At, given: Values) -> Values:
    if at.old is None and not str(given.get("mount_height_m") or "").strip():
        given = {**given, "mount_height_m": at.job.site.mount_height_m}
    return at.read(given)


def _dish(at: At, given: Values) -> Values:
    values = at.read(given)
    if values.get("wind_area_m2") is not None and "area_from" not in values and at.old is not None:
        # A figure that somebody types stays theirs, whatever the dish's size becomes.
        values["area_from"] = "own"
    return values


def _array(at: At, given: Values) -> Values:
    values = at.read(given)
    if at.old is None:
        values.setdefault("wind_area_m2", ARRAY_AREA_M2)
    return values


def _feed(at: At, given: Values) -> Values:
    values = at.read(given)
    if at.old is not None:
        return values
    dish, target = values.get("antenna"), values.get("target")
    found = next((t for t in at.job.targets if t.id == target), None)
    if found is None or found.kind != "satellite":
        raise InputError(
            "Satellite",
            f"{target} is no satellite of this job.",
            "Add it at Sky first.",
            "row-missing",
        )
    antenna = next((a for a in at.job.dishes if a.id == dish), None)
    if antenna is None:
        raise InputError(
            "Antenna", f"{dish} is no dish of this job.", "Choose one at Aim.", "row-missing"
        )
    others = {f.target for f in at.job.feeds if f.antenna == dish}
    if found.id == antenna.target or found.id in others:
        raise InputError(
            "Satellite",
            f"the dish looks at {found.name} already.",
            "Choose another one.",
            "feed-twice",
        )
    return values


def _own_feed(at: At, values: Values) -> Values:
    """The satellite whose feed a reading belongs to; none for the main one."""
    target = values.get("target")
    if not target:
        return {**values, "target": None} if "target" in values else values
    antenna = next((a for a in at.job.dishes if a.id == at.of(values, "antenna")), None)
    if antenna is None or all(t.id != target for t in sats_on(at.job, antenna)):
        raise InputError(
            "Feed",
            f"{target} is no satellite of this dish.",
            "Choose one of its feeds.",
            "row-missing",
        )
    return {**values, "target": None if target == antenna.target else target}


def _sample(at: At, given: Values) -> Values:
    scale = _SCALES.get(str(at.of(given, "scale") or "db"), "db")
    unit: Unit = "deg" if at.of(given, "unit") == "deg" else "count"
    return _own_feed(at, at.read(given, reading=scale, position=unit))


def _try(at: At, given: Values) -> Values:
    channels = given.get("channels")
    if isinstance(channels, str):
        text = channels.strip()
        whole = int(at.reader.typed("Channels found", text, unit="count")) if text else None
        given = {**given, "channels": whole}
    return at.read(given, reading="db")


def _lock(at: At, given: Values) -> Values:
    values = at.read(given, symbol_mbd="msym")
    if values.get("symbol_mbd") is not None and float(values["symbol_mbd"]) <= 0:
        raise InputError(
            "Symbol rate",
            "a carrier of 0 MBd carries nothing.",
            "Read it off the meter or the list.",
            "symbol-zero",
        )
    return _own_feed(at, values)


def _beam(at: At, given: Values) -> Values:
    values = at.read(given)
    target = at.of(values, "target")
    if all(t.id != target or t.kind != "satellite" for t in at.job.targets):
        raise InputError(
            "Satellite", f"{target} is no satellite of this job.", "Add it at Sky.", "row-missing"
        )
    return values


def _mast(at: At, given: Values) -> Values:
    """Guys that are tied nowhere yet are tied at two thirds of the free tube."""
    values = at.read(given)
    if str(values.get("guys", "")).strip() in ("1", "2"):
        raise InputError(
            "Guys",
            "one or two hold a mast in some winds only.",
            "Tie three or four, or none.",
            "too-small",
        )
    if values.get("guys") and not at.of(values, "guy_m"):
        held = 0.0 if at.of(values, "fixing") == "jpole" else float(at.of(values, "held_m"))
        free = float(at.of(values, "length_m")) - held
        values["guy_m"] = round(max(free, 0.0) * 2 / 3, 2)
    return values


def _in_line(at: At, after: str, others: list[Conductor]) -> None:
    """Raise InputError where a conductor would go on from itself, or from one of another kind."""
    rows = {c.id: c for c in others}
    seen: set[str] = set()
    step: str | None = after
    while step in rows and step not in seen:
        seen.add(step)
        step = rows[step].after
    if after not in rows or step is not None:
        raise InputError(
            "Conductor",
            "it cannot go on from there.",
            "Choose another conductor of the same kind.",
            "conductor-line",
        )


def _conductor(at: At, given: Values) -> Values:
    """One of the school's rules, at its least size unless another is given; a second one of a rule begins
    at another part, or goes on from the first."""
    values = at.read(given)
    role, part, after = at.of(values, "role"), at.of(values, "part"), at.of(values, "after")
    others = [c for c in at.job.conductors if c.role == role and c is not at.old]
    if after is not None:
        _in_line(at, after, others)
    elif any(c.part == part and c.after is None for c in others):
        raise InputError(
            "Conductor",
            "it is there, from that part." if part else "it is there, for all that it joins.",
            "Say at which part each of them begins.",
            "conductor-role",
        )
    if at.old is not None:
        return values
    rule = next((r for r in at.reader.profile.earth_rules if r.role == role), None)
    if rule is None:
        raise InputError(
            "Conductor",
            "this school does not ask for it.",
            "Choose another of the list.",
            "conductor-role",
        )
    size = rule.sizes[0]
    planned = {"material": size.material, "size_mm2": size.least_mm2, "length_m": 5.0}
    return {**planned, **values}


def _scan(at: At, given: Values) -> Values:
    found = given.get("found")
    if isinstance(found, str):
        names = parse_found(found)
        if len(names) > MOST_FOUND:
            raise InputError(
                "Found",
                f"{len(names)} names are more than a scan brings.",
                f"Write down up to {MOST_FOUND}.",
                "too-many",
            )
        given = {**given, "found": names}
    return at.read(given)


def _part(at: At, given: Values) -> Values:
    values = at.read(given)
    key = values.get("type")
    if key is not None and key not in at.catalogue.parts:
        raise InputError(
            "Part", f"“{key}” is not in the catalogue.", "Choose from the list.", "part-unknown"
        )
    if "name" in values and values["name"] is None:
        values["name"] = ""
    return values


def _link(at: At, given: Values) -> Values:
    if "celsius" in given:
        given = {**given, "celsius": degrees_c(given["celsius"])}
    values = along_route(at.read(given), at.old, at.reader)
    key = values.get("cable")
    if key is not None and key not in at.catalogue.cables:
        raise InputError(
            "Cable",
            f"“{key}” is not in the catalogue.",
            f"Use one of {', '.join(at.catalogue.cables)}.",
            "cable-unknown",
        )
    return values


_HABITS: dict[str, Callable[[At, Values], Values]] = {
    "site": _site, "stops": _stop, "targets": _target, "carriers": _carrier,
    "obstructions": _obstruction, "spots": _spot, "dishes": _dish, "arrays": _array, "feeds": _feed,
    "samples": _sample, "feed_tries": _try, "locks": _lock, "beams": _beam,
    "mast": _mast, "conductors": _conductor, "scans": _scan, "parts": _part, "links": _link,
}  # fmt: skip
