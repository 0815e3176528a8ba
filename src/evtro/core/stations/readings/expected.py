"""What a scan should find at each outlet, and what it says when something is missing."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ...job import Carrier, Job, Scan
from ...job.profile import Profile
from ...physics.channels import channel_of
from ...units.severity import State
from ..coax.levels.outlets import OutletRow, Solved

Chance = Literal["sure", "likely", "doubtful", "no"]


@dataclass(frozen=True)
class ExpectedLine:
    """A multiplex at an outlet: RF channel, virtual label, services, level [dBµV], margin [dB] with
    its spread, how likely a scan finds it, and whether the last one did."""

    carrier: str
    transmitter: str
    name: str
    rf_channel: int | None
    frequency_mhz: float
    label: str
    services: list[str]
    level_dbuv: float | None
    margin_db: float | None
    spread_db: float
    chance: Chance
    found: bool | None
    missing: list[str]
    state: State


@dataclass(frozen=True)
class ScanLine:
    """A scan that was logged: how many names it found, of how many that were expected."""

    id: str
    at: str
    tuner: str
    found: int
    of: int
    note: str


@dataclass(frozen=True)
class ExpectedOutlet:
    """The list of an outlet, the scans made there, and what they say."""

    outlet: str
    name: str
    lines: list[ExpectedLine]
    scans: list[ScanLine]
    services: int
    extra: list[str]
    words: list[str]


def expected(
    job: Job, profile: Profile, rows: list[OutletRow], solved: Solved, spread_db: dict[str, float]
) -> list[ExpectedOutlet]:
    """The expected list of every outlet that wants terrestrial television."""
    carriers = {c.id: c for c in job.carriers}
    channels = {channel.id: channel for channel in solved.channels}
    names = {t.id: t.name for t in job.targets}
    found: list[ExpectedOutlet] = []
    for row in rows:
        outlet = next(o for o in job.outlets if o.id == row.outlet)
        if not outlet.terrestrial:
            continue
        own = [s for s in job.scans if s.outlet == row.outlet]
        last = own[-1] if own else None
        heard = {_plain(n) for n in last.found} if last else set()
        lines: list[ExpectedLine] = []
        for cell in row.cells:
            channel = channels[cell.carrier]
            if channel.group != "terrestrial":
                continue
            carrier = carriers[cell.carrier]
            margin = None if cell.cn_db is None else cell.cn_db - channel.wanted_cn_db
            if margin is not None and cell.level.value is not None:
                # A level under the receiver's window costs as surely as a poor ratio.
                margin = min(margin, cell.level.value - (cell.level.low or 0.0) + profile.margin_db)
            spread = spread_db.get(cell.carrier, 6.0)
            chance = _chance(margin, spread, profile.margin_db)
            wanted = wanted_names(carrier)
            there = [n for n in wanted if _plain(n) in heard] if last else []
            whole = last is not None and (bool(there) or _by_channel(carrier, heard, profile))
            missing = (
                []
                if last is None or not carrier.services
                else [n for n in carrier.services if _plain(n) not in heard]
            )
            lines.append(
                ExpectedLine(
                    carrier=carrier.id,
                    transmitter=names[carrier.target],
                    name=carrier.name,
                    rf_channel=channel_of(carrier.frequency_mhz, profile.channels),
                    frequency_mhz=carrier.frequency_mhz,
                    label=carrier.label,
                    services=list(carrier.services),
                    level_dbuv=cell.level.value,
                    margin_db=margin,
                    spread_db=spread,
                    chance=chance,
                    found=whole if last else None,
                    missing=[]
                    if whole and not missing
                    else missing or ([carrier.name] if last and not whole else []),
                    state=_state(chance, whole if last else None),
                )
            )
        scans = [_scan(s, lines, carriers) for s in own]
        known = {_plain(n) for c in carriers.values() for n in (*wanted_names(c),)}
        known |= {str(channel_of(c.frequency_mhz, profile.channels)) for c in carriers.values()}
        extra = [n for n in last.found if _plain(n) not in known] if last else []
        found.append(
            ExpectedOutlet(
                outlet=row.outlet,
                name=row.name,
                lines=lines,
                scans=scans,
                services=sum(
                    max(len(x.services), 1) for x in lines if x.chance in ("sure", "likely")
                ),
                extra=extra,
                words=_words(last, lines, extra, own),
            )
        )
    return found


def wanted_names(carrier: Carrier) -> list[str]:
    """Names by which a scan may list a multiplex: its services, its virtual label, its own name."""
    return [n for n in (*carrier.services, carrier.label, carrier.name) if n]


def parse_found(text: str) -> tuple[str, ...]:
    """A found list as it is typed: names or channel numbers parted by commas, semicolons or lines."""
    parts = [p.strip() for p in text.replace(";", ",").replace("\n", ",").split(",")]
    return tuple(dict.fromkeys(p[:80] for p in parts if p))


def _plain(name: str) -> str:
    return " ".join(name.casefold().split()).removeprefix("ch ").removeprefix("rf ")


def _by_channel(carrier: Carrier, heard: set[str], profile: Profile) -> bool:
    number = channel_of(carrier.frequency_mhz, profile.channels)
    return number is not None and str(number) in heard


def _chance(margin: float | None, spread_db: float, margin_db: float) -> Chance:
    if margin is None or margin < -spread_db:
        return "no"
    if margin < 0:
        return "doubtful"
    return "sure" if margin >= max(margin_db, spread_db) else "likely"


def _state(chance: Chance, found: bool | None) -> State:
    if found is None:
        return {"sure": "ok", "likely": "marginal", "doubtful": "marginal", "no": "fail"}[chance]  # type: ignore[return-value]
    if found:
        return "ok"
    return "fail" if chance in ("sure", "likely") else "marginal"


def _scan(scan: Scan, lines: list[ExpectedLine], carriers: dict[str, Carrier]) -> ScanLine:
    heard = {_plain(n) for n in scan.found}
    wanted = [n for x in lines for n in (x.services or [x.label or x.name])]
    return ScanLine(
        id=scan.id,
        at=scan.at,
        tuner=scan.tuner,
        found=len(scan.found),
        of=len(wanted),
        note=scan.note or f"{sum(_plain(n) in heard for n in wanted)} of those expected",
    )


def _words(
    last: Scan | None, lines: list[ExpectedLine], extra: list[str], scans: list[Scan]
) -> list[str]:
    if last is None:
        return ["Set the tuner to antenna, not cable; scan; write down what it found."]
    if last.tuner == "cable":
        return [
            "The tuner was set to cable: it looks on other frequencies. Set it to antenna and scan again."
        ]
    said = []
    gone = [x for x in lines if x.found is False and x.chance in ("sure", "likely")]
    if not gone:
        said.append("Everything that should be there is there.")
    by_transmitter = {x.transmitter for x in gone}
    for name in sorted(by_transmitter):
        own = [x for x in lines if x.transmitter == name]
        if len(own) > 1 and all(x.found is False for x in own):
            said.append(
                f"All of {name} is missing: look at heading, polarisation and the cable of that "
                "antenna before anything else."
            )
    single = [
        x
        for x in gone
        if not all(y.found is False for y in lines if y.transmitter == x.transmitter)
    ]
    if single:
        high = max(x.frequency_mhz for x in lines)
        top = [x for x in single if x.frequency_mhz > 0.9 * high]
        names = ", ".join(x.name for x in single)
        why = (
            "the highest channels go first on long, wet or thin cable"
            if top and len(top) == len(single)
            else "read level and quality there at the outlet"
        )
        said.append(f"Missing though it should arrive: {names}; {why}.")
    weak = [x.name for x in lines if x.found is False and x.chance in ("doubtful", "no")]
    if weak:
        said.append(f"Missing as was to be feared: {', '.join(weak)}.")
    if extra:
        said.append(
            f"Found beyond the list: {', '.join(extra[:6])}; from a transmitter that is not entered."
        )
    if len(scans) > 1:
        change = len(last.found) - len(scans[-2].found)
        said.append(f"{abs(change)} {'more' if change >= 0 else 'fewer'} than in the scan before.")
    return said
