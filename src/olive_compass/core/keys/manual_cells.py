"""Keys as manuals write them, put as cells of a listing have them: ``Plus (+) key``, ``Command–Shift–4``, ``0–9``.

It is asked where a cell cannot be read as it stands. Source: the ways of writing keys that style guides for
technical writing recommend (names of keys, “press and hold”, ranges with a dash), and those that they advise
against and that are met all the same.
"""

import re

from olive_compass.core.keys.spellings import KEY_SPELLINGS, MODIFIER_SPELLINGS
from olive_compass.core.keys.words import AND_WORDS, words_of

#: What a laptop's own modifier makes of keys that it has: they reach an application as others.
_WITH_FN = {
    "up": "PageUp",
    "down": "PageDown",
    "left": "Home",
    "right": "End",
    "backspace": "Delete",
    "delete": "Delete",
    "enter": "NumEnter",
}

_DASH = r"[-–—‑−]"
_MODIFIERS = "|".join(sorted(map(re.escape, MODIFIER_SPELLINGS), key=len, reverse=True))
_JOINED = re.compile(
    rf"\b({_MODIFIERS})(?:\s*[–—‑−]\s*|\s+(?:{'|'.join(AND_WORDS)})\s+)(?=\S)", re.I
)
#: ``Press F5``; who presses and holds makes a gesture.
_PRESSED = re.compile(r"^(?:press|hit|push)\s+(?:the\s+)?(?!and\b)", re.I)
#: The numeric pad, as manuals say where a key is.
_PAD = (
    r"(?:num(?:ber|eric)?\s*(?:key)?\s*pad|key\s*pad|ziffernblock|nummernblock|zehnerblock"
    r"|pavé\s+numérique|teclado\s+numérico|tastierino\s+numerico)"
)
_THE = r"(?:(?:on|auf|sur|en|su)\s+(?:(?:the|dem|le|el|il)\s+)?)"
_KEYPAD = re.compile(rf"\s*(?:\(\s*(?:(?:only|nur)\s+)?{_THE}?{_PAD}\s*\)|\b{_THE}{_PAD})\s*", re.I)
_SIGN = re.compile(r"(?<=\w)\s*\(\s*[^\w\s]{1,2}\s*\)")
_SIGN_NAMED = re.compile(
    r"\b(?:\w+\s+sign|\w+zeichen|signe\s+\w+|multiplikation|division)\s*\(?([^\w\s()])\)?", re.I
)
#: ``Umschalttaste``, ``Super-Taste``: the word for a key after the name of one.
_OF_A_KEY = re.compile(r"\b([^\W\d_]+?)(?:-|\s)?taste\b", re.I)
#: ``Home+Shift``: the modifiers last.
_HELD_LAST = re.compile(
    rf"^((?:(?:{_MODIFIERS}|fn)\+)*)([^+]+)\+((?:(?:{_MODIFIERS})\+)*(?:{_MODIFIERS}))$", re.I
)
_KEY = re.compile(r"\b(?:the\s+)?(.+?)\s+(?:key|bar key)\b\s*$", re.I)
_ARROWS = re.compile(
    r"(?<!up )(?<!down )(?<!left )(?<!right )\b(?:(?:arrow|cursor)(?:\s+keys?|s)\b|arrow$)"
    r"|\b(?:pfeiltasten?|pfeil$|richtungstasten|touches\s+fléchées|teclas\s+de\s+flecha|tasti\s+freccia)(?!\s+nach)",
    re.I,
)
#: One key in quotation marks; a word in parentheses after a key of one sign: ``0 (zero)``.
_QUOTED = re.compile(r"['‘’\"“]([^'‘’\"“”\s]{1,8})['’\"”]|(?<=[+\s]\S)\s*\(\w+\)")
_RANGE = re.compile(
    rf"^(.*?)\b(F?)(\d{{1,2}})\s*(?:{_DASH}|…|\.\.\.?|to|through)\s*(.*?)\b\2(\d{{1,2}})$", re.I
)
_THEN = re.compile(r"\s*,\s*(?:and\s+)?then\s+(?:press\s+)?", re.I)
_FN = re.compile(r"^((?:.*\+)?)\s*(?:fn|function)\s*\+\s*([^+]+)$", re.I)
#: ``Ctrl/⌘+S``, ``Cmd or Ctrl+S``: one modifier for each platform.
_MAC = "|".join(("⌘|cmd|command|⌥|option|opt|wahl", *words_of("Meta")))
_HELD = "(?:" + "|".join((_MAC, "ctrl|control|alt", *words_of("Ctrl"), *words_of("Alt"))) + ")"
_HELDS = rf"{_HELD}(?:\s*\+\s*{_HELD})*"
_EITHER = re.compile(
    rf"(?<![^\W_])(?P<one>{_HELDS})\s*(?:/|\bor\b)\s*(?P<other>{_HELDS})(?=\s*[+-]|\s|$)", re.I
)
#: ``Enter (if an object is selected)``: when a key does so.
_CONDITION = re.compile(r"\s*\(([^()]*\w\s+[^()]*\w[^()]*)\)\s*$")
#: ``U (canvas)``: where a key does so.
_WHERE = re.compile(r"^(.*\S)\s+\(([\w, -]+)\)$")
#: ``Ctrl+S (Mac: ⌘S), ``Ctrl+S (⌘S on macOS)``.
_MAC_NOTE = re.compile(
    r"\(\s*(?:on\s+)?(?:mac\s*os(?:\s*x)?|mac)\s*:?\s*(?P<after>[^)]*)\)|\(\s*(?P<before>[^)]*?)\s+on\s+(?:a\s+|the\s+)?mac(?:\s*os(?:\s*x)?)?\s*\)",
    re.I,
)

