"""The folder on disk: reading, writing, the lock, the history, taking listings in."""
