"""What the slots of an application show once one of them is changed, or its list moved."""

from olive_compass.core.apps.app import App


def row_of(app: App, slot: str) -> list[str]:
    """The slots of the list that one is of: those that stand in one menu."""
    known = app.catalogue.by_id
    return [c.id for c in app.catalogue.commands if c.kind == "slot" and c.menu == known[slot].menu]


def contents_after(app: App, slot: str, content: str, shift: str | None) -> dict[str, str]:
    """What is in the slots that change: the one that is named, and with a shift those after it."""
    if not shift:
        return {slot: content}
    held = app.rules.slots
    row = row_of(app, slot)
    at = row.index(slot)
    now = [held.get(each, "") for each in row]
    if shift == "on":
        now = [*now[:at], content, *now[at:]]
    else:
        now = [*now[:at], *now[at + 1 :], ""]
    if shift == "back" and content:
        now[at] = content
    return {each: what for each, what in zip(row, now, strict=False) if what != held.get(each, "")}
