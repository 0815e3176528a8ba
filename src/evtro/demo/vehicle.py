"""The demo's van: a dish that aims itself on a vehicle's roof, and a tour of two stops."""

from __future__ import annotations

import datetime as dt

from evtro.core.job import (
    Cable,
    Dish,
    Earth,
    Handover,
    Job,
    Mast,
    Outlet,
    Part,
    Rig,
    Site,
    Stop,
    Target,
)

from .dishes import transponders


def kittiwake_van() -> Job:
    """A van by the harbour whose dish is to be fitted; the arm of its ladder is a little too near."""
    stops = (
        Stop(
            id="h1",
            name="Harbour green",
            position_text="53.4790 N 9.9690 W",
            latitude_deg=53.479,
            longitude_deg=-9.969,
            height_m=4,
        ),
        Stop(
            id="h2",
            name="Cairn Strand",
            position_text="53.6110 N 9.7030 W",
            latitude_deg=53.611,
            longitude_deg=-9.703,
            height_m=9,
        ),
    )
    return Job(
        name="Kittiwake Van",
        place="Port Averil",
        profile="europe",
        date=dt.date(2026, 4, 14),
        site=Site(
            position_text=stops[0].position_text,
            latitude_deg=stops[0].latitude_deg,
            longitude_deg=stops[0].longitude_deg,
            height_m=4,
            mount_height_m=2.9,
            building_length_m=0,
            building_width_m=0,
            entry_distance_m=2,
            keep_clear_deg=2.0,
        ),
        mast=Mast(length_m=0.3, held_m=0.2, outer_mm=60.0, wall_mm=2.5),
        earth=Earth(overhead_lines="none"),
        handover=Handover(customer="The band", installer="A. Mender"),
        outlets=(Outlet(id="o1", name="Van", floor="", terrestrial=False),),
        targets=(
            Target(id="t1", kind="satellite", name="Corvus", orbit_deg_e=28.0),
            Target(id="t2", kind="satellite", name="Avocet", orbit_deg_e=25.5, wanted=False),
        ),
        carriers=transponders(
            1,
            "t1",
            rows=((10714.0, "V", 27.5), (11138.0, "H", 27.5), (12364.0, "V", 27.5)),
            eirp_dbw=52.9,
            modulation="DVB-S2 QPSK 3/4",
        ),
        dishes=(
            Dish(
                id="a1",
                name="Roof dish 0.6 m",
                target="t1",
                diameter_m=0.6,
                offset_deg=22.0,
                datum="scale",
                on_mast_m=0.1,
            ),
        ),
        rig=Rig(
            kind="vehicle",
            stop="h1",
            base_level_deg=1.5,
            gap_mm=3.0,
            nearest_mm=820,
            highest_mm=150,
            cable_m=9.0,
        ),
        stops=stops,
        parts=(
            Part(id="p1", type="lnb-single", name="LNB", antenna="a1"),
            Part(id="p2", type="plate", outlet="o1"),
        ),
        links=(Cable(id="l1", from_part="p1", to_part="p2", cable="rg6", length_m=9.0),),
    )
