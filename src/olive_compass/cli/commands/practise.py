"""``practise``: a few minutes with the keys that the hand forgets, or the ten to learn on paper."""

import argparse
from collections.abc import Callable
from typing import Any

from olive_compass.cli import exit_status, pick, words
from olive_compass.cli.changing.saving import retry_on_conflict
from olive_compass.cli.looking.tallies import since_and_seat, usage_for
from olive_compass.cli.options import (
    WriteOptions,
    app_argument,
    dry_run_option,
    json_option,
    most_option,
)
from olive_compass.cli.output.papers import Wanted, paper_options, table_options, wanted
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, GREEN, OFF, RED
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Run, Stroke
from olive_compass.core.savings.practising import Box, Card, after, cards, is_right, read_box
from olive_compass.core.schemes.deciding import NOTHING, Keymap
from olive_compass.core.wording import capital, counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import seat_file
from olive_compass.desk.storage.saving import write_on_desk
from olive_compass.errors import UserError

GROUP = "save time"
ORDER = 40
SUMMARY = "Practise the keys of commands that you still start by menu"
EXAMPLES = """olive-compass practise quillmap --sheet
olive-compass practise quillmap --sheet --as pdf --out learn.pdf
olive-compass practise quillmap --most 5"""

#: How many cards a session has, and the sheet.
MOST = 10


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument(
        "--sheet", action="store_true", help="print the ten cards to learn; ask nothing"
    )
    most_option(parser, MOST)
    since_and_seat(parser)
    dry_run_option(parser)
    table_options(parser)
    json_option(parser)
    paper_options(parser, "a6, landscape")


class PractiseOptions(WriteOptions, kw_only=True):
    """The options of ``practise``."""

    app: str
    sheet: bool
    most: int | None
    since: str
    seat: str
    form: str
    out: str | None
    paper: str | None
    landscape: bool
    size: float | None


def run(args: PractiseOptions, context: Surroundings) -> int:
    asked = wanted(args, context, json=args.json, dry_run=args.dry_run)
    if asked.form != "text" and not args.sheet:
        raise UserError("A form is for the list of what to learn.", hint="Use --sheet with it.")
    desk = pick.desk(args, context)
    app = desk.app_name(args.app)
    keymap = Keymap(desk.stack(app), desk.keyboard)
    tally = usage_for(desk, app, args.since, args.seat).tally
    boxes = {c: read_box(text) for c, text in desk.seat.practice.get(app, {}).items()}
    today = context.now().date().isoformat()
    due = cards(keymap, tally, boxes, today)[: args.most or MOST]
    if args.json:
        context.json({"app": app, "cards": [_as_json(keymap, each) for each in due]})
        return exit_status.found(due)
    if not due:
        context.say(f"Nothing is due today in {keymap.app.title}: what has a key is pressed.")
        return 1
    if not args.sheet:
        _practise(args, context, keymap, due, today)
    elif asked.form == "text":
        _sheet(context, keymap, due)
    else:
        _card(asked, context, desk, keymap, due)
    return 0


def _practise(
    args: PractiseOptions, context: Surroundings, keymap: Keymap, due: list[Card], today: str
) -> None:
    """Goes through the cards, and keeps what was known."""
    # A class can be taught from a file of answers: what is piped in is read a line a card.
    if context.interactive:
        reads = _at_terminal(context, keymap)
    else:
        reads = _from_pipe(context, keymap)
    done = _session(context, keymap, due, reads, today)
    if done and not args.dry_run:
        retry_on_conflict(lambda: _keep(args.desk, context, keymap.app.name, done), context)
    right = sum(box.number > 1 for box in done.values())
    kept = "The boxes stay on this computer."
    if args.dry_run:
        kept = "Dry run: nothing was written."
    context.say(f"{right} of {counted(len(done), 'command')} known. {kept}")


def _as_json(keymap: Keymap, card: Card) -> dict[str, Any]:
    return {
        "command": card.command,
        "title": keymap.app.shown(card.command),
        "keys": list(map(str, card.keys)),
        "times-by-menu": card.used.by_menu if card.used else 0,
        "box": card.box.number,
        "due": card.box.due or None,
    }


def _sheet(context: Surroundings, keymap: Keymap, due: list[Card]) -> None:
    context.say(f"{BOLD}{keymap.app.title}: to learn this week{OFF}")
    known = keymap.app.catalogue.by_id
    print_table(
        context,
        ("key", "title", "menu", "by menu", "box"),
        [
            (
                " or ".join(map(context.key, card.keys)),
                keymap.app.shown(card.command),
                " > ".join(known[card.command].menu),
                counted(card.used.by_menu, "time") if card.used else "",
                str(card.box.number),
            )
            for card in due
        ],
    )


