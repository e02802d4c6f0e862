"""Keys as people and standards write them, and read back from each.

Sources: ``aria-keyshortcuts`` in WAI-ARIA 1.2 (modifiers ``Control Alt Shift Meta AltGraph``
before the ``key`` value of W3C UI Events; alternatives separated by spaces; ``Plus`` and ``Space``
spelled out), the freedesktop shortcut form (``CTRL ALT SHIFT NUM LOGO`` and a keysym name of the
X Keyboard Extension), W3C UI Events ``code`` values, and the signs printed on Mac keyboards.
"""

from collections.abc import Collection

from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.kinds import kind_of
from olive_compass.core.keys.presses import physical_text
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Run, Stroke, stroke

NOTATIONS = ("pc", "mac", "aria", "xdg", "code")

_MODIFIERS = {
    "pc": {"Meta": "Win"},
    "mac": {"Ctrl": "⌃", "Alt": "⌥", "AltGr": "⌥", "Shift": "⇧", "Meta": "⌘"},
    "aria": {
        "Ctrl": "Control",
        "Alt": "Alt",
        "Shift": "Shift",
        "Meta": "Meta",
        "AltGr": "AltGraph",
    },
    "xdg": {"Ctrl": "CTRL", "Alt": "ALT", "Shift": "SHIFT", "Meta": "LOGO"},
}
#: In the order in which each writes them.
_ORDER = {
    "pc": ("Ctrl", "Alt", "AltGr", "Shift", "Meta"),
    "mac": ("Ctrl", "Alt", "AltGr", "Shift", "Meta"),
    "aria": ("Ctrl", "Alt", "Shift", "Meta", "AltGr"),
    "xdg": ("Ctrl", "Alt", "Shift", "Meta"),
}

_MAC_KEYS = {
    "Enter": "↩",
    "Escape": "⎋",
    "Tab": "⇥",
    "Backspace": "⌫",
    "Delete": "⌦",
    "Up": "↑",
    "Down": "↓",
    "Left": "←",
    "Right": "→",
    "PageUp": "⇞",
    "PageDown": "⇟",
    "Home": "↖",
    "End": "↘",
    "CapsLock": "⇪",
    "NumEnter": "⌤",
    "Clear": "⌧",
    "Space": "␣",
}
_ARIA_KEYS = {
    "Up": "ArrowUp",
    "Down": "ArrowDown",
    "Left": "ArrowLeft",
    "Right": "ArrowRight",
    "+": "Plus",
    "VolumeUp": "AudioVolumeUp",
    "VolumeDown": "AudioVolumeDown",
    "VolumeMute": "AudioVolumeMute",
    "MediaPlay": "MediaPlayPause",
    "MediaNext": "MediaTrackNext",
    "MediaPrevious": "MediaTrackPrevious",
}
_XDG_KEYS = {
    "Enter": "Return",
    "Backspace": "BackSpace",
    "PageUp": "Page_Up",
    "PageDown": "Page_Down",
    "Space": "space",
    "CapsLock": "Caps_Lock",
    "NumLock": "Num_Lock",
    "ScrollLock": "Scroll_Lock",
    "PrintScreen": "Print",
    "ContextMenu": "Menu",
    "VolumeUp": "XF86AudioRaiseVolume",
    "VolumeDown": "XF86AudioLowerVolume",
    "VolumeMute": "XF86AudioMute",
    "MediaPlay": "XF86AudioPlay",
    "MediaStop": "XF86AudioStop",
    "MediaNext": "XF86AudioNext",
    "MediaPrevious": "XF86AudioPrev",
    "BrowserBack": "XF86Back",
    "BrowserForward": "XF86Forward",
    "NumEnter": "KP_Enter",
    "Num+": "KP_Add",
    "Num-": "KP_Subtract",
    "Num*": "KP_Multiply",
    "Num/": "KP_Divide",
    "Num.": "KP_Decimal",
    "Num,": "KP_Separator",
    "Num=": "KP_Equal",
    "+": "plus",
    "-": "minus",
    "=": "equal",
    ",": "comma",
    ".": "period",
    "/": "slash",
    "\\": "backslash",
    ";": "semicolon",
    ":": "colon",
    "'": "apostrophe",
    '"': "quotedbl",
    "`": "grave",
    "[": "bracketleft",
    "]": "bracketright",
    "{": "braceleft",
    "}": "braceright",
    "<": "less",
    ">": "greater",
    "?": "question",
    "!": "exclam",
    "@": "at",
    "#": "numbersign",
    "$": "dollar",
    "%": "percent",
    "^": "asciicircum",
    "&": "ampersand",
    "*": "asterisk",
    "(": "parenleft",
    ")": "parenright",
    "_": "underscore",
    "|": "bar",
    "~": "asciitilde",
    **{f"Num{n}": f"KP_{n}" for n in range(10)},
}
_FROM_XDG = {name.lower(): key for key, name in _XDG_KEYS.items()}
_FROM_ARIA = {name.lower(): key for key, name in _ARIA_KEYS.items()}


