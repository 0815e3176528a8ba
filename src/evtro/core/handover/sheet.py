"""The job sheet: the text that is shown on screen and printed."""

from __future__ import annotations

from ..aim.answer import AimAnswer
from ..coax.answer import CoaxAnswer
from ..coax.names import part_name
from ..earth.answer import LAST_WORD, EarthAnswer
from ..job import Job
from ..mast.answer import MastAnswer
from ..parts import Catalogue
from ..profile import Profile
from ..quantities import Gauge, Problem, Quantity, show, text_of
from ..readings.answer import ReadingsAnswer
from ..site.answer import SiteAnswer
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
            part_name(job, catalogue, link.to_part),
            f"{said(link.length_m, 'm')} {catalogue.cables[link.cable].name}, from "
            f"{part_name(job, catalogue, link.from_part)} port {link.from_port + 1}"
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
            taken.append(Line(reading_row.name, "; ".join(parts), reading_row.as_read))
    left = [
        Line(p.place, f"{text_of(p.title, profile.units, profile.level)}. "
             f"{text_of(p.remedy, profile.units, profile.level)}", p.state)
        for p in problems
    ]  # fmt: skip
    done = [
        Line(m.step.replace(".", " ").replace("-", " "), _mark_text(m.done_at, m.value, m.note))
        for m in job.marks
        if m.done_at
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
    if job.handover.remarks:
        sections.append(Section("Remarks", [Line("", job.handover.remarks)]))
    return sections


def _mark_text(done_at: str, value: float | None, note: str) -> str:
    text = done_at.replace("T", " ")[:16]
    if value is not None:
        text += f", read {value:g}"
    return f"{text}; {note}" if note else text
