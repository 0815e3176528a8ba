"""The practice profiles, and whether the program is alive and what it has to say."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel

from evtro import __version__, profiles
from evtro.core.job.profile import Profile
from evtro.core.physics.modulation import MODULATIONS, Modulation

from ..common import READ, AtDesk

router = APIRouter(prefix="/api", tags=["settings"])


class Health(BaseModel):
    """The program's name and version, and what it found at its start."""

    name: str
    version: str
    notices: list[str]


@router.get("/health", response_model=Health)
def health(desk: AtDesk) -> Health:
    """Answers when the program is ready."""
    return Health(name="evtro", version=__version__, notices=desk.notices)


@router.get("/profiles", response_model=list[Profile], responses=READ)
def list_profiles() -> list[Profile]:
    """The practice profiles with all limits and their origins."""
    return [profiles.load(name) for name in profiles.NAMES]


@router.get("/modulations", response_model=list[Modulation], responses=READ)
def list_modulations() -> list[Modulation]:
    """Modulations with their wanted C/N and its origin."""
    return list(MODULATIONS.values())
