"""Physical presses: what the hands do, whatever a trigger is called."""

from msgspec import Struct

from olive_compass.core.keys.names import MODIFIER_RANK

#: One key pressed: the modifiers held, in our order, and the key's code. A stroke that the
#: keyboard cannot make keeps its own modifiers, with ``?`` and its key for a code.
Physical = tuple[tuple[str, ...], str]

#: A run as the keyboard meets it; cut short it is the beginning of a run.
Press = tuple[Physical, ...]


def begins_with(press: Press, beginning: Press) -> bool:
    """Whether a press is the other one, or goes on from it."""
    return press[: len(beginning)] == beginning


class Made(Struct, frozen=True, kw_only=True):
    """How a keyboard makes a stroke: its physical presses, the nearest first, and remarks.

    ``missing`` says why it cannot be made (``""``: it can); ``level`` is the level of the key
    at which the label stands; ``dead`` that the key waits for a letter; ``borrowed`` that the
    label was looked up on a Latin board, for this layout has none.
    """

    presses: tuple[Physical, ...]
    missing: str = ""
    level: int = 0
    dead: bool = False
    borrowed: bool = False


def ordered(held: "list[str] | tuple[str, ...]") -> tuple[str, ...]:
    """Modifiers in our order, each once."""
    if held:
        return tuple(sorted(set(held), key=MODIFIER_RANK.__getitem__))
    return ()


def physical_text(physical: Physical) -> str:
    """A physical press in words: ``Ctrl+Shift+@Equal``."""
    held, code = physical
    if code.startswith("?"):
        return "+".join((*held, code[1:]))
    if code.startswith("hold:") and code[5:6].isalpha():
        return "+".join((*held, f"hold:@{code[5:]}"))
    # What is no key of a keyboard has its kind and a colon in its name.
    return "+".join((*held, code if ":" in code[1:] else "@" + code.lstrip("@")))
