"""Ways to bring its voltage to a part that lacks it: every one is tried on the lines themselves."""

from __future__ import annotations

from collections.abc import Iterator

from ...job import Job
from ...job.context import JobParts
from ...job.parts import Catalogue
from ...job.paths import HIGH_V, LOW_V
from ...network import edits
from ...network.graph import Wiring, wire
from ...network.powering import lines
from ...units.quantities import Gauge, InputError, Phrase, Quantity, gauge
from .powering import metal_below
from .sources.part_names import part_names
from .sources.source_levels import receivers_of

Way = tuple[Phrase, Job, Phrase]  # what to do, the job with it, and the voltage that it gives


def ways_to_feed(ctx: JobParts, consumer: str) -> list[Way]:
    """Changes that power a part and leave no other without its voltage, the least first: a part that
    passes power in place of one that does not, its legs exchanged, an inserter moved, one more."""
    dark = _dark(ctx)
    found: list[Way] = []
    for do, tried in _tries(ctx, consumer):
        voltage = voltage_of(ctx.with_job(tried), consumer)
        if voltage.state not in ("ok", "marginal") or _dark(ctx.with_job(tried)) - (
            dark - {consumer}
        ):
            continue
        gives: Phrase = (
            "gives ",
            Quantity(voltage.value or 0.0, "v"),
            " at ",
            part_names(ctx)[consumer],
        )
        found.append((do, tried, gives))
    return found


def voltage_of(ctx: JobParts, consumer: str) -> Gauge:
    """The voltage at a part under load, at the receivers' voltage that is nearer to its limit."""
    job = ctx.job
    wiring = wire(job.parts, job.links, ctx.catalogue)
    load = wiring.kinds[consumer].load
    asking = receivers_of(job)
    plates = tuple(p for o, p in wiring.plates.items() if o in asking)
    gauges = []
    for volts in (LOW_V, HIGH_V):
        fed = lines(wiring, ctx.catalogue, plates, volts).loads.get(consumer)
        if fed is None or load is None or not fed.supplies:
            return gauge(None, "v")
        gauges.append(gauge(fed.volts, "v", low=load.low_v, high=load.high_v, reserve=0.5))
    return min(
        gauges, key=lambda g: min((g.value or 0) - (g.low or 0), (g.high or 0) - (g.value or 0))
    )


def _dark(ctx: JobParts) -> set[str]:
    job = ctx.job
    wiring = wire(job.parts, job.links, ctx.catalogue)
    asking = receivers_of(job)
    plates = tuple(p for o, p in wiring.plates.items() if o in asking)
    return {
        part
        for volts in (LOW_V, HIGH_V)
        for part, fed in lines(wiring, ctx.catalogue, plates, volts).loads.items()
        if not fed.on
    }


def _tries(ctx: JobParts, consumer: str) -> Iterator[tuple[Phrase, Job]]:
    job, catalogue = ctx.job, ctx.catalogue
    wiring = wire(job.parts, job.links, catalogue)
    names = part_names(ctx)
    if consumer not in wiring.before:
        return
    below = [p for p in wiring.down(consumer) if not wiring.kinds[p].receivers]
    # Exchanged parts, and then their legs: nothing new is bought, or one part for another.
    for part in below:
        for key in [None, *_twins(wiring, catalogue, part)]:
            kind = catalogue.parts[key] if key else wiring.kinds[part]
            ports = sorted({o for _, o in kind.dc})
            if not ports or wiring.kinds[part].supply is not None:
                continue
            changed = job if key is None else edits.replace(ctx, part, key)
            if key is not None:
                yield (f"Take {_small(kind.name)} in place of {names[part]}",), changed
            for port in ports:
                for other in wiring.after[part]:
                    if other not in ports and port in wiring.after[part]:
                        swapped = _swapped(changed, part, port, other)
                        words = f"{names[part]}: exchange outputs {port + 1} and {other + 1}"
                        if key is not None:
                            words = f"Take {_small(kind.name)}, and exchange outputs {port + 1} and {other + 1}"
                        yield (words,), swapped
    idle = _idle(ctx, wiring)
    for inserter in idle:
        moved = edits.remove(ctx, inserter)
        for part, link in _places(ctx.with_job(moved), consumer):
            kind = wiring.kinds[inserter]
            tried, _ = edits.insert(ctx.with_job(moved), link, kind.key)
            yield (f"Move the {_small(kind.name)} to above {names.get(part, part)}",), tried
    for part, link in _places(ctx, consumer):
        for key in _inserters(wiring, catalogue, consumer):
            try:
                tried, _ = edits.insert(ctx, link, key)
            except InputError:
                continue
            yield (
                (f"Fit a {_small(catalogue.parts[key].name)} above {names.get(part, part)}",),
                tried,
            )


def _small(name: str) -> str:
    """A part's name within a sentence."""
    return (
        name if name[:1] != name[:1].upper() or name[1:2].isupper() else name[0].lower() + name[1:]
    )


def _twins(wiring: Wiring, catalogue: Catalogue, part: str) -> list[str]:
    """Parts that do the same for the signal and pass power where this one does not."""
    old = wiring.kinds[part]
    return [
        key
        for key, kind in catalogue.parts.items()
        if key != old.key
        and (kind.draws_as, kind.inputs, kind.outputs, kind.paths)
        == (old.draws_as, old.inputs, old.outputs, old.paths)
        and set(kind.dc) > set(old.dc)
    ]


def _swapped(job: Job, part: str, one: int, other: int) -> Job:
    to = {one: other, other: one}
    links = tuple(
        k.model_copy(update={"from_port": to[k.from_port]})
        if k.from_part == part and k.from_port in to
        else k
        for k in job.links
    )
    return job.model_copy(update={"links": links})


def _idle(ctx: JobParts, wiring: Wiring) -> list[str]:
    """Inserters that feed nothing."""
    asking = receivers_of(ctx.job)
    plates = tuple(p for o, p in wiring.plates.items() if o in asking)
    given = lines(wiring, ctx.catalogue, plates, LOW_V).given_ma
    return [
        p
        for p in wiring.order
        if wiring.kinds[p].supply is not None
        and wiring.kinds[p].inputs == wiring.kinds[p].outputs == 1
        and given.get(p, 0.0) <= 1e-3
    ]


def _places(ctx: JobParts, consumer: str) -> list[tuple[str, str]]:
    """Where the metal below a part ends: the part there, and the cable that comes to it."""
    wiring = wire(ctx.job.parts, ctx.job.links, ctx.catalogue)
    return metal_below(wiring, consumer) if consumer in wiring.before else []


def _inserters(wiring: Wiring, catalogue: Catalogue, consumer: str) -> list[str]:
    """Inserters of a voltage that the part bears. An LNB that its line chooses is left to receivers."""
    kind = wiring.kinds[consumer]
    load = kind.load
    if load is None or kind.by_line(0):
        return []
    return [
        key
        for key, k in catalogue.parts.items()
        if k.draws_as == "inserter"
        and k.supply is not None
        and not k.supply.repeats
        and load.low_v <= k.supply.volts <= load.high_v
    ]
