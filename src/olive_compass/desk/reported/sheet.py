"""What is on a sheet, as ``sheet --json`` reports it."""

from collections.abc import Sequence

from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.sheet import SheetGroup
from olive_compass.desk.reported.report import Report


class SheetKeyReport(Report, frozen=True, kw_only=True):
    """A key, and the modes in which it works."""

    key: str
    modes: Sequence[str]


class SheetLineReport(Report, frozen=True, kw_only=True):
    """A command with its keys, or why it has none."""

    keys: list[SheetKeyReport]
    title: str
    command: str
    where: str | None
    does: str
    keyless: str | None
    asks: Sequence[str]


class SheetGroupReport(Report, frozen=True, kw_only=True):
    """The commands under one heading."""

    name: str
    lines: list[SheetLineReport]


class SheetReport(Report, frozen=True, kw_only=True):
    """The keys of an application as a list to read."""

    app: str
    title: str
    version: str
    mode: str | None
    groups: list[SheetGroupReport]


def sheet_report(keymap: Keymap, groups: list[SheetGroup], mode: str | None) -> SheetReport:
    """The keys of an application in groups, of a mode or of all of them (None)."""
    return SheetReport(
        app=keymap.app.name,
        title=keymap.app.title,
        version=keymap.app.version,
        mode=mode,
        groups=[
            SheetGroupReport(
                name=group.name,
                lines=[
                    SheetLineReport(
                        keys=[
                            SheetKeyReport(key=each.text, modes=each.modes) for each in line.keys
                        ],
                        title=line.title,
                        command=line.id,
                        where=line.where or None,
                        does=line.does,
                        keyless=line.note or None,
                        asks=line.asks,
                    )
                    for line in group.lines
                ],
            )
            for group in groups
        ],
    )
