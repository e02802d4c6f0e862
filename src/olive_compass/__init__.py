"""Olive Compass: shortcut schemes for every application on your desk."""

__version__ = "0.1.0"

#: What is typed to call it.
PROGRAM = "olive-compass"
