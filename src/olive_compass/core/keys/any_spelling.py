"""Reads a trigger as anybody may write it; ``reading`` asks it for what is not in our own writing."""

import unicodedata
from collections.abc import Callable
from functools import lru_cache

from olive_compass.core.keys.kinds import UnreadableError, named, prefixed
from olive_compass.core.keys.names import MODIFIER_RANK, MODIFIER_SIGNS
from olive_compass.core.keys.spellings import KEY_SPELLINGS, MODIFIER_SPELLINGS
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Run, Stroke, stroke
from olive_compass.core.keys.words import THEN_WORDS
from olive_compass.core.wording import clause
from olive_compass.near import nearest

#: The signs that a caret for Ctrl may stand before.
_SIGNS = frozenset(MODIFIER_SIGNS)

#: The names that a misspelt one may have been meant as: of one letter everything is near.
_LONGER_MODIFIERS = tuple(name for name in MODIFIER_SPELLINGS if len(name) > 1)
_LONGER_KEYS = tuple(name for name in KEY_SPELLINGS if len(name) > 1)

#: How alike a misspelt name and the one that was meant must be: see ``near.nearest``.
_ALIKE = 0.6


def read_spelling(text: str, typed: int, read: Callable[[str, int], Run]) -> Run:
    """What a text spells, with brackets around its keys or without. Raises ``TriggerError``."""
    try:
        return Reader(text, typed, read).run()
    except TriggerError:
        # Loaded here: few texts have any.
        from olive_compass.core.keys.keycaps import without_brackets

        plain = without_brackets(text)
        if plain == text:
            raise
    return read(plain, typed)


class Reader:
    """Reads one text: see ``read_trigger``."""

    def __init__(self, text: str, typed: int, read: Callable[[str, int], Run]) -> None:
        #: Reads what is proposed in the place of what cannot be read.
        self.read = read
        self.whole = text
        self.text = text
        self.at = 0
        self.typed = typed

    def run(self) -> Run:
        if not self.text.strip():
            raise TriggerError(self.whole, 0, len(self.whole), "it is empty")
        for n, char in enumerate(self.text):
            if (
                unicodedata.category(char) in ("Cc", "Cf", "Cs", "Cn", "Co")
                and char not in "\t\n\r"
            ):
                raise TriggerError(self.whole, n, n + 1, "it holds a control character")
        strokes: list[Stroke] = []
        self._skip_spaces()
        while self.at < len(self.text):
            if strokes and (word := self._word_here()) in THEN_WORDS:
                self.at += len(word)
                self._skip_spaces()
                if self.at >= len(self.text):
                    says = f"nothing follows “{word}”"
                    raise self._error(self.at - len(word), self.at, says)
                continue
            strokes.extend(self._strokes())
            self._skip_spaces()
        return Run(tuple(strokes))

    def _strokes(self) -> list[Stroke]:
        """One stroke; or several, where a typed run is written without spaces."""
        held: list[str] = []
        start = self.at
        while (name := self._modifier()) is not None:
            if name in held:
                raise self._error(start, self.at, f"{name} is named twice")
            held.append(name)
        if self.at >= len(self.text):
            raise self._error(start, self.at, "no key follows the modifiers")
        return self._key(held)

    def _modifier(self) -> str | None:
        """The modifier that begins here with what joins it to the rest, or None."""
        text, at = self.text, self.at
        if at >= len(text):
            return None
        if (name := MODIFIER_SIGNS.get(text[at])) is not None:
            self.at = self._after_joiner(at + 1, signed=True)
            return name
        # A caret right before a key is how many write Ctrl; alone it is a key.
        if text[at] == "^" and _begins_key(text[at + 1 : at + 2]):
            self.at = at + 1
            return "Ctrl"
        end = at
        while end < len(text) and text[end].isalpha():
            end += 1
        name = MODIFIER_SPELLINGS.get(text[at:end].lower())
        if name is None:
            return None
        if name == "Alt" and text[end : end + 4].lower() in (" gr+", "-gr+", " gr ", "-gr-"):
            name, end = "AltGr", end + 3
        after = self._after_joiner(end, signed=False)
        if after == end and end < len(text):
            return None
        self.at = after
        return name

    def _after_joiner(self, at: int, signed: bool) -> int:
        """Where the rest begins after a modifier that ends at ``at``."""
        text = self.text
        spaced = self._past_blanks(at)
        # “Ctrl & C”; right after a modifier, or at the end, the sign is the key.
        is_and = spaced > at and text[spaced : spaced + 2] == "& "
        if not is_and and text[spaced : spaced + 1] not in ("+", "-"):
            return spaced
        after = self._past_blanks(spaced + 1)
        # A sign at the end of a stroke is the key itself: "Ctrl -", "⌘+", "⌘+ ⌘A".
        if signed and spaced == at and after > spaced + 1:
            return spaced
        is_end = after == len(text)
        if is_end and (signed or spaced > at):
            return spaced
        return after

    def _past_blanks(self, at: int) -> int:
        """Where the text goes on after blanks."""
        return len(self.text) - len(self.text[at:].lstrip())

    def _key(self, held: list[str]) -> list[Stroke]:
        text, at = self.text, self.at
        ends = self._chunk_ends(at)
        if known := self._known(at, ends):
            return [stroke(known, *held)]
        chunk, end = text[at : ends[0]], ends[0]
        found = self._of_one_key(chunk, at, held)
        # Letters that are typed one after another, where an application takes such sequences.
        are_letters = chunk.isalnum() and not held
        if not found and are_letters and len(chunk) <= self.typed:
            found = [stroke(_char_key(char)) for char in chunk]
        if found:
            self.at = end
            return found
        reason = f"“{chunk}” is no key"
        if are_letters and len(chunk) <= 4:
            most = clause(" longer than {} letters", self.typed)
            reason += f", and this application takes no typed sequences{most}"
            raise TriggerError(self.whole, at, end, reason, " ".join(chunk.upper()))
        raise self._error(at, end, reason, _nearest_name)

    def _of_one_key(self, chunk: str, at: int, held: list[str]) -> list[Stroke]:
        """The stroke of a chunk that is a character, a key of some kind, or a key's name in other words; none where
        it is none of these."""
        if len(unicodedata.normalize("NFC", chunk)) == 1:
            return [stroke(_char_key(chunk), *held)]
        kind = prefixed(chunk)
        if kind is not None:
            try:
                key = kind.read(chunk[len(kind.prefix) :])
            except UnreadableError as error:
                raise self._error(at, at + len(chunk), error.reason, error.nearest) from None
            return [stroke(key, *held, by_place=kind.prefix == "@")]
        if name := _named_by_words(chunk):
            return [stroke(name, *held)]
        return []

    def _known(self, at: int, ends: list[int]) -> str:
        """The key whose name begins at ``at``, of as many words as may be; goes on after it. ``""``: none."""
        for end in reversed(ends):
            chunk = self.text[at:end]
            name = KEY_SPELLINGS.get(" ".join(chunk.split()).lower())
            if name is None and end > ends[0]:
                name = _named_by_words(chunk)
            if name is None and end == ends[0] and len(chunk) > 2:
                name = KEY_SPELLINGS.get(chunk.replace("_", " ").replace("-", " ").lower())
            if name is not None:
                self.at = end
                return name
        return ""

    def _chunk_ends(self, at: int) -> list[int]:
        """Where a key that begins here may end: after one to four words."""
        text, end = self.text, at
        ends: list[int] = []
        while len(ends) < 4 and end < len(text):
            while end < len(text) and text[end].isspace():
                end += 1
            while end < len(text) and not text[end].isspace():
                end += 1
            if ends and not text[ends[-1] : end].strip():
                break
            ends.append(end)
        return ends

    def _skip_spaces(self) -> None:
        while self.at < len(self.text) and self.text[self.at].isspace():
            self.at += 1

    def _word_here(self) -> str:
        return self.text[self.at :].split(None, 1)[0].lower()

    def _error(self, start: int, end: int, reason: str, nearest: object = None) -> TriggerError:
        better = ""
        if callable(nearest):
            better = nearest(self.text[start:end])
        if better:
            better = self.text[:start] + better + self.text[end:]
            try:
                better = str(self.read(better, self.typed))
            except TriggerError as still:
                better = still.nearest
        return TriggerError(self.whole, start, end, reason, better)


