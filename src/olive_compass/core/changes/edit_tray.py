"""Makes and edits a tray: its items and groups, its place, its name, whether it is on, or back as it was."""

from collections.abc import Iterable

from msgspec import Struct

from olive_compass.core.apps.trays import PARTING, Tray, TrayKind
from olive_compass.core.changes.change import Change, Effect, Refusal, TrayEdit
from olive_compass.core.changes.view import AppView
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.layers import FACTORY
from olive_compass.core.trays import editing
from olive_compass.core.trays.counting import below, counting, read_place
from olive_compass.core.trays.verdicts import THERE, Remark, kind_of_tray, of_new_item
from olive_compass.structs import replace

#: What cannot be: an edit that its tray does not allow (``about`` says why), a kind that the application
#: does not have (``about``: those it has), one tray more of a kind than there can be, an item that stands
#: against it (``about``: a ``Remark``), and a tray that no other layer has.
WRONG, NO_KIND, TOO_MANY, AGAINST, NOTHING_BELOW = (
    "wrong",
    "no-kind",
    "too-many",
    "against",
    "nothing-below",
)


class New(Struct, frozen=True):
    """Make it."""


class Add(Struct, frozen=True, kw_only=True):
    """Put items on it, at the end of a group or beside an item."""

    items: tuple[str, ...]
    group: str | None = None
    before: str = ""
    after: str = ""


class DropItems(Struct, frozen=True):
    """Take items off."""

    items: tuple[str, ...]


class MoveItem(Struct, frozen=True, kw_only=True):
    """Put an item elsewhere on it."""

    item: str
    group: str | None = None
    before: str = ""
    after: str = ""


class Regroup(Struct, frozen=True, kw_only=True):
    """Make a group, call it ``new``, take it away (``gone``), or put it beside another."""

    title: str
    new: str = ""
    before: str = ""
    after: str = ""
    gone: bool = False


class Rename(Struct, frozen=True):
    """Call it otherwise. Its id stays, so that keys and other trays that have it still do."""

    title: str


class Stand(Struct, frozen=True):
    """Put it at another place among the application's own."""

    place: str


class Letter(Struct, frozen=True):
    """Give it an access letter, ``""``: none."""

    letter: str


class SwitchTray(Struct, frozen=True):
    """Switch it off or on; nothing of it is lost."""

    off: bool


class ResetTray(Struct, frozen=True):
    """As a lower layer has it, or as the application ships (``FACTORY``): the whole, or one group."""

    like: str
    group: str = ""


Edit = New | Add | DropItems | MoveItem | Regroup | Rename | Stand | Letter | SwitchTray | ResetTray


class EditTray(Struct, frozen=True, kw_only=True):
    """Do ``edit`` to ``tray``, in ``layer``. ``all`` are the trays of the application's file, whatever
    their layer; ``project`` is the desk's."""

    tray: Tray
    layer: str
    edit: Edit
    all: tuple[Tray, ...] = ()
    project: str = ""


class Over(Struct, frozen=True):
    """The tray lies over the one of a lower layer now, which stays as it is."""

    layer: str


class Unopened(Struct, frozen=True):
    """Nothing opens the tray."""

    tray: str


class KeysLeft(Struct, frozen=True):
    """Keys that go on naming a tray which is gone or switched off."""

    tray: str
    keys: tuple[str, ...]


def _own(request: EditTray) -> Tray | None:
    """The tray in the layer that is edited, None: it is in a lower one, or new."""
    return next((each for each in request.all if _same(each, request)), None)


def edit_tray(view: AppView, request: EditTray) -> Change:
    """The tray after the edit; its effects describe its new items, and how the tray is opened."""
    kind = kind_of_tray(view.app, request.tray)
    if refusal := _kind_refused(view, request, kind):
        return Change(refusals=(refusal,))
    if isinstance(request.edit, ResetTray):
        return _reset(view, request)
    own = _own(request)
    said = tuple(_said(view, request))
    if against := next((each for each in said if each.against), None):
        return Change(refusals=(Refusal(AGAINST, against),))
    try:
        after = _after(view, request, said)
    except ValueError as error:
        return Change(refusals=(Refusal(WRONG, str(error)),))
    after = replace(after, layer=request.layer)
    effects: list[Effect] = [*said]
    # The first edit in one's own layer covers a tray of a lower one: that is said, once.
    if own is None and (over := below(request.all, after)):
        effects.append(Over(over.layer))
    effects += _opening(view, request, kind, after)
    return Change(effects=tuple(effects), trays=(TrayEdit(own, after),))


def _opening(view: AppView, request: EditTray, kind: TrayKind, after: Tray) -> Iterable[Effect]:
    """What is to be said of what opens the tray afterwards."""
    if isinstance(request.edit, SwitchTray) and after.off:
        return _keys_left(view, after)
    # A tray in view, or opened by a click, needs no key.
    if kind.opens == "key" and not live_triggers(view.keymap, after.id):
        return [Unopened(after.id)]
    return []


def _same(tray: Tray, request: EditTray) -> bool:
    return (tray.name, tray.layer) == (request.tray.name, request.layer)


