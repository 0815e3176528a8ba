"""What voltage and tone give at the end of a line, LNB by LNB, against a table written down apart from
the catalogue; and what two receivers on one line leave each other.

The table is common practice and EN 61319-1 from memory: 13 V asks for vertical (or right-hand)
polarisation, 18 V for horizontal (left-hand), the 22 kHz tone for the high band of a two-band LNB.
"""

from __future__ import annotations

import itertools

import numpy as np
import pytest

from evtro import catalogue
from evtro.core.job import Cable, Part
from evtro.core.job.paths import HIGH_V, LOW_V
from evtro.core.network.arrays import Columns
from evtro.core.network.solution import Solution, solve_run

CATALOGUE = catalogue.load()
V, H = (LOW_V, False), (HIGH_V, False)
V_TONE, H_TONE = (LOW_V, True), (HIGH_V, True)

# For each LNB: whether its line chooses, and for each of its bands what must be asked for.
TABLE = {
    "lnb-single": (True, {"V low": V, "H low": H, "V high": V_TONE, "H high": H_TONE}),
    "lnb-single-1075": (True, {"V": V, "H": H}),
    "lnb-four": (False, {"V low": V, "H low": H, "V high": V_TONE, "H high": H_TONE}),
    "lnb-twin": (True, {"V low": V, "H low": H, "V high": V_TONE, "H high": H_TONE}),
    "lnb-circular-1125": (True, {"R": V, "L": H}),
    "lnb-wideband": (False, {"V": V, "H": V}),
    "lnb-user-band-8": (False, {"V low": V, "H low": V, "V high": V, "H high": V}),
    "lnb-c": (True, {"V": V, "H": H}),
    "lnb-c-stacked": (False, {"V stacked low": H, "H stacked high": H}),
    "lnb-ka-two-blocks": (False, {"Ka low block": H, "Ka high block": H}),
    "unit-ku-two-way": (True, {"V": V, "H": H}),
    "unit-ku-pair": (False, {"V": V, "H": V}),
}


def _columns(lnb: str, part: str = "p1") -> Columns:
    """One carrier in each band of an LNB."""
    kind = CATALOGUE.parts[lnb]
    bands = list({b.name: b for b in reversed(kind.bands)}.values())[
        ::-1
    ]  # each once: its first output
    count = len(bands)
    given = {}
    for output in range(kind.outputs):
        here = {b.name for b in kind.bands if b.output == output}
        level = np.array([75.0 if b.name in here else np.nan for b in bands])
        given[part, "out", output] = level, level - 15
    mhz = np.array([abs((b.low_mhz + b.high_mhz) / 2 - b.lo_mhz) for b in bands])
    if kind.user_bands:
        mhz = np.array([kind.user_bands[i][0] for i in range(count)])
    return Columns(
        tuple(b.name for b in bands),
        mhz,
        np.full(count, 27.5),
        tuple((part, "out", b.output) for b in bands),
        given,
        tuple(b.asked for b in bands),
    )


def _link(n: int, start: str, end: str, out: int = 0, into: int = 0) -> Cable:
    return Cable(
        id=f"l{n}",
        from_part=start,
        from_port=out,
        to_part=end,
        to_port=into,
        cable="rg6",
        length_m=5,
    )


def _there(run: Solution, plate: str) -> dict[str, bool]:
    node = run.outlet_node(plate)
    assert node is not None
    return dict(zip(run.columns.ids, (run.levels.signal[node] > 0).tolist(), strict=True))


def test_the_table_has_every_lnb_of_the_catalogue() -> None:
    assert set(TABLE) == {k for k, p in CATALOGUE.parts.items() if p.bands}


@pytest.mark.parametrize("lnb", sorted(TABLE))
def test_each_band_is_asked_for_as_the_table_says(lnb: str) -> None:
    chooses, asked = TABLE[lnb]
    kind = CATALOGUE.parts[lnb]
    assert {b.name: b.asked for b in kind.bands} == asked
    assert kind.by_line(0) == chooses


def _straight(lnb: str, *between: str, receivers: tuple[str, ...] = ("o1",)) -> Solution:
    """An LNB, parts in line, an outlet; every output of the LNB after the first stays free."""
    parts = [Part(id="p1", type=lnb)]
    parts += [Part(id=f"p{i + 2}", type=k) for i, k in enumerate(between)]
    parts.append(Part(id="p9", type="plate", outlet="o1"))
    ids = [p.id for p in parts]
    links = [_link(i + 1, a, b) for i, (a, b) in enumerate(itertools.pairwise(ids))]
    return solve_run(parts, links, CATALOGUE, columns=_columns(lnb), receivers=receivers)


