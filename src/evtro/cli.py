"""The command line: evtro serve | demo | look | check | export | import | tile | backup | restore |
recover | schema."""

from __future__ import annotations

import argparse
import contextlib
import datetime as dt
import json
import os
import re
import sqlite3
import stat
import sys
from collections.abc import Iterator
from functools import partial
from pathlib import Path
from typing import Any

from evtro import __version__
from evtro.core.units.quantities import InputError, Quantity, show, text_of
from evtro.core.units.severity import WORDS
from evtro.store.folder import FILE_NAME, FolderTaken, data_dir
from evtro.store.storage_errors import trouble_of

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
    except (sqlite3.Error, OSError) as error:
        trouble = trouble_of(error)
        if trouble is None:
            raise
        print(f"evtro: {trouble.title}: {trouble.reason} {trouble.remedy}", file=sys.stderr)
        return BAD_INPUT


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
        made._negative_number_matcher = re.compile(r"^-\d")
        return made

    serve = command("serve", _serve, "serve the application on this machine")
    demo = command("demo", _demo, "serve the demo world, apart from your own data")
    demo.add_argument("--fresh", action="store_true", help="put the demo jobs back as they were")
    for each in (serve, demo):
        each.add_argument("--port", type=int, default=8750)
        each.add_argument(
            "--host",
            default="127.0.0.1",
            help="loopback; any other opens it to the network, over HTTPS and with a passphrase",
        )
        each.add_argument(
            "--name", action="append", default=[], help="a further host name of this machine"
        )
        each.add_argument(
            "--passphrase-file", type=Path, metavar="FILE", help="take the passphrase from it"
        )

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
    save = command(
        "recover", _recover, "save what can be read of a damaged data file into a new one"
    )
    save.add_argument("file", type=Path, metavar="FILE")
    save.add_argument("into", type=Path, nargs="?", metavar="NEW")
    tile = command("tile", _tile, "take in an elevation tile where it lies, however large")
    tile.add_argument("file", type=Path, metavar="FILE", help="GeoTIFF, HGT or ESRI ASCII grid")
    command("schema", _schema, "print the JSON Schema of the job file")
    command("openapi", _openapi, "print the OpenAPI document of the service")
    return parser


def _asked(arguments: argparse.Namespace) -> Any:
    from evtro.service.serve import Wanted

    names = tuple(n.strip().lower().rstrip(".") for n in arguments.name)
    return Wanted(arguments.host, arguments.port, names, arguments.passphrase_file)


def _serve(arguments: argparse.Namespace) -> None:
    from evtro.service.serve import serve

    serve(data_dir(), _asked(arguments))


def _demo(arguments: argparse.Namespace) -> None:
    from evtro.demo.library import fill
    from evtro.service.serve import serve

    folder = data_dir() if os.environ.get("EVTRO_DATA") else data_dir() / "demo"
    serve(folder, _asked(arguments), partial(fill, fresh=arguments.fresh))


def _look(arguments: argparse.Namespace) -> None:
    from evtro.core.physics.geodesy import look
    from evtro.core.physics.magnetism import declination_deg
    from evtro.core.stations.site.position import read_position
    from evtro.core.stations.sky.survey import parse_orbit

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
    from evtro.formats.jobfile import MOST_MB

    try:
        about = path.stat()
        if not stat.S_ISREG(about.st_mode):
            raise InputError(
                "Job file",
                f"{path} cannot be read: it is no file.",
                "Name a file: a folder, a device or a pipe holds no job.",
                "file-wrong",
            )
        if about.st_size > MOST_MB * 1e6:
            raise InputError(
                "Job file",
                f"{path} has {about.st_size / 1e6:.0f} MB.",
                "A job file has a few MB at most: this is another file.",
            )
        return path.read_bytes()
    except (OSError, ValueError) as error:
        if isinstance(error, InputError):
            raise
        words = getattr(error, "strerror", None) or "no such name"
        raise InputError(
            "Job file", f"{path} cannot be read ({words}).", "Check name and rights."
        ) from error


