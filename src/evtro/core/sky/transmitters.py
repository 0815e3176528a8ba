"""A transmitter on the skyline: hidden or not, how far, what arrives."""

from __future__ import annotations

from dataclasses import replace

from ..job import Target
from ..quantities import Gauge, Problem, Quantity, State, gauge
from .field import free_field_dbuvm
from .lines import NOTHING, Survey, TargetSight
from .path import loss_db, pattern_loss_db, relief_for, sent_toward, way_of
from .skyline import (
    Edges,
    clear_of,
    nearest_point,
)
from .targets import Sight

HOPELESS_KM = 150.0  # beyond the horizon only rare weather carries; common practice, no source


def transmitter(
    job: Survey, target: Target, sight: Sight, now: Edges, problems: list[Problem]
) -> TargetSight:
    name = target.name
    own = [c for c in job.carriers if c.target == target.id and c.power > 0]
    way = way_of(
        job.site, target, relief_for(job.reliefs, job.site, target), job.obstructions,
        job.site.mount_height_m, tuple(c.frequency_mhz for c in own),
        tuple(c.polarisation == "H" for c in own),
    )  # fmt: skip
    field, lost, source = None, None, ""
    if way is not None:
        # Over a profile the ground itself says what hides, over a smooth earth its horizon does.
        seen = way.diffraction.in_sight if way.ground.known else sight.visible
        sight = replace(sight, horizon_km=way.horizon_km, visible=seen)
    if way is not None and own:
        over = loss_db(way)
        down = pattern_loss_db(target.pattern, sent_toward(job.site, target))
        fields = free_field_dbuvm([c.power for c in own], way.distance_km) - over - down
        best = int(fields.argmax())
        field, lost = float(fields[best]), float(over[best]) + down
        source = "own figure" if way.own_loss_db is not None else way.ground.words
    if way is None:
        problems.append(
            Problem(
                "at-site", "sky", "out", name, (f"{name} stands at the house itself",),
                gauge(sight.distance_km * 1000, "m", low=20.0), ("at least 20 m away",),
                "geometry of the place",
                ("Check both positions: one of them was typed twice.",), ref=target.id,
            )
        )  # fmt: skip
        return TargetSight(target.id, name, "transmitter", sight, gauge(None, "deg"), None, None,
                           sight.azimuth_deg, sight.elevation_deg, NOTHING, None, None, None, None,
                           "", "out")  # fmt: skip
    if way.ground.missing and "cover" in way.ground.missing:
        problems.append(
            Problem(
                "terrain-part", "sky", "near", name, (f"The ground toward {name} is known in part",),
                None, (way.ground.missing,), "the tile's own border",
                ("Load the tile that covers the rest; until then a smooth earth stands for the ground "
                 "and the forecast is good to ±10 dB.",), ref=target.id,
            )
        )  # fmt: skip
    clear, nearest, point = 180.0, None, (sight.azimuth_deg, sight.elevation_deg)
    if now.ids:
        angle = clear_of(now, sight.azimuth_deg, sight.elevation_deg)[0]
        k = int(angle.argmin())
        clear, nearest = float(angle[k]), job.obstructions[k]
        point = nearest_point(now, k, *point)
    hidden = clear < 0
    judged = gauge(clear, "deg", low=0.0)
    behind = way.ground.known and not way.diffraction.in_sight and way.own_loss_db is None
    state: State = "near" if hidden or behind or not sight.visible else "in"
    judged = Gauge(judged.value, "deg", 0.0, None, 0.0, state)
    if hidden and nearest is not None:
        problems.append(
            Problem(
                "hidden", "sky", "near", name, (f"{nearest.name} hides {name}",), judged,
                ("line of sight over ", nearest.name), "an edge near by, ITU-R P.526",
                ("Read it on the roof before promising it: log the spots at Aim, Trial.",),
                ref=target.id,
            )
        )  # fmt: skip
    elif behind:
        edge = way.diffraction
        problems.append(
            Problem(
                "behind-ground", "sky", "near", name, (f"The ground hides {name}",),
                gauge(edge.edge_above_m, "m", high=0.0),
                ("ray free, its edge at ", Quantity(edge.edge_km, "km")),
                "ITU-R P.526 over the profile",
                ("It costs ", Quantity(float(edge.loss_db.max(initial=0.0)), "db", 0),
                 ". Read it on site before promising it; see Way and ground."),
                ref=target.id,
            )
        )  # fmt: skip
    elif sight.horizon_km is not None and sight.distance_km > sight.horizon_km + HOPELESS_KM:
        state = "out"
        problems.append(
            Problem(
                "far-beyond", "sky", "out", name, (f"{name} is far beyond the radio horizon",),
                gauge(sight.distance_km, "km", high=sight.horizon_km),
                (Quantity(sight.horizon_km, "km"), " radio horizon"),
                "smooth earth, k = 4/3",
                ("Nothing steady arrives from there: choose a nearer transmitter, or check the "
                 "position's signs.",), ref=target.id,
            )
        )  # fmt: skip
    elif not sight.visible:
        problems.append(
            Problem(
                "beyond-horizon", "sky", "near", name, (f"{name} is beyond the radio horizon",),
                gauge(sight.distance_km, "km", high=sight.horizon_km),
                (Quantity(sight.horizon_km or 0, "km"), " radio horizon"),
                "smooth earth, k = 4/3",
                ("Take another transmitter, raise the antenna, or read it on the roof.",),
                ref=target.id,
            )
        )  # fmt: skip
    return TargetSight(
        target.id, name, "transmitter", sight, judged, clear, nearest.id if nearest else None,
        point[0], point[1], NOTHING, None, None, field, lost, source, state,
    )  # fmt: skip
