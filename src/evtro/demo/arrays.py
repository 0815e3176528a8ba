"""The demo's houses for terrestrial antennas: a farm between two transmitters, a loft, a house that
leaves its cable company. Places, transmitters and people are invented."""

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
    Obstruction,
    Outlet,
    Part,
    Scan,
    Site,
    Target,
    TrialReading,
    TrialSpot,
)

from .terrain import relief

DAY = dt.date(2026, 5, 6)

STAUNMOOR = Target(
    id="t1",
    kind="transmitter",
    name="Staunmoor",
    latitude_deg=57.348,
    longitude_deg=-4.255,
    height_m=512.0,
)
COLD_BRAE = Target(
    id="t2",
    kind="transmitter",
    name="Cold Brae",
    latitude_deg=57.175,
    longitude_deg=-4.920,
    height_m=468.0,
    pattern=((0.0, 8.0), (60.0, 0.0), (120.0, 0.0), (180.0, 6.0), (270.0, 14.0)),
)


def _muxes(
    first: int, target: str, rows: tuple[tuple[str, float, tuple[str, ...]], ...], **same: object
) -> tuple[Carrier, ...]:
    values = {"bandwidth_mhz": 7.61, "modulation": "DVB-T 64QAM 2/3", **same}
    return tuple(
        Carrier.model_validate(
            {
                "id": f"c{first + i}",
                "target": target,
                "name": name,
                "frequency_mhz": f,
                "services": services,
                **values,
            }
        )
        for i, (name, f, services) in enumerate(rows)
    )


_STAUNMOOR = (
    ("mux S1", 490.0, ("Harbour One", "Harbour Two", "Peat Radio")),
    ("mux S2", 546.0, ("Vale News", "Lantern", "Shieling")),
    ("mux S3", 642.0, ("Old Films", "Kelp", "Drove Road")),
)
_COLD_BRAE = (
    ("mux B1", 506.0, ("Harbour One west", "West Sports")),
    ("mux B2", 578.0, ("Glen Talk", "Bothy")),
    ("mux B3", 626.0, ("Cairn Cinema", "Weather West")),
)


