"""A house with six faults of its run, each of which Coax finds and cures."""

from __future__ import annotations

import datetime as dt

from evtro.core.job import (
    Array,
    Cable,
    Carrier,
    Conductor,
    Earth,
    Handover,
    Job,
    Mast,
    Outlet,
    Part,
    Site,
    Target,
)

DAY = dt.date(2026, 3, 25)


def marten_lodge() -> Job:
    """The preamplifier behind 26 m of thin cable and in the dark behind a splitter that passes no
    power, its inserter on the other leg, a house amplifier turned down further than it goes, three
    splitters one behind another, an open port, and a base station down the road."""
    cairnmore = Target(
        id="t1",
        kind="transmitter",
        name="Cairnmore",
        latitude_deg=53.590,
        longitude_deg=-9.4195,
        height_m=385.0,
        own_loss_db=20.0,
    )
    carriers = tuple(
        Carrier(
            id=f"c{i + 1}",
            target="t1",
            name=name,
            frequency_mhz=f,
            bandwidth_mhz=7.61,
            polarisation="H",
            power=20.0,
            modulation="DVB-T 64QAM 2/3",
        )
        for i, (name, f) in enumerate((("mux 1", 482.0), ("mux 2", 586.0), ("mux 3", 690.0)))
    )
    rooms = (
        ("Kitchen", "Ground floor"),
        ("Hall", "Ground floor"),
        ("Attic", "Upper floor"),
        ("Study", "Upper floor"),
        ("Garage", "Ground floor"),
    )
    plates = {"o1": "p9", "o2": "p10", "o3": "p11", "o4": "p12", "o5": "p13"}
    return Job(
        name="Marten Lodge",
        place="Sorrel Head",
        profile="europe",
        date=DAY,
        site=Site(
            position_text="53.4712 -9.9541",
            latitude_deg=53.4712,
            longitude_deg=-9.9541,
            height_m=22.0,
            mount_height_m=8.0,
            building_length_m=12.0,
            building_width_m=8.0,
            surroundings="suburb",
            entry_distance_m=2.0,
            entry_bearing_deg=180.0,
            mobile_m=450.0,
        ),
        mast=Mast(length_m=2.0, held_m=0.6, outer_mm=48.0, wall_mm=3.2, base="brick"),
        earth=Earth(overhead_lines="none"),
        handover=Handover(customer="The warden", installer="A. Mender"),
        outlets=tuple(
            Outlet(id=f"o{i + 1}", name=name, floor=floor, satellite=False)
            for i, (name, floor) in enumerate(rooms)
        ),
        targets=(cairnmore,),
        carriers=carriers,
        arrays=(
            Array(
                id="a1",
                name="UHF array",
                target="t1",
                gain_dbi=12.0,
                on_mast_m=1.2,
                wind_area_m2=0.09,
            ),
        ),
        conductors=(
            Conductor(
                id="e1", role="mast", material="copper", size_mm2=16, length_m=6.0, connected=True
            ),
        ),
        parts=(
            Part(id="p1", type="antenna", antenna="a1"),
            Part(id="p2", type="preamp-22", name="Preamplifier"),
            Part(id="p3", type="block-1", name="Grounding block"),
            Part(id="p4", type="splitter-2", name="First splitter"),
            Part(id="p5", type="amp-house-20", name="House amplifier", setting_db=24.0),
            Part(id="p6", type="splitter-4", name="Landing splitter"),
            Part(id="p7", type="splitter-2", name="Attic splitter"),
            Part(id="p8", type="inserter-12", name="Power inserter"),
            *(Part(id=part, type="plate", outlet=outlet) for outlet, part in plates.items()),
        ),
        links=(
            Cable(id="l1", from_part="p1", to_part="p2", cable="rg59", length_m=26.0),
            Cable(id="l2", from_part="p2", to_part="p3", cable="rg6", length_m=1.0),
            Cable(id="l3", from_part="p3", to_part="p4", cable="rg6", length_m=2.0),
            Cable(id="l4", from_part="p4", to_part="p5", cable="rg6", length_m=1.0),
            Cable(id="l5", from_part="p5", to_part="p6", cable="rg6", length_m=4.0),
            Cable(id="l6", from_part="p6", to_part="p9", cable="rg6", length_m=9.0),
            Cable(id="l7", from_part="p6", from_port=1, to_part="p10", cable="rg6", length_m=6.0),
            Cable(id="l8", from_part="p6", from_port=2, to_part="p7", cable="rg6", length_m=5.0),
            Cable(id="l9", from_part="p7", to_part="p11", cable="rg6", length_m=7.0),
            Cable(id="l10", from_part="p7", from_port=1, to_part="p12", cable="rg6", length_m=8.0),
            Cable(id="l11", from_part="p4", from_port=1, to_part="p8", cable="rg6", length_m=3.0),
            Cable(id="l12", from_part="p8", to_part="p13", cable="rg6", length_m=11.0),
        ),
    )
