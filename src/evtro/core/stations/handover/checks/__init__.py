"""What stands against a handover."""