def _named_by_words(chunk: str) -> str | None:
    """The trigger of another kind that words name (``Wheel up``, ``Double-click``), or None."""
    words = chunk.replace("_", " ").replace("-", " ").split()
    # A run of keys is no name: "G D", "Ctrl+K S".
    if "+" in chunk or any(len(word) < 2 and not word.isdigit() for word in words[:2]):
        return None
    return named(" ".join(words).lower()) or None


def _char_key(char: str) -> str:
    """The key that types ``char``: letters in upper case where that is one character."""
    char = unicodedata.normalize("NFC", char)
    upper = char.upper()
    if len(upper) == 1 and upper.lower() == char.lower():
        return upper
    return char


def _begins_key(char: str) -> bool:
    """Whether a key may begin with the character; with ``""``: the text is at its end."""
    return char.isalnum() or char in _SIGNS


def _nearest_name(chunk: str) -> str:
    """The nearest way to read a chunk that is no key: modifiers may be misspelt as well."""
    pieces = [piece for piece in chunk.replace("-", "+").split("+") if piece]
    if not pieces:
        return ""
    *before, key = pieces
    held = [_modifier_like(piece) for piece in before]
    name = _key_like(key)
    if not name or not all(held):
        return ""
    return "+".join([*sorted(set(held), key=MODIFIER_RANK.__getitem__), name])


def _modifier_like(piece: str) -> str:
    """The modifier that a piece is, or is nearly, ``""``: none."""
    return MODIFIER_SPELLINGS.get(piece.lower()) or MODIFIER_SPELLINGS.get(
        nearest(piece, _LONGER_MODIFIERS, _ALIKE), ""
    )


@lru_cache(maxsize=4096)
def _key_like(piece: str) -> str:
    """The key that a piece is, or is nearly, ``""``: none."""
    known = KEY_SPELLINGS.get(piece.lower(), "")
    if not known and len(piece) == 1:
        return piece.upper()
    return known or KEY_SPELLINGS.get(nearest(piece, _LONGER_KEYS, _ALIKE), "")
