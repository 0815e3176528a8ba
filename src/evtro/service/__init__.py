"""The HTTP service around core and store: access, errors, long work. No rule of the trade."""
