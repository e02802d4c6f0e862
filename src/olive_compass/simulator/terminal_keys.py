"""The bytes that a terminal sends for a press, the stroke that they mean, and strokes that send the same.

A terminal sends characters, not keys: Tab and Ctrl+I are one to it, so are the two sets of digits,
and it passes on neither Meta nor a modifier alone. What it sends for Ctrl with a key is the control
character of ECMA-48 that ASCII has in that key's column.
"""

from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Stroke
from olive_compass.structs import replace

#: Names of keys as the terminal library has them, and as we have them.
_NAMES = {
    "up": "Up",
    "down": "Down",
    "left": "Left",
    "right": "Right",
    "home": "Home",
    "end": "End",
    "insert": "Insert",
    "delete": "Delete",
    "pageup": "PageUp",
    "pagedown": "PageDown",
    "escape": "Escape",
    "tab": "Tab",
    "enter": "Enter",
    "backspace": "Backspace",
    " ": "Space",
}
_SAME = {
    "c-i": "Tab",
    "c-m": "Enter",
    "c-h": "Backspace",
    "s-tab": "Shift+Tab",
    "c-@": "Ctrl+Space",
}

#: Strokes that reach a program as one and the same character, the likeliest first.
_ONE_TO_IT = (
    ("Tab", "Ctrl+I"),
    ("Enter", "Ctrl+M", "Shift+Enter", "NumEnter"),
    ("Ctrl+J", "Ctrl+Enter"),
    ("Backspace", "Ctrl+H", "Shift+Backspace"),
    ("Space", "Shift+Space"),
    ("Ctrl+Space", "Ctrl+2"),
    ("Escape", "Ctrl+["),
    ("Ctrl+\\", "Ctrl+4"),
    ("Ctrl+]", "Ctrl+5"),
    ("Ctrl+^", "Ctrl+6"),
    ("Ctrl+_", "Ctrl+/", "Ctrl+7"),
)
#: The characters that both the pad and the rest of the board type.
_ON_THE_PAD = "0123456789+-*/."


def stroke_of(name: str, held: bool = False) -> Stroke | None:
    """The stroke that a terminal's key is, None where it is none; ``held``: Escape came before.

    >>> str(stroke_of("c-s")), str(stroke_of("A")), str(stroke_of("s-f6")), str(stroke_of("m", True))
    ('Ctrl+S', 'Shift+A', 'Shift+F6', 'Alt+M')
    """
    text = _SAME.get(name) or _spelt(name)
    if not text:
        return None
    try:
        run = read_trigger(f"Alt+{text}" if held and "Alt" not in text else text)
    except TriggerError:
        return None
    if len(run.strokes) == 1:
        return run.strokes[0]
    return None


def _spelt(name: str) -> str:
    if len(name) == 1:
        if name == " ":
            return "Space"
        if name.isalpha() and name.isupper():
            return f"Shift+{name}"
        return name
    modifiers = []
    while name[:2] in ("c-", "s-"):
        modifiers.append({"c-": "Ctrl", "s-": "Shift"}[name[:2]])
        name = name[2:]
    key = _NAMES.get(name) or (name.upper() if len(name) == 1 or name[:1] == "f" else "")
    if key:
        return "+".join([*modifiers, key])
    return ""


def cannot_tell(stroke: Stroke) -> tuple[Stroke, ...]:
    """The strokes that a terminal sends the same for, without ``stroke`` itself.

    >>> [str(each) for each in cannot_tell(Stroke(("Ctrl",), "D"))]
    ['Ctrl+Shift+D']
    >>> [str(each) for each in cannot_tell(Stroke((), "F8"))]
    []
    """
    plain = replace(stroke, modifiers=tuple(m for m in stroke.modifiers if m != "Alt"))
    # Alt is sent before whatever the rest sends.
    held = ""
    if plain != stroke:
        held = "Alt+"
    others = (each for each in _sent_alike(plain) if each != str(plain))
    return tuple(read_trigger(held + each).strokes[0] for each in others)


def _sent_alike(plain: Stroke) -> tuple[str, ...]:
    """The strokes without Alt for which a terminal sends what it sends for this one, none where it has its own."""
    text = str(plain)
    for alike in _ONE_TO_IT:
        if text in alike:
            return alike
    if _is_ctrl_letter(plain):
        return (text, f"Ctrl+Shift+{plain.key}")
    if len(text) == 1 and text in _ON_THE_PAD:
        return (text, f"Num{text}")
    return ()


def _is_ctrl_letter(plain: Stroke) -> bool:
    return plain.modifiers == ("Ctrl",) and len(plain.key) == 1 and plain.key.isalpha()
