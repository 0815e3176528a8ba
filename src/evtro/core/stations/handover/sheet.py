"""The job sheet: the text that is shown on screen and printed."""

from __future__ import annotations

from collections.abc import Callable

from ...job import Job
from ...job.parts import Catalogue
from ...job.problems import Problem
from ...job.profile import Profile
from ...units.quantities import (
    Gauge,
    Quantity,
    Step,
    show,
    text_of,
)
from ..aim.answer import AimAnswer
from ..aim.dish.detail import AimDetail, detail
from ..coax.answer import CoaxAnswer
from ..earth.answer import LAST_WORD, EarthAnswer
from ..mast.answer import MastAnswer
from ..readings.answer import ReadingsAnswer
from ..site.answer import SiteAnswer
from ..sky.answer import SkyAnswer
from .answer import Line, Section


def sheet(
    job: Job,
    profile: Profile,
    catalogue: Catalogue,
    site: SiteAnswer,
    aim: AimAnswer,
    mast: MastAnswer,
    earth: EarthAnswer,
    coax: CoaxAnswer,
    readings: ReadingsAnswer,
    problems: list[Problem],
    sky: SkyAnswer,
    steps: dict[str, list[Step]],
) -> list[Section]:
    """All sections of the sheet, in the units of the job's practice profile."""

    def said(value: float | None, unit: str, digits: int = 1) -> str:
        if value is None:
            return "not known"
        return show(Quantity(value, unit, digits), profile.units, profile.level)  # type: ignore[arg-type]

    def judged(gauge: Gauge, digits: int = 1) -> str:
        return said(gauge.value, gauge.unit, digits)

    head = [
        Line("Job", job.name),
        Line("Place", job.place or "not named"),
        Line("Position", site.position or "not known"),
        Line("Date", job.date.isoformat()),
        Line("Practice", profile.name),
        Line("Customer", job.handover.customer or "not named"),
        Line("Installer", job.handover.installer or "not named"),
    ]
    if job.site.consent != "unasked" or job.site.consent_note:
        leave = _LEAVE[job.site.consent]
        note = f"; {job.site.consent_note}" if job.site.consent_note else ""
        head.append(Line("Leave of owner or association", leave + note))
    aimed = []
    for a in aim.aims:
        figures = [f"{a.azimuth_deg:.1f}° true"]
        if a.compass_deg is not None:
            figures.append(f"{a.compass_deg:.1f}° by compass")
        figures.append(f"elevation {a.elevation_deg:.1f}°")
        if a.inclinometer_deg is not None:
            figures.append(f"inclinometer {a.inclinometer_deg:.1f}° ({a.inclinometer_words})")
        aimed.append(Line(f"{a.name} to {a.target_name}", ", ".join(figures), a.state))
        aimed.append(Line("", a.skew_words))
        found = detail(job, sky, a)
        if found is not None:
            aimed += _dish_lines(job, found)
        aimed += _hold_lines(job, a.antenna)
    held = [
        Line("Moment at the fixing", judged(mast.moment, 0), mast.moment.state),
        Line("Moment the tube bears", said(mast.tube.high, "nm", 0), mast.tube.state),
        Line("Held between brackets", judged(mast.held, 2), mast.held.state),
        Line("Wind", f"{said(mast.pressure_pa, 'pa', 0)}, {mast.pressure_origin}"),
    ]
    bonded = [Line("School", earth.school)]
    for bond in earth.bonds:
        if not bond.needed:
            bonded.append(Line(bond.name, "not needed here"))
            continue
        text = f"asked {bond.asked}"
        if bond.conductor:
            text = f"{judged(bond.size)} {(bond.material or '').replace('_', '-')}, {judged(bond.length)}"
            text += ", joined" if bond.connected else ", not confirmed"
        bonded.append(Line(bond.name, text, bond.state))
    bonded.append(Line("", LAST_WORD))
    run = [
        Line(
            coax.names[link.to_part],
            f"{said(link.length_m, 'm')} {catalogue.cables[link.cable].name}, from "
            f"{coax.names[link.from_part]} port {link.from_port + 1}"
            + (f"; {link.note}" if link.note else ""),
        )
        for link in job.links
        if link.cable in catalogue.cables
    ]
    names = {lane.id: f"{lane.name} {lane.frequency_mhz:.0f} MHz" for lane in coax.lanes}
    levels = []
    for row in coax.outlets:
        parts = [
            f"{group.group} {said(group.low.value, 'dbuv')} to {said(group.high.value, 'dbuv')}"
            for group in row.groups
        ]
        levels.append(Line(row.name, "; ".join(parts) or "no signal", row.state))
    taken = []
    latest: dict[str, str] = {}
    for reading in job.readings:
        latest[reading.part] = max(latest.get(reading.part, ""), reading.at)
    for reading_row in readings.rows:
        parts = []
        for cell in reading_row.cells:
            if cell.read_dbuv is None and cell.read_cn_db is None:
                continue
            figures = [said(cell.read_dbuv, "dbuv")] if cell.read_dbuv is not None else []
            if cell.read_cn_db is not None:
                figures.append(f"C/N {said(cell.read_cn_db, 'db')}")
            parts.append(f"{names[cell.carrier]}: {', '.join(figures)}")
        if parts:
            if latest.get(reading_row.part):
                parts.append(f"read {latest[reading_row.part]}")
            taken.append(Line(reading_row.name, "; ".join(parts), reading_row.as_read))
    left = [
        Line(p.place, f"{text_of(p.title, profile.units, profile.level)}. "
             f"{text_of(p.remedy, profile.units, profile.level)}", p.state)
        for p in problems
    ]  # fmt: skip
    titles = {
        step.key: text_of(step.title, profile.units, profile.level)
        for rows in steps.values() for step in rows
    }  # fmt: skip
    done = [
        Line(titles.get(m.step, m.step), _mark_text(m.at, m.value, m.note))
        for m in job.marks
        if m.at or m.note or m.value is not None
    ]
    sections = [
        Section("Job", head),
        Section("Aim", aimed or [Line("", "No antenna has a target yet.")]),
        Section("Mast", held),
        Section("Earth", bonded),
        Section("Run as built", run or [Line("", "No run yet.")]),
        Section("Levels planned at the outlets", levels or [Line("", "No outlets yet.")]),
        Section("Readings", taken or [Line("", "Nothing read yet.")]),
        Section("Steps done", done or [Line("", "None ticked yet.")]),
        Section("Still open", left or [Line("", "Nothing.")]),
    ]
    if job.scans:
        sections.insert(7, Section("Scans", _scan_lines(job)))
    if job.company.plan != "none":
        sections.insert(6, Section("Cable company's line", _company_lines(job, said)))
    if any(a.two_way for a in job.antennas):
        sections.insert(2, Section("Two-way terminal", _terminal_lines(job)))
    if job.handover.remarks:
        sections.append(Section("Remarks", [Line("", job.handover.remarks)]))
    return sections


