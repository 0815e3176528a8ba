"""Every field, choice and tick that the screens show: what is put there is kept, is there again
after the page is loaded anew, and is taken back by undo."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Locator, Page, Response, expect

from tests.proving import WHOLE

from .conftest import imported, kept_job, remove, revision_of, settled

# One job and one page of it for each kind of screen that has fields edited in place.
SCREENS = [
    ("skerry-house", "site"), ("skerry-house", "sky"), ("harrow-farm", "sky?page=senders"),
    ("skerry-house", "sky?page=places"), ("skerry-house", "sky?page=link"), ("skerry-house", "aim"),
    ("skerry-house", "aim?page=tools"), ("skerry-house", "aim?page=find"), ("alder-terrace", "aim?page=row"),
    ("kauri-flat", "aim?page=motor"), ("kauri-flat", "aim?page=feed"), ("tern-hut", "aim?page=twoway"),
    ("fjell-caravan", "aim?page=portable"), ("harrow-farm", "aim"), ("harrow-farm", "aim?page=choice"),
    ("harrow-farm", "aim?page=trial"), ("skerry-house", "mast"), ("skerry-house", "earth"),
    ("larch-street", "coax"), ("skerry-house", "readings"), ("skerry-house", "handover"),
]  # fmt: skip
# Of each screen so many are tried.
FIGURES, CHOICES, TICKS = 6, 3, 2
WRITES = ("PATCH", "PUT", "POST", "DELETE")


def _written(answer: Response) -> bool:
    """Whether it answers a write; what a figure would do is asked for while it is typed."""
    return answer.request.method in WRITES and not answer.url.endswith("/foreseen")


def _open(page: Page, job: str, path: str) -> None:
    page.goto(f"/jobs/{job}/{path}")
    settled(page)


# The names of the fields that are seen and can be used, each once; asked for in one call, not field by field.
NAMES = """
(fields) => [...new Set(fields.filter((e) => e.checkVisibility() && !e.disabled)
  .map((e) => e.getAttribute('aria-label') ?? e.labels?.[0]?.textContent?.trim() ?? ''))].filter(Boolean)
