"""Transmitters as the installer keeps them, apart from any job: one list for every house."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
from pydantic import Field, field_validator

from ...job import (
    Carrier,
    In,
    Job,
    Latitude,
    Longitude,
    Name,
    Pattern,
    Row,
    Site,
    Target,
    TerrainProfile,
    edits,
)
from ...job.base import check_pattern
from ...physics.modulation import MODULATIONS
from ...physics.propagation.field import free_field_dbuvm, isotropic_dbuv
from ...units.figures import DIPOLE_DBI
from ...units.quantities import noise_dbuv
from .path import loss_db, pattern_loss_db, sent_toward, way_of

NEAR_KM = 150.0


class Mux(Row):
    """A multiplex that a transmitter sends."""

    name: Name
    frequency_mhz: Annotated[float, In("mhz"), Field(title="Frequency", ge=30, le=3000)]
    bandwidth_mhz: Annotated[float, In("mhz"), Field(title="Bandwidth", ge=0.1, le=30)] = 7.61
    polarisation: Literal["H", "V"] = "H"
    erp_kw: Annotated[float, In("kw"), Field(title="ERP", gt=0, le=2000)]
    modulation: Annotated[str, Field(max_length=40)]
    label: Annotated[str, Field(title="Virtual channel", max_length=40)] = ""
    services: Annotated[tuple[Name, ...], Field(title="Services", max_length=60)] = ()
    network: Annotated[str, Field(title="Single-frequency network", max_length=40)] = ""


class Sender(Row):
    """A transmitter site: where it stands, how high its antenna is above the sea, what it sends."""

    name: Annotated[str, Field(title="Name", min_length=1, max_length=80)]
    latitude_deg: Annotated[Latitude, In("deg"), Field(title="Latitude")]
    longitude_deg: Annotated[Longitude, In("deg"), Field(title="Longitude")]
    height_m: Annotated[float, In("m"), Field(title="Antenna above sea", ge=-430, le=9000)]
    pattern: Annotated[Pattern, Field(title="Horizontal pattern", max_length=361)] = ()
    muxes: Annotated[tuple[Mux, ...], Field(title="Multiplexes", max_length=60)] = ()

    @field_validator("pattern")
    @classmethod
    def _two_bearings(cls, value: Pattern) -> Pattern:
        check_pattern(value)
        return value


def senders_of(job: Job) -> list[Sender]:
    """The transmitters of a job with their multiplexes."""
    return [
        Sender(
            name=t.name or t.id,
            latitude_deg=t.latitude_deg,
            longitude_deg=t.longitude_deg,
            height_m=t.height_m,
            pattern=t.pattern,
            muxes=tuple(
                Mux(
                    name=c.name,
                    frequency_mhz=c.frequency_mhz,
                    bandwidth_mhz=c.bandwidth_mhz,
                    polarisation="V" if c.polarisation == "V" else "H",
                    erp_kw=c.power,
                    modulation=c.modulation,
                    label=c.label,
                    services=c.services,
                    network=c.network,
                )
                for c in job.carriers
                if c.target == t.id and c.power > 0
            ),
        )
        for t in job.targets
        if t.kind == "transmitter" and t.latitude_deg is not None and t.longitude_deg is not None
    ]


def into_job(job: Job, sender: Sender) -> Job:
    """The job with a transmitter of the list: one of the same name is brought up to date, its
    multiplexes of the same frequency and polarisation replaced."""
    old = next(
        (
            t
            for t in job.targets
            if t.kind == "transmitter" and t.name.casefold() == sender.name.casefold()
        ),
        None,
    )
    place = {
        "latitude_deg": sender.latitude_deg,
        "longitude_deg": sender.longitude_deg,
        "height_m": sender.height_m,
        "pattern": sender.pattern,
    }
    if old is None:
        key = edits.new_id(job, "targets")
        job = edits.add_row(
            job,
            "targets",
            Target.model_validate({"id": key, "kind": "transmitter", "name": sender.name, **place}),
        )
    else:
        key = old.id
        if not sender.pattern:
            del place["pattern"]
        job = edits.change_row(job, "targets", key, place)
    for mux in sender.muxes:
        values = mux.model_dump(exclude={"erp_kw"}) | {"power": mux.erp_kw, "target": key}
        there = next(
            (
                c
                for c in job.carriers
                if c.target == key
                and c.polarisation == mux.polarisation
                and abs(c.frequency_mhz - mux.frequency_mhz) < 0.01
            ),
            None,
        )
        if there is not None:
            job = edits.change_row(job, "carriers", there.id, values)
        else:
            row = Carrier.model_validate({"id": edits.new_id(job, "carriers"), **values})
            job = edits.add_row(job, "carriers", row)
    return job


@dataclass(frozen=True)
class NearLine:
    """A transmitter of the list as it would arrive here on a dipole: bearing [deg], distance [km],
    field of its strongest multiplex [dBµV/m], weakest margin [dB], what the forecast rests on."""

    name: str
    bearing_deg: float
    distance_km: float
    horizon_km: float | None
    field_dbuvm: float | None
    margin_db: float | None
    lost_db: float
    in_sight: bool
    source: str
    muxes: int
    services: int
    in_job: bool


def near(
    site: Site,
    senders: list[Sender],
    height_m: float,
    relief: Callable[[Target], TerrainProfile | None],
    in_job: set[str],
) -> list[NearLine]:
    """The transmitters of the list within reach of a place, the strongest first. `relief` gives the
    stored or newly read profile of one, or None for a smooth earth."""
    rows = []
    for n, sender in enumerate(senders):
        target = Target(
            id=f"t{n + 1}",
            kind="transmitter",
            name=sender.name,
            latitude_deg=sender.latitude_deg,
            longitude_deg=sender.longitude_deg,
            height_m=sender.height_m,
            pattern=sender.pattern,
        )
        way = way_of(
            site,
            target,
            relief=relief(target),
            obstructions=(),
            above_ground_m=height_m,
            frequencies_mhz=tuple(m.frequency_mhz for m in sender.muxes),
            horizontal=tuple(m.polarisation == "H" for m in sender.muxes),
        )
        if way is None or way.distance_km > NEAR_KM + (way.horizon_km or 0.0):
            continue
        field = margin = None
        lost = 0.0
        if sender.muxes:
            over = loss_db(way) + pattern_loss_db(sender.pattern, sent_toward(site, target))
            powers = np.array([m.erp_kw for m in sender.muxes])
            waves = np.array([m.frequency_mhz for m in sender.muxes])
            fields = free_field_dbuvm(powers, way.distance_km) - over
            level = isotropic_dbuv(fields, waves) + DIPOLE_DBI
            need = np.array(
                [
                    noise_dbuv(m.bandwidth_mhz) + MODULATIONS[m.modulation].cn_db
                    for m in sender.muxes
                ]
            )
            field, margin = float(fields.max()), float((level - need).min())
            lost = float(over[int(fields.argmax())])
        rows.append(
            NearLine(
                name=sender.name,
                bearing_deg=way.bearing_deg,
                distance_km=way.distance_km,
                horizon_km=way.horizon_km,
                field_dbuvm=field,
                margin_db=margin,
                lost_db=lost,
                in_sight=way.diffraction.in_sight,
                source=way.ground.words,
                muxes=len(sender.muxes),
                services=sum(max(len(m.services), 1) for m in sender.muxes),
                in_job=sender.name.casefold() in in_job,
            )
        )
    return sorted(rows, key=lambda r: -(r.field_dbuvm if r.field_dbuvm is not None else -999.0))
