"""Carriers as CSV with documented columns, and what all tables share.

Columns of `carriers.csv`: target, name, frequency_mhz, bandwidth_mhz, polarisation, power,
modulation. Comma or semicolon between fields; decimals with dot, or with comma where
the fields are parted by semicolons.
"""

from __future__ import annotations

import csv
import io
import re

from pydantic import ValidationError

from evtro.core.job import Carrier, Job, Row, Target, edits
from evtro.core.job.base import bounds_of
from evtro.core.job.consistency import check_modulation
from evtro.core.job.profile import Profile
from evtro.core.job.words import in_words
from evtro.core.physics.channels import parse_frequency
from evtro.core.units.figures import read_figure
from evtro.core.units.quantities import InputError, Unit

from .bounded import held_to, read_text

CARRIER_COLUMNS = (
    "target",
    "name",
    "frequency_mhz",
    "bandwidth_mhz",
    "polarisation",
    "power",
    "modulation",
)
MOST_ROWS = 1000
MOST_MB = 5
LONGEST_HEAD = 5000
Lines = list[tuple[int, dict[str, str]]]  # the number of each line, and its fields by column
# What a spreadsheet takes for a formula or a command, behind any apostrophes.
_FORMULA = re.compile(r"'*[=+\-@\t\r]")


def write_carriers(job: Job) -> str:
    """All carriers of a job; the target by its name."""
    names = {t.id: t.name for t in job.targets}
    rows = [
        {**{k: getattr(c, k) for k in CARRIER_COLUMNS}, "target": names[c.target]}
        for c in job.carriers
    ]
    return write_table(CARRIER_COLUMNS, rows)


def carrier_lines(data: bytes) -> Lines:
    """The lines of a file of carriers. Raises InputError."""
    return read_table(table_text(data, "CSV file"), CARRIER_COLUMNS)


def take_carriers(lines: Lines, job: Job, profile: Profile) -> Job:
    """The job with the lines' carriers; rows of the same target, frequency and polarisation are
    replaced. Raises InputError naming line and column; nothing is taken then."""
    by_name = {t.name.casefold(): t.id for t in job.targets}
    for line, row in lines:
        target = by_name.get(row["target"].casefold())
        if target is None:
            raise InputError(
                f"line {line}, target",
                f"“{row['target']}” is not a target of this job.",
                "Add it at Sky first, or mend the name.",
                "csv-target",
            )
        values: dict[str, object] = {
            "name": row["name"],
            "target": target,
            "frequency_mhz": _number(line, "frequency_mhz", row, profile),
            "bandwidth_mhz": _number(line, "bandwidth_mhz", row, profile),
            "power": _number(line, "power", row, profile),
            "polarisation": row["polarisation"].upper(),
            "modulation": row["modulation"],
            "id": edits.new_id(job, "carriers"),
        }
        modulation_of(line, row["modulation"])
        carrier = row_of(Carrier, values, line)
        assert isinstance(carrier, Carrier)
        job = put_carrier(job, carrier, line)
    return job


def put_carrier(job: Job, carrier: Carrier, line: int) -> Job:
    """The job with a carrier in place of the one of its target, polarisation and frequency (within
    10 kHz), else with it as a new one. Raises InputError when the job is full."""
    for old in job.carriers:
        if (
            old.target == carrier.target
            and old.polarisation == carrier.polarisation
            and abs(old.frequency_mhz - carrier.frequency_mhz) < 0.01
        ):
            return _put(job, "carriers", row=carrier, old=old, line=line)
    return _put(job, "carriers", row=carrier, old=None, line=line)


def put_target(job: Job, kind: str, name: str, values: dict[str, object], line: int) -> Job:
    """The job with a target's values changed where one of its kind and name is, else with it as a
    new one. Raises InputError naming line and field, or when the job is full."""
    old = next(
        (t for t in job.targets if t.kind == kind and t.name.casefold() == name.casefold()), None
    )
    kept = old.model_dump() if old else {"id": edits.new_id(job, "targets"), "kind": kind}
    return _put(
        job, "targets", row=row_of(Target, kept | {"name": name} | values, line), old=old, line=line
    )


def _put(job: Job, field: str, row: Row, old: Row | None, line: int) -> Job:
    try:
        if old is None:
            return edits.add_row(job, field, row)
    except InputError as error:
        raise error.at(f"line {line}") from None
    rows = tuple(
        row.model_copy(update={"id": old.id}) if r is old else r for r in getattr(job, field)
    )
    return job.model_copy(update={field: rows})


