"""Switches in a cascade, switches with user bands, several tuners at one outlet."""

from __future__ import annotations

import numpy as np
import pytest

from evtro import catalogue, profiles
from evtro.core.answers import work_out
from evtro.core.job import Cable, Part
from evtro.core.job.context import JobParts
from evtro.core.job.parts import PartType
from evtro.core.job.paths import Path
from evtro.core.network.arrays import Columns
from evtro.core.network.graph import wire
from evtro.core.network.solution import Solution, solve_run
from evtro.core.stations.coax.powering import feeding_place
from evtro.core.stations.coax.views.powering import power_view
from evtro.core.units.quantities import text_of
from evtro.demo.world import kept_jobs, skerry_house

CATALOGUE = catalogue.load()
IF_MHZ = np.array([1000.0, 1400.0, 1700.0, 2000.0])  # one carrier in each of the four bands


def _columns(width_mhz: float = 30.0) -> Columns:
    bands = CATALOGUE.parts["lnb-four"].bands
    given = {}
    for output in range(4):
        level = np.where(np.arange(4) == output, 80.0, np.nan)
        given["p1", "out", output] = level, level - 15
    return Columns(
        ("vl", "hl", "vh", "hh"),
        IF_MHZ,
        np.full(4, width_mhz),
        tuple(("p1", "out", n) for n in range(4)),
        given,
        tuple(b.asked for b in sorted(bands, key=lambda b: b.output)),
    )


def _run(
    parts: list[Part],
    joints: list[tuple[str, int, str, int, float]],
    receivers: list[str],
    columns: Columns | None = None,
) -> Solution:
    links = [
        Cable(id=f"l{n}", from_part=a, from_port=o, to_part=b, to_port=i, cable="rg6", length_m=m)
        for n, (a, o, b, i, m) in enumerate(joints)
    ]
    return solve_run(parts, links, CATALOGUE, columns=columns or _columns(), receivers=receivers)


def _part(key: str, kind: str, outlet: str | None = None) -> Part:
    return Part(id=key, type=kind, outlet=outlet)


def test_behind_a_second_switch_of_a_cascade_the_trunk_is_lost_once_more() -> None:
    parts = [
        _part("p1", "lnb-four"),
        _part("p2", "switch-cascade-8"),
        _part("p3", "switch-cascade-8"),
        _part("p4", "plate", "o1"),
        _part("p5", "plate", "o2"),
        _part("p7", "inserter-18"),
    ]
    joints = [("p1", n, "p2" if n else "p7", n, 10.0) for n in range(4)] + [("p7", 0, "p2", 0, 0.0)]
    joints += [("p2", n, "p3", n, 3.0) for n in range(4)]
    joints += [("p2", 5, "p4", 0, 12.0), ("p3", 12, "p5", 0, 12.0)]
    run = _run(parts, joints, ["o1", "o2"])
    kind, cable = CATALOGUE.parts["switch-cascade-8"], CATALOGUE.cables["rg6"]
    near, far = (run.levels.level_dbuv[run.outlet_node(p)] for p in ("p4", "p5"))
    assert np.isfinite(near).all()
    for c, mhz in enumerate(IF_MHZ):
        trunk = float(kind.gain_db(c, c, mhz, None)) - float(cable.loss_db(3.0, mhz))  # type: ignore[arg-type]
        drop = float(kind.gain_db(c, 5, mhz, None))  # type: ignore[arg-type]
        plate = float(CATALOGUE.parts["plate"].gain_db(0, 0, mhz, None))  # type: ignore[arg-type]
        power = CATALOGUE.parts["inserter-18"].gain_db(0, 0, mhz, None) if c == 0 else 0.0
        lost = float(cable.loss_db(22.0, mhz)) - float(power)  # type: ignore[arg-type]
        assert near[c] == pytest.approx(80 - lost + drop + plate, abs=1e-9)
        assert far[c] - near[c] == pytest.approx(trunk, abs=1e-9)
    # Each receiver chooses for itself, whatever the other one watches.
    assert run.choice.bound == ()
    for plate in ("p4", "p5"):
        assert run.choice.alone[plate].all()
        assert run.choice.beside[plate].all()


