"""Station Readings: expected and measured figures side by side."""
