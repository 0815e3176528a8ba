"""The demo world: houses, dishes, their transmitters and satellites, all invented."""

from __future__ import annotations

import datetime as dt
from functools import cache

from evtro import catalogue
from evtro.core.job import (
    Array,
    Cable,
    Carrier,
    Conductor,
    Dish,
    Earth,
    Handover,
    Job,
    Mast,
    Obstruction,
    Outlet,
    Part,
    Reading,
    Sample,
    Site,
    Spot,
    Target,
)
from evtro.core.job.stock import carrying
from evtro.profiles import shop_profile

from .arrays import harrow_farm, larch_street, mill_loft
from .block import sorrel_court
from .cascade import whimbrel_court
from .dishes import alder_terrace, fjell_caravan, kauri_flat, tern_hut, transponders
from .faults import marten_lodge
from .line import plover_cottage
from .vehicle import kittiwake_van

DEMO_DATE = dt.date(2026, 3, 25)

_ROOMS = (
    ("Petrel", "Second floor", 9.0, "rg6"),
    ("Tern", "Second floor", 12.0, "rg6"),
    ("Gannet", "Second floor", 14.0, "rg6"),
    ("Fulmar", "First floor", 13.0, "rg6"),
    ("Puffin", "First floor", 16.0, "rg6"),
    ("Eider", "First floor", 18.0, "rg6"),
    ("Razorbill", "First floor", 22.0, "rg6"),
    ("Lounge", "Ground floor", 20.0, "rg6"),
    ("Breakfast room", "Ground floor", 24.0, "rg6"),
    ("Office", "Ground floor", 28.0, "rg6"),
    ("Kitchen", "Ground floor", 36.0, "rg59"),
    ("Garden room", "Garden", 48.0, "rg59"),
)


