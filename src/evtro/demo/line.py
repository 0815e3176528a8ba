"""A house of the demo world that keeps its cable company's line beside an antenna of its own."""

from __future__ import annotations

import datetime as dt

from evtro.core.job import (
    Array,
    Cable,
    Carrier,
    Company,
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

DAY = dt.date(2026, 5, 12)
_ROOMS = (
    ("Kitchen", "Ground floor", True, "none"),
    ("Parlour", "Ground floor", True, "none"),
    ("Study", "First floor", False, "modem"),
    ("Den", "First floor", False, "television"),
    ("Attic room", "Attic", False, "television"),
)


def plover_cottage() -> Job:
    """Two networks that never meet: four multiplexes from the roof to two outlets; forty of the company
    to a modem and, behind a high pass, to two televisions."""
    hill = Target(
        id="t1",
        kind="transmitter",
        name="Cairnmore",
        latitude_deg=53.590,
        longitude_deg=-9.4195,
        height_m=385.0,
        own_loss_db=6.0,
    )
    line = Target(id="t2", kind="line", name="Company's line")
    own = tuple(
        Carrier(
            id=f"c{i + 1}",
            target="t1",
            name=f"mux {i + 1}",
            frequency_mhz=f,
            bandwidth_mhz=7.61,
            polarisation="H",
            power=30.0,
            modulation="DVB-T2 256QAM 2/3",
        )
        for i, f in enumerate((482.0, 506.0, 586.0, 690.0))
    )
    fed = tuple(
        Carrier(
            id=f"c{i + 11}",
            target="t2",
            name=f"{130 + 16 * i}",
            frequency_mhz=130.0 + 16 * i,
            bandwidth_mhz=6.9565,
            polarisation="H",
            power=-6.0 if i < 6 else 0.0,
            modulation="DVB-C 64QAM" if i < 6 else "DVB-C 256QAM",
        )
        for i in range(40)
    )
    run = (
        ("p1", 0, "p2", 9.0),
        ("p2", 0, "p3", 1.0),
        ("p3", 0, "p4", 7.0),
        ("p3", 1, "p5", 11.0),
        ("p6", 0, "p7", 6.0),
        ("p7", 0, "p8", 1.0),
        ("p8", 0, "p9", 12.0),
        ("p8", 1, "p10", 1.0),
        ("p10", 0, "p11", 0.5),
        ("p11", 0, "p12", 9.0),
        ("p11", 1, "p13", 14.0),
    )
    return Job(
        name="Plover Cottage",
        place="Sorrel Head",
        profile="europe",
        date=DAY,
        site=Site(
            position_text="53.4741 -9.9462",
            latitude_deg=53.4741,
            longitude_deg=-9.9462,
            height_m=19.0,
            mount_height_m=8.0,
            surroundings="village",
            entry_distance_m=3.0,
            entry_bearing_deg=150.0,
            mobile_m=2600.0,
        ),
        mast=Mast(length_m=2.0, held_m=0.6, outer_mm=48.0, wall_mm=3.0, base="brick"),
        earth=Earth(overhead_lines="none"),
        handover=Handover(customer="The Plover household", installer="A. Mender"),
        company=Company(
            plan="both",
            low_mhz=130,
            high_mhz=754,
            low_dbuv=75.0,
            high_dbuv=73.0,
            mer_db=39.0,
            return_noise_dbuv=8.0,
            watched_s=30,
            lines_known=True,
        ),
        outlets=tuple(
            Outlet(
                id=f"o{n}", name=name, floor=floor, terrestrial=air, satellite=False, company=wants
            )
            for n, (name, floor, air, wants) in enumerate(_ROOMS, start=1)
        ),
        targets=(hill, line),
        carriers=(*own, *fed),
        arrays=(
            Array(
                id="a1",
                name="Roof array",
                target="t1",
                gain_dbi=11.0,
                on_mast_m=1.6,
                wind_area_m2=0.09,
            ),
        ),
        conductors=(
            Conductor(
                id="e1", role="mast", material="copper", size_mm2=16, length_m=7.0, connected=True
            ),
            Conductor(
                id="e2", role="shields", material="copper", size_mm2=4, length_m=3.0, connected=True
            ),
            Conductor(
                id="e3", role="devices", material="copper", size_mm2=4, length_m=2.0, connected=True
            ),
        ),
        parts=(
            Part(id="p1", type="antenna", antenna="a1"),
            Part(id="p2", type="block-1", name="Grounding block"),
            Part(id="p3", type="splitter-2", name="Own splitter"),
            Part(id="p4", type="plate", outlet="o1"),
            Part(id="p5", type="plate", outlet="o2"),
            Part(id="p6", type="company-line", name="Company's line"),
            Part(id="p7", type="block-1", name="Company's block"),
            Part(id="p8", type="splitter-2", name="First split"),
            Part(id="p9", type="plate", outlet="o3"),
            Part(id="p10", type="filter-return-stop", name="High pass"),
            Part(id="p11", type="splitter-2", name="Second split"),
            Part(id="p12", type="plate", outlet="o4"),
            Part(id="p13", type="plate", outlet="o5"),
        ),
        links=tuple(
            Cable(id=f"l{n}", from_part=a, from_port=o, to_part=b, cable="rg6", length_m=m)
            for n, (a, o, b, m) in enumerate(run, start=1)
        ),
    )
