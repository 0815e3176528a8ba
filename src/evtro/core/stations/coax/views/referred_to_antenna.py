"""What the run does to an antenna's carriers, referred back to its terminals."""

from __future__ import annotations

import numpy as np

from ....job import Array
from ...aim.array.heading import BehindTerminals, bare_beyond
from ...sky.incident import IncidentField
from ..context import NetworkContext


def referred_to_antenna(
    ctx: NetworkContext, antenna: Array, incident: IncidentField
) -> BehindTerminals:
    """Noise that the run adds and the least level that it wants, for the worst outlet of each
    carrier, as if it stood at the antenna's terminals.

    A cascade adds noise to the signal as if its own noise came in at the front: N = S (1/cn_out -
    1/cn_in). Carriers that do not pass the run take the figures of their neighbours in frequency.
    """
    job, solved = ctx.job, ctx.solved
    bare = bare_beyond(incident)
    part = next((p.id for p in job.parts if p.antenna == antenna.id), None)
    plates = {p.outlet: p.id for p in job.parts if p.outlet}
    nodes = [
        node
        for o in job.outlets
        if o.terrestrial and (node := solved.run.outlet_node(plates.get(o.id))) is not None
    ]
    index = {channel.id: i for i, channel in enumerate(solved.channels)}
    own = [(k, index[c]) for k, c in enumerate(incident.ids) if c in index]
    own = [(k, i) for k, i in own if (port := solved.columns.port[i]) and port[0] == part]
    if part is None or not nodes or not own:
        return bare
    here, channels = np.array([k for k, _ in own]), np.array([i for _, i in own])
    meant = [solved.columns.meant(int(i)) or (np.nan, np.nan) for i in channels]
    at_source = np.array([level for level, _ in meant])
    in_ratio = 10 ** (-np.array([ratio for _, ratio in meant]) / 10)
    level = solved.run.levels.level_dbuv[nodes][:, channels]
    ratio = 10 ** (-solved.run.levels.cn_db[nodes][:, channels] / 10)
    arrives = np.isfinite(level).any(axis=0)
    if not arrives.any():
        return bare
    here, channels = here[arrives], channels[arrives]
    at_source, in_ratio = at_source[arrives], in_ratio[arrives]
    level, ratio = level[:, arrives], ratio[:, arrives]
    worst = np.nanmax(ratio, axis=0)
    added = at_source + 10 * np.log10(np.maximum(worst - in_ratio, 1e-12))
    floor = np.array([solved.channels[i].window.low_dbuv for i in channels])
    least = floor - (np.nanmin(level, axis=0) - at_source)
    order = np.argsort(incident.frequency_mhz[here])
    waves = incident.frequency_mhz[here][order]
    return BehindTerminals(
        np.interp(incident.frequency_mhz, waves, added[order]),
        np.interp(incident.frequency_mhz, waves, least[order]),
        "through the run to the worst outlet",
    )
