"""What the job sheet says of the site."""

from __future__ import annotations

from ...job.context import JobContext
from ...job.sections import Line, Section, line
from .answer import SiteAnswer

_PERMISSION = {
    "unasked": "not asked yet",
    "asked": "asked, no answer yet",
    "given": "given",
    "not_needed": "not needed here",
    "refused": "refused",
}


def job_section(ctx: JobContext, site: SiteAnswer) -> Section:
    """Whose job it is, where and when."""
    job = ctx.job
    lines: list[Line] = [
        line("Job", job.name),
        line("Place", job.place or "not named"),
        line("Position", site.position or "not known"),
        line("Date", job.date.isoformat()),
        line("Practice", ctx.profile.name),
        line("Customer", job.handover.customer or "not named"),
        line("Installer", job.handover.installer or "not named"),
    ]
    if job.site.consent != "unasked" or job.site.consent_note:
        note = f"; {job.site.consent_note}" if job.site.consent_note else ""
        lines.append(line("Leave of owner or association", _PERMISSION[job.site.consent] + note))
    return Section("Job", lines)
