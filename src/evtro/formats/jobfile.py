"""The open job file, *.evtro.json: one JSON document with a format name and a version."""

from __future__ import annotations

import base64
import hashlib
import json
from collections.abc import Mapping
from typing import Any

from pydantic import ValidationError

from evtro.core.job import Job
from evtro.core.job.base import most_of
from evtro.core.job.consistency import check_job
from evtro.core.job.context import JobParts
from evtro.core.job.forms import FORM, renewed_job
from evtro.core.job.parts import Catalogue
from evtro.core.job.words import in_words
from evtro.core.units.quantities import InputError

from .bounded import held_to, not_empty, read_json
from .photos import is_kept

FORMAT = "evtro-job"
VERSION = FORM
MOST_MB = 20
_REMEDY = "A job file has a few MB at most: this is another file."


def write_job(job: Job) -> str:
    """A job as text. The same job always gives the same bytes."""
    return write_plain(job.model_dump(mode="json"))


def write_plain(values: dict[str, Any], photos: Mapping[str, bytes] | None = None) -> str:
    """A job's plain values as text, whether they make a job or not; with photographs by their hash on
    request. Raises InputError where they are too large for a job file."""
    document: dict[str, Any] = {"format": FORMAT, "version": VERSION, "job": values}
    if photos:
        size = sum(len(p) for p in photos.values()) * 4 / 3
        if size > (MOST_MB - 4) * 1e6:
            raise InputError(
                "Photos",
                f"{len(photos)} of them have {size / 1e6:.0f} MB in a job file.",
                "Export without them; a backup holds them all.",
                "file-too-large",
            )
        document["photos"] = {k: base64.b64encode(photos[k]).decode() for k in sorted(photos)}
    return json.dumps(document, ensure_ascii=False, indent=1) + "\n"


def read_job(data: bytes, catalogue: Catalogue) -> Job:
    """A job from a file's bytes. Raises InputError saying what is wrong and where."""
    return read_whole(data, catalogue)[0]


def read_whole(data: bytes, catalogue: Catalogue) -> tuple[Job, list[bytes]]:
    """A job from a file's bytes, with the photographs that the file holds of it. Raises InputError."""
    not_empty(data, "Job file", "Export the job again and choose that file.")
    held_to(data, MOST_MB, "Job file", _REMEDY)
    document = read_json(data, "Job file", "Choose a file that ends in .evtro.json.")
    job = job_of(document, catalogue)
    wanted = {p.sha256 for p in job.photos}
    held = document.get("photos")
    return job, [_photo(k, v) for k, v in held.items() if k in wanted] if isinstance(
        held, dict
    ) else []


def _photo(digest: str, text: object) -> bytes:
    try:
        data = base64.b64decode(str(text), validate=True)
    except ValueError:
        data = b""
    if hashlib.sha256(data).hexdigest() != digest or not is_kept(data):
        raise InputError(
            "Photos",
            f"{digest[:12]} is not the picture that the job names.",
            "The file was changed or damaged: export it again.",
            "file-wrong",
        )
    return data


def job_of(document: Any, catalogue: Catalogue) -> Job:
    """A job from a decoded document."""
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        raise InputError(
            "Job file",
            "this is not a job of Evtro.",
            "Choose a file that ends in .evtro.json.",
            "file-wrong",
        )
    version = document.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise InputError(
            "version", "the format version is missing.", "Export the job again.", "file-wrong"
        )
    if version > VERSION:
        raise InputError(
            "version",
            f"the file has format {version}, this Evtro reads up to {VERSION}.",
            "Open it with the newer Evtro that wrote it.",
            "file-newer",
        )
    found = renewed_job(document.get("job"), version)
    _check_lengths(found)
    try:
        job = Job.model_validate(found)
    except ValidationError as error:
        raise in_words(error)[0] from error
    check_job(JobParts(job, catalogue))
    return job


def _check_lengths(job: Any) -> None:
    """Raise InputError for a list that is longer than its rows may be, before they are looked at."""
    if not isinstance(job, dict):
        return
    for name, info in Job.model_fields.items():
        most, rows = most_of(info.metadata), job.get(name)
        if most is not None and isinstance(rows, (list, str)) and len(rows) > most:
            raise InputError(
                info.title or name,
                f"it has {len(rows)} entries.",
                f"At most {most} are kept.",
                "too-long",
            )


def schema() -> dict[str, Any]:
    """The JSON Schema of the job file."""
    inner = Job.model_json_schema(ref_template="#/$defs/{model}")
    definitions = inner.pop("$defs", {})
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Evtro job file",
        "type": "object",
        "required": ["format", "version", "job"],
        "properties": {
            "format": {"const": FORMAT},
            "version": {"enum": list(range(1, VERSION + 1))},
            "job": inner,
            "photos": {
                "type": "object",
                "additionalProperties": {"type": "string", "contentEncoding": "base64"},
            },
        },
        "$defs": definitions,
    }
