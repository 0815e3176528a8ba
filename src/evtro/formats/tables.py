"""Carriers and transmitters as CSV with documented columns.

One file holds one kind of row. Columns of `carriers.csv`: target, name, frequency_mhz,
bandwidth_mhz, polarisation, power, modulation. Columns of `transmitters.csv`: name, latitude_deg,
longitude_deg, height_m. Comma or semicolon between fields; decimals with dot, or with comma where
the fields are parted by semicolons.
"""

from __future__ import annotations

import csv
import io

from pydantic import ValidationError

from evtro.core.channels import parse_frequency
from evtro.core.coax.edits import next_id
from evtro.core.consistency import check_modulation
from evtro.core.job import Carrier, Job, Row, Target
from evtro.core.profile import Profile
from evtro.core.quantities import InputError, Unit, parse_quantity
from evtro.core.words import in_words

CARRIER_COLUMNS = (
    "target", "name", "frequency_mhz", "bandwidth_mhz", "polarisation", "power", "modulation",
)  # fmt: skip
TRANSMITTER_COLUMNS = ("name", "latitude_deg", "longitude_deg", "height_m")
MOST_ROWS = 1000


def write_carriers(job: Job) -> str:
    """All carriers of a job; the target by its name."""
    names = {t.id: t.name for t in job.targets}
    rows = [
        {**{k: getattr(c, k) for k in CARRIER_COLUMNS}, "target": names[c.target]}
        for c in job.carriers
    ]
    return write_table(CARRIER_COLUMNS, rows)


def write_transmitters(job: Job) -> str:
    """All transmitters of a job."""
    return write_table(
        TRANSMITTER_COLUMNS,
        [
            {k: getattr(t, k) for k in TRANSMITTER_COLUMNS}
            for t in job.targets
            if t.kind == "transmitter"
        ],
    )


def read_carriers(text: str, job: Job, profile: Profile) -> Job:
    """The job with the file's carriers; rows of the same target, frequency and polarisation are
    replaced. Raises InputError naming line and column; nothing is taken then."""
    by_name = {t.name.casefold(): t.id for t in job.targets}
    carriers = list(job.carriers)
    for line, row in read_table(text, CARRIER_COLUMNS):
        target = by_name.get(row["target"].casefold())
        if target is None:
            raise InputError(f"line {line}, target", f"“{row['target']}” is not a target of this "
                             "job.", "Add it at Sky first, or mend the name.", "csv-target")  # fmt: skip
        values: dict[str, object] = {
            "name": row["name"],
            "target": target,
            "frequency_mhz": _number(line, "frequency_mhz", row, profile),
            "bandwidth_mhz": _number(line, "bandwidth_mhz", row, profile),
            "power": _number(line, "power", row, profile),
            "polarisation": row["polarisation"].upper(),
            "modulation": row["modulation"],
            "id": next_id("c", [c.id for c in carriers]),
        }
        modulation_of(line, row["modulation"])
        carrier = row_of(Carrier, values, line)
        assert isinstance(carrier, Carrier)
        same = [
            i for i, c in enumerate(carriers)
            if c.target == target and c.polarisation == carrier.polarisation
            and abs(c.frequency_mhz - carrier.frequency_mhz) < 1e-6
        ]  # fmt: skip
        if same:
            carriers[same[0]] = carrier.model_copy(update={"id": carriers[same[0]].id})
        else:
            carriers.append(carrier)
    return job.model_copy(update={"carriers": tuple(carriers[:MOST_ROWS])})


def read_transmitters(text: str, job: Job, profile: Profile) -> Job:
    """The job with the file's transmitters; one of the same name is moved."""
    targets = list(job.targets)
    for line, row in read_table(text, TRANSMITTER_COLUMNS):
        values: dict[str, object] = {
            "kind": "transmitter",
            "name": row["name"],
            "latitude_deg": _number(line, "latitude_deg", row, profile),
            "longitude_deg": _number(line, "longitude_deg", row, profile),
            "height_m": _number(line, "height_m", row, profile),
            "id": next_id("t", [t.id for t in targets]),
        }
        target = row_of(Target, values, line)
        assert isinstance(target, Target)
        same = [i for i, t in enumerate(targets) if t.name.casefold() == target.name.casefold()]
        if same:
            old = targets[same[0]]
            targets[same[0]] = target.model_copy(
                update={"id": old.id, "extra_loss_db": old.extra_loss_db}
            )
        else:
            targets.append(target)
    if len(targets) > 64:
        raise InputError("CSV file", "a job holds at most 64 targets.",
                         "Keep the ones that are wanted.", "csv-too-many")  # fmt: skip
    return job.model_copy(update={"targets": tuple(targets)})


