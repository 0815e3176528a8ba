"""What a class of parts has where no sheet says it; common practice, no source."""

from __future__ import annotations

Points = tuple[tuple[float, float], ...]

# Return loss over frequency, pairs of MHz and dB.
_GOOD: Points = ((47.0, 18.0), (862.0, 15.0), (2150.0, 12.0))
_USUAL: Points = ((47.0, 14.0), (862.0, 12.0), (2150.0, 10.0))
_POOR: Points = ((47.0, 12.0), (862.0, 11.0), (2150.0, 9.0))
_MATCH: dict[str, Points] = {
    "antenna": _POOR, "lnb": _POOR, "arrester": _GOOD, "grounding_block": _GOOD, "attenuator": _GOOD,
    "terminator": ((47.0, 20.0), (2150.0, 18.0)), "filter": _POOR, "plate": _POOR,
}  # fmt: skip
# Isolation between outputs, pairs of MHz and dB.
_BETWEEN: dict[str, Points] = {
    "splitter": ((47.0, 25.0), (862.0, 20.0), (2150.0, 18.0)),
    "tap": ((47.0, 30.0), (862.0, 26.0), (2150.0, 22.0)),
    "multiswitch": ((47.0, 28.0), (862.0, 28.0), (950.0, 30.0), (2150.0, 26.0)),
    "plate": ((47.0, 24.0), (862.0, 22.0), (2150.0, 20.0)),
}
# Isolation of a switch between its inputs.
TYPICAL_BETWEEN_INPUTS: Points = ((47.0, 35.0), (950.0, 30.0), (2150.0, 25.0))


def typical_match(draws_as: str) -> Points:
    """Return loss of a class [dB over MHz]."""
    return _MATCH.get(draws_as, _USUAL)


def typical_isolation(draws_as: str) -> Points:
    """Isolation between two outputs of a class [dB over MHz]."""
    return _BETWEEN.get(draws_as, ((47.0, 20.0),))