def skerry_house() -> Job:
    """A guesthouse by the sea: array and dish into a multiswitch, one outlet out of limits, one
    row of trees too close to a satellite that is wanted next."""
    outlets = tuple(
        Outlet(id=f"o{i + 1}", name=name, floor=floor)
        for i, (name, floor, _, _) in enumerate(_ROOMS)
    )
    targets = (
        Target(id="t1", kind="satellite", name="Corvus", orbit_deg_e=28.0),
        Target(id="t2", kind="satellite", name="Halcyon", orbit_deg_e=12.5),
        Target(
            id="t3",
            kind="transmitter",
            name="Cairnmore",
            latitude_deg=53.590,
            longitude_deg=-9.4195,
            height_m=385.0,
            own_loss_db=8.0,
        ),
        Target(id="t4", kind="satellite", name="Lanner", orbit_deg_e=37.0, wanted=False),
        Target(id="t5", kind="satellite", name="Avocet", orbit_deg_e=25.5, wanted=False),
        Target(id="t6", kind="satellite", name="Dunlin", orbit_deg_e=1.0, wanted=False),
        Target(id="t7", kind="satellite", name="Turnstone", orbit_deg_e=-15.0, wanted=False),
        Target(id="t8", kind="satellite", name="Shelduck", orbit_deg_e=-41.0, wanted=False),
    )
    muxes = (("mux 1", 482.0), ("mux 2", 586.0), ("mux 3", 690.0))
    of_corvus = (
        ("V 10.714", 10714.0, "V"),
        ("H 11.138", 11138.0, "H"),
        ("V 12.364", 12364.0, "V"),
        ("H 12.738", 12738.0, "H"),
    )
    carriers = tuple(
        Carrier(
            id=f"c{i + 1}",
            target="t3",
            name=name,
            frequency_mhz=f,
            bandwidth_mhz=7.61,
            polarisation="H",
            power=20.0,
            modulation="DVB-T 64QAM 2/3",
        )
        for i, (name, f) in enumerate(muxes)
    ) + tuple(
        Carrier(
            id=f"c{i + 4}",
            target="t1",
            name=name,
            frequency_mhz=f,
            bandwidth_mhz=27.5,
            polarisation=pol,
            power=50.9,
            modulation="DVB-S2 8PSK 2/3",
        )
        for i, (name, f, pol) in enumerate(of_corvus)
    )
    carriers += (
        transponders(
            8,
            "t5",
            rows=((10714.0, "V", 22.0), (11138.0, "H", 27.5), (11597.0, "V", 22.0)),
            eirp_dbw=49.5,
            modulation="DVB-S2 8PSK 3/4",
        )
        + transponders(
            11,
            "t4",
            rows=((10714.0, "V", 27.5), (11264.0, "H", 22.0), (12322.0, "H", 27.5)),
            eirp_dbw=50.0,
            modulation="DVB-S2 8PSK 2/3",
        )
        + transponders(
            14,
            "t6",
            rows=((11138.0, "H", 30.0), (11389.0, "V", 22.0), (12713.0, "V", 30.0)),
            eirp_dbw=48.0,
            modulation="DVB-S2 QPSK 3/4",
        )
    )
    obstructions = (
        Obstruction(
            id="b1",
            name="Hill toward Cairnmore",
            outline="ridge",
            from_deg=60,
            to_deg=80,
            top_deg=1.4,
            distance_m=2100,
            seen_from_m=7.4,
        ),
        Obstruction(
            id="b2",
            name="Chapel",
            outline="gable",
            from_deg=118,
            to_deg=126,
            top_deg=17,
            distance_m=36,
            seen_from_m=7.4,
        ),
        Obstruction(
            id="b3",
            name="Row of sycamores",
            outline="crowns",
            nature="leafy",
            growth_m_year=0.4,
            from_deg=148,
            to_deg=171,
            top_deg=17.0,
            distance_m=21.5,
            seen_from_m=7.4,
        ),
        Obstruction(
            id="b4",
            name="Own chimney",
            outline="block",
            nature="own",
            from_deg=200,
            to_deg=206,
            top_deg=38,
            distance_m=3.1,
            seen_from_m=7.4,
        ),
    )
    dishes = (
        Dish(
            id="a1",
            name="Dish 0.8 m",
            target="t1",
            diameter_m=0.8,
            offset_deg=25.0,
            datum="face_level",
            on_mast_m=0.5,
            lean_deg=0.4,
            lean_bearing_deg=250.0,
            deg_per_turn=0.8,
        ),
    )
    arrays = (
        Array(
            id="a2", name="UHF array", target="t3", gain_dbi=12.5, on_mast_m=1.9, wind_area_m2=0.09
        ),
    )
    parts = [
        Part(id="p1", type="antenna", antenna="a2"),
        Part(id="p2", type="preamp-13", name="Preamplifier"),
        Part(id="p3", type="lnb-four", name="LNB", antenna="a1"),
        Part(id="p4", type="block-5", name="Grounding block"),
        Part(id="p5", type="arrester-5", name="Arresters"),
        Part(id="p6", type="multiswitch-12", name="Multiswitch"),
    ] + [Part(id=f"p{i + 7}", type="plate", outlet=f"o{i + 1}") for i in range(len(_ROOMS))]
    links = [
        Cable(id="l1", from_part="p1", to_part="p2", cable="rg6", length_m=0.7),
        Cable(id="l2", from_part="p2", to_part="p4", to_port=4, cable="rg6", length_m=12.0),
    ]
    links += [
        Cable(
            id=f"l{i + 3}",
            from_part="p3",
            from_port=i,
            to_part="p4",
            to_port=i,
            cable="rg6",
            length_m=12.0,
        )
        for i in range(4)
    ]
    links += [
        Cable(
            id=f"l{i + 7}",
            from_part="p4",
            from_port=i,
            to_part="p5",
            to_port=i,
            cable="rg6",
            length_m=0.5,
        )
        for i in range(5)
    ]
    links += [
        Cable(
            id=f"l{i + 12}",
            from_part="p5",
            from_port=i,
            to_part="p6",
            to_port=i,
            cable="rg6",
            length_m=6.0,
        )
        for i in range(5)
    ]
    links += [
        Cable(
            id=f"l{i + 17}",
            from_part="p6",
            from_port=i,
            to_part=f"p{i + 7}",
            cable=cable,
            length_m=length,
            note="Duct under the path, draw rope left in." if name == "Garden room" else "",
        )
        for i, (name, _, length, cable) in enumerate(_ROOMS)
    ]
    readings = []
    for i, (part, carrier, level, cn) in enumerate(_READ):
        readings.append(
            Reading(id=f"r{i + 1}", part=part, carrier=carrier, level_dbuv=level, cn_db=cn)
        )
    return Job(
        name="Skerry House",
        place="Port Averil",
        profile="europe",
        date=DEMO_DATE,
        site=Site(
            position_text="53.4805 N 9.9720 W",
            latitude_deg=53.4805,
            longitude_deg=-9.9720,
            height_m=14.0,
            mount_height_m=7.4,
            keep_clear_deg=7.0,
            building_length_m=18.0,
            building_width_m=9.0,
            building_bearing_deg=80.0,
            building_offset_m=5.0,
            building_offset_bearing_deg=320.0,
            entry_distance_m=3.5,
            entry_bearing_deg=330.0,
        ),
        mast=Mast(length_m=3.6, held_m=0.9, outer_mm=60.0, wall_mm=3.0, base="concrete"),
        earth=Earth(overhead_lines="near", line_distance_m=14.0, line_kv=0.4),
        handover=Handover(customer="The house keeper", installer="A. Mender"),
        outlets=outlets,
        targets=targets,
        carriers=carriers,
        obstructions=obstructions,
        dishes=dishes,
        arrays=arrays,
        spots=(
            Spot(
                id="s1",
                name="North-east corner",
                bearing_deg=45,
                distance_m=3.7,
                mount_height_m=7.4,
                cable_m=19.0,
            ),
            Spot(
                id="s2",
                name="Garden post",
                bearing_deg=120,
                distance_m=16,
                mount_height_m=3.0,
                cable_m=34.0,
            ),
        ),
        samples=tuple(
            Sample(id=f"q{i + 1}", antenna="a1", axis="azimuth", position=x, unit="deg", reading=y)
            for i, (x, y) in enumerate(_SWEPT)
        ),
        conductors=(
            Conductor(
                id="e1", role="mast", material="copper", size_mm2=16, length_m=8.6, connected=True
            ),
            Conductor(
                id="e2", role="shields", material="copper", size_mm2=4, length_m=6.2, connected=True
            ),
        ),
        parts=tuple(parts),
        links=tuple(links),
        readings=tuple(readings),
    )


