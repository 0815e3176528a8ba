"""Older forms of a job's rows, brought to the newest one: the same steps for job files and for the
history that a database keeps. A step works on plain rows and says from which form on it is needed."""

from __future__ import annotations

from typing import Any

from ..units.plain import cleaned

FORM = 12

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
    return _two_kinds(renewed) if form < 8 else renewed


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


# What only a dish, or only a terrestrial antenna, has of the row that was one up to form 7.
_OF_DISHES = frozenset({
    "diameter_m", "efficiency", "offset_deg", "datum", "constant_deg", "skew_view", "skew_zero",
    "upside_down", "scale_zero_deg", "skew_turns", "level_reads", "scale_error_deg", "mounting",
    "coarse_first", "focal_ratio", "reflector_height_mm", "reflector_width_mm",
    "reflector_depth_mm", "lnb_width_mm", "lean_deg", "lean_bearing_deg", "deg_per_turn",
    "play_turns", "motor_limit_deg", "motor_bend_deg", "motor_zero_deg", "availability_pct",
    "two_way", "transmit_w", "transmit_mhz", "area_from", "surface", "ground_k", "zero_before_deg",
})  # fmt: skip
_OF_ARRAYS = frozenset({
    "gain_dbi", "gain_table", "model", "low_mhz", "high_mhz", "beamwidth_deg", "front_back_db",
    "length_m", "heading_deg", "elements", "rotator", "standing", "covering", "entry_loss_db",
    "above_ground_m", "hold",
})  # fmt: skip
# What was called otherwise up to form 7: lists and tables; columns by their table.
_LISTS = {"trials": "feed_tries", "holds": "trial_spots", "heard": "trial_readings"}
TABLES = {"trial": "feed_try", "hold": "trial_spot", "heard": "trial_reading"}
# Whose antenna is a dish, and whose a terrestrial one.
_NAMING = {"feeds": "dish", "presets": "dish", "feed_tries": "dish", "trial_spots": "array"}


def of_its_kind(row: Values, kind: str) -> Values:
    """An antenna's values of form 7, or some of them, as those of a dish or an array."""
    others = _OF_ARRAYS if kind == "dish" else _OF_DISHES
    return {
        ("stands_at" if k == "hold" else k): v
        for k, v in row.items()
        if k != "kind" and k not in others
    }


def of_a_spot(row: Values) -> Values:
    """A reading's values of form 7, or some of them, with the name of its spot."""
    return {("spot" if k == "hold" else k): v for k, v in row.items()}


def _two_kinds(job: Values) -> Values:
    """Dishes and terrestrial antennas were one list up to form 7; what named one of the wrong kind
    was shown on no page and had no effect."""
    for old, new in _LISTS.items():
        if old in job:
            job[new] = job.pop(old)
    if isinstance(job.get("trial_readings"), list):
        job["trial_readings"] = [
            of_a_spot(r) if isinstance(r, dict) else r for r in job["trial_readings"]
        ]
    rows = job.pop("antennas", None)
    if not isinstance(rows, list):
        return job if rows is None else {**job, "dishes": rows}
    arrays = [r for r in rows if isinstance(r, dict) and r.get("kind") == "array"]
    job["dishes"] = [
        of_its_kind(r, "dish") if isinstance(r, dict) and r.get("kind") == "dish" else r
        for r in rows
        if r not in arrays
    ]
    job["arrays"] = [of_its_kind(r, "array") for r in arrays]
    kinds = {str(r.get("id")): str(r.get("kind")) for r in rows if isinstance(r, dict)}
    gone: set[str] = set()
    for field, kind in _NAMING.items():
        gone |= _take_out(job, field, "antenna", {k for k, of in kinds.items() if of != kind})
    _take_out(job, "trial_readings", "spot", gone)
    for row in job["arrays"]:
        if row.get("stands_at") in gone:
            row["stands_at"] = None
    return job


def _take_out(job: Values, field: str, column: str, named: set[str]) -> set[str]:
    """Take rows out of a list that name one of some others; their ids."""
    rows = job.get(field)
    if not isinstance(rows, list) or not named:
        return set()
    out = [r for r in rows if isinstance(r, dict) and r.get(column) in named]
    job[field] = [r for r in rows if r not in out]
    return {str(r.get("id")) for r in out}


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
