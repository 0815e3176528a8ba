"""Changes that fix a problem, each tried on the whole network before it is offered."""
