"""``macro from-log`` and ``macro setting``: macros out of what was done, or in one line."""

from collections.abc import Mapping
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.files import read_file
from olive_compass.cli.impact import refuse_broken_guards
from olive_compass.cli.macros.common import (
    new_change,
    new_name,
    pairs,
    save_changes,
    stack_app,
)
from olive_compass.cli.macros.showing import print_steps
from olive_compass.cli.surroundings import DIM, OFF, Surroundings
from olive_compass.cli.tables import print_table
from olive_compass.core.apps.app import App
from olive_compass.core.apps.naming import command_named
from olive_compass.core.keys.triggers import Run
from olive_compass.core.macros.acts import act_of
from olive_compass.core.macros.cleaning import suspects
from olive_compass.core.macros.inputs import declared
from olive_compass.core.macros.macro import Macro, Step
from olive_compass.core.macros.recording import Event, recorded
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.editing import give, take_from_others
from olive_compass.core.schemes.guarding import types_text
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.log_file import Log, read
from olive_compass.errors import Refused

MOST_SHOWN = 12


def from_log(args: Any, around: Surroundings) -> int:
    """Runs ``macro from-log``: without a macro's name it shows the log."""
    at = pick.desk(args, around)
    log = read(read_file(around, args.log), args.log, pairs(args.columns, "FIELD"))
    _say_set_aside(around, log)
    if args.which is None:
        return _show_log(args, around, log)
    app, name, title = new_name(at, args.which)
    first = args.first or 1
    last = args.last or max((event.line for event in log.events), default=0)
    events = [_known(app, event) for event in log.events if first <= event.line <= last]
    events = [event for event in events if event.app in ("", app.name, app.title)]
    if not events:
        raise Refused(
            f"The log has no event of {app.title} from line {first} to {last}.",
            file=args.log,
            hint=f"See its lines: olive-compass macro from-log {args.log}",
        )
    unknown = sorted({e.command for e in events if not _is_known(app, at, e.command)})
    where = f"{args.log}, lines {events[0].line} to {events[-1].line}"
    macro = recorded(app.name, name, title, events, where, args.flat)
    lines = [f"{app.title} has no command “{command}”." for command in unknown]
    found = suspects(app, macro)
    if not around.quiet:
        print_steps(around, app, macro, found)
    if found:
        lines.append(f"{len(found)} suspicious: olive-compass macro tidy {app.name}/{name}")
    what = f"{app.title}: new macro {title}, {counted(len(macro.steps), 'step')}"
    return save_changes(args, around, at, [new_change(macro)], what, lines)


def setting(args: Any, around: Surroundings) -> int:
    """Runs ``macro setting``: a macro that asks for a value and sets it."""
    at = pick.desk(args, around)
    app = stack_app(at, args.app)
    command = pick.command(app, args.setting, around)
    if act_of(command).verb != "set":
        raise Refused(f"{command.title} is no setting of {app.title}, but a {command.kind}.")
    _, name, title = new_name(at, f"{app.name}/{args.name or command.title}")
    if not args.name:
        # A title of its own: two that are called alike could not be told apart.
        title = f"{title}, asked for"
    asked = {each.name: args.question or "" for each in declared(command)}
    macro = Macro(
        app.name,
        name,
        title,
        (Step(command.id, ask=asked),),
        f"Asks for the value of {command.title} and sets it",
        command.modes,
        app.version,
    )
    changes = [new_change(macro)]
    lines = []
    if args.key:
        change, line = _key_change(at, app, macro, args)
        changes.append(change)
        lines.append(line)
    else:
        lines.append(f"Give it a key: olive-compass assign {app.name} {macro.id} KEY")
    what = f"{app.title}: new macro {title}, which asks for a value and sets it"
    return save_changes(args, around, at, changes, what, lines)


