"""What a typed figure may need to know of the job that it is typed into: which way north is there.

The reader of figures works before a route does; so the job's address is laid down for it here, and
whatever it turned is told with the answer.
"""

from __future__ import annotations

from contextvars import ContextVar
from typing import Annotated

from fastapi import Header, Request
from pydantic.fields import FieldInfo

from evtro import profiles
from evtro.core.changes.typed import Reader
from evtro.core.job import In, Row
from evtro.core.job.base import bounds_of
from evtro.core.units.figures import read_figure
from evtro.core.units.quantities import InputError, Unit
from evtro.store.history import Asked
from evtro.store.jobs import Jobs

NAME = r"^[A-Za-z0-9-]{0,64}$"
ALWAYS = ("stations", "outlets")
SHOWN = ("site", "sky", "aim", "mast", "earth", "coax", "readings", "handover", "steps", "stock")
_NAME = rf"(?:{'|'.join(SHOWN)}|part:p[0-9]{{1,9}})"
ALL = "all"
_NAMES = rf"^(|{ALL}|{_NAME}(?:,{_NAME})*)$"


class Asking:
    """The job that a request changes, who asks, and what was told of its typed figures."""

    def __init__(self, jobs: Jobs, job_id: str, device: str, key: str | None) -> None:
        self.jobs, self.job_id = jobs, job_id
        self.device, self.key = device, key
        self._reader: Reader | None = None

    @property
    def reader(self) -> Reader:
        """What reads figures that are typed into the job."""
        if self._reader is None:
            job = self.jobs.get(self.job_id).job
            self._reader = Reader(job, profiles.load(job.profile))
        return self._reader

    def notes(self) -> list[str]:
        """What is told with the answer."""
        return [] if self._reader is None else self._reader.told()


_ASKING: ContextVar[Asking | None] = ContextVar("asking", default=None)
_SHOWN: ContextVar[tuple[str, ...]] = ContextVar("shown", default=(*ALWAYS, *SHOWN))


async def lay_down(
    request: Request,
    evtro_device: Annotated[
        str, Header(pattern=NAME, description="A name that a browser gave itself: its undo.")
    ] = "",
    idempotency_key: Annotated[
        str | None,
        Header(pattern=NAME, description="Names the request: sent again, it is kept once."),
    ] = None,
    evtro_include: Annotated[
        str,
        Header(
            pattern=_NAMES,
            description="The answers that are looked at, parted by commas, `part:p1` for every carrier at a part; all of them without it.",
        ),
    ] = ALL,
) -> None:
    """A dependency of every route: remembers whose job the typed figures belong to, who asks, and
    which answers are looked at."""
    wanted = (
        SHOWN
        if evtro_include == ALL
        else tuple(dict.fromkeys(filter(None, evtro_include.split(","))))
    )
    _SHOWN.set((*ALWAYS, *wanted))
    job_id = request.path_params.get("job_id")
    jobs = request.app.state.desk.jobs
    _ASKING.set(Asking(jobs, job_id, evtro_device, idempotency_key) if job_id else None)


def asked(label: str, verb: str | None = None, key: str | None = None) -> Asked:
    """A change that this request asks for; `key` names it where the request brings several."""
    asking = _ASKING.get()
    if asking is None:
        return Asked(label, verb=verb, key=key)
    return Asked(label, asking.device, verb, key or asking.key)


def device() -> str:
    """The name of the browser that asks; empty for one that does not say."""
    asking = _ASKING.get()
    return asking.device if asking else ""


def shown() -> tuple[str, ...]:
    """The answers that this request wants to see."""
    return _SHOWN.get()


def told() -> list[str]:
    """What the typed figures of this request were read as, where that is not plain."""
    asking = _ASKING.get()
    return asking.notes() if asking else []


def typed(kind: type[Row], field: str, text: str, unit: Unit | None = None) -> float:
    """A typed figure for a field of a row, read with the field's unit and bounds. Raises InputError
    naming the field."""
    info: FieldInfo = kind.model_fields[field]
    own = next((m.unit for m in info.metadata if isinstance(m, In)), None)
    return plain(info.title or field.replace("_", " "), text, unit or own or "count", info.metadata)


def plain(title: str, text: str, unit: Unit, metadata: list[object] | None = None) -> float:
    """A typed figure for a field that no row keeps. Raises InputError naming the field."""
    rules = metadata or []
    asking = _ASKING.get()
    if asking is not None:
        return asking.reader.typed(title, text, unit=unit, rules=tuple(rules))
    try:
        value = read_figure(text, unit, *bounds_of(rules))
    except InputError as error:
        raise error.at(title) from None
    assert isinstance(value, float)
    return value
