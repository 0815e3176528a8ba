"""Wire sizes: AWG numbers and cross-sections."""

from __future__ import annotations

import math

KCMIL_MM2 = 0.506707  # a thousand circular mils; a mil is 0.0254 mm


def awg_to_mm2(awg: float) -> float:
    """Cross-section of an AWG conductor [mm²]; 2/0 is -1. ASTM B258: d = 0.127 mm x 92^((36-n)/39)."""
    diameter_mm: float = 0.127 * 92 ** ((36 - awg) / 39)
    return math.pi / 4 * diameter_mm**2


def mm2_to_awg(area_mm2: float) -> float:
    """AWG number of a cross-section [mm²], the inverse of `awg_to_mm2`; 2/0 is -1."""
    diameter_mm = math.sqrt(4 * area_mm2 / math.pi)
    return float(36 - 39 * math.log(diameter_mm / 0.127, 92))


def wire_name(area_mm2: float) -> str | None:
    """`10 AWG`, `2/0 AWG` or `500 kcmil` for a cross-section that is such a size within a
    thirtieth; None for one that is not."""
    if not area_mm2 > 0:
        return None
    number = round(mm2_to_awg(area_mm2))
    if -3 <= number <= 40:
        if abs(awg_to_mm2(number) / area_mm2 - 1) > 0.033:
            return None
        return f"{number} AWG" if number > 0 else f"{1 - number}/0 AWG"
    thousand = area_mm2 / KCMIL_MM2
    near = round(thousand / 50) * 50
    return f"{near} kcmil" if near >= 250 and abs(near / thousand - 1) <= 0.033 else None
