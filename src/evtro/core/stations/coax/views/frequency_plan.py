"""The frequency plan: where every transponder lies on the cable, and what the receiver is told."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ....job import Carrier
from ....job.context import JobParts
from ....job.parts import PartType
from ....job.paths import BLOCKED_DB, Band
from ....units.severity import State
from ...aim.dishes import lnb_part
from ...sky.answer import dish_of
from ..checks.passband import OUT_SHARE
from ..sources.part_names import part_names
from ..sources.source_levels import lnb_band, same_bands, user_slot

CAPTURE_MHZ = 5.0  # how far a receiver looks round a frequency; common practice, no source


@dataclass(frozen=True)
class PlanLine:
    """One transponder on its cable: IF [MHz], inverted or not, output of the LNB, switching, and
    what each part on the way does to it."""

    carrier: str
    name: str
    frequency_mhz: float
    polarisation: str
    symbol_mbd: float
    band: str
    lo_mhz: float | None
    if_mhz: float | None
    inverted: bool
    output: int | None
    volts: float | None
    tone: bool
    slot: int | None
    stopped_by: str
    state: State
    told: str


@dataclass(frozen=True)
class WrongTuning:
    """What a receiver that was told a wrong oscillator finds when it is asked for a transponder."""

    carrier: str
    asked_mhz: float
    tunes_mhz: float
    finds: str


@dataclass(frozen=True)
class FrequencyPlan:
    """All transponders of an antenna's satellites."""

    lnb: str
    lnb_name: str
    lines: list[PlanLine]
    receiver: list[str]
    user_bands: list[tuple[int, float, float]]
    output_low_mhz: float
    output_high_mhz: float


def frequency_plan(ctx: JobParts, antenna_id: str) -> list[FrequencyPlan]:
    """One plan for each LNB on an antenna."""
    job = ctx.job
    plans = []
    for part in job.parts:
        kind = ctx.catalogue.parts.get(part.type)
        if part.antenna != antenna_id or kind is None or not kind.bands:
            continue
        own = [
            c
            for c in job.carriers
            if (dish := dish_of(job, c.target)) is not None
            and dish.id == antenna_id
            and lnb_part(job, dish, c.target) == part
        ]
        lines = [
            _line(ctx, part_id=part.id, kind=kind, carrier=c, index=i) for i, c in enumerate(own)
        ]
        plans.append(
            FrequencyPlan(
                lnb=part.id,
                lnb_name=kind.name,
                lines=lines,
                receiver=_told(kind),
                user_bands=[(i + 1, f, w) for i, (f, w) in enumerate(kind.user_bands)],
                output_low_mhz=kind.low_mhz,
                output_high_mhz=kind.high_mhz,
            )
        )
    return plans


def _line(ctx: JobParts, part_id: str, kind: PartType, carrier: Carrier, index: int) -> PlanLine:
    band = lnb_band(kind, carrier)
    if band is None:
        return PlanLine(
            carrier=carrier.id,
            name=carrier.name,
            frequency_mhz=carrier.frequency_mhz,
            polarisation=carrier.polarisation,
            symbol_mbd=carrier.bandwidth_mhz,
            band="",
            lo_mhz=None,
            if_mhz=None,
            inverted=False,
            output=None,
            volts=None,
            tone=False,
            slot=None,
            stopped_by=f"{kind.name} does not take {carrier.frequency_mhz:.0f} MHz {carrier.polarisation}",
            state="fail",
            told="",
        )
    intermediate = abs(carrier.frequency_mhz - band.lo_mhz)
    slot = user_slot(kind, index)
    on_cable = kind.user_bands[slot][0] if slot is not None else intermediate
    stopped = _stopped(
        ctx, part_id=part_id, kind=kind, band=band, if_mhz=on_cable, width_mhz=carrier.bandwidth_mhz
    )
    return PlanLine(
        carrier=carrier.id,
        name=carrier.name,
        frequency_mhz=carrier.frequency_mhz,
        polarisation=carrier.polarisation,
        symbol_mbd=carrier.bandwidth_mhz,
        band=band.name,
        lo_mhz=band.lo_mhz,
        if_mhz=on_cable,
        inverted=band.lo_mhz > carrier.frequency_mhz,
        output=band.output,
        volts=band.volts,
        tone=band.tone,
        slot=None if slot is None else slot + 1,
        stopped_by=stopped,
        state="fail" if stopped else "ok",
        told=f"LO {band.lo_mhz:.0f} MHz, {band.volts:.0f} V, tone {'on' if band.tone else 'off'}"
        if slot is None
        else f"user band {slot + 1} at {on_cable:.0f} MHz",
    )


