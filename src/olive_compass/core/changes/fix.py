"""A safe repair as a value: findings propose it, ``repair`` makes it."""

from msgspec import Struct


class Fix(Struct, frozen=True, kw_only=True):
    """A safe repair: let a trigger of a command in a scheme count in ``modes`` only."""

    scheme: str
    command: str
    key: str
    modes: tuple[str, ...]
