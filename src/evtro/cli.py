"""The command line: evtro serve | demo | look | check | export | import | tile | backup | restore | schema."""

from __future__ import annotations

import argparse
import datetime as dt
import json
import os
import re
import sys
from pathlib import Path
from typing import Any

from evtro import __version__
from evtro.core.quantities import InputError, Quantity, show, text_of

BAD_INPUT = 2
SOMETHING_OUT = 1


def main(argv: list[str] | None = None) -> int:
    """Run a command. Returns the exit code: 0 fine, 1 something is out, 2 bad input."""
    parser = _parser()
    arguments = parser.parse_args(argv)
    try:
        return int(arguments.run(arguments) or 0)
    except InputError as error:
        print(f"evtro: {error}", file=sys.stderr)
        return BAD_INPUT
    except BrokenPipeError:
        sys.stderr.close()
        return 0


def _parser() -> argparse.ArgumentParser:
    # Negative figures, such as a southern latitude, are values and not options.
    parser = argparse.ArgumentParser(
        prog="evtro", description="Television reception from the sky to the outlet."
    )
    parser.add_argument("--version", action="version", version=f"evtro {__version__}")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")

    def command(name: str, run: Any, words: str) -> argparse.ArgumentParser:
        made = commands.add_parser(name, help=words, description=words)
        made.set_defaults(run=run)
        made._negative_number_matcher = re.compile(r"^-\d")  # type: ignore[attr-defined]
        return made

    serve = command("serve", _serve, "serve the application on this machine")
    demo = command("demo", _demo, "serve the demo world, apart from your own data")
    demo.add_argument("--fresh", action="store_true", help="put the demo jobs back as they were")
    for each in (serve, demo):
        each.add_argument("--port", type=int, default=8750)
        each.add_argument("--host", default="127.0.0.1", help="loopback unless you say otherwise")

    look = command("look", _look, "where a geostationary satellite stands")
    look.add_argument(
        "place",
        nargs="+",
        metavar="PLACE",
        help="latitude and longitude, or a UTM, MGRS or Plus code",
    )
    look.add_argument("orbit", metavar="ORBIT", help="east positive, or with a letter: 30W")
    look.add_argument("--height", default="0", metavar="M", help="above sea, metres or with ft")
    look.add_argument("--date", default=None, metavar="D", help="for the compass, 2026-03-25")
    look.add_argument("--json", action="store_true")

    check = command("check", _check, "work out a job file and list what is out")
    check.add_argument("file", type=Path, metavar="JOBFILE")
    check.add_argument("--json", action="store_true")

    export = command("export", _export, "write a kept job as an open file")
    export.add_argument("job", metavar="JOB", help="its id, or its name")
    export.add_argument(
        "file", type=Path, nargs="?", metavar="FILE", help="standard output without"
    )
    take = command("import", _import, "take in a job file")
    take.add_argument("file", type=Path, metavar="FILE")
    back = command("backup", _backup, "copy all data into one file, also while it is in use")
    back.add_argument("file", type=Path, metavar="FILE")
    restore = command("restore", _restore, "put a backup in place; stop the program first")
    restore.add_argument("file", type=Path, metavar="FILE")
    tile = command("tile", _tile, "take in an elevation tile where it lies, however large")
    tile.add_argument("file", type=Path, metavar="FILE", help="GeoTIFF, HGT or ESRI ASCII grid")
    command("schema", _schema, "print the JSON Schema of the job file")
    command("openapi", _openapi, "print the OpenAPI document of the service")
    return parser


def _serve(arguments: argparse.Namespace) -> None:
    from evtro.store.connection import data_dir

    _run(arguments, data_dir())


def _demo(arguments: argparse.Namespace) -> None:
    from evtro.demo.library import demo_senders, demo_tile
    from evtro.demo.world import demo_jobs
    from evtro.store.connection import FILE_NAME, data_dir, open_database
    from evtro.store.jobs import Jobs
    from evtro.store.library import Library

    folder = data_dir() if os.environ.get("EVTRO_DATA") else data_dir() / "demo"
    connection = open_database(folder / FILE_NAME)
    jobs = Jobs(connection)
    there = {job_id for job_id, _ in jobs.revisions()}
    for job_id, job in demo_jobs().items():
        if arguments.fresh and job_id in there:
            jobs.remove(job_id)
            there.discard(job_id)
        if job_id not in there:
            jobs.add(job, job_id)
    library = Library(jobs)
    library.add_tile(demo_tile())
    library.keep(demo_senders())
    jobs.close()
    _run(arguments, folder)