def harrow_farm() -> Job:
    """A farmhouse between two transmitters, a ridge in the way of one of them."""
    site = Site(
        position_text="57.2100 N 4.5600 W",
        latitude_deg=57.21,
        longitude_deg=-4.56,
        height_m=67.0,
        mount_height_m=8.5,
        building_length_m=16.0,
        building_width_m=7.0,
        building_bearing_deg=120.0,
        building_offset_m=3.0,
        building_offset_bearing_deg=210.0,
        entry_distance_m=4.0,
        entry_bearing_deg=200.0,
        consent="not_needed",
        consent_note="Own farmhouse, outside the heritage area; the planning office was asked.",
        mobile_m=1400.0,
        mobile_bearing_deg=95.0,
    )
    carriers = (
        *_muxes(1, "t1", _STAUNMOOR, polarisation="H", power=0.5),
        *_muxes(4, "t2", _COLD_BRAE, polarisation="H", power=2.0),
        Carrier(
            id="c7",
            target="t3",
            name="far mux",
            frequency_mhz=546.0,
            bandwidth_mhz=7.61,
            polarisation="V",
            power=0.1,
            modulation="DVB-T 64QAM 2/3",
        ),
    )
    far = Target(
        id="t3",
        kind="transmitter",
        name="Loch End relay",
        latitude_deg=57.085,
        longitude_deg=-4.300,
        height_m=260.0,
        wanted=False,
    )
    outlets = (
        Outlet(id="o1", name="Kitchen", floor="Ground floor", satellite=False),
        Outlet(id="o2", name="Parlour", floor="Ground floor", satellite=False),
        Outlet(id="o3", name="Bothy", floor="Yard", satellite=False),
    )
    heard = (
        ("d1", "c1", 62.4, 31.0),
        ("d1", "c2", 60.1, 30.2),
        ("d1", "c3", 58.8, 29.5),
        ("d1", "c4", 24.5, 14.0),
        ("d1", "c5", 23.9, 13.6),
        ("d1", "c6", 22.8, 12.1),
        ("d2", "c1", 47.9, 29.4),
        ("d2", "c2", 47.1, 28.8),
        ("d2", "c3", 45.9, 27.1),
        ("d2", "c4", 31.2, 22.6),
        ("d2", "c5", 30.4, 21.9),
        ("d2", "c6", 29.6, 21.0),
        ("d3", "c1", 63.1, 19.6),
        ("d3", "c2", 61.9, 18.8),
        ("d3", "c3", 60.7, 18.1),
        ("d3", "c4", 15.0, 8.2),
        ("d3", "c5", 14.2, None),
    )
    return Job(
        name="Harrow Farm",
        place="Vale of Orrick",
        profile="europe",
        date=DAY,
        site=site,
        mast=Mast(length_m=3.5, held_m=0.8, outer_mm=50.0, wall_mm=3.0, fixing="chimney"),
        earth=Earth(overhead_lines="none", from_wall_m=0.2),
        handover=Handover(customer="The farmer", installer="A. Mender"),
        outlets=outlets,
        targets=(STAUNMOOR, COLD_BRAE, far),
        carriers=carriers,
        obstructions=(
            Obstruction(
                id="b1",
                name="Own barn",
                outline="gable",
                nature="own",
                from_deg=240,
                to_deg=275,
                above_m=-1.5,
                distance_m=30,
                seen_from_m=8.5,
            ),
            Obstruction(
                id="b2",
                name="Spruces",
                outline="crowns",
                nature="evergreen",
                growth_m_year=0.5,
                from_deg=20,
                to_deg=42,
                above_m=3.0,
                distance_m=60,
                seen_from_m=8.5,
            ),
        ),
        arrays=(
            Array(
                id="a1",
                name="UHF row, 1.4 m",
                target="t1",
                model="row-13",
                gain_dbi=14.2,
                gain_table=((470.0, 11.0), (600.0, 13.0), (700.0, 14.2)),
                low_mhz=470,
                high_mhz=700,
                beamwidth_deg=36,
                front_back_db=24,
                length_m=1.4,
                on_mast_m=1.6,
                wind_area_m2=0.09,
            ),
        ),
        reliefs=(
            relief("g1", site, STAUNMOOR),
            relief("g2", site, COLD_BRAE),
            relief("g3", site, far),
        ),
        trial_spots=(
            TrialSpot(
                id="d1",
                antenna="a1",
                place="Chimney, north side",
                above_ground_m=8.5,
                heading_deg=50.0,
            ),
            TrialSpot(
                id="d2",
                antenna="a1",
                place="West gable",
                above_ground_m=7.2,
                heading_deg=330.0,
                note="Between both, by hand on the ladder.",
            ),
            TrialSpot(
                id="d3",
                antenna="a1",
                place="Over the porch",
                above_ground_m=5.0,
                heading_deg=45.0,
                note="Tin roof of the barn opposite.",
            ),
        ),
        trial_readings=tuple(
            TrialReading(id=f"i{n + 1}", spot=h, carrier=c, level_dbuv=level, cn_db=cn)
            for n, (h, c, level, cn) in enumerate(heard)
        ),
        scans=(
            Scan(
                id="n1",
                outlet="o1",
                at="2026-05-06 10:40",
                found=(
                    "Harbour One",
                    "Harbour Two",
                    "Peat Radio",
                    "Vale News",
                    "Lantern",
                    "Shieling",
                    "Old Films",
                    "Kelp",
                    "Drove Road",
                ),
                note="first scan, antenna at Staunmoor",
            ),
        ),
        conductors=(
            Conductor(
                id="e1", role="mast", material="copper", size_mm2=16, length_m=9.0, connected=True
            ),
            Conductor(
                id="e2", role="shields", material="copper", size_mm2=4, length_m=5.0, connected=True
            ),
        ),
        parts=(
            Part(id="p1", type="antenna", antenna="a1"),
            Part(id="p2", type="block-1", name="Grounding block"),
            Part(id="p3", type="splitter-4", name="Splitter"),
            Part(id="p4", type="plate", outlet="o1"),
            Part(id="p5", type="plate", outlet="o2"),
            Part(id="p6", type="plate", outlet="o3"),
            Part(id="p7", type="terminator"),
        ),
        links=(
            Cable(id="l1", from_part="p1", to_part="p2", cable="rg6", length_m=11.0),
            Cable(id="l2", from_part="p2", to_part="p3", cable="rg6", length_m=4.0),
            Cable(id="l3", from_part="p3", to_part="p4", cable="rg6", length_m=9.0),
            Cable(id="l4", from_part="p3", from_port=1, to_part="p5", cable="rg6", length_m=14.0),
            Cable(id="l5", from_part="p3", from_port=2, to_part="p6", cable="rg6", length_m=55.0),
            Cable(id="l6", from_part="p3", from_port=3, to_part="p7", cable="rg6", length_m=0.0),
        ),
    )


