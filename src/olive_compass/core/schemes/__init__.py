"""Schemes: decisions, layers, what a press does, conflicts and findings."""
