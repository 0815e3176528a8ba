"""On site without a network: the page opens, the job stands as it was read last, and what was ticked, read
and photographed is kept and arrives once, in its order, whatever the wire does."""

from __future__ import annotations

import datetime as dt
import io
import json
import os
import random
import re
import shutil
import subprocess
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest
from PIL import Image
from playwright.sync_api import Browser, Page, Route, expect

from tests.pictures import drawn
from tests.server import Server

from .conftest import FLAGS, imported, kept_job, open_gates, remove, revision_of
from .test_do_faces import EMPTIED

NAME = "van.evtro.test"  # no address of this machine, so that the browser trusts it by its certificate only
WORDS = "gulls over the north jetty"


def over_https(folder: Path) -> Server:
    """The program open to the network under a name of its own."""
    (folder / "words").write_text(WORDS)
    return Server(
        folder / "data",
        "demo",
        "--host",
        "0.0.0.0",
        "--name",
        NAME,
        "--passphrase-file",
        str(folder / "words"),
    )


def _trusted(home: Path, certificate: bytes) -> None:
    """Install an authority where a browser of this home looks for those that it trusts."""
    store = home / ".pki/nssdb"
    store.mkdir(parents=True)
    (home / "authority.crt").write_bytes(certificate)
    tool = shutil.which("certutil")
    assert tool is not None
    at = f"sql:{store}"
    subprocess.run([tool, "-d", at, "-N", "--empty-password"], check=True)
    subprocess.run(
        [tool, "-d", at, "-A", "-t", "C,,", "-n", "evtro", "-i", str(home / "authority.crt")],
        check=True,
    )


def test_offline_in_the_middle_of_the_work_with_a_photo_and_a_reload(
    browser: Browser, tmp_path: Path
) -> None:
    """Over HTTPS under a name that is not loopback's, with the authority installed and no error ignored."""
    program = over_https(tmp_path)
    authority = urllib.request.urlopen(f"http://127.0.0.1:{program.port + 1}/evtro.crt", timeout=5)
    home = tmp_path / "home"
    home.mkdir()
    _trusted(home, authority.read())
    flags = [*FLAGS, f"--host-resolver-rules=MAP {NAME} 127.0.0.1"]
    own = browser.browser_type.launch(
        executable_path="/usr/bin/chromium-headless-shell",
        args=flags,
        env={**os.environ, "HOME": str(home)},
    )
    try:
        phone = own.new_page(
            base_url=f"https://{NAME}:{program.port}", viewport={"width": 390, "height": 844}
        )
        phone.set_default_timeout(30_000)
        phone.goto("/jobs/fern-cottage/site/do")
        phone.get_by_label("Passphrase", exact=True).fill(WORDS)
        phone.get_by_role("button", name="Come in").click()
        step = phone.get_by_role("region", name=re.compile("^Step 1 of"))
        expect(step).to_be_visible()
        assert phone.evaluate("window.isSecureContext")
        phone.evaluate("navigator.serviceWorker.ready.then(() => true)")
        with phone.expect_response(
            lambda r: (
                "evtro-include" in r.request.headers
                and "coax" in r.request.headers["evtro-include"]
            )
        ):
            phone.reload()
        assert phone.evaluate("navigator.serviceWorker.controller !== null")
        phone.evaluate(KEPT)
        program.kill()
        phone.reload()
        expect(phone.get_by_text("What stands here was read at")).to_be_visible()
        step.get_by_label("Who looked").fill("A. Mender")
        step.get_by_label("I have looked all round").check()
        expect(phone.get_by_text("No network, 1 kept here.")).to_be_visible()
        phone.get_by_label("Photo file").set_input_files(
            {"name": "roof.jpg", "mimeType": "image/jpeg", "buffer": drawn(turned=True)}
        )
        expect(phone.get_by_role("img", name="Kept here, not sent yet")).to_be_visible()
        step.get_by_role("button", name=re.compile("^Done")).click()
        expect(phone.get_by_text("No network, 3 kept here.")).to_be_visible()
        # The figures of the plan stand without a network, too.
        phone.goto("/jobs/fern-cottage/aim")
        expect(phone.get_by_text("326.1°T").first).to_be_visible()
        phone.goto("/jobs/fern-cottage/site/do?step=site.overhead")
        expect(phone.get_by_text("No network, 3 kept here.")).to_be_visible()
        expect(phone.get_by_role("img", name="Kept here, not sent yet")).to_be_visible()
        program.start()
        expect(phone.get_by_text("kept here")).to_have_count(0)
        phone.evaluate(EMPTIED)
        expect(phone.get_by_role("img", name=re.compile("^Photo by A. Mender"))).to_be_visible()
        job = phone.evaluate("() => fetch('/api/jobs/fern-cottage').then((r) => r.json())")["job"]
        (photo,) = job["photos"]
        (mark,) = (m for m in job["marks"] if m["step"] == "site.overhead")
        assert mark["confirmed_by"] == mark["done_by"] == photo["taken_by"] == "A. Mender"
        assert mark["at"]
        kept = Image.open(
            io.BytesIO(bytes(phone.evaluate(BYTES, f"/api/jobs/fern-cottage/photos/{photo['id']}")))
        )
        # Upright, small, and without its place.
        assert kept.size == (photo["width_px"], photo["height_px"]) == (1200, 1600)
        assert not kept.getexif()
    finally:
        own.close()
        program.kill()


