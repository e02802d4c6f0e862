"""What a new listing of an application has otherwise than its catalogue, in words."""

from collections import Counter
from collections.abc import Container, Sequence

from olive_compass.cli.intake.report import MOST_SHOWN
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.apps.app import Command
from olive_compass.core.apps.changes import Change
from olive_compass.core.apps.modes import joined
from olive_compass.core.keys.written_cells import write_cell
from olive_compass.core.schemes.claims import Stack
from olive_compass.desk.desk import Desk


def say_changes(context: Surroundings, changes: Sequence[Change], desk: Desk, name: str) -> None:
    """What a new listing has otherwise than the catalogue, and which decisions are about commands that go."""
    if not changes:
        return
    counts = Counter(change.what for change in changes)
    summary = ", ".join(_counted_changes(what, count) for what, count in counts.items())
    context.say(f"{BOLD}Compared with the catalogue:{OFF} {summary}.")
    rows = []
    for change in changes[:MOST_SHOWN]:
        command = change.after or change.before
        assert command is not None
        rows.append(
            (change.what, command.title, *_sides(change), command.id),
        )
    print_table(context, ("change", "title", "before", "after", "command"), rows)
    if len(changes) > MOST_SHOWN:
        context.say(f"and {len(changes) - MOST_SHOWN} more")
    gone = {change.before.id for change in changes if change.before and not change.after}
    _say_decisions(context, desk.stack(name), gone)


def _counted_changes(what: str, count: int) -> str:
    if what in ("new", "gone"):
        return f"{count} {what}"
    return f"{joined(what.split(', '))} changed in {count}"


def _say_decisions(context: Surroundings, stack: Stack, gone: Container[str]) -> None:
    """Which decisions are about commands that go: they stay in their scheme, and whoever made them should hear of
    it now."""
    hit = [
        f"{scheme.name} decides about {command}"
        for scheme in stack.schemes
        for command in (*scheme.assign, *scheme.keyless)
        if command in gone
    ]
    if hit:
        context.say(f"Decisions about commands that go: {'; '.join(hit[:6])}.")


def _sides(change: Change) -> tuple[str, str]:
    """What changed, before and after: the keys, or else the first of the fields that changed."""
    fields = change.what.split(", ")
    if "keys" in fields or change.what in ("new", "gone"):
        field = "keys"
    else:
        field = fields[0]
    before, after = (_cell(each, field) for each in (change.before, change.after))
    return before, after


def _cell(command: Command | None, field: str) -> str:
    if command is None:
        return ""
    return _field_text(command, field) or "-"


def _field_text(command: Command, field: str) -> str:
    """A field of a command as a cell of its file has it."""
    match field:
        case "keys":
            return write_cell(command.keys)
        case "keys-elsewhere":
            return write_cell(command.keys_elsewhere or ())
        case "menu":
            return " > ".join(command.menu)
        case "marks":
            return ", ".join(command.marks.words)
    value = getattr(command, field)
    if isinstance(value, tuple):
        return ", ".join(map(str, value))
    return str(value)
