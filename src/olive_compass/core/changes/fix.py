"""A safe repair as a value: findings propose it, ``repair`` makes it."""

from olive_compass.values import Value


class Fix(Value):
    """A safe repair: let a trigger of a command in a scheme count in ``modes`` only."""

    scheme: str
    command: str
    key: str
    modes: tuple[str, ...]
