"""What a site lacks to begin, and for what its position is not good enough."""