def _check(arguments: argparse.Namespace) -> int:
    from evtro import catalogue
    from evtro.core.answers import work_out
    from evtro.formats.jobfile import read_job
    from evtro.profiles import shop_profile

    parts = catalogue.load()
    job = read_job(_read_file(arguments.file), parts)
    answers = work_out(job, parts, shop_profile(job))
    profile = answers.profile
    channels = {channel.id: channel for channel in answers.coax.channels}
    outlets = [
        {
            "outlet": row.name,
            "carrier": channels[c.carrier].name,
            "frequency_mhz": round(channels[c.carrier].frequency_mhz, 3),
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
    out = any(p["state"] == "fail" for p in problems) or any(o["state"] == "fail" for o in outlets)
    if arguments.json:
        print(json.dumps({"outlets": outlets, "problems": problems}, ensure_ascii=False))
        return SOMETHING_OUT if out else 0
    for line in answers.stations:
        print(f"{line.number} {line.name:<10} {WORDS[line.state]:<8} {line.figure}")
    for p in answers.problems:
        figure = ""
        if p.gauge is not None and p.gauge.value is not None:
            quantity = Quantity(p.gauge.value, p.gauge.unit)
            figure = f": {show(quantity, profile.units, profile.level)}"
        title = text_of(p.title, profile.units, profile.level)
        limit = text_of(p.limit, profile.units, profile.level)
        remedy = text_of(p.remedy, profile.units, profile.level)
        print(
            f"\n[{WORDS[p.state]}] {p.station}, {p.place}\n  {title}{figure}\n  limit: {limit} ({p.origin})"
            f"\n  do: {remedy}"
        )
    return SOMETHING_OUT if out else 0


def _rounded(value: float | None) -> float | None:
    return None if value is None else round(value, 3)


def _export(arguments: argparse.Namespace) -> None:
    from evtro import catalogue
    from evtro.formats.jobfile import write_plain
    from evtro.service.job_service import exported
    from evtro.store.connection import open_to_read
    from evtro.store.jobs import Jobs

    if not (data_dir() / FILE_NAME).exists():
        raise _no_job(arguments.job)
    jobs = Jobs(open_to_read(data_dir()))
    found = [h.id for h in jobs.heads() if arguments.job in (h.id, h.name)]
    if not found:
        raise _no_job(arguments.job)
    text = write_plain(exported(jobs, catalogue.load(), found[0]))
    jobs.close()
    if arguments.file is None:
        sys.stdout.write(text)
        return
    try:
        arguments.file.write_text(text, "utf-8")
    except OSError as error:
        raise InputError(
            "File", f"{arguments.file} cannot be written ({error.strerror})."
        ) from error


def _no_job(name: str) -> InputError:
    return InputError("Job", f"there is no job “{name}”.", "Its name is under Jobs.")


def _import(arguments: argparse.Namespace) -> None:
    from evtro import catalogue
    from evtro.core.answers import work_out
    from evtro.core.job.stock import carrying
    from evtro.formats.jobfile import read_job
    from evtro.profiles import shop_profile

    data = _read_file(arguments.file)
    parts = catalogue.load()
    job = read_job(data, parts)
    shop = shop_profile(job)
    _ = work_out(job, parts, shop).stations
    job = carrying(job, parts, shop)
    try:
        with _own_jobs() as jobs:
            kept = jobs.add(job).id
    except FolderTaken as taken:
        kept = _through(taken, data)
    print(f"{job.name} is kept as {kept}")


def _through(taken: FolderTaken, data: bytes) -> str:
    """Hand a job file to the Evtro that holds the data, if it can be reached without a passphrase."""
    import urllib.request

    if not taken.address.startswith(("http://127.", "http://localhost:", "http://[::1]:")):
        raise taken
    request = urllib.request.Request(
        f"{taken.address}api/jobs/import", data, {"content-type": "application/json"}
    )
    try:
        with urllib.request.urlopen(request, timeout=60) as answer:
            return str(json.load(answer)["id"])
    except (OSError, ValueError, KeyError):
        raise taken from None


@contextlib.contextmanager
def _own_jobs() -> Iterator[Any]:
    """The jobs of this user, held for one change."""
    from evtro.store.connection import open_owned, told
    from evtro.store.folder import Claim
    from evtro.store.jobs import Jobs

    with Claim(data_dir()) as claim:
        opened = open_owned(claim)
        jobs = Jobs(opened.connection, damage=opened.damage)
        try:
            with told(data_dir()):
                yield jobs
        finally:
            jobs.close()


def _backup(arguments: argparse.Namespace) -> None:
    from evtro.store.backups import backup

    backup(data_dir(), arguments.file)
    print(f"All data is in {arguments.file}")


def _restore(arguments: argparse.Namespace) -> None:
    from evtro.store.backups import restore
    from evtro.store.folder import Claim

    with Claim(data_dir()) as claim:
        aside = restore(claim, arguments.file)
    print(f"Restored from {arguments.file}")
    if aside is not None:
        print(f"What it replaced is in {aside}")


def _recover(arguments: argparse.Namespace) -> int:
    from evtro.store.recover import recover

    into = arguments.into or arguments.file.with_name(f"{arguments.file.name}.recovered")
    found = recover(arguments.file, into)
    print(f"{len(found.jobs)} jobs are saved in {into}: {', '.join(found.jobs)}")
    for lost in found.lost:
        print(f"lost: {lost}")
    print(f"Put it in place with: evtro restore {into}")
    return SOMETHING_OUT if found.lost else 0


def _tile(arguments: argparse.Namespace) -> None:
    from evtro.service.terrain import Terrain
    from evtro.store.library import Library

    path = arguments.file.resolve()
    if not path.exists():
        raise InputError("Elevation tile", f"{path} does not exist.", "Name a file.", "tile-wrong")
    with _own_jobs() as jobs:
        row = Terrain(Library(jobs), data_dir() / "terrain").take(path, path.name)
    print(
        f"{row.name}: {row.south:.3f} to {row.north:.3f} north, {row.west:.3f} to {row.east:.3f} east, "
        f"a height each {row.step_m:.0f} m"
    )


def _schema(_: argparse.Namespace) -> None:
    from evtro.formats.jobfile import schema

    print(json.dumps(schema(), indent=1, ensure_ascii=False))


def _openapi(_: argparse.Namespace) -> None:
    import tempfile

    from evtro.core.units.quantities import unit_table
    from evtro.service.app import create_app

    with tempfile.TemporaryDirectory() as folder:
        described = {**create_app(Path(folder)).openapi(), "x-units": unit_table()}
        print(json.dumps(described, indent=1, ensure_ascii=False))


if __name__ == "__main__":
    sys.exit(main())
