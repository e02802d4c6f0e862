"""Accepts a finding with the reason, or accepts it no longer."""

from msgspec import Struct

from olive_compass.core.changes.change import Answers, Change, Edit, Refusal
from olive_compass.core.schemes.decisions import Decision, Scheme
from olive_compass.core.schemes.view import View
from olive_compass.structs import replace

#: Why it cannot be: there is no such finding; there are several; the scheme does not accept it.
NONE, SEVERAL, NOT_ACCEPTED = "none", "several", "not-accepted"


class Accept(Struct, frozen=True, kw_only=True):
    """Accept the one of ``subjects`` (those that fit what was named) with the reason ``why``;
    None: accept it, or what was ``named``, no longer."""

    subjects: tuple[str, ...]
    named: str
    scheme: Scheme
    why: str | None = None
    answers: Answers = Answers()


def accept(_view: View, request: Accept) -> Change:
    """The scheme that accepts it. Nothing that a key does changes, so no guard is asked."""
    scheme = request.scheme
    if request.why is None:
        names = [n for n in scheme.accept if n == request.named or n in request.subjects[:1]]
        if not names:
            return Change(refusals=(Refusal(NOT_ACCEPTED, request.named),))
        kept = {key: value for key, value in scheme.accept.items() if key not in names}
        return Change(edits=(Edit(scheme, replace(scheme, accept=kept)),))
    if len(request.subjects) != 1:
        what = NONE
        if request.subjects:
            what = SEVERAL
        return Change(refusals=(Refusal(what, request.subjects),))
    accepted = {**scheme.accept, request.subjects[0]: Decision(why=request.why)}
    return Change(edits=(Edit(scheme, replace(scheme, accept=accepted)),))
