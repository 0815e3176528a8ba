"""Station Mast: wind load, tube, mount, guys. Bonding is station Earth."""