def mill_loft() -> Job:
    """An antenna in the loft of a mill house, radio in the same plant."""
    site = Site(
        position_text="57.2730 N 4.4180 W",
        latitude_deg=57.273,
        longitude_deg=-4.418,
        height_m=78.0,
        mount_height_m=6.0,
        building_length_m=11.0,
        building_width_m=8.0,
        building_bearing_deg=60.0,
        entry_distance_m=2.0,
        entry_bearing_deg=150.0,
        surroundings="village",
        consent="asked",
        consent_note="Conservation area: nothing outside without leave, so the loft is tried first.",
    )
    carriers = (
        *_muxes(1, "t1", _STAUNMOOR, polarisation="H", power=0.5),
        Carrier(
            id="c4",
            target="t1",
            name="DAB 10B",
            frequency_mhz=211.648,
            bandwidth_mhz=1.536,
            polarisation="V",
            power=0.8,
            modulation="DAB DQPSK",
            services=("Peat Radio", "Tide FM"),
        ),
    )
    return Job(
        name="Mill Loft",
        place="Orrick Bridge",
        profile="europe",
        date=DAY,
        site=site,
        mast=Mast(length_m=1.0, held_m=0.5, fixing="loft"),
        earth=Earth(indoors=True, overhead_lines="none"),
        handover=Handover(customer="The miller's heirs", installer="A. Mender"),
        outlets=(
            Outlet(id="o1", name="Sitting room", floor="Ground floor", satellite=False),
            Outlet(id="o2", name="Study", floor="First floor", satellite=False),
        ),
        targets=(STAUNMOOR,),
        carriers=carriers,
        arrays=(
            Array(
                id="a1",
                name="Log-periodic, 1 m",
                target="t1",
                model="log-9",
                gain_dbi=9.6,
                gain_table=((470.0, 9.0), (600.0, 9.6), (700.0, 9.2)),
                low_mhz=470,
                high_mhz=700,
                beamwidth_deg=52,
                front_back_db=24,
                length_m=1.0,
                standing="loft",
                covering="slate",
                above_ground_m=6.0,
                on_mast_m=0.3,
                wind_area_m2=0.05,
            ),
            Array(
                id="a2",
                name="DAB dipole",
                model="dab-dipole",
                gain_dbi=2.1,
                low_mhz=174,
                high_mhz=240,
                beamwidth_deg=360,
                front_back_db=0,
                length_m=0.8,
                heading_deg=40.0,
                elements="V",
                standing="loft",
                covering="slate",
                above_ground_m=5.5,
                on_mast_m=0.1,
                wind_area_m2=0.02,
            ),
        ),
        reliefs=(relief("g1", site, STAUNMOOR),),
        parts=(
            Part(id="p1", type="antenna", antenna="a1"),
            Part(id="p2", type="antenna", antenna="a2"),
            Part(id="p3", type="combiner-vhf-uhf", name="Combiner"),
            Part(id="p4", type="splitter-2", name="Splitter"),
            Part(id="p5", type="plate", outlet="o1"),
            Part(id="p6", type="plate", outlet="o2"),
        ),
        links=(
            Cable(id="l1", from_part="p2", to_part="p3", to_port=0, cable="rg6", length_m=2.0),
            Cable(id="l2", from_part="p1", to_part="p3", to_port=1, cable="rg6", length_m=2.0),
            Cable(id="l3", from_part="p3", to_part="p4", cable="rg6", length_m=3.0),
            Cable(id="l4", from_part="p4", to_part="p5", cable="rg6", length_m=12.0),
            Cable(id="l5", from_part="p4", from_port=1, to_part="p6", cable="rg6", length_m=8.0),
        ),
    )