def test_the_head_of_a_cascade_is_fed_where_its_lines_come_indoors() -> None:
    """Lines that end at closed ports: the supply goes behind the block, ahead of the first switch, not to
    the far end."""
    parts = [
        _part("p1", "lnb-four"),
        _part("p2", "block-5"),
        _part("p3", "switch-cascade-8"),
        *(_part(f"p{4 + n}", "terminator") for n in range(4)),
    ]
    links = [
        Cable(
            id=f"l{a}{n}",
            from_part=f"p{a}",
            from_port=n,
            to_part=f"p{b if b < 4 else b + n}",
            to_port=n if b < 4 else 0,
            cable="rg6",
            length_m=2.0,
        )
        for a, b in ((1, 2), (2, 3), (3, 4))
        for n in range(4)
    ]
    assert feeding_place(wire(parts, links, CATALOGUE), "p1") == "l20"
    # A part on the way that lets no current through is where it ends.
    dark = [_part("p2", "splitter-4"), *(p for p in parts if p.id != "p2")]
    assert feeding_place(wire(dark, links[:1], CATALOGUE), "p1") == "l10"


def test_the_large_block_of_the_demo_is_in_everywhere_and_everyone_chooses_freely() -> None:
    """96 flats on twelve switches, three in each riser: all in, riser by riser the same."""
    job = kept_jobs()["whimbrel-court"]
    found = work_out(job, CATALOGUE, profiles.load(job.profile)).coax
    assert (found.verdict.inside, found.verdict.wanted) == (96, 96)
    assert not [p for p in found.problems if p.state == "fail"]
    judged = found.outlets[0].judged
    level = judged.level_dbuv.reshape(4, 24, -1)
    assert np.allclose(level, level[0], atol=1e-9)
    assert (judged.choice == 0).all()


def test_the_switches_of_a_cascade_live_on_the_receivers_behind_them() -> None:
    parts = [
        _part("p1", "lnb-four"),
        _part("p2", "switch-cascade-8"),
        _part("p4", "plate", "o1"),
        _part("p7", "inserter-18"),
    ]
    joints = [
        ("p1", 0, "p7", 0, 1.0),
        ("p7", 0, "p2", 0, 1.0),
        *((("p1", n, "p2", n, 1.0)) for n in range(1, 4)),
        ("p2", 5, "p4", 0, 1.0),
    ]
    lit, dark = _run(parts, joints, ["o1"]), _run(parts, joints, [])
    assert lit.power[13.0].loads["p2"].on
    assert lit.power[13.0].given_ma["p4"] == pytest.approx(60.0)
    assert np.isfinite(lit.levels.level_dbuv[lit.outlet_node("p4")]).all()
    assert not dark.power[13.0].loads["p2"].on


def _banded(tuners: int, wide_mhz: float = 30.0) -> Solution:
    parts = [
        _part("p1", "lnb-four"),
        _part("p2", "switch-user-band-2x8"),
        _part("p3", "splitter-8a"),
    ]
    joints = [("p1", n, "p2", n, 10.0) for n in range(4)] + [("p2", 0, "p3", 0, 20.0)]
    for n in range(min(tuners, 8)):
        parts.append(_part(f"p{10 + n}", "plate", f"o{n}"))
        joints.append(("p3", n, f"p{10 + n}", 0, 5.0))
    asking = [f"o{n % 8}" for n in range(tuners)]
    return _run(parts, joints, asking, _columns(wide_mhz))


