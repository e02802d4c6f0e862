"""Letters that fit: a text in a box, wrapped, made smaller, and at last shortened, by measured widths."""

from collections.abc import Callable, Iterable, Sequence
from functools import cache
from typing import Any, NamedTuple

#: What parts two lines, as a part of the size of the letters.
LEADING = 1.16

#: What stands for what was left out.
CUT = "…"


class Fitted(NamedTuple):
    """A text in a box: the size of its letters in points, and its lines."""

    size: float
    lines: tuple[str, ...]

    @property
    def height(self) -> float:
        """How high the lines stand together, in points."""
        return self.size * LEADING * len(self.lines)


Width = Callable[[str, float], float]


#: How wide a letter stands that the font does not have, in its size: those of East Asia fill a square.
SQUARE = 1.05

FAMILY = "DejaVu Sans"

#: A font of this name has a box for every letter, and no letter.
BOXES_ONLY = "Last Resort"


@cache
def _face(bold: bool) -> Any:
    from matplotlib.font_manager import FontProperties, findfont, get_font

    face = get_font(findfont(FontProperties(family=FAMILY, weight="bold" if bold else "normal")))
    face.set_size(100, 72)
    return face


@cache
def _has(bold: bool) -> frozenset[int]:
    return frozenset(_face(bold).get_charmap())


@cache
def _advance(char: str, bold: bool) -> float:
    if ord(char) not in _has(bold):
        return SQUARE
    from matplotlib.ft2font import LoadFlags

    glyph = _face(bold).load_char(ord(char), flags=LoadFlags.NO_HINTING)
    return float(glyph.linearHoriAdvance) / 65536 / 100


def text_width(text: str, size: float) -> float:
    """How wide a text stands in letters of ``size`` points, in points."""
    return sum(_advance(char, False) for char in text) * size


def bold_width(text: str, size: float) -> float:
    """The same in bold letters."""
    return sum(_advance(char, True) for char in text) * size


def families(texts: Iterable[str]) -> tuple[list[str], str]:
    """The fonts of this machine that have the letters of ``texts`` between them, the usual one first;
    and the letters that none of them has."""
    lacking = {char for text in texts for char in text if ord(char) not in _has(False)}
    found = [FAMILY]
    if not lacking:
        return found, ""
    from matplotlib.font_manager import fontManager, get_font

    for entry in sorted(fontManager.ttflist, key=lambda each: (each.name, each.fname)):
        if not lacking:
            break
        if entry.name.startswith(BOXES_ONLY):
            continue
        try:
            chars = get_font(entry.fname).get_charmap()
        except (OSError, RuntimeError):
            continue
        has = {char for char in lacking if ord(char) in chars}
        if has and entry.name not in found:
            found.append(entry.name)
            lacking -= has
    return found, "".join(sorted(lacking))


def named_letters(letters: str, most: int = 6) -> str:
    """Letters as a sentence names them: themselves, or their code points where they cannot be shown."""
    said = [char if char.isprintable() else f"U+{ord(char):04X}" for char in letters[:most]]
    return " ".join(said) + (f" and {len(letters) - most} more" if len(letters) > most else "")


def fit(
    text: str,
    width: float,
    height: float,
    sizes: Sequence[float] = (7, 6.5, 6, 5.5, 5, 4.5),
    measure: Width = text_width,
) -> Fitted:
    """``text`` in a box of these points, in the largest of ``sizes`` in which all of it stands; where none
    does, shortened in the smallest. No lines where not even one letter has room."""
    words = text.split()
    for size in sizes:
        lines = _wrapped(words, width, size, measure)
        if lines is not None and size * LEADING * len(lines) <= height:
            return Fitted(size, lines)
    return _shortened(words, width, height, sizes[-1], measure)


def _wrapped(words: list[str], width: float, size: float, measure: Width) -> tuple[str, ...] | None:
    """The words in lines of that width, None where a word alone is wider."""
    lines: list[str] = []
    for word in words:
        if measure(word, size) > width:
            return None
        joined = f"{lines[-1]} {word}" if lines else word
        if lines and measure(joined, size) <= width:
            lines[-1] = joined
        else:
            lines.append(word)
    return tuple(lines)


def _shortened(
    words: list[str], width: float, height: float, size: float, measure: Width
) -> Fitted:
    """As much of the words as has room, and the sign that some of it was left out: without room for
    that, nothing, since half a title that looks whole is another title."""
    cut = [_cut(word, width, size, measure) for word in words]
    lines = list(_wrapped(list(filter(None, cut)), width, size, measure) or ())
    lines = lines[: int(height // (size * LEADING))]
    if " ".join(lines) == " ".join(words) or any(CUT in line for line in lines[-1:]):
        return Fitted(size, tuple(lines))
    while lines:
        last = lines.pop()
        while last and measure(last + CUT, size) > width:
            last = last[:-1].rstrip()
        if last:
            return Fitted(size, (*lines, last + CUT))
    return Fitted(size, ())


def _cut(word: str, width: float, size: float, measure: Width) -> str:
    """A word that stands in the width, its end left out where it must."""
    if measure(word, size) <= width:
        return word
    while word and measure(word + CUT, size) > width:
        word = word[:-1]
    return word + CUT if word else ""