# Position in degrees from the start mark and C/N in dB, the last one where the dish stands.
_SWEPT = (
    (-2.0, 8.6),
    (-1.5, 11.3),
    (-1.0, 13.3),
    (-0.5, 14.2),
    (0.0, 13.8),
    (0.5, 12.1),
    (1.0, 9.6),
)

_READ: tuple[tuple[str, str, float, float | None], ...] = (
    ("p2", "c1", 82.9, None),
    ("p2", "c2", 80.9, None),
    ("p2", "c3", 80.1, 37.2),
    ("p4", "c1", 80.5, None),
    ("p4", "c2", 79.3, None),
    ("p4", "c3", 78.9, 38.2),
    ("p7", "c1", 60.1, None),
    ("p7", "c2", 56.4, None),
    ("p7", "c3", 55.0, 37.4),
    ("p7", "c4", 63.1, None),
    ("p7", "c5", 60.9, None),
    ("p7", "c6", 59.5, None),
    ("p7", "c7", 59.5, 17.6),
    ("p8", "c1", 59.7, None),
    ("p8", "c2", 57.2, None),
    ("p8", "c3", 53.7, 37.5),
    ("p8", "c4", 63.5, None),
    ("p8", "c5", 61.5, None),
    ("p8", "c6", 60.0, None),
    ("p8", "c7", 58.4, 16.5),
    ("p9", "c1", 59.0, None),
    ("p9", "c2", 56.6, None),
    ("p9", "c3", 54.0, 37.3),
    ("p9", "c4", 62.7, None),
    ("p9", "c5", 59.6, None),
    ("p9", "c6", 59.6, None),
    ("p9", "c7", 57.8, 17.1),
    ("p10", "c1", 58.4, None),
    ("p10", "c2", 57.3, None),
    ("p10", "c3", 54.3, 38.3),
    ("p10", "c4", 63.8, None),
    ("p10", "c5", 60.8, None),
    ("p10", "c6", 58.8, None),
    ("p10", "c7", 57.5, 17.0),
    ("p11", "c1", 57.7, None),
    ("p11", "c2", 55.4, None),
    ("p11", "c3", 54.3, 37.1),
    ("p11", "c4", 61.4, None),
    ("p11", "c5", 60.3, None),
    ("p11", "c6", 57.6, None),
    ("p11", "c7", 56.4, 17.0),
    ("p14", "c1", 57.5, None),
    ("p14", "c2", 56.3, None),
    ("p14", "c3", 52.2, 37.6),
    ("p14", "c4", 60.8, None),
    ("p14", "c5", 59.3, None),
    ("p14", "c6", 56.4, None),
    ("p14", "c7", 54.7, 17.4),
    ("p17", "c1", 53.8, None),
    ("p17", "c2", 51.4, None),
    ("p17", "c3", 45.1, 37.2),
)


