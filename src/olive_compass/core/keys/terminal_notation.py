r"""Keys as programs of the terminal write them, and back: ``^K``, ``M-x``, ``\C-x\C-g``, ``\e[3~``.

Sources: the caret notation of control characters (ASCII, ECMA-48), backslash escapes as C has them (octal and
hexadecimal among them), and the Escape before a key that stands for Alt on terminals without such a key.
"""

import re
from collections.abc import Mapping
from typing import Literal, get_args

from olive_compass.core.keys.letters import capital
from olive_compass.core.keys.names import NAMED_KEYS
from olive_compass.core.keys.triggers import Run, Stroke, stroke

#: The notations: with a caret before the letter, or with a backslash.
Notation = Literal["caret", "backslash"]
NOTATIONS: tuple[Notation, ...] = get_args(Notation)

#: What control characters are as keys, beside Ctrl and their letter.
_CARETS = {"^[": "Escape", "^?": "Backspace"}
_BACKSLASHES = {
    "\\t": "Tab",
    "\\r": "Enter",
    "\\d": "Backspace",
    "\\b": "Backspace",
    "\\\\": "\\",
    '\\"': '"',
    "\\'": "'",
}

#: Which of these are written so: the sign that would end the text, and keys without a sign.
_WRITTEN = {
    "Escape": "\\e",
    "Space": " ",
    **{name: sign for sign, name in _BACKSLASHES.items() if sign not in ("\\b", "\\'")},
}
_WRITTEN_AFTER_CARET = {"Escape": "^["}

#: What stands before a key for a modifier, with a caret notation (True) and with backslashes.
_MODIFIERS = {
    True: (("M-", "Alt"), ("C-", "Ctrl"), ("S-", "Shift")),
    False: (("\\C-", "Ctrl"), ("\\e", "Alt")),
}

#: A key that a terminal sends as several characters.
_SENT = re.compile(r"\\e(?:\[[0-9;?]*[A-Za-z~]|O[A-Za-z])")

_CODE = re.compile(r"\\(?:x([0-9A-Fa-f]{1,2})|([0-7]{1,3}))")


class NotWrittenError(ValueError):
    """A text that is no key in a notation, or a key that a notation has no way to write."""


def read(text: str, notation: str, words: Mapping[str, str], capitals: bool = False) -> Run:
    r"""The run that a text spells; ``words`` are the file's own, cut out first and the longest of them first.

    ``capitals`` says that a capital letter is that letter with Shift. Raises ``NotWrittenError``.

    >>> str(read("^X^V", "caret", {})), str(read("M-a", "caret", {})), str(read("\\C-x\\e[3~", "backslash", {"\\e[3~": "Delete"}))
    ('Ctrl+X Ctrl+V', 'Alt+A', 'Ctrl+X Delete')
    """
    return _Reader(text, notation, words, capitals).run()


def write(run: Run, notation: str, words: Mapping[str, str], capitals: bool = False) -> str:
    r"""The text for a run. Raises ``NotWrittenError``.

    >>> from olive_compass.core.keys.reading import read_trigger
    >>> write(read_trigger("Ctrl+X Alt+F"), "backslash", {}), write(read_trigger("Ctrl+K"), "caret", {})
    ('\\C-x\\ef', '^K')
    """
    theirs = {ours: word for word, ours in reversed(list(words.items()))}
    return "".join(_written(each, notation, theirs, capitals) for each in run.strokes)


