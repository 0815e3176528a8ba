"""How many made-up cases a test tries: a sample by default, all of them under `make prove`."""

from __future__ import annotations

import os
from typing import Any

import pytest
from hypothesis import settings

WHOLE = os.environ.get("EVTRO_PROVE") == "1"
# A case that only the whole proof tries.
whole_only = pytest.mark.skipif(not WHOLE, reason="a large count: make prove")


def examples(sample: int, whole: int, **more: Any) -> settings:
    """Settings for a property: as many examples as this run is for, drawn by the same seed each time."""
    return settings(max_examples=whole if WHOLE else sample, deadline=None, **more)
