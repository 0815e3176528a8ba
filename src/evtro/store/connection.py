"""The database file: what stands there, how it is opened, made and brought to the newest form."""

from __future__ import annotations

import contextlib
import os
import sqlite3
import stat
from collections.abc import Iterator
from dataclasses import dataclass
from importlib import resources
from pathlib import Path
from typing import Literal

from evtro.core.units.quantities import InputError

from . import migration
from .copies import put_in_place, set_aside
from .folder import FILE_NAME, Claim
from .storage_errors import NOT_OPENED, StorageError, trouble_of

APPLICATION_ID = 0x45767472  # "Evtr", in the head of the file
BUSY_MS = 5000
_MAGIC = b"SQLite format 3\x00"

Kind = Literal["missing", "no-file", "empty", "not-sqlite", "foreign", "ours"]


@dataclass(frozen=True)
class FileKind:
    """What stands at a path: its kind, and the form of a file of ours."""

    kind: Kind
    form: int = 0


@dataclass(frozen=True)
class Opened:
    """An open database. `checked` tells that it was looked through after an unclean stop, and
    `damage` what was found then; with damage nothing may be written."""

    connection: sqlite3.Connection
    checked: bool = False
    damage: tuple[str, ...] = ()


def newest_form() -> int:
    """The form that this program writes."""
    return _migrations()[-1][0]


def look_at(path: Path) -> FileKind:
    """What stands at a path. The file is read and never touched. Raises InputError."""
    try:
        mode = path.stat().st_mode
    except FileNotFoundError:
        return FileKind("missing")
    except (OSError, ValueError) as error:
        raise _refused(path, trouble_of(error) or NOT_OPENED) from error
    if not stat.S_ISREG(mode):
        return FileKind("no-file")
    try:
        with path.open("rb") as file:
            head = file.read(100)
    except OSError as error:
        raise _refused(path, NOT_OPENED) from error
    if not head:
        return FileKind("empty")
    if len(head) < 100 or not head.startswith(_MAGIC):
        return FileKind("not-sqlite")
    if int.from_bytes(head[68:72], "big") == APPLICATION_ID:
        return FileKind("ours", int.from_bytes(head[60:64], "big"))
    return _before_the_id(path)


def _before_the_id(path: Path) -> FileKind:
    """A file of SQLite without our mark: one of ours from before it, or somebody else's."""
    # Without a log the file is opened as unchanging, so that nothing is made beside it.
    log = path.with_name(path.name + "-wal")
    rest = "mode=ro" if log.exists() and log.stat().st_size else "immutable=1"
    try:
        with contextlib.closing(sqlite3.connect(_uri(path, rest), uri=True)) as file:
            tables = {r[0] for r in file.execute("SELECT name FROM sqlite_master")}
            form = int(file.execute("PRAGMA user_version").fetchone()[0])
            mark = int(file.execute("PRAGMA application_id").fetchone()[0])
    except sqlite3.Error as error:
        trouble = trouble_of(error)
        if trouble is None or trouble.code == "damaged":
            return FileKind("foreign")
        raise _refused(path, trouble) from error
    if mark == APPLICATION_ID or (mark == 0 and {"job", "change", "site"} <= tables):
        return FileKind("ours", form)
    return FileKind("foreign")


def _uri(path: Path, rest: str) -> str:
    return f"{path.resolve().as_uri()}?{rest}"


def _refused(path: Path, trouble: StorageError, field: str = "Data file") -> InputError:
    reason = trouble.reason.removesuffix(", so it was not kept.").rstrip(".")
    return InputError(
        field,
        f"{path}: {reason}.",
        trouble.remedy.replace("FILE", str(path)),
        f"database-{trouble.code}",
    )


def require_ours(path: Path, field: str, *, new: bool = False) -> FileKind:
    """What stands at the path, if it is ours (or may be made new). Raises InputError in words that
    tell one state from the other."""
    seen = look_at(path)
    if seen.kind == "ours" and seen.form > newest_form():
        raise InputError(
            field,
            f"{path} was written by a newer Evtro (form {seen.form}, this one knows {newest_form()}).",
            "Start the newer program, or restore an older backup.",
            "database-newer",
        )
    if seen.kind == "ours" or (new and seen.kind == "missing"):
        return seen
    reason, remedy = {
        "missing": ("does not exist.", "Check the name."),
        "no-file": ("is no file.", "Name a file: a folder, a device or a pipe holds no jobs."),
        "empty": (
            "is empty.",
            "Evtro never leaves an empty file: move it away to begin anew, or put a "
            "backup in place with: evtro restore FILE",
        ),
        "not-sqlite": (
            "is not an Evtro database.",
            "Move it away, or restore a backup with: evtro restore FILE",
        ),
        "foreign": (
            "is a database of another program. Nothing in it was touched.",
            "Move it away, or name another folder with EVTRO_DATA.",
        ),
    }[seen.kind]
    raise InputError(field, f"{path} {reason}", remedy, f"database-{seen.kind}")


