"""The command line: each command with what it prints, its exit code and what it refuses."""

from __future__ import annotations

import json
import re
import socket
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest

from evtro import __version__, cli
from evtro.core.physics.geodesy import look
from evtro.demo.world import demo_jobs
from evtro.formats.jobfile import write_job
from tests.server import Server

JOBS = sorted(demo_jobs())


@pytest.fixture
def home(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """An empty data folder of this test's own."""
    monkeypatch.setenv("EVTRO_DATA", str(tmp_path / "data"))
    return tmp_path


def _run(capsys: pytest.CaptureFixture[str], *words: str) -> tuple[int, str, str]:
    code = cli.main(list(words))
    said = capsys.readouterr()
    return code, said.out, said.err


@pytest.mark.parametrize("latitude", ["-41.29", "0", "0.0001 N", "68,14", "33°52'10\"S"])
@pytest.mark.parametrize("orbit", ["28", "28E", "28.2 E", "30W", "-30", "166 E", "45 W"])
def test_look_agrees_with_the_core_whatever_the_writing(
    capsys: pytest.CaptureFixture[str], latitude: str, orbit: str
) -> None:
    from evtro.core.stations.site.position import read_position
    from evtro.core.stations.sky.survey import parse_orbit

    code, out, _ = _run(capsys, "look", latitude, "10.5", orbit, "--date", "2026-03-25", "--json")
    assert code == 0
    found = json.loads(out)
    at = read_position(f"{latitude} ; 10.5")
    seen = look(at.latitude_deg, at.longitude_deg, 0.0, parse_orbit(orbit))
    assert found["azimuth_deg"] == pytest.approx(float(seen.azimuth_deg), abs=1e-4)
    assert found["elevation_deg"] == pytest.approx(float(seen.elevation_deg), abs=1e-4)
    assert found["polarization_tilt_deg"] == pytest.approx(float(seen.tilt_deg), abs=1e-4)
    assert found["visible"] == bool(seen.visible)


def test_look_in_words_says_when_nothing_is_to_be_seen(capsys: pytest.CaptureFixture[str]) -> None:
    code, out, _ = _run(capsys, "look", "52", "5", "150E", "--date", "2026-03-25")
    assert code == 0
    assert out.startswith("Not visible")
    for word in ("azimuth", "elevation", "skew", "range"):
        assert word in out


def test_a_date_outside_the_magnetic_model_leaves_the_rest(
    capsys: pytest.CaptureFixture[str],
) -> None:
    code, out, err = _run(capsys, "look", "52", "5", "13E", "--date", "2041-01-01", "--json")
    found = json.loads(out)
    assert code == 0
    assert found["compass_deg"] is None
    assert found["azimuth_deg"] > 0
    assert "evtro:" in err


def test_height_in_feet_is_height(capsys: pytest.CaptureFixture[str]) -> None:
    metres = json.loads(_run(capsys, "look", "46", "7", "13E", "--height", "3048 m", "--json")[1])
    feet = json.loads(_run(capsys, "look", "46", "7", "13E", "--height", "10000 ft", "--json")[1])
    assert metres == feet


@pytest.mark.long
@pytest.mark.parametrize("name", JOBS)
def test_every_demo_job_is_checked_taken_in_and_written_out(
    home: Path, capsys: pytest.CaptureFixture[str], name: str
) -> None:
    job = demo_jobs()[name]
    file, back = home / f"{name}.json", home / "back.json"
    file.write_text(write_job(job))
    code, out, _ = _run(capsys, "check", str(file), "--json")
    found = json.loads(out)
    out_of_limits = [p for p in found["problems"] if p["state"] == "fail"]
    assert code == (
        1 if out_of_limits or any(o["state"] == "fail" for o in found["outlets"]) else 0
    )
    for problem in found["problems"]:
        assert problem["limit"]
        assert problem["remedy"]
        assert problem["origin"]
    words = _run(capsys, "check", str(file))[1]
    assert [line[0] for line in words.splitlines()[:8]] == list("12345678")
    assert words.count("\n  limit: ") == len(found["problems"])
    code, out, _ = _run(capsys, "import", str(file))
    assert code == 0
    key = re.search(r"as (\w+)", out)
    assert key is not None
    assert _run(capsys, "export", key[1], str(back))[0] == 0
    assert back.read_bytes() == file.read_bytes()
    assert _run(capsys, "export", job.name)[1] == file.read_text()


def test_backup_while_it_is_in_use_and_restore(
    home: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    file = home / "a.json"
    file.write_text(write_job(demo_jobs()["mill-loft"]))
    _run(capsys, "import", str(file))
    copy = home / "copy.sqlite"
    assert _run(capsys, "backup", str(copy))[0] == 0
    file.write_text(write_job(demo_jobs()["tern-hut"]))
    _run(capsys, "import", str(file))
    assert _run(capsys, "export", "Tern Hut")[0] == 0
    assert _run(capsys, "restore", str(copy))[0] == 0
    assert _run(capsys, "export", "Mill Loft")[0] == 0
    assert _run(capsys, "export", "Tern Hut")[0] == 2


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (["import", "nothing.json"], "cannot be read"),
        (["check", "."], "cannot be read"),
        (["tile", "nothing.tif"], "does not exist"),
        (["restore", "nothing.sqlite"], "Restore"),
        (["export", "Nobody's house"], "there is no job"),
        (["look", "91", "0", "0"], "outside the earth"),
        (["look", "north", "0", "0"], "Position"),
        (["look", "50", "0", "361E"], "Orbit"),
        (["look", "50", "0", "0", "--height", "12 bananas"], "--height"),
        (["look", "50", "0", "0", "--date", "31.12.2026"], "--date"),
        (["serve", "--port", "70000"], "--port"),
    ],
)
def test_what_cannot_be_done_is_said_on_the_error_line(
    home: Path, capsys: pytest.CaptureFixture[str], words: list[str], said: str
) -> None:
    code, out, err = _run(capsys, *words)
    assert code == 2
    assert out == ""
    assert err.startswith("evtro: ")
    assert said in err
    assert len(err.strip().splitlines()) == 1
    assert "Traceback" not in err


