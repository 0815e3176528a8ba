"""A block of 96 flats with satellite: four risers, in each of them three switches in a cascade."""

from __future__ import annotations

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
    Outlet,
    Part,
    Site,
    Target,
)

from .block import DAY
from .dishes import transponders

RISERS, SWITCHES, DROPS = "ABCD", 3, 8
LINES = 5  # four of the satellite, one terrestrial


def whimbrel_court() -> Job:
    """One satellite and one transmitter for every flat, each choosing freely; all of it in."""
    corvus = Target(id="t1", kind="satellite", name="Corvus", orbit_deg_e=28.0)
    ridge = Target(
        id="t2",
        kind="transmitter",
        name="Cairnmore",
        latitude_deg=53.590,
        longitude_deg=-9.4195,
        height_m=385.0,
        own_loss_db=6.0,
    )
    carriers = transponders(
        1,
        "t1",
        rows=(
            (10714.0, "V", 27.5),
            (11138.0, "H", 27.5),
            (12364.0, "V", 27.5),
            (12738.0, "H", 27.5),
        ),
        eirp_dbw=50.9,
        modulation="DVB-S2 8PSK 2/3",
    ) + tuple(
        Carrier(
            id=f"c{i + 5}",
            target="t2",
            name=f"mux {i + 1}",
            frequency_mhz=f,
            bandwidth_mhz=7.61,
            polarisation="H",
            power=30.0,
            modulation="DVB-T2 256QAM 2/3",
        )
        for i, f in enumerate((482.0, 546.0, 634.0, 690.0))
    )
    run = _Cascades()
    return Job(
        name="Whimbrel Court",
        place="Sorrel Head",
        profile="europe",
        date=DAY,
        site=Site(
            position_text="53.4712 -9.9484",
            latitude_deg=53.4712,
            longitude_deg=-9.9484,
            height_m=22.0,
            mount_height_m=28.0,
            building_length_m=60.0,
            building_width_m=14.0,
            surroundings="suburb",
            entry_distance_m=4.0,
            entry_bearing_deg=180.0,
            mobile_m=2400.0,
        ),
        mast=Mast(length_m=3.0, held_m=0.8, outer_mm=60.0, wall_mm=4.0, base="concrete"),
        earth=Earth(overhead_lines="none"),
        handover=Handover(customer="The owners of Whimbrel Court", installer="A. Mender"),
        outlets=tuple(run.outlets),
        targets=(corvus, ridge),
        carriers=carriers,
        dishes=(
            Dish(
                id="a1",
                name="Dish 1 m",
                target="t1",
                diameter_m=1.0,
                offset_deg=25.0,
                datum="face_level",
                on_mast_m=0.6,
            ),
        ),
        arrays=(
            Array(
                id="a2",
                name="Roof array",
                target="t2",
                gain_dbi=14.0,
                on_mast_m=2.2,
                wind_area_m2=0.12,
            ),
        ),
        conductors=(
            Conductor(
                id="e1", role="mast", material="copper", size_mm2=16, length_m=9.0, connected=True
            ),
            Conductor(
                id="e2", role="shields", material="copper", size_mm2=4, length_m=5.0, connected=True
            ),
            Conductor(
                id="e3", role="devices", material="copper", size_mm2=4, length_m=2.0, connected=True
            ),
        ),
        parts=tuple(run.parts),
        links=tuple(run.links),
    )


class _Cascades:
    """The run: five lines from the roof, each shared among the risers; then switch behind switch."""

    def __init__(self) -> None:
        self.outlets: list[Outlet] = []
        self.parts: list[Part] = []
        self.links: list[Cable] = []
        lnb = self._part("lnb-four", "LNB", antenna="a1")
        array = self._part("antenna", antenna="a2")
        block = self._part("block-5", "Grounding block")
        launch = self._part("amp-launch-5", "Launch amplifier", setting_db=LAUNCHED_DB)
        split = self._part("splitter-trunk-5x4", "Lines to the risers")
        for line in range(LINES):
            start, port = (lnb, line) if line < LINES - 1 else (array, 0)
            self._join(start, port, block, into=line, length_m=12.0)
            self._join(block, line, launch, into=line, length_m=2.0)
            self._join(launch, line, split, into=line, length_m=1.0)
        for n, riser in enumerate(RISERS):
            self._riser(riser, split, n * LINES)

    def _part(
        self,
        kind: str,
        name: str = "",
        outlet: str | None = None,
        antenna: str | None = None,
        setting_db: float | None = None,
    ) -> str:
        key = f"p{len(self.parts) + 1}"
        self.parts.append(
            Part(
                id=key, type=kind, name=name, outlet=outlet, antenna=antenna, setting_db=setting_db
            )
        )
        return key

    def _join(
        self, start: str, port: int, end: str, *, length_m: float, into: int = 0, cable: str = "rg6"
    ) -> None:
        self.links.append(
            Cable(
                id=f"l{len(self.links) + 1}",
                from_part=start,
                from_port=port,
                to_part=end,
                to_port=into,
                cable=cable,
                length_m=length_m,
            )
        )

    def _riser(self, riser: str, before: str, port: int) -> None:
        length_m = 8.0
        for place in range(SWITCHES):
            switch = self._part("switch-cascade-8", f"Switch {riser}{place + 1}")
            for line in range(LINES):
                self._join(before, port + line, switch, into=line, length_m=length_m)
            for drop in range(DROPS):
                number = len(self.outlets) + 1
                self.outlets.append(
                    Outlet(
                        id=f"o{number}",
                        name=f"{riser}{place * DROPS + drop + 1}",
                        floor=f"Riser {riser}, switch {place + 1}",
                    )
                )
                plate = self._part("plate", outlet=f"o{number}")
                self._join(switch, LINES + drop, plate, length_m=8.0 + 2.0 * drop)
            before, port, length_m = switch, 0, 9.0
        for line in range(LINES):
            self._join(before, line, self._part("terminator"), length_m=0.0)


LAUNCHED_DB = 3.0
