"""Writes the tables of src/olive_compass/data/layouts, or checks them, with the keyboard library.

Usage: python tools/write_layouts.py            (writes all tables)
       python tools/write_layouts.py --check    (compares each key and level; says how many)

The facts come from the open keyboard data (xkb-data) as libxkbcommon compiles it. On Debian:
apt-get install xkb-data libxkbcommon0.
"""

import ctypes
import sys
import tomllib
from ctypes import POINTER, Structure, c_char_p, c_int, c_uint32, c_void_p
from pathlib import Path

FOLDER = Path(__file__).parents[1] / "src" / "olive_compass" / "data" / "layouts"
FORMAT = "olive-compass-layout/1"

#: Our name, the library's layout and variant, the title.
LAYOUTS = (
    ("us", "us", "", "US"),
    ("us-intl", "us", "intl", "US international"),
    ("dvorak", "us", "dvorak", "Dvorak"),
    ("colemak", "us", "colemak", "Colemak"),
    ("uk", "gb", "", "UK"),
    ("german", "de", "", "German"),
    ("swiss", "ch", "", "Swiss German"),
    ("swiss-french", "ch", "fr", "Swiss French"),
    ("austrian", "at", "", "Austrian"),
    ("french", "fr", "", "French"),
    ("belgian", "be", "", "Belgian"),
    ("canadian", "ca", "", "Canadian French"),
    ("spanish", "es", "", "Spanish"),
    ("latin-american", "latam", "", "Latin American"),
    ("italian", "it", "", "Italian"),
    ("portuguese", "pt", "", "Portuguese"),
    ("brazilian", "br", "", "Brazilian"),
    ("dutch", "nl", "", "Dutch"),
    ("danish", "dk", "", "Danish"),
    ("norwegian", "no", "", "Norwegian"),
    ("swedish", "se", "", "Swedish"),
    ("finnish", "fi", "", "Finnish"),
    ("icelandic", "is", "", "Icelandic"),
    ("polish", "pl", "", "Polish"),
    ("czech", "cz", "", "Czech"),
    ("slovak", "sk", "", "Slovak"),
    ("hungarian", "hu", "", "Hungarian"),
    ("croatian", "hr", "", "Croatian"),
    ("romanian", "ro", "", "Romanian"),
    ("turkish", "tr", "", "Turkish"),
    ("russian", "ru", "", "Russian"),
    ("ukrainian", "ua", "", "Ukrainian"),
    ("greek", "gr", "", "Greek"),
    ("japanese", "jp", "", "Japanese"),
)


def _row(keys: str, codes: str) -> dict[str, str]:
    first, last = keys[:2], int(keys[4:6])
    return {
        f"{first}{n:02}": code for n, code in zip(range(1, last + 1), codes.split(), strict=True)
    }


#: The library's names of keys that type characters, to their W3C UI Events codes.
CODES = {
    "TLDE": "Backquote",
    **_row("AE..13", "Digit1 Digit2 Digit3 Digit4 Digit5 Digit6 Digit7 Digit8 Digit9 Digit0 "
           "Minus Equal IntlYen"),
    **_row("AD..12", "KeyQ KeyW KeyE KeyR KeyT KeyY KeyU KeyI KeyO KeyP BracketLeft BracketRight"),
    **_row("AC..11", "KeyA KeyS KeyD KeyF KeyG KeyH KeyJ KeyK KeyL Semicolon Quote"),
    "BKSL": "Backslash",
    "LSGT": "IntlBackslash",
    **_row("AB..11", "KeyZ KeyX KeyC KeyV KeyB KeyN KeyM Comma Period Slash IntlRo"),
    "KPDL": "NumpadDecimal",
}  # fmt: skip

#: Modifiers held at each level.
LEVELS = ((), ("Shift",), ("Mod5",), ("Shift", "Mod5"))


class Names(Structure):
    _fields_ = [(name, c_char_p) for name in ("rules", "model", "layout", "variant", "options")]


def library() -> ctypes.CDLL:
    lib = ctypes.CDLL("libxkbcommon.so.0")
    for name, result, arguments in (
        ("xkb_context_new", c_void_p, [c_int]),
        ("xkb_keymap_new_from_names", c_void_p, [c_void_p, POINTER(Names), c_int]),
        ("xkb_keymap_key_by_name", c_uint32, [c_void_p, c_char_p]),
        ("xkb_keymap_mod_get_index", c_uint32, [c_void_p, c_char_p]),
        ("xkb_state_new", c_void_p, [c_void_p]),
        ("xkb_state_update_mask", c_int, [c_void_p] + [c_uint32] * 6),
        ("xkb_state_key_get_one_sym", c_uint32, [c_void_p, c_uint32]),
        ("xkb_keysym_to_utf32", c_uint32, [c_uint32]),
        ("xkb_keysym_get_name", c_int, [c_uint32, c_char_p, ctypes.c_size_t]),
    ):
        function = getattr(lib, name)
        function.restype, function.argtypes = result, arguments
    return lib


