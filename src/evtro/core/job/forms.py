"""Older forms of a job's rows, brought to the newest one: the same steps for job files and for the
history that a database keeps. A step works on plain rows and says from which form on it is needed."""

from __future__ import annotations

from typing import Any

from ..units.plain import cleaned

FORM = 7

Values = dict[str, Any]


def renewed_job(job: Any, form: int) -> Any:
    """A job's plain values as a file of an older form has them, in the newest form. What is no job
    comes back as it is, for the reader to refuse."""
    if not isinstance(job, dict):
        return job
    if form < 5:
        # A text could hold characters that are none: a space stands there.
        job = cleaned(job)
    renewed = dict(job)
    for field, table in (("antennas", "antenna"), ("targets", "target"), ("marks", "mark")):
        if isinstance(job.get(field), list):
            renewed[field] = [renewed_row(table, row, form) for row in job[field]]
    return renewed


def renewed_row(table: str, row: Any, form: int) -> Any:
    """One row of an older form in the newest one."""
    if not isinstance(row, dict):
        return row
    if table == "target" and form < 3:
        row = _forecast_loss(row)
    if table == "antenna" and form < 4:
        row = _own_area(row)
    if table == "mark" and form < 7 and "done_at" in row:
        # What is read on site says when under one name.
        row = {("at" if k == "done_at" else k): v for k, v in row.items()}
    return row


def _forecast_loss(row: Values) -> Values:
    """A transmitter's loss of zero stood for free space; since form 3 it is forecast where nothing
    is entered."""
    if "extra_loss_db" not in row:
        return row
    rest = {k: v for k, v in row.items() if k != "extra_loss_db"}
    return {**rest, "own_loss_db": row["extra_loss_db"] or None}


def _own_area(row: Values) -> Values:
    """A dish's wind area was a figure, 0.5 m² where nobody had typed one; since form 4 it follows
    the dish's size unless it is somebody's own."""
    if row.get("kind") != "dish" or "area_from" in row:
        return row
    own = row.get("wind_area_m2", 0.1) != 0.5
    return {**row, "area_from": "own" if own else "size"}
