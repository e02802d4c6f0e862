"""The letters of a PDF: fonts that are put into the file, and which font has which letter."""

import os
from collections.abc import Iterable
from functools import cache
from typing import Any

#: The fonts that the package of the charts brings along: Latin, Greek, Cyrillic, arrows and key signs.
FILES = {False: "DejaVuSans.ttf", True: "DejaVuSans-Bold.ttf"}

#: The fonts for East Asia that the PDF standard asks every reader to have, where this machine has none.
STANDARD = {"japanese": "HeiseiKakuGo-W5", "korean": "HYGothic-Medium", "chinese": "STSong-Light"}

#: The blocks of letters that those have: the radicals to the ideographs, syllables, wide forms.
EAST_ASIAN = ((0x2E80, 0x9FFF), (0xAC00, 0xD7AF), (0xF900, 0xFAFF), (0xFF00, 0xFFEF))


class Faces:
    """The fonts in which ``texts`` can be written, between them all.

    ``lacking`` are the letters that no font has: they are written as their code points; ``borrowed``
    the name of the standard's font that each reader brings, where some are in that one, or ``""``.
    """

    def __init__(self, texts: Iterable[str]) -> None:
        self._fonts = {bold: _packaged(bold) for bold in FILES}
        letters = {char for text in texts for char in text}
        missing = {char for char in letters if not self._has(char)}
        self._others: dict[str, str] = {}
        self.lacking = self.borrowed = ""
        if missing:
            self._find_others(missing, letters)
        self._widths: dict[tuple[str, bool], float] = {}

    def width(self, text: str, size: float, bold: bool = False) -> float:
        """How wide a text stands in letters of ``size`` points, in points."""
        found = self._widths.get((text, bold))
        if found is None:
            from reportlab.pdfbase.pdfmetrics import stringWidth

            found = sum(stringWidth(part, font, 100) for font, part in self.parts(text, bold)) / 100
            self._widths[text, bold] = found
        return found * size

    def parts(self, text: str, bold: bool = False) -> list[tuple[str, str]]:
        """A text as what is written in one font after another: the name of each, and its letters."""
        found: list[tuple[str, str]] = []
        for char in text:
            if self._has(char):
                font, shown = self._fonts[bold].fontName, char
            elif char in self._others:
                font, shown = self._others[char], char
            else:
                font, shown = self._fonts[bold].fontName, f"[U+{ord(char):04X}]"
            if found and found[-1][0] == font:
                found[-1] = (font, found[-1][1] + shown)
            else:
                found.append((font, shown))
        return found

    def _has(self, char: str) -> bool:
        return ord(char) in self._fonts[False].face.charToGlyph

    def _find_others(self, missing: set[str], letters: set[str]) -> None:
        """Fonts of this machine for the letters that are missing, else those of the standard."""
        from reportlab.pdfbase import pdfmetrics
        from reportlab.pdfbase.cidfonts import UnicodeCIDFont
        from reportlab.pdfbase.ttfonts import TTFError, TTFont

        from olive_compass.drawing.text_metrics import fonts_with

        for path, has in fonts_with(missing):
            name = os.path.splitext(os.path.basename(path))[0]
            try:
                font = TTFont(name, path)
            except (TTFError, OSError):
                continue
            here = {char for char in has & missing if ord(char) in font.face.charToGlyph}
            if here:
                pdfmetrics.registerFont(font)
                self._others.update(dict.fromkeys(here, name))
                missing -= here
        asian = {char for char in missing if any(a <= ord(char) <= b for a, b in EAST_ASIAN)}
        if asian:
            name = self.borrowed = STANDARD[_language(letters)]
            pdfmetrics.registerFont(UnicodeCIDFont(name))
            self._others.update(dict.fromkeys(asian, name))
        self.lacking = "".join(sorted(missing - asian))


def _language(letters: set[str]) -> str:
    """Whose letters they are: the syllables tell, ideographs alone are taken for Chinese."""
    if any("\u3040" <= char <= "\u30ff" for char in letters):
        return "japanese"
    if any("\uac00" <= char <= "\ud7af" for char in letters):
        return "korean"
    return "chinese"


@cache
def _packaged(bold: bool) -> Any:
    """A font of the package, found without loading that package."""
    from importlib.util import find_spec

    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont

    place = find_spec("matplotlib")
    assert place is not None
    assert place.submodule_search_locations is not None
    folder = os.path.join(place.submodule_search_locations[0], "mpl-data", "fonts", "ttf")
    font = TTFont(FILES[bold].removesuffix(".ttf"), os.path.join(folder, FILES[bold]))
    pdfmetrics.registerFont(font)
    return font
