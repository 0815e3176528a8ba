"""Terminals that transmit: beam, exclusion zone, cross-polar null."""
