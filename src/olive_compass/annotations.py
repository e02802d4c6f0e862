"""What annotations need of ``typing``, without loading it at run time.

A type checker sees the standard library's own names. A command that runs needs none of them, and
loading ``typing`` takes a third of what starting the interpreter takes.
"""

__all__ = ["TYPE_CHECKING", "Any", "BinaryIO", "NoReturn", "TextIO", "cast"]

# Type checkers take a constant of this name for true.
TYPE_CHECKING = False

if TYPE_CHECKING:
    from typing import Any, BinaryIO, NoReturn, TextIO, cast
else:
    Any = BinaryIO = NoReturn = TextIO = object

    def cast(_type, value):
        """``value`` as it is: only a type checker takes it for another type."""
        return value
