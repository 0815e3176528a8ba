"""The run and its level plan as PDF, A4 across, on one to four pages, with what its devices get and give."""

from __future__ import annotations

import io
import math
from dataclasses import dataclass
from typing import Any

from evtro.core.job import Cable, Job
from evtro.core.stations.coax.views.answer import CoaxAnswer, OutletView, PartView
from evtro.core.stations.coax.views.layout import PartPlace
from evtro.core.stations.coax.views.level_plan import DeviceRow, devices
from evtro.core.units.quantities import Quantity, show
from evtro.core.units.severity import WORDS

from .pdf import COLOURS, INK, LINE, QUIET, fonts

COPPER = "#A9551F"
WIDE, HIGH = 842.0, 595.0  # A4 across [pt]
MARGIN, HEAD, FOOT = 34.0, 96.0, 30.0
TABLE_X = 476.0
MOST_PAGES, ROW_PT = 4, 15.0
BARS = ("grounding_block", "arrester", "splitter", "tap", "multiswitch", "combiner", "plate")
SHOWN_DEVICES = 26  # rows of a page
# What comes from an own antenna and what from a company never share a plate.
_GROUP_X = {"terrestrial": TABLE_X + 112, "cable": TABLE_X + 112, "satellite": TABLE_X + 214}


@dataclass(frozen=True)
class _Sheet:
    """How rows lie on pages: rows a page, height of one [pt]."""

    pages: int
    rows: int
    row_pt: float

    def y(self, row: float, page: int) -> float:
        """Height of a row on a page [pt]."""
        return HIGH - HEAD - (row - page * self.rows + 0.7) * self.row_pt


def _sheet(rows: float) -> _Sheet:
    room = HIGH - HEAD - FOOT
    pages = min(max(math.ceil(rows * ROW_PT / room), 1), MOST_PAGES)
    each = max(math.ceil(rows / pages), 1)
    return _Sheet(pages, each, min(room / (each + 0.6), ROW_PT * 2.2))


def run_pdf(job: Job, answer: CoaxAnswer, units: str, level: str) -> bytes:
    """The run drawn with the figures of every outlet, in metric or US units and a unit of level."""
    from reportlab.pdfgen.canvas import Canvas

    fonts()
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(WIDE, HIGH), invariant=1)
    canvas.setTitle(f"Run, {job.name}")
    canvas.setAuthor("Evtro")
    at = _Run(job, answer, units, level=level)
    sheet = _sheet(answer.layout.rows)
    rows = devices(answer)
    tables = math.ceil(len(rows) / SHOWN_DEVICES)
    for page in range(sheet.pages):
        at.head(canvas, page + 1, sheet.pages + tables)
        at.bands(canvas)
        at.picture(canvas, sheet, page)
        canvas.showPage()
    for n in range(tables):
        at.head(canvas, sheet.pages + n + 1, sheet.pages + tables)
        at.table(canvas, rows[n * SHOWN_DEVICES : (n + 1) * SHOWN_DEVICES])
        canvas.showPage()
    canvas.save()
    return out.getvalue()


