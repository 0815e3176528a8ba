"""Pictures for tests: drawn, never taken."""

from __future__ import annotations

import io

from PIL import Image, ImageDraw

# The place that a camera writes beside a picture.
GPS = {1: "N", 2: (47.0, 12.0, 50.4), 3: "E", 4: (8.0, 6.0, 57.6)}


def drawn(width: int = 2000, height: int = 1500, kind: str = "JPEG", turned: bool = False) -> bytes:
    """A drawn mast as a camera would send it, with its maker and its place; `turned` lies on its side."""
    picture = Image.new("RGB", (width, height), "#DDE8EA")
    draw = ImageDraw.Draw(picture)
    draw.rectangle((width // 2 - 20, height // 4, width // 2 + 20, height), fill="#5A6764")
    exif = Image.Exif()
    exif[0x010F] = "a camera"
    exif[0x0112] = 6 if turned else 1
    exif.get_ifd(0x8825).update(GPS)
    out = io.BytesIO()
    picture.save(out, kind, exif=exif)
    return out.getvalue()
