"""Two devices at one job: each takes back its own changes, and only where nobody changed the same."""

from __future__ import annotations

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from evtro.core.job import Job
from evtro.core.job.changes import Add, Change, Remove, Set
from evtro.demo.world import fern_cottage
from evtro.store.folder import FILE_NAME
from evtro.store.history import Asked
from evtro.store.jobs import Jobs, Stale
from tests.changes import taken
from tests.data import open_database
from tests.proving import examples


class Hands:
    """Devices at one job of a fresh file."""

    def __init__(self, folder: Path) -> None:
        self.jobs = Jobs(open_database(folder / FILE_NAME))
        self.jobs.add(fern_cottage(), "house")

    @property
    def now(self) -> int:
        return self.jobs.get("house").revision

    def do(self, device: str, change: Change, key: str | None = None) -> Job:
        asked = Asked(change.verb, device, None, key)
        return self.jobs.change("house", self.now, asked, lambda j: taken(j, change)).job

    def undo(self, device: str) -> Job:
        return self.jobs.undo("house", self.now, device).job


@pytest.fixture
def hands(tmp_path: Path) -> Hands:
    return Hands(tmp_path)


def _site(**values: object) -> Set:
    return Set(rows="site", values=dict(values))


def test_each_takes_back_its_own(hands: Hands) -> None:
    first = fern_cottage()
    hands.do("bench", _site(mount_height_m=8.0))
    hands.do("roof", _site(height_m=12.0))
    hands.do("roof", Set(rows="mast", values={"length_m": 4.0}))
    assert hands.jobs.steps("house", "bench").undo == "set"
    job = hands.undo("bench")
    # The newest of all is the roof's, and stays.
    assert job.site.mount_height_m == first.site.mount_height_m
    assert (job.site.height_m, job.mast.length_m) == (12.0, 4.0)
    assert hands.jobs.steps("house", "bench").undo is None
    assert hands.jobs.redo("house", hands.now, "bench").job.site.mount_height_m == 8.0
    hands.undo("roof")
    job = hands.undo("roof")
    assert (job.site.height_m, job.mast.length_m) == (first.site.height_m, first.mast.length_m)


def test_what_somebody_changed_since_is_not_taken_back_over_their_head(hands: Hands) -> None:
    hands.do("bench", _site(mount_height_m=8.0))
    hands.do("roof", _site(mount_height_m=9.0))
    with pytest.raises(Stale) as told:
        hands.undo("bench")
    (clash,) = told.value.clashes
    assert (clash.table, clash.column, clash.theirs) == ("site", "mount_height_m", 9.0)
    assert hands.jobs.get("house").job.site.mount_height_m == 9.0
    # Once the roof took its own back, the bench can too.
    hands.undo("roof")
    assert hands.undo("bench").site.mount_height_m == fern_cottage().site.mount_height_m


def test_a_row_that_somebody_filled_is_not_taken_away(hands: Hands) -> None:
    job = hands.do("bench", Add(rows="outlets", values={"name": "Loft"}))
    new = job.outlets[-1].id
    hands.do("roof", Set(rows="outlets", id=new, values={"floor": "top"}))
    with pytest.raises(Stale):
        hands.undo("bench")
    assert hands.jobs.get("house").job.outlets[-1].floor == "top"


def test_a_row_that_somebody_removed_is_told(hands: Hands) -> None:
    last = fern_cottage().outlets[-1].id
    hands.do("bench", Set(rows="outlets", id=last, values={"name": "Another"}))
    hands.do("roof", Remove(rows="outlets", id=last))
    with pytest.raises(Stale) as told:
        hands.undo("bench")
    assert told.value.clashes[0].id == last
    back = hands.undo("roof")
    assert back.outlets[-1].name == "Another"
    assert hands.undo("bench") == fern_cottage()


def test_a_request_that_is_sent_again_is_carried_out_once(hands: Hands) -> None:
    one = hands.do("roof", Add(rows="outlets", values={"name": "Loft"}), key="k-1")
    again = hands.do("roof", Add(rows="outlets", values={"name": "Loft"}), key="k-1")
    assert again == one
    assert hands.now == 1
    # Also after it was taken back: the answer that was lost was an answer.
    hands.undo("roof")
    assert len(
        hands.do("roof", Add(rows="outlets", values={"name": "Loft"}), key="k-1").outlets
    ) == len(fern_cottage().outlets)
    # Another request of the same words is another one.
    assert len(
        hands.do("roof", Add(rows="outlets", values={"name": "Loft"}), key="k-2").outlets
    ) == len(one.outlets)


EDITS = {
    "height": _site(height_m=33.0), "mount": _site(mount_height_m=7.7),
    "mast": Set(rows="mast", values={"length_m": 5.5}), "note": Set(rows="handover", values={"remarks": "gate"}),
    "outlet": Add(rows="outlets", values={"name": "Loft"}), "name": Set(rows="job", values={"place": "Here"}),
    "carrier": Set(rows="carriers", id="c1", values={"name": "First"}), "earth": Set(rows="earth", values={"indoors": True}),
    "company": Set(rows="company", values={"note": "drop"}), "wind": Set(rows="mast", values={"wind_ms": 33.0}),
    "cut": Set(rows="arrays", id="a1", values={"name": "Big"}),
}  # fmt: skip


@given(st.sampled_from(sorted(EDITS)), st.permutations(sorted(EDITS)))
@examples(6, 125)
def test_a_change_is_taken_back_with_ten_others_in_between(mine: str, others: list[str]) -> None:
    """A change and its inverse give the same job, also with ten other changes between."""
    import tempfile

    with tempfile.TemporaryDirectory() as folder:
        hands = Hands(Path(folder))
        rest = [n for n in others if n != mine]
        hands.do("bench", EDITS[mine])
        for name in rest:
            hands.do("roof", EDITS[name])
        taken_back = hands.undo("bench")
        plain = fern_cottage()
        for name in rest:
            plain = taken(plain, EDITS[name])
        assert taken_back == plain
        hands.jobs.close()
