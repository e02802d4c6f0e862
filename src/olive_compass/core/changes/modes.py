"""Lets the keys of a command count in fewer modes or in more, without typing them again."""

from msgspec import Struct

from olive_compass.core.apps.app import Command
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.changes.change import (
    Answers,
    Change,
    Edit,
    Question,
    Refusal,
    edited,
    shifted,
)
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.editing import set_modes
from olive_compass.core.schemes.objections import rules, typing
from olive_compass.core.schemes.objections.kind import TYPING
from olive_compass.core.schemes.verdicts import in_itself
from olive_compass.core.schemes.view import View
from olive_compass.structs import replace

#: What cannot be: the scheme gives the command no such key; nobody said where to; it is not that way.
NO_SUCH_KEY, NO_MODES, OTHER_WAY = "no-such-key", "no-modes", "other-way"


class Modes(Struct, frozen=True, kw_only=True):
    """Let the keys of ``command``, or only ``trigger``, count in ``modes`` (none: the obvious ones).

    ``wider`` says which way it is meant: more modes, or fewer.
    """

    command: Command
    scheme: Scheme
    wider: bool
    modes: tuple[str, ...] = ()
    trigger: Run | None = None
    answers: Answers = Answers()


class Counts(Struct, frozen=True):
    """The triggers of the command that count in other modes now, and in which."""

    triggers: tuple[Run, ...]
    modes: tuple[str, ...]


def _keeps_to_its_word(request: Modes, now: set[str], then: set[str]) -> bool:
    """What is said by --only must not widen, nor --also narrow."""
    if request.wider:
        return now <= then
    return then <= now


def modes(view: View, request: Modes) -> Change:
    """The scheme in which the keys count there, and what they do differently."""
    scheme, command = request.scheme, request.command
    mine = _meant(view, request)
    if not mine:
        others = [s.name for s in view.stack.schemes if command.id in s.assign]
        return Change(refusals=(Refusal(NO_SUCH_KEY, others),))
    given = [each for each in scheme.assign[command.id] if set(each.keys) & set(mine)]
    now = tuple(dict.fromkeys(mode for each in given for mode in each.modes))
    wanted = _wanted(request, now)
    if not wanted:
        return Change(refusals=(Refusal(NO_MODES),))
    tree = view.app.modes
    inside_now = set(tree.inside(now))
    if not _keeps_to_its_word(request, inside_now, set(tree.inside(wanted))):
        return Change(refusals=(Refusal(OTHER_WAY, tuple(inside_now)),))
    wanted = tree.outermost(wanted)
    after = scheme
    for run in dict.fromkeys(mine):
        after = set_modes(after, command.id, wanted, run)
    edits = (Edit(scheme, after),)
    effects = (Counts(tuple(dict.fromkeys(mine)), wanted), *shifted(view, edits))
    judged = _judged(view, request, mine, wanted)
    if judged.refusals or judged.questions:
        return replace(judged, effects=effects)
    return edited(view, edits, request.answers, effects)


def _meant(view: View, request: Modes) -> list[Run]:
    """The keys that the scheme gives the command; of those the one that is named, however it is written."""
    given = request.scheme.assign.get(request.command.id, ())
    keys = [run for each in given for run in each.keys]
    if request.trigger is None:
        return keys
    press = view.keyboard.press_of
    return [run for run in keys if press(run) == press(request.trigger)]


def _wanted(request: Modes, now: tuple[str, ...]) -> tuple[str, ...]:
    if request.wider:
        if request.modes:
            return tuple(dict.fromkeys((*now, *request.modes)))
        return (ROOT,)
    return request.modes or request.command.modes


def _judged(view: View, request: Modes, runs: list[Run], wanted: tuple[str, ...]) -> Change:
    """The objections to the keys in the new modes that there were not in the old."""
    if not request.wider:
        return Change()
    refusals: list[Refusal] = []
    questions: dict[str, Question] = {}
    for run in runs:
        found = in_itself(view, request.command, run, wanted)
        if found.evidence(rules.KIND):
            refusals.append(Refusal(rules.KIND.id, found))
        if found.evidence(typing.KIND) and TYPING not in request.answers.despite:
            questions[TYPING] = Question(TYPING, found)
    return Change(refusals=tuple(refusals), questions=tuple(questions.values()))