class _Run:
    """Draws one job's run."""

    def __init__(self, job: Job, answer: CoaxAnswer, units: str, *, level: str) -> None:
        self.job, self.answer, self.units, self.level = job, answer, units, level
        self.places = {p.part: p for p in answer.layout.places}
        self.parts = {p.id: p for p in answer.parts}
        self.outlets: dict[str | None, OutletView] = {o.part: o for o in answer.view.outlets}
        self.step = (TABLE_X - 40.0 - MARGIN) / max(answer.layout.columns, 1)

    def figure(self, value: float | None, unit: str = "dbuv", digits: int = 1) -> str:
        """A figure as somebody reads it."""
        if value is None:
            return ""
        return show(Quantity(value, unit, digits), self.units, self.level)  # type: ignore[arg-type]

    def head(self, canvas: Any, page: int, pages: int) -> None:
        """Title and foot of a page."""
        view = self.answer.view
        self._ink(canvas, INK, "EvtroBold", 15)
        canvas.drawString(MARGIN, HIGH - 34, self.job.name)
        self._ink(canvas, QUIET, "EvtroText", 9)
        said = f"{self.job.place}, {self.job.date.isoformat()}: {view.inside} of {view.wanted} outlets in"
        canvas.drawString(MARGIN, HIGH - 47, said)
        said = f"Levels in {self.unit}; copper lines are cables with their lengths; by a part: the least level that it gives."
        self._with_micro(canvas, MARGIN, 16, text=said, size=9)
        canvas.drawRightString(WIDE - MARGIN, 16, f"Evtro, page {page} of {pages}")

    @property
    def unit(self) -> str:
        """The unit of level in force."""
        return self.figure(0.0).split()[-1]

    def bare(self, value: float | None) -> str:
        """A level without its unit, which stands in the foot."""
        return self.figure(value).split(" ")[0] if value is not None else ""

    def _with_micro(self, canvas: Any, x: float, y: float, *, text: str, size: float) -> None:
        """Text in which a companion face gives the micro sign that the text face lacks."""
        line = canvas.beginText(x, y)
        for n, piece in enumerate(text.split("µ")):
            if n:
                line.setFont("EvtroMore", size)
                line.textOut("µ")
            line.setFont("EvtroText", size)
            line.textOut(piece)
        canvas.drawText(line)

    def bands(self, canvas: Any) -> None:
        """What stands over the levels of the outlets: each group with its lowest and highest frequency."""
        groups: dict[str, tuple[float, float]] = {}
        for outlet in self.outlets.values():
            for g in outlet.groups:
                low, high = groups.get(g.group, (g.low_mhz, g.high_mhz))
                groups[g.group] = min(low, g.low_mhz), max(high, g.high_mhz)
        names = {
            "terrestrial": "Terrestrial",
            "satellite": "Satellite IF",
            "cable": "Company's line",
        }
        for name, (low, high) in groups.items():
            x = _GROUP_X[name]
            lift = 24.0 if name == "cable" and "terrestrial" in groups else 0.0
            self._ink(canvas, INK, "EvtroBold", 8.5)
            canvas.drawString(x, HIGH - 62 + lift, names[name])
            self._ink(canvas, QUIET, "EvtroText", 8.5)
            canvas.drawRightString(x + 94, HIGH - 72 + lift, f"{low:.0f}, {high:.0f} MHz")

    def _ink(self, canvas: Any, colour: str, font: str, size: float) -> None:
        from reportlab.lib.colors import HexColor

        canvas.setFillColor(HexColor(colour))
        canvas.setFont(font, size)

    def x(self, column: int) -> float:
        """Where a column stands [pt]."""
        return MARGIN + 24 + column * self.step

    def picture(self, canvas: Any, sheet: _Sheet, page: int) -> None:
        """The rows of one page."""
        first, last = page * sheet.rows, (page + 1) * sheet.rows
        text = min(max(sheet.row_pt * 0.62, 5.0), 9.5)
        canvas.saveState()
        clip = canvas.beginPath()
        clip.rect(0, FOOT, WIDE, HIGH - FOOT - HEAD + 28)
        canvas.clipPath(clip, stroke=0)
        for link in self.job.links:
            self._wire(canvas, sheet, page, link=link, text=text)
        for place in self.answer.layout.places:
            part = self.parts.get(place.part)
            if part is None or place.bottom < first - 0.6 or place.top > last - 0.4:
                continue
            if place.leaf:
                self._leaf(canvas, sheet.y(place.top, page), part, text)
            else:
                self._trunk(canvas, sheet, page, place=place, text=text)
                if place.part in self.outlets:
                    self._leaf(canvas, sheet.y(place.out_rows[-1] or place.top, page), part, text)
        canvas.restoreState()

    def _wire(self, canvas: Any, sheet: _Sheet, page: int, *, link: Cable, text: float) -> None:
        from reportlab.lib.colors import HexColor

        start, end = self.places.get(link.from_part), self.places.get(link.to_part)
        if start is None or end is None:
            return
        row = end.in_rows[link.to_port] if link.to_port < len(end.in_rows) else end.top
        if not page * sheet.rows - 0.4 <= row < (page + 1) * sheet.rows - 0.4:
            return
        y = sheet.y(row, page)
        x1, x2 = self.x(start.column), TABLE_X - 8 if end.leaf else self.x(end.column)
        canvas.setStrokeColor(HexColor(COPPER))
        canvas.setLineWidth(1.1)
        canvas.line(x1, y, x2, y)
        if link.length_m >= 1:
            self._ink(canvas, QUIET, "EvtroText", max(text - 1.5, 4.5))
            canvas.drawString(x1 + 7, y + 1.5, self.figure(link.length_m, "m", 0))

    def _trunk(
        self, canvas: Any, sheet: _Sheet, page: int, *, place: PartPlace, text: float
    ) -> None:
        from reportlab.lib.colors import HexColor

        part = self.parts[place.part]
        x, top, bottom = self.x(place.column), sheet.y(place.top, page), sheet.y(place.bottom, page)
        canvas.setStrokeColor(HexColor(INK))
        canvas.setFillColor(HexColor("#FFFFFF"))
        canvas.setLineWidth(0.9)
        if part.kind in BARS:
            wide = 12 if part.kind in ("splitter", "multiswitch") else 5
            canvas.rect(x - wide / 2, bottom - 5, wide, top - bottom + 10, fill=1)
        else:
            rows = [r for r in place.out_rows if r is not None]
            if len(rows) > 1:
                canvas.line(x, sheet.y(min(rows), page), x, sheet.y(max(rows), page))
            canvas.circle(x, (top + bottom) / 2, 4.5, fill=1)
        edge = HIGH - HEAD + 8
        y = min(top + 8, edge)
        self._ink(canvas, INK, "EvtroBold", text)
        canvas.drawCentredString(x, y + text, part.name[:20])
        least = part.groups[0].least_dbuv if part.groups else None
        self._ink(canvas, QUIET, "EvtroText", text)
        canvas.drawCentredString(x, y, self.bare(least))

    def _leaf(self, canvas: Any, y: float, part: PartView, text: float) -> None:
        outlet = self.outlets.get(part.id)
        self._ink(canvas, QUIET if outlet is None else INK, "EvtroText", text)
        canvas.drawString(TABLE_X, y - text / 3, part.name[:22])
        if outlet is None:
            return
        for group in outlet.groups[:2]:
            x = _GROUP_X[group.group]
            self._ink(canvas, COLOURS[group.state], "EvtroText", text)
            canvas.drawRightString(x + 54, y - text / 3, self.bare(group.low.value))
            canvas.drawRightString(x + 94, y - text / 3, self.bare(group.high.value))
        self._ink(canvas, COLOURS[outlet.state], "EvtroBold", text)
        canvas.drawRightString(WIDE - MARGIN, y - text / 3, WORDS[outlet.state])

    def table(self, canvas: Any, rows: list[DeviceRow]) -> None:
        """What devices get and give."""
        from reportlab.lib.colors import HexColor

        heads = (
            (MARGIN, "device"),
            (MARGIN + 190, "part"),
            (MARGIN + 440, "set to"),
            (MARGIN + 490, "gets"),
            (MARGIN + 600, "gives"),
            (MARGIN + 710, "at most"),
        )
        y = HIGH - HEAD - 8
        self._ink(canvas, QUIET, "EvtroBold", 9)
        for x, word in heads:
            canvas.drawString(x, y, word)
        for row in rows:
            y -= 17
            self._ink(canvas, INK, "EvtroText", 9)
            cells = (
                row.name[:38],
                row.type_name[:50],
                self.figure(row.setting_db, "db"),
                self._range(row.in_low_dbuv, row.in_high_dbuv),
                self._range(row.out_low_dbuv, row.out_high_dbuv),
                self.bare(row.most_dbuv),
            )
            for (x, _), said in zip(heads, cells, strict=True):
                canvas.drawString(x, y, said)
            canvas.setStrokeColor(HexColor(LINE))
            canvas.setLineWidth(0.4)
            canvas.line(MARGIN, y - 5, WIDE - MARGIN, y - 5)

    def _range(self, low: float | None, high: float | None) -> str:
        if low is None or high is None:
            return ""
        return f"{self.bare(low)} to {self.bare(high)}"
