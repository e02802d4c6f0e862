"""From what a person typed to what it means on the desk: application, command, trigger, mode."""

import os
from typing import Any

from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App, Command
from olive_compass.core.apps.modes import ROOT, joined
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.layers import PERSONAL, SCHEME_LAYERS
from olive_compass.desk.desk import Desk, find_root
from olive_compass.errors import Refused


def desk(args: Any, around: Surroundings) -> Desk:
    """The desk that is named, or that of the environment, or that of the current folder."""
    named = args.desk or around.environ.get("OLIVE_COMPASS_DESK", "")
    start = os.path.join(around.folder, named) if named else around.folder
    if named and not os.path.isdir(start):
        raise Refused(f"There is no folder “{named}”.")
    return Desk(find_root(start))


def show_keys(args: Any, around: Surroundings, at: Desk) -> None:
    """Lets ``around`` show triggers in the notation that was asked for."""
    if args.keys_as:
        from olive_compass.core.keys.notations import show_or_plain

        around.key = lambda run: show_or_plain(run, args.keys_as, at.keyboard)


def stacks(at: Desk, app: str | None) -> list[Stack]:
    """The named application with the schemes that count for it, or all of them."""
    if app:
        return [at.stack(at.app_name(app))]
    names = at.app_names()
    if not names:
        at.app_name("")
    return [at.stack(name) for name in names]


def command(app: App, given: str, around: Surroundings) -> Command:
    """The one command that ``given`` means; at a terminal twins are offered to choose from."""
    from olive_compass.core.apps.naming import command_named

    named = command_named(app.catalogue.commands, given)
    if len(named.exact) == 1:
        return named.exact[0]
    offered = named.exact or named.near
    if not offered:
        raise Refused(
            f"{app.title} has no command “{given}”.",
            hint=f"Search for it: olive-compass find WORDS --app {app.name}",
        )
    some = offered[:9]
    lines = [f"  {n}  {what_sets_apart(each)}" for n, each in enumerate(some, 1)]
    if len(offered) > len(some):
        lines.append(f"  and {len(offered) - len(some)} more")
    if named.exact:
        says = f"{len(offered)} commands of {app.title} answer to “{given}”"
    else:
        says = f"{app.title} has no command “{given}”; these are near"
    if around.interactive:
        around.say(f"{says}:\n" + "\n".join(lines))
        answer = around.ask(f"Which one? [1-{len(some)}, Enter: none]")
        if answer.isdigit() and 1 <= int(answer) <= len(some):
            return some[int(answer) - 1]
        raise Refused("No command was chosen; nothing was changed.")
    raise Refused(f"{says}:\n" + "\n".join(lines) + "\n", hint="Name one by its id.")


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
    """The trigger that ``text`` spells, typed letters too where the application takes runs."""
    from olive_compass.core.keys.reading import read_trigger

    return read_trigger(text, app.rules.typed)


def allowed_trigger(app: App, text: str) -> Run:
    """The same, and it must be one that the application's rules allow."""
    from olive_compass.core.schemes.guarding import broken_rules

    run = trigger(app, text)
    for rule, why in broken_rules(app.rules, run):
        raise Refused(
            f"The rules of {app.title} do not allow this: {why}.",
            file=f"apps/{app.name}/app.toml",
            hint=f"The rule is {rule}.",
        )
    return run


def is_allowed(app: App, run: Run) -> bool:
    """Whether the application's rules allow ``run``."""
    from olive_compass.core.schemes.guarding import broken_rules

    return not any(True for _ in broken_rules(app.rules, run))


def on_rose(app: App, run: Run, modes: tuple[str, ...]) -> None:
    """Raises ``Refused`` where a swipe has a bearing that the rose of a mode lacks."""
    from olive_compass.core.keys.roses import bearing_name, bearings, nearest

    for stroke in run.strokes:
        if stroke.bearing is None:
            continue
        for name in modes:
            size = app.rose(name)
            if not size:
                some = [each for each in app.modes.names if app.rose(each)]
                raise Refused(
                    f"{app.title} takes no swipes {'everywhere' if name == ROOT else 'in ' + name}.",
                    file=f"apps/{app.name}/app.toml",
                    hint=f"It does in {joined(some)}: add --mode." if some else "",
                )
            if stroke.bearing not in bearings(size):
                near = " or ".join(
                    f"swipe:{bearing_name(b)}" for b in nearest(stroke.bearing, size)
                )
                raise Refused(
                    f"The rose of {name} has {size} bearings and no {bearing_name(stroke.bearing)}; "
                    f"the nearest are {near}.",
                    file=f"apps/{app.name}/app.toml",
                )


def mode(app: App, given: str) -> str:
    """The mode of that name. Raises ``Refused`` with the nearest one."""
    name = given.strip().casefold()
    if name in app.modes:
        return name
    from difflib import get_close_matches

    near = get_close_matches(name, app.modes.names, 1)
    raise Refused(
        f"{app.title} has no mode “{given}”.",
        hint=f"Did you mean {near[0]}?" if near else f"It has {', '.join(app.modes.names)}.",
    )


def app_and_scheme(at: Desk, which: str) -> tuple[App, str]:
    """The application of ``app/scheme``, and the scheme's name as it was written."""
    app, _, name = which.partition("/")
    return at.app(at.app_name(app)), name.removesuffix(".toml")


def scheme_to_write(at: Desk, stack: Stack, named: str | None) -> Scheme:
    """The scheme that a decision goes into: the named one, or the nearest personal one."""
    if named:
        return at.scheme(stack.app, named)
    for wanted in ((PERSONAL,), SCHEME_LAYERS):
        for scheme in stack.schemes:
            if scheme.layer in wanted:
                return scheme
    raise Refused(
        f"{stack.app.title} has only its factory keys, which are read-only.",
        hint=f"Make a scheme on top of them: olive-compass scheme new {stack.app.name}/mine",
    )


def modes_for(app: App, command: Command, given: list[str] | None) -> tuple[str, ...]:
    """The modes in which an assignment is to count: the named ones, or those of the command."""
    if given:
        names = (mode(app, name) for part in given for name in part.split(","))
        return tuple(dict.fromkeys(names))
    return command.modes or (ROOT,)
