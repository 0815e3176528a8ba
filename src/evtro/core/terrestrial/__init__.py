"""Terrestrial reception worked out for the pages: the way to each transmitter, and all that one
antenna can be asked. Puts stations together as `answers` does, so it stands above them."""

from .detail import ArrayDetail, array_detail
from .lists import expected_lists
from .ways import Paths, paths

__all__ = ["ArrayDetail", "Paths", "array_detail", "expected_lists", "paths"]
