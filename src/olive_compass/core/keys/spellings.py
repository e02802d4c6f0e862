"""The names of modifiers and keys that people and applications write, each with ours.

Sources: those of ``names``, and the words of other languages in ``words``.
"""

from olive_compass.core.keys.words import KEY_WORDS, MODIFIER_WORDS, by_word

#: Spelling in lower case, or a sign, to the modifier that we write.
MODIFIER_SPELLINGS = {
    "main": "Main",
    "ctrl": "Ctrl",
    "control": "Ctrl",
    "ctl": "Ctrl",
    "strg": "Ctrl",
    "alt": "Alt",
    "option": "Alt",
    "opt": "Alt",
    "altgr": "AltGr",
    "altgraph": "AltGr",
    "shift": "Shift",
    "shft": "Shift",
    "umschalt": "Shift",
    "meta": "Meta",
    "cmd": "Meta",
    "command": "Meta",
    "win": "Meta",
    "windows": "Meta",
    "super": "Meta",
    "logo": "Meta",
    **by_word(MODIFIER_WORDS),
}

#: The key that we write, with the other spellings of it (lower case, words parted by one space).
_SPELLINGS = {
    "Space": "spacebar space bar ␣ ␠",
    "Enter": "return ret ⏎ ↩ ↵ linefeed",
    "Tab": "⇥ tabulator",
    "Escape": "esc ⎋",
    "Backspace": "⌫ back_space bksp bkspc",
    "Delete": "del ⌦ forward_delete suppr entf",
    "Insert": "ins einfg",
    "Home": "↖ pos1",
    "End": "↘",
    "PageUp": "page_up pgup pg_up ⇞",
    "PageDown": "page_down pgdn pg_dn pgdown pg_down ⇟",
    "Up": "↑ up_arrow arrow_up arrowup uparrow cursor_up",
    "Down": "↓ down_arrow arrow_down arrowdown downarrow cursor_down",
    "Left": "← left_arrow arrow_left arrowleft leftarrow cursor_left",
    "Right": "→ right_arrow arrow_right arrowright rightarrow cursor_right",
    "CapsLock": "caps_lock ⇪ caps",
    "NumLock": "num_lock ⇭",
    "ScrollLock": "scroll_lock",
    "PrintScreen": "print_screen prtsc prtscn prt_scr print",
    "Pause": "break",
    "ContextMenu": "context_menu menu application menu_key",
    "Help": "",
    "Clear": "⌧",
    "NumEnter": "num_enter numpadenter numpad_enter kp_enter ⌤ keypad_enter",
    "Num+": "num_+ numpadadd numpad_+ kp_add num_plus keypad_+ num_add",
    "Num-": "num_- numpadsubtract numpad_- kp_subtract num_minus keypad_- num_subtract",
    "Num*": "num_* numpadmultiply numpad_* kp_multiply keypad_* num_multiply",
    "Num/": "num_/ numpaddivide numpad_/ kp_divide keypad_/ num_divide",
    "Num.": "num_. numpaddecimal numpad_. kp_decimal keypad_. num_decimal",
    "Num,": "num_, numpadcomma numpad_, kp_separator keypad_, num_comma",
    "Num=": "num_= numpadequal numpad_= kp_equal keypad_= num_equal",
    "VolumeUp": "audiovolumeup volume_up",
    "VolumeDown": "audiovolumedown volume_down",
    "VolumeMute": "audiovolumemute mute volume_mute",
    "MediaPlay": "mediaplaypause media_play play_pause",
    "MediaStop": "media_stop",
    "MediaNext": "mediatracknext media_next next_track",
    "MediaPrevious": "mediatrackprevious media_previous previous_track",
    "BrowserBack": "browser_back",
    "BrowserForward": "browser_forward",
    "+": "plus",
    "-": "minus hyphen – −",
    "=": "equal equals",
    ",": "comma",
    ".": "period dot full_stop",
    "/": "slash",
    "\\": "backslash",
    ";": "semicolon",
    ":": "colon",
    "'": "apostrophe quote ’",
    '"': "quotedbl double_quote",
    "`": "grave backtick backquote",
    "[": "bracketleft left_bracket",
    "]": "bracketright right_bracket",
    "{": "braceleft",
    "}": "braceright",
    "<": "less less_than",
    ">": "greater greater_than",
    "?": "question question_mark",
    "!": "exclam exclamation_mark",
    "@": "at",
    "#": "numbersign hash",
    "$": "dollar",
    "%": "percent",
    "^": "asciicircum caret",
    "&": "ampersand",
    "*": "asterisk star",
    "(": "parenleft",
    ")": "parenright",
    "_": "underscore",
    "|": "bar pipe",
    "~": "asciitilde tilde",
}


def _key_spellings() -> dict[str, str]:
    table: dict[str, str] = {}
    for name, others in _SPELLINGS.items():
        table[name.lower()] = name
        for other in others.split():
            table[other.replace("_", " ") if len(other) > 1 else other] = name
            table[other] = name
    # What we write ourselves comes before any word of another language.
    table = {**by_word(KEY_WORDS), **table}
    for n in range(1, 36):
        table[f"f{n}"] = f"F{n}"
    for n in range(10):
        for prefix in (
            "num",
            "num ",
            "num+",
            "num + ",
            "numpad",
            "numpad ",
            "kp_",
            "kp ",
            "keypad ",
        ):
            table[f"{prefix}{n}"] = f"Num{n}"
    return table


#: Spelling in lower case to the key that we write.
KEY_SPELLINGS = _key_spellings()
