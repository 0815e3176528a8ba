"""One dish: settings, feeds, motor, refit, link, terminal."""
