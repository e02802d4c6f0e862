"""Does a command on a document: value to value, simple and visible."""

from collections.abc import Callable, Mapping
from typing import Final, Literal

from msgspec import Struct

from olive_compass.core.apps.app import App, Command
from olive_compass.core.apps.modes import ROOT, joined
from olive_compass.core.macros.acts import Act, act_of
from olive_compass.core.macros.document import Document, Thing, free_id
from olive_compass.core.macros.inputs import declared, plain_number, point_of
from olive_compass.core.wording import clause
from olive_compass.structs import replace

#: How a command can end.
Ending = Literal["done", "failed", "cancelled", "started"]
DONE: Final = "done"
FAILED: Final = "failed"
CANCELLED: Final = "cancelled"
STARTED: Final = "started"


class Effect(Struct, frozen=True, kw_only=True):
    """What came of a command: the document after it, how it ended, a sentence, what it made."""

    document: Document
    outcome: Ending
    says: str
    made: tuple[str, ...] = ()


class _Work(Struct, frozen=True, kw_only=True):
    app: App
    command: Command
    values: Mapping[str, str]
    document: Document
    act: Act

    def value(self, kind: str) -> str:
        """The value of the first input of a kind, ``""`` where there is none."""
        names = [each.name for each in declared(self.command) if each.kind == kind]
        return next((self.values[name] for name in names if name in self.values), "")

    @property
    def others(self) -> dict[str, str]:
        """The values that say what a thing is like: not where it is, nor which are meant."""
        kinds = {each.name: each.kind for each in declared(self.command)}
        return {
            name: value
            for name, value in self.values.items()
            if kinds.get(name, "text") not in ("point", "selection")
        }


def unavailable(app: App, command: Command | None, mode: str) -> str:
    """Why a command cannot be started in ``mode``, ``""`` where it can."""
    if command is None:
        return f"{app.title} has no such command"
    if command.marks.withdrawn:
        return f"{app.title} {app.version} no longer has {command.title}".replace("  ", " ")
    if command.marks.never:
        return f"{command.title} is in the list but never enabled"
    if app.why_absent(command):
        return f"{command.title} needs “{command.marks.needs}”, which this computer does not have"
    if command.modes and mode not in app.modes.inside(command.modes):
        return f"{command.title} cannot be used in {mode}, only in {joined(command.modes)}"
    return ""


def first_mode(app: App) -> str:
    """The mode in which a session begins: the one that most commands name as their own."""
    counts: dict[str, int] = {}
    for command in app.catalogue.commands:
        for mode in command.modes:
            counts[mode] = counts.get(mode, 0) + 1
    return max(counts, key=lambda mode: counts[mode], default=ROOT)


def perform(app: App, command: Command, values: Mapping[str, str], document: Document) -> Effect:
    """What ``command`` with the inputs ``values`` makes of ``document``."""
    if why := unavailable(app, command, document.mode):
        return Effect(document=document, outcome=FAILED, says=f"{why}.")
    act = act_of(command)
    return _DOING[act.verb](
        _Work(app=app, command=command, values=values, document=document, act=act)
    )


def _place(work: _Work) -> Effect:
    document, title = work.document, work.command.title
    point = work.value("point")
    id_ = free_id(document.things, title)
    thing = Thing(id=id_, what=title, at=point_of(point) if point else None, values=work.others)
    after = document.changed(things=(*document.things, thing), selection=(id_,))
    return Effect(
        document=after,
        outcome=DONE,
        says=f"Placed {id_}{clause(' at {}', point)}.",
        made=(id_,),
    )


def _set(work: _Work) -> Effect:
    value = ", ".join(work.others.values())
    before = work.document.settings.get(work.command.id, "unset")
    settings = {**work.document.settings, work.command.id: value}
    says = f"{work.command.title} is now {value or 'empty'} (it was {before})."
    return Effect(document=work.document.changed(settings=settings), outcome=DONE, says=says)


