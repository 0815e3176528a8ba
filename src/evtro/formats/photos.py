"""Photographs from outside: looked at before they are opened, then written anew, upright and small, without
the place, the maker and whatever else a camera writes beside the picture."""

from __future__ import annotations

import io
from dataclasses import dataclass

from evtro.core.units.quantities import InputError

from .bounded import held_to, not_empty

MOST_MB = 20
MOST_PIXELS = 60_000_000
LONGEST_PX = 1600
QUALITY = 82
KINDS = ("JPEG", "PNG", "WEBP")


@dataclass(frozen=True)
class Picture:
    """A photograph as it is kept: JPEG, its size [pixels]."""

    data: bytes
    width_px: int
    height_px: int


def read_photo(data: bytes) -> Picture:
    """A photograph as it is kept. Raises InputError for what is none, or is too large."""
    from PIL import Image, ImageOps

    not_empty(data, "Photo", "Take it again.")
    held_to(data, MOST_MB, "Photo", "Take it with fewer pixels.")
    try:
        with Image.open(io.BytesIO(data), formats=KINDS) as found:
            if found.width * found.height > MOST_PIXELS:
                raise InputError(
                    "Photo",
                    f"it has {found.width * found.height / 1e6:.0f} million pixels.",
                    "Take it with fewer.",
                    "file-too-large",
                )
            found.draft("RGB", (LONGEST_PX, LONGEST_PX))
            upright = ImageOps.exif_transpose(found).convert("RGB")
            upright.thumbnail((LONGEST_PX, LONGEST_PX))
            out = io.BytesIO()
            upright.save(out, "JPEG", quality=QUALITY, optimize=True)
            return Picture(out.getvalue(), upright.width, upright.height)
    except InputError:
        raise
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise InputError(
            "Photo",
            "this is no picture that can be read.",
            "Send a JPEG, PNG or WebP picture.",
            "file-wrong",
        ) from error


def is_kept(data: bytes) -> bool:
    """Whether bytes are a photograph as this program keeps it."""
    from PIL import Image

    try:
        with Image.open(io.BytesIO(data), formats=("JPEG",)) as found:
            return max(found.size) <= LONGEST_PX and not found.getexif()
    except (OSError, ValueError, SyntaxError):
        return False
