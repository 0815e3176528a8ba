"""Computation: the job as a value and everything worked out from it. No files except data
shipped in libraries, no SQL, no HTTP, no clock.
"""
