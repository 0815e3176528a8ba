"""Units of the trade: what people type, wire sizes."""
