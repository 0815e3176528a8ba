"""What the job sheet says of the work: steps done, what is still open, photographs, remarks."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from ...job import Job, Photo, TaskRecord
from ...job.checklist import is_good
from ...job.problems import Problem
from ...job.sections import Line, Section, line, shown
from ...job.words import decimals
from ...units.phrases import listed, say
from ...units.quantities import SHOWN, Phrase, Quantity, Step, Unit
from ...units.severity import WORDS


def work_sections(
    job: Job, problems: list[Problem], steps: Mapping[str, list[Step]]
) -> Iterator[Section]:
    """What was done, and what is left to do."""
    known = {step.key: step for rows in steps.values() for step in rows}
    done = [
        line(_title(known, m.step), _ticked(m, known.get(m.step)))
        for m in job.marks
        if m.at or m.note or m.value is not None or m.confirmed_by
    ]
    left = [line(p.place, listed([p.title, p.remedy], ". "), p.state) for p in problems]
    left += [
        line(_title(known, m.step), f"left as it is: {m.left_why}", "marginal")
        for m in job.marks
        if m.left_why
    ]
    yield Section("Steps done", done or [line("", "None ticked yet.")])
    yield Section("Still open", left or [line("", "Nothing.")])
    if job.photos:
        rows = enumerate(job.photos, start=1)
        yield Section("Photographs", [_photo(known, number, p) for number, p in rows])
    if job.handover.remarks:
        yield Section("Remarks", [line("", job.handover.remarks)])


def _title(known: Mapping[str, Step], key: str) -> Phrase | str:
    return known[key].title if key in known else key


def _photo(known: Mapping[str, Step], number: int, photo: Photo) -> Line:
    said: list[Phrase] = [(f"photo {number}",), (photo.at[:16],)]
    said += [(text,) for text in (photo.taken_by, photo.note) if text]
    return line(_title(known, photo.step), listed([*said, *_taken_at(photo)]))


def _taken_at(photo: Photo) -> list[Phrase]:
    """Where a photograph was taken, as far as whoever took it sent that."""
    if photo.latitude_deg is None or photo.longitude_deg is None:
        return []
    return [(f"taken at {photo.latitude_deg:.5f}, {photo.longitude_deg:.5f}",)]


def _ticked(mark: TaskRecord, step: Step | None) -> Phrase:
    when = mark.at.replace("T", " ")[:16] if mark.at else "not ticked"
    asked: Unit = step.measure.unit if step is not None and step.measure is not None else "count"
    unit = next((u for u in SHOWN if u == mark.unit), asked)
    read = [] if mark.value is None else [shown(mark.value, unit, decimals(mark.value))]
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
