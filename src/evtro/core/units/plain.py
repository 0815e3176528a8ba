"""Text that every format can carry: what is no character of a name is refused, or taken out of old
data."""

from __future__ import annotations

import re
from typing import Any

from .quantities import InputError

# Controls (but tab and line ends), halves of surrogate pairs, and the code points that XML and
# Unicode keep for no character at all. Reference: XML 1.0, production 2 (Char); Unicode 23.7.
_NEVER = "\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\ud800-\udfff\ufdd0-\ufdef\ufffe\uffff"
_BAD_NOTE = re.compile(f"[{_NEVER}]")
_BAD_LINE = re.compile(f"[{_NEVER}\t\n\r\u2028\u2029]")


def check_text(value: str, lines: bool = False) -> str:
    """The text, line ends as \\n. Raises InputError for a character that is none; `lines` lets line
    ends and tabs through."""
    found = (_BAD_NOTE if lines else _BAD_LINE).search(value)
    if found is not None:
        code = ord(found.group())
        raise InputError(
            "",
            f"it holds the control character U+{code:04X} at place {found.start() + 1}.",
            "Type it again without; a copied text may carry one unseen.",
            "control-character",
        )
    return value.replace("\r\n", "\n").replace("\r", "\n") if lines else value


NOTES = frozenset({"note", "remarks", "consent_note"})  # fields that hold several lines


def cleaned(value: Any, lines: bool = False) -> Any:
    """Old data with a space in place of every character that is none; lists and objects throughout."""
    if isinstance(value, str):
        return (_BAD_NOTE if lines else _BAD_LINE).sub(" ", value)
    if isinstance(value, list):
        return [cleaned(v, lines) for v in value]
    if isinstance(value, dict):
        return {k: cleaned(v, k in NOTES) for k, v in value.items()}
    return value
