"""The company's line as a source: its carriers, levels at outlets, the way back of a modem."""

from __future__ import annotations

import datetime as dt
import math

import numpy as np
import pytest

from evtro import profiles
from evtro.core.job import Cable, Company, Job, Outlet, Part
from evtro.core.job.changes import PutOnLine, Remove, Set
from evtro.core.stations.coax.checks.return_path import ways_back
from evtro.core.stations.coax.context import NetworkContext
from evtro.core.stations.coax.views.answer import CoaxAnswer, work_out
from evtro.core.units.quantities import InputError, text_of
from evtro.demo.world import kept_jobs
from tests.changes import CATALOGUE, taken
from tests.refusals import refused

EUROPE = profiles.load("europe")


def kept_line(**company: object) -> Job:
    """A drop of 74 and 72 dBµV into a splitter: a modem on one side, two televisions behind another."""
    job = Job(
        name="Kept line",
        profile="europe",
        date=dt.date(2026, 3, 1),
        company=Company(
            plan="both",
            low_mhz=114,
            high_mhz=802,
            low_dbuv=74,
            high_dbuv=72,
            lines_known=True,
            return_noise_dbuv=5,
            watched_s=30,
        ).model_copy(update=company),
        outlets=tuple(
            Outlet(id=f"o{n}", name=name, terrestrial=False, satellite=False, company=wants)  # type: ignore[arg-type]
            for n, (name, wants) in enumerate(
                [("Study", "modem"), ("Den", "television"), ("Attic", "television")], start=1
            )
        ),
    )
    job = taken(job, PutOnLine(low_mhz=114, high_mhz="802", every_mhz=8, modulation="DVB-C 256QAM"))
    line = job.parts[0].id
    return job.model_copy(
        update={
            "parts": (
                *job.parts,
                Part(id="p2", type="splitter-2", name="First"),
                Part(id="p3", type="splitter-2", name="Second"),
                Part(id="p4", type="plate", outlet="o1"),
                Part(id="p5", type="plate", outlet="o2"),
                Part(id="p6", type="plate", outlet="o3"),
            ),
            "links": tuple(
                Cable(id=f"l{n}", from_part=a, from_port=o, to_part=b, cable="rg6", length_m=m)
                for n, (a, o, b, m) in enumerate(
                    [
                        (line, 0, "p2", 5.0),
                        ("p2", 0, "p4", 10.0),
                        ("p2", 1, "p3", 1.0),
                        ("p3", 0, "p5", 8.0),
                        ("p3", 1, "p6", 20.0),
                    ],
                    start=1,
                )
            ),
        }
    )


def answered(job: Job) -> CoaxAnswer:
    return work_out(NetworkContext(job, CATALOGUE, EUROPE))


def test_its_carriers_stand_on_the_line_between_the_two_that_were_read() -> None:
    job = kept_line()
    assert len(job.carriers) == 87
    assert {c.modulation for c in job.carriers} == {"DVB-C 256QAM"}
    # 8 MHz of raster with the roll-off 0.15 of EN 300 429: 6.957 MBd.
    assert job.carriers[0].bandwidth_mhz == pytest.approx(6.9565, abs=1e-4)
    solved = answered(job).solved
    node = solved.run.node("p1", "out", 0)
    level = solved.run.levels.level_dbuv[node]
    assert (level[0], level[-1]) == pytest.approx((74.0, 72.0), abs=1e-9)
    mhz = np.array([c.frequency_mhz for c in job.carriers])
    expected = 74 - 2 * (np.sqrt(mhz) - math.sqrt(114)) / (math.sqrt(802) - math.sqrt(114))
    assert level == pytest.approx(expected, abs=1e-9)


def test_what_an_outlet_gets_is_drop_less_cable_and_splitters() -> None:
    job = kept_line()
    answer = answered(job)
    cable, two = CATALOGUE.cables["rg6"], CATALOGUE.parts["splitter-2"]
    plate = CATALOGUE.parts["plate"]
    for outlet, metres, splitters in ((0, 15.0, 1), (2, 26.0, 2)):
        row = answer.outlets[outlet]
        for cell, mhz in ((row.cells[0], 114.0), (row.cells[-1], 802.0)):
            lost = float(cable.loss_db(metres, mhz)) - splitters * float(
                two.gain_db(0, 0, mhz, None)
            )  # type: ignore[arg-type]
            lost -= float(plate.gain_db(0, 0, mhz, None))  # type: ignore[arg-type]
            assert cell.level.value == pytest.approx((74 if mhz == 114 else 72) - lost, abs=1e-6)
            assert cell.level.high == 74.0


