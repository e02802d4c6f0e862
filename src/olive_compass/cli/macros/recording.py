"""``macro from-log`` and ``macro setting``: macros out of what was done, or in one line."""

from olive_compass.cli import exit_status, pick
from olive_compass.cli.changing import saying
from olive_compass.cli.changing.keeping import writing_of
from olive_compass.cli.files import open_file
from olive_compass.cli.macros.common import new_name, save_changes, stack_app
from olive_compass.cli.macros.showing import print_steps
from olive_compass.cli.options import WriteOptions
from olive_compass.cli.pairs import pairs
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.command_lines import line
from olive_compass.cli.terminal.layout import DIM, OFF
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.apps.naming import logged
from olive_compass.core.changes.assign import Assign, assign
from olive_compass.core.macros.acts import act_of
from olive_compass.core.macros.cleaning import suspects
from olive_compass.core.macros.inputs import declared
from olive_compass.core.macros.macro import Macro, Step
from olive_compass.core.macros.recording import Event, recorded
from olive_compass.core.schemes.traits import where_it_can_count
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats.log_file import Log, read_stream
from olive_compass.desk.reported.plays import event_report
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.views import judging_view
from olive_compass.desk.writing.changed_files import changed_macro, changed_scheme
from olive_compass.errors import UserError
from olive_compass.structs import replace

MOST_SHOWN = 12

#: The most lines of a log that are listed where nobody says which.
MOST_LISTED = 500


def _lines(given: str | None) -> tuple[int, int | None]:
    """The first and the last line (none: to the end) of ``N..M``, ``N..``, ``..M`` or ``N``."""
    first, sign, last = (given or "..").partition("..")
    numbers = [each.strip() for each in (first, last)]
    if not all(each == "" or each.isdecimal() for each in numbers):
        raise UserError(f"“{given}” names no lines.", hint="For example: --lines 3..12")
    start = int(numbers[0] or 1)
    return start, int(numbers[1]) if numbers[1] else (None if sign else start)


class MacroFromLogOptions(WriteOptions, kw_only=True):
    """The options of ``macro from-log``."""

    log: str
    which: str | None
    lines: str | None
    columns: list[str]
    flat: bool


def _no_events(file: str, app: App, first: int, last: int | None) -> UserError:
    to = f"to {last}" if last else "on"
    return UserError(
        f"The log has no event of {app.title} from line {first} {to}.",
        file=file,
        hint=f"See its lines: olive-compass macro from-log {file}",
    )


def _list_log(
    args: MacroFromLogOptions, context: Surroundings, first: int, asked: int | None
) -> int:
    """Lists the lines of a log. One of a year is not printed whole at a terminal; as JSON it is read to its end."""
    last = asked
    if asked is None and not args.json:
        last = first + MOST_LISTED - 1
    with open_file(context, args.log, "The log") as file:
        log = read_stream(file, args.log, pairs(args.columns, "FIELD"), first, last)
        goes_on = last != asked and bool(file.read(1))
    _say_set_aside(context, log)
    status = _show_log(args.json, args.log, context, log)
    if goes_on and last is not None:
        context.say(f"It goes on after line {last}: --lines {last + 1}..")
    return status


def from_log(args: MacroFromLogOptions, context: Surroundings) -> int:
    """Runs ``macro from-log``: without a macro's name it shows the log."""
    desk = pick.desk(args, context)
    first, last = _lines(args.lines)
    if args.which is None:
        return _list_log(args, context, first, last)
    with open_file(context, args.log, "The log") as file:
        log = read_stream(file, args.log, pairs(args.columns, "FIELD"), first, last)
    _say_set_aside(context, log)
    app, name, title = new_name(desk, args.which, context)
    events = _events_of(app, log)
    if not events:
        raise _no_events(args.log, app, first, last)
    where = f"{args.log}, lines {events[0].line} to {events[-1].line}"
    macro = recorded(app.name, name, title, events, where, args.flat)
    unknown = {e.command for e in events if not _is_known(app, e.command)}
    lines = [f"{app.title} has no command “{command}”." for command in sorted(unknown)]
    found = suspects(app, macro)
    if not context.quiet:
        print_steps(context, app, macro, found)
    if found:
        lines.append(f"{len(found)} suspicious: olive-compass macro tidy {app.name}/{name}")
    what = f"{app.title}: created macro “{title}”, {counted(len(macro.steps), 'step')}"
    return save_changes(
        writing_of(args), context, desk, [changed_macro(desk, None, macro)], what, lines
    )


