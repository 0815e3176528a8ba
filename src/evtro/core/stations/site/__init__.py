"""Station Site: position, building, skyline. What can be seen from there is station Sky."""
