"""Errors as problem details, RFC 9457."""

from __future__ import annotations

from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import Response
from pydantic import BaseModel, ValidationError
from starlette.exceptions import HTTPException

from evtro.core.job import In, Row
from evtro.core.quantities import InputError
from evtro.core.words import in_words, said
from evtro.store.jobs import JobMissing, Stale

from .desk import view_of
from .schemas import Refusal

MEDIA = "application/problem+json"


class Refused(Exception):
    """A request that is turned away with a status and words."""

    def __init__(self, status: int, code: str, title: str, detail: str, remedy: str = "") -> None:
        super().__init__(detail)
        self.problem = Refusal(status=status, code=code, title=title, detail=detail, remedy=remedy)


def problem_response(problem: Refusal) -> Response:
    """The response for a problem."""
    body = problem.model_dump_json(exclude_none=True)
    return Response(body, problem.status, media_type=MEDIA)


def _input_error(error: InputError, status: int = 422) -> Refusal:
    return Refusal(
        title="This cannot be used", status=status, code=error.code, field=error.field,
        detail=error.reason, remedy=error.remedy, choices=list(error.choices),
    )  # fmt: skip


def install(app: FastAPI) -> None:
    """Hang the handlers into the application."""

    @app.exception_handler(InputError)
    def bad_input(_: Request, error: InputError) -> Response:
        status = 404 if error.code in ("row-missing", "part-missing", "cable-missing") else 422
        return problem_response(_input_error(error, status))

    @app.exception_handler(RequestValidationError)
    def bad_request(request: Request, error: RequestValidationError) -> Response:
        raw: dict[str, Any] = error.errors()[0]
        where = [str(p) for p in raw["loc"] if p != "body"]
        title, unit = _title(request, where)
        return problem_response(_input_error(said(raw, unit).at(title)))

    @app.exception_handler(ValidationError)
    def bad_row(_: Request, error: ValidationError) -> Response:
        kind = next((k for k in Row.__subclasses__() if k.__name__ == error.title), Row)
        return problem_response(_input_error(in_words(error, kind)[0]))

    @app.exception_handler(JobMissing)
    def no_job(_: Request, error: JobMissing) -> Response:
        return problem_response(
            Refusal(title="No such job", status=404, code="job-missing",
                    detail="there is no job of this address.", remedy="Choose one under Jobs.")
        )  # fmt: skip

    @app.exception_handler(Stale)
    def stale(request: Request, error: Stale) -> Response:
        return problem_response(
            Refusal(
                title="Changed elsewhere", status=409, code="stale",
                detail="the job was changed in another window since this was read.",
                remedy="The newest state is shown; make the change again.",
                current=view_of(request.app.state.desk, error.kept),
            )
        )  # fmt: skip

    @app.exception_handler(Refused)
    def refused(_: Request, error: Refused) -> Response:
        return problem_response(error.problem)

    @app.exception_handler(HTTPException)
    def plain(_: Request, error: HTTPException) -> Response:
        response = problem_response(
            Refusal(title=str(error.detail), status=error.status_code, code="http")
        )
        response.headers.update(error.headers or {})
        return response


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
