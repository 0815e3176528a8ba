"""The print of the run. Reference: pypdf reads what stands on its pages."""

from __future__ import annotations

import io

import pypdf
import pytest

from evtro import catalogue, profiles
from evtro.core.answers import work_out
from evtro.core.job import Job
from evtro.core.stations.coax.views.level_plan import devices
from evtro.demo.block import sorrel_court
from evtro.demo.world import kept_jobs
from evtro.report.run_pdf import run_pdf

CATALOGUE = catalogue.load()


def _pages(job: Job, units: str = "metric", level: str = "dbuv") -> list[str]:
    coax = work_out(job, CATALOGUE, profiles.load(job.profile)).coax
    data = run_pdf(job, coax, units, level)
    return [p.extract_text() for p in pypdf.PdfReader(io.BytesIO(data)).pages]


def test_a_block_of_96_flats_stands_on_four_pages_and_its_devices_behind() -> None:
    job = sorrel_court()
    pages = _pages(job)
    drawn = [p for p in pages if "device" not in p]
    assert len(drawn) == 4
    said = "\n".join(drawn)
    for outlet in job.outlets:
        assert said.count(f"{outlet.name}\n") == 1, outlet.name
    assert "96 of 96 outlets in" in pages[0]
    assert (
        sum(f"Tap {riser}{n}" in "\n".join(pages[4:]) for riser in "ABCD" for n in range(1, 9))
        == 32
    )


def test_figures_are_those_of_the_answer_in_the_units_that_are_asked_for() -> None:
    job = kept_jobs()["marten-lodge"]
    coax = work_out(job, CATALOGUE, profiles.load(job.profile)).coax
    metric, us = _pages(job), _pages(job, "us", "dbmv")
    row = coax.view.outlets[0].groups[0]
    assert row.low.value is not None
    assert f"{row.low.value:.1f}" in metric[0]
    assert f"−{abs(row.low.value - 60):.1f}" in us[0]
    assert "dBmV" in us[0]
    amplifier = next(d for d in devices(coax) if d.setting_db)
    assert f"{amplifier.setting_db:.1f} dB" in us[-1]


def test_a_device_gets_and_gives_what_the_solution_says() -> None:
    job = kept_jobs()["plover-cottage"]
    coax = work_out(job, CATALOGUE, profiles.load(job.profile)).coax
    found = {d.name: d for d in devices(coax)}
    split = found["First split"]
    assert split.in_high_dbuv is not None
    assert split.out_high_dbuv is not None
    two = CATALOGUE.parts["splitter-2"]
    lost = [-float(two.gain_db(0, 0, f, None)) for f in (130.0, 754.0)]  # type: ignore[arg-type]
    assert lost[0] - 0.01 <= split.in_high_dbuv - split.out_high_dbuv <= lost[1] + 0.01


@pytest.mark.long
@pytest.mark.parametrize("name", sorted(kept_jobs()))
def test_every_run_of_the_demo_prints(name: str) -> None:
    assert 1 <= len(_pages(kept_jobs()[name])) <= 6


def test_a_job_without_a_run_prints_one_page() -> None:
    job = kept_jobs()["skerry-house"].model_copy(update={"parts": (), "links": (), "readings": ()})
    assert len(_pages(job)) == 1
