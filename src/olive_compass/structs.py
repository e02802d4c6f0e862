"""What is done with records: copies with other values, and records made of plain values and the other way round.

``msgspec`` (0.20 to 0.23) ends the process with a fault where Ctrl-C comes while it learns a type. So Ctrl-C waits for the moment that these take.
"""

import signal
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from typing import TYPE_CHECKING, Any, Protocol, TypeVar

import msgspec

# ``msgspec`` gives no types to its ``replace``. A type checker reads ``copy.replace`` here, which knows the fields of the
# record, and the names and types that they take.
if TYPE_CHECKING:
    from copy import replace
else:
    from msgspec.structs import replace

__all__ = ["convert", "decode", "in_place", "replace", "to_builtins", "uninterrupted"]

Kind = TypeVar("Kind")


class HasId(Protocol):
    """A record that has an id."""

    @property
    def id(self) -> str: ...


Named = TypeVar("Named", bound=HasId)


def convert(
    value: Any, kind: type[Kind], from_attributes: bool = False, strict: bool = True
) -> Kind:
    """A record of ``kind`` made of plain values, or of the attributes of another record; without ``strict`` a
    number may be written as a text.

    Raises ``msgspec.ValidationError`` where they do not fit.
    """
    with uninterrupted():
        return msgspec.convert(value, kind, from_attributes=from_attributes, strict=strict)


def decode(text: bytes, kind: type[Kind]) -> Kind:
    """What JSON text has, as ``kind``. Raises ``msgspec.DecodeError`` where it is no JSON or does not fit."""
    with uninterrupted():
        return msgspec.json.decode(text, type=kind)


def encode(value: Any) -> bytes:
    """Plain values, lists and records as JSON text."""
    with uninterrupted():
        return msgspec.json.encode(value)


def to_builtins(value: Any, others: Callable[[Any], Any] | None = None) -> Any:
    """Records as dicts, lists and texts; ``others`` makes a plain value of what is none of these."""
    with uninterrupted():
        return msgspec.to_builtins(value, enc_hook=others)


def in_place(records: Iterable[Named], new: Named) -> list[Named]:
    """The records with ``new`` in the place of the one with its id."""
    return [new if each.id == new.id else each for each in records]


@contextmanager
def uninterrupted() -> Iterator[None]:
    """Holds Ctrl-C back; one that comes within takes effect at the end."""
    if not hasattr(signal, "pthread_sigmask"):
        yield
        return
    before = signal.pthread_sigmask(signal.SIG_BLOCK, ())
    try:
        signal.pthread_sigmask(signal.SIG_BLOCK, {signal.SIGINT})
        yield
    finally:
        signal.pthread_sigmask(signal.SIG_SETMASK, before)