def _run(arguments: argparse.Namespace, folder: Path) -> None:
    import uvicorn

    from evtro.service.app import create_app, settle

    _check_port(arguments.host, arguments.port)
    hosts = () if arguments.host in ("127.0.0.1", "localhost", "::1") else (arguments.host,)
    app = create_app(folder, hosts)
    settle()
    print(f"Evtro keeps its data in {folder}", flush=True)
    print(f"Open http://{arguments.host}:{arguments.port}/ (stop with Ctrl+C)", flush=True)
    try:
        uvicorn.run(app, host=arguments.host, port=arguments.port, log_level="warning")
    finally:
        app.state.desk.jobs.close()


def _check_port(host: str, port: int) -> None:
    """Raise InputError for an address that cannot be served, before anything is built."""
    import socket

    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    try:
        socket.create_server((host, port), family=family).close()
    except OverflowError:
        raise InputError("--port", f"{port} is no port.", "Give one from 1024 to 65535.") from None
    except OSError as error:
        raise InputError(
            "--port", f"{host}:{port} cannot be served ({error.strerror or error}).",
            f"Stop what runs there, or give another: --port {port + 1 if port < 65535 else 8750}.",
        ) from None  # fmt: skip


def _look(arguments: argparse.Namespace) -> None:
    from evtro.core.geodesy import look
    from evtro.core.geomagnetism import declination_deg
    from evtro.core.site.position import read_position
    from evtro.core.sky.survey import parse_orbit

    cut = " ; " if len(arguments.place) == 2 else " "  # two words are the two halves
    at = read_position(cut.join(arguments.place))
    latitude, longitude = at.latitude_deg, at.longitude_deg
    orbit = parse_orbit(arguments.orbit)
    height = _figure("--height", arguments.height, "m")
    day = _day(arguments.date)
    seen = look(latitude, longitude, height, orbit)
    compass: float | None
    declination: float | None
    try:
        declination = declination_deg(latitude, longitude, height, day)
        compass = (float(seen.azimuth_deg) - declination) % 360
    except InputError as error:
        declination = compass = None
        print(f"evtro: {error}", file=sys.stderr)
    found = {
        "visible": bool(seen.visible),
        "azimuth_deg": round(float(seen.azimuth_deg), 4),
        "compass_deg": None if compass is None else round(compass, 4),
        "declination_deg": None if declination is None else round(declination, 4),
        "elevation_deg": round(float(seen.elevation_deg), 4),
        "polarization_tilt_deg": round(float(seen.tilt_deg), 4),
        "slant_range_km": round(float(seen.range_km), 3),
    }
    if arguments.json:
        print(json.dumps(found))
        return
    if not found["visible"]:
        print("Not visible: the satellite stands below the horizon here.")
    print(f"azimuth    {found['azimuth_deg']:.2f}° true")
    if compass is not None:
        print(f"compass    {compass:.2f}° magnetic, declination {declination:+.2f}° on {day}")
    print(f"elevation  {found['elevation_deg']:.2f}°")
    turn = float(seen.tilt_deg)
    way = "clockwise" if turn >= 0 else "anticlockwise"
    print(f"skew       {abs(turn):.2f}° {way}, seen from behind the dish")
    print(f"range      {found['slant_range_km']:.1f} km")


def _figure(field: str, text: str, unit: Any) -> float:
    from evtro.core.units.figures import read_figure

    try:
        value = read_figure(text, unit)
    except InputError as error:
        raise error.at(field) from None
    assert isinstance(value, float)
    return value


def _day(text: str | None) -> dt.date:
    if text is None:
        return dt.date.today()
    try:
        return dt.date.fromisoformat(text)
    except ValueError as error:
        raise InputError("--date", f"“{text}” is not a date.", "Type it as 2026-03-25.") from error


def _read_file(path: Path) -> bytes:
    from evtro.formats.jobfile import MOST_BYTES

    try:
        if path.stat().st_size > MOST_BYTES:
            raise InputError("Job file", f"{path} has {path.stat().st_size / 1e6:.0f} MB.",
                             "A job file has a few MB at most: this is another file.")  # fmt: skip
        return path.read_bytes()
    except OSError as error:
        raise InputError("Job file", f"{path} cannot be read ({error.strerror}).",
                         "Check name and rights.") from error  # fmt: skip


