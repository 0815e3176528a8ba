"""The demo's dish jobs: several satellites, a motor in C-band, a caravan, an island terminal.

Places, satellites and people are invented.
"""

from __future__ import annotations

import datetime as dt

from evtro.core.job import (
    Beam,
    Cable,
    Carrier,
    Conductor,
    Dish,
    Earth,
    FeedTry,
    Handover,
    Job,
    Lock,
    Mast,
    Obstruction,
    Outlet,
    Part,
    Rig,
    Sample,
    SatelliteFeed,
    Site,
    Spot,
    Stop,
    Target,
    Terminal,
)

DAY = dt.date(2026, 4, 18)


def transponders(
    first: int,
    target: str,
    rows: tuple[tuple[float, str, float], ...],
    eirp_dbw: float,
    modulation: str,
) -> tuple[Carrier, ...]:
    """Carriers of a satellite from rows of frequency [MHz], polarisation and symbol rate [MBd]."""
    return tuple(
        Carrier(
            id=f"c{first + i}",
            target=target,
            name=f"{pol} {f / 1000:.3f}",
            frequency_mhz=f,
            bandwidth_mhz=symbol,
            polarisation=pol,
            power=eirp_dbw,
            modulation=modulation,
        )
        for i, (f, pol, symbol) in enumerate(rows)
    )


def _sat(key: str, name: str, orbit: float, **more: object) -> Target:
    return Target.model_validate(
        {"id": key, "kind": "satellite", "name": name, "orbit_deg_e": orbit, **more}
    )


def alder_terrace() -> Job:
    """Five satellites on one dish for a house with five receivers."""
    names = (
        ("Kittiwake", 19.0),
        ("Guillemot", 13.0),
        ("Redshank", 16.0),
        ("Whimbrel", 23.5),
        ("Garganey", 9.0),
    )
    targets = tuple(_sat(f"t{i + 1}", n, o) for i, (n, o) in enumerate(names)) + (
        _sat("t6", "Pochard", 28.5, wanted=False),
        _sat("t7", "Wigeon", 4.8, wanted=False),
    )
    carriers: tuple[Carrier, ...] = ()
    for i in range(7):
        base = 10_730.0 + 37 * i
        rows = tuple(
            (base + 410.0 * n, "HV"[(n + i) % 2], 27.5 if n % 2 else 22.0 + i % 3) for n in range(4)
        )
        carriers += transponders(
            len(carriers) + 1,
            f"t{i + 1}",
            rows=rows,
            eirp_dbw=51.5 - 0.4 * i,
            modulation="DVB-S2 8PSK 2/3",
        )
    rooms = ("Lounge", "Study", "Kitchen", "Workshop", "Bedroom")
    parts = [Part(id="p1", type="lnb-single", name="LNB 1", antenna="a1")]
    parts += [
        Part(id=f"p{i}", type="lnb-single", name=f"LNB {i}", antenna="a1", target=f"t{i}")
        for i in range(2, 6)
    ]
    parts.append(Part(id="p6", type="block-5", name="Grounding block"))
    parts += [Part(id=f"p{7 + i}", type="plate", outlet=f"o{i + 1}") for i in range(5)]
    parts.append(Part(id="p12", type="switch-five-dishes", name="Switch"))
    links = [
        Cable(
            id=f"l{i + 1}",
            from_part=f"p{i + 1}",
            to_part="p6",
            to_port=i,
            cable="rg6",
            length_m=9.0,
        )
        for i in range(5)
    ]
    links += [
        Cable(
            id=f"l{6 + i}",
            from_part="p6",
            from_port=i,
            to_part="p12",
            to_port=i,
            cable="rg6",
            length_m=0.5,
        )
        for i in range(5)
    ]
    links += [
        Cable(
            id=f"l{11 + i}",
            from_part="p12",
            from_port=i,
            to_part=f"p{7 + i}",
            cable="rg6",
            length_m=8.0 + 3 * i,
        )
        for i in range(5)
    ]
    return Job(
        name="Alder Terrace",
        place="Mirefield",
        profile="europe",
        date=DAY,
        site=Site(
            position_text="47.2140 N 8.1160 E",
            latitude_deg=47.214,
            longitude_deg=8.116,
            height_m=420,
            mount_height_m=5.8,
            building_length_m=11,
            building_width_m=9,
            building_offset_m=4,
            building_offset_bearing_deg=10,
        ),
        mast=Mast(length_m=1.8, held_m=0.7, outer_mm=60.0, wall_mm=3.0, base="brick"),
        earth=Earth(overhead_lines="none", below_roof_edge_m=2.5, from_wall_m=0.6),
        handover=Handover(customer="The family", installer="A. Mender"),
        outlets=tuple(
            Outlet(id=f"o{i + 1}", name=r, floor="House", terrestrial=False)
            for i, r in enumerate(rooms)
        ),
        targets=targets,
        carriers=carriers,
        obstructions=(
            Obstruction(
                id="b1",
                name="Neighbour's roof",
                outline="gable",
                from_deg=128,
                to_deg=146,
                top_deg=14,
                distance_m=32,
                seen_from_m=5.8,
            ),
            Obstruction(
                id="b2",
                name="Own eaves",
                outline="eave",
                nature="own",
                from_deg=150,
                to_deg=215,
                top_deg=62,
                distance_m=3.2,
                seen_from_m=5.8,
            ),
        ),
        dishes=(
            Dish(
                id="a1",
                name="Dish 1.0 m",
                target="t1",
                diameter_m=1.0,
                offset_deg=24.6,
                mounting="multi",
                skew_turns="dish",
                level_reads="90",
                focal_ratio=0.66,
                datum="structure",
                constant_deg=12.6,
                on_mast_m=0.4,
                deg_per_turn=0.7,
                lnb_width_mm=46,
            ),
        ),
        feeds=tuple(
            SatelliteFeed(id=f"f{i}", antenna="a1", target=f"t{i + 1}") for i in range(1, 5)
        ),
        conductors=(
            Conductor(
                id="e1", role="shields", material="copper", size_mm2=4, length_m=5, connected=True
            ),
            Conductor(
                id="e2", role="devices", material="copper", size_mm2=4, length_m=1.5, connected=True
            ),
        ),
        parts=tuple(parts),
        links=tuple(links),
        locks=(
            Lock(
                id="k1",
                antenna="a1",
                frequency_mhz=11177,
                polarisation="V",
                symbol_mbd=27.5,
                locked=False,
            ),
        ),
    )