def table(lib: ctypes.CDLL, layout: str, variant: str) -> dict[str, list[str]]:
    """What each key types at each level; ``none`` for nothing, ``dead:X`` for a dead key.

    Levels at the end that type nothing, and those that AltGr does not change, are left out.
    """
    names = Names(b"evdev", b"pc105", layout.encode(), variant.encode(), b"")
    keymap = lib.xkb_keymap_new_from_names(lib.xkb_context_new(0), ctypes.byref(names), 0)
    state = lib.xkb_state_new(keymap)
    # The numeric pad types its signs with Num Lock on.
    lock = 1 << lib.xkb_keymap_mod_get_index(keymap, b"Mod2")
    found = {}
    for name, code in CODES.items():
        key = lib.xkb_keymap_key_by_name(keymap, name.encode())
        texts = []
        for level in LEVELS:
            mask = sum(1 << lib.xkb_keymap_mod_get_index(keymap, each.encode()) for each in level)
            lib.xkb_state_update_mask(
                state, mask, 0, lock if code.startswith("Num") else 0, 0, 0, 0
            )
            texts.append(text_of(lib, lib.xkb_state_key_get_one_sym(state, key)))
        if code.startswith("Num"):
            texts = texts[:1]
        if texts[2:] == texts[:2]:
            # AltGr makes no difference here: the key has two levels.
            del texts[2:]
        while texts and texts[-1] == "none":
            texts.pop()
        if texts:
            found[code] = texts
    return found


#: Dead keys that the library gives no character of their own for.
DEAD = {
    "grave": "`", "acute": "´", "circumflex": "^", "tilde": "~", "macron": "¯", "breve": "˘",
    "abovedot": "˙", "diaeresis": "¨", "abovering": "˚", "doubleacute": "˝", "caron": "ˇ",
    "cedilla": "¸", "ogonek": "˛", "iota": "ͺ", "belowdot": "̣", "hook": "̉", "horn": "̛",
    "stroke": "/", "currency": "¤", "greek": "µ", "belowcomma": "̦", "abovecomma": "ʼ",
    "abovereversedcomma": "ʽ", "doublegrave": "̏", "invertedbreve": "̑", "belowmacron": "ˍ",
}  # fmt: skip


def text_of(lib: ctypes.CDLL, keysym: int) -> str:
    char = lib.xkb_keysym_to_utf32(keysym)
    if char > 32 and char != 127 and chr(char).isprintable():
        return chr(char)
    buffer = ctypes.create_string_buffer(64)
    lib.xkb_keysym_get_name(keysym, buffer, 64)
    name = buffer.value.decode()
    if name.startswith("dead_"):
        return "dead:" + DEAD.get(name[5:], name[5:])
    return "none"


def text(title: str, layout: str, variant: str, keys: dict[str, list[str]]) -> str:
    lines = "\n".join(" ".join((code, *texts)) for code, texts in keys.items())
    source = f"xkb layout {layout}" + (f", variant {variant}" if variant else "")
    return (
        f'format = "{FORMAT}"\ntitle = "{title}"\nsource = "{source}"\n'
        "# A line a key: its W3C code, and what it types plain, with Shift, with AltGr, with both.\n"
        f"keys = '''\n{lines}\n'''\n"
    )


def main() -> int:
    lib = library()
    checked = wrong = 0
    for name, layout, variant, title in LAYOUTS:
        path = FOLDER / f"{name}.toml"
        keys = table(lib, layout, variant)
        if "--check" not in sys.argv:
            path.write_text(text(title, layout, variant, keys), encoding="utf-8")
            continue
        lines = tomllib.loads(path.read_text(encoding="utf-8"))["keys"].strip().splitlines()
        shipped = {line.split(" ")[0]: line.split(" ")[1:] for line in lines}
        for code in CODES.values():
            for level in range(4):
                ours, theirs = shipped.get(code, []), keys.get(code, [])
                checked += 1
                if (ours[level : level + 1] or ["none"]) != (theirs[level : level + 1] or ["none"]):
                    wrong += 1
                    print(f"{name} {code} level {level + 1}: {ours} is {theirs} in the library")
    if "--check" in sys.argv:
        print(f"{checked} levels of {len(LAYOUTS)} layouts compared, {wrong} differ")
    return 1 if wrong else 0


if __name__ == "__main__":
    raise SystemExit(main())
