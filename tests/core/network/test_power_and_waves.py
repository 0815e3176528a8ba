"""Direct current up the line and waves down it: worked out again from cable and catalogue alone."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro import catalogue, profiles
from evtro.core.job import Array, Cable, Carrier, Dish, Job, Outlet, Part, Site, Target
from evtro.core.job.context import JobParts
from evtro.core.job.paths import HIGH_V, LOW_V
from evtro.core.network.powering import RECEIVER_MA
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.levels.outlets import outlet_rows, solve_job
from evtro.core.stations.coax.powering import DcLoad, SupplyLoad, feeds
from evtro.core.stations.coax.views.frequency_plan import frequency_plan, wrong_oscillator
from evtro.core.stations.readings.expected import expected, parse_found
from evtro.demo.world import demo_jobs
from tests.proving import examples

CATALOGUE = catalogue.load()
JOBS = sorted(demo_jobs())
LNBS = sorted(k for k, p in CATALOGUE.parts.items() if p.bands)


def _feeds(job: Job) -> tuple[list[DcLoad], list[SupplyLoad]]:
    return feeds(solve_job(NetworkContext(job, CATALOGUE, profiles.load(job.profile))).run)


def _line(cables: list[tuple[str, float]], blocks: int, supply: str) -> Job:
    """A preamplifier, lengths of cable with blocks between them, a supply, and an outlet below it."""
    parts = [Part(id="p1", type="antenna", antenna="a1"), Part(id="p2", type="preamp-13")]
    links = [Cable(id="l1", from_part="p1", to_part="p2", cable="rg6", length_m=0.5)]
    for i, (cable, metres) in enumerate(cables):
        kind = supply if i == len(cables) - 1 else "block-1" if i < blocks else "arrester"
        parts.append(Part(id=f"p{i + 3}", type=kind))
        links.append(
            Cable(
                id=f"l{i + 2}",
                from_part=f"p{i + 2}",
                to_part=f"p{i + 3}",
                cable=cable,
                length_m=metres,
            )
        )
    last = len(cables) + 3
    parts.append(Part(id=f"p{last}", type="plate", outlet="o1"))
    links.append(
        Cable(id="l99", from_part=f"p{last - 1}", to_part=f"p{last}", cable="rg6", length_m=5)
    )
    return Job(
        name="line",
        date="2026-03-25",
        parts=tuple(parts),
        links=tuple(links),  # type: ignore[arg-type]
        outlets=(Outlet(id="o1", name="Lounge", satellite=False),),
        arrays=(Array(id="a1", name="A"),),
    )


cables = st.lists(
    st.tuples(st.sampled_from(sorted(CATALOGUE.cables)), st.floats(0.5, 90)), min_size=1, max_size=5
)


@given(cables)
@examples(15, 300)
def test_the_voltage_at_the_mast_by_ohms_law(rows: list[tuple[str, float]]) -> None:
    job = _line(rows, 2, "inserter-12")
    found, supplies = _feeds(job)
    ohm = sum(CATALOGUE.cables[c].loop_ohm_km * m / 1000 for c, m in rows)
    amp, inserter = CATALOGUE.parts["preamp-13"].load, CATALOGUE.parts["inserter-12"].supply
    assert amp is not None
    assert inserter is not None
    feed = next(f for f in found if f.consumer == "p2")
    assert feed.supply == f"p{len(rows) + 2}"
    assert feed.lost_v == pytest.approx(ohm * amp.ma / 1000, abs=1e-5)
    assert feed.voltage.value == pytest.approx(inserter.volts - ohm * amp.ma / 1000, abs=1e-5)
    lit = inserter.volts - ohm * amp.ma / 1000 >= amp.low_v
    assert [s.load.value for s in supplies] == ([amp.ma] if lit else [])
    assert all(s.load.high == inserter.most_ma for s in supplies)


@given(cables, st.floats(1.05, 3))
@examples(7, 150)
def test_a_longer_line_never_gives_more_voltage(rows: list[tuple[str, float]], more: float) -> None:
    short = _feeds(_line(rows, 1, "inserter-12"))[0][0].voltage.value
    far = [(c, m * more) for c, m in rows]
    long = _feeds(_line(far, 1, "inserter-12"))[0][0].voltage.value
    assert short is not None
    assert long is not None
    assert long < short


@pytest.mark.parametrize("name", JOBS)
def test_the_demo_jobs_currents_add_up(name: str) -> None:
    job = demo_jobs()[name]
    found, supplies = _feeds(job)
    kinds = {p.id: CATALOGUE.parts[p.type] for p in job.parts}
    assert {f.consumer for f in found} == {p for p, kind in kinds.items() if kind.load}
    for supply in supplies:
        own = kinds[supply.part].supply
        fed = sum(f.current_ma for f in found if f.supply == supply.part)
        assert supply.load.value == pytest.approx(fed)
        assert supply.load.high == (own.most_ma if own else RECEIVER_MA)
    for feed in found:
        if feed.supply is None:
            assert feed.voltage.value == 0
            assert feed.voltage.state == "fail"
        else:
            own = kinds[feed.supply].supply
            assert feed.supply_v in ({own.volts, own.low_volts} if own else {LOW_V, HIGH_V})
            assert feed.voltage.value == pytest.approx(feed.supply_v - feed.lost_v)


# --- the frequency plan ----------------------------------------------------------------------------


def _dish(lnb: str, waves: list[tuple[float, str]]) -> Job:
    carriers = tuple(
        Carrier(
            id=f"c{i + 1}",
            target="t1",
            name=str(i),
            frequency_mhz=f,
            bandwidth_mhz=27.5,
            polarisation=p,  # type: ignore[arg-type]
            power=50,
            modulation="DVB-S2 8PSK 2/3",
        )
        for i, (f, p) in enumerate(waves)
    )
    return Job(
        name="dish",
        date="2026-03-25",
        site=Site(latitude_deg=50.0, longitude_deg=10.0),  # type: ignore[arg-type]
        targets=(Target(id="t1", kind="satellite", name="Heron", orbit_deg_e=13.0),),
        carriers=carriers,
        dishes=(Dish(id="a1", name="D", target="t1"),),
        parts=(Part(id="p1", type=lnb, antenna="a1"),),
    )


@pytest.mark.parametrize("lnb", LNBS)
def test_every_band_of_every_lnb_is_carried_to_its_cable_by_its_own_oscillator(lnb: str) -> None:
    kind = CATALOGUE.parts[lnb]
    for band in kind.bands:
        for share in (0.05, 0.5, 0.95):
            mhz = round(band.low_mhz + share * (band.high_mhz - band.low_mhz), 3)
            for pol in band.polarisations:
                line = frequency_plan(JobParts(_dish(lnb, [(mhz, pol)]), CATALOGUE), "a1")[0].lines[
                    0
                ]
                fitting = [
                    b
                    for b in kind.bands
                    if b.low_mhz <= mhz <= b.high_mhz and pol in b.polarisations
                ]
                assert line.lo_mhz in [b.lo_mhz for b in fitting]
                assert line.lo_mhz is not None
                if kind.user_bands:
                    assert line.if_mhz in [f for f, _ in kind.user_bands]
                    continue
                assert line.if_mhz == pytest.approx(abs(mhz - line.lo_mhz))
                assert line.inverted == (line.lo_mhz > mhz)
                # Back through the mixer: the wave is the sum, or the difference where it is inverted.
                back = line.lo_mhz - line.if_mhz if line.inverted else line.lo_mhz + line.if_mhz
                assert back == pytest.approx(mhz)
                assert kind.low_mhz <= line.if_mhz <= kind.high_mhz


@pytest.mark.parametrize("lnb", LNBS)
def test_beside_its_bands_an_lnb_takes_nothing(lnb: str) -> None:
    kind = CATALOGUE.parts[lnb]
    low = min(b.low_mhz for b in kind.bands) - 150
    high = max(b.high_mhz for b in kind.bands) + 150
    for mhz in (max(low, 31.0), min(high, 31_999.0)):
        line = frequency_plan(JobParts(_dish(lnb, [(mhz, "V")]), CATALOGUE), "a1")[0].lines[0]
        assert line.if_mhz is None
        assert line.state == "fail"
        assert f"{mhz:.0f}" in line.stopped_by


@given(st.floats(10_720, 11_650), st.floats(-300, 300))
@examples(15, 300)
def test_a_wrong_oscillator_tunes_what_lies_as_far_off_as_it_is_wrong(
    mhz: float, wrong: float
) -> None:
    job = _dish("lnb-single", [(mhz, "V")])
    lines = frequency_plan(JobParts(job, CATALOGUE), "a1")[0].lines
    real = lines[0].lo_mhz
    assert real is not None
    found = wrong_oscillator(lines, real + wrong, job.carriers)[0]
    assert found.asked_mhz == pytest.approx(abs(mhz - (real + wrong)))
    assert found.tunes_mhz == pytest.approx(mhz - wrong, abs=1e-6)


# --- what a scan finds ------------------------------------------------------------------------------


@pytest.mark.parametrize("name", ["harrow-farm", "mill-loft", "larch-street", "skerry-house"])
@pytest.mark.parametrize("spread", [0.5, 3.0, 8.0])
def test_the_expected_list_follows_margin_and_spread(name: str, spread: float) -> None:
    job = demo_jobs()[name]
    profile = profiles.load(job.profile)
    solved = solve_job(NetworkContext(job, CATALOGUE, profile))
    rows = outlet_rows(NetworkContext(job, CATALOGUE, profile), solved)
    spreads = {c.id: spread for c in job.carriers}
    for outlet in expected(job, profile, rows, solved, spreads):
        counted = 0
        for line in outlet.lines:
            assert line.spread_db == spread
            if line.margin_db is None or line.margin_db < -spread:
                wanted = "no"
            elif line.margin_db < 0:
                wanted = "doubtful"
            elif line.margin_db >= max(profile.margin_db, spread):
                wanted = "sure"
            else:
                wanted = "likely"
            assert line.chance == wanted
            counted += max(len(line.services), 1) if wanted in ("sure", "likely") else 0
        assert outlet.services == counted


@given(st.lists(st.text(alphabet="abcXYZ 0123456789-", min_size=1, max_size=12), max_size=12))
def test_a_typed_list_is_read_whatever_parts_its_names(names: list[str]) -> None:
    plain = [n.strip() for n in names if n.strip()]
    wanted = tuple(dict.fromkeys(plain))
    for between in (",", ";", "\n", " , ", ";\n"):
        assert parse_found(between.join(names)) == wanted
