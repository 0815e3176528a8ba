"""A transmitter on the skyline: hidden or not, how far, what arrives."""

from __future__ import annotations

from dataclasses import replace

from ...job import Target
from ...job.problems import Problem
from ...job.targets import Sight
from ...physics.propagation.field import free_field_dbuvm
from ...units.quantities import Gauge, Quantity, gauge
from ...units.severity import State
from ..site.skyline import Edges, clear_of, nearest_point
from .lines import NOTHING, Survey, TargetSight
from .path import loss_db, pattern_loss_db, relief_for, sent_toward, way_of

HOPELESS_KM = 150.0  # beyond the horizon only rare weather carries; common practice, no source


def transmitter(
    job: Survey, target: Target, sight: Sight, now: Edges, problems: list[Problem]
) -> TargetSight:
    name = target.name
    own = [c for c in job.carriers if c.target == target.id and c.power > 0]
    way = way_of(
        job.site,
        target,
        relief=relief_for(job.reliefs, job.site, target),
        obstructions=job.obstructions,
        above_ground_m=job.site.mount_height_m,
        frequencies_mhz=tuple(c.frequency_mhz for c in own),
        horizontal=tuple(c.polarisation == "H" for c in own),
    )
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
                code="at-site",
                station="sky",
                state="fail",
                place=name,
                title=(f"{name} stands at the house itself",),
                gauge=gauge(sight.distance_km * 1000, "m", low=20.0),
                limit=("at least ", Quantity(20.0, "m", 0), " away"),
                origin="geometry of the place",
                remedy=("Check both positions: one of them was typed twice.",),
                ref=target.id,
            )
        )
        return TargetSight(
            id=target.id,
            name=name,
            kind="transmitter",
            sight=sight,
            gauge=gauge(None, "deg"),
            now_deg=None,
            nearest=None,
            nearest_azimuth_deg=sight.azimuth_deg,
            nearest_elevation_deg=sight.elevation_deg,
            room=NOTHING,
            closes=None,
            lifted_deg=None,
            field_dbuvm=None,
            loss_db=None,
            loss_source="",
            state="fail",
        )
    if way.ground.short:
        problems.append(
            Problem(
                code="terrain-part",
                station="sky",
                state="marginal",
                place=name,
                title=(f"The ground toward {name} is known in part",),
                gauge=None,
                limit=way.ground.missing,
                origin="the tile's own border",
                remedy=(
                    "Load the tile that covers the rest; until then a smooth earth stands for the ground "
                    "and the forecast is good to ±10 dB.",
                ),
                ref=target.id,
            )
        )
    clear, nearest, point = 180.0, None, (sight.azimuth_deg, sight.elevation_deg)
    if now.ids:
        angle = clear_of(now, sight.azimuth_deg, sight.elevation_deg)[0]
        k = int(angle.argmin())
        clear, nearest = float(angle[k]), job.obstructions[k]
        point = nearest_point(now, k, *point)
    hidden = clear < 0
    judged = gauge(clear, "deg", low=0.0)
    behind = way.ground.known and not way.diffraction.in_sight and way.own_loss_db is None
    state: State = "marginal" if hidden or behind or not sight.visible else "ok"
    judged = Gauge(value=judged.value, unit="deg", low=0.0, high=None, reserve=0.0, state=state)
    if hidden and nearest is not None:
        problems.append(
            Problem(
                code="hidden",
                station="sky",
                state="marginal",
                place=name,
                title=(f"{nearest.name} hides {name}",),
                gauge=judged,
                limit=("line of sight over ", nearest.name),
                origin="an edge near by, ITU-R P.526",
                remedy=("Read it on the roof before promising it: log the spots at Aim, Trial.",),
                ref=target.id,
            )
        )
    elif behind:
        edge = way.diffraction
        problems.append(
            Problem(
                code="behind-ground",
                station="sky",
                state="marginal",
                place=name,
                title=(f"The ground hides {name}",),
                gauge=gauge(edge.edge_above_m, "m", high=0.0),
                limit=("ray free, its edge at ", Quantity(edge.edge_km, "km")),
                origin="ITU-R P.526 over the profile",
                remedy=(
                    "It costs ",
                    Quantity(float(edge.loss_db.max(initial=0.0)), "db", 0),
                    ". Read it on site before promising it; see Way and ground.",
                ),
                ref=target.id,
            )
        )
    elif sight.horizon_km is not None and sight.distance_km > sight.horizon_km + HOPELESS_KM:
        state = "fail"
        problems.append(
            Problem(
                code="far-beyond",
                station="sky",
                state="fail",
                place=name,
                title=(f"{name} is far beyond the radio horizon",),
                gauge=gauge(sight.distance_km, "km", high=sight.horizon_km),
                limit=(Quantity(sight.horizon_km, "km"), " radio horizon"),
                origin="smooth earth, k = 4/3",
                remedy=(
                    "Nothing steady arrives from there: choose a nearer transmitter, or check the "
                    "position's signs.",
                ),
                ref=target.id,
            )
        )
    elif not sight.visible:
        problems.append(
            Problem(
                code="beyond-horizon",
                station="sky",
                state="marginal",
                place=name,
                title=(f"{name} is beyond the radio horizon",),
                gauge=gauge(sight.distance_km, "km", high=sight.horizon_km),
                limit=(Quantity(sight.horizon_km or 0, "km"), " radio horizon"),
                origin="smooth earth, k = 4/3",
                remedy=("Take another transmitter, raise the antenna, or read it on the roof.",),
                ref=target.id,
            )
        )
    return TargetSight(
        id=target.id,
        name=name,
        kind="transmitter",
        sight=sight,
        gauge=judged,
        now_deg=clear,
        nearest=nearest.id if nearest else None,
        nearest_azimuth_deg=point[0],
        nearest_elevation_deg=point[1],
        room=NOTHING,
        closes=None,
        lifted_deg=None,
        field_dbuvm=field,
        loss_db=lost,
        loss_source=source,
        state=state,
    )
