"""From what a person typed to what it means on the desk: application, command, trigger, mode."""

import os
from typing import TYPE_CHECKING

from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App, Command
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.decisions import Scheme, to_write
from olive_compass.counts import parse_count
from olive_compass.desk.desk import Desk
from olive_compass.desk.paths import PENDING, find_root
from olive_compass.desk.storage.cache import cache_file
from olive_compass.errors import UserError

if TYPE_CHECKING:
    from collections.abc import Sequence

    from olive_compass.cli.options import HasDesk


def desk(args: "HasDesk", context: Surroundings) -> Desk:
    """The desk that is named, or that of the environment, or that of the current folder."""
    return open_desk(args.desk, context)


def open_desk(given: str | None, context: Surroundings) -> Desk:
    """The desk in the folder ``given``, or that of the environment, or of the current folder."""
    named = given or context.environ.get("OLIVE_COMPASS_DESK", "")
    if named:
        start = os.path.join(context.folder, named)
    else:
        start = context.folder
    if named and not os.path.isdir(start):
        raise UserError(f"There is no folder “{named}”.")
    root = find_root(start)
    desk = context.desk = Desk(root)
    desk.cache = cache_file(root, context.environ, "kept")
    if context.turn is not None:
        context.turn.enter_context(desk.history.turn())
        context.turn = None
    _recover(desk, context)
    return desk


def _recover(desk: Desk, context: Surroundings) -> None:
    """Finishes or undoes what a killed process left behind, before anything is read, and says so."""
    # A look first: the history need not be loaded where there is nothing to recover.
    if not os.path.exists(os.path.join(desk.root, PENDING)):
        return
    try:
        recovered = desk.history.recover()
    except UserError as error:
        # What is only read can go on; a change is refused with the same words.
        context.warn(f"olive-compass: {error}")
        return
    if recovered:
        context.recovered = recovered
        became = "it was taken back"
        if recovered.holds:
            became = "it is complete"
        context.warn(
            f"olive-compass: Change {recovered.number} ({recovered.what}) had been interrupted; {became}."
        )


def show_keys(
    keys_as: str | None, context: Surroundings, desk: Desk, apps: "Sequence[str]"
) -> None:
    """Lets ``context`` show triggers in the notation that was asked for (``--keys-as``); ``apps`` are the
    applications that were named. Raises ``UserError`` where one is needed and not one was."""
    if keys_as == "app":
        from olive_compass.core.keys.spelling import Spelling

        if len(apps) != 1:
            raise UserError(
                "How an application writes keys can be shown for one application only.",
                hint="Name it: --app APP",
            )
        context.key = Spelling(desk.app(desk.app_name(apps[0])).spelling).write
    elif keys_as:
        from olive_compass.core.keys.notations import show_or_plain

        context.key = lambda run: show_or_plain(run, keys_as, desk.keyboard)


def apps(desk: Desk, app: str | None) -> list[str]:
    """The name of the application that is named, or of all of them. Raises ``UserError`` for none."""
    if app:
        return [desk.app_name(app)]
    return desk.app_names() or [desk.app_name("")]


def stacks(desk: Desk, app: str | None) -> list[Stack]:
    """The named application with the schemes that count for it, or all of them."""
    return [desk.stack(name) for name in apps(desk, app)]


def _shows(app: App, given: str, context: Surroundings) -> Command | None:
    """The command that shows a thing of that name, which takes no key; None: there is none."""
    for thing, via in app.vias.items():
        if thing.casefold() == given.casefold() and via.through in app.catalogue.by_id:
            context.report(f"{thing} takes no key: {app.shown(via.through)} shows it.")
            return app.catalogue.by_id[via.through]
    return None


def command(app: App, given: str, context: Surroundings) -> Command:
    """The one command that ``given`` means; at a terminal twins are offered to choose from."""
    from olive_compass.core.apps.naming import command_named

    given = context.chosen.get((app.name, given), given)
    if shows := _shows(app, given, context):
        return shows
    named = command_named(app.catalogue.commands, given, slots=app.rules.slots)
    if len(named.exact) == 1:
        return named.exact[0]
    offered = named.exact or named.near
    if not offered:
        raise UserError(
            f"{app.title} has no command “{given}”.",
            hint=f"Search for it: olive-compass find WORDS --app {app.name}",
        )
    some = offered[:MOST_OFFERED]
    lines = [f"  {n}  {what_sets_apart(each)}" for n, each in enumerate(some, 1)]
    if len(offered) > len(some):
        lines.append(f"  and {len(offered) - len(some)} more")
    if named.exact:
        says = f"“{given}” matches {len(offered)} commands of {app.title}"
    else:
        says = f"{app.title} has no command “{given}”; these are near"
    listed = f"{says}:\n" + "\n".join(lines)
    if not context.interactive:
        raise UserError(f"{listed}\n", hint="Give the id of one.")
    context.say(listed)
    chosen = _chosen(some, context)
    # Where the change has to be worked out again, nobody is asked again.
    context.chosen[app.name, given] = chosen.id
    return chosen


#: Of so many commands one can be chosen by a digit.
MOST_OFFERED = 9


