"""Layouts: what each key types, plain, with Shift, with AltGr, and with both."""

from functools import cache, cached_property

from msgspec import Struct

from olive_compass.core.keys.letters import small

#: Modifiers that lead to each level of a key.
LEVELS: tuple[tuple[str, ...], ...] = ((), ("Shift",), ("AltGr",), ("AltGr", "Shift"))

DEAD = "dead:"


class Typed(Struct, frozen=True):
    """A way to type a character: the key's code, the level (0 to 3), and whether it is dead."""

    code: str
    level: int
    dead: bool


class Layout:
    """A layout: its name and title, and for each code the texts of up to four levels.

    A text is one character, ``""`` where the key types nothing, or ``dead:`` and a character
    where it waits for a letter to put it on.
    """

    def __init__(self, name: str, title: str, keys: dict[str, tuple[str, ...]]) -> None:
        self.name = name
        self.title = title
        self.keys = keys

    @cached_property
    def ways(self) -> dict[str, list[Typed]]:
        """Every way to type each character, the easiest level first; letters in lower case."""
        found: dict[str, list[Typed]] = {}
        for level in range(len(LEVELS)):
            for code, texts in self.keys.items():
                text = ""
                if level < len(texts):
                    text = texts[level]
                if not text or code.startswith("Numpad"):
                    continue
                dead = text.startswith(DEAD)
                char = text
                if dead:
                    char = text[len(DEAD) :]
                way = Typed(code, level, dead)
                ways = found.setdefault(small(char), [])
                if all(other.code != code for other in ways):
                    ways.append(way)
        for ways in found.values():
            # A key that types the sign at once is nearer than one that waits for a letter.
            ways.sort(key=lambda way: (way.dead, way.level))
        return found

    @cached_property
    def is_latin(self) -> bool:
        """Whether it types the letters of the Latin alphabet."""
        return "a" in self.ways and "e" in self.ways

    def typed(self, code: str, level: int) -> str:
        """What the key types at ``level``, ``""`` for nothing; dead keys give their sign."""
        texts = self.keys.get(code, ())
        if level < len(texts):
            return texts[level].removeprefix(DEAD)
        return ""


def layout_from_lines(name: str, title: str, lines: str) -> Layout:
    """The layout that ``lines`` describe: a line a key, its code and what it types.

    ``none`` is nothing. Raises ``ValueError`` with a sentence and the line's number.

    >>> layout_from_lines("tiny", "Tiny", "KeyA a A").typed("KeyA", 1)
    'A'
    """
    keys: dict[str, tuple[str, ...]] = {}
    for number, line in enumerate(filter(None, map(str.strip, lines.splitlines())), 1):
        code, *texts = line.split(" ")
        if len(texts) > len(LEVELS):
            raise ValueError(f"line {number} of the keys: {code} has more than four levels")
        keys[code] = tuple("" if text == "none" else text for text in texts)
    return Layout(name, title, keys)


@cache
def latin_places() -> dict[str, tuple[str, int]]:
    """The key of each Latin letter and ASCII sign on a US board, and its level, for other scripts.

    >>> latin_places()["a"], latin_places()["?"]
    (('KeyA', 0), ('Slash', 1))
    """
    codes = [
        "Digit1",
        "Digit2",
        "Digit3",
        "Digit4",
        "Digit5",
        "Digit6",
        "Digit7",
        "Digit8",
        "Digit9",
        "Digit0",
        "Minus",
        "Equal",
        "BracketLeft",
        "BracketRight",
        "Backslash",
        "Semicolon",
        "Quote",
        "Backquote",
        "Comma",
        "Period",
        "Slash",
    ]
    places = {chr(n).lower(): (f"Key{chr(n)}", 0) for n in range(ord("A"), ord("Z") + 1)}
    for level, chars in enumerate(("1234567890-=[]\\;'`,./", '!@#$%^&*()_+{}|:"~<>?')):
        places |= {char: (code, level) for char, code in zip(chars, codes, strict=True)}
    return places