def _key_change(at: Desk, app: App, macro: Macro, args: Any) -> tuple[Any, str]:
    """The scheme with a free key on the new macro; raises ``Refused`` where it is not free."""
    stack = at.stack(app.name)
    scheme = pick.scheme_to_write(at, stack, args.scheme)
    trigger = pick.allowed_trigger(app, args.key)
    keymap = Keymap(stack, at.keyboard)
    modes = _typed_modes(app, trigger, macro.modes or ("everywhere",))
    for mode in app.modes.inside(modes):
        outcome = keymap.decide(trigger, mode)
        if outcome.winners:
            claim = outcome.winners[0]
            known = app.catalogue.by_id.get(claim.command)
            holder = known.title if known else claim.wired or "a mute"
            raise Refused(
                f"{trigger} is taken in {mode} by {holder}; nothing was changed.",
                hint=f"Look for another: olive-compass free {app.name} --mode {mode}",
            )
    after = take_from_others(scheme, keymap, macro.id, trigger, modes)
    after = give(after, macro.id, trigger, modes, args.why)
    refuse_broken_guards(args, at, scheme, after)
    line = f"{trigger} plays it {app.modes.phrase(app.modes.inside(modes))}."
    return at.save_scheme(scheme, after), line


def _typed_modes(app: App, trigger: Run, modes: tuple[str, ...]) -> tuple[str, ...]:
    """The modes in which a trigger may count: letters are no keys where typing writes text."""
    texts = set(app.modes.inside(app.rules.text_modes))
    if not types_text(trigger) or not texts & set(app.modes.inside(modes)):
        return modes
    plain = [m for m in app.modes.inside(modes) if not texts & set(app.modes.within(m))]
    if not plain:
        raise Refused(
            f"{trigger} would swallow typing in {', '.join(sorted(texts))}; nothing was changed.",
            hint="Choose a key with a modifier.",
        )
    return app.modes.outermost(plain)


def _known(app: App, event: Event) -> Event:
    """The event with the id of its command, where the log has the title or the menu."""
    if event.command in app.catalogue.by_id:
        return event
    named = command_named(app.catalogue.commands, event.command)
    if len(named.exact) != 1:
        return event
    return event._replace(command=named.exact[0].id)


def _is_known(app: App, at: Desk, command: str) -> bool:
    return command in app.catalogue.by_id


def _show_log(args: Any, around: Surroundings, log: Log) -> int:
    """The lines of a log, to choose from."""
    first, last = args.first or 0, args.last or 10**9
    events = [event for event in log.events if first <= event.line <= last]
    if args.json:
        around.json([event_json(event) for event in events])
        return 0 if events else 1
    print_table(
        around,
        ("line", "time", "mode", "command", "how", "inputs", "outcome"),
        [
            (
                str(event.line),
                event.time[11:19] or event.time,
                event.mode,
                event.command,
                f"{event.how} {event.key}".strip(),
                "; ".join(f"{name} {value}" for name, value in event.inputs.items()),
                event.outcome,
            )
            for event in events
        ],
    )
    if log.why:
        told = "; ".join(f"{field}: {why}" for field, why in log.why.items())
        around.say(f"{DIM}columns: {told}{OFF}")
    around.say(
        f"Make a macro of some: olive-compass macro from-log {args.log} APP/NAME --from N --to M"
    )
    return 0 if events else 1


def event_json(event: Event) -> Mapping[str, Any]:
    """An event as JSON (docs/json.md)."""
    return {
        "line": event.line,
        "time": event.time,
        "app": event.app,
        "version": event.version,
        "mode": event.mode,
        "command": event.command,
        "how": event.how,
        "key": event.key or None,
        "inputs": dict(event.inputs),
        "outcome": event.outcome,
        "made": list(event.made),
    }


def _say_set_aside(around: Surroundings, log: Log) -> None:
    for aside in log.set_aside[:MOST_SHOWN]:
        around.warn(f"line {aside.line} was left out: {aside.why}")
    if len(log.set_aside) > MOST_SHOWN:
        around.warn(f"and {len(log.set_aside) - MOST_SHOWN} more lines")
