"""``clear``: takes a decision out of a scheme, and says what applies instead."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.changing import saying
from olive_compass.cli.changing.running import Work, change_options, execute, options_of
from olive_compass.cli.options import ChangeOptions, app_argument, command_argument
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.modes import joined
from olive_compass.core.apps.naming import command_named
from olive_compass.core.changes.change import Change
from olive_compass.core.changes.clear import BOTH, FROM_BELOW, Clear, FromBelow, clear
from olive_compass.core.changes.together import together
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.desk.desk import Desk
from olive_compass.desk.views import app_view
from olive_compass.errors import UserError
from olive_compass.structs import replace

GROUP = "change"
ORDER = 20
SUMMARY = "Remove a decision from a scheme, and show what applies instead"
EXAMPLES = """olive-compass clear quillmap "Smooth contour"
olive-compass clear quillmap Alt+M
olive-compass clear quillmap "Smooth contour" Alt+M
olive-compass clear quillmap "Spot height" "Smooth contour" --dry-run"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    command_argument(
        parser,
        "what",
        nargs="+",
        metavar="COMMAND_OR_KEY",
        help="a command (clears all its keys) or a key; a command and a key clears only this key of it; several are possible",
    )
    change_options(parser)


class ClearOptions(ChangeOptions, kw_only=True):
    """The options of ``clear``."""

    app: str
    what: list[str]


def run(args: ClearOptions, context: Surroundings) -> int:
    return execute(options_of(args), context, lambda desk: _prepare(desk, context, args))


def _prepare(desk: Desk, context: Surroundings, args: ClearOptions) -> Work:
    view = app_view(desk, desk.app_name(args.app))
    scheme = pick.scheme_to_write(desk, view.stack, args.scheme)
    found = [(_subject(each), each) for each in _requests(view, context, scheme, args)]
    if len(found) > 1:
        return _several(view, [request for _, request in found])
    ((subject, request),) = found
    return Work(
        view=view,
        decide=lambda answers: clear(view, replace(request, answers=answers)),
        what=lambda change: f"{view.app.title}: cleared {_cleared(request, change, subject)}",
        report=lambda change: saying.plain_effects(view, change),
        refused=lambda change: _refused(view, request, change, subject),
    )


def _several(view: AppView, requests: list[Clear]) -> Work:
    """The work of clearing several as one."""
    names = joined(map(_subject, requests), 4)

    def one(view: AppView, request: Clear) -> Change:
        return clear(view, request)

    def refused(change: Change) -> UserError:
        # The change of them all does not say whose refusal it is.
        for request in requests:
            if clear(view, request).refusals == change.refusals:
                return _refused(view, request, change, _subject(request))
        return _refused(view, requests[0], change, _subject(requests[0]))

    return Work(
        view=view,
        decide=lambda answers: together(view, [replace(r, answers=answers) for r in requests], one),
        what=lambda _change: f"{view.app.title}: cleared {names}",
        report=lambda change: saying.plain_effects(view, change),
        refused=refused,
    )


def _subject(request: Clear) -> str:
    if request.both:
        return f"{request.trigger} of {request.command}"
    return request.command or str(request.trigger)


def _requests(
    view: AppView, context: Surroundings, scheme: Scheme, args: ClearOptions
) -> list[Clear]:
    """What is to be cleared: commands, keys, or one key of a command."""
    app = view.app
    # Two words may be a command and its key, two commands, or two keys: a key that the command has comes first.
    if len(args.what) == 2 and (own := _own_key(view, scheme, *args.what)):
        return [own]
    if len(args.what) == 2 and _is_key_of(view, scheme, *args.what):
        command = _decided_command(args.what[0], scheme, view, context)
        return [
            Clear(
                scheme=scheme, command=command, trigger=pick.trigger(app, args.what[1]), both=True
            )
        ]
    return [_request(view, context, scheme, each) for each in args.what]


def _own_key(view: AppView, scheme: Scheme, command: str, key: str) -> Clear | None:
    """That key of that command, where the scheme gives it to the command, whatever else the words may be."""
    trigger = _as_trigger(key, view.app.rules.typed)
    if trigger is None:
        return None
    press = view.keyboard.press_of(trigger)
    named = command_named(view.app.catalogue.commands, command).exact
    for id_ in dict.fromkeys((command, *(each.id for each in named))):
        keys = (each for entry in scheme.assign.get(id_, ()) for each in entry.keys)
        if any(view.keyboard.press_of(each) == press for each in keys):
            return Clear(scheme=scheme, command=id_, trigger=trigger, both=True)
    return None


