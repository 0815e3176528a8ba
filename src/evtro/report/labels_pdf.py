"""Labels for both ends of every cable as PDF: A4, four across, to print on a sheet and cut or on adhesive paper."""

from __future__ import annotations

import io
from collections.abc import Iterator
from dataclasses import dataclass
from typing import TYPE_CHECKING

from evtro.core.stations.kit.kit import CutReel
from evtro.core.units.quantities import Quantity, show

from .pdf import INK, LINE, QUIET, fonts

if TYPE_CHECKING:
    from reportlab.pdfgen.canvas import Canvas

WIDE, HIGH = 595.0, 842.0  # A4 [pt]
MARGIN = 28.0
ACROSS, DOWN = 4, 16
LABEL_W, LABEL_H = (WIDE - 2 * MARGIN) / ACROSS, (HIGH - 2 * MARGIN) / DOWN


@dataclass(frozen=True)
class Label:
    """What stands on one end of a cable: which cable, where this end is, where it goes or comes from."""

    cable: str
    here: str
    way: str
    more: str


def labels_of(reels: list[CutReel], units: str) -> Iterator[Label]:
    """Two for each cable, in the order of their numbers."""
    pieces = [(cut, reel.name) for reel in reels for cut in reel.cuts]
    for cut, name in sorted(pieces, key=lambda p: int(p[0].label[1:])):
        long = show(Quantity(cut.length_m, "m"), units)
        yield Label(cut.label, cut.from_name, f"to {cut.to_name}", f"{name}, {long}")
        yield Label(cut.label, cut.to_name, f"from {cut.from_name}", f"{name}, {long}")


def labels_pdf(job_name: str, reels: list[CutReel], units: str) -> bytes:
    """The labels of a job's cables, in metric or US units; one page at least."""
    from reportlab.pdfgen.canvas import Canvas

    fonts()
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(WIDE, HIGH), invariant=1)
    canvas.setTitle(f"Labels, {job_name}")
    canvas.setAuthor("Evtro")
    for n, label in enumerate(labels_of(reels, units)):
        if n and n % (ACROSS * DOWN) == 0:
            canvas.showPage()
        row, column = divmod(n % (ACROSS * DOWN), ACROSS)
        _draw(canvas, label, MARGIN + column * LABEL_W, HIGH - MARGIN - (row + 1) * LABEL_H)
    canvas.save()
    return out.getvalue()


def _draw(canvas: Canvas, label: Label, x: float, y: float) -> None:
    canvas.setStrokeColor(LINE)
    canvas.rect(x, y, LABEL_W, LABEL_H)
    canvas.setFillColor(INK)
    canvas.setFont("EvtroBold", 15)
    canvas.drawString(x + 6, y + LABEL_H - 20, label.cable)
    beside = x + 12 + canvas.stringWidth(label.cable, "EvtroBold", 15)
    canvas.setFont("EvtroBold", 8)
    canvas.drawString(
        beside, y + LABEL_H - 18, _fit(canvas, label.here, x + LABEL_W - 6 - beside, 8)
    )
    canvas.setFont("EvtroText", 7.5)
    canvas.drawString(x + 6, y + LABEL_H - 31, _fit(canvas, label.way, LABEL_W - 12, 7.5))
    canvas.setFillColor(QUIET)
    canvas.setFont("EvtroText", 6.5)
    canvas.drawString(x + 6, y + 6, _fit(canvas, label.more, LABEL_W - 12, 6.5))


def _fit(canvas: Canvas, text: str, wide: float, size: float) -> str:
    while text and canvas.stringWidth(text, "EvtroText", size) > wide:
        text = f"{text[:-2]}…" if len(text) > 2 else ""
    return text
