"""Copies swipes from mode to mode: a whole rose, or one place of it."""

from msgspec import Struct

from olive_compass.core.changes.change import (
    REPLACE,
    Answers,
    Change,
    Edit,
    Question,
    Refusal,
    edited,
    lost,
)
from olive_compass.core.keys.kinds.swipe import swipe
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.objections.kind import TAKEN
from olive_compass.core.schemes.roses import RosePlace, copied
from olive_compass.core.schemes.traits import outside
from olive_compass.core.schemes.verdicts import REFUSED, Verdict, verdict
from olive_compass.core.schemes.verdicts import edited as with_key
from olive_compass.core.schemes.view import View
from olive_compass.structs import replace

#: The other rose has no such bearing.
NO_BEARING = "no-bearing"


class CopyRose(Struct, frozen=True, kw_only=True):
    """Copy the rose of ``origin``, or its place ``bearing``, to ``goal``."""

    origin: str
    goal: str
    scheme: Scheme
    bearing: int | None = None
    answers: Answers = Answers()


class Copied(Struct, frozen=True):
    """A place that was copied, the command that had it (``""``: none), and whether the command that it starts
    can be used there."""

    place: RosePlace
    had: str
    useless: bool = False


def copy_rose(view: View, request: CopyRose) -> Change:
    """The scheme with the swipes; places that are taken are asked about first."""
    wanted, impossible = copied(view.keymap, request.origin, request.goal, request.bearing)
    if impossible:
        return Change(refusals=(Refusal(NO_BEARING, impossible[0]),))
    known, app = view.app.catalogue.by_id, view.app
    places = [
        Copied(place, had, bool(outside(app, known[place.command], (request.goal,))))
        for place, had in wanted
        if had != place.command
    ]
    taken = tuple(each for each in places if each.had)
    after = request.scheme
    refusals: list[Refusal] = []
    for each in places:
        found = _verdict(view, each.place, request, after)
        refusals += [Refusal(each.id, found) for each in found.against(REFUSED)]
        # One after the other: the next is judged with those before it in place.
        after = with_key(view, after, found, share=False)
    if refusals:
        return Change(refusals=tuple(refusals))
    edits = (Edit(request.scheme, after),)
    runs = tuple(swipe(each.place.bearing) for each in taken)
    effects = (*places, *lost(view, edits, runs))
    found_change = edited(view, edits, request.answers, effects)
    if taken and request.answers.taken != REPLACE:
        question = Question(TAKEN, taken, (REPLACE,))
        return replace(found_change, questions=(question, *found_change.questions))
    return found_change


def _verdict(view: View, place: RosePlace, request: CopyRose, scheme: Scheme) -> Verdict:
    command = view.app.catalogue.by_id[place.command]
    return verdict(view, command, swipe(place.bearing), (request.goal,), scheme)
