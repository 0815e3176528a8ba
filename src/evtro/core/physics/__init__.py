"""Formulas of the field: geodesy, magnetism, sun, beams, modulation, channels, propagation. Arrays in,
arrays out; nothing here knows a job.
"""