def test_a_line_that_nobody_read_is_no_verdict_in() -> None:
    answer = answered(kept_line(low_dbuv=None))
    assert answer.state != "ok"
    told = next(p for p in answer.problems if p.code == "no-source")
    assert "was not read" in text_of(told.title)
    assert answer.verdict.inside == 0


def test_a_poor_drop_leaves_no_margin_anywhere() -> None:
    assert all(r.state == "ok" for r in answered(kept_line(mer_db=40.0)).outlets)
    poor = answered(kept_line(mer_db=32.0))
    assert all(r.state == "fail" for r in poor.outlets)  # 256QAM wants 31 dB, and 3 more


def test_the_way_back_is_what_the_passive_run_loses() -> None:
    job = kept_line()
    ways = {
        w.name: w
        for w in ways_back(NetworkContext(job, CATALOGUE, EUROPE).with_solved(answered(job).solved))
    }
    cable = CATALOGUE.cables["rg6"]
    two, plate = CATALOGUE.parts["splitter-2"], CATALOGUE.parts["plate"]
    lost = float(cable.loss_db(15.0, 65.0)) - sum(
        float(k.gain_db(0, 0, 65.0, None)) for k in (two, plate)
    )  # type: ignore[arg-type]
    assert ways["Study"].loss.value == pytest.approx(lost, abs=0.05)
    assert ways["Study"].loss.state == "ok"


def test_noise_of_a_branch_without_a_modem_comes_back_until_a_high_pass_stops_it() -> None:
    job = kept_line()
    answer = answered(job)
    told = next(p for p in answer.problems if p.code == "no-return-filter")
    assert set(told.outlets) == {"o2", "o3"}
    assert told.change is not None
    after = taken(job, told.change)
    assert sum(p.type == "filter-return-stop" for p in after.parts) == 1  # one, ahead of both
    mended = answered(after)
    assert all(p.code not in ("no-return-filter", "return-loss") for p in mended.problems)
    assert [r.state for r in mended.outlets] == ["ok"] * 3


def test_a_high_pass_or_an_amplifier_ahead_of_the_modem_is_named() -> None:
    job = kept_line()
    for kind, replaced in (("filter-return-stop", False), ("amp-house-20", True)):
        parts = (*job.parts, Part(id="p9", type=kind, name="In the way"))
        links = tuple(
            k.model_copy(update={"to_part": "p9"}) if k.id == "l1" else k for k in job.links
        )
        links = (*links, Cable(id="l9", from_part="p9", to_part="p2", cable="rg6", length_m=0.5))
        tried = answered(job.model_copy(update={"parts": parts, "links": links}))
        told = next(p for p in tried.problems if p.code == "return-loss")
        assert told.state == "fail"
        assert all(name in text_of(told.title) for name in ("In the way", "Study"))
        assert tried.outlets[0].state == "fail"  # whatever it gets, nobody hears it
        if replaced:
            better = tuple(
                p.model_copy(update={"type": "amp-house-20r"}) if p.id == "p9" else p for p in parts
            )
            mended = answered(job.model_copy(update={"parts": better, "links": links}))
            assert all(p.code != "return-loss" for p in mended.problems)