def _on_things(
    work: _Work, change: Callable[[Thing], Thing | None], verb: str, extra: bool = False
) -> Effect:
    """Does something to each thing that is meant; None for a thing takes it away."""
    document = work.document
    ids = work.value("selection").split() or list(document.selection)
    known = document.by_id
    if missing := [id_ for id_ in ids if id_ not in known]:
        return Effect(
            document=document, outcome=FAILED, says=f"The document has no {joined(missing)}."
        )
    if not ids:
        return Effect(document=document, outcome=FAILED, says="Nothing is selected.")
    things: list[Thing] = list(document.things)
    made = []
    for id_ in ids:
        after = change(known[id_])
        if extra and after is not None:
            after = replace(after, id=free_id(things, after.what))
            things.append(after)
            made.append(after.id)
            continue
        # In its old place: what is drawn over what does not change.
        at = things.index(known[id_])
        if after:
            things[at : at + 1] = [after]
        else:
            things[at : at + 1] = []
    # The copies are selected, as hands go on with what they have just made.
    left = tuple(made) or tuple(id_ for id_ in ids if any(each.id == id_ for each in things))
    after_all = document.changed(things=tuple(things), selection=left)
    return Effect(document=after_all, outcome=DONE, says=f"{verb} {joined(ids)}.", made=tuple(made))


def _style(work: _Work) -> Effect:
    style = work.others.get("value") or work.command.title
    change = _with_value("style", style)
    return _on_things(work, change, f"{style} for")


def _change(work: _Work) -> Effect:
    names = [each.kind for each in declared(work.command)]
    if "selection" in names and not (work.value("selection") or work.document.selection):
        return Effect(document=work.document, outcome=FAILED, says="Nothing is selected.")
    if "selection" not in names:
        deed = ", ".join([work.command.title, *work.values.values()])
        after = work.document.changed(deeds=(*work.document.deeds, deed))
        return Effect(document=after, outcome=DONE, says=f"{work.command.title}: done.")
    value = ", ".join(work.others.values()) or "yes"
    change = _with_value(work.command.title, value)
    return _on_things(work, change, f"{work.command.title}:")


def _with_value(name: str, value: str) -> Callable[[Thing], Thing]:
    return lambda thing: replace(thing, values={**thing.values, name: value})


def _remove(work: _Work) -> Effect:
    return _on_things(work, lambda _thing: None, "Took away")


def _copy(work: _Work) -> Effect:
    def beside(thing: Thing) -> Thing:
        return replace(thing, at=(thing.at[0] + 10, thing.at[1] + 10) if thing.at else None)

    return _on_things(work, beside, "Copied", extra=True)


def _move(work: _Work) -> Effect:
    point = work.value("point")
    if not point:
        return Effect(document=work.document, outcome=FAILED, says="It needs a point to go to.")
    ids = work.value("selection").split() or list(work.document.selection)
    first = next((t.at for t in work.document.things if t.id in ids and t.at), None)
    x, y = point_of(point)
    dx = dy = 0.0
    if first:
        dx, dy = x - first[0], y - first[1]

    def moved(thing: Thing) -> Thing:
        return replace(thing, at=(thing.at[0] + dx, thing.at[1] + dy) if thing.at else (x, y))

    return _on_things(work, moved, f"Moved to {point}:")


def _select(work: _Work) -> Effect:
    document = work.document
    ids = tuple(thing.id for thing in document.things)
    chosen = {
        "none": (),
        "last": ids[-1:],
        "rest": tuple(id_ for id_ in ids if id_ not in document.selection),
    }.get(work.act.detail, tuple(work.value("selection").split()) or ids)
    if missing := [id_ for id_ in chosen if id_ not in ids]:
        return Effect(
            document=document, outcome=FAILED, says=f"The document has no {joined(missing)}."
        )
    says = "Nothing is selected."
    if chosen:
        says = f"Selected {joined(chosen)}."
    return Effect(document=replace(document, selection=chosen), outcome=DONE, says=says)


def _enter(work: _Work) -> Effect:
    mode = work.act.detail
    if mode not in work.app.modes:
        return Effect(
            document=work.document, outcome=FAILED, says=f"{work.app.title} has no mode “{mode}”."
        )
    return Effect(
        document=replace(work.document, mode=mode), outcome=DONE, says=f"The mode is now {mode}."
    )


def _leave(work: _Work) -> Effect:
    path = work.app.modes.path(work.document.mode)
    outer = ROOT
    if len(path) > 1:
        outer = path[1]
    return Effect(
        document=replace(work.document, mode=outer), outcome=DONE, says=f"The mode is now {outer}."
    )


