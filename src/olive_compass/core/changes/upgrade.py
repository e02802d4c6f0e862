"""Takes a new version of an application: its catalogue, and what the schemes stand on."""

from msgspec import Struct

from olive_compass.core.apps.app import App, Catalogue
from olive_compass.core.changes.change import (
    SURE,
    Answers,
    AppEdit,
    Change,
    Edit,
    Effect,
    Question,
    guard_questions,
)
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.layers import FACTORY
from olive_compass.core.schemes.view import View
from olive_compass.core.sharing.upgrading import Upgrade, put_back, upgrade
from olive_compass.structs import replace


class TakeVersion(Struct, frozen=True, kw_only=True):
    """Take ``listed`` for the catalogue of ``version`` (``""``: it is called as before).

    ``used`` are commands that macros and purposes name, ``forget`` fields that go where the listing
    leaves them empty. ``has_ids`` says that the listing has the application's own ids. ``keep_in`` is the scheme that gets the factory keys that moved, None: none.
    """

    listed: Catalogue
    version: str = ""
    used: frozenset[str] = frozenset()
    forget: tuple[str, ...] = ()
    keep_in: Scheme | None = None
    answers: Answers = Answers()
    has_ids: bool = False


class PutBack(Struct, frozen=True):
    """How many commands have their old keys again, and in which scheme."""

    scheme: str
    commands: int


def take_version(view: View, request: TakeVersion) -> Change:
    """The application and the schemes as they would be; its first effect is the whole ``Upgrade``."""
    stack, old = view.stack, view.app
    found = upgrade(
        stack,
        request.listed,
        request.version,
        view.keyboard,
        request.used,
        request.forget,
        request.has_ids,
    )
    after = {scheme.name: _rebased(scheme, old, found.app) for scheme in stack.schemes}
    effects: list[Effect] = [found]
    new = Keymap(replace(stack, app=found.app), view.keyboard)
    if (keep := request.keep_in) is not None:
        # A scheme that does not count is written as well, where it was named.
        kept = put_back(after.get(keep.name, keep), found, old, new)
        count = sum(keep.assign.get(c) != a for c, a in kept.assign.items())
        after[keep.name] = kept
        effects.append(PutBack(keep.name, count))
    before = {scheme.name: scheme for scheme in (*stack.schemes, *((keep,) if keep else ()))}
    edits = tuple(Edit(before[name], scheme) for name, scheme in after.items())
    apps = () if _is_alike(old, found.app) else (AppEdit(old, found.app),)
    change = Change(edits=edits, effects=tuple(effects), apps=apps)
    if change.already:
        return change
    # The new version's own changes are not held against the keys that are put back.
    schemes = tuple(after.get(scheme.name, scheme) for scheme in stack.schemes)
    then = Keymap(replace(stack, app=found.app, schemes=schemes), view.keyboard)
    questions = guard_questions(new, then, request.answers)
    sure = () if request.answers.sure else (Question(SURE, found),)
    return replace(change, questions=(*questions, *sure))


def version_of(change: Change) -> Upgrade:
    """What ``take_version`` found of the new version."""
    (found,) = (each for each in change.effects if isinstance(each, Upgrade))
    return found


def _rebased(scheme: Scheme, old: App, new: App) -> Scheme:
    """The scheme as it stands on the new version, where it stood on the old one."""
    if scheme.based_on != f"{FACTORY} {old.version}" or new.version == old.version:
        return scheme
    return replace(scheme, based_on=f"{FACTORY} {new.version}")


def _is_alike(old: App, new: App) -> bool:
    """Whether a person would see no difference; where a line stands in a file is none."""
    commands = ([replace(c, line=0) for c in each.catalogue.commands] for each in (old, new))
    return (old.version, dict(old.ids)) == (new.version, dict(new.ids)) and next(commands) == next(
        commands
    )
