"""What was done, counted and shown."""
