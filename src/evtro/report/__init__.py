"""Paper: job sheet, network print, labels as PDF."""