class InexpressibleError(ValueError):
    """A notation has no way to write a trigger; the message says why, without a full stop."""


def show(run: Run, notation: str, keyboard: Keyboard) -> str:
    """``run`` in one of ``NOTATIONS``. Raises ``InexpressibleError`` where it has no way to say it.

    >>> show(read_trigger("Ctrl++"), "aria", Keyboard()), show(read_trigger("Cmd+S"), "xdg", Keyboard())
    ('Control+Plus', 'LOGO+s')
    """
    if notation == "code":
        return " ".join(physical_text(keyboard.made(each).presses[0]) for each in run.strokes)
    if len(run.strokes) > 1 and notation in ("aria", "xdg"):
        raise InexpressibleError(f"{notation} has no sequences")
    return " ".join(_stroke(each, notation, keyboard) for each in run.strokes)


def show_or_plain(run: Run, notation: str | None, keyboard: Keyboard) -> str:
    """``run`` in a notation, or in our own where there is none or it cannot say it."""
    if not notation:
        return str(run)
    try:
        return show(run, notation, keyboard)
    except InexpressibleError:
        return str(run)


def read_as(text: str, notation: str) -> tuple[Run, ...]:
    """The triggers that ``text`` in a notation gives; several only where it has alternatives.

    Raises ``TriggerError``.

    >>> [str(run) for run in read_as("Control+Plus Meta+Space", "aria")]
    ['Ctrl++', 'Meta+Space']
    """
    if notation == "aria":
        return tuple(_read_joined(part, _FROM_ARIA) for part in text.split())
    if notation == "xdg":
        return (_read_joined(text.strip(), _FROM_XDG),)
    return (read_trigger(text),)


def _stroke(each: Stroke, notation: str, keyboard: Keyboard) -> str:
    # Where signs are a Mac's, the main modifier is its Command key, on whatever machine they are written.
    main = "Ctrl"
    if notation == "mac" or keyboard.platform == "mac":
        main = "Meta"
    held = {main if name == "Main" else name for name in each.modifiers}
    names = _MODIFIERS[notation]
    _check_expressible(each, held, notation)
    # Two of our modifiers may have one name there, and it is written once.
    words = list(dict.fromkeys(names.get(name, name) for name in _ORDER[notation] if name in held))
    if each.by_place:
        key = "@" + each.key
    else:
        key = _key(each.key, notation)
    if notation == "mac":
        return "".join([*words, key])
    return "+".join([*words, key])


def _check_expressible(each: Stroke, held: Collection[str], notation: str) -> None:
    """Raises ``InexpressibleError`` for a stroke that a notation has no way to write."""
    kind = kind_of(each)
    if notation in kind.unwritten and each.by_place:
        raise InexpressibleError(f"{notation} names keys by what they type, not by where they sit")
    if notation in kind.unwritten:
        raise InexpressibleError(f"{notation} has no {kind.plural}")
    if notation == "xdg" and "AltGr" in held:
        raise InexpressibleError("xdg has no AltGr")
    if notation == "aria" and each.key.startswith("Num") and each.key != "NumLock":
        raise InexpressibleError("aria does not tell the numeric pad from other keys")


def _key(key: str, notation: str) -> str:
    if notation == "mac":
        return _MAC_KEYS.get(key, key)
    if notation == "aria":
        return _ARIA_KEYS.get(key, key)
    if notation == "xdg":
        if key in _XDG_KEYS:
            return _XDG_KEYS[key]
        if len(key) == 1:
            if key.isascii():
                return key.lower()
            return f"U{ord(key.lower()[0]):04X}"
    return key


def _read_joined(text: str, keys: dict[str, str]) -> Run:
    *held, key = text.split("+")
    if key.lower() in keys:
        if held:
            plain = read_trigger("+".join([*held, "A"]))
        else:
            plain = Run((stroke("A"),))
        first = plain.strokes[0]
        return Run((Stroke(first.modifiers, keys[key.lower()]),))
    if (
        len(key) > 2
        and key[0] in "Uu"
        and all(char in "0123456789abcdefABCDEF" for char in key[1:])
    ):
        if int(key[1:], 16) > 0x10FFFF:
            raise TriggerError(text, len(text) - len(key), len(text), f"“{key}” is no character")
        return read_trigger("+".join([*held, chr(int(key[1:], 16))]))
    return read_trigger(text)