#: What marks a key in a text: tags of a page, backticks and asterisks of Markdown, parentheses around the whole.
_TAGS = re.compile(r"</?(?:kbd|code|samp|strong|em|b|i|span)\b[^<>]*>", re.I)
_MARKED = re.compile(r"`([^`]+)`|\*\*([^*]+)\*\*|^\(([^()]+)\)$")

#: Words of what a hand does that no trigger of ours can be.
_GESTURES = re.compile(
    r"\b(?:ziehen|halten|klicken|mausklick|mausrad|glisser|maintenir|arrastrar|trascinare|drag(?:ging)?|hold(?:ing)?|press(?:ing)?|click(?:ing)?|scroll(?:ing)?|swipe(?!:)|pinch|rotate|move|mouse|wheel|stylus|finger)\b|\[[^\]]+\]|<[^>\s]*\s[^>]*>",
    re.I,
)

#: The most keys that a range is read as.
_MOST = 24


def is_gesture(text: str) -> bool:
    """Whether a cell tells what a hand does, and names no trigger: ``Hold Space and drag``, ``[number] + Enter``."""
    return bool(_GESTURES.search(text))


def _of_pad(text: str) -> str:
    """A key as one of the numeric pad."""
    if text.endswith("+"):
        return f"Num {text}"
    held, plus, key = text.rpartition("+")
    return f"{held}{plus}Num {key.strip()}"


def as_cell(text: str, platform: str = "pc") -> str:
    """A cell of a manual as a listing would have it; the same text where there is nothing to put otherwise.

    ``platform`` is whose keys are wanted where the cell has those of two.

    >>> as_cell("Command–Shift–4"), as_cell("Plus (+) key"), as_cell("Ctrl + 1…3")
    ('Command+Shift+4', 'Plus', 'Ctrl + 1\\nCtrl + 2\\nCtrl + 3')
    >>> as_cell("Ctrl+S (Mac: ⌘S)"), as_cell("⌘/Ctrl+S", "mac")
    ('Ctrl+S', '⌘+S')
    """
    text = _for_platform(" ".join(text.split()), platform)
    text = _MARKED.sub(lambda found: found[found.lastindex or 0], _TAGS.sub("", text))
    text = _JOINED.sub(r"\1+", _PRESSED.sub("", text))
    text = _THEN.sub(" then ", text)
    on_pad = bool(_KEYPAD.search(text))
    text = _KEYPAD.sub(" ", text).strip()
    text = _SIGN_NAMED.sub(r"\1", _CONDITION.sub("", text))
    text = _OF_A_KEY.sub(lambda found: _without_taste(found[0], found[1]), text)
    text = _QUOTED.sub(lambda found: found[1] or "", _SIGN.sub("", text))
    if (last := _HELD_LAST.match(text)) and last[2].strip().lower() not in MODIFIER_SPELLINGS:
        text = f"{last[3]}+{last[1]}{last[2].strip()}"
    if found := _FN.match(text):
        text = f"{found[1]}{_with_fn(found[2].strip())}"
    arrows = _ARROWS.search(text)
    if not arrows and (named := _KEY.match(text)):
        text = str(named[1])
    if on_pad:
        text = _of_pad(text)
    if arrows:
        return _each_arrow(text[: arrows.start()], text[arrows.end() :])
    return _ranged(text)