def fern_cottage() -> Job:
    """A simple house on the other side of the world: array with preamplifier, one dish."""
    targets = (
        Target(
            id="t1",
            kind="transmitter",
            name="Currawong Knoll",
            latitude_deg=-37.020,
            longitude_deg=146.480,
            height_m=720.0,
            own_loss_db=16.0,
        ),
        Target(id="t2", kind="satellite", name="Southern Plover", orbit_deg_e=156.0),
    )
    carriers = tuple(
        Carrier(
            id=f"c{i + 1}",
            target="t1",
            name=name,
            frequency_mhz=f,
            bandwidth_mhz=6.66,
            polarisation="V",
            power=10.0,
            modulation="DVB-T 64QAM 3/4",
        )
        for i, (name, f) in enumerate((("mux A", 529.5), ("mux B", 564.5), ("mux C", 599.5)))
    ) + (
        Carrier(
            id="c4",
            target="t2",
            name="H 12.407",
            frequency_mhz=12407.0,
            bandwidth_mhz=30.0,
            polarisation="H",
            power=51.0,
            modulation="DVB-S2 8PSK 3/5",
        ),
        Carrier(
            id="c5",
            target="t2",
            name="V 12.576",
            frequency_mhz=12576.0,
            bandwidth_mhz=30.0,
            polarisation="V",
            power=51.0,
            modulation="DVB-S2 8PSK 3/5",
        ),
    )
    return Job(
        name="Fern Cottage",
        place="Mallow Bend",
        profile="australia-new-zealand",
        date=DEMO_DATE,
        site=Site(
            position_text="37°14'06\"S 146°39'36\"E",
            latitude_deg=-37.235,
            longitude_deg=146.66,
            height_m=310.0,
            mount_height_m=5.2,
            building_length_m=14.0,
            building_width_m=8.0,
            building_bearing_deg=95.0,
            building_offset_m=4.0,
            building_offset_bearing_deg=185.0,
            entry_distance_m=2.0,
            entry_bearing_deg=185.0,
        ),
        mast=Mast(
            length_m=2.4, held_m=0.6, outer_mm=48.0, wall_mm=3.0, wind_region="a", base="timber"
        ),
        earth=Earth(overhead_lines="none", below_roof_edge_m=0.0, from_wall_m=0.4),
        handover=Handover(customer="The family", installer="A. Mender"),
        outlets=(
            Outlet(id="o1", name="Living room", floor="Ground floor", satellite=False),
            Outlet(id="o2", name="Bedroom", floor="Ground floor", satellite=False),
            Outlet(id="o3", name="Living room, dish", floor="Ground floor", terrestrial=False),
        ),
        targets=targets,
        carriers=carriers,
        obstructions=(
            Obstruction(
                id="b1",
                name="Gum trees",
                outline="crowns",
                from_deg=60,
                to_deg=95,
                top_deg=18,
                distance_m=45,
                seen_from_m=5.2,
            ),
        ),
        dishes=(
            Dish(
                id="a2",
                name="Dish 0.75 m",
                target="t2",
                diameter_m=0.75,
                offset_deg=22.5,
                datum="scale",
                skew_view="front",
                on_mast_m=0.4,
            ),
        ),
        arrays=(
            Array(
                id="a1",
                name="UHF array",
                target="t1",
                gain_dbi=11.0,
                on_mast_m=1.6,
                wind_area_m2=0.08,
            ),
        ),
        conductors=(
            Conductor(
                id="e1", role="mast", material="copper", size_mm2=16, length_m=5.0, connected=True
            ),
            Conductor(
                id="e2", role="shields", material="copper", size_mm2=4, length_m=4.0, connected=True
            ),
            Conductor(
                id="e3", role="devices", material="copper", size_mm2=4, length_m=1.5, connected=True
            ),
        ),
        parts=(
            Part(id="p1", type="antenna", antenna="a1"),
            Part(id="p2", type="preamp-13", name="Preamplifier"),
            Part(id="p3", type="block-1", name="Grounding block"),
            Part(id="p4", type="inserter-12", name="Power inserter"),
            Part(id="p5", type="splitter-2", name="Splitter"),
            Part(id="p6", type="plate", outlet="o1"),
            Part(id="p7", type="plate", outlet="o2"),
            Part(id="p8", type="lnb-single-1075", name="LNB", antenna="a2"),
            Part(id="p9", type="block-1", name="Grounding block, dish"),
            Part(id="p10", type="plate", outlet="o3"),
        ),
        links=(
            Cable(id="l1", from_part="p1", to_part="p2", cable="rg6", length_m=0.7),
            Cable(id="l2", from_part="p2", to_part="p3", cable="rg6", length_m=9.0),
            Cable(id="l3", from_part="p3", to_part="p4", cable="rg6", length_m=2.0),
            Cable(id="l4", from_part="p4", to_part="p5", cable="rg6", length_m=0.5),
            Cable(id="l5", from_part="p5", to_part="p6", cable="rg6", length_m=8.0),
            Cable(id="l6", from_part="p5", from_port=1, to_part="p7", cable="rg6", length_m=14.0),
            Cable(id="l7", from_part="p8", to_part="p9", cable="rg6", length_m=8.0),
            Cable(id="l8", from_part="p9", to_part="p10", cable="rg6", length_m=9.0),
        ),
    )