def _events_of(app: App, log: Log) -> list[Event]:
    """What a log has of an application; without a column of applications it is taken to be of the one that is named."""
    events = [_known(app, event) for event in log.events]
    return [event for event in events if event.app in ("", app.name, app.title)]


class MacroSettingOptions(WriteOptions, kw_only=True):
    """The options of ``macro setting``."""

    app: str
    setting: str
    name: str | None
    question: str | None
    key: str | None
    why: str
    scheme: str | None


def setting(args: MacroSettingOptions, context: Surroundings) -> int:
    """Runs ``macro setting``: a macro that asks for a value and sets it."""
    desk = pick.desk(args, context)
    app = stack_app(desk, args.app)
    command = pick.command(app, args.setting, context)
    if act_of(command).verb != "set":
        raise UserError(f"{command.title} is no setting of {app.title}, but a {command.kind}.")
    _, name, title = new_name(desk, f"{app.name}/{args.name or command.title}", context)
    if not args.name:
        # A title of its own: two that are called alike could not be told apart.
        title = f"{title}, asked for"
    asked = {each.name: args.question or "" for each in declared(command)}
    macro = Macro(
        app=app.name,
        name=name,
        title=title,
        steps=(Step(command=command.id, ask=asked),),
        does=f"Asks for the value of {command.title} and sets it",
        modes=command.modes,
        version=app.version,
    )
    changes = [changed_macro(desk, None, macro)]
    lines = []
    if args.key:
        change, says = _key_change(desk, app, macro, args.key, args.scheme, args.why)
        changes.append(change)
        lines.append(says)
    else:
        lines.append(f"Assign a key: olive-compass assign {app.name} {macro.id} KEY")
    what = f"{app.title}: created macro “{title}”, which asks for a value and sets it"
    return save_changes(writing_of(args), context, desk, changes, what, lines)


def _key_change(
    desk: Desk, app: App, macro: Macro, key: str, named: str | None, why: str
) -> tuple[FileChange, str]:
    """The scheme with a free key on the new macro; raises ``UserError`` where it is not free."""
    view = judging_view(desk, app.name)
    view.macros = {**view.macros, macro.name: macro}
    scheme = pick.scheme_to_write(desk, view.stack, named)
    trigger = pick.trigger(app, key)
    modes = macro.modes or (ROOT,)
    # Letters are no keys where typing writes text.
    modes = where_it_can_count(app, view.keyboard, macro.command, trigger, modes) or modes
    change = assign(
        view, Assign(command=macro.command, trigger=trigger, modes=modes, scheme=scheme, why=why)
    )
    if change.refusals:
        raise saying.refused(desk, view, change.refusals[0])
    for question in change.questions:
        look = line("free", app.name, "--mode", modes[0])
        raise saying.unanswered(desk, view, question, f"Look for another: {look}")
    (edit,) = change.edits
    says = f"{trigger} plays it {app.modes.phrase(app.modes.inside(modes))}."
    return changed_scheme(desk, edit.before, edit.after), says


def _known(app: App, event: Event) -> Event:
    """The event with the id of its command, where the log has the title or the menu."""
    return replace(event, command=logged(app.catalogue.by_id, event.command))


def _is_known(app: App, command: str) -> bool:
    return command in app.catalogue.by_id


def _show_log(as_json: bool, file: str, context: Surroundings, log: Log) -> int:
    """The lines of a log, to choose from."""
    events = log.events
    if as_json:
        context.json({"events": [event_report(event) for event in events]})
        return exit_status.found(events)
    print_table(
        context,
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
        context.say(f"{DIM}columns: {told}{OFF}")
    context.say(f"Make a macro of some: olive-compass macro from-log {file} APP/NAME --lines N..M")
    return exit_status.found(events)


def _say_set_aside(context: Surroundings, log: Log) -> None:
    for aside in log.set_aside[:MOST_SHOWN]:
        context.warn(f"line {aside.line} was left out: {aside.why}")
    if len(log.set_aside) > MOST_SHOWN:
        context.warn(f"and {len(log.set_aside) - MOST_SHOWN} more lines")
