"""What the job sheet says of mast and mount."""

from __future__ import annotations

from ...job.sections import Section, line, shown
from ...units.phrases import listed
from .answer import MastAnswer


def mast_section(mast: MastAnswer) -> Section:
    """Loads against what mast and mount bear."""
    return Section(
        "Mast",
        [
            line("Moment at the fixing", shown(mast.moment.value, "nm", 0), mast.moment.state),
            line("Moment the tube bears", shown(mast.tube.high, "nm", 0), mast.tube.state),
            line("Held between brackets", shown(mast.held.value, "m", 2), mast.held.state),
            *(
                line(
                    u.name[0].upper() + u.name[1:],
                    shown(u.gauge.value, u.gauge.unit, 0),
                    u.gauge.state,
                )
                for u in mast.uses
            ),
            line("Wind", listed([shown(mast.pressure_pa, "pa", 0), mast.pressure_origin])),
        ],
    )
