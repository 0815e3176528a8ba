"""Houses of any size for the benchmark: half the carriers from a transmitter, half from a satellite
through multiswitches, every outlet wanting both."""

from __future__ import annotations

from evtro.core.job import Array, Cable, Carrier, Dish, Job, Mast, Outlet, Part, Site, Target

PORTS = 16


class _Run:
    def __init__(self) -> None:
        self.parts: list[Part] = []
        self.links: list[Cable] = []

    def part(self, kind: str, **fields: object) -> str:
        key = f"p{len(self.parts) + 1}"
        self.parts.append(Part(id=key, type=kind, **fields))  # type: ignore[arg-type]
        return key

    def join(self, start: tuple[str, int], end: tuple[str, int], metres: float) -> None:
        self.links.append(
            Cable(
                id=f"l{len(self.links) + 1}",
                from_part=start[0],
                from_port=start[1],
                to_part=end[0],
                to_port=end[1],
                cable="rg11",
                length_m=metres,
            )
        )

    def spread(self, start: tuple[str, int], ways: int) -> list[tuple[str, int]]:
        """Split a line evenly until it has so many ways."""
        ends = [start]
        first = -(-ways // 8)
        for kind, size in (
            [("splitter-2", 2), ("splitter-4", 4), ("splitter-8", 8)] if first > 1 else []
        ):
            if len(ends) == 1 and size >= first:
                ends = self._split(ends[0], kind, size)
        if ways > 1:
            ends = [e for end in ends for e in self._split(end, "splitter-8", 8)]
        return ends[:ways]

    def _split(self, start: tuple[str, int], kind: str, size: int) -> list[tuple[str, int]]:
        split = self.part(kind)
        self.join(start, (split, 0), 1.0)
        return [(split, o) for o in range(size)]


def house(outlets: int, carriers: int) -> Job:
    """A house of so many outlets with so many carriers."""
    run = _Run()
    switches = -(-outlets // PORTS)
    array = run.part("antenna", antenna="a1")
    amplifier = run.part("amp-house-20")
    run.join((array, 0), (amplifier, 0), 8.0)
    lines = run.spread((amplifier, 0), switches)
    lnb = run.part("lnb-four", antenna="a2")
    feeder = run.part("inserter-18")
    run.join((lnb, 0), (feeder, 0), 2.0)
    outputs = [(feeder, 0), (lnb, 1), (lnb, 2), (lnb, 3)]
    trunks = [run.spread(start, switches) for start in outputs]
    rooms = []
    for n in range(switches):
        switch = run.part("multiswitch-16")
        run.join(lines[n], (switch, 4), 3.0)
        for i in range(4):
            run.join(trunks[i][n], (switch, i), 3.0)
        for port in range(min(PORTS, outlets - n * PORTS)):
            number = len(rooms) + 1
            rooms.append(Outlet(id=f"o{number}", name=f"Room {number}", floor=f"Floor {n + 1}"))
            run.join((switch, port), (run.part("plate", outlet=f"o{number}"), 0), 6.0 + port)
    half = carriers // 2
    rows = [
        Carrier(
            id=f"c{i + 1}",
            target="t1",
            name=f"mux {i + 1}",
            frequency_mhz=474.0 + 8.0 * i,
            bandwidth_mhz=7.61,
            polarisation="H",
            power=200.0 if switches > 1 else 1.5,
            modulation="DVB-T2 64QAM 2/3",
        )
        for i in range(half)
    ]
    rows += [
        Carrier(
            id=f"c{half + i + 1}",
            target="t2",
            name=f"tp {i + 1}",
            bandwidth_mhz=27.5,
            polarisation="VH"[i % 2],  # type: ignore[arg-type]
            frequency_mhz=10_730.0 + 1990.0 * i / max(carriers - half - 1, 1),
            power=56.0,
            modulation="DVB-S2 8PSK 2/3",
        )
        for i in range(carriers - half)
    ]
    return Job(
        name=f"House of {outlets}",
        date="2026-03-25",
        profile="europe",  # type: ignore[arg-type]
        site=Site(latitude_deg=53.48, longitude_deg=-9.97, height_m=10),
        mast=Mast(fixing="loft"),
        outlets=tuple(rooms),
        targets=(
            Target(
                id="t1",
                kind="transmitter",
                name="Cairnmore",
                latitude_deg=53.59,
                longitude_deg=-9.42,
                height_m=385,
            ),
            Target(id="t2", kind="satellite", name="Curlew", orbit_deg_e=28.2),
        ),
        carriers=tuple(rows),
        dishes=(Dish(id="a2", name="Dish", target="t2", diameter_m=1.2),),
        arrays=(Array(id="a1", name="Array", target="t1", gain_dbi=12.0),),
        parts=tuple(run.parts),
        links=tuple(run.links),
    )