def _each_arrow(before: str, after: str) -> str:
    """A line for each of the arrow keys, with what stands around them."""
    return "\n".join(f"{before}{key}{after}" for key in ("Up", "Down", "Left", "Right"))


def without_where(text: str) -> str:
    """A key without the word in parentheses that says where it does so.

    >>> without_where("U (canvas)"), without_where("U")
    ('U', 'U')
    """
    found = _WHERE.match(text.strip())
    if found:
        return found[1]
    return text


def _without_taste(whole: str, name: str) -> str:
    """The name of a key without the word for a key; the whole where it is no name, or is one only together."""
    known = name.lower() in MODIFIER_SPELLINGS or name.lower() in KEY_SPELLINGS
    if known and whole.lower() not in KEY_SPELLINGS:
        return name
    return whole


def condition(text: str) -> str:
    """When the keys of a cell do what they do, as the cell has it in parentheses at its end; ``""``: always.

    >>> condition("Enter (if an object is selected)"), condition("Divide (÷) key (number pad)")
    ('if an object is selected', '')
    """
    found = _CONDITION.search(_KEYPAD.sub(" ", text).strip())
    if found and not _MAC_NOTE.search(text):
        return found[1].strip()
    return ""


def without_condition(text: str) -> str:
    """The keys of a cell that says when they do so, ``""`` where it does not say it.

    >>> without_condition("Enter ( if an object is selected )"), without_condition("Ctrl+S (always)")
    ('Enter', '')
    """
    said = condition(text)
    found = said and re.search(rf"\(\s*{re.escape(said)}\s*\)", text)
    if not found:
        return ""
    return f"{text[: found.start()]} {text[found.end() :]}".strip()


def _for_platform(text: str, platform: str) -> str:
    """The text with the keys of one platform only."""
    text = _without_note(text, platform)
    found = _EITHER.search(text)
    if not found:
        return text
    before, after = text[: found.start()], text[found.end() :]
    named = (str(found["one"]), str(found["other"]))
    if named[0].lower() == named[1].lower():
        return f"{before}{named[0]}{after}"
    mac = [each for each in named if re.search(rf"(?i)(?:{_MAC})", each)]
    others = [each for each in named if each not in mac]
    if not mac or not others:
        return text
    if platform == "mac":
        chosen = mac[0]
    else:
        chosen = others[0]
    return f"{before}{chosen}{after}"


def _without_note(text: str, platform: str) -> str:
    """A text in which a note says the keys of a Mac: those, or the others."""
    found = _MAC_NOTE.search(text)
    if not found:
        return text
    note = (found["after"] or found["before"] or "").strip()
    before, after = text[: found.start()].strip(), text[found.end() :].strip()
    if platform != "mac" or not note:
        return before + after
    # “Home (Mac: Command+Left)+Shift”: what is held with either.
    if after.startswith("+"):
        return note + after
    return note


def _with_fn(key: str) -> str:
    """What a key with the laptop's own modifier reaches an application as."""
    name = KEY_SPELLINGS.get(key.lower(), key)
    return _WITH_FN.get(name.lower(), name)


def _ranged(text: str) -> str:
    """``Ctrl+1–9`` as its keys, one a line."""
    found = _RANGE.match(text)
    if not found:
        return text
    held, letter, first, again, last = found.groups()
    numbers = range(int(first), int(last) + 1)
    if not 1 < len(numbers) <= _MOST or again.strip() not in ("", held.strip()):
        return text
    return "\n".join(f"{held}{letter}{n}" for n in numbers)
