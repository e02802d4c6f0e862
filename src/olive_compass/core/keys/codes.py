"""The places of keys: the ``code`` values of W3C UI Events."""


def _codes() -> dict[str, str]:
    letters = [f"Key{chr(n)}" for n in range(ord("A"), ord("Z") + 1)]
    digits = [f"Digit{n}" for n in range(10)] + [f"Numpad{n}" for n in range(10)]
    f_keys = [f"F{n}" for n in range(1, 36)]
    others = [
        "Backquote",
        "Backslash",
        "BracketLeft",
        "BracketRight",
        "Comma",
        "Equal",
        "IntlBackslash",
        "IntlRo",
        "IntlYen",
        "Minus",
        "Period",
        "Quote",
        "Semicolon",
        "Slash",
        "Backspace",
        "CapsLock",
        "ContextMenu",
        "Enter",
        "Space",
        "Tab",
        "Convert",
        "KanaMode",
        "Lang1",
        "Lang2",
        "NonConvert",
        "Delete",
        "End",
        "Help",
        "Home",
        "Insert",
        "PageDown",
        "PageUp",
        "ArrowDown",
        "ArrowLeft",
        "ArrowRight",
        "ArrowUp",
        "NumLock",
        "NumpadAdd",
        "NumpadComma",
        "NumpadDecimal",
        "NumpadDivide",
        "NumpadEnter",
        "NumpadEqual",
        "NumpadMultiply",
        "NumpadSubtract",
        "Escape",
        "PrintScreen",
        "ScrollLock",
        "Pause",
        "AudioVolumeDown",
        "AudioVolumeMute",
        "AudioVolumeUp",
        "MediaPlayPause",
        "MediaStop",
        "MediaTrackNext",
        "MediaTrackPrevious",
        "BrowserBack",
        "BrowserForward",
    ]
    return {code.lower(): code for code in [*letters, *digits, *f_keys, *others]}


#: W3C UI Events ``code`` values that may follow ``@``, by their lower-case spelling.
CODES = _codes()