@pytest.mark.parametrize("lnb", sorted(k for k, (chooses, _) in TABLE.items() if chooses))
def test_one_receiver_on_its_own_line_gets_all_that_the_lnb_has(lnb: str) -> None:
    run = _straight(lnb)
    # A terminal's unit needs more than 13 V: what it would bring is dark at the lower voltage.
    fed = {c: v[0] >= 15 or lnb != "unit-ku-two-way" for c, v in TABLE[lnb][1].items()}
    assert _there(run, "p9") == fed
    assert run.choice.alone["p9"].all()
    assert run.choice.beside["p9"].all()


@pytest.mark.parametrize(("inserter", "state"), [("inserter-12", V), ("inserter-18", H)])
@pytest.mark.parametrize("lnb", ["lnb-single", "lnb-single-1075", "lnb-c", "lnb-circular-1125"])
def test_an_lnb_held_by_an_inserter_gives_one_state_only(
    lnb: str, inserter: str, state: tuple[float, bool]
) -> None:
    run = _straight(lnb, inserter)
    wanted = {name: ask == state for name, ask in TABLE[lnb][1].items()}
    assert _there(run, "p9") == wanted
    assert run.choice.alone["p9"].tolist() == list(wanted.values())


def test_two_outputs_of_a_twin_ask_for_themselves() -> None:
    """Each receiver on an output of its own has everything, whatever the other watches."""
    parts = [
        Part(id="p1", type="lnb-twin"),
        Part(id="p8", type="plate", outlet="o1"),
        Part(id="p9", type="plate", outlet="o2"),
    ]
    links = [_link(1, "p1", "p8", out=0), _link(2, "p1", "p9", out=1)]
    run = solve_run(parts, links, CATALOGUE, columns=_columns("lnb-twin"), receivers=("o1", "o2"))
    for plate in ("p8", "p9"):
        assert all(_there(run, plate).values())
        assert run.choice.beside[plate].all()
    # Only the second output joined: it asks there.
    alone = solve_run(
        parts[::2], links[1:], CATALOGUE, columns=_columns("lnb-twin"), receivers=("o2",)
    )
    assert all(_there(alone, "p9").values())


def test_a_splitter_that_passes_nothing_leaves_the_lnb_unasked() -> None:
    run = _straight("lnb-single", "splitter-2")
    assert not any(_there(run, "p9").values())
    assert not run.choice.alone["p9"].any()
    assert run.choice.reach["p9"].stopped == (("p2", "l2"),)


def test_a_line_without_a_receiver_asks_for_nothing() -> None:
    assert not any(_there(_straight("lnb-single", receivers=()), "p9").values())


def _two(splitter_dc: tuple[tuple[int, int], ...]) -> Solution:
    split = CATALOGUE.parts["splitter-2"].model_copy(update={"dc": splitter_dc})
    at_hand = CATALOGUE.model_copy(update={"parts": {**CATALOGUE.parts, "splitter-2": split}})
    parts = [
        Part(id="p1", type="lnb-single"),
        Part(id="p2", type="splitter-2"),
        Part(id="p3", type="plate", outlet="o1"),
        Part(id="p4", type="plate", outlet="o2"),
    ]
    links = [_link(1, "p1", "p2"), _link(2, "p2", "p3"), _link(3, "p2", "p4", out=1)]
    return solve_run(parts, links, at_hand, columns=_columns("lnb-single"), receivers=("o1", "o2"))


def test_two_receivers_on_one_lnb_by_the_table_of_what_arrives() -> None:
    """Highest voltage, and the tone if any sends it (common practice): only 18 V with tone is proof
    against whatever the neighbour asks for."""
    run = _two(((0, 0), (0, 1)))
    for plate in ("p3", "p4"):
        assert run.choice.alone[plate].all()
        beside = dict(zip(run.columns.ids, run.choice.beside[plate].tolist(), strict=True))
        assert beside == {"V low": False, "H low": False, "V high": False, "H high": True}
    (bound,) = run.choice.bound
    assert (bound.part, bound.plates) == ("p1", ("p3", "p4"))


