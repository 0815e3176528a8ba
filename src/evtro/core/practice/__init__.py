"""Stand-ins for instruments and sky, on the same physics as the plan. No second model of anything."""