def _undo(work: _Work) -> Effect:
    document = work.document
    if not document.past:
        return Effect(document=document, outcome=FAILED, says="There is nothing to take back.")
    *past, last = document.past
    # Kept without its own past, or each step would hold all those before it again.
    future = (*document.future, replace(document, past=(), future=()))
    after = replace(last, past=tuple(past), future=future, mode=document.mode)
    return Effect(document=after, outcome=DONE, says="Took back the last change.")


def _redo(work: _Work) -> Effect:
    document = work.document
    if not document.future:
        return Effect(document=document, outcome=FAILED, says="There is nothing to do again.")
    *future, last = document.future
    past = (*document.past, replace(document, past=(), future=()))
    after = replace(last, past=past, future=tuple(future), mode=document.mode)
    return Effect(document=after, outcome=DONE, says="Did it again.")


def _cancel(work: _Work) -> Effect:
    return Effect(document=work.document, outcome=DONE, says="There was nothing to end.")


def _shows(document: Document, what: str, says: str) -> Effect:
    return Effect(
        document=replace(document, shown=(*document.shown, what)), outcome=DONE, says=says
    )


def _show(work: _Work) -> Effect:
    name = work.app.rules.slots.get(work.command.id, "") or work.command.title
    return _shows(work.document, name, f"Shows {name}.")


def _view(work: _Work) -> Effect:
    return _shows(work.document, work.command.title, f"Shows: {work.command.title}.")


def _zoom(work: _Work) -> Effect:
    step = 1
    if work.act.detail.startswith("-"):
        step = -1
    zoom = work.document.zoom + step
    after = replace(work.document, zoom=zoom)
    return Effect(
        document=after,
        outcome=DONE,
        says=f"Shows it {'larger' if step > 0 else 'smaller'} ({zoom:+d}).",
    )


def _back(work: _Work) -> Effect:
    document = work.document
    if len(document.shown) < 2:
        return Effect(document=document, outcome=FAILED, says="Nothing was shown before.")
    after = replace(document, shown=document.shown[:-1])
    return Effect(document=after, outcome=DONE, says=f"Shows {after.shown[-1]} again.")


def _open(work: _Work) -> Effect:
    title, panels = work.command.title, work.document.panels
    if title in panels:
        after = replace(work.document, panels=tuple(each for each in panels if each != title))
        return Effect(document=after, outcome=DONE, says=f"The panel “{title}” is closed.")
    after = replace(work.document, panels=(*panels, title))
    return Effect(document=after, outcome=DONE, says=f"The panel “{title}” is open.")


def _save(work: _Work) -> Effect:
    return Effect(
        document=replace(work.document, saved=True),
        outcome=DONE,
        says=f"{work.document.name} is saved.",
    )


def _batch(work: _Work) -> Effect:
    document = work.document
    deeds = (*document.deeds, f"{work.command.title} (runs)")
    # What cannot be taken back leaves nothing to take back, as in the applications that it stands for.
    after = replace(document, deeds=deeds, past=(), future=(), saved=False)
    return Effect(
        document=after, outcome=STARTED, says=f"{work.command.title} runs, and cannot be undone."
    )


def _say(work: _Work) -> Effect:
    points = [point_of(v) for v in work.values.values() if v.count(",") == 1 and v[-1:].isdigit()]
    if len(points) > 1:
        (ax, ay), (bx, by) = points[:2]
        length = ((bx - ax) ** 2 + (by - ay) ** 2) ** 0.5
        return Effect(
            document=work.document,
            outcome=DONE,
            says=f"{work.command.title}: {plain_number(length)}.",
        )
    return Effect(
        document=work.document,
        outcome=DONE,
        says=f"{work.command.title}: {work.command.does or 'done'}.",
    )


def _play(work: _Work) -> Effect:
    return Effect(
        document=work.document,
        outcome=FAILED,
        says=f"{work.command.title} is a macro: it is played.",
    )


_DOING: dict[str, Callable[[_Work], Effect]] = {
    "place": _place,
    "set": _set,
    "style": _style,
    "show": _show,
    "open": _open,
    "enter": _enter,
    "leave": _leave,
    "select": _select,
    "remove": _remove,
    "copy": _copy,
    "move": _move,
    "change": _change,
    "undo": _undo,
    "redo": _redo,
    "cancel": _cancel,
    "view": _view,
    "zoom": _zoom,
    "back": _back,
    "save": _save,
    "batch": _batch,
    "say": _say,
    "play": _play,
}
