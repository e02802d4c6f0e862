"""``board`` at the terminal and as JSON."""

from collections.abc import Mapping, Sequence
from functools import partial

from msgspec import Struct

from olive_compass.cli.looking.boards import heat_text
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, OFF, YELLOW, width_of, wrapped
from olive_compass.core.answers.board import BoardQuery, KeyAnswer, keys_with
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.devices import device_form
from olive_compass.core.schemes.board import (
    BEGINS,
    FREE,
    GUARDED,
    KEPT,
    KEYLESS,
    SHARED,
    SILENT,
    USED,
    BoardKey,
    beside,
    shown_label,
)
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.meanings import meaning_or_muted, title_of
from olive_compass.core.wording import by_number, counted
from olive_compass.desk.desk import Desk
from olive_compass.drawing.board_text import SHORT, board_lines, left_out
from olive_compass.errors import UserError

MARKS = {
    FREE: "",
    USED: "●",
    BEGINS: "…",
    SILENT: "×",
    GUARDED: "!",
    KEPT: "#",
    SHARED: "&",
    KEYLESS: "–",
}
ASCII_MARKS = {
    FREE: "",
    USED: "*",
    BEGINS: "~",
    SILENT: "x",
    GUARDED: "!",
    KEPT: "#",
    SHARED: "&",
    KEYLESS: "-",
}
COLUMNS = 100


def print_boards(
    as_json: bool,
    ascii: bool,
    mode: str | None,
    context: Surroundings,
    desk: Desk,
    what: BoardQuery,
) -> int:
    """Runs ``board`` at the terminal or as JSON, a board for each group of modifiers."""
    # One document is what every command gives: two would be read as none.
    if as_json and len(what.groups) > 1:
        raise UserError("JSON is of one board.", hint="Use --with once.")
    devices = [device_form(each) for each in beside(what.keymap)]
    codes = [code for form in devices for code in form.seats]
    for n, held in enumerate(what.groups):
        found = keys_with(what, held, codes)
        if as_json:
            from olive_compass.desk.reported.board import board_report

            context.json(board_report(mode, what, held, found, partial(_label, what.keymap)))
            break
        if n:
            context.say()
        _print(ascii, context, desk, what, held, found)
    return 0


def _print(
    ascii: bool,
    context: Surroundings,
    desk: Desk,
    what: BoardQuery,
    held: tuple[str, ...],
    found: Mapping[str, tuple[BoardKey, KeyAnswer]],
) -> None:
    keymap = what.keymap
    labels = {code: _label(keymap, code) for code in found}
    plain = ascii or not _can_draw(context)
    signs = MARKS
    if plain:
        signs = ASCII_MARKS
    differs = "/" if plain else "≠"
    marks = {
        code: signs[key.drawn] + (differs if told.was is not None else "")
        for code, (key, told) in found.items()
    }
    _print_boards(
        keymap, Drawn(labels, marks, plain), held, what.where, desk.settings.layout, context
    )
    _legend(keymap, found, labels, signs, context)
    if what.against:
        count = sum(told.was is not None for _, told in found.values())
        says = "No key does"
        if count:
            says = f"{counted(count, 'key')} {by_number(count, 'does', 'do')}"
        context.say(f"{says} something else than in {what.knows}.")


class Drawn(Struct, frozen=True):
    """What stands on each key, by code, and whether only ASCII can be shown."""

    labels: Mapping[str, str]
    marks: Mapping[str, str]
    plain: bool


def _print_boards(
    keymap: Keymap,
    drawn: Drawn,
    held: tuple[str, ...],
    where: str,
    layout: str,
    context: Surroundings,
) -> None:
    """The keyboard, and under it the devices that lie beside it."""
    form = keymap.keyboard.form
    assert form is not None
    labels, marks, plain = drawn.labels, drawn.marks, drawn.plain
    with_ = ""
    if held:
        with_ = f" with {'+'.join(held)}"
    context.say(f"{BOLD}{keymap.app.title}{OFF}, {where}{with_} {DIM}({form.title}, {layout}){OFF}")
    for line in board_lines(form, labels, marks, context.width or COLUMNS, plain):
        context.say(line)
    if lacking := left_out(form, context.width or COLUMNS):
        context.say(
            f"{YELLOW}{counted(len(lacking), 'key')} on the right have no room in "
            f"{context.width} columns{OFF}; see them in the list."
        )
    for device in (device_form(each) for each in beside(keymap)):
        context.say(f"{DIM}{device.title}{OFF}")
        for line in board_lines(device, labels, marks, context.width or COLUMNS, plain, rows=True):
            context.say(line)


def _label(keymap: Keymap, code: str) -> str:
    return shown_label(keymap, code, SHORT)


def _titled(keymap: Keymap, claim: Claim) -> str:
    """What a claim does; with its mode where that is not all of the application."""
    text = meaning_or_muted(keymap, claim.does)
    if claim.mode == ROOT:
        return text
    return f"{text} ({claim.mode})"


def _can_draw(context: Surroundings) -> bool:
    encoding = getattr(context.out, "encoding", None) or "utf-8"
    return encoding.lower().startswith("utf")


def _legend(
    keymap: Keymap,
    found: Mapping[str, tuple[BoardKey, KeyAnswer]],
    labels: Mapping[str, str],
    signs: Mapping[str, str],
    context: Surroundings,
) -> None:
    states = dict.fromkeys(key.drawn for key, _ in found.values() if key.drawn != FREE)
    names = {
        USED: "used",
        BEGINS: "typed sequences begin with it",
        SILENT: "muted",
        GUARDED: "guarded",
        KEPT: "reserved",
        SHARED: "shared by several",
        KEYLESS: "free, its command is keyless",
    }
    context.say(
        DIM + "   ".join([*(f"{signs[s]} {names[s]}" for s in states), "no mark: free"]) + OFF
    )
    # A cap has room for a sign only: what is on the keys stands below, in as many columns as fit.
    entries = [
        f"{_beside(code)}{labels[code]}  {said}"
        for code, (key, told) in found.items()
        if (said := _said_of(keymap, key, told))
    ]
    if entries:
        _print_columns(entries, context)


def _said_of(keymap: Keymap, key: BoardKey, told: KeyAnswer) -> str:
    """What a key does, what it did before, and how often it is pressed; ``""``: nothing to say."""
    titles = list(dict.fromkeys(_titled(keymap, claim) for claim in key.claims))
    titles += [f"{title_of(keymap, c)} is keyless: {why}" for c, why in key.keyless]
    said = " or ".join(titles)
    if told.was is not None:
        said = f"{said or 'nothing'}, was {told.was}"
    if said and told.uses is not None:
        return f"{said}  {heat_text(told)}"
    return said


def _beside(code: str) -> str:
    """What stands before the label of a key that is not one of the main block."""
    if code.startswith("Numpad"):
        return "Num"
    device, colon, _ = code.partition(":")
    if colon:
        return f"{device} "
    return ""


def _print_columns(entries: Sequence[str], context: Surroundings) -> None:
    """The entries from top to bottom, in as many columns as there is room for."""
    room = context.width or COLUMNS
    wide = max(map(width_of, entries)) + 3
    across = max(1, min(4, room // wide))
    down = -(-len(entries) // across)
    if wide > room:
        for entry in entries:
            for line in wrapped(entry, room):
                context.say(line)
        return
    for row in range(down):
        cells = entries[row::down]
        context.say("".join(cell + " " * (wide - width_of(cell)) for cell in cells).rstrip())
