"""What is asked at a terminal while a listing is imported: the file, what is in doubt, and whether it was understood.

Each question shows rows of the listing as they would be read by either answer; what was said is kept.
"""

import os
from collections.abc import Sequence
from typing import Any

from olive_compass.cli.files import STANDARD_INPUT, read_file
from olive_compass.cli.intake.guesses import rule_text
from olive_compass.cli.intake.reading import spelt
from olive_compass.cli.intake.report import MOST_SHOWN
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.apps.app import Command
from olive_compass.core.apps.columns import Columns
from olive_compass.core.apps.guesses import Guess
from olive_compass.core.apps.listing_result import Listing
from olive_compass.core.apps.listing_row import Groups, Headings, Row, widest
from olive_compass.core.apps.modes import ROOT, joined
from olive_compass.core.apps.rules import DUPLICATES
from olive_compass.core.keys.new_words import Unknown
from olive_compass.core.keys.written_cells import write_cell
from olive_compass.core.wording import by_number, capital, counted
from olive_compass.counts import parse_count
from olive_compass.desk.importing.readings import ReadingOptions
from olive_compass.errors import UserError
from olive_compass.structs import replace

#: How many rows are shown to say whether they were understood.
MOST_ROWS_SHOWN = 5

#: The fields that are asked for where they were not, and what is said of each.
_ASKED = {"title": "the titles", "keys": "the keys", "menu": "the menus"}


def ask_for_listing(context: Surroundings, app: str) -> tuple[str, bytes]:
    """The path and the content of a listing that is named, or pasted, at the terminal."""
    context.say(f"Which file lists the commands of {app}? Type its name,")
    context.say("or paste the list and press Ctrl-D on an empty line.")
    while True:
        first = context.ask("File name or list?")
        name = first.strip().strip("\"'")
        if not name:
            raise UserError("No list was given; nothing was changed.")
        path = os.path.expanduser(name)
        if os.path.isfile(os.path.join(context.folder, path)):
            return path, read_file(context, path, "The listing")
        if not _may_be_path(name):
            rest = read_file(context, STANDARD_INPUT)
            return STANDARD_INPUT, first.encode() + b"\n" + rest
        context.say(f"There is no file {name}.")


def _may_be_path(text: str) -> bool:
    """Whether what was typed looks like the name of a file, and like no line of a listing."""
    ending = os.path.splitext(text)[1]
    return " " not in text and ("/" in text or 2 <= len(ending) <= 6)


def ask_words(context: Surroundings, unknown: Sequence[Unknown]) -> dict[str, str]:
    """What a person says of the words that nobody knows, one by one."""
    found = {}
    for each in unknown[:MOST_SHOWN]:
        question = "Which key is it? [type it; Enter: leave it]"
        if each.proposal:
            may_be = each.proposal.removesuffix("+")
            question = f"Is it {may_be}? [y: yes, or type the key; Enter: leave it]"
        times = counted(each.times, "time")
        answer = context.ask(f"“{each.word}” occurs {times}, as in “{each.sample}”. {question}")
        ours = _answered(context, each, answer)
        if ours:
            word, key = spelt(f"{each.word}={ours}")
            found[word] = key
    return found


def _answered(context: Surroundings, each: Unknown, answer: str) -> str:
    """What a word means by the answer, ``""``: it is left. What cannot be read is asked once more."""
    while True:
        if answer.lower() in ("y", "yes"):
            return each.proposal
        if answer.lower() in ("", "n", "no"):
            return ""
        try:
            spelt(f"{each.word}={answer}")
        except UserError as refused:
            context.say(str(refused))
            answer = context.ask(f"What is “{each.word}”? [a key, or Enter: leave it]")
        else:
            return answer


def ask_headings(context: Surroundings, listing: Listing) -> Headings:
    """``mode`` or ``menu``: what headings are under which one key starts different commands."""
    names = [f"“{path[-1]}”" for path in listing.situations.headings]
    split = listing.situations.splits[0]
    one, other = split.one, split.other
    may = by_number(len(names), "may be a mode", "may be modes")
    context.say(
        f"{joined(names, 3)} {may}, because {split.key} starts different commands there and elsewhere."
    )
    where = one.menu[-1], other.menu[-1] if other.menu else "no heading"
    print_table(
        context,
        ("key", "title", "if it is a mode", "if it is a menu"),
        [
            (str(split.key), one.title, "only in that mode", where[0]),
            (str(split.key), other.title, "everywhere else", f"{where[1]} (conflict)"),
        ],
    )
    is_mode = _yes(context, by_number(len(names), "Is it a mode?", "Are they modes?"))
    if is_mode:
        return "mode"
    return "menu"


