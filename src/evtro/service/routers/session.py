"""The way in over the network: a passphrase for a session."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Request
from fastapi.responses import Response
from pydantic import Field

from ..common import WRITE
from ..errors import Refused
from ..passphrase import COOKIE, SESSION_S, Passphrase, TooManyTries
from ..schemas import Closed

router = APIRouter(prefix="/api/session", tags=["session"])


class Spoken(Closed):
    """The passphrase as it was typed."""

    passphrase: Annotated[str, Field(max_length=400)]


def _passphrase(request: Request) -> Passphrase:
    found: Passphrase | None = request.app.state.passphrase
    if found is None:
        raise Refused(404, "address", "No such address", "this program is not open to the network.")
    return found


@router.post("", status_code=204, response_class=Response, responses=WRITE)
def come_in(request: Request, body: Spoken) -> Response:
    """Open a session; the browser keeps it in a cookie that no script can read."""
    address = request.client.host if request.client else ""
    try:
        token = _passphrase(request).open(body.passphrase, address)
    except TooManyTries as error:
        minutes = max(1, round(error.seconds / 60))
        refused = Refused(
            status=429,
            code="too-many-tries",
            title="Too many tries",
            detail="the passphrase was wrong too often.",
            remedy=f"Try again in {minutes} min.",
        )
        refused.headers["Retry-After"] = str(error.seconds)
        raise refused from error
    if token is None:
        raise Refused(
            status=401,
            code="passphrase-wrong",
            title="Passphrase",
            detail="this is not the passphrase.",
            remedy="It was set where Evtro runs; capitals and blanks count.",
        )
    response = Response(status_code=204)
    response.set_cookie(
        COOKIE, token, max_age=SESSION_S, path="/", secure=True, httponly=True, samesite="strict"
    )
    return response


@router.delete("", status_code=204, response_class=Response, responses=WRITE)
def leave(request: Request) -> Response:
    """End the session on this device."""
    _passphrase(request)
    response = Response(status_code=204)
    response.delete_cookie(COOKIE, path="/", secure=True, httponly=True, samesite="strict")
    return response
