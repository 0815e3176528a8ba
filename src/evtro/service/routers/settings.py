"""The interface's settings, the practice profiles, and whether the program is alive."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel

from evtro import __version__, profiles
from evtro.core.modulation import MODULATIONS, Modulation
from evtro.core.profile import Profile

from ..common import READ, WRITE, AtDesk
from ..schemas import Settings

router = APIRouter(prefix="/api", tags=["settings"])


class Health(BaseModel):
    """The program's name and version."""

    name: str
    version: str


@router.get("/health", response_model=Health)
def health() -> Health:
    """Answers when the program is ready."""
    return Health(name="evtro", version=__version__)


@router.get("/settings", response_model=Settings, responses=READ)
def read_settings(desk: AtDesk) -> Settings:
    """The settings as they are kept."""
    return Settings.model_validate(desk.jobs.settings())


@router.put("/settings", response_model=Settings, responses=WRITE)
def write_settings(desk: AtDesk, body: Settings) -> Settings:
    """Keep the settings."""
    return Settings.model_validate(desk.jobs.set_settings(body.model_dump()))


@router.get("/profiles", response_model=list[Profile], responses=READ)
def list_profiles() -> list[Profile]:
    """The practice profiles with all limits and their origins."""
    return [profiles.load(name) for name in profiles.NAMES]


@router.get("/modulations", response_model=list[Modulation], responses=READ)
def list_modulations() -> list[Modulation]:
    """Modulations with their wanted C/N and its origin."""
    return list(MODULATIONS.values())