def kauri_flat() -> Job:
    """A C-band dish on a motor in the southern tropics, with a log of tries of its feed."""
    names = (
        ("Noddy", 172.0),
        ("Tropicbird", 166.0),
        ("Frigate", 180.0),
        ("Booby", 113.0),
        ("Shearwater", -177.0),
    )
    targets = tuple(
        _sat(f"t{i + 1}", n, o, polarisation_offset_deg=0.0) for i, (n, o) in enumerate(names)
    )
    carriers: tuple[Carrier, ...] = ()
    for i in range(5):
        rows = tuple(
            (3740.0 + 18 * i + 115 * n, "VH"[n % 2], 30.0 if n % 2 else 20.0) for n in range(3)
        )
        carriers += transponders(
            len(carriers) + 1,
            f"t{i + 1}",
            rows=rows,
            eirp_dbw=39.5 - 0.5 * (i % 3),
            modulation="DVB-S2 QPSK 3/4",
        )
    tries = ((0.0, 6.1, 8), (-5.0, 6.9, 11), (-10.0, 7.6, 15), (-15.0, 7.2, 14))
    return Job(
        name="Kauri Flat",
        place="Sandalwood Point",
        profile="australia-new-zealand",
        date=DAY,
        site=Site(
            position_text="17.6120 S 168.2480 E",
            latitude_deg=-17.612,
            longitude_deg=168.248,
            height_m=38,
            mount_height_m=2.2,
            building_length_m=10,
            building_width_m=7,
            building_offset_m=9,
            building_offset_bearing_deg=200,
        ),
        mast=Mast(
            length_m=2.0,
            held_m=0.9,
            outer_mm=114.0,
            wall_mm=4.5,
            wind_region="c",
            base="concrete",
            bolt_mm=12.0,
            bolts_apart_m=0.3,
            crew=3,
        ),
        earth=Earth(overhead_lines="none"),
        handover=Handover(customer="The station", installer="A. Mender"),
        outlets=(Outlet(id="o1", name="Store room", floor="Ground", terrestrial=False),),
        targets=targets,
        carriers=carriers,
        obstructions=(
            Obstruction(
                id="b1",
                name="Coconut palms",
                outline="crowns",
                nature="evergreen",
                growth_m_year=0.3,
                from_deg=292,
                to_deg=318,
                top_deg=24,
                distance_m=26,
                seen_from_m=2.2,
            ),
            Obstruction(
                id="b2",
                name="Ridge",
                outline="ridge",
                from_deg=30,
                to_deg=95,
                top_deg=6,
                distance_m=4200,
                seen_from_m=2.2,
            ),
        ),
        dishes=(
            Dish(
                id="a1",
                name="Mesh dish 2.4 m",
                target="t1",
                diameter_m=2.4,
                surface="mesh",
                efficiency=0.6,
                offset_deg=0.0,
                mounting="polar",
                focal_ratio=0.38,
                datum="scale",
                motor_limit_deg=60,
                motor_bend_deg=0,
                reflector_width_mm=2400,
                reflector_height_mm=2400,
                reflector_depth_mm=395,
                on_mast_m=0.2,
                lean_deg=0.3,
                lean_bearing_deg=80,
                deg_per_turn=0.5,
                lnb_width_mm=140,
            ),
        ),
        feeds=tuple(
            SatelliteFeed(id=f"f{i}", antenna="a1", target=f"t{i + 1}") for i in range(1, 5)
        ),
        feed_tries=tuple(
            FeedTry(id=f"y{i + 1}", antenna="a1", depth_mm=d, reading=r, channels=c)
            for i, (d, r, c) in enumerate(tries)
        ),
        conductors=(
            Conductor(
                id="e1", role="mast", material="copper", size_mm2=16, length_m=4, connected=True
            ),
        ),
        parts=(
            Part(id="p1", type="lnb-c-stacked", name="LNB", antenna="a1"),
            Part(id="p2", type="block-1", name="Grounding block"),
            Part(id="p3", type="plate", outlet="o1"),
        ),
        links=(
            Cable(id="l1", from_part="p1", to_part="p2", cable="rg11", length_m=18),
            Cable(id="l2", from_part="p2", to_part="p3", cable="rg6", length_m=6),
        ),
    )


