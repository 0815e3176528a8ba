"""The job sheet: the text that is shown on screen and printed."""

from __future__ import annotations

from ...job import Job, Photo, TaskRecord
from ...job.checklist import is_good
from ...job.parts import Catalogue
from ...job.problems import Problem
from ...job.profile import Profile
from ...job.words import decimals
from ...units.phrases import listed, say
from ...units.quantities import SHOWN, Gauge, Phrase, Quantity, Step, Unit
from ...units.severity import WORDS, State
from ..aim.answer import AimAnswer
from ..aim.dish.detail import AimDetail, detail
from ..coax.views.answer import CoaxAnswer
from ..earth.answer import LAST_WORD, Bond, EarthAnswer
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
    """All sections of the sheet; figures follow the units of whoever reads or prints it."""

    def judged(gauge: Gauge, digits: int = 1) -> Phrase:
        return _said(gauge.value, gauge.unit, digits)

    head = [
        _line("Job", job.name),
        _line("Place", job.place or "not named"),
        _line("Position", site.position or "not known"),
        _line("Date", job.date.isoformat()),
        _line("Practice", profile.name),
        _line("Customer", job.handover.customer or "not named"),
        _line("Installer", job.handover.installer or "not named"),
    ]
    if job.site.consent != "unasked" or job.site.consent_note:
        leave = _LEAVE[job.site.consent]
        note = f"; {job.site.consent_note}" if job.site.consent_note else ""
        head.append(_line("Leave of owner or association", leave + note))
    aimed = []
    for a in aim.aims:
        figures = [f"{a.azimuth_deg:.1f}° true"]
        if a.compass_deg is not None:
            figures.append(f"{a.compass_deg:.1f}° by compass")
        figures.append(f"elevation {a.elevation_deg:.1f}°")
        if a.inclinometer_deg is not None:
            figures.append(f"inclinometer {a.inclinometer_deg:.1f}° ({a.inclinometer_words})")
        aimed.append(_line(f"{a.name} to {a.target_name}", ", ".join(figures), a.state))
        aimed.append(_line("", a.skew_words))
        found = detail(job, sky, a)
        if found is not None:
            aimed += _dish_lines(job, found)
        aimed += _hold_lines(job, a.antenna)
    held = [
        _line("Moment at the fixing", judged(mast.moment, 0), mast.moment.state),
        _line("Moment the tube bears", _said(mast.tube.high, "nm", 0), mast.tube.state),
        _line("Held between brackets", judged(mast.held, 2), mast.held.state),
        *(
            _line(u.name[0].upper() + u.name[1:], judged(u.gauge, 0), u.gauge.state)
            for u in mast.uses
        ),
        _line("Wind", listed([_said(mast.pressure_pa, "pa", 0), mast.pressure_origin])),
    ]
    bonded = [_line("School", earth.school)]
    for bond in earth.bonds:
        if not bond.needed:
            bonded.append(_line(bond.name, "not needed here"))
            continue
        text = say("asked {}", bond.asked)
        if bond.conductor:
            text = say(
                "{} {}, {}, {}",
                judged(bond.size),
                (bond.material or "").replace("_", "-"),
                judged(bond.length),
                "joined" if bond.connected else "not confirmed",
            )
            text = listed([text, *_stretches(job, bond)], "; ")
        bonded.append(_line(bond.name, text, bond.state))
    bonded.append(_line("", LAST_WORD))
    run = [
        _line(
            coax.names[link.to_part],
            say(
                "{} {}, from {} port {}{}",
                _said(link.length_m, "m"),
                catalogue.cables[link.cable].name,
                coax.names[link.from_part],
                str(link.from_port + 1),
                f"; {link.note}" if link.note else "",
            ),
        )
        for link in job.links
        if link.cable in catalogue.cables
    ]
    names = {
        channel.id: f"{channel.name} {channel.frequency_mhz:.0f} MHz" for channel in coax.channels
    }
    levels = []
    for row in coax.outlets:
        groups = [
            say("{} {} to {}", group.group, judged(group.low), judged(group.high))
            for group in row.groups
        ]
        levels.append(_line(row.name, listed(groups, "; ") or "no signal", row.state))
    taken = []
    latest: dict[str, str] = {}
    for reading in job.readings:
        latest[reading.part] = max(latest.get(reading.part, ""), reading.at)
    for reading_row in readings.rows:
        parts: list[Phrase] = []
        when = latest.get(reading_row.part)
        for cell in reading_row.cells:
            if cell.read_dbuv is None and cell.read_cn_db is None:
                continue
            at_carrier = [_said(cell.read_dbuv, "dbuv")] if cell.read_dbuv is not None else []
            if cell.read_cn_db is not None:
                at_carrier.append(say("C/N {}", _said(cell.read_cn_db, "db")))
            parts.append(say("{}: {}", names[cell.carrier], listed(at_carrier)))
        if parts:
            parts += [(f"read {when}",)] if when else []
            taken.append(_line(reading_row.name, listed(parts, "; "), reading_row.as_read))
    left = [_line(p.place, listed([p.title, p.remedy], ". "), p.state) for p in problems]
    known = {step.key: step for rows in steps.values() for step in rows}
    left += [
        _line(
            known[m.step].title if m.step in known else m.step,
            f"left as it is: {m.left_why}",
            "marginal",
        )
        for m in job.marks
        if m.left_why
    ]
    done = [
        _line(known[m.step].title if m.step in known else m.step, _ticked(m, known.get(m.step)))
        for m in job.marks
        if m.at or m.note or m.value is not None or m.confirmed_by
    ]
    sections = [
        Section("Job", head),
        Section("Aim", aimed or [_line("", "No antenna has a target yet.")]),
        Section("Mast", held),
        Section("Earth", bonded),
        Section("Run as built", run or [_line("", "No run yet.")]),
        Section("Levels planned at the outlets", levels or [_line("", "No outlets yet.")]),
        Section("Readings", taken or [_line("", "Nothing read yet.")]),
        Section("Steps done", done or [_line("", "None ticked yet.")]),
        Section("Still open", left or [_line("", "Nothing.")]),
    ]
    if job.scans:
        sections.insert(7, Section("Scans", _scan_lines(job)))
    if job.company.plan != "none":
        sections.insert(6, Section("Cable company's line", _company_lines(job)))
    if any(a.two_way for a in job.dishes):
        sections.insert(2, Section("Two-way terminal", _terminal_lines(job)))
    if job.photos:
        sections.append(
            Section(
                "Photographs",
                [
                    _line(
                        known[p.step].title if p.step in known else p.step,
                        listed(
                            [
                                (f"photo {n + 1}",),
                                (p.at[:16],),
                                *([(p.taken_by,)] if p.taken_by else []),
                                *([(p.note,)] if p.note else []),
                                *_taken_at(p),
                            ]
                        ),
                    )
                    for n, p in enumerate(job.photos)
                ],
            )
        )
    if job.handover.remarks:
        sections.append(Section("Remarks", [_line("", job.handover.remarks)]))
    return sections


