"""A tree with its picks as a job: what is kept stays as it is, what can be used again keeps its row."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ....job import Cable, Job, Part
from ....job.context import JobParts
from ....job.parts import Catalogue
from .head import NEW, RunHead
from .planter import CABLE, JUMPER_M, Tree


@dataclass(frozen=True)
class _Filled:
    """What a line leaves: a part, the spot that it fills, and the port where spots between are empty."""

    part: str
    spot: int
    port: tuple[int, int] | None = None


def built(
    ctx: JobParts, head: RunHead, *, tree: Tree, picks: tuple[int, ...]
) -> tuple[Job, dict[str, int]]:
    """The job with everything behind the head replaced by the tree, and the spot of each new part."""
    job = ctx.job
    gone = set(head.behind)
    parts = {p.id: p for p in head.kept.parts}
    links = list(head.kept.links)
    plates = {p.outlet: p for p in job.parts if p.outlet}
    leads = {k.to_part: k for k in job.links if k.to_part in gone}
    next_part = 1 + max((int(p.id[1:]) for p in (*job.parts, *head.kept.parts)), default=0)
    next_link = 1 + max((int(k.id[1:]) for k in (*job.links, *links)), default=0)
    at: dict[int, _Filled | None] = {}
    head_free = head.part
    for n, spot in enumerate(tree.spots):
        filling = tree.fillings[spot.choice][picks[spot.choice]]
        if filling.key is None:
            ahead = at[spot.before] if spot.before is not None else None
            at[n] = ahead and replace(ahead, port=ahead.port or (spot.end, spot.nth))
            continue
        kind = ctx.catalogue.parts[filling.key]
        old = plates.get(spot.outlet) if spot.outlet else None
        if (
            spot.outlet is None
            and head_free is not None
            and kind.draws_as in ("splitter", "tap", "multiswitch")
        ):
            was = next(p for p in job.parts if p.id == head_free)
            part = was.model_copy(update={"type": filling.key, "setting_db": filling.setting_db})
            head_free = None
        elif old is not None:
            part = old.model_copy(update={"type": filling.key, "setting_db": None})
        else:
            part = Part(
                id=f"p{next_part}",
                type=filling.key,
                outlet=spot.outlet,
                setting_db=filling.setting_db,
            )
            next_part += 1
        parts[part.id] = part
        before = at[spot.before] if spot.before is not None else None
        if before is None:
            for port, feed in head.feeds.items():
                line = feed.model_copy(
                    update={"to_part": part.id, "to_port": port if kind.inputs > 1 else 0}
                )
                if feed.id == NEW:
                    line = line.model_copy(update={"id": f"l{next_link}"})
                    next_link += 1
                if spot.run is not None:  # from the last part that is kept
                    cable = tree.cables[spot.run][picks[spot.run]]
                    line = line.model_copy(update={"cable": cable, "length_m": spot.length_m})
                    old_lead = leads.get(part.id)
                    line = line.model_copy(
                        update={"id": old_lead.id if old_lead is not None else line.id}
                    )
                links.append(line)
        else:
            cable = tree.cables[spot.run][picks[spot.run]] if spot.run is not None else CABLE
            if kind.inputs > 1:  # the trunks of a cascade, each to its own input
                for n_line, port in enumerate(sorted(head.feeds)):
                    links.append(
                        Cable(
                            id=f"l{next_link}",
                            from_part=before.part,
                            from_port=_port(tree, picks, before, (spot.end, n_line)),
                            to_part=part.id,
                            to_port=port,
                            cable=cable,
                            length_m=spot.length_m,
                        )
                    )
                    next_link += 1
                at[n] = _Filled(part.id, n)
                continue
            lead = leads.get(part.id)
            values = {
                "from_part": before.part,
                "from_port": _port(tree, picks, before, (spot.end, spot.nth)),
                "to_part": part.id,
                "to_port": 0,
                "cable": cable,
                "length_m": spot.length_m,
            }
            if lead is not None and part.outlet:
                links.append(lead.model_copy(update=values))
            else:
                links.append(Cable(id=f"l{next_link}", **values))
                next_link += 1
        at[n] = _Filled(part.id, n)
    _cap(
        parts,
        links,
        ctx.catalogue,
        kept={p.id for p in head.kept.parts},
        number=(next_part, next_link),
    )
    order = {p.id: i for i, p in enumerate(job.parts)}
    rows = sorted(parts.values(), key=lambda p: order.get(p.id, len(order) + int(p.id[1:])))
    spots = {f.part: n for n, f in at.items() if f is not None and f.spot == n}
    return job.model_copy(update={"parts": tuple(rows), "links": tuple(links)}), spots


def _port(tree: Tree, picks: tuple[int, ...], before: _Filled, port: tuple[int, int]) -> int:
    """The port by which a line leaves what fills a spot."""
    end, nth = before.port or port
    choice = tree.spots[before.spot].choice
    ports = tree.fillings[choice][picks[choice]].ports
    return ports[min(end, len(ports) - 1)][nth]


def _cap(
    parts: dict[str, Part],
    links: list[Cable],
    catalogue: Catalogue,
    *,
    kept: set[str],
    number: tuple[int, int],
) -> None:
    """A terminator on every output of a new part that is left."""
    part_no, link_no = number
    for part in list(parts.values()):
        kind = catalogue.parts[part.type]
        if part.id in kept or kind.outputs < 2 or not kind.inputs:
            continue
        used = {k.from_port for k in links if k.from_part == part.id}
        for port in kind.joinable:
            if port not in used:
                cap = Part(id=f"p{part_no}", type="terminator")
                parts[cap.id] = cap
                links.append(
                    Cable(
                        id=f"l{link_no}",
                        from_part=part.id,
                        from_port=port,
                        to_part=cap.id,
                        cable=CABLE,
                        length_m=JUMPER_M,
                    )
                )
                part_no, link_no = part_no + 1, link_no + 1
