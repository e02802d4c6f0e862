"""Importing listings: reading them, asking, and saying what became of each row."""
