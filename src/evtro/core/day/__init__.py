"""A day of several jobs: order of visits, who does what when, weather, packing list.
The tasks of one job are in `core/stations`.
"""
