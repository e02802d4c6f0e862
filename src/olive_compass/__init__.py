"""Olive Compass: shortcut schemes for every application on your desk."""

__version__ = "0.1.0"
