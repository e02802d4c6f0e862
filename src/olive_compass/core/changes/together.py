"""Several requests of one kind as one change: all of them, or none."""

from collections.abc import Callable, Sequence
from typing import Any

from olive_compass.core.changes.change import (
    Answers,
    Change,
    Edit,
    Effect,
    Question,
    after_edits,
    guard_questions,
)
from olive_compass.core.changes.view import AppView
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.objections.kind import TAKEN
from olive_compass.structs import replace


def together(
    view: AppView, requests: Sequence[Any], action: Callable[[AppView, Any], Change]
) -> Change:
    """The change that does what all of ``requests`` ask, each on top of those before it.

    They are requests of ``action``: named tuples with the ``scheme`` and the ``answers`` of all.
    Its effects are theirs, in order; what is asked is asked once, about all that it concerns, and the
    first refusal is that of all.
    """
    first = requests[0].scheme
    scheme, step = first, view
    effects: list[Effect] = []
    asked: dict[str, list[object]] = {}
    options: dict[str, tuple[str, ...]] = {}
    for request in requests:
        change = action(step, replace(request, scheme=scheme))
        if change.refusals:
            return Change(effects=tuple(effects), refusals=change.refusals)
        if change.questions:
            for question in change.questions:
                asked.setdefault(question.what, []).append(question.about)
                options[question.what] = question.options
            # What the others would be told is found out as if the answer were yes.
            despite = request.answers.despite | asked.keys()
            taken = request.answers.taken or next(iter(options.get(TAKEN, ())), "")
            sure = Answers(taken, frozenset(despite), True)
            change = action(step, replace(request, scheme=scheme, answers=sure))
        effects += change.effects
        if change.edits:
            scheme = change.edits[-1].after
            step = _on_top(view, scheme)
    questions = tuple(
        Question(what, tuple(found) if what == TAKEN else found[0], options[what])
        for what, found in asked.items()
    )
    edits = (Edit(first, scheme),)
    if not questions:
        # Each by itself may leave a guard alone that all of them together break.
        answers = requests[0].answers
        questions = guard_questions(view.keymap, after_edits(view, edits), answers)
    return Change(edits=edits, effects=tuple(effects), refusals=(), questions=questions)


def _on_top(view: AppView, scheme: Scheme) -> AppView:
    stack = view.stack.with_scheme(scheme)
    return AppView(stack, view.keyboard, view.weights, view.macros, view.hand, view.across)