def write_table(columns: tuple[str, ...], rows: list[dict[str, object]]) -> str:
    """Rows under a head line, as CSV. A text that a spreadsheet would carry out gets an apostrophe
    before it, which `read_table` takes off again."""
    out = io.StringIO()
    writer = csv.DictWriter(out, columns, lineterminator="\n")
    writer.writeheader()
    writer.writerows({k: _safe(v) for k, v in row.items()} for row in rows)
    return out.getvalue()


def _safe(value: object) -> object:
    return f"'{value}" if isinstance(value, str) and _FORMULA.match(value) else value


def _as_meant(cell: str) -> str:
    return cell[1:] if cell.startswith("'") and _FORMULA.match(cell) else cell


def table_text(data: bytes, field: str) -> str:
    """The text of a CSV file. Raises InputError for one that is too large, or no text."""
    held_to(data, MOST_MB, field, "A table here has a thousand lines at most: cut it.")
    return read_text(data, field, "Save it as CSV in UTF-8.")


def read_table(text: str, columns: tuple[str, ...], optional: tuple[str, ...] = ()) -> Lines:
    """Line number and fields of every row. Raises InputError naming the line."""
    text = text.removeprefix("\ufeff")
    if not text.strip():
        raise InputError(
            "CSV file",
            "the file is empty.",
            f"Its first line must be: {','.join(columns)}",
            "csv-empty",
        )
    head = text[:LONGEST_HEAD].splitlines()[0]
    delimiter = ";" if head.count(";") > head.count(",") else ","
    reader = csv.reader(io.StringIO(text), delimiter=delimiter)
    names: list[str] = []
    rows: Lines = []
    try:
        for cells in reader:
            if not names:
                names = [c.strip().lower() for c in cells]
                missing = [c for c in columns if c not in names]
                if missing:
                    raise InputError(
                        "line 1",
                        f"the column {missing[0]} is missing.",
                        f"The first line must be: {','.join(columns)}",
                        "csv-columns",
                    )
                continue
            if not any(c.strip() for c in cells):
                continue
            row = _row(reader.line_num, names, cells)
            rows.append((reader.line_num, {c: row[c] for c in (*columns, *optional) if c in row}))
            if len(rows) > MOST_ROWS:
                raise InputError(
                    "CSV file",
                    f"it has more than {MOST_ROWS} rows.",
                    f"At most {MOST_ROWS} are read; cut it.",
                    "csv-too-many",
                )
    except csv.Error as error:
        raise InputError(
            f"line {reader.line_num}",
            f"it cannot be read ({error}).",
            "Save the file again as CSV.",
            "csv-broken",
        ) from error
    return rows


def _row(line: int, names: list[str], cells: list[str]) -> dict[str, str]:
    if len(cells) != len(names):
        raise InputError(
            f"line {line}",
            f"it has {len(cells)} fields, not {len(names)}.",
            "Put a comma decimal between quotes, or part fields by semicolons.",
            "csv-broken",
        )
    return dict(zip(names, (_as_meant(c.strip()) for c in cells), strict=True))


def _number(line: int, column: str, row: dict[str, str], profile: Profile) -> object:
    if column == "frequency_mhz":
        return number_of(
            line,
            column,
            text=row[column],
            unit="mhz",
            channels=profile.channels,
            of=(Carrier, column),
        )
    return number_of(line, column, row[column], of=(Carrier, column))


def number_of(
    line: int,
    column: str,
    text: str,
    unit: Unit = "count",
    channels: str | None = None,
    of: tuple[type[Row], str] | None = None,
) -> object:
    """A figure of a table as a person types it. Raises InputError naming line and column."""
    bounds = bounds_of(of[0].model_fields[of[1]].metadata) if of else (None, None)
    try:
        if channels is not None:
            return parse_frequency(text, channels, *bounds)
        return read_figure(text, unit, *bounds)
    except InputError as error:
        raise error.at(f"line {line}, {column}") from None


def modulation_of(line: int, code: str) -> None:
    """Raise InputError for a modulation that has no threshold, naming the line."""
    try:
        check_modulation(code)
    except InputError as error:
        raise error.at(f"line {line}, modulation") from None


def row_of(kind: type[Row], values: dict[str, object], line: int) -> Row:
    """A row of the job from a line's values. Raises InputError naming line and field."""
    try:
        return kind.model_validate(values)
    except ValidationError as error:
        said = in_words(error, kind)[0]
        raise InputError(
            f"line {line}, {said.field}", said.reason, said.remedy, said.code
        ) from error