BYTES = "async (at) => [...new Uint8Array(await (await fetch(at)).arrayBuffer())]"
# Until the open job lies in the browser with the answers of every station.
KEPT = """
() => new Promise((done, fail) => {
  const asked = indexedDB.open('evtro');
  let looks = 0;
  asked.onsuccess = () => {
    const look = () => {
      if (++looks > 2000) return fail(new Error('the job is not kept'));
      const found = asked.result.transaction('jobs').objectStore('jobs').get('fern-cottage');
      found.onsuccess = () => found.result?.view.answers.coax && found.result.view.answers.steps
        ? (asked.result.close(), done()) : setTimeout(look, 20);
    };
    look();
  };
})
"""


@pytest.fixture
def job(phone: Page) -> Iterator[str]:
    job_id = imported(phone, "skerry-house")
    yield job_id
    remove(phone, job_id)


# Puts rows into the outbox as the page keeps them, the first one an hour ago by this device's clock.
FILLED = """
(rows) => new Promise((done) => {
  const asked = indexedDB.open('evtro');
  asked.onsuccess = () => {
    const turn = asked.result.transaction('outbox', 'readwrite');
    for (const row of rows)
      turn.objectStore('outbox').add({ ...row, key: crypto.randomUUID(), at: Date.now() - (row.ago_ms ?? 3600000) });
    turn.oncomplete = () => { asked.result.close(); done(); };
  };
})
"""


FAILURES = ("cut", "cut", "lost", "lost", "nonsense", "busy")


@pytest.mark.parametrize("seed", range(2))
def test_whatever_the_wire_does_each_arrives_once_in_its_order(
    phone: Page, job: str, seed: int
) -> None:
    """Dozens of made-up failures each: cut before or after it arrived, sent twice, answered late or with
    nonsense, by themselves or many at once. Notes are counted by the revision, order by what stands last."""
    phone.goto(f"/jobs/{job}/site/do")
    expect(phone.get_by_role("region", name=re.compile("^Step 1 of"))).to_be_visible()
    first = revision_of(phone, job)
    rows = [
        {
            "job": job,
            "change": {
                "verb": "tick",
                "step": "site.outlets" if n % 2 else "site.entry",
                "note": f"note {n}",
            },
        }
        for n in range(120)
    ]
    phone.evaluate(FILLED, rows)
    chance, failures = random.Random(seed), 0
    arrived: list[str] = []
    fates: list[str] = []

    def wire(route: Route) -> None:
        nonlocal failures
        if route.request.method != "POST" or failures >= 60:
            route.continue_()
            return
        if not fates:
            fates.extend(
                [
                    *chance.sample(FAILURES, 6),
                    *chance.sample(FAILURES, 6),
                    chance.choice(["twice", "well"]),
                ]
            )
        fate = fates.pop(0)
        failures += fate not in ("twice", "well")
        if fate == "cut":
            route.abort()
            return
        if fate == "busy":
            route.fulfill(status=503, body="{}", content_type="application/json")
            return
        answer = route.fetch()
        body = json.loads(route.request.post_data or "{}")
        arrived.extend(
            e["note"] for e in [row["change"] for row in body.get("entries", [])] or [body]
        )
        if fate == "twice":
            answer = route.fetch()
        if fate == "lost":
            route.abort()
        elif fate == "nonsense":
            route.fulfill(status=200, body="<html>", content_type="text/html")
        else:
            route.fulfill(response=answer)

    phone.route(re.compile(f"/api/jobs/{job}/(changes|outbox)$"), wire)
    # A network that comes back all the time: nobody waits for the pauses between the tries.
    phone.add_init_script("setInterval(() => window.dispatchEvent(new Event('online')), 4)")
    phone.goto(f"/jobs/{job}/site/do?step=site.entry")
    phone.evaluate(EMPTIED)
    assert failures >= 25
    after = phone.request.get(f"/api/jobs/{job}").json()
    marks = {m["step"]: m for m in after["job"]["marks"]}
    assert marks["site.outlets"]["note"] == "note 119"
    assert marks["site.entry"]["note"] == "note 118"
    assert after["revision"] == first + 120
    order = [int(n.split()[1]) for n in dict.fromkeys(arrived)]
    assert order == sorted(order)


