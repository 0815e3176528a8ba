"""The radio horizon stands on the ground between, and is silent where that ground is known."""

from __future__ import annotations

import pytest

from evtro.core.job import Job, Site, Target, TerrainProfile
from evtro.core.job.profile import Profile
from evtro.core.job.targets import radio_horizon_km, sight_of
from evtro.core.stations.sky.answer import work_out

# A house and a mast on a plateau 1,500 m up: 60 m of mast reach no further than 60 m at the sea.
HOUSE = Site(latitude_deg=46.0, longitude_deg=8.0, height_m=1500.0, mount_height_m=9.0)
MAST = Target(
    id="t1",
    kind="transmitter",
    name="Plateau",
    latitude_deg=46.9,
    longitude_deg=8.0,
    height_m=1560.0,
)


def test_heights_count_above_the_ground_between() -> None:
    seen = sight_of(HOUSE, MAST)
    assert seen is not None
    # By hand: 4.12 (sqrt 60 + sqrt 9) = 44.3 km; above the sea it would have been 322 km.
    assert seen.horizon_km == pytest.approx(44.3, abs=0.1)
    assert seen.distance_km == pytest.approx(100.0, abs=1.0)
    assert not seen.visible


def test_a_house_above_the_transmitter_sees_as_far_as_it_stands_above_it() -> None:
    low = MAST.model_copy(update={"height_m": 700.0})
    seen = sight_of(HOUSE, low)
    assert seen is not None
    assert seen.horizon_km == pytest.approx(radio_horizon_km(0.0, 809.0), rel=1e-9)
    assert seen.visible


@pytest.mark.parametrize(("ground_m", "visible"), [(0.0, True), (1700.0, False)])
def test_over_a_profile_the_ground_decides_and_no_horizon_is_told(
    europe: Profile, ground_m: float, visible: bool
) -> None:
    """The same way over a valley and over a ridge: word and diffraction agree."""
    heights = (1500.0, *(ground_m,) * 99, 1500.0)
    relief = TerrainProfile(
        id="g1",
        target="t1",
        source="tile",
        from_latitude_deg=46.0,
        from_longitude_deg=8.0,
        to_latitude_deg=46.9,
        to_longitude_deg=8.0,
        length_km=100.0,
        heights_m=heights,
    )
    job = Job(name="x", date="2026-03-25", site=HOUSE, targets=(MAST,), reliefs=(relief,))  # type: ignore[arg-type]
    row = work_out(job, europe).targets[0]
    assert row.sight is not None
    assert row.sight.horizon_km is None
    assert row.sight.visible is visible
    assert row.state == ("ok" if visible else "marginal")
    codes = {p.code for p in work_out(job, europe).problems}
    assert codes == (set() if visible else {"behind-ground"})
