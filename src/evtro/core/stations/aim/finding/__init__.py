"""Finding and peaking a satellite by readings: search plan, peak, identification."""
