"""The eight stations in the order of the work, each with its figures, checks and views, and the steps
over all of them. A station may use those before it, never those after it.
"""
