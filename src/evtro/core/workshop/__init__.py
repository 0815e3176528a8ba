"""The workshop: data of parts, cables and antennas that the installer's own sheets give, in place of the
generic ones or beside them."""

from .lines import SheetCurve, SheetLine, curves_of, lines_of, retyped
from .sheets import SHELVES, Data, OwnSheet, Shelf, copied, data_of, shop_with

__all__ = [
    "SHELVES",
    "Data",
    "OwnSheet",
    "SheetCurve",
    "SheetLine",
    "Shelf",
    "copied",
    "curves_of",
    "data_of",
    "lines_of",
    "retyped",
    "shop_with",
]
