"""Refusals are checked by their code, not by their wording."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

import pytest

from evtro.core.units.quantities import InputError


@contextmanager
def refused(code: str, about: str = "") -> Iterator[pytest.ExceptionInfo[InputError]]:
    """The block raises InputError with this code, a reason and a remedy. Where several refusals share
    a code, `about` is a word of the right one."""
    with pytest.raises(InputError) as told:
        yield told
    assert told.value.code == code, told.value
    assert told.value.reason
    assert about in str(told.value)
    assert told.value.remedy