def _card(
    asked: Wanted, context: Surroundings, desk: Desk, keymap: Keymap, due: list[Card]
) -> None:
    """The ten to learn as a card to lay beside the keyboard."""
    from olive_compass.cli.output.forms import Matter, give_table
    from olive_compass.drawing.documents import Cell, Table
    from olive_compass.drawing.key_caps import printed

    known = keymap.app.catalogue.by_id
    rows = tuple(
        (
            Cell("", tuple(printed(run, context.key) for run in card.keys)),
            Cell(keymap.app.shown(card.command)),
            Cell(" > ".join(known[card.command].menu)),
            Cell(counted(card.used.by_menu, "time") if card.used else ""),
        )
        for card in due
    )
    day = context.now().date().isoformat()
    matter = Matter(f"{keymap.app.title}: to learn this week", f"{desk.settings.name} · {day}")
    table = Table(("key", "command", "menu", "by menu"), rows)
    give_table(asked, context, matter, table, "a6", lying=not asked.paper)


Read = Callable[[], Run | None]


def _session(
    context: Surroundings, keymap: Keymap, due: list[Card], read: Read, today: str
) -> dict[str, Box]:
    """Asks for each card's key once; gives the boxes of those that were answered."""
    done: dict[str, Box] = {}
    context.say(f"{counted(len(due), 'command')}. Press the key of each; Escape twice ends.")
    for n, card in enumerate(due, 1):
        often = ""
        if card.used:
            often = f", by menu {counted(card.used.by_menu, 'time')}"
        context.say(
            f"{n}. {BOLD}{keymap.app.shown(card.command)}{OFF} {DIM}(box {card.box.number}{often}){OFF}"
        )
        pressed = read()
        if pressed is None:
            break
        right = is_right(keymap, card, pressed)
        done[card.command] = after(card.box, right, today)
        keys = " or ".join(map(context.key, card.keys))
        if right:
            context.say(f"   {GREEN}{context.key(pressed)}{OFF}: right.")
        else:
            says = _what_it_does(keymap, pressed)
            context.say(f"   {RED}{context.key(pressed)}{OFF} {says}; it is {BOLD}{keys}{OFF}.")
    return done


def _what_it_does(keymap: Keymap, pressed: Run) -> str:
    """What the wrong press does, where it does something."""
    texts: dict[str, None] = {}
    for mode in keymap.app.modes.names:
        outcome = keymap.decide(pressed, mode)
        if outcome.what != NOTHING:
            texts[words.outcome_text(keymap, outcome)] = None
    if texts:
        return f"is {' or '.join(list(texts)[:2])}"
    return "does nothing"


def _at_terminal(context: Surroundings, keymap: Keymap) -> Read:
    from olive_compass.cli.terminal import pressing

    most = keymap.app.rules.longest_sequence

    def wait(strokes: tuple[Stroke, ...]) -> float:
        if len(strokes) < most:
            return pressing.wait_of(keymap.app)
        return 0.0

    def read() -> Run | None:
        strokes = pressing.read(context, wait)
        if strokes:
            return Run(strokes)
        return None

    return read


def _from_pipe(context: Surroundings, keymap: Keymap) -> Read:
    """Keys in words, a line each, where no terminal is; the end of input ends the session."""

    def read() -> Run | None:
        text = context.inp.readline()
        if not text.strip():
            return None
        try:
            return pick.trigger(keymap.app, text.strip())
        except TriggerError as error:
            raise UserError(f"{capital(error)}.") from error

    return read


def _keep(folder: str | None, context: Surroundings, app: str, done: dict[str, Box]) -> int:
    """Writes the boxes to the seat's file. Practice is no change of the desk: undo leaves it alone."""

    desk = pick.open_desk(folder, context)
    data = desk.bytes_or_none(seat_file.SEAT_FILE)
    for command, box in done.items():
        data = seat_file.with_value(data, f"practice.{app}", command, str(box))
    try:
        write_on_desk(desk.root, seat_file.SEAT_FILE, data or b"")
    except OSError as error:
        raise UserError(
            f"The boxes cannot be kept: {error.strerror}.", file=seat_file.SEAT_FILE
        ) from error
    return 0
