"""Takes a key set on in one application, by that application's own rules."""

from msgspec import Struct

from olive_compass.core.changes.change import SURE, Answers, Change, Edit, Question, edited
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.view import View
from olive_compass.core.sharing.applying import plan
from olive_compass.core.sharing.keysets import KeySet
from olive_compass.core.sharing.planned import Planned
from olive_compass.core.sharing.purposes import Purposes
from olive_compass.structs import replace


class ApplySet(Struct, frozen=True, kw_only=True):
    """Give the commands that serve purposes the keys of ``keyset``, in ``scheme``."""

    keyset: KeySet
    purposes: Purposes
    scheme: Scheme
    answers: Answers = Answers()


def apply_set(view: View, request: ApplySet) -> Change:
    """The scheme with the keys; its effects are what was planned, purpose by purpose."""
    found = plan(view.stack, request.scheme, request.keyset, request.purposes, view.keymap)
    edit = Edit(found.before, found.after)
    planned: tuple[Planned, ...] = found.planned
    if found.before == found.after:
        return Change(edits=(edit,), effects=planned)
    change = edited(view, (edit,), request.answers, planned)
    if not request.answers.sure:
        change = replace(change, questions=(*change.questions, Question(SURE, planned)))
    return change
