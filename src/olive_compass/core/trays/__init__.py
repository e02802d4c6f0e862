"""Trays: which count, how they are edited, what fills itself, what can be said of an item."""