def _chosen(offered: "Sequence[Command]", context: Surroundings) -> Command:
    """The command that a person chooses by its number. Raises ``UserError`` where they choose none."""
    number = parse_count(context.ask(f"Which one? [1-{len(offered)}, Enter: none]"))
    if 1 <= number <= len(offered):
        return offered[number - 1]
    raise UserError("No command was chosen; nothing was changed.")


def what_sets_apart(each: Command) -> str:
    """A command's id, title, menu, modes and what it does, in one line."""
    parts = [f"{each.id}: {each.title}"]
    if each.menu:
        parts.append(" > ".join(each.menu))
    if each.modes:
        parts.append("in " + ", ".join(each.modes))
    if each.does:
        parts.append(each.does)
    return "; ".join(parts)


def trigger(app: App, text: str) -> Run:
    """The trigger that ``text`` spells. Letters without blanks between them are a key that is misspelt
    as likely as a sequence: which of them is meant is for the person to say."""
    from olive_compass.core.keys.reading import read_trigger
    from olive_compass.core.keys.trigger_error import TriggerError

    try:
        return read_trigger(text)
    except TriggerError:
        # Where one trigger is meant, a comma can only part the strokes of a run.
        if ", " in text:
            return read_trigger(text.replace(", ", " "))
        typed = _typed(app, text)
        if typed is None:
            raise
    from olive_compass.core.keys.names import NAMED_KEYS
    from olive_compass.near import did_you_mean

    near = ""
    if len(text) > 1:
        near = did_you_mean(text, NAMED_KEYS)
    raise UserError(
        f"“{text}” is not a key.",
        hint=f"{near} For the sequence type '{typed}'.".lstrip(),
    )


def _typed(app: App, text: str) -> Run | None:
    """The sequence that letters without blanks may be, None: the application takes none, or they are none."""
    from olive_compass.core.keys.reading import read_trigger
    from olive_compass.core.keys.trigger_error import TriggerError

    try:
        return read_trigger(text, app.rules.typed)
    except TriggerError:
        return None


def mode(app: App, given: str) -> str:
    """The mode of that name. Raises ``UserError`` with the nearest one."""
    name = given.strip().casefold()
    if name in app.modes:
        return name
    from olive_compass.near import did_you_mean

    names = app.modes.names
    if names[1:]:
        it_has = f"It has {', '.join(names)}."
    else:
        it_has = f"Its only mode is “{names[0]}”."
    raise UserError(f"{app.title} has no mode “{given}”.", hint=did_you_mean(name, names) or it_has)


def modes(app: App, given: "Sequence[str] | None") -> tuple[str, ...]:
    """The modes of those names, all of them by ``everywhere`` where none is given. Raises ``UserError``."""
    return tuple(mode(app, name) for name in given or (ROOT,))


def mode_or_all(app: App, given: str | None) -> tuple[str, ...]:
    """The mode of that name, or every one where none is given. Raises ``UserError``."""
    if given:
        return (mode(app, given),)
    return app.modes.names


def app_and_scheme(desk: Desk, which: str, context: Surroundings) -> tuple[App, str]:
    """The application and the name of the scheme that ``APP/NAME`` means, or ``NAME`` alone where the
    desk has one of that name, or the application in use is meant."""
    app, slash, name = which.partition("/")
    if slash:
        return desk.app(desk.app_name(app)), name.removesuffix(".toml")
    from olive_compass.cli.current_app import app_having

    name = which.removesuffix(".toml")
    return desk.app(app_having(desk, context, name, "scheme", desk.scheme_names)), name


def scheme_to_write(desk: Desk, stack: Stack, named: str | None) -> Scheme:
    """The scheme that a decision goes into: the named one, or the nearest personal one."""
    if named:
        return desk.scheme(stack.app, named)
    if scheme := to_write(stack.schemes):
        return scheme
    there = desk.scheme_names(stack.app.name)
    if there:
        raise UserError(
            f"{stack.app.title} uses its factory keys, which are read-only; its schemes are "
            f"{', '.join(there[:4])}.",
            hint=f"Make one active: olive-compass scheme use {stack.app.name}/{there[0]}",
        )
    raise UserError(
        f"{stack.app.title} has only its factory keys, which are read-only.",
        hint=f"Make a scheme on top of them: olive-compass scheme new {stack.app.name}/mine",
    )


def modes_for(app: App, command: Command, given: list[str] | None) -> tuple[str, ...]:
    """The modes in which an assignment is to count: the named ones, or those of the command."""
    if given:
        names = (mode(app, name) for part in given for name in part.split(","))
        return tuple(dict.fromkeys(names))
    return command.usable_in


def trigger_of_any(notation: str | None, text: str, desk: Desk) -> Run:
    """The trigger; typed letters are a run where any application of the desk takes them."""
    from olive_compass.core.keys.reading import read_trigger
    from olive_compass.core.keys.trigger_error import TriggerError

    if notation:
        from olive_compass.core.keys.notations import read_as

        return read_as(text, notation)[0]
    try:
        return read_trigger(text)
    # No application is named: letters are a run where any of them would take them so.
    except TriggerError:
        typed = max([desk.app(name).rules.typed for name in desk.app_names()], default=0)
        return read_trigger(text, typed)
