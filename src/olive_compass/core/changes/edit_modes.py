"""Changes the modes of an application: adds, moves, renames and drops one, wherever it is named."""

from collections.abc import Callable, Mapping
from typing import Any

from msgspec import Struct

from olive_compass.core.apps.app import App, Catalogue
from olive_compass.core.apps.modes import ROOT, ModeTree
from olive_compass.core.changes.change import (
    Answers,
    AppEdit,
    Change,
    Edit,
    Question,
    Refusal,
    guard_questions,
)
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Decision, Scheme
from olive_compass.core.schemes.view import View
from olive_compass.structs import replace

#: What cannot be: the mode is there, it would lie inside itself, it is everywhere, or it is named by
#: what ``about`` counts.
THERE, INSIDE_ITSELF, IS_ROOT, IN_USE = "there", "inside-itself", "is-root", "in-use"


class Uses(Struct, frozen=True):
    """How often a mode is named: by commands, by decisions, by rules."""

    commands: int
    decisions: int
    rules: int

    @property
    def any(self) -> bool:
        return bool(self.commands or self.decisions or self.rules)


class EditModes(Struct, frozen=True, kw_only=True):
    """Change a mode of the application; ``schemes`` are all that it has, whether they count or not.

    ``add`` puts it inside ``parent``, ``move`` takes it there, ``rename`` calls it ``to``; ``drop``
    lets what lies inside it, and with ``to`` what is named of it, go to another mode.
    """

    verb: str
    mode: str
    schemes: tuple[Scheme, ...] = ()
    parent: str = ROOT
    to: str = ""
    answers: Answers = Answers()


def edit_modes(view: View, request: EditModes) -> Change:
    """The application and the schemes with the mode changed."""
    verbs: Mapping[str, Callable[[View, EditModes], Change]] = {
        "add": _add,
        "move": _move,
        "rename": _rename,
        "remove": _drop,
    }
    if request.mode == ROOT:
        return Change(refusals=(Refusal(IS_ROOT),))
    return verbs[request.verb](view, request)


def _add(view: View, request: EditModes) -> Change:
    if request.mode in view.app.modes:
        return Change(refusals=(Refusal(THERE, request.mode),))
    parents = {**view.app.modes.parents, request.mode: request.parent}
    return _changed(view, request, parents, lambda mode: mode)


def _move(view: View, request: EditModes) -> Change:
    if request.mode in view.app.modes.path(request.parent):
        return Change(refusals=(Refusal(INSIDE_ITSELF, request.parent),))
    parents = {**view.app.modes.parents, request.mode: request.parent}
    return _changed(view, request, parents, lambda mode: mode)


def _rename(view: View, request: EditModes) -> Change:
    if request.to in view.app.modes:
        return Change(refusals=(Refusal(THERE, request.to),))
    name = _replacing(request.mode, request.to)
    parents = {name(mode): name(parent) for mode, parent in view.app.modes.parents.items()}
    return _changed(view, request, parents, name)


def _drop(view: View, request: EditModes) -> Change:
    uses = uses_of(view.app, request.schemes, request.mode)
    if uses.any and not request.to:
        return Change(refusals=(Refusal(IN_USE, uses),))
    above = view.app.modes.parents[request.mode]
    to = _replacing(request.mode, request.to or above)
    within = _replacing(request.mode, above)
    parents = {
        mode: within(parent)
        for mode, parent in view.app.modes.parents.items()
        if mode != request.mode
    }
    return _changed(view, request, parents, to)


def _replacing(old: str, new: str) -> Callable[[str], str]:
    return lambda mode: new if mode == old else mode


def uses_of(app: App, schemes: tuple[Scheme, ...], mode: str) -> Uses:
    """What names a mode."""
    commands = sum(mode in command.modes for command in app.catalogue.commands)
    decisions = sum(
        mode in each.modes
        for scheme in schemes
        for table in (scheme.keyless, scheme.mute, scheme.guard)
        for each in table.values()
    )
    decisions += sum(
        mode in each.modes for s in schemes for lines in s.assign.values() for each in lines
    )
    rules = (mode in app.rules.text_modes) + (mode in app.rules.swipes)
    return Uses(commands, decisions, rules)


def _changed(
    view: View, request: EditModes, parents: dict[str, str], name: Callable[[str], str]
) -> Change:
    """The change to an application with these modes, in which each mode is called as ``name`` says."""
    app = view.app
    rules = replace(
        app.rules,
        text_modes=_each_once(app.rules.text_modes, name),
        # Where a mode absorbs another's, it keeps its own rose.
        swipes={name(m): n for m, n in app.rules.swipes.items()}
        | {m: n for m, n in app.rules.swipes.items() if m == name(m)},
    )
    commands = tuple(
        replace(command, modes=_each_once(command.modes, name)) if command.modes else command
        for command in app.catalogue.commands
    )
    catalogue = Catalogue(commands, app.catalogue.unreadable)
    after = replace(app, modes=ModeTree(parents), rules=rules, catalogue=catalogue)
    edits = tuple(
        Edit(scheme, new)
        for scheme in request.schemes
        if (new := with_modes(scheme, name)) != scheme
    )
    edited = {edit.after.name: edit.after for edit in edits}
    counting = tuple(edited.get(scheme.name, scheme) for scheme in view.stack.schemes)
    questions: tuple[Question, ...] = ()
    if request.verb in ("move", "remove"):
        # A new mode and a new name change no key.
        there = Keymap(Stack(after, counting, view.stack.system), view.keyboard)
        questions = guard_questions(view.keymap, there, request.answers)
    return Change(edits=edits, questions=questions, apps=(AppEdit(app, after),))


def _each_once(modes: tuple[str, ...], name: Callable[[str], str]) -> tuple[str, ...]:
    return tuple(dict.fromkeys(map(name, modes)))


def with_modes(scheme: Scheme, name: Callable[[str], str]) -> Scheme:
    """The scheme in which each mode is called as ``name`` says."""

    def of(table: Mapping[Any, Decision]) -> dict[Any, Decision]:
        return {
            key: replace(each, modes=_each_once(each.modes, name)) for key, each in table.items()
        }

    assign = {
        command: tuple(replace(each, modes=_each_once(each.modes, name)) for each in lines)
        for command, lines in scheme.assign.items()
    }
    return replace(
        scheme,
        assign=assign,
        keyless=of(scheme.keyless),
        mute=of(scheme.mute),
        guard=of(scheme.guard),
    )
