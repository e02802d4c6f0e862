"""``board``: the keyboard as a picture of text, with what is used and what is free."""

import argparse
from typing import Any

from olive_compass.cli import pick, words
from olive_compass.cli.new_file import picture_options
from olive_compass.cli.parsing import app_argument, json_option, only_option
from olive_compass.cli.surroundings import BOLD, DIM, OFF, YELLOW, Surroundings, width_of
from olive_compass.cli.tables import wrapped
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.devices import device_form
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.schemes.board import (
    BARE,
    BEGINS,
    FREE,
    GUARDED,
    KEPT,
    SHARED,
    SILENT,
    USED,
    BoardKey,
    beside,
    board_keys,
    typed_label,
)
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.wording import counted
from olive_compass.drawing.board_text import SHORT, board_lines, left_out

GROUP = "paper"
ORDER = 20
SUMMARY = "Draw the keyboard: what is used and what is free under some modifiers"
EXAMPLES = """olive-compass board quillmap --mode draw
olive-compass board quillmap --with Ctrl+Shift
olive-compass board tagwright --with Ctrl --ascii
olive-compass board quillmap --mode draw --as png --out board.png"""

MARKS = {
    FREE: "",
    USED: "●",
    BEGINS: "…",
    SILENT: "×",
    GUARDED: "!",
    KEPT: "#",
    SHARED: "&",
    BARE: "–",
}
ASCII_MARKS = {
    FREE: "",
    USED: "*",
    BEGINS: "~",
    SILENT: "x",
    GUARDED: "!",
    KEPT: "#",
    SHARED: "&",
    BARE: "-",
}
COLUMNS = 100


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument(
        "--with",
        dest="held",
        default="",
        metavar="MODIFIERS",
        help="the modifiers held, such as Ctrl+Shift",
    )
    parser.add_argument("--mode", help="the mode one is in (what is taken in any mode)")
    parser.add_argument(
        "--all-held",
        action="store_true",
        help="a board for each group of modifiers that does anything, on one picture",
    )
    picture_options(parser, "picture")
    parser.add_argument("--ascii", action="store_true", help="draw with ASCII signs only")
    only_option(parser)
    json_option(parser)


def run(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    stack = pick.only(at.stack(at.app_name(args.app)), args.only)
    modes = (pick.mode(stack.app, args.mode),) if args.mode else stack.app.modes.names
    keymap = Keymap(stack, at.keyboard)
    held = _held(args.held, keymap)
    if args.form != "text" or args.all_held or args.out:
        from olive_compass.cli.board_pictures import picture

        return picture(args, around, at, keymap, modes)
    devices = [device_form(each) for each in beside(keymap)]
    keys = board_keys(keymap, held, modes, [code for form in devices for code in form.seats])
    labels = {code: _label(keymap, code) for code in keys}
    if args.json:
        around.json(
            {
                "app": stack.app.name,
                "mode": args.mode,
                "modes": list(modes),
                "held": list(held),
                "keys": [
                    {
                        "code": code,
                        "label": labels[code],
                        "state": key.state,
                        "commands": [claim.command or None for claim in key.claims],
                        "bare": [{"command": c, "why": why} for c, why in key.bare],
                        "several": key.shared,
                    }
                    for code, key in keys.items()
                ],
            }
        )
        return 0
    plain = args.ascii or not _can_draw(around)
    marks = {code: (ASCII_MARKS if plain else MARKS)[key.drawn] for code, key in keys.items()}
    form = keymap.keyboard.form
    assert form is not None
    where = words.in_modes(modes) if args.mode else "what is taken in any mode"
    with_ = f" with {'+'.join(held)}" if held else ""
    around.say(
        f"{BOLD}{stack.app.title}{OFF}, {where}{with_} "
        f"{DIM}({form.title}, {at.settings.layout}){OFF}"
    )
    for line in board_lines(form, labels, marks, around.width or COLUMNS, plain):
        around.say(line)
    if lacking := left_out(form, around.width or COLUMNS):
        around.say(
            f"{YELLOW}{counted(len(lacking), 'key')} on the right have no room in "
            f"{around.width} columns{OFF}; what is on them stands in the list."
        )
    for device in devices:
        around.say(f"{DIM}{device.title}{OFF}")
        for line in board_lines(device, labels, marks, around.width or COLUMNS, plain, rows=True):
            around.say(line)
    _legend(keymap, keys, labels, marks, plain, around)
    return 0


def _held(text: str, keymap: Keymap) -> tuple[str, ...]:
    """The modifiers of ``Ctrl+Shift``, read as those of any trigger are."""
    if not text.strip():
        return ()
    return keymap.keyboard.made(read_trigger(f"{text}+F1").strokes[0]).presses[0][0]


def _label(keymap: Keymap, code: str) -> str:
    return typed_label(keymap, code) or SHORT.get(code, code)


def _titled(keymap: Keymap, claim: Claim) -> str:
    """What a claim does; with its mode where that is not all of the application."""
    text = words.meaning(keymap, claim.does) or "muted"
    return text if claim.mode == ROOT else f"{text} ({claim.mode})"


def _can_draw(around: Surroundings) -> bool:
    encoding = getattr(around.out, "encoding", None) or "utf-8"
    return encoding.lower().startswith("utf")


def _legend(
    keymap: Keymap,
    keys: dict[str, BoardKey],
    labels: dict[str, str],
    marks: dict[str, str],
    plain: bool,
    around: Surroundings,
) -> None:
    signs = ASCII_MARKS if plain else MARKS
    states = dict.fromkeys(key.drawn for key in keys.values() if key.drawn != FREE)
    names = {
        USED: "used",
        BEGINS: "typed runs begin with it",
        SILENT: "muted",
        GUARDED: "guarded",
        KEPT: "reserved",
        SHARED: "shared by several",
        BARE: "free, its command is bare",
    }
    around.say(
        DIM + "   ".join([*(f"{signs[s]} {names[s]}" for s in states), "no mark: free"]) + OFF
    )
    entries = []
    for code, key in keys.items():
        titles = list(dict.fromkeys(_titled(keymap, claim) for claim in key.claims))
        titles += [f"{words.title(keymap, c)} is bare: {why}" for c, why in key.bare]
        if titles:
            prefix = (
                "Num"
                if code.startswith("Numpad")
                else code.partition(":")[0] + " "
                if ":" in code
                else ""
            )
            entries.append(f"{prefix}{labels[code]}  {' or '.join(titles)}")
    if not entries:
        return
    room = around.width or COLUMNS
    wide = max(map(width_of, entries)) + 3
    across = max(1, min(4, room // wide))
    down = -(-len(entries) // across)
    if wide > room:
        for entry in entries:
            for line in wrapped(entry, room):
                around.say(line)
        return
    for row in range(down):
        cells = entries[row::down]
        around.say("".join(cell + " " * (wide - width_of(cell)) for cell in cells).rstrip())
