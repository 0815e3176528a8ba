"""Errors as problem details, RFC 9457."""

from __future__ import annotations

import logging
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import Response
from pydantic import BaseModel, ValidationError
from starlette.exceptions import HTTPException

from evtro.core.job import In, Job
from evtro.core.job.registry import registry
from evtro.core.job.words import in_words, said
from evtro.core.units.quantities import InputError
from evtro.store.jobs import JobMissing, Stale
from evtro.store.storage_errors import StorageError, trouble_of

from .conflict import in_the_trades_words
from .schemas import Refusal

MEDIA = "application/problem+json"
# Why a change is not taken through no trouble of the program.
Refusable = InputError | ValidationError | Stale
MISSING = ("row-missing", "part-missing", "cable-missing", "problem-gone")


class Refused(Exception):
    """A request that is turned away with a status and words."""

    def __init__(self, status: int, code: str, title: str, detail: str, remedy: str = "") -> None:
        super().__init__(detail)
        self.problem = Refusal(status=status, code=code, title=title, detail=detail, remedy=remedy)
        self.headers: dict[str, str] = {}


class DoesNotOpen(Exception):
    """A job that is kept and cannot be shown: why, and its revision."""

    def __init__(self, error: InputError, revision: int) -> None:
        super().__init__(str(error))
        self.problem = Refusal(
            title="This job does not open",
            status=422,
            code=error.code,
            field=error.field,
            detail=error.reason,
            remedy=error.remedy,
            detail_said=error.said[0],
            remedy_said=error.said[1],
            revision=revision,
        )


def problem_response(problem: Refusal) -> Response:
    """The response for a problem."""
    body = problem.model_dump_json(exclude_none=True)
    return Response(body, problem.status, media_type=MEDIA)


def _input_error(error: InputError, status: int = 422) -> Refusal:
    return Refusal(
        title="This cannot be used",
        status=status,
        code=error.code,
        field=error.field,
        detail=error.reason,
        remedy=error.remedy,
        detail_said=error.said[0],
        remedy_said=error.said[1],
        choices=list(error.choices),
    )


def problem_of(error: Refusable) -> Refusal:
    """Why a change was not taken, as it is told."""
    if isinstance(error, Stale):
        return in_the_trades_words(error)
    if isinstance(error, ValidationError):
        kinds = {k.model.__name__: k.model for k in registry(Job).kinds.values()}
        return _input_error(in_words(error, kinds.get(error.title, Job))[0])
    return _input_error(error, 404 if error.code in MISSING else 422)


def install(app: FastAPI) -> None:
    """Hang the handlers into the application."""

    @app.exception_handler(InputError)
    @app.exception_handler(ValidationError)
    @app.exception_handler(Stale)
    def not_taken(_: Request, error: Refusable) -> Response:
        return problem_response(problem_of(error))

    @app.exception_handler(RequestValidationError)
    def bad_request(request: Request, error: RequestValidationError) -> Response:
        raw: dict[str, Any] = error.errors()[0]
        where = [str(p) for p in raw["loc"] if p != "body"]
        title, unit = _title(request, where)
        return problem_response(_input_error(said(raw, unit).at(title)))

    @app.exception_handler(JobMissing)
    def no_job(_: Request, error: JobMissing) -> Response:
        return problem_response(
            Refusal(
                title="No such job",
                status=404,
                code="job-missing",
                detail="there is no job of this address.",
                remedy="Choose one under Jobs.",
            )
        )

    @app.exception_handler(DoesNotOpen)
    def does_not_open(_: Request, error: DoesNotOpen) -> Response:
        return problem_response(error.problem)

    @app.exception_handler(Refused)
    def refused(_: Request, error: Refused) -> Response:
        response = problem_response(error.problem)
        response.headers.update(error.headers)
        return response

    @app.exception_handler(HTTPException)
    def plain(_: Request, error: HTTPException) -> Response:
        detail, remedy = _HTTP.get(error.status_code, ("this address does not take it.", ""))
        response = problem_response(
            Refusal(
                title=str(error.detail),
                status=error.status_code,
                code="http",
                detail=detail,
                remedy=remedy,
            )
        )
        response.headers.update(error.headers or {})
        return response


_HTTP = {
    400: ("the body cannot be read.", "Send whole JSON."),
    404: ("there is nothing at this address.", "Go back to Jobs."),
    405: ("this address does not take such a call.", "See the service's description."),
}
STATUS = {"disk-full": 507, "busy": 503, "read-only": 503, "disk-fault": 503, "not-opened": 503}
_log = logging.getLogger("evtro")


def refusal_of(error: Exception) -> Refusal:
    """Any error that nobody expected: trouble of the disk or the data file in the trade's words, or
    a fault of the program, which says so."""
    trouble = trouble_of(error)
    if trouble is None and isinstance(error, MemoryError):
        trouble = NO_MEMORY
    if trouble is not None:
        _log.error("%s: %s", trouble.code, error)
        return Refusal(
            title=trouble.title,
            status=STATUS.get(trouble.code, 500),
            code=trouble.code,
            detail=trouble.reason,
            remedy=trouble.remedy,
        )
    _log.error("a fault of the program", exc_info=error)
    return Refusal(
        title="A fault of the program",
        status=500,
        code="fault",
        detail="the program stumbled over this, and kept nothing of it.",
        remedy="Try it another way; the job file, exported, helps to find the fault.",
    )


NO_MEMORY = StorageError(
    "memory-full",
    "Not enough memory",
    "it is too large for this machine.",
    "Close other programs, or cut the file.",
)


def _title(request: Request, where: list[str]) -> tuple[str, Any]:
    """The field's own title, from the body model of the route."""
    route = request.scope.get("route")
    body = getattr(route, "body_field", None)
    kind = getattr(getattr(body, "field_info", None), "annotation", None)
    name = where[0] if where else "Input"
    if isinstance(kind, type) and issubclass(kind, BaseModel) and name in kind.model_fields:
        info = kind.model_fields[name]
        unit = next((m.unit for m in info.metadata if isinstance(m, In)), None)
        return info.title or name.replace("_", " "), unit
    return " ".join(where).replace("_", " ") or "Input", None