def larch_street() -> Job:
    """A house that leaves its cable company: the masthead amplifier hangs behind a splitter that
    passes no power, and the old line is still on."""
    keel = Target(
        id="t1",
        kind="transmitter",
        name="Mount Keel",
        latitude_deg=45.130,
        longitude_deg=-71.120,
        height_m=790.0,
    )
    radnor = Target(
        id="t2",
        kind="transmitter",
        name="Radnor Ledge",
        latitude_deg=45.060,
        longitude_deg=-71.050,
        height_m=610.0,
    )
    rows = (
        ("t1", "KEL", 177.0, "7.1", 3.2, ("Keel 7", "Keel Weather")),
        ("t1", "KEM", 503.0, "19.1", 40.0, ("Keel Movies", "Keel Kids")),
        ("t1", "KEN", 539.0, "25.1", 60.0, ("Lakes", "Lakes Two")),
        ("t2", "RAD", 551.0, "27.1", 30.0, ("Radnor",)),
        ("t2", "RAE", 587.0, "33.1", 30.0, ("Radnor Sport", "Night Owl")),
    )
    carriers = tuple(
        Carrier(
            id=f"c{i + 1}",
            target=target,
            name=name,
            frequency_mhz=f,
            bandwidth_mhz=6.0,
            polarisation="H",
            power=power,
            modulation="ATSC 8-VSB",
            label=label,
            services=services,
        )
        for i, (target, name, f, label, power, services) in enumerate(rows)
    )
    return Job(
        name="Larch Street",
        place="Corbin Falls",
        profile="north-america",
        date=DAY,
        site=Site(
            position_text="44°48'40\"N 71°31'10\"W",
            latitude_deg=44.8111,
            longitude_deg=-71.5194,
            height_m=372.0,
            mount_height_m=7.0,
            building_length_m=14.0,
            building_width_m=9.0,
            surroundings="suburb",
            entry_distance_m=3.0,
            entry_bearing_deg=180.0,
            consent="asked",
            consent_note="The association was told of the federal rule; its answer is awaited.",
            boundary_m=4.0,
        ),
        mast=Mast(
            length_m=2.5,
            held_m=0.6,
            outer_mm=48.0,
            wall_mm=3.2,
            wind_region="inland",
            base="timber",
        ),
        earth=Earth(overhead_lines="near", line_distance_m=12.0, line_kv=7.2),
        handover=Handover(customer="The tenants", installer="A. Mender"),
        company=Company(plan="leave", low_mhz=117, high_mhz=747, low_dbuv=63.5, high_dbuv=58.0),
        outlets=(
            Outlet(id="o1", name="Den", floor="Main floor", satellite=False),
            Outlet(id="o2", name="Bedroom", floor="Upper floor", satellite=False),
            Outlet(id="o3", name="Basement", floor="Basement", satellite=False),
        ),
        targets=(keel, radnor),
        carriers=carriers,
        arrays=(
            Array(
                id="a1",
                name="VHF and UHF arms, 1.6 m",
                target="t1",
                model="wide-all",
                gain_dbi=11.0,
                low_mhz=174,
                high_mhz=700,
                beamwidth_deg=52,
                gain_table=(
                    (174.0, 5.0),
                    (216.0, 6.0),
                    (300.0, 2.0),
                    (470.0, 8.5),
                    (600.0, 10.5),
                    (700.0, 11.0),
                ),
                front_back_db=16,
                length_m=1.6,
                on_mast_m=1.4,
                wind_area_m2=0.15,
            ),
        ),
        conductors=(
            Conductor(
                id="e1", role="mast", material="copper", size_mm2=13.3, length_m=7.0, connected=True
            ),
        ),
        parts=(
            Part(id="p1", type="antenna", antenna="a1"),
            Part(id="p2", type="preamp-22", name="Masthead amplifier"),
            Part(id="p3", type="block-1", name="Grounding block"),
            Part(id="p4", type="splitter-4", name="Splitter of the old feed"),
            Part(id="p5", type="inserter-12", name="Power inserter in the den"),
            Part(id="p6", type="plate", outlet="o1"),
            Part(id="p7", type="plate", outlet="o2"),
            Part(id="p8", type="plate", outlet="o3"),
            Part(id="p9", type="terminator"),
        ),
        links=(
            Cable(id="l1", from_part="p1", to_part="p2", cable="rg6", length_m=0.7),
            Cable(id="l2", from_part="p2", to_part="p3", cable="rg6", length_m=10.0),
            Cable(id="l3", from_part="p3", to_part="p4", cable="rg6", length_m=3.0),
            Cable(id="l4", from_part="p4", to_part="p5", cable="rg6", length_m=9.0),
            Cable(id="l5", from_part="p5", to_part="p6", cable="rg6", length_m=1.0),
            Cable(id="l6", from_part="p4", from_port=1, to_part="p7", cable="rg6", length_m=15.0),
            Cable(id="l7", from_part="p4", from_port=2, to_part="p8", cable="rg6", length_m=7.0),
            Cable(id="l8", from_part="p4", from_port=3, to_part="p9", cable="rg6", length_m=0.0),
        ),
    )
