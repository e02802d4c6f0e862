"""What commands do to the things of a document: place, change, copy, move and remove them, or select some."""

from collections.abc import Callable

from olive_compass.core.apps.modes import joined
from olive_compass.core.macros.document import Thing, free_id
from olive_compass.core.macros.effects import DONE, FAILED, Effect, Task
from olive_compass.core.macros.inputs import declared, point_of
from olive_compass.core.wording import clause
from olive_compass.structs import replace


def place(work: Task) -> Effect:
    """Places a new thing, and selects it."""
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


def _on_things(
    work: Task, change: Callable[[Thing], Thing | None], verb: str, extra: bool = False
) -> Effect:
    """Does something to each thing that is meant; None for a thing takes it away."""
    document = work.document
    ids = work.value("selection").split() or list(document.selection)
    if missing := [id_ for id_ in ids if id_ not in document.by_id]:
        return Effect(
            document=document, outcome=FAILED, says=f"The document has no {joined(missing)}."
        )
    if not ids:
        return Effect(document=document, outcome=FAILED, says="Nothing is selected.")
    things: list[Thing] = list(document.things)
    made = []
    for id_ in ids:
        before = document.by_id[id_]
        after = change(before)
        if extra and after is not None:
            after = replace(after, id=free_id(things, after.what))
            things.append(after)
            made.append(after.id)
        else:
            _put(things, before, after)
    # The copies are selected, as hands go on with what they have just made.
    there = {each.id for each in things}
    left = made or [id_ for id_ in ids if id_ in there]
    after_all = document.changed(things=tuple(things), selection=tuple(left))
    return Effect(document=after_all, outcome=DONE, says=f"{verb} {joined(ids)}.", made=tuple(made))


def _put(things: list[Thing], before: Thing, after: Thing | None) -> None:
    """Puts a thing into the place of another, for what is drawn over what does not change; None takes it away."""
    at = things.index(before)
    if after is None:
        del things[at]
    else:
        things[at] = after


def style(work: Task) -> Effect:
    """Gives things a style: that of the input, or the one that the command is named after."""
    wanted = work.others.get("value") or work.command.title
    return _on_things(work, _with_value("style", wanted), f"{wanted} for")


def change(work: Task) -> Effect:
    """Notes with each thing what was changed; where nothing is selected to be changed, with the document."""
    if all(each.kind != "selection" for each in declared(work.command)):
        deed = ", ".join([work.command.title, *work.values.values()])
        after = work.document.changed(deeds=(*work.document.deeds, deed))
        return Effect(document=after, outcome=DONE, says=f"{work.command.title}: done.")
    value = ", ".join(work.others.values()) or "yes"
    return _on_things(work, _with_value(work.command.title, value), f"{work.command.title}:")


def _with_value(name: str, value: str) -> Callable[[Thing], Thing]:
    return lambda thing: replace(thing, values={**thing.values, name: value})


def remove(work: Task) -> Effect:
    """Takes things away."""
    return _on_things(work, lambda _thing: None, "Took away")


def copy(work: Task) -> Effect:
    """Puts a copy beside each thing."""

    def beside(thing: Thing) -> Thing:
        return replace(thing, at=(thing.at[0] + 10, thing.at[1] + 10) if thing.at else None)

    return _on_things(work, beside, "Copied", extra=True)


def move(work: Task) -> Effect:
    """Moves things so that the first of them comes to a point."""
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


def select(work: Task) -> Effect:
    """Selects all things, none, the last one, the others, or the named ones."""
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
