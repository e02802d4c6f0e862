"""What an action gives back: edits, what follows from them, refusals and questions."""

from typing import TYPE_CHECKING

from msgspec import Struct

from olive_compass.core.apps.app import App
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.consequences import Loss, Shift, losses, shifts
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.guards import broken_guards
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.objections.kind import GUARD, KEYBOARD, KEYLESS, TYPING
from olive_compass.core.schemes.view import View

if TYPE_CHECKING:
    from olive_compass.core.apps.trays import Tray
    from olive_compass.core.macros.macro import Macro

#: What a person can say yes to: each is asked at a terminal, and named by ``--despite`` in a script.
DESPITE = (GUARD, KEYLESS, TYPING, KEYBOARD)

#: What can be done with a trigger that is held.
REPLACE, SHARE = "replace", "share"


class Answers(Struct, frozen=True):
    """What a person has answered so far: what to do with a trigger that is held, what is to be done
    all the same, and whether all of it is meant."""

    taken: str = ""
    despite: frozenset[str] = frozenset()
    sure: bool = False


class Edit(Struct, frozen=True):
    """A scheme before and after."""

    before: Scheme
    after: Scheme


class MacroEdit(Struct, frozen=True):
    """A macro before and after; None: it is not there."""

    before: "Macro | None"
    after: "Macro | None"


class TrayEdit(Struct, frozen=True):
    """A tray of one layer before and after; None: it is not there."""

    before: "Tray | None"
    after: "Tray | None"


class AppEdit(Struct, frozen=True):
    """An application before and after: a new version of it."""

    before: App
    after: App


class StackEdit(Struct, frozen=True):
    """The schemes that are to count for an application, the nearest first."""

    app: str
    names: tuple[str, ...]


class Question(Struct, frozen=True):
    """What a person must answer first: ``taken`` (by whom: ``about``), ``sure``, or a word of
    ``DESPITE``. ``about`` is what it is about: a verdict, broken guards, shifts."""

    what: str
    about: object
    options: tuple[str, ...] = ()


class Refusal(Struct, frozen=True):
    """What cannot be: a word for it (each action names its own), and what it is about."""

    what: str
    about: object = None


#: A question that is not about a word of ``DESPITE``.
SURE = "sure"


class Without(Struct, frozen=True):
    """A command that the edit leaves without any key, and whether a menu has it."""

    command: str
    route: str


class StillHas(Struct, frozen=True):
    """A command that nearer layers still give keys."""

    command: str
    triggers: tuple[Run, ...]


#: A typed effect: a record of the module that makes it.
Effect = Struct


class Change(Struct, frozen=True, kw_only=True):
    """What an action comes to. With a refusal or a question nothing is to be written yet.

    ``already`` says that nothing is to be done, for it is so.
    """

    edits: tuple[Edit, ...] = ()
    effects: tuple[Effect, ...] = ()
    refusals: tuple[Refusal, ...] = ()
    questions: tuple[Question, ...] = ()
    macros: tuple[MacroEdit, ...] = ()
    apps: tuple[AppEdit, ...] = ()
    stacks: tuple[StackEdit, ...] = ()
    trays: tuple[TrayEdit, ...] = ()

    @property
    def already(self) -> bool:
        edits: tuple[Edit | MacroEdit | AppEdit | TrayEdit, ...]
        edits = (*self.edits, *self.macros, *self.apps, *self.trays)
        same = all(each.before == each.after for each in edits) and not self.stacks
        return not self.refusals and not self.questions and same


def edited(
    view: View, edits: tuple[Edit, ...], answers: Answers, effects: tuple[Effect, ...] = ()
) -> Change:
    """A change of schemes, held against the guards: no action writes a scheme but through this."""
    questions: tuple[Question, ...] = ()
    if _is_guarded(view.keymap, answers):
        questions = guard_questions(view.keymap, after_edits(view, edits), answers)
    return Change(edits=edits, effects=effects, refusals=(), questions=questions)


def _is_guarded(before: Keymap, answers: Answers) -> bool:
    """Whether there are guards, and nobody has said that they may be broken."""
    return GUARD not in answers.despite and before.stack.has_guards


def guard_questions(before: Keymap, after: Keymap, answers: Answers) -> tuple[Question, ...]:
    """What is asked where keys that are guarded would change, whatever changes them."""
    if not _is_guarded(before, answers):
        return ()
    broken = tuple(broken_guards(before, after))
    if broken:
        return (Question(GUARD, broken),)
    return ()


def after_edits(view: View, edits: tuple[Edit, ...]) -> Keymap:
    """The keys as they are once ``edits`` are made."""
    stack = view.stack
    for edit in edits:
        stack = stack.with_scheme(edit.after)
    return Keymap(stack, view.keyboard)


def _claimed(view: View, command: str) -> dict[Run, None]:
    """The triggers that any layer gives a command."""
    return dict.fromkeys(claim.trigger for claim in view.keymap.by_command.get(command, ()))


def touched(view: View, before: Scheme, after: Scheme) -> list[Run]:
    """The triggers about which two schemes differ, the keys of commands made keyless included."""
    found: dict[Run, None] = {}
    for command in dict.fromkeys((*before.assign, *after.assign)):
        was, now = before.assign.get(command, ()), after.assign.get(command, ())
        if was != now:
            for each in (*was, *now):
                found.update(dict.fromkeys(each.keys))
            # What stands instead also silences the keys of the layers below.
            if any(each.instead for each in now):
                found.update(_claimed(view, command))
    for command in before.keyless.keys() ^ after.keyless.keys():
        known = view.app.catalogue.by_id.get(command)
        if known:
            found.update(dict.fromkeys(known.keys))
        found.update(_claimed(view, command))
    for old, new in ((before.mute, after.mute), (before.guard, after.guard)):
        found.update(dict.fromkeys(run for run in (*old, *new) if old.get(run) != new.get(run)))
    return list(found)


def _decided_otherwise(before: Scheme, after: Scheme) -> list[str]:
    """The commands on which two schemes decide differently."""
    commands = dict.fromkeys((*before.assign, *after.assign, *before.keyless, *after.keyless))
    return [
        command
        for command in commands
        if before.assign.get(command) != after.assign.get(command)
        or before.keyless.get(command) != after.keyless.get(command)
    ]


def shifted(view: View, edits: tuple[Edit, ...]) -> tuple[Shift, ...]:
    """What typing the triggers that the edits touch does differently."""
    after = after_edits(view, edits)
    triggers = dict.fromkeys(
        run for edit in edits for run in touched(view, edit.before, edit.after)
    )
    # What a decision had silenced comes back once it is gone.
    for edit in edits:
        for command in _decided_otherwise(edit.before, edit.after):
            triggers |= dict.fromkeys(c.trigger for c in after.by_command.get(command, ()))
    return tuple(shifts(view.keymap, after, triggers))


def lost(view: View, edits: tuple[Edit, ...], triggers: tuple[Run, ...]) -> tuple[Loss, ...]:
    """The commands that lose any of ``triggers`` by the edits, and what each is left with."""
    after = after_edits(view, edits)
    return tuple(loss for run in triggers for loss in losses(view.keymap, after, run))


def without(view: View, edits: tuple[Edit, ...], commands: tuple[str, ...]) -> tuple[Without, ...]:
    """Those of ``commands`` that the edits leave without any key."""
    after = after_edits(view, edits)
    known = view.app.catalogue.by_id
    return tuple(
        Without(command, known[command].route if command in known else "")
        for command in dict.fromkeys(commands)
        if not live_triggers(after, command)
    )
