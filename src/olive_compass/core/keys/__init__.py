"""Strokes and runs: how they are written, read, and when two are the same press."""
