"""Trays as they are reported: by ``tray list`` and ``tray show``."""

from collections.abc import Iterable

from msgspec.structs import asdict

from olive_compass.core.apps.trays import Tray
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.trays.filling import Filled
from olive_compass.core.trays.verdicts import Remark
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats.tray_file import table_of, tray_path
from olive_compass.desk.reported.report import Report


class GroupReport(Report, frozen=True, kw_only=True):
    """A group of items under its title."""

    title: str
    items: tuple[str, ...]


class TrayReport(Report, frozen=True, kw_only=True):
    """A tray: what stands on it, how it fills itself, and where it is kept."""

    app: str
    name: str
    title: str
    command: str
    kind: str
    layer: str
    place: str
    off: bool
    why: str
    fill: str | None
    most: int
    modes: tuple[str, ...]
    letter: str | None
    groups: list[GroupReport]
    items: tuple[str, ...]
    keys: list[str]
    file: str
    line: int


class FilledReport(Report, frozen=True, kw_only=True):
    """A command with which a tray has filled itself, and why."""

    command: str
    title: str
    why: str
    times: int
    last: str | None


class RemarkReport(Report, frozen=True, kw_only=True):
    """What is to be said of an item."""

    command: str
    what: str
    about: str


class TrayShown(TrayReport, frozen=True, kw_only=True):
    """A tray, what is in it now, and what is to be said of its items."""

    filled: list[FilledReport]
    said: list[RemarkReport]


def tray_report(desk: Desk, keymap: Keymap, tray: Tray) -> TrayReport:
    """A tray, with the keys that open it."""
    path = tray_path(keymap.app.name)
    return TrayReport(
        app=keymap.app.name,
        name=tray.name,
        title=tray.title,
        command=tray.id,
        kind=tray.kind,
        layer=tray.layer,
        place=tray.place,
        off=tray.off,
        why=tray.why,
        fill=tray.fill or None,
        most=tray.most,
        modes=tray.modes,
        letter=tray.letter or None,
        groups=[GroupReport(title=each.title, items=each.items) for each in tray.groups],
        items=tray.items,
        keys=list(map(str, live_triggers(keymap, tray.id))),
        file=path,
        line=desk.line(path, table_of(tray), ""),
    )


def tray_shown(
    desk: Desk, keymap: Keymap, tray: Tray, now: Iterable[Filled], said: Iterable[Remark]
) -> TrayShown:
    """A tray, with what is in it ``now`` and what is ``said`` of its items."""
    return TrayShown(
        **asdict(tray_report(desk, keymap, tray)),
        filled=[
            FilledReport(
                command=each.item,
                title=keymap.app.shown(each.item),
                why=each.why,
                times=each.times,
                last=each.last or None,
            )
            for each in now
        ],
        said=[RemarkReport(command=e.item, what=e.what, about=e.about) for e in said],
    )
