"""Several keys for several commands in one go: a row, a range, or a plan in a file."""

import fnmatch
from collections.abc import Iterator, Sequence

from msgspec import Struct

from olive_compass.cli import pick
from olive_compass.cli.changing import objections
from olive_compass.cli.changing.running import Work, after, effects
from olive_compass.cli.files import read_file
from olive_compass.cli.parsing import RANGE
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App, Command
from olive_compass.core.apps.modes import joined
from olive_compass.core.apps.naming import plain_title
from olive_compass.core.changes.assign import Assign
from olive_compass.core.changes.assign_family import TWICE, Family, assign_family
from olive_compass.core.changes.change import Change
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.rows import between, in_a_row
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.holdings import given_up
from olive_compass.core.schemes.verdicts import Verdict
from olive_compass.core.wording import capital, counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.importing import read_rows
from olive_compass.desk.views import judging_view
from olive_compass.errors import UserError
from olive_compass.structs import replace


class Typed(Struct, frozen=True, kw_only=True):
    """What was typed: names that are still to be looked up on the desk."""

    app: str
    words: tuple[str, ...]
    row: str | None
    plan: str | None
    modes: list[str] | None
    scheme: str | None
    why: str
    instead: bool


class Pair(Struct, frozen=True, kw_only=True):
    """A command and a key as they were looked up, with the modes and the reason of a line of a plan."""

    command: Command
    trigger: Run
    modes: list[str] | None = None
    why: str = ""


def prepare(desk: Desk, context: Surroundings, typed: Typed) -> Work:
    """The work of giving all of them their keys."""
    view = judging_view(desk, desk.app_name(typed.app))
    if typed.plan:
        found = _planned(view, context, typed)
    else:
        found = _named(view, context, typed)
    return _work(desk, view, typed, found)


def prepare_pairs(desk: Desk, typed: Typed, pairs: list[Pair]) -> Work:
    """The same for pairs that were chosen already."""
    return _work(desk, judging_view(desk, desk.app_name(typed.app)), typed, pairs)


def _work(desk: Desk, view: AppView, typed: Typed, found: list[Pair]) -> Work:
    scheme = pick.scheme_to_write(desk, view.stack, typed.scheme)
    requests = tuple(_request(view, scheme, typed, pair) for pair in found)
    return Work(
        view=view,
        decide=lambda answers: assign_family(
            view, tuple(replace(r, answers=answers) for r in requests)
        ),
        what=lambda _change: _what(view, requests),
        report=lambda change: _report(desk, view, change),
        why=typed.why,
        refused=lambda change: _refused(change),
    )


def _request(view: AppView, scheme: Scheme, typed: Typed, pair: Pair) -> Assign:
    modes = pick.modes_for(view.app, pair.command, pair.modes or typed.modes)
    why = pair.why or typed.why
    return Assign(
        command=pair.command,
        trigger=pair.trigger,
        modes=modes,
        scheme=scheme,
        why=why,
        instead=typed.instead,
    )


def _refuse_what_is_none(app: App, word: str) -> None:
    """Refuses a first word that is no command: it was meant for an application, most likely."""
    from olive_compass.core.apps.naming import command_named

    named = command_named(app.catalogue.commands, word, slots=app.rules.slots)
    if not named.exact and not named.near:
        raise UserError(
            f"“{word}” is no application of this desk, and {app.title} has no such command; nothing was "
            "changed.",
            hint="See them: olive-compass app list",
        )


def _named(view: AppView, context: Surroundings, typed: Typed) -> list[Pair]:
    """The commands that were named, each with the next key of the row or the range."""
    app = view.app
    if not typed.words:
        raise UserError(
            "Commands missing.",
            hint=f"For example: olive-compass assign {app.name} --row Ctrl+Alt+1 Cairn Ford",
        )
    if typed.row:
        commands = commands_named(app, context, typed.words)
        try:
            keys = in_a_row(view.keymap.keyboard, pick.trigger(app, typed.row), len(commands))
        except ValueError as error:
            raise UserError(
                f"{capital(error)}.", hint="Name the keys: assign APP COMMAND KEY."
            ) from error
        return _paired(commands, keys)
    *names, last = typed.words
    first, dots, end = last, "", ""
    # Two dots at the very beginning are the key “.”, twice.
    if RANGE in last[1:]:
        first, dots, end = last.partition(RANGE)
    if not dots:
        _refuse_what_is_none(app, names[0])
        raise UserError(
            f"{len(names)} commands and one key, {last}.",
            hint="Give a range of keys, such as Alt+1..Alt+3, or --row with the first of them.",
        )
    commands = commands_named(app, context, names)
    try:
        keys = between(pick.trigger(app, first), pick.trigger(app, end))
    except ValueError as error:
        raise UserError(f"{capital(error)}.") from error
    if len(keys) != len(commands):
        raise UserError(
            f"{counted(len(commands), 'command')} and {counted(len(keys), 'key')}: they do not go together; "
            "nothing was changed.",
            hint="Commands: " + ", ".join(each.title for each in commands[:6]) + ".",
        )
    return _paired(commands, keys)


