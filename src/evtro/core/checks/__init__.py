"""Checks: what they declare, how they are found, and the one composer that runs them.

The checks themselves stand in their stations; nothing here knows a station.
"""
