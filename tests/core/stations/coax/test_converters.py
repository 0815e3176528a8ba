"""A part of one's own that moves carriers to another frequency, in a whole job."""

from __future__ import annotations

import pytest

from evtro import catalogue, profiles
from evtro.core.answers import work_out
from evtro.core.changes import ChangeContext, carry_out
from evtro.core.job.changes import Insert
from evtro.core.job.parts import PartType
from evtro.core.job.paths import Path
from evtro.core.job.stock import carrying
from evtro.core.stations.coax.views.terms import terms
from evtro.demo.world import demo_jobs

PARTS = catalogue.load()
CONVERTER = PartType(
    key="converter",
    draws_as="amplifier",
    name="Converter",
    paths=(
        Path(
            inputs=(0,),
            outputs=(0,),
            low_mhz=470,
            high_mhz=694,
            gain_db=((470, 3.0), (694, 3.0)),
            noise_figure_db=9.0,
            lo_mhz=1164.0,
        ),
    ),
)
SHOP = PARTS.model_copy(update={"parts": {**PARTS.parts, "converter": CONVERTER}})


def test_every_outlet_is_judged_at_the_frequency_that_arrives() -> None:
    job = demo_jobs()["fern-cottage"]
    profile = profiles.load(job.profile)
    array = next(p.id for p in job.parts if p.type == "antenna")
    link = next(k.id for k in job.links if k.from_part == array)
    with_one = carry_out(job, Insert(type="converter", into=link), ChangeContext(SHOP, profile)).job
    with_one = carrying(with_one, SHOP, profile)
    # The job carries it: a workshop that never had it answers alike.
    before, after = work_out(job, PARTS, profile), work_out(with_one, PARTS, profile)
    channels = after.coax.solved.channels
    plate = next(
        p.id
        for p in job.parts
        if p.outlet
        and any(
            channels[c].group == "terrestrial"
            for c in next(r for r in after.coax.outlets if r.outlet == p.outlet).columns
        )
    )
    found = {c: level for c, level, _ in after.coax.detail(plate).levels}
    old = {c: level for c, level, _ in before.coax.detail(plate).levels}
    moved = [channel.id for channel in channels if channel.group == "terrestrial"]
    assert moved
    for carrier in moved:
        steps = terms(
            after.network,
            part_id=plate,
            carrier_id=carrier,
        ).level
        assert any("Converter" in str(s.name) for s in steps)
        assert sum(s.change_db for s in steps[1:]) + steps[0].level_dbuv == pytest.approx(
            found[carrier], abs=0.01
        )
        # 3 dB more by its gain; what another frequency loses behind it is less than that.
        assert 0 < found[carrier] - old[carrier] < 6
    satellite = [channel.id for channel in channels if channel.group == "satellite"]
    assert {c: found.get(c) for c in satellite} == {c: old.get(c) for c in satellite}
