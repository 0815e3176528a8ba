"""Earth: one conductor for all or one from each part, where no lightning earth is asked, the house's own lightning
protection, the electrode's resistance."""

from __future__ import annotations

import pytest

from evtro.core.answers import Answers
from evtro.core.job import Job, Mast
from evtro.core.job.changes import Add, Remove, Set
from evtro.core.stations.earth.answer import Bond
from evtro.core.stations.earth.electrode import separation_m
from evtro.core.stations.earth.zone import ON_TOP, shelter
from evtro.core.units.quantities import InputError, text_of
from tests.changes import JOBS, answers_of, taken
from tests.refusals import refused


def _with(job: Job, **fields: object) -> Job:
    """The job with fields of mast, site and earth changed, by their names."""
    for part in ("mast", "site", "earth"):
        row = getattr(job, part)
        mine = {k: v for k, v in fields.items() if k in type(row).model_fields}
        job = job.model_copy(update={part: type(row).model_validate({**row.model_dump(), **mine})})
    return job


HOUSE = JOBS["fern-cottage"]  # two grounding blocks, a preamplifier's inserter


def test_one_bar_for_all_or_a_conductor_from_each() -> None:
    shields = [b for b in answers_of(HOUSE).earth.bonds if b.role == "shields"]
    assert [b.part for b in shields] == [None]
    blocks = [p for p, _ in shields[0].points]
    assert len(blocks) == 2
    assert shields[0].joins.count("Grounding block") == 2
    assert "dish" in shields[0].joins
    one = next(c.id for c in HOUSE.conductors if c.role == "shields")
    # As soon as it is said to begin at one of them, the other one is bare.
    apart = taken(HOUSE, Set(rows="conductors", id=one, values={"part": blocks[0]}))
    found = answers_of(apart).earth
    assert [(b.part, b.state) for b in found.bonds if b.role == "shields"] == [
        (blocks[0], "ok"),
        (blocks[1], "fail"),
    ]
    (bare,) = (p for p in found.problems if p.code == "bond-missing")
    assert "Grounding block, dish" in text_of(bare.title)
    # The remedy that is offered cures it, and nothing else gets worse.
    mended = taken(apart, bare.change)
    after = answers_of(mended).earth
    assert not [p for p in after.problems if p.code == "bond-missing"]
    assert len([b for b in after.bonds if b.role == "shields"]) == 2
    assert {p.code for p in after.problems} - {p.code for p in found.problems} <= {"bond-open"}
    # Each has a step of its own, and the kit has both.
    keys = [s.key for s in answers_of(mended).steps["earth"]]
    assert len(keys) == len(set(keys))
    assert (
        sum(
            "shield" in text_of(n.why).lower()
            for n in answers_of(mended).kit.needs
            if n.kind == "earth"
        )
        == 4
    )
    # The part goes, and its conductor with it.
    from evtro.core.job.references import without

    gone = without(mended, "parts", blocks[1])
    assert len([c for c in gone.conductors if c.role == "shields"]) == 1


def test_two_from_one_place_are_refused() -> None:
    with refused("conductor-role", "it is there"):
        taken(HOUSE, Add(rows="conductors", values={"role": "shields"}))
    with refused("conductor-role", "does not ask"):
        taken(HOUSE, Add(rows="conductors", values={"role": "moon"}))


@pytest.mark.parametrize("fixing", ON_TOP)
def test_on_a_chimney_or_a_roof_no_typed_figure_makes_a_shelter(fixing: str) -> None:
    """It was: four metres below the edge typed once, and the chimney's mast went without an earth."""
    job = _with(JOBS["skerry-house"], fixing=fixing, below_roof_edge_m=4.0, from_wall_m=0.4)
    found = answers_of(job).earth
    assert found.lightning_earth
    assert next(b for b in found.bonds if b.role == "mast").needed
    assert not answers_of(_with(job, fixing="wall")).earth.lightning_earth


def test_the_shelter_follows_the_roof_edge_the_mount_and_the_antennas() -> None:
    """By hand: edge 9 m, upper bracket 5 m, tube 1.2 m held 0.6, a dish of 0.8 m at 0.3 m: the top is 0.7 m over
    the bracket, 3.3 m below the edge; the arm reaches 0.8 m before a mast 0.2 m off the wall."""
    job = JOBS["skerry-house"]
    job = job.model_copy(
        update={
            "arrays": (),
            "parts": (),
            "links": (),
            "dishes": tuple(
                d.model_copy(update={"on_mast_m": 0.3, "diameter_m": 0.8}) for d in job.dishes
            ),
            "mast": Mast(length_m=1.2, held_m=0.6, standoff_m=0.2, base="concrete"),
        }
    )
    job = _with(job, roof_edge_m=9.0, mount_height_m=5.0)
    stands = shelter(job)
    assert (stands.below_m, stands.out_m) == (pytest.approx(3.3), pytest.approx(1.0))
    assert not answers_of(job).earth.lightning_earth
    # What was typed before has no say any more.
    assert answers_of(_with(job, below_roof_edge_m=0.0)).earth.from_geometry
    assert not answers_of(_with(job, below_roof_edge_m=0.0)).earth.lightning_earth
    for moved in (
        {"mount_height_m": 6.5},
        {"roof_edge_m": 7.5},
        {"standoff_m": 0.8},
        {"length_m": 4.0},
    ):
        assert answers_of(_with(job, **moved)).earth.lightning_earth, moved
    # Bonding is asked for all the same.
    assert next(b for b in answers_of(job).earth.bonds if b.role == "shields").needed


