"""Files for others: no formula in a spreadsheet, no broken XML, whatever a name holds."""

from __future__ import annotations

import csv
import io
import json
from xml.etree import ElementTree

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from evtro.core.job import Job, Outlet
from evtro.core.units.plain import check_text, cleaned
from evtro.core.units.quantities import InputError
from evtro.demo.world import fern_cottage, skerry_house
from evtro.formats import satellites, tables
from evtro.formats.geo import write_geojson, write_kml
from evtro.formats.jobfile import write_job

DANGEROUS = (
    "=1+1",
    "+49 30",
    "-12",
    "@SUM(A1)",
    "\tx",
    "'=1",
    "''=1",
    "'",
    "=cmd|' /C calc'!A0",
    "plain",
    "'plain",
)
COLUMNS = ("a", "b")
# Text that a name may hold: anything but what is no character.
names = st.text(
    st.characters(exclude_categories=["Cc", "Cs", "Cn", "Zl", "Zp"]), min_size=1, max_size=60
)


@pytest.mark.parametrize("text", DANGEROUS)
def test_a_cell_is_safe_and_reads_back_the_same(text: str) -> None:
    written = tables.write_table(COLUMNS, [{"a": text, "b": -7.5}])
    (row,) = list(csv.reader(io.StringIO(written)))[1:]
    assert not row[0].startswith(("=", "+", "-", "@", "\t", "\r"))
    assert row[1] == "-7.5"  # a figure is none of theirs
    ((_, back),) = tables.read_table(written, COLUMNS)
    assert back["a"].strip() == text.strip()


@given(names)
def test_any_name_through_a_table(text: str) -> None:
    written = tables.write_table(COLUMNS, [{"a": text, "b": "x"}])
    ((_, back),) = tables.read_table(written, COLUMNS)
    assert back["a"] == text.strip()
    (row,) = list(csv.reader(io.StringIO(written)))[1:]
    assert not row[0].startswith(("=", "+", "-", "@"))


@pytest.mark.parametrize("name", ["=Halcyon", "-Wren", "@Corvus", "+1"])
def test_satellites_of_such_names_come_back(name: str) -> None:
    job = skerry_house()
    targets = tuple(t.model_copy(update={"name": name}) if t.id == "t1" else t for t in job.targets)
    job = job.model_copy(update={"targets": targets})
    text = satellites.write_csv(job)
    assert f",{name}" not in text
    assert not text.splitlines()[1].startswith(name)
    bare = job.model_copy(
        update={
            "targets": (),
            "carriers": (),
            "dishes": (),
            "arrays": (),
            "parts": (),
            "links": (),
            "readings": (),
            "outlets": (),
            "feeds": (),
        }
    )
    there, left = satellites.take(satellites.lines_of(text.encode()), bare)
    assert not left
    assert name in [t.name for t in there.targets]


@pytest.mark.parametrize(
    "code",
    [0x00, 0x07, 0x08, 0x0B, 0x1B, 0x1F, 0x7F, 0x85, 0x9F, 0xD800, 0xDFFF, 0xFDD0, 0xFFFE, 0xFFFF],
)
def test_what_is_no_character_is_refused_in_a_name(code: int) -> None:
    with pytest.raises((ValidationError, InputError)):
        Outlet(id="o1", name=f"Hall{chr(code)}")
    assert cleaned({"name": f"a{chr(code)}b"}) == {"name": "a b"}


def test_notes_hold_lines_and_names_do_not() -> None:
    assert check_text("one\r\ntwo\tx\r", lines=True) == "one\ntwo\tx\n"
    for text in ("one\ntwo", "one\ttwo", "one\u2028two"):
        with pytest.raises(InputError, match="control character"):
            check_text(text)


def _named(text: str) -> Job:
    job = fern_cottage()
    return job.model_copy(
        update={
            "name": text,
            "place": text,
            "targets": tuple(t.model_copy(update={"name": text}) for t in job.targets),
            "outlets": tuple(o.model_copy(update={"name": text}) for o in job.outlets),
        }
    )


@given(names)
def test_kml_and_geojson_are_whole_for_any_name(text: str) -> None:
    """Reference: XML 1.0 by the standard library's parser, RFC 8259."""
    job = Job.model_validate(_named(text).model_dump())
    root = ElementTree.fromstring(write_kml(job).encode())
    found = [e.text for e in root.iter("{http://www.opengis.net/kml/2.2}name")]
    assert found[0] == text.replace("\r", "\n") or found[0] == text
    assert json.loads(write_geojson(job))["features"][0]["properties"]["name"] == text
    assert json.loads(write_job(job))["job"]["name"] == text


@pytest.mark.parametrize(
    "text", ["<b>&amp;\"'", "日本 Δ λ", "🛰 dish", "a\u202eb", "=1", "%s {0}", "\\ud800", "x" * 80]
)
def test_a_sheet_is_whole_for_any_name(text: str) -> None:
    """Reference: pypdf reads it."""
    import pypdf

    from evtro import catalogue, profiles
    from evtro.core.answers import work_out
    from evtro.report.pdf import job_sheet_pdf

    job = Job.model_validate(_named(text).model_dump())
    parts, profile = catalogue.load(), profiles.load(job.profile)
    answers = work_out(job, parts, profile)
    data = job_sheet_pdf(job, answers.sheet, "metric", "dbuv")
    assert len(pypdf.PdfReader(io.BytesIO(data)).pages) >= 1
