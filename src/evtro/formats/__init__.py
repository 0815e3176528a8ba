"""Open file formats, in and out. Pure text and bytes; nothing is stored here."""
