"""Portable and vehicle dishes: what must be level, free and tight before they turn."""