def fjell_caravan() -> Job:
    """A caravan in the far north with two stops: the dish looks just over the horizon."""
    stops = (
        Stop(
            id="h1",
            name="Lichen Lay-by",
            position_text="68.1400 N 15.4200 E",
            latitude_deg=68.14,
            longitude_deg=15.42,
            height_m=22,
        ),
        Stop(
            id="h2",
            name="Cloudberry Bay",
            position_text="70.4680 N 24.9300 E",
            latitude_deg=70.468,
            longitude_deg=24.93,
            height_m=8,
        ),
    )
    carriers = transponders(
        1,
        "t1",
        rows=((10747.0, "H", 25.0), (11229.0, "V", 27.5), (12149.0, "H", 27.5)),
        eirp_dbw=52.5,
        modulation="DVB-S2 8PSK 2/3",
    ) + transponders(
        4,
        "t2",
        rows=((10747.0, "V", 22.0), (11347.0, "V", 27.5), (12149.0, "H", 23.5)),
        eirp_dbw=51.0,
        modulation="DVB-S2 8PSK 2/3",
    )
    return Job(
        name="Fjell Caravan",
        place="On tour",
        profile="europe",
        date=dt.date(2026, 7, 2),
        site=Site(
            position_text=stops[0].position_text,
            latitude_deg=stops[0].latitude_deg,
            longitude_deg=stops[0].longitude_deg,
            height_m=22,
            mount_height_m=1.1,
            building_length_m=0,
            building_width_m=0,
            entry_distance_m=2,
            keep_clear_deg=2.0,
        ),
        mast=Mast(
            length_m=1.2, held_m=0.4, outer_mm=38.0, wall_mm=2.0, fixing="pole", ballast_kg=50.0
        ),
        earth=Earth(overhead_lines="none", below_roof_edge_m=3, from_wall_m=0.5),
        handover=Handover(customer="The travellers", installer="The travellers"),
        outlets=(Outlet(id="o1", name="Caravan", floor="", terrestrial=False),),
        targets=(
            _sat("t1", "Ptarmigan", 16.0),
            _sat("t2", "Brambling", 21.5, wanted=False),
            _sat("t3", "Siskin", 9.0, wanted=False),
        ),
        carriers=carriers,
        obstructions=(
            Obstruction(
                id="b1", name="Fell", outline="ridge", from_deg=195, to_deg=240, top_deg=7.5
            ),
        ),
        dishes=(
            Dish(
                id="a1",
                name="Dish 0.85 m",
                target="t1",
                diameter_m=0.85,
                offset_deg=25,
                datum="scale",
                scale_zero_deg=1.2,
                compass_error_deg=5,
                scale_error_deg=1.0,
                deg_per_turn=0.9,
                on_mast_m=0.3,
            ),
        ),
        rig=Rig(kind="tripod", stop="h1", base_level_deg=0.4, cable_m=10),
        stops=stops,
        parts=(
            Part(id="p1", type="lnb-single", name="LNB", antenna="a1"),
            Part(id="p2", type="plate", outlet="o1"),
        ),
        links=(Cable(id="l1", from_part="p1", to_part="p2", cable="rg6", length_m=10),),
    )