def test_no_remedy_raises_a_mast_out_of_its_shelter_unseen() -> None:
    job = _with(
        JOBS["skerry-house"], roof_edge_m=10.5, mount_height_m=7.4, length_m=1.0, held_m=0.4
    )
    job = job.model_copy(update={"arrays": ()})
    before = answers_of(job).earth
    higher = answers_of(_with(job, mount_height_m=9.5)).earth
    assert (before.lightning_earth, higher.lightning_earth) == (False, True)


def test_lightning_protection_is_kept_apart() -> None:
    """IEC 62305-3 (from memory): 0.04 x 1 x height, so 0.3 m at 7.4 m: by hand 0.04 x (7.4 + 1.9) = 0.372."""
    assert separation_m(10) == pytest.approx(0.4)
    job = JOBS["skerry-house"]
    assert answers_of(job).earth.apart is None
    unknown = answers_of(_with(job, lps="there")).earth
    assert unknown.apart is not None
    assert unknown.apart.low == pytest.approx(0.372)
    assert unknown.apart.state == "marginal"
    near, far = (answers_of(_with(job, lps="there", lps_apart_m=m)).earth for m in (0.2, 2.0))
    assert near.apart is not None
    assert near.apart.state == "fail"
    assert any(p.code == "lightning-protection" and p.state == "fail" for p in near.problems)
    assert far.apart is not None
    assert far.apart.state == "ok"
    assert not any(p.code == "lightning-protection" for p in far.problems)


def test_an_electrode_is_asked_where_the_school_has_one() -> None:
    street = JOBS["larch-street"]
    assert answers_of(JOBS["skerry-house"]).earth.electrode is None
    assert any(b.role == "electrodes" and b.needed for b in answers_of(street).earth.bonds)
    high = answers_of(_with(street, electrode_ohm=40.0)).earth
    assert any(p.code == "electrode-ohm" and p.state == "fail" for p in high.problems)
    assert not any(
        p.code == "electrode-ohm"
        for p in answers_of(_with(street, electrode_ohm=12.0)).earth.problems
    )
    building = answers_of(_with(street, electrode="building", electrode_ohm=40.0)).earth
    assert building.electrode is None
    assert not any(b.role == "electrodes" and b.needed for b in building.bonds)


def _mast_bond(job: Job) -> Bond:
    return next(b for b in answers_of(job).earth.bonds if b.role == "mast")


def _going_on(**more: object) -> Job:
    """The guesthouse with its mast's conductor going on from a test clamp, as is said."""
    house = JOBS["skerry-house"]
    first = next(c for c in house.conductors if c.role == "mast")
    values = {
        "role": "mast",
        "after": first.id,
        "begins": "test clamp",
        "ends": "terminal",
        "length_m": 2,
        **more,
    }
    return taken(house, Add(rows="conductors", values=values))


def test_a_conductor_that_goes_on_is_as_thin_as_its_thinnest_stretch_and_as_long_as_all() -> None:
    house = JOBS["skerry-house"]
    alone = _mast_bond(house)
    longer = _going_on()
    bond = _mast_bond(longer)
    assert len(bond.stretches) == 2
    assert (bond.length.value or 0) == pytest.approx((alone.length.value or 0) + 2)
    assert bond.state == "marginal"  # nobody has joined the second one
    joined = taken(longer, Set(rows="conductors", id=bond.stretches[1], values={"connected": True}))
    assert _mast_bond(joined).state == alone.state == "ok"
    for thin in (
        {"size_mm2": 10},
        {"material": "steel", "size_mm2": 30},
        {"material": "copper_clad_steel", "size_mm2": 60},
    ):
        found = answers_of(taken(joined, Set(rows="conductors", id=bond.stretches[1], values=thin)))
        assert next(b for b in found.earth.bonds if b.role == "mast").state == "fail"
        cure = next(p for p in found.earth.problems if p.code == "bond-thin")
        assert isinstance(cure.change, Set)
        assert cure.change.id == bond.stretches[1]
        assert "Quantity" not in text_of(cure.remedy)
    # What is offered for several stretches is one change, and cures.
    bad = taken(
        taken(longer, Set(rows="conductors", id=bond.stretches[1], values={"size_mm2": 4})),
        Set(rows="conductors", id=bond.stretches[0], values={"size_mm2": 6, "connected": False}),
    )
    for _ in range(2):
        mine = [
            p for p in answers_of(bad).earth.problems if p.ref == "mast" and p.change is not None
        ]
        bad = taken(bad, mine[0].change)
    assert _mast_bond(bad).state == "ok"
    # The first one gone, the rest begins anew, and says that it is not all of it any more.
    gone = taken(joined, Remove(rows="conductors", id=bond.stretches[0]))
    assert _mast_bond(gone).stretches == [bond.stretches[1]]