def _check(arguments: argparse.Namespace) -> int:
    from evtro import catalogue, profiles
    from evtro.core.answers import work_out
    from evtro.formats.jobfile import read_job

    parts = catalogue.load()
    job = read_job(_read_file(arguments.file), parts)
    profile = profiles.load(job.profile)
    answers, _ = work_out(job, parts, profile)
    lanes = {lane.id: lane for lane in answers.coax.lanes}
    outlets = [
        {
            "outlet": row.name,
            "carrier": lanes[c.carrier].name,
            "frequency_mhz": round(lanes[c.carrier].frequency_mhz, 3),
            "level_dbuv": _rounded(c.level.value),
            "cn_db": _rounded(c.cn_db),
            "margin_db": _rounded(c.margin.value),
            "state": c.state,
        }
        for row in answers.coax.outlets
        for c in row.cells
    ]
    problems = [
        {
            "code": p.code,
            "place": p.place,
            "state": p.state,
            "figure": None if p.gauge is None else _rounded(p.gauge.value),
            "limit": text_of(p.limit, profile.units, profile.level),
            "origin": p.origin,
            "remedy": text_of(p.remedy, profile.units, profile.level),
        }
        for p in answers.problems
    ]
    out = any(p["state"] == "out" for p in problems) or any(o["state"] == "out" for o in outlets)
    if arguments.json:
        print(json.dumps({"outlets": outlets, "problems": problems}, ensure_ascii=False))
        return SOMETHING_OUT if out else 0
    for line in answers.stations:
        print(f"{line.number} {line.name:<10} {line.state:<5} {line.figure}")
    for p in answers.problems:
        figure = ""
        if p.gauge is not None and p.gauge.value is not None:
            quantity = Quantity(p.gauge.value, p.gauge.unit)
            figure = f": {show(quantity, profile.units, profile.level)}"
        title = text_of(p.title, profile.units, profile.level)
        limit = text_of(p.limit, profile.units, profile.level)
        remedy = text_of(p.remedy, profile.units, profile.level)
        print(f"\n[{p.state}] {p.station}, {p.place}\n  {title}{figure}\n  limit: {limit} ({p.origin})"
              f"\n  do: {remedy}")  # fmt: skip
    return SOMETHING_OUT if out else 0


def _rounded(value: float | None) -> float | None:
    return None if value is None else round(value, 3)


def _kept_jobs() -> Any:
    from evtro.store.connection import FILE_NAME, data_dir, open_database
    from evtro.store.jobs import Jobs

    return Jobs(open_database(data_dir() / FILE_NAME))


def _export(arguments: argparse.Namespace) -> None:
    from evtro.formats.jobfile import write_job

    found = [
        job for job_id, _, _, job in _kept_jobs().list() if arguments.job in (job_id, job.name)
    ]
    if not found:
        raise InputError("Job", f"there is no job “{arguments.job}”.", "Its name is under Jobs.")
    text = write_job(found[0])
    if arguments.file is None:
        sys.stdout.write(text)
        return
    try:
        arguments.file.write_text(text, "utf-8")
    except OSError as error:
        raise InputError(
            "File", f"{arguments.file} cannot be written ({error.strerror})."
        ) from error


def _import(arguments: argparse.Namespace) -> None:
    from evtro import catalogue, profiles
    from evtro.formats.jobfile import read_job

    job = read_job(_read_file(arguments.file), catalogue.load())
    profiles.load(job.profile)
    kept = _kept_jobs().add(job)
    print(f"{kept.job.name} is kept as {kept.id}")


def _backup(arguments: argparse.Namespace) -> None:
    from evtro.store.connection import FILE_NAME, backup, data_dir

    backup(data_dir() / FILE_NAME, arguments.file)
    print(f"All data is in {arguments.file}")


def _restore(arguments: argparse.Namespace) -> None:
    from evtro.store.connection import FILE_NAME, data_dir, restore

    restore(arguments.file, data_dir() / FILE_NAME)
    print(f"Restored from {arguments.file}")


def _tile(arguments: argparse.Namespace) -> None:
    from evtro.service.terrain import Terrain
    from evtro.store.connection import FILE_NAME, data_dir, open_database
    from evtro.store.jobs import Jobs
    from evtro.store.library import Library

    path = arguments.file.resolve()
    if not path.is_file():
        raise InputError("Elevation tile", f"{path} does not exist.", "Name a file.", "tile-wrong")
    jobs = Jobs(open_database(data_dir() / FILE_NAME))
    try:
        row = Terrain(Library(jobs), data_dir() / "terrain").take(path, path.name)
    finally:
        jobs.close()
    print(f"{row.name}: {row.south:.3f} to {row.north:.3f} north, {row.west:.3f} to {row.east:.3f} east, "
          f"a height each {row.step_m:.0f} m")  # fmt: skip


def _schema(_: argparse.Namespace) -> None:
    from evtro.formats.jobfile import schema

    print(json.dumps(schema(), indent=1, ensure_ascii=False))


def _openapi(_: argparse.Namespace) -> None:
    import tempfile

    from evtro.service.app import create_app

    with tempfile.TemporaryDirectory() as folder:
        print(json.dumps(create_app(Path(folder)).openapi(), indent=1, ensure_ascii=False))


if __name__ == "__main__":
    sys.exit(main())
