"""Letters that fit: a text in a box, wrapped, made smaller, and at last shortened, by measured widths."""

from collections.abc import Callable, Iterable, Iterator, Sequence
from functools import cache
from typing import Any

from msgspec import Struct

#: What parts two lines, as a part of the size of the letters.
LEADING = 1.16

#: What stands for what was left out.
CUT = "…"


class Fitted(Struct, frozen=True):
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
    from matplotlib.font_manager import FontProperties, findfont
    from matplotlib.ft2font import FT2Font

    # One of our own: that of ``get_font`` is shared with what draws, which sets other sizes on it.
    face = FT2Font(findfont(FontProperties(family=FAMILY, weight="bold" if bold else "normal")))
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
    if lacking:
        from matplotlib.font_manager import get_font

        for path, has in fonts_with(lacking):
            if has & lacking:
                found.append(get_font(path).family_name)
                lacking -= has
    return found, "".join(sorted(lacking))


def fonts_with(letters: Iterable[str]) -> Iterator[tuple[str, set[str]]]:
    """The files of this machine's fonts that have any of ``letters``, with those that they have: the one
    that has most first."""
    from matplotlib.font_manager import findSystemFonts, fontManager, get_font

    wanted = set(letters)
    found = []
    # The list is kept from one time to the next: a font that was installed since is not on it.
    known = {entry.fname for entry in fontManager.ttflist}
    for path in sorted(set(findSystemFonts()) - known):
        try:
            fontManager.addfont(path)
        except (OSError, RuntimeError):
            continue
    for entry in fontManager.ttflist:
        if entry.name.startswith(BOXES_ONLY):
            continue
        try:
            chars = get_font(entry.fname).get_charmap()
        except (OSError, RuntimeError):
            continue
        if has := {char for char in wanted if ord(char) in chars}:
            upright = entry.style == "normal" and entry.weight in (400, "normal", "regular")
            found.append((-len(has), not upright, entry.name, entry.fname, has))
    for *_, path, has in sorted(found, key=lambda each: each[:4]):
        yield path, has


def spelt_out(text: str, lacking: str) -> str:
    """The text with its letters that no font has as their code points: never a row of empty boxes.

    >>> spelt_out("Quay \U000f0000", "\U000f0000")
    'Quay [U+F0000]'
    """
    return "".join(f"[U+{ord(char):04X}]" if char in lacking else char for char in text)


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
        lines = wrapped_words(words, width, size, measure)
        if lines is not None and size * LEADING * len(lines) <= height:
            return Fitted(size, lines)
    return shortened(words, width, height, sizes[-1], measure)


def wrapped_words(
    words: list[str], width: float, size: float, measure: Width
) -> tuple[str, ...] | None:
    """The words in lines of that width, None where a word alone is wider."""
    lines: list[str] = []
    for word in words:
        if measure(word, size) > width:
            return None
        joined = word
        if lines:
            joined = f"{lines[-1]} {word}"
        if lines and measure(joined, size) <= width:
            lines[-1] = joined
        else:
            lines.append(word)
    return tuple(lines)


def shortened(words: list[str], width: float, height: float, size: float, measure: Width) -> Fitted:
    """As much of the words as has room, and the sign that some of it was left out: without room for
    that, nothing, since half a title that looks whole is another title."""
    cut = [_cut(word, width, size, measure) for word in words]
    lines = list(wrapped_words(list(filter(None, cut)), width, size, measure) or ())
    lines = lines[: int(height // (size * LEADING))]
    if " ".join(lines) == " ".join(words) or any(CUT in line for line in lines[-1:]):
        return Fitted(size, tuple(lines))
    while lines:
        if last := _with_sign(lines.pop(), width, size, measure):
            return Fitted(size, (*lines, last))
    return Fitted(size, ())


def _cut(word: str, width: float, size: float, measure: Width) -> str:
    """A word that stands in the width, its end left out where it must."""
    if measure(word, size) <= width:
        return word
    return _with_sign(word, width, size, measure)


def _with_sign(text: str, width: float, size: float, measure: Width) -> str:
    """As much of a text as has room, and the sign that its end was left out; ``""`` where nothing has."""
    while text and measure(text + CUT, size) > width:
        text = text[:-1].rstrip()
    if text:
        return text + CUT
    return ""
