"""Makes the safe repairs that findings propose."""

from collections.abc import Iterable

from msgspec import Struct

from olive_compass.core.changes.change import SURE, Answers, Change, Edit, Question, edited, shifted
from olive_compass.core.changes.fix import Fix
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.editing import set_modes
from olive_compass.core.schemes.view import View
from olive_compass.structs import replace


class Repair(Struct, frozen=True):
    """Make ``fixes`` in the schemes of a stack."""

    fixes: tuple[Fix, ...]
    answers: Answers = Answers()


def repair(view: View, request: Repair) -> Change:
    """The schemes with every repair made; it asks first."""
    by_name = {scheme.name: scheme for scheme in view.stack.schemes}
    edits = tuple(
        Edit(by_name[name], _repaired(by_name[name], request.fixes, view.app.rules.typed))
        for name in dict.fromkeys(fix.scheme for fix in request.fixes)
        if name in by_name
    )
    found = edited(view, edits, request.answers, shifted(view, edits))
    if edits and not request.answers.sure:
        found = replace(found, questions=(*found.questions, Question(SURE, len(request.fixes))))
    return found


def _repaired(scheme: Scheme, fixes: Iterable[Fix], typed: int) -> Scheme:
    for fix in fixes:
        if fix.scheme == scheme.name:
            scheme = set_modes(scheme, fix.command, fix.modes, read_trigger(fix.key, typed))
    return scheme
