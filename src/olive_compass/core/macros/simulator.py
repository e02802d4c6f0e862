"""Does a command on a document: value to value, simple and visible."""

from collections.abc import Callable, Mapping

from olive_compass.core.apps.app import App, Command
from olive_compass.core.apps.modes import ROOT, joined
from olive_compass.core.macros import on_things
from olive_compass.core.macros.acts import act_of
from olive_compass.core.macros.document import Document
from olive_compass.core.macros.effects import DONE, FAILED, STARTED, Effect, Task
from olive_compass.core.macros.inputs import plain_number, point_of
from olive_compass.structs import replace


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
        Task(app=app, command=command, values=values, document=document, act=act)
    )


def _set(work: Task) -> Effect:
    value = ", ".join(work.others.values())
    before = work.document.settings.get(work.command.id, "unset")
    settings = {**work.document.settings, work.command.id: value}
    says = f"{work.command.title} is now {value or 'empty'} (it was {before})."
    return Effect(document=work.document.changed(settings=settings), outcome=DONE, says=says)


def _enter(work: Task) -> Effect:
    mode = work.act.detail
    if mode not in work.app.modes:
        return Effect(
            document=work.document, outcome=FAILED, says=f"{work.app.title} has no mode “{mode}”."
        )
    return Effect(
        document=replace(work.document, mode=mode), outcome=DONE, says=f"The mode is now {mode}."
    )


def _leave(work: Task) -> Effect:
    path = work.app.modes.path(work.document.mode)
    outer = ROOT
    if len(path) > 1:
        outer = path[1]
    return Effect(
        document=replace(work.document, mode=outer), outcome=DONE, says=f"The mode is now {outer}."
    )


def _undo(work: Task) -> Effect:
    document = work.document
    if not document.past:
        return Effect(document=document, outcome=FAILED, says="There is nothing to take back.")
    *past, last = document.past
    # Kept without its own past, or each step would hold all those before it again.
    future = (*document.future, replace(document, past=(), future=()))
    after = replace(last, past=tuple(past), future=future, mode=document.mode)
    return Effect(document=after, outcome=DONE, says="Took back the last change.")


def _redo(work: Task) -> Effect:
    document = work.document
    if not document.future:
        return Effect(document=document, outcome=FAILED, says="There is nothing to do again.")
    *future, last = document.future
    past = (*document.past, replace(document, past=(), future=()))
    after = replace(last, past=past, future=tuple(future), mode=document.mode)
    return Effect(document=after, outcome=DONE, says="Did it again.")


def _cancel(work: Task) -> Effect:
    return Effect(document=work.document, outcome=DONE, says="There was nothing to end.")


def _shows(document: Document, what: str, says: str) -> Effect:
    return Effect(
        document=replace(document, shown=(*document.shown, what)), outcome=DONE, says=says
    )


def _show(work: Task) -> Effect:
    name = work.app.rules.slots.get(work.command.id, "") or work.command.title
    return _shows(work.document, name, f"Shows {name}.")


def _view(work: Task) -> Effect:
    return _shows(work.document, work.command.title, f"Shows: {work.command.title}.")


def _zoom(work: Task) -> Effect:
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


def _back(work: Task) -> Effect:
    document = work.document
    if len(document.shown) < 2:
        return Effect(document=document, outcome=FAILED, says="Nothing was shown before.")
    after = replace(document, shown=document.shown[:-1])
    return Effect(document=after, outcome=DONE, says=f"Shows {after.shown[-1]} again.")


def _open(work: Task) -> Effect:
    title, panels = work.command.title, work.document.panels
    if title in panels:
        after = replace(work.document, panels=tuple(each for each in panels if each != title))
        return Effect(document=after, outcome=DONE, says=f"The panel “{title}” is closed.")
    after = replace(work.document, panels=(*panels, title))
    return Effect(document=after, outcome=DONE, says=f"The panel “{title}” is open.")


def _save(work: Task) -> Effect:
    return Effect(
        document=replace(work.document, saved=True),
        outcome=DONE,
        says=f"{work.document.name} is saved.",
    )


def _batch(work: Task) -> Effect:
    document = work.document
    deeds = (*document.deeds, f"{work.command.title} (runs)")
    # What cannot be taken back leaves nothing to take back, as in the applications that it stands for.
    after = replace(document, deeds=deeds, past=(), future=(), saved=False)
    return Effect(
        document=after, outcome=STARTED, says=f"{work.command.title} runs, and cannot be undone."
    )


def _say(work: Task) -> Effect:
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


def _play(work: Task) -> Effect:
    return Effect(
        document=work.document,
        outcome=FAILED,
        says=f"{work.command.title} is a macro: it is played.",
    )


_DOING: dict[str, Callable[[Task], Effect]] = {
    "place": on_things.place,
    "set": _set,
    "style": on_things.style,
    "show": _show,
    "open": _open,
    "enter": _enter,
    "leave": _leave,
    "select": on_things.select,
    "remove": on_things.remove,
    "copy": on_things.copy,
    "move": on_things.move,
    "change": on_things.change,
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
