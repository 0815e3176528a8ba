"""Evtro: television reception planned, computed and proven, from the sky to the outlet."""

__version__ = "0.1.0"
