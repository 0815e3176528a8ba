"""How the run is wired: the one graph that all walks over it go along."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass

from ..job import Cable, Part
from ..job.parts import Catalogue, PartType, part_type


@dataclass(frozen=True)
class Wiring:
    """Parts with their types and the cables between them, in the order of the signal.

    `before` and `after` are the cables that come to a part and leave it, by port. `order` and the
    cables hold nothing of the parts in `looped`, which lie on or behind a loop.
    """

    parts: Mapping[str, Part]
    kinds: Mapping[str, PartType]
    before: Mapping[str, Mapping[int, Cable]]
    after: Mapping[str, Mapping[int, Cable]]
    order: tuple[str, ...]
    looped: frozenset[str]
    plates: Mapping[str, str]

    def links(self) -> Iterator[Cable]:
        """All cables, by the order of the parts that they leave."""
        for part in self.order:
            yield from self.after[part].values()

    def down(self, part: str, past: Callable[[str], bool] = lambda _: True) -> Iterator[str]:
        """Every part behind another, nearest first, each once; behind one that is not `past` the walk
        ends."""
        seen: set[str] = set()
        pending = [part]
        while pending:
            for link in self.after[pending.pop(0)].values():
                if link.to_part not in seen:
                    seen.add(link.to_part)
                    yield link.to_part
                    if past(link.to_part):
                        pending.append(link.to_part)

    def up(self, part: str) -> Iterator[str]:
        """Every part ahead of another, nearest first, each once."""
        seen: set[str] = set()
        pending = [part]
        while pending:
            for link in self.before[pending.pop(0)].values():
                if link.from_part not in seen:
                    seen.add(link.from_part)
                    yield link.from_part
                    pending.append(link.from_part)


def wire(parts: Iterable[Part], links: Iterable[Cable], catalogue: Catalogue) -> Wiring:
    """Lay the graph. Cables to parts or ports that are not there, or of an unknown kind, are left
    out; `edits.check_run` refuses them earlier. Raises InputError for an unknown part."""
    by_id = {p.id: p for p in parts}
    kinds = {p.id: part_type(catalogue, p) for p in by_id.values()}
    usable = [
        k
        for k in sorted(links, key=lambda k: k.from_port)
        if k.from_part in kinds
        and k.to_part in kinds
        and k.cable in catalogue.cables
        and k.from_port < kinds[k.from_part].outputs
        and k.to_port < kinds[k.to_part].inputs
    ]
    order = _order(by_id, usable)
    before: dict[str, dict[int, Cable]] = {p: {} for p in order}
    after: dict[str, dict[int, Cable]] = {p: {} for p in order}
    for link in usable:
        if link.from_part in after and link.to_part in before:
            after[link.from_part][link.from_port] = link
            before[link.to_part][link.to_port] = link
    return Wiring(
        parts=by_id,
        kinds=kinds,
        before=before,
        after=after,
        order=tuple(order),
        looped=frozenset(p for p in by_id if p not in before),
        plates={p.outlet: p.id for p in by_id.values() if p.outlet and p.id in before},
    )


def _order(parts: Iterable[str], links: list[Cable]) -> list[str]:
    """Parts in the order of the signal, each as late as its row allows; those on or behind a loop
    never come. `graphlib` would refuse the whole run for one loop."""
    waits = dict.fromkeys(parts, 0)
    behind: dict[str, list[str]] = {p: [] for p in waits}
    for link in links:
        waits[link.to_part] += 1
        behind[link.from_part].append(link.to_part)
    order = [p for p, n in waits.items() if n == 0]
    for part in order:
        for there in behind[part]:
            waits[there] -= 1
            if waits[there] == 0:
                order.append(there)
    return order
