"""Wire sizes: AWG numbers and cross-sections."""

from __future__ import annotations

import math

SAME_SIZE = 0.033  # a thirtieth: so near, a cross-section is that size
KCMIL_MM2 = 0.506707  # a thousand circular mils; a mil is 0.0254 mm


def awg_to_mm2(awg: float) -> float:
    """Cross-section of an AWG conductor [mm²]; 2/0 is -1. ASTM B258: d = 0.127 mm x 92^((36-n)/39)."""
    diameter_mm: float = 0.127 * 92 ** ((36 - awg) / 39)
    return math.pi / 4 * diameter_mm**2


def mm2_to_awg(area_mm2: float) -> float:
    """AWG number of a cross-section [mm²], the inverse of `awg_to_mm2`; 2/0 is -1."""
    diameter_mm = math.sqrt(4 * area_mm2 / math.pi)
    return float(36 - 39 * math.log(diameter_mm / 0.127, 92))


def wire_sizes() -> list[tuple[str, float]]:
    """All sizes with a name of their own, with their cross-sections [mm²]."""
    awg = [(str(n) if n > 0 else f"{1 - n}/0", awg_to_mm2(n)) for n in range(-3, 41)]
    return [
        *((f"{name} AWG", area) for name, area in awg),
        *((f"{n} kcmil", n * KCMIL_MM2) for n in range(250, 2001, 50)),
    ]


def wire_name(area_mm2: float) -> str | None:
    """`10 AWG`, `2/0 AWG` or `500 kcmil` for a cross-section that is such a size within a
    thirtieth; None for one that is not."""
    if not area_mm2 > 0:
        return None
    name, area = min(wire_sizes(), key=lambda size: abs(math.log(size[1] / area_mm2)))
    return name if abs(area / area_mm2 - 1) <= SAME_SIZE else None
