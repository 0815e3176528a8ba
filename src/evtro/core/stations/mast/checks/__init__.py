"""What mast and mount do not bear, each check on the figures of the mast."""