"""


def _names(fields: Locator) -> list[str]:
    found: list[str] = fields.evaluate_all(NAMES)
    return found


def _spread(every: list[str], most: int) -> list[str]:
    """All of them, or so many from the first to the last: a table of a hundred levels is one kind of field. All of
    them are tried under `make prove`."""
    if WHOLE:
        return every
    return every[:: -(-len(every) // most)] if len(every) > most else every


def _another(text: str) -> str:
    """A figure close by, written as it stands there; zero becomes one."""
    digits = len(text.partition(".")[2])
    value = float(text)
    return f"{value * 0.9 if abs(value) > 1e-9 else 1.0:.{digits}f}"


def _type_figures(page: Page) -> dict[str, str]:
    """Type another figure into each field; returns what was taken."""
    kept: dict[str, str] = {}
    for label in _spread(
        _names(page.locator("main input.dotted-field[inputmode=decimal]")), FIGURES
    ):
        field = page.get_by_label(label, exact=True).first
        if not field.is_visible():
            continue  # what was typed before took it away, such as an antenna of another kind
        old = field.input_value()
        new = _another(old) if re.fullmatch(r"-?\d+(\.\d+)?", old) else None
        if new is None or new == old:
            continue
        field.fill(new)
        with page.expect_response(_written) as answer:
            field.press("Enter")
        if answer.value.status != 200:
            # Two figures of a row that contradict each other: said at the field, and given up again.
            expect(page.get_by_role("alert").first).to_be_visible()
            field.press("Escape")
            continue
        kept[label] = new
    return kept


def _flip_ticks(page: Page, job: str) -> dict[str, bool]:
    """Flip each tick; returns those of the job."""
    flipped: dict[str, bool] = {}
    for label in _spread(_names(page.locator("main input[type=checkbox]")), TICKS):
        tick = page.get_by_label(label, exact=True).first
        before, was = revision_of(page, job), tick.is_checked()
        tick.set_checked(not was, force=True)
        settled(page)
        if revision_of(page, job) != before:
            flipped[label] = not was
    return flipped


def _choose_and_undo(page: Page, job: str) -> None:
    """Choose another thing in each choice; it stands there, and undo takes it back."""
    for label in _spread(_names(page.locator("main select.dotted-field")), CHOICES):
        choice = page.get_by_label(label, exact=True).first
        if not (choice.count() and choice.is_visible()):
            continue
        before = choice.input_value()
        options = choice.evaluate("e => [...e.options].filter(o => !o.disabled).map(o => o.value)")
        other = next((o for o in options if o != before), None)
        if other is None:
            continue
        revision = revision_of(page, job)
        choice.select_option(other)
        settled(page)
        if revision_of(page, job) == revision:
            continue  # a choice of the view, not of the job
        if choice.count() and choice.is_visible():
            expect(choice).to_have_value(other)
        page.get_by_role("button", name=re.compile("^Undo")).click()
        back = page.get_by_label(label, exact=True).first
        expect(back).to_have_value(before)


@pytest.mark.parametrize(("name", "path"), SCREENS)
def test_what_is_chosen_ticked_and_typed_is_kept(page: Page, name: str, path: str) -> None:
    job = imported(page, name)
    _open(page, job, path)
    _choose_and_undo(page, job)
    ticked = {} if "page=" in path else _flip_ticks(page, job)
    typed = _type_figures(page)
    settled(page)
    _open(page, job, path)
    for label, value in typed.items():
        field = page.get_by_label(label, exact=True).first
        if field.count() and field.is_visible():
            # One figure may move another: a position, a converted unit, a figure drawn from two.
            assert float(field.input_value()) == pytest.approx(
                float(value), abs=0.051 * max(abs(float(value)), 2)
            ), label
    for label, on in ticked.items():
        expect(page.get_by_label(label, exact=True).first).to_be_checked(checked=on)
    remove(page, job)


# A screen, the rows it shows and the words of the button that takes one away.
REMOVALS = [
    ("skerry-house", "sky", "obstructions", "^Remove Chapel"), ("skerry-house", "sky", "targets", "^Remove Halcyon"),
    ("skerry-house", "site", "outlets", "^Remove Office"), ("skerry-house", "sky?page=places", "spots", "^Remove "),
    ("alder-terrace", "aim?page=row", "feeds", "^Take Whimbrel off"), ("harrow-farm", "aim?page=trial", "trial_spots", "^Remove "),
    ("fjell-caravan", "aim?page=portable", "stops", "^Remove "), ("skerry-house", "earth", "conductors", "^Remove "),
    ("tern-hut", "aim?page=twoway", "beams", "^Remove beam"), ("kauri-flat", "aim?page=feed", "feed_tries", "^Remove "),
]  # fmt: skip


@pytest.mark.parametrize(("name", "path", "rows", "words"), REMOVALS)
def test_a_row_is_removed_and_comes_back_whole(
    page: Page, name: str, path: str, rows: str, words: str
) -> None:
    job = imported(page, name)
    _open(page, job, path)
    first = kept_job(page, job)
    button = page.locator("main").get_by_role("button", name=re.compile(words)).first
    with page.expect_response(lambda r: "/changes" in r.url):
        button.click()
    now = kept_job(page, job)
    assert len(now[rows]) == len(first[rows]) - 1
    with page.expect_response(lambda r: "/undo" in r.url):
        page.get_by_role("button", name=re.compile("^Undo")).click()
    assert kept_job(page, job) == first
    remove(page, job)


def test_a_transmitter_is_taken_off_the_list_and_the_job_keeps_its_own(page: Page) -> None:
    job = imported(page, "harrow-farm")
    known = page.request.get("/api/transmitters").json()["senders"]
    whole = page.request.get("/api/transmitters.csv").body()
    name = known[0]["sender"]["name"]
    try:
        _open(page, job, "sky?page=senders")
        page.get_by_role("button", name=f"Forget {name}, off the list").click()
        expect(page.get_by_role("status").filter(has_text="no longer in the list")).to_be_visible()
        expect(page.get_by_role("button", name=f"Forget {name}, off the list")).to_have_count(0)
        left = [
            s["sender"]["name"] for s in page.request.get("/api/transmitters").json()["senders"]
        ]
        assert name not in left
        assert len(left) == len(known) - 1
        # Out as a file and in again by the button: the list is whole.
        with page.expect_download() as saved:
            page.get_by_role("link", name="transmitters.csv").click()
        assert saved.value.suggested_filename.endswith(".csv")
    finally:  # other tests share the list
        page.request.post("/api/transmitters", data=whole, headers={"content-type": "text/csv"})
        remove(page, job)