def test_the_own_antenna_may_not_come_near_the_line() -> None:
    job = kept_line()
    joined = job.model_copy(
        update={
            "parts": (
                *job.parts,
                Part(id="p20", type="combiner-wide", name="Where they meet"),
                Part(id="p21", type="antenna", antenna="a1"),
            ),
            "links": (
                *(
                    k.model_copy(update={"to_part": "p20"}) if k.id == "l1" else k
                    for k in job.links
                ),
                Cable(id="l20", from_part="p20", to_part="p2", cable="rg6", length_m=1.0),
                Cable(
                    id="l21", from_part="p21", to_part="p20", to_port=1, cable="rg6", length_m=1.0
                ),
            ),
        }
    )
    assert any(p.code == "back-feed" and p.state == "fail" for p in answered(joined).problems)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (
            PutOnLine(low_mhz=802, high_mhz=114, every_mhz=8, modulation="DVB-C 256QAM"),
            "no row of carriers",
        ),
        (
            PutOnLine(low_mhz=114, high_mhz=802, every_mhz=1, modulation="DVB-C 256QAM"),
            "more than 160",
        ),
        (
            PutOnLine(low_mhz=114, high_mhz=802, every_mhz=8, modulation="DVB-T 64QAM 2/3"),
            "not sent on a cable",
        ),
        (PutOnLine(low_mhz="x", high_mhz=802, every_mhz=8, modulation="DVB-C 256QAM"), "Frequency"),
        (PutOnLine(low_mhz=114, high_mhz=802, every_mhz=8, modulation="QAM"), "not known"),
    ],
)
def test_bad_rows_of_carriers_are_refused_in_words(change: PutOnLine, words: str) -> None:
    with pytest.raises(InputError) as refused:
        taken(Job(name="x", profile="europe", date=dt.date(2026, 3, 1)), change)
    assert words in str(refused.value) or words in refused.value.field


def test_carriers_that_stay_keep_their_rows() -> None:
    job = kept_line()
    own = job.carriers[3]
    louder = job.model_copy(
        update={
            "carriers": tuple(
                c.model_copy(update={"power": -6.0, "name": "quiet"}) if c.id == own.id else c
                for c in job.carriers
            )
        }
    )
    again = taken(
        louder, PutOnLine(low_mhz=130, high_mhz=202, every_mhz=8, modulation="DVB-C 64QAM")
    )
    kept = next(c for c in again.carriers if c.id == own.id)
    assert (kept.name, kept.power, kept.modulation) == ("quiet", -6.0, "DVB-C 64QAM")
    assert len(again.carriers) == 10
    assert sum(p.type == "company-line" for p in again.parts) == 1


def test_a_multiplex_stands_some_decibels_over_the_rest_and_no_more() -> None:
    job = kept_line()
    louder = taken(job, Set(rows="carriers", id=job.carriers[5].id, values={"power": "-6 dB"}))
    solved = [answered(j).solved for j in (job, louder)]
    node = solved[0].run.node("p1", "out", 0)
    levels = [s.run.levels.level_dbuv[node] for s in solved]
    assert levels[0][5] - levels[1][5] == pytest.approx(6.0)
    with refused("line-level", "no difference"):
        taken(job, Set(rows="carriers", id=job.carriers[5].id, values={"power": 200}))


def test_the_whole_line_goes_with_its_target() -> None:
    job = kept_line()
    target = next(t.id for t in job.targets if t.kind == "line")
    bare = taken(job, Remove(rows="targets", id=target))
    assert bare.carriers == ()
    assert next(p.type for p in bare.parts) == "company-line"


def test_no_advice_ever_joins_the_line_to_an_own_antenna() -> None:
    """A wish for what a plate's own network does not carry: told to be led apart, in both directions."""
    job = kept_jobs()["plover-cottage"]
    for outlet, values in (("o1", {"company": "modem"}), ("o4", {"terrestrial": True})):
        told = [
            p
            for p in answered(taken(job, Set(rows="outlets", id=outlet, values=values))).problems
            if p.code == "no-path"
        ]
        assert told
        assert "never join" in text_of(told[0].remedy)
        assert "Join the" not in text_of(told[0].remedy)


def test_a_line_that_is_left_gives_nothing_and_one_in_the_run_is_judged_whatever_is_said_of_it() -> (
    None
):
    left = answered(kept_line(plan="leave", unplugged=True))
    assert left.verdict.inside == 0
    assert "is left" in text_of(next(p for p in left.problems if p.code == "no-source").title)
    unsaid = kept_line()
    unsaid = unsaid.model_copy(
        update={"company": unsaid.company.model_copy(update={"plan": "none"})}
    )
    assert any(p.code == "no-return-filter" for p in answered(unsaid).problems)
    turned = kept_line()
    turned = turned.model_copy(
        update={"company": turned.company.model_copy(update={"low_mhz": 802.0, "high_mhz": 114.0})}
    )
    assert "turned round" in text_of(
        next(p for p in answered(turned).problems if p.code == "no-source").title
    )
