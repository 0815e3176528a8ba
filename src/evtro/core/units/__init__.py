"""Quantities with units, how they are typed and shown. Nothing here knows the trade's rules."""
