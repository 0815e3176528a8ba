"""A disk that fills up in the middle of edits: refused in words, nothing half kept, and it goes on."""

from __future__ import annotations

import resource
from dataclasses import dataclass
from pathlib import Path

from evtro.store.folder import FILE_NAME
from tests.server import forked_script

from .kills import whole

RUN = """
import resource, sys
from pathlib import Path
from fastapi.testclient import TestClient
from evtro.demo.world import skerry_house
sys.path.insert(0, sys.argv[3])
from tests.data import make_app
folder, edits = Path(sys.argv[1]), int(sys.argv[2])
app = make_app(folder)
app.state.desk.jobs.add(skerry_house(), "house")
client = TestClient(app)
size = (folder / "evtro.sqlite-wal").stat().st_size
soft, hard = resource.getrlimit(resource.RLIMIT_FSIZE)
kept = refused = revision = 0
odd = set()
for n in range(1, edits + 1):
    if n == edits // 4:  # the largest file that may be written from here on
        resource.setrlimit(resource.RLIMIT_FSIZE, (size + 200_000, hard))
    if n == edits * 3 // 4:
        resource.setrlimit(resource.RLIMIT_FSIZE, (soft, hard))
    answer = client.post("/api/jobs/house/changes", json={"verb": "set", "rows": "handover",
                          "values": {"remarks": f"{n} " + "x" * 1800}},
                          headers={"If-Match": str(revision)})
    if answer.status_code == 200:
        kept, revision = n, answer.json()["revision"]
    elif answer.json()["code"] == "disk-full":
        refused += 1
    else:
        odd.add(answer.json()["code"])
    now = client.get("/api/jobs/house").json()
    assert now["job"]["handover"]["remarks"].startswith(f"{kept} "), (n, kept)
app.state.desk.jobs.close()
print(kept, refused, ",".join(sorted(odd)) or "none")
"""


@dataclass
class Found:
    """The last edit that was kept, how many were refused as full, other refusals, whether it is whole."""

    kept: int
    refused: int
    odd: str
    whole: bool


def fill_up(folder: Path, edits: int = 200) -> Found:
    """Edits, the middle half of them under a limit on the size of files."""
    folder.mkdir(parents=True, exist_ok=True)
    root = str(Path(__file__).parents[2])
    process, out = forked_script(RUN, str(folder), str(edits), root)
    kept, refused, odd = out.read().split()
    process.join()
    assert process.exitcode == 0
    assert resource.getrlimit(resource.RLIMIT_FSIZE)[0] == resource.RLIM_INFINITY
    return Found(int(kept), int(refused), odd, whole(folder / FILE_NAME))