def open_owned(claim: Claim) -> Opened:
    """The database of a claimed folder: made when it is not there, brought to the newest form after
    a copy is set aside, looked through when the last owner did not close it. Raises InputError."""
    path = claim.folder / FILE_NAME
    seen = require_ours(path, "Data file", new=True)
    if seen.kind == "missing":
        with told(path):
            _make(path)
    else:
        with told(path):
            # SQLite would open it for reading instead, and fail at the first write.
            os.close(os.open(path, os.O_RDWR))
    with told(path):
        connection = _connect(path)
        try:
            damage = () if claim.clean or seen.kind == "missing" else damage_of(connection)
            if not damage and form_of(connection) < newest_form():
                set_aside(claim.folder / FILE_NAME, "before-update")
                migrate(connection)
        except BaseException:
            connection.close()
            raise
    return Opened(connection, checked=not claim.clean and seen.kind != "missing", damage=damage)


def open_to_read(folder: Path) -> sqlite3.Connection:
    """The database of a folder that another Evtro may own, for looking only. Raises InputError."""
    path = folder / FILE_NAME
    seen = require_ours(path, "Data file")
    if seen.form < newest_form():
        raise InputError(
            "Data file",
            f"{path} is of an older form.",
            "Start this Evtro once, it brings the data up to date.",
            "database-older",
        )
    with told(path):
        return _connect(path, "mode=ro")


def _connect(path: Path, rest: str = "mode=rw") -> sqlite3.Connection:
    connection = sqlite3.connect(
        _uri(path, rest), uri=True, isolation_level=None, check_same_thread=False
    )
    connection.row_factory = sqlite3.Row
    try:
        connection.execute(f"PRAGMA busy_timeout = {BUSY_MS}")
        if rest == "mode=rw":
            connection.execute("PRAGMA journal_mode = WAL")
        connection.execute("PRAGMA synchronous = FULL")
        # On macOS an ordinary sync leaves the data in the drive's own cache; elsewhere this is idle.
        connection.execute("PRAGMA fullfsync = ON")
        connection.execute("PRAGMA checkpoint_fullfsync = ON")
        connection.execute("PRAGMA foreign_keys = ON")
        connection.execute("SELECT count(*) FROM sqlite_master").fetchone()
    except BaseException:
        connection.close()
        raise
    return connection


@contextlib.contextmanager
def told(path: Path, field: str = "Data file") -> Iterator[None]:
    """Errors of SQLite and of the disk as InputError, for a person at the command line."""
    try:
        yield
    except (sqlite3.Error, OSError) as error:
        raise _refused(path, trouble_of(error) or NOT_OPENED, field) from error


def damage_of(connection: sqlite3.Connection) -> tuple[str, ...]:
    """What is wrong inside the file; nothing when it is whole."""
    try:
        found = [str(r[0]) for r in connection.execute("PRAGMA integrity_check(20)")]
    except sqlite3.DatabaseError as error:
        return (str(error),)
    return () if found == ["ok"] else tuple(found)


def _make(path: Path) -> None:
    """A new database, made beside its place and put there whole."""
    beside = path.with_name(path.name + ".new")
    for old in (beside, beside.with_name(beside.name + "-journal")):
        old.unlink(missing_ok=True)
    with contextlib.closing(sqlite3.connect(beside, isolation_level=None)) as connection:
        # Nobody has been told of it yet: one sync, when it is whole, in the place of one for each step.
        connection.execute("PRAGMA synchronous = OFF")
        connection.execute("PRAGMA journal_mode = MEMORY")
        migrate(connection)
    put_in_place(beside, path)


def form_of(connection: sqlite3.Connection) -> int:
    """The form of an open database."""
    return int(connection.execute("PRAGMA user_version").fetchone()[0])


def _migrations() -> list[tuple[int, str]]:
    folder = resources.files("evtro.store").joinpath("migrations")
    files = sorted(f.name for f in folder.iterdir() if f.name.endswith(".sql"))
    return [(int(name[:4]), folder.joinpath(name).read_text("utf-8")) for name in files]


def migrate(connection: sqlite3.Connection, *, check: bool = True) -> None:
    """Apply the numbered steps that are missing, each in one transaction. References are looked at
    at the end of each, unless rows are known to be lost: a table that is made anew leaves them open
    in between."""
    form = form_of(connection)
    migration.lend_functions(connection)
    checked = connection.execute("PRAGMA foreign_keys").fetchone()[0]
    connection.execute("PRAGMA foreign_keys = OFF")
    try:
        for number, sql in _migrations():
            if number > form:
                _step(connection, number, sql, check)
        if form < newest_form():
            # The room of tables that were made anew is given back.
            connection.execute("VACUUM")
    finally:
        connection.execute(f"PRAGMA foreign_keys = {checked}")


def _step(connection: sqlite3.Connection, number: int, sql: str, check: bool) -> None:
    try:
        connection.executescript(
            f"BEGIN IMMEDIATE; {sql}; PRAGMA application_id = {APPLICATION_ID}; "
            f"PRAGMA user_version = {number};"
        )
        broken = connection.execute("PRAGMA foreign_key_check").fetchall() if check else []
        if broken:
            raise sqlite3.IntegrityError(f"{len(broken)} references lead nowhere in form {number}")
        connection.execute("COMMIT")
    except BaseException:
        if connection.in_transaction:
            connection.execute("ROLLBACK")
        raise