def ask_groups(context: Surroundings, listing: Listing) -> Groups:
    """``guess`` or ``no``: whether rows with one cell are headings, as they were read."""
    by_menu = {c.menu[-1]: c for c in reversed(listing.catalogue.commands) if c.menu}
    heading = next((each for each in listing.guessed_groups if each in by_menu), "")
    if not heading:
        return "guess"
    below = by_menu[heading]
    context.say(f"The row “{heading}” has only one cell.")
    keys = write_cell(below.keys) or "-"
    print_table(
        context,
        ("read as", "title", "menu", "keys"),
        [
            ("a heading", below.title, heading, keys),
            ("a command", heading, "-", "-"),
            ("", below.title, "-", keys),
        ],
    )
    rows = counted(len(listing.guessed_groups), "row")
    if _yes(context, f"Read {rows} like it as headings?"):
        return "guess"
    return "no"


def ask_rules(
    context: Surroundings, app: str, told: Sequence[Guess], duplicates: str
) -> dict[str, Any]:
    """The rules of a new application as a person says them, by name: those that its keys tell are shown and asked
    for together, and one by one where one of them is wrong."""
    said: dict[str, Any] = {}
    right = False
    if not all(map(_is_open, told)):
        context.say(f"{BOLD}Rules of {app}, guessed from its keys{OFF}")
        rows = [(rule_text(each.rule, each.value), each.because) for each in told]
        print_table(context, ("rule", "because"), rows)
        right = _yes(context, "Is this right?")
    for each in told:
        if _is_open(each) and not right:
            said[each.rule] = _where_text_is_typed(context, each.value)
        elif right or _is_right(context, each):
            said[each.rule] = each.value
    if not duplicates and "duplicates" not in said:
        said["duplicates"] = _ask_duplicates(context, app)
    return said


def _is_open(told: Guess) -> bool:
    """Whether a rule is where text is typed, in some modes only: which they are, no key can tell."""
    return told.rule == "text-modes" and ROOT not in told.value


def _ask_duplicates(context: Surroundings, app: str) -> str:
    """What an application does with a key that is given twice."""
    duplicates = ""
    while duplicates not in DUPLICATES:
        answer = context.ask(
            f"What does {app} do with a key that is assigned twice? [{', '.join(DUPLICATES)}; "
            "Enter: replace]"
        )
        duplicates = answer.strip().lower() or DUPLICATES[0]
    return duplicates


def _is_right(context: Surroundings, guess: Guess) -> bool:
    """Asks about one rule by itself; what is done with a key that is given twice is asked for as a word."""
    if guess.rule == "duplicates":
        return False
    return _yes(context, f"{capital(rule_text(guess.rule, guess.value))}?")


def _where_text_is_typed(context: Surroundings, modes: Sequence[str]) -> list[str]:
    """Those of the modes in which typing writes text: by their names each may be another thing."""
    return [m for m in modes if _yes(context, f"Does typing write text in the mode {m}?")]


def _yes(context: Surroundings, question: str) -> bool:
    return context.ask(f"{question} [Y/n]").lower()[:1] != "n"


def ask_columns(
    context: Surroundings, rows: Sequence[Row], listing: Listing, said: ReadingOptions
) -> ReadingOptions:
    """What is said of a listing once its first rows were shown as they were understood."""
    context.say(f"{BOLD}The first commands, as read{OFF}")
    print_table(
        context,
        ("title", "menu", "mode", "keys"),
        [_shown(command) for command in listing.catalogue.commands[:MOST_ROWS_SHOWN]],
    )
    if _yes(context, "Is this right?"):
        return said
    width = widest(rows[:50])
    some = [row.cells for row in rows[:50] if sum(map(bool, row.cells)) > 1][:3]
    print_table(
        context,
        [str(n + 1) for n in range(width)],
        [tuple(_cell(cells, n) for n in range(width)) for cells in some],
    )
    columns = dict(said.columns)
    for field, name in _ASKED.items():
        number = _column(context, name, listing.columns, field, width)
        if number:
            columns[field] = str(number)
    return replace(said, columns=columns)


def _column(context: Surroundings, name: str, columns: Columns, field: str, width: int) -> int:
    """The number of the column that holds a field, 0: none does."""
    now = columns.fields.get(field, -1) + 1
    while True:
        keep = "Enter: none"
        if now:
            keep = f"Enter: {now}"
        answer = context.ask(f"Which column has {name}? [1 to {width}, {keep}]").strip()
        if not answer:
            return now
        if 1 <= parse_count(answer) <= width:
            return parse_count(answer)
        context.say(f"There is no column “{answer}”.")


def _cell(cells: Sequence[str], at: int) -> str:
    if at < len(cells):
        return cells[at]
    return ""


def _shown(command: Command) -> tuple[str, ...]:
    menu, modes = " > ".join(command.menu), ", ".join(command.modes)
    return command.title, menu, modes, write_cell(command.keys) or "-"
