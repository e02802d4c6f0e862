"""Slots, and what is shown through another command, as they are reported: by ``app slot`` and ``via``."""

from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.desk.reported.report import Report


class SlotReport(Report, frozen=True, kw_only=True):
    """A slot: what is in it now, its keys, and the things that are shown through it."""

    command: str
    title: str
    content: str | None
    keys: list[str]
    shows: tuple[str, ...]


class ViaReport(Report, frozen=True, kw_only=True):
    """A thing that cannot have a key: the command that shows it, what that held when this was noted, and holds now."""

    title: str
    command: str
    content_then: str | None
    content: str | None
    keys: list[str]


def slot_reports(keymap: Keymap) -> list[SlotReport]:
    """All slots of an application."""
    app = keymap.app
    return [
        SlotReport(
            command=each.id,
            title=each.title,
            content=app.rules.slots.get(each.id) or None,
            keys=list(map(str, live_triggers(keymap, each.id))),
            shows=app.stands_for(each.id),
        )
        for each in app.catalogue.commands
        if each.kind == "slot"
    ]


def via_reports(keymap: Keymap) -> list[ViaReport]:
    """All things of an application that are shown through another command."""
    app = keymap.app
    return [
        ViaReport(
            title=thing,
            command=each.through,
            content_then=each.held or None,
            content=app.rules.slots.get(each.through) or None,
            keys=list(map(str, live_triggers(keymap, each.through))),
        )
        for thing, each in app.vias.items()
    ]