def _new_refused(view: AppView, request: EditTray, kind: TrayKind) -> Refusal | None:
    """Why the application would not have one more tray of that kind."""
    kinds = view.app.rules.trays
    if request.tray.kind not in kinds:
        return Refusal(NO_KIND, tuple(kinds))
    others = counting(request.all, request.project)
    # One that is switched off takes no place in the application.
    same = [each for each in others if each.kind == kind.name and not each.off]
    if kind.most and len(same) >= kind.most:
        return Refusal(TOO_MANY, kind)
    return None


def _kind_refused(view: AppView, request: EditTray, kind: TrayKind) -> Refusal | None:
    """Why the application would not have such a tray, or such an edit of one."""
    edit = request.edit
    if isinstance(edit, New) and (refusal := _new_refused(view, request, kind)):
        return refusal
    grouped = isinstance(edit, Regroup) or (isinstance(edit, (Add, MoveItem)) and edit.group)
    if grouped and not kind.groups:
        return Refusal(WRONG, f"a {kind.name} of {view.app.title} has no groups")
    return None


def _said(view: AppView, request: EditTray) -> Iterable[Remark]:
    """What is to be said of the items that are put on."""
    if not isinstance(request.edit, Add):
        return
    tray = request.tray
    for item in request.edit.items:
        if item != PARTING:
            found = list(of_new_item(view.keymap, tray, item))
            yield from found
            if not any(each.what == THERE for each in found):
                tray = editing.add(tray, [item])


def _with_new(tray: Tray, edit: Add, said: tuple[Remark, ...]) -> Tray:
    """The tray with the items that are not on it yet."""
    there = {each.item for each in said if each.what == THERE}
    new = [item for item in edit.items if item not in there]
    if not new:
        return tray
    return editing.add(tray, new, edit.group, edit.before, edit.after)


def _after(view: AppView, request: EditTray, said: tuple[Remark, ...]) -> Tray:
    """The tray after the edit. Raises ``ValueError``."""
    tray = request.tray
    match request.edit:
        case Add() as edit:
            return _with_new(tray, edit, said)
        case DropItems() as edit:
            return _dropped(tray, edit)
        case MoveItem(item=item, group=group, before=before, after=after):
            return editing.move(tray, item, group, before, after)
        case Regroup() as edit:
            return _regrouped(tray, edit)
        case Rename(title):
            return replace(tray, title=title)
        case Stand(place):
            return replace(tray, place=read_place(place, _own_menus(view)))
        case Letter(letter):
            return replace(tray, letter=letter.upper())
        case SwitchTray(off):
            return replace(tray, off=off)
    return tray


def _own_menus(view: AppView) -> list[str]:
    """The menus of the application itself, beside which a tray can stand."""
    commands = view.app.catalogue.listed
    return list(dict.fromkeys(command.menu[0] for command in commands if command.menu))


def _dropped(tray: Tray, edit: DropItems) -> Tray:
    for item in edit.items:
        if item != PARTING and tray.group_of(item) is None:
            raise ValueError(f"{item} is not on it")
    return editing.drop(tray, edit.items)


def _regrouped(tray: Tray, edit: Regroup) -> Tray:
    if edit.gone:
        return editing.drop_group(tray, edit.title)
    if edit.new:
        return editing.rename_group(tray, edit.title, edit.new)
    known = any(group.title.casefold() == edit.title.casefold() for group in tray.groups)
    if known and (edit.before or edit.after):
        return editing.move_group(tray, edit.title, edit.before, edit.after)
    return editing.new_group(tray, edit.title, edit.before, edit.after)


def _reset_group(request: EditTray, own: Tray | None, lower: Tray | None, group: str) -> Change:
    """The tray with one group as ``lower`` has it; None: without it."""
    try:
        after = _group_back(request.tray, lower, group)
    except ValueError as error:
        return Change(refusals=(Refusal(WRONG, str(error)),))
    return Change(trays=(TrayEdit(own, replace(after, layer=request.layer)),))


def _reset(view: AppView, request: EditTray) -> Change:
    """The tray as a lower layer has it; keys and other trays are left alone."""
    assert isinstance(request.edit, ResetTray)
    like, group = request.edit.like, request.edit.group
    own = _own(request)
    lower = below(request.all, replace(request.tray, layer=request.layer))
    if like != FACTORY and (lower is None or lower.layer != like):
        return Change(refusals=(Refusal(NOTHING_BELOW, like),))
    if group:
        return _reset_group(request, own, None if like == FACTORY else lower, group)
    if like == FACTORY and lower is not None:
        # The application ships without it: what a lower layer has is switched off here.
        off = replace(lower, layer=request.layer, off=True)
        return Change(effects=_keys_left(view, off), trays=(TrayEdit(own, off),))
    effects = _keys_left(view, request.tray) if lower is None else ()
    return Change(effects=effects, trays=(TrayEdit(own, None),) if own else ())


def _group_back(tray: Tray, lower: Tray | None, group: str) -> Tray:
    if lower is None:
        return editing.drop_group(tray, group)
    return editing.with_groups_of(tray, lower, group)


def _keys_left(view: AppView, tray: Tray) -> tuple[Effect, ...]:
    keys = tuple(map(str, live_triggers(view.keymap, tray.id)))
    if keys:
        return (KeysLeft(tray.id, keys),)
    return ()