def test_what_waited_counts_from_when_it_was_done(phone: Page, job: str) -> None:
    """However wrong the device's clock is: only how long it waited is told."""
    open_gates(phone, job, "sky")
    phone.goto(f"/jobs/{job}/site/do")
    expect(phone.get_by_role("region", name=re.compile("^Step"))).to_be_visible()
    rows = [
        {"job": job, "ago_ms": ago, "change": {"verb": "tick", "step": step, "done": True}}
        for step, ago in (("site.entry", 3_600_000), ("site.outlets", 0))
    ]
    phone.evaluate(FILLED, rows)
    phone.reload()
    phone.evaluate(EMPTIED)
    marks = {m["step"]: m for m in kept_job(phone, job)["marks"]}
    done, now = (dt.datetime.fromisoformat(marks[s]["at"]) for s in ("site.entry", "site.outlets"))
    assert dt.timedelta(minutes=59) <= now - done <= dt.timedelta(minutes=61)


def test_a_photo_is_taken_shown_printed_and_removed(phone: Page, job: str) -> None:
    phone.goto(f"/jobs/{job}/mast/do?step=mast.plumb")
    files = phone.get_by_label("Photo file")
    files.set_input_files({"name": "x.jpg", "mimeType": "image/jpeg", "buffer": b"not a picture"})
    expect(phone.get_by_role("alert")).to_contain_text("no picture that can be read")
    files.set_input_files({"name": "x.png", "mimeType": "image/png", "buffer": drawn(kind="PNG")})
    expect(phone.get_by_role("button", name="Photo, 1")).to_be_visible()
    expect(phone.get_by_role("alert")).to_have_count(0)
    shown = phone.get_by_role("img", name=re.compile("^Photo"))
    expect(shown).to_be_visible()
    assert shown.evaluate("i => i.naturalWidth") == 1600
    sheet = phone.request.get(f"/api/jobs/{job}/sheet").text()
    assert "Photographs" in sheet
    phone.get_by_role("button", name="Remove").click()
    expect(phone.get_by_role("button", name="Photo", exact=True)).to_be_visible()


def test_out_of_what_is_asked_is_put_right_or_left_with_a_reason(phone: Page, job: str) -> None:
    open_gates(phone, job)
    phone.goto(f"/jobs/{job}/mast/do?step=mast.plumb")
    field = phone.get_by_label(re.compile("^It reads"))
    done = phone.get_by_role("button", name=re.compile("^Done"))
    field.fill("2,5")
    field.press("Enter")
    expect(phone.get_by_text("Shim one bracket by")).to_be_visible()
    expect(done).to_be_disabled()
    phone.get_by_role("button", name="Leave it and say why").click()
    phone.get_by_label("Left as it is, because").fill("new bracket ordered")
    phone.get_by_role("button", name="Leave it so").click()
    expect(phone.get_by_role("region", name=re.compile("^Step 6 of"))).to_be_visible()
    sheet = phone.request.get(f"/api/jobs/{job}/sheet").text()
    assert "left as it is" in sheet
    assert "new bracket ordered" in sheet
    phone.get_by_role("button", name="Back").click()
    expect(phone.get_by_role("button", name="Left as it is: new bracket ordered")).to_be_visible()
    field.fill("0.3")
    field.press("Enter")
    expect(done).to_be_enabled()


# The form of the kept view of a job, awaited until there is one; `form` replaces it.
KEPT_FORM = """
([job, form]) => new Promise((done, failed) => {
  const opening = indexedDB.open('evtro');
  opening.onerror = () => failed(opening.error);
  opening.onsuccess = () => {
    const look = () => {
      const moving = opening.result.transaction('jobs', 'readwrite');
      const rows = moving.objectStore('jobs');
      rows.get(job).onsuccess = (found) => {
        const row = found.target.result;
        if (row && form) rows.put({ ...row, form });
        moving.oncomplete = () => {
          if (!row) return requestAnimationFrame(look);
          opening.result.close();
          done(row.form);
        };
      };
    };
    look();
  };
})
"""


def test_a_view_that_an_older_program_kept_is_not_drawn(phone: Page, job: str) -> None:
    """It has other words for states: without a network the job is not shown rather than shown wrong."""
    phone.goto(f"/jobs/{job}/site/do")
    step = phone.get_by_role("region", name=re.compile("^Step"))
    expect(step).to_be_visible()
    phone.evaluate(KEPT_FORM, [job, 0])
    phone.route("**/api/**", lambda route: route.abort())
    phone.reload()
    expect(step).to_be_visible()
    newest = phone.evaluate(KEPT_FORM, [job, 1])
    assert phone.evaluate(KEPT_FORM, [job, 0]) == 1 < newest
    phone.reload()
    expect(phone.get_by_role("alert").first).to_be_visible()
    expect(step).to_have_count(0)