def write_table(columns: tuple[str, ...], rows: list[dict[str, object]]) -> str:
    """Rows under a head line, as CSV."""
    out = io.StringIO()
    writer = csv.DictWriter(out, columns, lineterminator="\n")
    writer.writeheader()
    writer.writerows(rows)
    return out.getvalue()


def read_table(text: str, columns: tuple[str, ...]) -> list[tuple[int, dict[str, str]]]:
    """Line number and fields of every row. Raises InputError naming the line."""
    text = text.removeprefix("\ufeff")
    if not text.strip():
        raise InputError("CSV file", "the file is empty.",
                         f"Its first line must be: {','.join(columns)}", "csv-empty")  # fmt: skip
    head = text.splitlines()[0]
    delimiter = ";" if head.count(";") > head.count(",") else ","
    reader = csv.reader(io.StringIO(text), delimiter=delimiter)
    try:
        lines = [(reader.line_num, cells) for cells in reader]
    except csv.Error as error:
        raise InputError(f"line {reader.line_num}", f"it cannot be read ({error}).",
                         "Save the file again as CSV.", "csv-broken") from error  # fmt: skip
    names = [c.strip().lower() for c in lines[0][1]]
    missing = [c for c in columns if c not in names]
    if missing:
        raise InputError("line 1", f"the column {missing[0]} is missing.",
                         f"The first line must be: {','.join(columns)}", "csv-columns")  # fmt: skip
    rows = []
    for number, cells in lines[1:]:
        if not any(c.strip() for c in cells):
            continue
        if len(cells) != len(names):
            raise InputError(f"line {number}", f"it has {len(cells)} fields, not {len(names)}.",
                             "Put a comma decimal between quotes, or part fields by semicolons.",
                             "csv-broken")  # fmt: skip
        row = dict(zip(names, (c.strip() for c in cells), strict=True))
        rows.append((number, {c: row[c] for c in columns}))
    if len(rows) > MOST_ROWS:
        raise InputError("CSV file", f"it has {len(rows)} rows.",
                         f"At most {MOST_ROWS} are read; cut it.", "csv-too-many")  # fmt: skip
    return rows


def _number(line: int, column: str, row: dict[str, str], profile: Profile) -> object:
    if column == "frequency_mhz":
        return number_of(line, column, row[column], "mhz", profile.channels)
    return number_of(line, column, row[column], "m" if column == "height_m" else "count")


def number_of(
    line: int, column: str, text: str, unit: Unit = "count", channels: str | None = None
) -> object:
    """A figure of a table as a person types it. Raises InputError naming line and column."""
    try:
        return parse_quantity(text, unit) if channels is None else parse_frequency(text, channels)
    except InputError as error:
        raise InputError(
            f"line {line}, {column}", error.reason, error.remedy, error.code
        ) from error
    except ValueError as error:
        raise InputError(f"line {line}, {column}", str(error), "", "csv-number") from error


def modulation_of(line: int, code: str) -> None:
    """Raise InputError for a modulation that has no threshold, naming the line."""
    try:
        check_modulation(code)
    except InputError as error:
        raise InputError(
            f"line {line}, modulation", error.reason, error.remedy, error.code
        ) from None


def row_of(kind: type[Row], values: dict[str, object], line: int) -> Row:
    """A row of the job from a line's values. Raises InputError naming line and field."""
    try:
        return kind.model_validate(values)
    except ValidationError as error:
        said = in_words(error, kind)[0]
        raise InputError(
            f"line {line}, {said.field}", said.reason, said.remedy, said.code
        ) from error
