"""What an installer would reach for, one generator for each kind of change.

Nothing here is solved or compared: that is the engine's work.
"""