def test_behind_user_bands_the_cable_loses_what_it_loses_at_their_frequency() -> None:
    run = _banded(8)
    kind, cable = CATALOGUE.parts["switch-user-band-2x8"], CATALOGUE.cables["rg6"]
    eight, plate = CATALOGUE.parts["splitter-8a"], CATALOGUE.parts["plate"]
    there = run.levels.level_dbuv[run.outlet_node("p10")]
    for c, mhz in enumerate(IF_MHZ):
        band = kind.user_bands[c][0]
        lost = float(cable.loss_db(10.0, mhz)) + float(cable.loss_db(25.0, band))
        gain = float(kind.gain_db(c, 0, mhz, None)) + sum(
            float(k.gain_db(0, 0, band, None)) for k in (eight, plate)
        )  # type: ignore[arg-type]
        assert there[c] == pytest.approx(80 - lost + gain, abs=1e-9)


def test_eight_tuners_have_all_they_want_and_a_ninth_is_one_too_many() -> None:
    assert _banded(8).choice.bound == ()
    nine = _banded(9)
    assert [b.slots for b in nine.choice.bound] == [8]
    assert len(nine.choice.bound[0].plates) == 9


def test_a_carrier_wider_than_a_user_band_does_not_come_through() -> None:
    narrow, wide = _banded(1, 46.0), _banded(1, 47.0)
    assert np.isfinite(narrow.levels.level_dbuv[narrow.outlet_node("p10")]).all()
    assert not np.isfinite(wide.levels.level_dbuv[wide.outlet_node("p10")]).any()


def test_a_part_that_leads_to_user_bands_has_some() -> None:
    way = Path(
        inputs=(0,),
        outputs=(0,),
        low_mhz=950,
        high_mhz=2150,
        gain_db=((950, 0.0), (2150, 0.0)),
        noise_figure_db=8.0,
        to_user_bands=True,
    )
    with pytest.raises(ValueError, match="has none"):
        PartType(key="none", draws_as="multiswitch", name="No bands", paths=(way,))


def test_two_tuners_of_one_outlet_on_one_line_are_told_what_binds_them() -> None:
    job = skerry_house()
    first = job.outlets[0]
    two = job.model_copy(
        update={"outlets": (first.model_copy(update={"tuners": 2}), *job.outlets[1:])}
    )
    profile = profiles.load(job.profile)
    before, after = (work_out(j, CATALOGUE, profile).coax for j in (job, two))
    assert all(p.code != "choice-shared" for p in before.problems)
    told = next(p for p in after.problems if p.code == "choice-shared")
    assert f"The 2 tuners of {first.name} share one line" in text_of(told.title)
    rows = {r.outlet: r for r in power_view(JobParts(two, CATALOGUE), after).asking}
    assert rows[first.name].alone == rows[first.name].wanted
    assert rows[first.name].beside < rows[first.name].alone
    other = rows[job.outlets[1].name]
    assert other.beside == other.alone == other.wanted


def test_supplies_meet_on_one_line_and_not_over_the_diodes_of_a_load() -> None:
    """A switch that two receivers feed, each by its own drop, has no supplies that meet; on one line they do."""
    parts = [
        _part("p1", "lnb-four"),
        _part("p2", "switch-cascade-8"),
        _part("p4", "plate", "o1"),
        _part("p5", "plate", "o2"),
        _part("p7", "inserter-18"),
        _part("p8", "inserter-18"),
    ]
    joints = [
        ("p1", 0, "p7", 0, 1.0),
        ("p7", 0, "p2", 0, 1.0),
        *((("p1", n, "p2", n, 1.0)) for n in range(1, 4)),
        ("p2", 5, "p4", 0, 1.0),
        ("p2", 6, "p5", 0, 1.0),
    ]
    apart = _run(parts[:-1], joints, ["o1", "o2"])
    metal = apart.power[18.0].metal
    assert metal is not None
    assert not metal.meet(("p4", "p5"))
    # Both receivers on one line: their voltages meet there.
    shared = [_part("p6", "splitter-2a") if p.id == "p8" else p for p in parts]
    one_line = [
        *joints[:-2],
        ("p2", 5, "p6", 0, 1.0),
        ("p6", 0, "p4", 0, 1.0),
        ("p6", 1, "p5", 0, 1.0),
    ]
    joined = _run(shared, one_line, ["o1", "o2"]).power[18.0].metal
    assert joined is not None
    assert joined.meet(("p4", "p5"))
