"""Station Sky: what can be received from here, and what obstructs it. Pointing is station Aim."""
