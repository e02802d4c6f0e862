"""What all reports are: records that are JSON as they stand."""

from msgspec import Struct


class Report(Struct, frozen=True, kw_only=True, rename="kebab"):
    """An answer, or a part of one, in the shape of its JSON: ``left_with`` is ``left-with`` there."""