_LEAVE = {
    "unasked": "not asked yet",
    "asked": "asked, no answer yet",
    "given": "given",
    "not_needed": "not needed here",
    "refused": "refused",
}


def _hold_lines(job: Job, antenna_id: str) -> list[Line]:
    """The spot that was taken for a terrestrial antenna."""
    antenna = next((a for a in job.antennas if a.id == antenna_id), None)
    hold = next((h for h in job.holds if antenna and h.id == antenna.hold), None)
    if hold is None:
        return []
    tried = sum(h.antenna == antenna_id for h in job.holds)
    return [
        Line(
            "Spot",
            f"{hold.place}, the best of {tried} that were tried; its readings are the source",
        )
    ]


def _scan_lines(job: Job) -> list[Line]:
    names = {o.id: o.name for o in job.outlets}
    return [
        Line(names[s.outlet], f"{s.at}: {len(s.found)} found, tuner set to {s.tuner}"
             + (f"; {s.note}" if s.note else ""))
        for s in job.scans
    ]  # fmt: skip


def _company_lines(job: Job, said: Callable[[float | None, str], str]) -> list[Line]:
    c = job.company
    plan = {"leave": "left for the own antenna", "both": "kept beside the own antenna"}
    lines = [
        Line("What becomes of it", plan.get(c.plan, c.plan)),
        Line("Lines", "known and labelled" if c.lines_known else "not proven yet"),
        Line("At the drop", f"{said(c.low_dbuv, 'dbuv')} at {c.low_mhz:.0f} MHz, {said(c.high_dbuv, 'dbuv')} at "
             f"{c.high_mhz:.0f} MHz"),
    ]  # fmt: skip
    if c.plan == "leave":
        lines.append(Line("Connection", "unplugged and capped" if c.unplugged else "still on"))
    else:
        lines.append(
            Line(
                "Return noise",
                f"{said(c.return_noise_dbuv, 'dbuv')} worst in {c.watched_s or 0:.0f} s",
            )
        )
    return [*lines, Line("", c.note)] if c.note else lines


