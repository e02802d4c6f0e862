"""The verbs of ``tray``."""
