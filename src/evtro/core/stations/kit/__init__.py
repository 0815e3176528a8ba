"""Packing list and cut list of a job."""