class _Reader:
    def __init__(self, text: str, notation: str, words: Mapping[str, str], capitals: bool) -> None:
        self.caret = notation == "caret"
        # Alt and a key, and Escape before it, are the same to a terminal.
        if self.caret:
            self.text = text
        else:
            self.text = text.replace("\\M-", "\\e")
        self.at = 0
        self.words = sorted((word for word in words if word != "a"), key=len, reverse=True)
        self.ours = words
        self.capitals = capitals

    def run(self) -> Run:
        found = []
        while self.at < len(self.text):
            if self.caret and self.text[self.at].isspace():
                self.at += 1
                continue
            found.append(self._stroke([]))
        if not found:
            raise NotWrittenError("it is empty")
        return Run(tuple(found))

    def _stroke(self, held: list[str]) -> Stroke:
        if name := self._modifier(held):
            held.append(name)
            if self.at >= len(self.text):
                if name == "Alt" and self.text.endswith("\\e"):
                    return stroke("Escape", *held[:-1])
                raise NotWrittenError(f"no key follows {name}")
            return self._stroke(held)
        return self._key(held)

    def _modifier(self, held: list[str]) -> str:
        """The modifier that begins here, gone past; ``""``: none does."""
        if self._word():
            return ""
        for sign, name in _MODIFIERS[self.caret]:
            if self.text.startswith(sign, self.at) and name not in held:
                if sign == "\\e" and _SENT.match(self.text, self.at):
                    return ""
                # A sign at the end is a key by itself.
                if self.at + len(sign) < len(self.text) or sign == "\\e":
                    self.at += len(sign)
                    return name
        return ""

    def _word(self) -> str:
        return next((word for word in self.words if self.text.startswith(word, self.at)), "")

    def _key(self, held: list[str]) -> Stroke:
        """The key that begins here, by the surest way to tell it."""
        if found := self._own_word(held) or self._sign(held):
            return found
        if self.caret:
            found = self._caret(held)
        else:
            found = self._backslash(held)
        return found or self._name(held) or self._char(held)

    def _own_word(self, held: list[str]) -> Stroke | None:
        """A word of the file; it may be a modifier with what joins it to the key."""
        word = self._word()
        if not word:
            return None
        ours = self.ours[word]
        self.at += len(word)
        if ours.endswith("+") and len(ours) > 1:
            return self._stroke([*held, ours[:-1]])
        if ours != "+":
            *more, key = ours.split("+")
        else:
            *more, key = ("+",)
        return stroke(key, *held, *more)

    def _sign(self, held: list[str]) -> Stroke | None:
        """A key that the notation has a sign for."""
        for sign, name in (_CARETS if self.caret else _BACKSLASHES).items():
            if self.text.startswith(sign, self.at):
                self.at += len(sign)
                return stroke(name, *held)
        return None

    def _caret(self, held: list[str]) -> Stroke | None:
        """A control character: a caret, and what is held down with Ctrl."""
        if self.text[self.at] != "^" or self.at + 1 == len(self.text):
            return None
        self.at += 1
        if self._word() or self.text.startswith("Space", self.at):
            return self._key(["Ctrl", *held])
        self.at += 1
        return stroke(capital(self.text[self.at - 1]), "Ctrl", *held)

    def _backslash(self, held: list[str]) -> Stroke | None:
        """What a terminal sends for a key, the code of a character, or Escape. Raises ``NotWrittenError``."""
        if sent := _SENT.match(self.text, self.at):
            self.at = sent.end()
            return stroke(f"own:{sent[0]}", *held)
        if code := _CODE.match(self.text, self.at):
            self.at = code.end()
            return self._of_code(int(code[1], 16) if code[1] else int(code[2], 8), held)
        if self.text.startswith("\\e", self.at):
            self.at += 2
            return stroke("Escape", *held)
        if self.text[self.at] == "\\":
            raise NotWrittenError(f"“{self.text[self.at : self.at + 2]}” is no key")
        return None

    def _name(self, held: list[str]) -> Stroke | None:
        """A key by our own name for it."""
        name = next((each for each in _NAMES if self.text.startswith(each, self.at)), "")
        self.at += len(name)
        if name:
            return stroke(name, *held)
        return None

    def _char(self, held: list[str]) -> Stroke:
        """The key that types a character."""
        char = self.text[self.at]
        self.at += 1
        if char == " ":
            return stroke("Space", *held)
        if self.capitals and char.isupper() and "Ctrl" not in held:
            return stroke(char, "Shift", *held)
        return stroke(capital(char), *held)

    def _of_code(self, code: int, held: list[str]) -> Stroke:
        """The key that sends a character: a control character is Ctrl and its letter."""
        if code == 0x1B:
            if self.at < len(self.text):
                return self._stroke([*held, "Alt"])
            return stroke("Escape", *held)
        if code == 0x7F:
            return stroke("Backspace", *held)
        if code < 0x20:
            return stroke(capital(chr(code + 0x40)), "Ctrl", *held)
        if code > 0x7F:
            # A character of some other alphabet, or Alt with a letter: only the terminal knows.
            return stroke(f"own:\\{code:o}", *held)
        return stroke("Space" if code == 0x20 else capital(chr(code)), *held)


#: Keys with a name that stand in such files as they are, the longest first.
_NAMES = sorted((name for name in NAMED_KEYS if len(name) > 1), key=len, reverse=True)


def _written(each: Stroke, notation: str, theirs: Mapping[str, str], capitals: bool) -> str:
    if word := theirs.get(str(each)):
        return word
    is_caret = notation == "caret"
    text = _sign(each, is_caret, theirs, capitals)
    if "Ctrl" in each.modifiers:
        if len(each.key) > 1 and each.key not in theirs and each.key != "Space":
            raise _no_way(each)
        # Control characters are written in capitals after a caret, in small letters elsewhere.
        text = f"^{text.upper() if len(text) == 1 else text}" if is_caret else f"\\C-{text}"
    if "Alt" in each.modifiers:
        text = theirs.get("Alt+", "M-" if is_caret else "\\e") + text
    return text


def _sign(each: Stroke, is_caret: bool, theirs: Mapping[str, str], capitals: bool) -> str:
    """What stands for the key of a stroke, and for Shift where that is held. Raises ``NotWrittenError``."""
    key = each.key
    if each.by_place or not {*each.modifiers} <= {"Ctrl", "Alt", "Shift"}:
        raise _no_way(each)
    is_letter = len(key) == 1 and key.isalpha()
    if "Shift" in each.modifiers:
        # A capital letter says that Shift is held; with Ctrl a terminal sends no capitals.
        if capitals and is_letter and "Ctrl" not in each.modifiers:
            return key
        raise _no_way(each)
    written = _WRITTEN
    if is_caret:
        written = _WRITTEN_AFTER_CARET
    return theirs.get(key) or written.get(key) or _as_typed(key)


def _as_typed(key: str) -> str:
    """A key that has no word: a letter is a small one."""
    if len(key) == 1:
        return key.lower()
    return key.removeprefix("own:")


def _no_way(each: Stroke) -> NotWrittenError:
    return NotWrittenError(f"this notation has no way to write {each}")