def test_bends_count_over_all_stretches_of_a_lightning_conductor_only() -> None:
    few, many = _going_on(bends=4, connected=True), _going_on(bends=5, connected=True)
    assert _mast_bond(few).state == "ok"
    assert _mast_bond(many).state == "marginal"
    assert any(p.code == "bond-bent" for p in answers_of(many).earth.problems)
    shields = next(c.id for c in HOUSE.conductors if c.role == "shields")
    bent = taken(HOUSE, Set(rows="conductors", id=shields, values={"bends": 20}))
    assert not any(p.code == "bond-bent" for p in answers_of(bent).earth.problems)


def test_a_conductor_goes_on_from_another_of_its_kind_and_from_no_ring() -> None:
    job = _going_on()
    first, second = _mast_bond(job).stretches
    other = next(c.id for c in job.conductors if c.role == "shields")
    for of, after in ((first, second), (second, second), (second, other), (second, "e99")):
        with pytest.raises(InputError):
            taken(job, Set(rows="conductors", id=of, values={"after": after}))
    # A job file may hold a ring all the same: nothing hangs, and nothing is called in by it.
    ring = job.model_copy(
        update={
            "conductors": tuple(
                c.model_copy(update={"after": {first: second, second: first}.get(c.id)})
                for c in job.conductors
            )
        }
    )
    assert answers_of(ring).earth.bonds


def _rod(name: str, **fields: object) -> Answers:
    return answers_of(_with(JOBS[name], electrode="own", **fields))


@pytest.mark.parametrize(
    ("kind", "metres", "count", "state"),
    [
        ("rod", 2.5, 1, "ok"),
        ("rod", 2.4, 1, "fail"),
        ("horizontal", 5.0, 2, "ok"),
        ("horizontal", 5.0, 1, "fail"),
        ("horizontal", 6.0, 1, "fail"),
        ("foundation", 0.1, 1, "ok"),
    ],
)
def test_an_electrode_is_as_long_as_its_school_asks(
    kind: str, metres: float, count: int, state: str
) -> None:
    found = _rod(
        "skerry-house", electrode_kind=kind, electrode_m=metres, electrode_count=count
    ).earth
    assert found.kind is not None
    assert found.kind.state == state
    assert any(p.code == "electrode-short" for p in found.problems) == (state == "fail")
    if state == "fail":
        assert found.state == "fail"


def test_nobody_is_asked_for_an_electrode_that_is_not_wanted() -> None:
    # To the house's terminal, where the school says so and nobody told of another.
    assert not [
        p for p in answers_of(JOBS["skerry-house"]).earth.problems if p.place == "electrode"
    ]
    asked = next(
        n
        for n, j in JOBS.items()
        if j.profile == "north-america" and j.rig.kind == "none" and j.antennas
    )
    assert any(
        p.code == "electrode-kind" and p.state == "unknown"
        for p in _rod(asked, electrode_kind="unknown").earth.problems
    )
    assert not any(
        p.place == "electrode"
        for p in answers_of(_with(JOBS[asked], electrode="building")).earth.problems
    )
    # A plate is none of this school's.
    plate = _rod("skerry-house", electrode_kind="plate", electrode_m=1.0).earth
    assert any(p.code == "electrode-kind" and p.state == "marginal" for p in plate.problems)


def test_what_a_rod_should_read_follows_ground_and_length() -> None:
    read = [
        _rod(
            "skerry-house", electrode_kind="rod", electrode_m=m, soil_ohm_m=s, electrode_count=n
        ).earth.expected_ohm
        or 0
        for m, s, n in ((2.5, 100, 1), (2.5, 400, 1), (5.0, 100, 1), (2.5, 100, 2))
    ]
    assert read[0] == pytest.approx(
        39.0, abs=1
    )  # of 16 mm: about 40 ohm, as tables of handbooks have it (from memory)
    assert read[1] == pytest.approx(4 * read[0])
    assert read[2] < read[0]
    assert read[0] / 2 < read[3] < read[0]
    assert _rod("skerry-house", electrode_kind="rod", electrode_m=2.5).earth.expected_ohm is None
