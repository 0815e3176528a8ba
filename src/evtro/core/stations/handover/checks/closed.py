"""Whether a job was handed over before it was finished."""

from __future__ import annotations

from collections.abc import Iterator

from ....checks.registry import check
from ....job.problems import Problem
from ..figures import HandoverFigures


@check("handover", codes=("handed-over-open",), needs=("job", "ready"))
def handed_over_open(at: HandoverFigures) -> Iterator[Problem]:
    """Handed over with something out or unread."""
    if at.job.handover.handed_over and not at.ready:
        yield Problem(
            code="handed-over-open",
            station="handover",
            state="fail",
            place="handover",
            title=("Handed over with something out or unread",),
            gauge=None,
            limit=("every station in or near",),
            origin="order of the work",
            remedy=("Mend what is out, take the readings, then hand over again.",),
        )
