"""The error of a trigger that cannot be read."""

from olive_compass.core.wording import clause


class TriggerError(ValueError):
    """A spelling that cannot be read.

    ``text[start:end]`` is the piece that is wrong, ``reason`` says why in one sentence
    without a full stop, ``nearest`` is the nearest spelling that can be read, or ``""``.
    """

    def __init__(self, text: str, start: int, end: int, reason: str, nearest: str = "") -> None:
        super().__init__(text, start, end, reason, nearest)
        self.text = text
        self.start = start
        self.end = end
        self.reason = reason
        self.nearest = nearest

    def __str__(self) -> str:
        hint = clause("; did you mean {}?", self.nearest)
        return f"cannot read the key “{self.text}”: {self.reason}{hint}"