def _stretches(job: Job, bond: Bond) -> list[Phrase]:
    """What a conductor is made of, where it is of several or somebody said from where to where it runs."""
    rows = {c.id: c for c in job.conductors}
    line = [rows[c] for c in bond.stretches if c in rows]
    said: list[Phrase] = []
    for c in line:
        way = f"{c.begins or 'on'} to {c.ends or 'its end'}" if c.begins or c.ends else ""
        if not way and not c.bends and len(line) == 1:
            continue
        bends = f", {c.bends} bend{'s' * (c.bends > 1)}" if c.bends else ""
        said.append(
            (
                f"{way}: " if way else "",
                _said(c.length_m, "m")[0],
                " of ",
                Quantity(c.size_mm2, "mm2", 1),
                f" {c.material.replace('_', '-')}{bends}",
            )
        )
    return said


def _taken_at(photo: Photo) -> list[Phrase]:
    """Where a photograph was taken, as far as whoever took it sent that."""
    if photo.latitude_deg is None or photo.longitude_deg is None:
        return []
    return [(f"taken at {photo.latitude_deg:.5f}, {photo.longitude_deg:.5f}",)]


_LEAVE = {
    "unasked": "not asked yet",
    "asked": "asked, no answer yet",
    "given": "given",
    "not_needed": "not needed here",
    "refused": "refused",
}


def _hold_lines(job: Job, antenna_id: str) -> list[Line]:
    """The spot that was taken for a terrestrial antenna."""
    antenna = next((a for a in job.arrays if a.id == antenna_id), None)
    spot = next((s for s in job.trial_spots if antenna and s.id == antenna.stands_at), None)
    if spot is None:
        return []
    tried = sum(h.antenna == antenna_id for h in job.trial_spots)
    return [
        _line(
            "Spot",
            f"{spot.place}, the best of {tried} that were tried; its readings are the source",
        )
    ]


def _scan_lines(job: Job) -> list[Line]:
    names = {o.id: o.name for o in job.outlets}
    return [
        _line(
            names[s.outlet],
            f"{s.at}: {len(s.found)} found, tuner set to {s.tuner}"
            + (f"; {s.note}" if s.note else ""),
        )
        for s in job.scans
    ]


def _company_lines(job: Job) -> list[Line]:
    c = job.company
    plan = {"leave": "left for the own antenna", "both": "kept beside the own antenna"}
    lines = [
        _line("What becomes of it", plan.get(c.plan, c.plan)),
        _line("Lines", "known and labelled" if c.lines_known else "not proven yet"),
        _line(
            "At the drop",
            say(
                "{} at {}, {} at {}",
                _said(c.low_dbuv, "dbuv"),
                _said(c.low_mhz, "mhz", 0),
                _said(c.high_dbuv, "dbuv"),
                _said(c.high_mhz, "mhz", 0),
            ),
        ),
    ]
    if c.plan == "leave":
        lines.append(_line("Connection", "unplugged and capped" if c.unplugged else "still on"))
    else:
        lines.append(
            _line(
                "Return noise",
                say(
                    "{} worst in {} s",
                    _said(c.return_noise_dbuv, "dbuv"),
                    f"{c.watched_s or 0:.0f}",
                ),
            )
        )
    return [*lines, _line("", c.note)] if c.note else lines


