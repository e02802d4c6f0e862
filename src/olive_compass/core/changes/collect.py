"""Takes the keys that somebody set in the application itself in as decisions."""

from collections.abc import Iterable, Mapping
from itertools import chain

from msgspec import Struct

from olive_compass.core.apps.modes import ROOT
from olive_compass.core.changes.change import Answers, Change, Edit, edited, shifted
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.core.schemes.editing import clear_command
from olive_compass.core.schemes.view import View
from olive_compass.core.sharing.delivering import NO_MODE, ByMode, alike, wanted_by_mode
from olive_compass.structs import replace


class Collect(Struct, frozen=True, kw_only=True):
    """Let commands have the keys that ``keys`` gives by command and mode, in ``scheme``.

    ``why`` is the reason that stands with the decisions.
    """

    keys: ByMode
    scheme: Scheme
    why: str = ""
    answers: Answers = Answers()


class NotReached(Struct, frozen=True):
    """A command that has other keys here than over there all the same: a nearer scheme or another
    command decides."""

    command: str
    keys: tuple[Run, ...]


def collect(view: View, request: Collect) -> Change:
    """The scheme in which the commands have those keys, and no decision that is not needed for it."""
    scheme = request.scheme
    with_modes = not any(NO_MODE in by_mode for by_mode in request.keys.values())
    for command, by_mode in request.keys.items():
        scheme = _with_keys(view, scheme, command, by_mode, request.why, with_modes)
    edits = (Edit(request.scheme, scheme),)
    after = Keymap(view.stack.with_scheme(scheme), view.keyboard)
    there = wanted_by_mode(after, with_modes)
    wrong = tuple(
        NotReached(command, tuple(dict.fromkeys(r for keys in by_mode.values() for r in keys)))
        for command, by_mode in request.keys.items()
        if not alike(there.get(command, {}), by_mode)
    )
    return edited(view, edits, request.answers, (*shifted(view, edits), *wrong))


def _with_keys(
    view: View,
    scheme: Scheme,
    command: str,
    by_mode: Mapping[str, tuple[Run, ...]],
    why: str,
    with_modes: bool,
) -> Scheme:
    """The scheme in which one command has these keys: as few decisions as say it."""
    cleared = clear_command(scheme, command)
    below = _below(view, cleared, command, with_modes)
    if alike(below, by_mode):
        return cleared
    known = view.app.catalogue.by_id[command]
    usual = known.usable_in
    lines = _modes_by_keys(by_mode, usual)
    entries = tuple(
        Assignment(keys=keys, modes=tuple(dict.fromkeys(modes)), why=why, instead=bool(below))
        for keys, modes in lines.items()
    )
    tree = view.app.modes
    told = tree.inside(chain.from_iterable(lines.values()))
    left = tree.outermost([mode for mode in tree.inside(usual) if mode not in told])
    has_below = any(below.values())
    assign = {**cleared.assign, command: entries} if entries else cleared.assign
    keyless = dict(cleared.keyless)
    if has_below and left:
        # What lower layers give it in the modes that are not told goes there.
        keyless[command] = Decision(why=why, modes=left if entries else (ROOT,))
    return replace(cleared, assign=assign, keyless=keyless)


def _modes_by_keys(
    by_mode: Mapping[str, tuple[Run, ...]], usual: Iterable[str]
) -> dict[tuple[Run, ...], list[str]]:
    """In which modes the same keys count, for a decision each; without a mode, in those of the command."""
    lines: dict[tuple[Run, ...], list[str]] = {}
    for mode, keys in by_mode.items():
        if keys:
            lines.setdefault(keys, []).extend(usual if mode == NO_MODE else (mode,))
    return lines


def _below(
    view: View, cleared: Scheme, command: str, with_modes: bool
) -> dict[str, tuple[Run, ...]]:
    """The keys of a command without the decisions of the scheme on it."""
    stack: Stack = view.stack.with_scheme(cleared)
    return wanted_by_mode(Keymap(stack, view.keyboard), with_modes).get(command, {})