def test_the_port_without_power_sees_what_the_other_chooses() -> None:
    run = _two(((0, 0),))
    assert all(_there(run, "p4").values())
    assert run.choice.alone["p3"].all()
    assert not run.choice.alone["p4"].any()


# --- multiswitches --------------------------------------------------------------------------------

ORDER = ["V low", "H low", "V high", "H high"]


def _switched(
    order: list[int], cable_to: str = "multiswitch-4", via: str | None = None
) -> Solution:
    """The four outputs of an LNB to a switch's inputs in an order; an outlet, through another part."""
    parts = [
        Part(id="p1", type="lnb-four"),
        Part(id="p2", type=cable_to),
        Part(id="p9", type="plate", outlet="o1"),
    ]
    links = [_link(i + 1, "p1", "p2", out=i, into=to) for i, to in enumerate(order)]
    if via is None:
        links.append(_link(9, "p2", "p9"))
    else:
        parts.append(Part(id="p3", type=via))
        links += [_link(9, "p2", "p3"), _link(10, "p3", "p9")]
    return solve_run(parts, links, CATALOGUE, columns=_columns("lnb-four"), receivers=("o1",))


@pytest.mark.parametrize(
    "switch", ["multiswitch-4", "multiswitch-8", "multiswitch-12", "multiswitch-16"]
)
def test_a_switch_gives_each_band_that_is_asked_for(switch: str) -> None:
    run = _switched([0, 1, 2, 3], switch)
    assert all(_there(run, "p9").values())
    assert run.choice.beside["p9"].all()


@pytest.mark.parametrize(
    ("order", "lost"),
    [
        ([1, 0, 2, 3], {"V low", "H low"}),
        ([0, 1, 3, 2], {"V high", "H high"}),
        ([2, 1, 0, 3], {"V low", "V high"}),
        ([3, 2, 1, 0], set(ORDER)),
    ],
)
def test_trunks_that_are_changed_over_bring_the_wrong_band(
    order: list[int], lost: set[str]
) -> None:
    there = _there(_switched(order), "p9")
    assert {name for name, found in there.items() if not found} == lost


def test_a_part_that_blocks_current_ahead_of_a_switch_leaves_it_unasked() -> None:
    run = _switched([0, 1, 2, 3], via="splitter-2")
    assert not any(_there(run, "p9").values())
    assert all(_there(_switched([0, 1, 2, 3], via="splitter-2p"), "p9").values())


def test_a_tone_that_is_eaten_keeps_the_low_band() -> None:
    deaf = CATALOGUE.parts["block-1"].model_copy(update={"passes_tone": False})
    at_hand = CATALOGUE.model_copy(update={"parts": {**CATALOGUE.parts, "block-1": deaf}})
    parts = [
        Part(id="p1", type="lnb-single"),
        Part(id="p2", type="block-1"),
        Part(id="p9", type="plate", outlet="o1"),
    ]
    run = solve_run(
        parts,
        [_link(1, "p1", "p2"), _link(2, "p2", "p9")],
        at_hand,
        columns=_columns("lnb-single"),
        receivers=("o1",),
    )
    assert _there(run, "p9") == {"V low": True, "H low": True, "V high": False, "H high": False}
    assert run.choice.alone["p9"].tolist() == [True, True, False, False]


def test_more_receivers_than_user_bands_cannot_all_watch() -> None:
    parts = [
        Part(id="p1", type="lnb-user-band-8"),
        Part(id="p2", type="splitter-8"),
        Part(id="p3", type="splitter-2"),
    ]
    links = [_link(1, "p1", "p2"), _link(2, "p2", "p3", out=7)]
    outlets = []
    for n in range(9):
        start, out = ("p2", n) if n < 7 else ("p3", n - 7)
        parts.append(Part(id=f"p{10 + n}", type="plate", outlet=f"o{n + 1}"))
        links.append(_link(10 + n, start, f"p{10 + n}", out=out))
        outlets.append(f"o{n + 1}")
    nine = solve_run(
        parts, links, CATALOGUE, columns=_columns("lnb-user-band-8"), receivers=outlets
    )
    assert nine.choice.bound[0].slots == 8
    assert not nine.choice.beside["p10"].any()
    eight = solve_run(
        parts[:-1],
        links[:-1],
        CATALOGUE,
        columns=_columns("lnb-user-band-8"),
        receivers=outlets[:8],
    )
    assert eight.choice.bound == ()