def _stopped(
    ctx: JobParts,
    part_id: str,
    kind: PartType,
    band: Band,
    if_mhz: float,
    width_mhz: float,
) -> str:
    """The first part on the way to any outlet that does not pass the carrier whole; empty when all
    do. Every way from the LNB's output is walked once."""
    if not kind.low_mhz <= if_mhz <= kind.high_mhz:
        return f"the LNB itself gives {kind.low_mhz:.0f} to {kind.high_mhz:.0f} MHz only"
    whole = (0.5 - OUT_SHARE) * width_mhz
    edges = [if_mhz - whole, if_mhz + whole]
    waiting = [(part_id, same.output) for same in same_bands(kind, band)]
    seen: set[tuple[str, int]] = set()
    parts = {p.id: p for p in ctx.job.parts}
    first = ""
    while waiting:
        at = waiting.pop()
        if at in seen:
            continue
        seen.add(at)
        for link in ctx.job.links:
            if (link.from_part, link.from_port) != at or link.to_part not in parts:
                continue
            part = parts[link.to_part]
            following = ctx.catalogue.parts.get(part.type)
            if following is None or following.receivers:
                continue
            passed = False
            for out in range(following.outputs):
                gain = following.gain_db(link.to_port, out, edges, part.setting_db)
                if gain is not None and bool((gain > -BLOCKED_DB).all()):
                    passed = True
                    waiting.append((part.id, out))
            if not passed and following.outputs:
                first = (
                    first
                    or f"{part_names(ctx)[part.id]} passes {_range(following, link.to_port)} MHz"
                )
    return first


def _range(kind: PartType, port: int) -> str:
    low, high = kind.passes_mhz(port) or kind.range_mhz
    return f"{low:.0f} to {high:.0f}"


def _told(kind: PartType) -> list[str]:
    """What the receiver's menu is told, in its own words."""
    if kind.user_bands:
        return [
            "LNB type: one cable, user bands",
            f"User bands: {len(kind.user_bands)}, each receiver its own number and frequency",
        ]
    oscillators = sorted({b.lo_mhz for b in kind.bands})
    said = [f"LNB oscillator: {' and '.join(f'{lo:.0f}' for lo in oscillators)} MHz"]
    tones = {b.tone for b in kind.bands}
    said.append(f"22 kHz tone: {'automatic, on for the high band' if len(tones) > 1 else 'off'}")
    volts = sorted({b.volts for b in kind.bands})
    by_voltage = {b.volts: b.polarisations[0] for b in kind.bands}
    said.append(
        "Polarisation by voltage: " + ", ".join(f"{v:.0f} V {by_voltage[v]}" for v in volts)
        if len(volts) > 1
        else f"LNB power {volts[0]:.0f} V; both polarisations lie on the cable at once"
    )
    if any(b.lo_mhz > b.high_mhz for b in kind.bands):
        said.append("Spectrum inverted: the oscillator is above the band (most receivers find out)")
    return said


def wrong_oscillator(
    lines: Sequence[PlanLine], told_lo_mhz: float, carriers: Sequence[Carrier]
) -> list[WrongTuning]:
    """What is tuned instead when the receiver was told this oscillator: the IF it asks for, carried
    back through the LNB's real one."""
    found = []
    for line in lines:
        if line.lo_mhz is None or line.if_mhz is None:
            continue
        asked_if = abs(line.frequency_mhz - told_lo_mhz)
        real = line.lo_mhz - asked_if if line.inverted else line.lo_mhz + asked_if
        near = min(
            (c for c in carriers if c.polarisation == line.polarisation),
            key=lambda c: abs(c.frequency_mhz - real),
            default=None,
        )
        hit = near is not None and abs(near.frequency_mhz - real) <= CAPTURE_MHZ
        own = hit and near is not None and near.id == line.carrier
        text = "itself" if own else near.name if hit and near is not None else "nothing"
        found.append(WrongTuning(line.carrier, asked_if, real, text))
    return found
