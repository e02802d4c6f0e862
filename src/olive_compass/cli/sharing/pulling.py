"""``house pull``: shows what is new in the house, then imports it."""

import os
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.changing.saving import confirm, save
from olive_compass.cli.options import WriteOptions
from olive_compass.cli.pairs import pairs
from olive_compass.cli.sharing.differences import print_sections
from olive_compass.cli.sharing.house_changes import effects
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, OFF
from olive_compass.core.schemes.layers import FACTORY
from olive_compass.core.wording import counted
from olive_compass.desk import git as real_git
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats.desk_file import with_house
from olive_compass.desk.house import InTheWay, Pulled, what_changes, with_new_schemes
from olive_compass.desk.paths import DESK_FILE
from olive_compass.desk.reported.differences import difference_reports
from olive_compass.desk.storage.file_names import checked_name
from olive_compass.desk.storage.records import FileChange
from olive_compass.errors import UserError

MOST_SHIFTS = 12


class HousePullOptions(WriteOptions, kw_only=True):
    """The options of ``house pull``."""

    yes: bool
    rename: list[str]


def pull(args: HousePullOptions, context: Surroundings) -> int:
    """Runs ``house pull``: shows what changed and what that does, and takes it on yes."""
    desk = pick.desk(args, context)
    source = desk.settings.house
    if not source:
        raise UserError(
            "This desk does not say where the house's keys come from.",
            hint="Set it: olive-compass house from FOLDER-OR-REPOSITORY",
        )
    called = {**desk.settings.house_names, **pairs(args.rename, "APP/NAME")}
    with _brought(desk, source, context) as (folder, version):
        pulled = what_changes(desk, folder, called)
        while pulled.in_the_way and not args.dry_run:
            called |= _another_name(desk, context, pulled.in_the_way[0])
            pulled = what_changes(desk, folder, called)
    for line in pulled.passed_over:
        context.report(f"Passed over: {line}.")
    for each in pulled.in_the_way:
        context.report(f"Not taken: {_says(each)}. {_hint(each)}")
    does = [line for each in pulled.schemes for line in effects(desk, each)]
    if args.json:
        context.json(_as_json(source, version, pulled, does))
    else:
        _print(context, desk, pulled, does)
    if not pulled.changes:
        context.report(f"The house's keys are as they were ({version}).")
    elif args.dry_run:
        context.say("Dry run: nothing was written.")
    else:
        kept = "The house's keys stay as they are; nothing was changed."
        confirm(args.yes, context, "A pull", "Take them?", kept)
        _take(context, desk, pulled.changes, called, version)
    return 0


def _take(
    context: Surroundings,
    desk: Desk,
    pulled: list[FileChange],
    called: dict[str, str],
    version: str,
) -> None:
    """Saves what was pulled, with its version, and with the names that files of the house have here."""
    values: dict[str, object] = {"pulled": version}
    if called:
        values["names"] = called
    settings = with_house(with_new_schemes(desk, pulled), values)
    changes = [*pulled, desk.change_of(DESK_FILE, settings)]
    what = f"House: pulled {counted(len(pulled), 'file')}, {version}"
    save(desk, context, changes, what)
    context.report(f"{what} ({', '.join(change.path for change in pulled)}).")
    context.report("To undo: olive-compass undo")


def _as_json(source: str, version: str, pulled: Pulled, does: list[str]) -> dict[str, Any]:
    return {
        "from": source,
        "version": version,
        "differences": difference_reports(pulled.sections),
        "effects": does,
        "in-the-way": [
            {"app": each.app, "scheme": each.name, "ours": each.ours} for each in pulled.in_the_way
        ],
    }


def _print(context: Surroundings, desk: Desk, pulled: Pulled, does: list[str]) -> None:
    """Reports the changes in the house, and what they do to the keys here."""
    if pulled.sections:
        print_sections(context, desk, pulled.sections)
    if does:
        context.say(f"{BOLD}What that does to the active keys here{OFF}")
    for line in does[:MOST_SHIFTS]:
        context.say(f"  {line}")
    if does[MOST_SHIFTS:]:
        context.say(f"  {DIM}and {len(does) - MOST_SHIFTS} more{OFF}")


@contextmanager
def _brought(desk: Desk, source: str, context: Surroundings) -> Iterator[tuple[str, str]]:
    """The folder with the house's files, and what version they are. Nothing on the desk changes."""
    path = os.path.join(desk.root, source)
    if real_git.is_source(source, path):
        says = f"olive-compass: {source} has not answered yet; waiting."
        with real_git.cloned(source, lambda: context.warn(says)) as brought:
            yield brought
        return
    if not os.path.isdir(path):
        raise UserError(
            f"The folder of the house is not there: {source}", hint="Is the drive there?"
        )
    yield path, context.now().date().isoformat()


def _another_name(desk: Desk, context: Surroundings, each: InTheWay) -> dict[str, str]:
    """Under which name a scheme of the house is to be taken, asked; raises ``UserError``."""
    if not context.interactive:
        raise UserError(f"{_says(each)}; nothing was changed.", hint=_hint(each))
    context.say(f"{_says(each)}.")
    name = context.ask(f"What shall that of the house be called here? [Enter: house-{each.name}]")
    taken = (*desk.scheme_names(each.app), FACTORY)
    name = checked_name(name or f"house-{each.name}", "a scheme", taken, taken)
    return {f"{each.app}/{each.name}": name}


def _says(each: InTheWay) -> str:
    has = f"a scheme of that name, {each.app}/{each.ours}, which is not of the house"
    return f"The house has {each.app}/{each.name}, and this desk has {has}"


def _hint(each: InTheWay) -> str:
    return f"Take it under another name: --rename {each.app}/{each.name}=house-{each.name}"