def _dish_lines(job: Job, found: AimDetail) -> list[Line]:
    """What was set on a dish beyond its three angles."""
    lines = []
    antenna = next(d for d in job.dishes if d.id == found.aim.antenna)
    if antenna.scale_zero_deg:
        lines.append(
            _line("", f"the tool reads {antenna.scale_zero_deg:+.1f}° off, learned on site")
        )
    if found.row is not None:
        lines.append(_line("Row of feeds", found.row.tilt_words))
        for feed in found.row.feeds:
            text = say(
                "{} along the bar, {} less",
                Quantity(feed.line.offset_mm, "mm", 0),
                Quantity(feed.line.loss_db, "db"),
            )
            if feed.placed_mm is not None:
                text = say("{}; set at {}", text, Quantity(feed.placed_mm, "mm", 0))
            lines.append(_line(feed.line.name, text))
    if found.motor is not None:
        s = found.motor.settings
        lines.append(
            _line(
                "Motor",
                f"elevation {s.motor_elevation_deg:.2f}°, declination {s.declination_deg:.2f}°",
            )
        )
        for stop in found.motor.stops:
            side = "west" if stop.hour_deg > 0 else "east"
            lines.append(
                _line(
                    stop.name,
                    f"{abs(stop.hour_deg):.1f}° {side}{', ' + stop.why if stop.why else ''}",
                )
            )
    for peak in found.peaks:
        if peak.peak.centre is not None and peak.peak.top is not None:
            lines.append(
                _line(
                    f"Peak, {peak.axis}",
                    say(
                        "top {} at {}",
                        f"{peak.peak.top:.1f}",
                        _position(peak.peak.centre, peak.unit),
                    ),
                )
            )
    for nut in found.tightened:
        lines.append(_line(f"Nut, {nut.axis}", f"{nut.before:.1f} before, {nut.after:.1f} after"))
    best = next((t for t in job.feed_tries if t.id == found.tries.best), None)
    if best is not None:
        lines.append(
            _line(
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


def _terminal_lines(job: Job) -> list[Line]:
    """The record that a terminal's provider asks for."""
    t = job.terminal
    beam = next((b for b in job.beams if b.id == t.beam), None)
    return [
        _line(
            "Certified installer",
            f"{t.installer or 'not named'}, certificate {t.licence or 'not named'}"
            f"{', seen' if t.licence_seen else ', not seen'}",
        ),
        _line("Beam", f"{beam.name}, code {beam.code}" if beam else "not chosen"),
        _line("Es/N0", "not read" if t.esn0_db is None else f"{t.esn0_db:.1f} dB"),
        _line(
            "Cross-polar isolation",
            "not read" if t.isolation_db is None else f"{t.isolation_db:.1f} dB",
        ),
        _line("State", t.state),
    ]


def _ticked(mark: TaskRecord, step: Step | None) -> Phrase:
    when = mark.at.replace("T", " ")[:16] if mark.at else "not ticked"
    asked: Unit = step.measure.unit if step is not None and step.measure is not None else "count"
    unit = next((u for u in SHOWN if u == mark.unit), asked)
    read = [] if mark.value is None else [_said(mark.value, unit, decimals(mark.value))]
    judged = step.measure.state if read and step is not None and step.measure is not None else None
    if mark.at and mark.done_by:
        when += f", {mark.done_by}"
    if mark.left_why:
        when = f"left as it is, {when}: {mark.left_why}"
    said = [
        (when,),
        *(say("read {}", r) for r in read),
        *([(WORDS[judged],)] if judged and judged != "unknown" else []),
    ]
    looked: list[Phrase] = []
    if mark.danger_read and mark.confirmed_by and step is not None:
        looked = [
            (f"{step.gate}: {mark.confirmed_by}, {mark.confirmed_at.replace('T', ' ')[:16]}",)
        ]
    return listed(
        [listed(said), *looked, *_things(step), *([(mark.note,)] if mark.note else [])], "; "
    )


def _things(step: Step | None) -> list[Phrase]:
    """What was seen of a step's things, where it is more than that all of them are as they should be."""
    said: list[Phrase] = []
    for one in step.things if step is not None else ():
        read = None if one.torque is None else one.torque.value
        if one.state is None or (is_good(one) and read is None and not one.note):
            continue
        said.append(
            (
                *one.name,
                f" {one.state}",
                *((", ", Quantity(read, "nm", 0)) if read is not None else ()),
                f", {one.note}" if one.note else "",
            )
        )
    return said


def _line(label: Phrase | str, text: Phrase | str, state: State | None = None) -> Line:
    wide = [part if isinstance(part, tuple) else (part,) if part else () for part in (label, text)]
    return Line(label=wide[0], text=wide[1], state=state)


def _position(value: float, unit: str) -> Phrase:
    if unit == "deg":
        return (Quantity(value, "deg", 2),)
    return (f"{value:.2f} {unit}s".replace("-", "−"),)


def _said(value: float | None, unit: Unit, digits: int = 1) -> Phrase:
    return ("not known",) if value is None else (Quantity(value, unit, digits),)
