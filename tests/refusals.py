"""A refusal is known by its code; its words are free to change."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

import pytest

from evtro.core.units.quantities import InputError


@contextmanager
def refused(code: str) -> Iterator[pytest.ExceptionInfo[InputError]]:
    """What stands in it is refused with this code, and the reason and the remedy are said."""
    with pytest.raises(InputError) as told:
        yield told
    assert told.value.code == code, told.value
    assert told.value.reason
    assert told.value.remedy
