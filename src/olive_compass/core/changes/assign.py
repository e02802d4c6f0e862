"""Gives a trigger to a command, as the verdict allows."""

from msgspec import Struct

from olive_compass.core.apps.app import Command
from olive_compass.core.changes.change import (
    REPLACE,
    SHARE,
    Answers,
    Change,
    Edit,
    Question,
    Refusal,
    edited,
)
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes import verdicts
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.objections.kind import TAKEN
from olive_compass.core.schemes.verdicts import ASKED, REFUSED, Verdict, verdict, without_full

#: What cannot be beyond what the verdict refuses: the application has no choice of commands; the
#: key would let a macro start itself.
NO_SHARING, SELF_START = "no-sharing", "self-start"


class Assign(Struct, frozen=True, kw_only=True):
    """Give ``trigger`` to ``command`` in ``modes`` of ``scheme``, and why.

    ``instead`` takes the command's other keys away, those of lower layers included.
    """

    command: Command
    trigger: Run
    modes: tuple[str, ...]
    scheme: Scheme
    why: str = ""
    instead: bool = False
    answers: Answers = Answers()


def assign(view: AppView, request: Assign) -> Change:
    """The scheme with the trigger; its one effect is the verdict."""
    answers = request.answers
    share = answers.taken == SHARE
    found = verdict(view, request.command, request.trigger, request.modes, request.scheme, share)
    # The others go, so there cannot be too many.
    if request.instead:
        found = without_full(found, request.scheme)
    # With a reason it is a decision of its own, even where the key is there from a lower layer.
    if _has_already(view, found) and not request.why and not request.instead:
        return Change(edits=(Edit(request.scheme, request.scheme),), effects=(found,))
    refusals = [Refusal(each.id, found) for each in found.against(REFUSED)]
    if share and view.app.rules.duplicates != "choice":
        refusals.append(Refusal(NO_SHARING, found))
    if refusals:
        return Change(effects=(found,), refusals=tuple(refusals))
    questions = _questions(view, found, answers)
    if questions:
        return Change(effects=(found,), questions=questions)
    slot = view.app.rules.slots.get(request.command.id, "")
    after = verdicts.edited(view, request.scheme, found, share, request.why, slot, request.instead)
    if way := _starts_itself(view, request.command, after):
        return Change(effects=(found,), refusals=(Refusal(SELF_START, way),))
    edits = (Edit(request.scheme, after),)
    # The verdict has looked at the key that is given; one that is given up may be guarded as well.
    if request.instead or found.gives_up:
        return edited(view, edits, answers, (found,))
    return Change(edits=edits, effects=(found,))


def _starts_itself(view: AppView, command: Command, after: Scheme) -> tuple[str, ...]:
    """How a macro that presses its own new key comes back to itself, none where it does not."""
    macro = view.macros.get(command.id.removeprefix("macro."))
    if command.kind != "macro" or not macro:
        return ()
    # Loaded here: what plays macros is a tenth of what an everyday command loads.
    from olive_compass.core.macros.calling import self_start

    keymap = Keymap(view.stack.with_scheme(after), view.keyboard)
    return self_start(keymap, view.macros, macro)


def _questions(view: AppView, found: Verdict, answers: Answers) -> tuple[Question, ...]:
    """The objections to it that have not been answered yet."""
    questions: dict[str, Question] = {}
    options = (REPLACE, SHARE) if view.app.rules.duplicates == "choice" else (REPLACE,)
    for each in found.against(ASKED):
        what = each.kind.asks
        if what == TAKEN:
            if answers.taken not in options:
                questions.setdefault(what, Question(what, found, options))
        elif what not in answers.despite:
            questions[what] = Question(what, found)
    return tuple(questions.values())


def _has_already(view: AppView, found: Verdict) -> bool:
    """Whether the press starts the command, and nothing else, in all of the modes."""
    if found.takers:
        return False
    return all(
        any(claim.command == found.command.id for claim in view.keymap.winners(press, mode))
        for press in view.keymap.keyboard.presses_of(found.trigger)
        for mode in found.inside
    )
