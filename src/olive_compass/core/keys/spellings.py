"""The names of modifiers and keys that people and applications write, each with ours.

Sources: those of ``names``, the key symbols of the X Window System, and the words of other languages in ``words``.
"""

from olive_compass.core.keys.key_words import KEY_WORDS
from olive_compass.core.keys.words import MODIFIER_WORDS, by_word

#: Spelling in lower case, or a sign, to the modifier that we write.
MODIFIER_SPELLINGS = {
    "main": "Main",
    "cmdorctrl": "Main",
    "commandorcontrol": "Main",
    "ctrlorcmd": "Main",
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

#: The key that we write, with the other spellings of it (lower case, words separated by one space).
_SPELLINGS = {
    "Space": "spacebar space_bar ␣ ␠ blank",
    "Enter": "return ret ⏎ ↩ ↵ linefeed",
    "Tab": "⇥ ↹ tabulator tabulator_key",
    "Escape": "esc ⎋ escape_key",
    "Backspace": "⌫ back_space bksp bkspc",
    "Delete": "del ⌦ forward_delete fwd_del suppr entf",
    "Insert": "ins einfg insert_key",
    "Home": "↖ pos1",
    "End": "↘",
    "PageUp": "page_up pgup pg_up ⇞",
    "PageDown": "page_down pgdn pg_dn pgdown pg_down ⇟",
    "Up": "↑ ▴ ▲ up_arrow arrow_up arrowup uparrow cursor_up",
    "Down": "↓ ▾ ▼ down_arrow arrow_down arrowdown downarrow cursor_down",
    "Left": "← ◂ ◀ ◄ left_arrow arrow_left arrowleft leftarrow cursor_left",
    "Right": "→ ▸ ▶ ► right_arrow arrow_right arrowright rightarrow cursor_right",
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
    "VolumeUp": "audiovolumeup volume_up xf86audioraisevolume",
    "VolumeDown": "audiovolumedown volume_down xf86audiolowervolume",
    "VolumeMute": "audiovolumemute mute volume_mute xf86audiomute",
    "MediaPlay": "mediaplaypause media_play play_pause play/pause media_play/pause media_play_pause xf86audioplay",
    "MediaStop": "media_stop xf86audiostop",
    "MediaNext": "mediatracknext media_next next_track xf86audionext",
    "MediaPrevious": "mediatrackprevious media_previous previous_track xf86audioprev",
    "BrowserBack": "browser_back xf86back",
    "BrowserForward": "browser_forward xf86forward",
    "BrowserRefresh": "browser_refresh browser_reload xf86refresh",
    "BrowserStop": "browser_stop xf86stop",
    "BrowserSearch": "browser_search xf86search",
    "BrowserFavorites": "browser_favorites browser_favourites xf86favorites",
    "BrowserHome": "browser_home xf86homepage",
    "LaunchMail": "launch_mail mail_key xf86mail",
    "MediaSelect": "launchmediaplayer media_select launch_media_player xf86audiomedia",
    "Eject": "⏏ eject_key xf86eject",
    "Sleep": "sleep_key xf86sleep",
    "Power": "power_key xf86poweroff",
    "+": "plus plus_sign",
    "-": "minus minus_sign hyphen dash – −",
    "=": "equal equals equal_sign equals_sign",
    ",": "comma",
    ".": "period dot full_stop point",
    "/": "slash forward_slash",
    "\\": "backslash back_slash",
    ";": "semicolon",
    ":": "colon",
    "'": "apostrophe quote single_quote single_quotation_mark ’",
    '"': "quotedbl double_quote quotation_mark double_quotation_mark",
    "`": "grave backtick back_tick backquote back_quote grave_accent",
    "[": "bracketleft left_bracket open_bracket opening_bracket left_square_bracket open_square_bracket",
    "]": "bracketright right_bracket close_bracket closing_bracket right_square_bracket close_square_bracket",
    "{": "braceleft left_brace open_brace left_curly_bracket",
    "}": "braceright right_brace close_brace right_curly_bracket",
    "<": "less less_than less_than_sign left_angle_bracket",
    ">": "greater greater_than greater_than_sign right_angle_bracket",
    "?": "question question_mark",
    "!": "exclam exclamation_mark",
    "@": "at",
    "#": "numbersign number_sign hash hash_sign pound_sign",
    "$": "dollar dollar_sign",
    "%": "percent percent_sign",
    "^": "asciicircum caret",
    "&": "ampersand",
    "*": "asterisk star",
    "(": "parenleft left_parenthesis open_parenthesis",
    ")": "parenright right_parenthesis close_parenthesis",
    "_": "underscore underline",
    "|": "bar pipe vertical_bar",
    "~": "asciitilde tilde",
}


#: What manuals call the block of digits, and what they call the keys on it that are no digits.
_PADS = (
    "num",
    "numpad",
    "num pad",
    "number pad",
    "numeric",
    "numeric pad",
    "numeric keypad",
    "number keypad",
    "keypad",
    "pad",
)
_PAD_KEYS = {
    "Num+": ("+", "plus", "add", "plus sign"),
    "Num-": ("-", "minus", "subtract", "minus sign"),
    "Num*": ("*", "times", "multiply", "multiple", "multiplication", "asterisk", "star"),
    "Num/": ("/", "divide", "division", "slash", "÷"),
    "Num.": (".", "period", "dot", "point", "decimal"),
    "Num,": (",", "comma"),
    "Num=": ("=", "equal", "equals"),
    "NumEnter": ("enter", "return"),
}


def _pad_spellings() -> dict[str, str]:
    """How the keys of the numeric pad are written."""
    table: dict[str, str] = {}
    for n in range(10):
        for prefix in ("num", "num ", "num+", "num + ", "numpad", "kp_", "kp "):
            table[f"{prefix}{n}"] = f"Num{n}"
    for pad in _PADS:
        table |= {f"{pad} {n}": f"Num{n}" for n in range(10)}
        for key, names in _PAD_KEYS.items():
            table |= {f"{pad} {name}": key for name in names}
    return table


def _key_spellings() -> dict[str, str]:
    table: dict[str, str] = {}
    for name, others in _SPELLINGS.items():
        table[name.lower()] = name
        for other in others.split():
            table[other.replace("_", " ") if len(other) > 1 else other] = name
            table[other] = name
            if "_" in other and len(other) > 3:
                table.setdefault(other.replace("_", ""), name)
    # What we write ourselves comes before any word of another language.
    table = {**by_word(KEY_WORDS), **table, **{f"f{n}": f"F{n}" for n in range(1, 36)}}
    table |= _pad_spellings()
    # Capitals and back again are other letters in some languages: AŞAĞI is no aşağı.
    for name in [each for each in table if not each.isascii()]:
        table.setdefault(name.upper().lower(), table[name])
    return table


#: Spelling in lower case to the key that we write.
KEY_SPELLINGS = _key_spellings()
