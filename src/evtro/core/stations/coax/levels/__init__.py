"""Figures at outlets and parts against their limits, of one solution or of variants of it."""
