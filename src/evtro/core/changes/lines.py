"""What is done to lines: the multiplexes of a company put on its line, a cable laid along a route."""

from __future__ import annotations

import re
from typing import Any

import numpy as np
from annotated_types import Ge, Le

from ..job import Carrier, Job, Part, Target, changes, edits
from ..job.consistency import check_modulation
from ..job.references import without
from ..job.registry import new_row_id, registry
from ..units.quantities import InputError
from .typed import Reader

ROLL_OFF = 1.15  # spacing over symbol rate of a cable channel (EN 300 429, from memory)
LINE_PART = "company-line"
MOST_ON_LINE = 160
_STRETCH = (Ge(0.01), Le(1000.0))


def company_carriers(job: Job, change: changes.PutOnLine, reader: Reader) -> Job:
    """The job with evenly spaced carriers on the company's line in place of those that were on it; those
    that stay at their frequency keep their rows. Raises InputError."""
    kind = registry(Job).kind("carriers")
    low, high = (reader.figure(kind, "frequency_mhz", f) for f in (change.low_mhz, change.high_mhz))
    every = reader.figure(kind, "bandwidth_mhz", change.every_mhz)
    check_modulation(change.modulation)
    if not change.modulation.startswith("DVB-C"):
        raise InputError(
            "Modulation",
            f"{change.modulation} is not sent on a cable network.",
            "Take one of DVB-C.",
            "line-modulation",
        )
    if high < low or every < 1:
        raise InputError(
            "Carriers",
            f"{low:g} to {high:g} MHz every {every:g} MHz is no row of carriers.",
            "Type the lowest, the highest and their spacing, such as 114, 802 and 8.",
            "line-empty",
        )
    waves = np.arange(low, high + 1e-6, every).round(4).tolist()
    if len(waves) > MOST_ON_LINE:
        raise InputError(
            "Carriers",
            f"{len(waves)} carriers are more than {MOST_ON_LINE}.",
            "Type a wider spacing or a narrower range.",
            "line-many",
        )
    target = next((t.id for t in job.targets if t.kind == "line"), None)
    if target is None:
        target = new_row_id(job, "targets")
        job = edits.add_row(job, "targets", Target(id=target, kind="line", name="Company's line"))
    own: dict[str, Any] = {
        "bandwidth_mhz": round(every / ROLL_OFF, 4),
        "modulation": change.modulation,
    }
    there = {c.frequency_mhz: c for c in job.carriers if c.target == target}
    for wave, carrier in there.items():
        if wave not in waves:
            job = without(job, "carriers", carrier.id)
    for wave in waves:
        if wave in there:
            job = edits.change_row(job, "carriers", there[wave].id, own)
        else:
            job = edits.add_row(
                job,
                "carriers",
                Carrier.model_validate(
                    {
                        "id": new_row_id(job, "carriers"),
                        "target": target,
                        "name": f"{wave:g}",
                        "frequency_mhz": wave,
                        "polarisation": "H",
                        "power": 0.0,
                        **own,
                    }
                ),
            )
    if all(p.type != LINE_PART for p in job.parts):
        part = Part(id=new_row_id(job, "parts"), type=LINE_PART, name="Company's line")
        job = edits.add_row(job, "parts", part)
    if job.company.plan == "none":
        job = job.model_copy(update={"company": job.company.model_copy(update={"plan": "both"})})
    return job


def degrees_c(text: Any) -> Any:
    """A temperature as somebody typed it, °C or °F, for a field in °C; what is none of these as it is."""
    said = (
        re.fullmatch(r"\s*([+−-]?\d+(?:[.,]\d+)?)\s*°?\s*([CcFf])\s*", text)
        if isinstance(text, str)
        else None
    )
    if said is None:
        return text
    value = float(said[1].replace(",", ".").replace("−", "-"))
    return value if said[2] in "Cc" else round((value - 32) / 1.8, 1)


def along_route(given: dict[str, Any], old: Any, reader: Reader) -> dict[str, Any]:
    """A cable's values with its length that of its route; a length that is typed alone, and differs, takes the
    route away. Raises InputError naming the stretch."""
    if "route" in given:
        route = given["route"] or ()
        if not isinstance(route, (list, tuple)) or any(
            not isinstance(s, (list, tuple)) or len(s) != 2 for s in route
        ):
            raise InputError(
                "Route",
                "it is no list of stretches.",
                "Give each as where it lies and its length.",
                "route-wrong",
            )
        given["route"] = read = tuple(
            (kind, reader.length(f"Stretch {n}", metres, _STRETCH))
            for n, (kind, metres) in enumerate(route, start=1)
        )
        if read:
            given["length_m"] = round(sum(metres for _, metres in read), 3)
    elif (
        "length_m" in given and old is not None and old.route and given["length_m"] != old.length_m
    ):
        given["route"] = ()
    return given
