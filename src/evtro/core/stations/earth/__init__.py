"""Station Earth: bonding, earthing, lightning, overhead lines."""
