"""``deliver --check`` and ``--import-changes``: what was changed in an application's own file since the last delivery."""

from olive_compass.cli import exit_status, pick
from olive_compass.cli.changing import saying
from olive_compass.cli.changing.running import Work, execute, options_of
from olive_compass.cli.sharing.delivering import (
    MOST_SHOWN,
    DeliverOptions,
    keys_text,
    print_moved,
    state_of,
)
from olive_compass.cli.sharing.delivery_files import target
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import DIM, GREEN, OFF, RED
from olive_compass.core.apps.app import App
from olive_compass.core.changes.change import Change, after_edits
from olive_compass.core.changes.collect import Collect, NotReached, collect
from olive_compass.core.changes.view import AppView
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.sharing.delivering import Moved
from olive_compass.core.wording import by_number, counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.reported.delivery import moved_report
from olive_compass.desk.shortcuts.changed_there import changed_there
from olive_compass.desk.shortcuts.delivery_target import Target, base_and_wish, form_parts, said_by
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.views import app_view
from olive_compass.desk.writing.changed_files import written_files
from olive_compass.errors import UserError
from olive_compass.near import nearest
from olive_compass.structs import replace


def _must_be_there(found: Target) -> None:
    if found.data is None:
        raise UserError("There is no such file.", file=found.path, hint="Deliver into it first.")


def check(args: DeliverOptions, context: Surroundings) -> int:
    """Says what was changed in the file over there. Returns 1 where anything was."""
    desk = pick.desk(args, context)
    keymap = Keymap(desk.stack(desk.app_name(args.app)), desk.keyboard)
    app = keymap.app
    found = target(context, desk, app, args.to, args.file_format)
    _must_be_there(found)
    changes, strange = changed_there(app, keymap, found)
    problems = [each for each in found.content.entries if each.problem]
    since, delivered = "what the desk wants", None
    if found.last:
        since, delivered = f"the delivery of {found.last.when}", found.last.when
    if args.json:
        context.json(
            {
                "app": app.name,
                "file": found.path,
                "file-format": found.form.name,
                "delivered": delivered,
                "differences": list(map(moved_report, changes)),
                "unreadable": [{"command": e.subject, "why": e.problem} for e in problems],
                "not-ours": strange,
            }
        )
        return exit_status.failed(changes or problems)
    for each in problems:
        context.say(f"{RED}Cannot be read{OFF}: {each.subject}: {each.problem}.")
    if strange:
        context.say(f"{DIM}Not of our catalogue, and left alone: {', '.join(strange[:6])}{OFF}")
    if not changes:
        context.say(f"{GREEN}As delivered{OFF}: {found.path} ({since}).")
        # A line that cannot be read may be a change: only what was read can be as delivered.
        return exit_status.failed(problems)
    verb = by_number(len(changes), "differs", "differ")
    context.say(f"{counted(len(changes), 'command')} {verb} from {since}:")
    print_moved(context, app, changes, "was", "there now")
    context.say(f"To import them: olive-compass deliver {app.name} --import-changes")
    context.say(f"To restore ours: olive-compass deliver {app.name}")
    return 1


def take_in(args: DeliverOptions, context: Surroundings) -> int:
    """Takes what was changed over there in as decisions of a scheme."""

    def prepare(desk: Desk) -> Work:
        view = app_view(desk, desk.app_name(args.app))
        found = target(context, desk, view.app, args.to, args.file_format)
        _must_be_there(found)
        changes, strange = changed_there(view.app, view.keymap, found)
        # A command that is only misspelt over there has not lost its key.
        misspelt = _misspelt(view.app, strange)
        changes = [each for each in changes if each.now or each.command not in misspelt]
        now = said_by(view.app, found)
        keys = {each.command: now.get(each.command, {}) for each in changes}
        scheme = pick.scheme_to_write(desk, view.stack, args.scheme)
        why = args.why or f"set in {view.app.title} itself"
        request = Collect(keys=keys, scheme=scheme, why=why)

        def files(change: Change) -> list[FileChange]:
            # What was imported is decided here from now on, and in the file already.
            decided = base_and_wish(view.app, after_edits(view, change.edits), found)[1].deltas
            state = state_of(context, desk, view.app, found.path, found.data or b"", now, decided)
            made = written_files(desk, change)
            # What was seen over there is kept as the new delivery, also where it needs no decision here.
            if made or changes:
                return [*made, state]
            return []

        return Work(
            view=view,
            decide=lambda answers: collect(view, replace(request, answers=answers)),
            what=lambda _change: (
                f"{view.app.title}: took over {counted(len(keys), 'command')} from the application"
            ),
            report=lambda change: [
                *_report(view, changes, change),
                *_not_taken(view.app, found, strange),
            ],
            files=files,
        )

    return execute(options_of(args), context, prepare)


def _misspelt(app: App, strange: list[str]) -> set[str]:
    """The commands that names of the file are nearly those of."""
    known = {name: id_ for id_, parts in form_parts(app).items() for name in (id_, parts["title"])}
    near = (nearest(name, list(known)) for name in strange)
    return {known[name] for name in near if name}


def _not_taken(app: App, found: Target, strange: list[str]) -> list[str]:
    """What stands in the file and is not imported: names that are no command of ours, with the nearest that is, and
    keys that cannot be read."""
    from olive_compass.near import did_you_mean

    known = [*form_parts(app), *(command.title for command in app.catalogue.commands)]
    lines = [
        f"Not imported: {name}, which is no command of {app.title} here. {did_you_mean(name, known)}".rstrip()
        for name in strange[:MOST_SHOWN]
    ]
    return lines + [
        f"Not imported: the keys of {each.subject}: {each.problem}."
        for each in found.content.entries
        if each.problem
    ]


def _report(view: AppView, changes: list[Moved], change: Change) -> list[str]:
    lines = [
        f"{view.app.shown(each.command)}: {keys_text(each.was)} before, {keys_text(each.now)} now"
        for each in changes[:MOST_SHOWN]
    ]
    lines += saying.plain_effects(view, change)[:MOST_SHOWN]
    lines += [
        f"But {view.app.shown(each.command)} has other keys here all the same: a nearer scheme or "
        "another command decides"
        for each in change.effects
        if isinstance(each, NotReached)
    ]
    return lines
