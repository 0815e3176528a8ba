"""The job sheet as PDF, A4, with the program's own fonts."""

from __future__ import annotations

import io
from collections.abc import Sequence
from functools import cache
from importlib import resources
from typing import Any

from evtro.core.job import Job
from evtro.core.job.sections import Section
from evtro.core.units.quantities import text_of
from evtro.core.units.severity import WORDS

INK, QUIET, LINE = "#1D2B2A", "#5A6764", "#D6D0C3"
COLOURS = {"ok": "#256B5C", "marginal": "#8F5B00", "fail": "#A1352A", "unknown": QUIET}


@cache
def fonts() -> None:
    """Register the program's own faces."""
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont

    folder = resources.files("evtro.report").joinpath("fonts")
    for name in ("EvtroText", "EvtroBold", "EvtroMore"):
        with folder.joinpath(f"{name}.ttf").open("rb") as file:
            pdfmetrics.registerFont(TTFont(name, io.BytesIO(file.read())))


def _picture(data: bytes, width: float) -> Any:
    from reportlab.lib.utils import ImageReader
    from reportlab.platypus import Image

    wide, tall = ImageReader(io.BytesIO(data)).getSize()
    # Upright ones are no taller than wide ones are wide.
    scale = width / max(wide, tall)
    return Image(io.BytesIO(data), wide * scale, tall * scale)


def job_sheet_pdf(
    job: Job,
    sections: list[Section],
    units: str,
    level: str,
    pictures: Sequence[tuple[int, bytes]] = (),
) -> bytes:
    """The sheet as it stands on the screen, as a PDF document, in metric or US units and a unit of
    level; at its end the photographs, each with its number."""
    from reportlab.lib.colors import HexColor
    from reportlab.lib.pagesizes import A4
    from reportlab.lib.styles import ParagraphStyle
    from reportlab.lib.units import mm
    from reportlab.platypus import Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

    fonts()
    text = ParagraphStyle(
        "text", fontName="EvtroText", fontSize=9, leading=12.5, textColor=HexColor(INK)
    )
    quiet = ParagraphStyle("quiet", parent=text, textColor=HexColor(QUIET))
    head = ParagraphStyle(
        "head",
        parent=text,
        fontName="EvtroBold",
        fontSize=12,
        leading=16,
        spaceBefore=10,
        spaceAfter=4,
    )
    title = ParagraphStyle("title", parent=head, fontSize=20, leading=25, spaceBefore=0)
    story: list[Any] = [
        Paragraph(_safe(job.name), title),
        Paragraph(_safe(f"Job sheet. {job.place}"), quiet),
    ]
    for section in sections:
        story.append(Paragraph(_safe(section.title), head))
        rows = []
        for line in section.lines:
            word = ""
            if line.state:
                word = f'<font color="{COLOURS[line.state]}">{WORDS[line.state]}</font>'
            rows.append(
                [
                    Paragraph(_safe(text_of(line.label, units, level)), quiet),
                    Paragraph(_safe(text_of(line.text, units, level)), text),
                    Paragraph(word, text),
                ]
            )
        table = Table(rows, colWidths=[46 * mm, 112 * mm, 16 * mm])
        table.setStyle(
            TableStyle(
                [
                    ("VALIGN", (0, 0), (-1, -1), "TOP"),
                    ("LINEBELOW", (0, 0), (-1, -1), 0.4, HexColor(LINE)),
                    ("LEFTPADDING", (0, 0), (-1, -1), 0),
                    ("TOPPADDING", (0, 0), (-1, -1), 2),
                    ("BOTTOMPADDING", (0, 0), (-1, -1), 2),
                ]
            )
        )
        story.append(table)
    story.append(Spacer(1, 14))
    if pictures:
        cells = [[_picture(data, 54 * mm), Paragraph(f"photo {n}", quiet)] for n, data in pictures]
        rows = [cells[i : i + 3] for i in range(0, len(cells), 3)]
        rows[-1] += [""] * (3 - len(rows[-1]))
        story.append(Table(rows, colWidths=[58 * mm] * 3, hAlign="LEFT"))
    out = io.BytesIO()

    def foot(canvas: Any, document: Any) -> None:
        canvas.setFont("EvtroText", 8)
        canvas.setFillColor(HexColor(QUIET))
        canvas.drawString(18 * mm, 10 * mm, f"{job.name}, {job.date.isoformat()}")
        canvas.drawRightString(192 * mm, 10 * mm, f"Evtro, page {document.page}")

    SimpleDocTemplate(
        out,
        pagesize=A4,
        leftMargin=18 * mm,
        rightMargin=18 * mm,
        topMargin=16 * mm,
        bottomMargin=18 * mm,
        title=f"Job sheet, {job.name}",
        author="Evtro",
        invariant=1,
    ).build(story, onFirstPage=foot, onLaterPages=foot)
    return out.getvalue()


def _safe(text: str) -> str:
    plain = text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")
    # The text face lacks the micro sign: a companion face gives it.
    return plain.replace("µ", '<font name="EvtroMore">µ</font>')
