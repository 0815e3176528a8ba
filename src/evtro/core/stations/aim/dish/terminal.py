"""The page of a terminal that transmits: gate, people kept out, beam, null, cable, record."""

from __future__ import annotations

from dataclasses import dataclass

from ....job import Dish, Job
from ....units.quantities import Gauge, gauge
from ..answer import Aim
from ..two_way import link as two_way

CABLE_PAIR_M = 50.0


@dataclass(frozen=True)
class TwoWayView:
    """A terminal that transmits: who keeps away, which beam, how well the other one is nulled."""

    field: two_way.Field
    origin: str
    beams: list[two_way.BeamChoice]
    isolation: list[tuple[float, float]]
    isolation_now: Gauge
    skew_allowed_deg: float | None
    es_n0: Gauge
    cable: Gauge
    cable_origin: str
    gate_open: bool
    gate: list[tuple[str, bool]]
    keep_out_m: float
    circular: bool


def terminal_page(job: Job, antenna: Dish, aim: Aim) -> TwoWayView:
    """Everything about transmitting, from the job's own record."""
    terminal = job.terminal
    field = two_way.power_density(
        antenna.diameter_m,
        antenna.transmit_w,
        frequency_mhz=antenna.transmit_mhz,
        efficiency=antenna.efficiency,
        duty_pct=terminal.duty_pct,
    )
    site = job.site
    beams = []
    if site.latitude_deg is not None and site.longitude_deg is not None:
        mine = [b for b in job.beams if b.target == aim.target]
        beams = two_way.choose_beam(mine, site.latitude_deg, site.longitude_deg)
    chosen = next((b for b in beams if b.beam == terminal.beam), None) or next(
        (b for b in beams if b.best), None
    )
    least = chosen.least_esn0_db if chosen else None
    steps = [i * 0.25 for i in range(-40, 41)]
    curve = [(d, float(two_way.isolation_db(d))) for d in steps]
    predicted = float(two_way.isolation_db(terminal.skew_error_deg))
    gate = [
        ("certified installer named", bool(terminal.installer.strip())),
        ("certificate seen", terminal.licence_seen and bool(terminal.licence.strip())),
        (_beam_words(chosen), chosen.inside if chosen else False),
    ]
    keep = max(field.public_from_m, antenna.diameter_m)
    return TwoWayView(
        field=field,
        origin=two_way.OET_65,
        beams=beams,
        isolation=curve,
        isolation_now=gauge(
            terminal.isolation_db if terminal.isolation_db is not None else predicted,
            "db",
            low=two_way.ISOLATION_DB,
            reserve=3.0,
        ),
        skew_allowed_deg=two_way.skew_for_isolation(two_way.ISOLATION_DB),
        es_n0=gauge(terminal.esn0_db, "db", low=least, reserve=1.0),
        cable=gauge(_cable_m(job, antenna), "m", high=CABLE_PAIR_M, reserve=5.0),
        cable_origin="unless the cable's loss allows more (common practice, no source)",
        gate_open=all(ok for _, ok in gate),
        gate=gate,
        keep_out_m=keep,
        circular=next((t.circular for t in job.targets if t.id == aim.target), False),
    )


def _beam_words(chosen: two_way.BeamChoice | None) -> str:
    if chosen is not None and chosen.border_km is None:
        return "beam as its provider gave it"
    return "place lies inside the beam"


def _cable_m(job: Job, antenna: Dish) -> float | None:
    """The longest way from the unit on an antenna to a device that feeds it [m]: links end to end."""
    start = [p.id for p in job.parts if p.antenna == antenna.id]
    if not start:
        return None
    longest, seen = 0.0, {start[0]}
    waiting = [(start[0], 0.0)]
    while waiting:
        part, so_far = waiting.pop()
        longest = max(longest, so_far)
        for link in job.links:
            if link.from_part == part and link.to_part not in seen:
                seen.add(link.to_part)
                waiting.append((link.to_part, so_far + link.length_m))
    return longest