def demo_jobs() -> dict[str, Job]:
    """The demo's jobs by the id they are kept under, with the data of all that they use."""
    return dict(_demo_jobs())


@cache
def _demo_jobs() -> dict[str, Job]:
    shop = catalogue.load()
    made = {
        "marten-lodge": marten_lodge(),
        "larch-street": larch_street(),
        "mill-loft": mill_loft(),
        "harrow-farm": harrow_farm(),
        "tern-hut": tern_hut(),
        "fjell-caravan": fjell_caravan(),
        "kittiwake-van": kittiwake_van(),
        "kauri-flat": kauri_flat(),
        "alder-terrace": alder_terrace(),
        "fern-cottage": fern_cottage(),
        "skerry-house": skerry_house(),
    }
    return {key: carrying(job, shop, shop_profile(job)) for key, job in made.items()}


def kept_jobs() -> dict[str, Job]:
    """All jobs that the demo keeps: these, the block of 96 flats and the house on a company's line,
    which are large."""
    shop = catalogue.load()
    large = {
        "sorrel-court": sorrel_court(),
        "whimbrel-court": whimbrel_court(),
        "plover-cottage": plover_cottage(),
    }
    found = {key: carrying(job, shop, shop_profile(job)) for key, job in large.items()}
    return found | demo_jobs()
