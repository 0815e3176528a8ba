"""Cables that lose less."""

from __future__ import annotations

from collections.abc import Iterator

from .....fixes.engine import CandidateChange
from .....fixes.registry import may_cure
from .....units.quantities import Phrase, Quantity
from ..surroundings import Surroundings


@may_cure("level-low", "margin", "input-low", "dc-voltage", "slope", "distortion")
def cables(at: Surroundings) -> Iterator[CandidateChange]:
    """A better cable, at each length of the way."""
    loss = at.catalogue.loss_of_cables_db
    ohms = {key: c.loop_ohm_km for key, c in at.catalogue.cables.items()}
    for link_id in at.way:
        link = at.links[link_id]
        if link.length_m < 2:
            continue
        same = [k for k in loss if at.catalogue.exchangeable(link.cable, k)]
        better = [
            k
            for k in same
            if loss[k] < loss[link.cable] - 0.05
            or (at.problem.code == "dc-voltage" and ohms[k] < ohms[link.cable] * 0.9)
        ]
        seen: set[float] = set()
        for key in sorted(better, key=lambda k: (-loss[k], ohms[k])):
            if loss[key] in seen and at.problem.code != "dc-voltage":
                continue  # the same loss in steel
            seen.add(loss[key])
            links = tuple(
                k.model_copy(update={"cable": key}) if k.id == link_id else k for k in at.job.links
            )
            do: Phrase = (
                "Pull the ",
                Quantity(link.length_m, "m", 0),
                f" to {at.name(link.to_part)} in ",
                at.catalogue.cables[key].short,
            )
            cost = (
                2 + link.length_m / 10 + 0.05 * link.length_m * (loss[link.cable] - loss[key]) / 10
            )
            yield CandidateChange(
                f"cable {link_id} {key}",
                f"cable {link_id}",
                do=do,
                job=at.job.model_copy(update={"links": links}),
                cost=cost,
            )
