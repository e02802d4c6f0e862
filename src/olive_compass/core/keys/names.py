"""The names of modifiers and keys, as we write them; ``spellings`` has all others that we read.

Sources: the ``code`` and ``key`` values of W3C UI Events, the spellings of
``aria-keyshortcuts`` (WAI-ARIA), the keysym names of the X Keyboard Extension as used by
the freedesktop shortcut form, and the signs printed on keyboards.
"""

from typing import Literal, get_args

#: Modifiers in the order in which they are written.
Modifier = Literal["Main", "Ctrl", "Alt", "AltGr", "Shift", "Meta"]
MODIFIERS: tuple[Modifier, ...] = get_args(Modifier)

MODIFIER_RANK: dict[str, int] = {name: rank for rank, name in enumerate(MODIFIERS)}

#: Signs that stand for a modifier and need no joiner after them.
MODIFIER_SIGNS = {"⌃": "Ctrl", "⌥": "Alt", "⎇": "Alt", "⇧": "Shift", "⌘": "Meta", "⊞": "Meta"}


#: Codes of the keys that have a name and type no character.
NAMED_CODES = {
    "Escape": "Escape",
    "Tab": "Tab",
    "Enter": "Enter",
    "Space": "Space",
    "Backspace": "Backspace",
    "Delete": "Delete",
    "Insert": "Insert",
    "Home": "Home",
    "End": "End",
    "PageUp": "PageUp",
    "PageDown": "PageDown",
    "Up": "ArrowUp",
    "Down": "ArrowDown",
    "Left": "ArrowLeft",
    "Right": "ArrowRight",
    "CapsLock": "CapsLock",
    "NumLock": "NumLock",
    "ScrollLock": "ScrollLock",
    "PrintScreen": "PrintScreen",
    "Pause": "Pause",
    "ContextMenu": "ContextMenu",
    "NumEnter": "NumpadEnter",
    "Num+": "NumpadAdd",
    "Num-": "NumpadSubtract",
    "Num*": "NumpadMultiply",
    "Num/": "NumpadDivide",
    "Num.": "NumpadDecimal",
    "Num,": "NumpadComma",
    "Num=": "NumpadEqual",
    "Help": "Help",
    "VolumeUp": "AudioVolumeUp",
    "VolumeDown": "AudioVolumeDown",
    "VolumeMute": "AudioVolumeMute",
    "MediaPlay": "MediaPlayPause",
    "MediaStop": "MediaStop",
    "MediaNext": "MediaTrackNext",
    "MediaPrevious": "MediaTrackPrevious",
    "BrowserBack": "BrowserBack",
    "BrowserForward": "BrowserForward",
    "BrowserRefresh": "BrowserRefresh",
    "BrowserStop": "BrowserStop",
    "BrowserSearch": "BrowserSearch",
    "BrowserFavorites": "BrowserFavorites",
    "BrowserHome": "BrowserHome",
    "LaunchMail": "LaunchMail",
    "MediaSelect": "MediaSelect",
    "Eject": "Eject",
    "Sleep": "Sleep",
    "Power": "Power",
    **{f"Num{n}": f"Numpad{n}" for n in range(10)},
    **{f"F{n}": f"F{n}" for n in range(1, 36)},
}

#: Keys that have a name of more than one character.
NAMED_KEYS = frozenset((*NAMED_CODES, "Clear"))