def tern_hut() -> Job:
    """A two-way terminal on an island hut: beams by place, people kept out, cross-polar null."""

    def ring(lon: float, lat: float, wide: float, high: float) -> tuple[tuple[float, float], ...]:
        shape = ((-1, -0.6), (-0.4, -1), (0.5, -0.9), (1, -0.2), (0.8, 0.7), (0.1, 1), (-0.8, 0.6))
        return tuple((round(lon + x * wide, 3), round(lat + y * high, 3)) for x, y in shape)

    return Job(
        name="Tern Hut",
        place="Skua Isle",
        profile="europe",
        date=DAY,
        site=Site(
            position_text="61.3870 N 6.7440 W",
            latitude_deg=61.387,
            longitude_deg=-6.744,
            height_m=46,
            mount_height_m=3.0,
            building_length_m=7,
            building_width_m=5,
            building_offset_m=3,
            building_offset_bearing_deg=330,
        ),
        mast=Mast(length_m=1.6, held_m=0.6, outer_mm=76.0, wall_mm=3.6, base="concrete"),
        earth=Earth(overhead_lines="none", below_roof_edge_m=0.5, from_wall_m=0.4),
        handover=Handover(customer="The wardens", installer="A. Mender"),
        outlets=(Outlet(id="o1", name="Radio room", floor="Ground", terrestrial=False),),
        targets=(
            _sat("t1", "Gyrfalcon", 7.5),
            _sat("t2", "Fieldfare", 10.2, wanted=False),
            _sat("t3", "Dunnock", 4.6, wanted=False),
        ),
        carriers=transponders(
            1,
            "t1",
            rows=((11488.0, "V", 30.0), (11536.0, "V", 30.0)),
            eirp_dbw=50.0,
            modulation="DVB-S2 QPSK 3/4",
        )
        + transponders(
            3,
            "t2",
            rows=((11490.0, "V", 27.5), (12188.0, "H", 27.5)),
            eirp_dbw=50.0,
            modulation="DVB-S2 8PSK 2/3",
        )
        + transponders(
            5,
            "t3",
            rows=((11488.0, "H", 27.5), (11616.0, "V", 22.0)),
            eirp_dbw=49.0,
            modulation="DVB-S2 8PSK 2/3",
        ),
        obstructions=(
            Obstruction(
                id="b1",
                name="Stack",
                outline="block",
                from_deg=138,
                to_deg=149,
                top_deg=9.5,
                distance_m=160,
                seen_from_m=3.0,
            ),
            Obstruction(
                id="b2",
                name="Hut gable",
                outline="gable",
                nature="own",
                from_deg=186,
                to_deg=232,
                top_deg=21,
                distance_m=6.5,
                seen_from_m=3.0,
            ),
        ),
        spots=(
            Spot(
                id="s1",
                name="Flagstone yard",
                bearing_deg=130,
                distance_m=7,
                mount_height_m=1.8,
                cable_m=21,
            ),
            Spot(
                id="s2",
                name="Gable top",
                bearing_deg=200,
                distance_m=4,
                mount_height_m=5.2,
                cable_m=14,
            ),
        ),
        dishes=(
            Dish(
                id="a1",
                name="Two-way dish 0.98 m",
                target="t1",
                diameter_m=0.98,
                offset_deg=17.4,
                datum="scale",
                two_way=True,
                transmit_w=3.0,
                transmit_mhz=14_188.0,
                on_mast_m=0.3,
                variant="white horn",
                lock_torque_nm=12.0,
                deg_per_turn=0.6,
                compass_error_deg=2.0,
            ),
        ),
        beams=(
            Beam(
                id="w1",
                target="t1",
                name="North Skerries",
                code="NS-2",
                polarisation="V",
                least_esn0_db=8.5,
                boundary=ring(-5.2, 61.6, 3.6, 2.4),
            ),
            Beam(
                id="w2",
                target="t1",
                name="Outer Banks",
                code="OB-1",
                polarisation="H",
                least_esn0_db=9.0,
                boundary=ring(-11.8, 60.4, 3.4, 2.6),
            ),
            Beam(
                id="w3",
                target="t1",
                name="Sound of Lang",
                code="SL-4",
                polarisation="V",
                least_esn0_db=8.0,
                boundary=ring(-1.0, 58.4, 3.0, 2.0),
            ),
        ),
        terminal=Terminal(
            installer="A. Mender",
            licence="EV-2031",
            licence_seen=True,
            beam="w1",
            esn0_db=10.4,
            skew_error_deg=1.5,
            duty_pct=40,
            height_above_m=3.0,
            state="pointed",
        ),
        samples=tuple(
            Sample(
                id=f"q{i + 1}",
                antenna="a1",
                axis="azimuth",
                position=x,
                unit="turn",
                reading=y,
                scale="db",
            )
            for i, (x, y) in enumerate(
                ((-2.5, 3.6), (-1.5, 8.8), (-0.5, 11.7), (0.5, 12.2), (1.0, 11.7), (1.75, 9.8))
            )
        ),
        conductors=(
            Conductor(
                id="e1", role="mast", material="copper", size_mm2=16, length_m=6, connected=True
            ),
            Conductor(
                id="e2", role="shields", material="copper", size_mm2=4, length_m=4, connected=True
            ),
        ),
        parts=(
            Part(id="p1", type="unit-ku-pair", name="Outdoor unit", antenna="a1"),
            Part(id="p2", type="block-1", name="Receive block"),
            Part(id="p3", type="modem-pair", name="Modem"),
            Part(id="p4", type="plate", outlet="o1"),
            Part(id="p5", type="block-1", name="Transmit block"),
        ),
        links=(
            Cable(id="l1", from_part="p1", to_part="p2", cable="rg6", length_m=12),
            Cable(id="l2", from_part="p2", to_part="p3", cable="rg6", length_m=6),
            Cable(id="l3", from_part="p3", to_part="p4", cable="rg6", length_m=0.5),
            Cable(
                id="l4",
                from_part="p1",
                from_port=1,
                to_part="p5",
                cable="rg6",
                length_m=12,
                note="transmit, red sleeve",
            ),
            Cable(
                id="l5",
                from_part="p5",
                to_part="p3",
                to_port=1,
                cable="rg6",
                length_m=6,
                note="transmit, red sleeve",
            ),
        ),
    )
