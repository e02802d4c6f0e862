"""Puts one command, one key, one mode or a whole scheme back."""

from msgspec import Struct

from olive_compass.core.changes.change import (
    SURE,
    Answers,
    Change,
    Edit,
    Question,
    Refusal,
    edited,
    shifted,
)
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.resetting import Part
from olive_compass.core.schemes.resetting import reset as put_back
from olive_compass.core.schemes.view import View
from olive_compass.structs import replace

#: A scheme cannot be reset to itself.
ITSELF = "itself"


class Reset(Struct, frozen=True, kw_only=True):
    """Reset ``part`` of ``scheme`` as ``to`` has it; None: as if never decided."""

    part: Part
    scheme: Scheme
    to: Scheme | None = None
    answers: Answers = Answers()


def reset(view: View, request: Reset) -> Change:
    """The scheme with the part put back; resetting all of it asks first."""
    if request.to is not None and request.to.name == request.scheme.name:
        return Change(refusals=(Refusal(ITSELF),))
    after = put_back(request.scheme, request.part, request.to, view.keyboard)
    edits = (Edit(request.scheme, after),)
    found = edited(view, edits, request.answers, shifted(view, edits))
    if request.part == Part() and after != request.scheme and not request.answers.sure:
        gone = request.scheme.decisions - after.decisions
        found = replace(found, questions=(*found.questions, Question(SURE, gone)))
    return found
