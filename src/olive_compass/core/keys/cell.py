"""What a cell of a file or a listing holds."""

from msgspec import Struct

from olive_compass.core.keys.triggers import Run


class Cell(Struct, frozen=True):
    """What a cell holds: its triggers, and why the rest cannot be read (``""``: all can)."""

    triggers: tuple[Run, ...]
    problem: str = ""