def _paired(commands: Sequence[Command], keys: Sequence[Run]) -> list[Pair]:
    return [Pair(command=command, trigger=key) for command, key in zip(commands, keys, strict=True)]


def commands_named(app: App, context: Surroundings, names: Sequence[str]) -> list[Command]:
    """The commands of these names; ``*`` in one stands for any letters of a title or an id."""
    found: dict[str, Command] = {}
    for name in names:
        if "*" not in name:
            command = pick.command(app, name, context)
            found[command.id] = command
            continue
        pattern = plain_title(name)
        fits = [
            c
            for c in app.catalogue.commands
            if fnmatch.fnmatchcase(plain_title(c.title), pattern)
            or fnmatch.fnmatchcase(c.id.casefold(), pattern)
        ]
        if not fits:
            raise UserError(f"{app.title} has no command like “{name}”.")
        found |= {command.id: command for command in fits}
    return list(found.values())


def _planned(view: AppView, context: Surroundings, typed: Typed) -> list[Pair]:
    """The lines of a plan: a table with the columns command, key, mode and why."""
    assert typed.plan is not None
    found = []
    for number, cells in _lines_of(context, typed.plan):
        # A line without a key is one that the person has not decided yet.
        if not cells.get("key"):
            continue
        try:
            pair = Pair(
                command=pick.command(view.app, cells["command"], context),
                trigger=pick.trigger(view.app, cells["key"]),
                modes=cells.get("mode", "").replace(",", " ").split(),
                why=cells.get("why", ""),
            )
        except UserError as refused:
            # What is wrong is wrong in the plan, wherever it was found out.
            refused.file, refused.line = typed.plan, number
            raise
        except ValueError as error:
            raise UserError(f"{capital(error)}.", file=typed.plan, line=number) from error
        found.append(pair)
    if not found:
        raise UserError("The plan gives no key.", file=typed.plan)
    return found


def _lines_of(context: Surroundings, plan: str) -> Iterator[tuple[int, dict[str, str]]]:
    """Each row of a plan: its line, and its cells by the names of the columns."""
    data = read_file(context, plan, "The plan")
    rows = [row for row in read_rows(plan, data)[1].rows if any(row.cells)]
    head = []
    if rows:
        head = [cell.strip().casefold() for cell in rows[0].cells]
    missing = [name for name in ("command", "key") if name not in head]
    if missing:
        raise UserError(
            f"The plan has no column “{missing[0]}”.",
            file=plan,
            line=1,
            hint="Its columns are command, key, mode and why.",
        )
    for row in rows[1:]:
        cells = (cell.strip() for cell in row.cells)
        yield row.line, dict(zip(head, cells, strict=False))


def _what(view: AppView, requests: tuple[Assign, ...]) -> str:
    # One line of the history: it names the commands while they fit in it.
    if len(requests) > 3:
        return f"{view.app.title}: {len(requests)} commands got keys, {requests[0].trigger} first"
    pairs = ", ".join(f"{each.trigger} to {each.command.title}" for each in requests)
    return f"{view.app.title}: assigned {pairs}"


def _report(desk: Desk, view: AppView, change: Change) -> list[str]:
    """A line for each, and below it what is to be said of it."""
    lines = []
    keymap = after(view, change)
    for found in effects(change, Verdict):
        where = view.app.modes.phrase(view.app.modes.inside(found.modes))
        taken = [view.meaning(h.claim.does) or "a mute" for h in found.takers]
        had = ""
        if taken:
            had = f", was {' and '.join(dict.fromkeys(taken))}"
        lines.append(f"  {found.trigger}  {found.command.title} {where}{had}")
        known = view.app.catalogue.by_id
        losses = [objections.loss_text(view, keymap, e) for e in found.lost if e.command in known]
        gone = given_up(view.keymap, keymap, found.command.id)
        if gone:
            losses.insert(0, f"{found.command.title} loses {joined(map(str, gone))}.")
        lines += [f"      {text}" for text in (*losses, *objections.said_lines(desk, view, found))]
    return lines


def _refused(change: Change) -> UserError | None:
    refusal = change.refusals[0]
    if refusal.what != TWICE or not isinstance(refusal.about, Family):
        return None
    one, other = refusal.about.one, refusal.about.other
    return UserError(
        f"{other.trigger} is meant for {one.command.title} and for {other.command.title}; nothing was "
        "changed."
    )