def _dish_lines(job: Job, found: AimDetail) -> list[Line]:
    """What was set on a dish beyond its three angles."""
    lines = []
    antenna = next(a for a in job.antennas if a.id == found.aim.antenna)
    if antenna.scale_zero_deg:
        lines.append(
            Line("", f"the tool reads {antenna.scale_zero_deg:+.1f}° off, learned on site")
        )
    if found.row is not None:
        lines.append(Line("Row of feeds", found.row.tilt_words))
        for feed in found.row.feeds:
            text = f"{feed.line.offset_mm:+.0f} mm along the bar, {feed.line.loss_db:.1f} dB less"
            if feed.placed_mm is not None:
                text += f"; set at {feed.placed_mm:+.0f} mm"
            lines.append(Line(feed.line.name, text))
    if found.motor is not None:
        s = found.motor.settings
        lines.append(
            Line(
                "Motor",
                f"elevation {s.motor_elevation_deg:.2f}°, declination {s.declination_deg:.2f}°",
            )
        )
        for stop in found.motor.stops:
            side = "west" if stop.hour_deg > 0 else "east"
            lines.append(
                Line(
                    stop.name,
                    f"{abs(stop.hour_deg):.1f}° {side}{', ' + stop.why if stop.why else ''}",
                )
            )
    for peak in found.peaks:
        if peak.peak.centre is not None and peak.peak.top is not None:
            lines.append(
                Line(
                    f"Peak, {peak.axis}",
                    f"top {peak.peak.top:.1f} at {peak.peak.centre:.2f} {peak.unit}",
                )
            )
    for nut in found.tightened:
        lines.append(Line(f"Nut, {nut.axis}", f"{nut.before:.1f} before, {nut.after:.1f} after"))
    best = next((t for t in job.trials if t.id == found.tries.best), None)
    if best is not None:
        lines.append(
            Line("Feed, best try", f"depth {best.depth_mm:g}, side {best.sideways_mm:g}, height "
                 f"{best.height_mm:g} mm, skew {best.skew_deg:g}°: {best.reading:g}")
        )  # fmt: skip
    return lines


def _terminal_lines(job: Job) -> list[Line]:
    """The record that a terminal's provider asks for."""
    t = job.terminal
    beam = next((b for b in job.beams if b.id == t.beam), None)
    return [
        Line("Certified installer", f"{t.installer or 'not named'}, certificate {t.licence or 'not named'}"
             f"{', seen' if t.licence_seen else ', not seen'}"),
        Line("Beam", f"{beam.name}, code {beam.code}" if beam else "not chosen"),
        Line("Es/N0", "not read" if t.esn0_db is None else f"{t.esn0_db:.1f} dB"),
        Line("Cross-polar isolation", "not read" if t.isolation_db is None else f"{t.isolation_db:.1f} dB"),
        Line("State", t.state),
    ]  # fmt: skip


def _mark_text(at: str, value: float | None, note: str) -> str:
    text = at.replace("T", " ")[:16] if at else "not ticked"
    if value is not None:
        text += f", read {value:g}"
    return f"{text}; {note}" if note else text
