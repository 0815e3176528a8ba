"""What the job sheet says of the aim: figures, feeds, motor, peaks and the record of a terminal."""

from __future__ import annotations

from collections.abc import Iterator

from ...job import Job
from ...job.sections import Line, Section, line
from ...units.phrases import say
from ...units.quantities import Phrase, Quantity
from ..sky.answer import SkyAnswer
from .answer import Aim, AimAnswer
from .dish.detail import AimDetail, MotorView, RowView, detail


def aim_section(job: Job, sky: SkyAnswer, aim: AimAnswer) -> Section:
    """Every antenna with the figures it is set by."""
    lines: list[Line] = []
    for one in aim.aims:
        lines.append(line(f"{one.name} to {one.target_name}", _figures(one), one.state))
        lines.append(line("", one.skew_words))
        found = detail(job, sky, one)
        if found is not None:
            lines += _dish_lines(job, found)
        lines += _hold_lines(job, one.antenna)
    return Section("Aim", lines or [line("", "No antenna has a target yet.")])


def _figures(one: Aim) -> str:
    figures = [f"{one.azimuth_deg:.1f}° true"]
    if one.compass_deg is not None:
        figures.append(f"{one.compass_deg:.1f}° by compass")
    figures.append(f"elevation {one.elevation_deg:.1f}°")
    if one.inclinometer_deg is not None:
        figures.append(f"inclinometer {one.inclinometer_deg:.1f}° ({one.inclinometer_words})")
    return ", ".join(figures)


def _hold_lines(job: Job, antenna_id: str) -> list[Line]:
    """The spot that was taken for a terrestrial antenna."""
    antenna = next((a for a in job.arrays if a.id == antenna_id), None)
    spot = next((s for s in job.trial_spots if antenna and s.id == antenna.stands_at), None)
    if spot is None:
        return []
    tried = sum(h.antenna == antenna_id for h in job.trial_spots)
    return [
        line(
            "Spot",
            f"{spot.place}, the best of {tried} that were tried; its readings are the source",
        )
    ]


def _dish_lines(job: Job, found: AimDetail) -> list[Line]:
    """What was set on a dish beyond its three angles."""
    lines: list[Line] = []
    antenna = next(d for d in job.dishes if d.id == found.aim.antenna)
    if antenna.scale_zero_deg:
        lines.append(
            line("", f"the tool reads {antenna.scale_zero_deg:+.1f}° off, learned on site")
        )
    if found.row is not None:
        lines += _row_lines(found.row)
    if found.motor is not None:
        lines += _motor_lines(found.motor)
    lines += _peak_lines(found)
    for nut in found.tightened:
        lines.append(line(f"Nut, {nut.axis}", f"{nut.before:.1f} before, {nut.after:.1f} after"))
    best = next((t for t in job.feed_tries if t.id == found.tries.best), None)
    if best is not None:
        lines.append(
            line(
                "Feed, best try",
                say(
                    "depth {}, side {}, height {}, skew {}: {}",
                    Quantity(best.depth_mm, "mm", 0),
                    Quantity(best.sideways_mm, "mm", 0),
                    Quantity(best.height_mm, "mm", 0),
                    Quantity(best.skew_deg, "deg", 0),
                    f"{best.reading:g}",
                ),
            )
        )
    return lines


def _row_lines(row: RowView) -> Iterator[Line]:
    yield line("Row of feeds", row.tilt_words)
    for feed in row.feeds:
        text = say(
            "{} along the bar, {} less",
            Quantity(feed.line.offset_mm, "mm", 0),
            Quantity(feed.line.loss_db, "db"),
        )
        if feed.placed_mm is not None:
            text = say("{}; set at {}", text, Quantity(feed.placed_mm, "mm", 0))
        yield line(feed.line.name, text)


def _motor_lines(motor: MotorView) -> Iterator[Line]:
    s = motor.settings
    yield line(
        "Motor", f"elevation {s.motor_elevation_deg:.2f}°, declination {s.declination_deg:.2f}°"
    )
    for stop in motor.stops:
        side = "west" if stop.hour_deg > 0 else "east"
        why = f", {stop.why}" if stop.why else ""
        yield line(stop.name, f"{abs(stop.hour_deg):.1f}° {side}{why}")


def _peak_lines(found: AimDetail) -> Iterator[Line]:
    for peak in found.peaks:
        if peak.peak.centre is not None and peak.peak.top is not None:
            top = f"{peak.peak.top:.1f}"
            place = _position(peak.peak.centre, peak.unit)
            yield line(f"Peak, {peak.axis}", say("top {} at {}", top, place))


def _position(value: float, unit: str) -> Phrase:
    if unit == "deg":
        return (Quantity(value, "deg", 2),)
    return (f"{value:.2f} {unit}s".replace("-", "−"),)


def terminal_section(job: Job) -> Section | None:
    """The record that a terminal's provider asks for."""
    if not any(a.two_way for a in job.dishes):
        return None
    t = job.terminal
    beam = next((b for b in job.beams if b.id == t.beam), None)
    lines = [
        line(
            "Certified installer",
            f"{t.installer or 'not named'}, certificate {t.licence or 'not named'}"
            f"{', seen' if t.licence_seen else ', not seen'}",
        ),
        line("Beam", f"{beam.name}, code {beam.code}" if beam else "not chosen"),
        line("Es/N0", "not read" if t.esn0_db is None else f"{t.esn0_db:.1f} dB"),
        line(
            "Cross-polar isolation",
            "not read" if t.isolation_db is None else f"{t.isolation_db:.1f} dB",
        ),
        line("State", t.state),
    ]
    return Section("Two-way terminal", lines)