@pytest.mark.parametrize("data", [b"", b"{", b"[]", b'{"format": "other"}', b"\x00" * 64])
def test_a_job_file_that_is_none(
    home: Path, capsys: pytest.CaptureFixture[str], data: bytes
) -> None:
    file = home / "a.json"
    file.write_bytes(data)
    for command in ("check", "import"):
        code, _, err = _run(capsys, command, str(file))
        assert code == 2
        assert err.startswith("evtro: ")


def test_a_port_that_is_taken_is_told_before_anything_is_built(
    home: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    with socket.socket() as other:
        other.bind(("127.0.0.1", 0))
        other.listen()
        port = other.getsockname()[1]
        code, _, err = _run(capsys, "serve", "--port", str(port))
    assert code == 2
    assert f"127.0.0.1:{port}" in err
    assert "--port" in err
    assert not (home / "data").exists()


@pytest.mark.long
def test_the_demo_is_put_back_as_it_was(tmp_path: Path) -> None:
    import urllib.request

    def names(server: Server) -> list[str]:
        with urllib.request.urlopen(f"{server.url}/api/jobs") as answer:
            return sorted(j["name"] for j in json.load(answer)["jobs"])

    def ask(server: Server, method: str, path: str) -> None:
        seen = json.load(urllib.request.urlopen(f"{server.url}{path.removesuffix('/undo')}"))[
            "revision"
        ]
        headers = {"If-Match": str(seen)}
        urllib.request.urlopen(
            urllib.request.Request(f"{server.url}{path}", method=method, headers=headers)
        )

    first = Server(tmp_path)
    whole = names(first)
    ask(first, "DELETE", "/api/jobs/mill-loft")
    assert len(names(first)) == len(whole) - 1
    first.stop()
    again = Server(tmp_path)
    assert names(again) == whole  # a demo job that was removed comes back at the next start
    again.stop()


@pytest.mark.long
def test_schema_openapi_and_version(capsys: pytest.CaptureFixture[str]) -> None:
    schema: Any = json.loads(_run(capsys, "schema")[1])
    assert schema["type"] == "object"
    described = json.loads(_run(capsys, "openapi")[1])
    assert described["info"]["title"] == "Evtro"
    assert "/api/jobs/{job_id}" in described["paths"]
    with pytest.raises(SystemExit) as ended:
        cli.main(["--version"])
    assert ended.value.code == 0
    assert __version__ in capsys.readouterr().out


def test_no_command_and_an_unknown_one(capsys: pytest.CaptureFixture[str]) -> None:
    for words in ([], ["fly"]):
        with pytest.raises(SystemExit) as ended:
            cli.main(words)
        assert ended.value.code == 2
        assert "usage: evtro" in capsys.readouterr().err


def test_a_reader_that_goes_away_is_no_error(tmp_path: Path) -> None:
    file = tmp_path / "a.json"
    file.write_text(write_job(demo_jobs()["skerry-house"]))
    done = subprocess.run(
        f"{sys.executable} -m evtro.cli check {file} --json | head -c 10",
        shell=True,
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.stdout == '{"outlets"'
    assert "Traceback" not in done.stderr