def _is_key_of(view: AppView, scheme: Scheme, first: str, second: str) -> bool:
    """Whether two words are a command and a key of it, and not two of one kind."""
    commands = view.app.catalogue.commands
    if _as_trigger(second, view.app.rules.typed) is None or command_named(commands, second).exact:
        # A word that is neither is taken for a key: what is wrong with it is said then.
        return second not in scheme.assign and not command_named(commands, second).exact
    is_key = _as_trigger(first, view.app.rules.typed) is not None
    named = first in scheme.assign or bool(command_named(commands, first).exact)
    return named or not is_key


def _request(view: AppView, context: Surroundings, scheme: Scheme, what: str) -> Clear:
    """One thing to be cleared: a command or a key."""
    app = view.app
    trigger = _as_trigger(what, app.rules.typed)
    named = command_named(app.catalogue.commands, what).exact
    command = ""
    if scheme.decides_on(what):
        command = what
    if command or len(named) == 1 or trigger is None:
        command = command or _decided_command(what, scheme, view, context)
    return Clear(scheme=scheme, command=command, trigger=trigger)


def _decided_command(given: str, scheme: Scheme, view: AppView, context: Surroundings) -> str:
    """The id that was meant: one that the scheme has, even if the catalogue lost it."""
    if scheme.decides_on(given):
        return given
    return pick.command(view.app, given, context).id


def _as_trigger(text: str, typed: int) -> Run | None:
    try:
        return read_trigger(text, typed)
    except TriggerError:
        return None


def _cleared(request: Clear, change: Change, subject: str) -> str:
    """The name of what was cleared, where a key and a command were both looked for."""
    either = request.command and request.trigger and not request.both
    if not either or not change.edits:
        return subject
    (edit,) = change.edits
    if edit.before.decides_on(request.command) and not edit.after.decides_on(request.command):
        return request.command
    return str(request.trigger)


def _refused(view: AppView, request: Clear, change: Change, subject: str) -> UserError:
    refusal = change.refusals[0]
    app, scheme = view.app, request.scheme
    if refusal.what == BOTH:
        return UserError(
            f"“{subject}” is a key and a command, and the scheme decides about both; "
            "nothing was changed.",
            hint=f"Name the command by its id ({request.command}) and the key, or write the key as "
            "@ and its place.",
        )
    if refusal.what == FROM_BELOW and isinstance(refusal.about, FromBelow):
        return _from_below(view, request, refusal.about)
    return UserError(
        f"The scheme {app.name}/{scheme.name} decides nothing about {subject}; "
        "nothing was changed.",
        hint=_who_else(view, subject, scheme),
    )


def _from_below(view: AppView, request: Clear, below: FromBelow) -> UserError:
    """The way to take a key of a lower layer: another key instead, or none on purpose."""
    app, scheme = view.app, request.scheme
    keys = joined(map(str, below.triggers))
    # Another scheme of this desk can be asked at once; only what no scheme gives needs a decision.
    others = [
        each.name
        for each in view.stack.schemes
        if each.name != scheme.name and each.decides_on(below.command)
    ]
    if others:
        hint = f"{others[0]} does: add --scheme {others[0]}"
    elif below.keeps:
        hint = (
            f"To keep only {below.keeps[0]}: olive-compass assign {app.name} {below.command} "
            f"'{below.keeps[0]}' --instead"
        )
    else:
        hint = (
            f"To leave it without a key: olive-compass keyless {app.name} {below.command} --why TEXT; "
            f"to give it another one: olive-compass assign {app.name} {below.command} KEY --instead"
        )
    return UserError(
        f"The scheme {app.name}/{scheme.name} decides nothing about {below.command}; a lower layer "
        f"gives it {keys}. Nothing was changed.",
        hint=hint,
    )


def _who_else(view: AppView, subject: str, scheme: Scheme) -> str:
    others = [
        each.name
        for each in view.stack.schemes
        if each.decides_on(subject)
        or any(str(key) == subject for table in (each.mute, each.guard) for key in table)
    ]
    if others:
        return f"{others[0]} does: add --scheme {others[0]}"
    return f"See what it has: olive-compass scheme show {view.app.name}/{scheme.name}"
