"""The lines of a sheet: commands with their working keys, grouped as the application groups them."""

from collections.abc import Callable
from typing import NamedTuple

from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import holdings


class SheetLine(NamedTuple):
    """A command and the triggers that reach it; ``modes`` where they do, none: everywhere."""

    keys: tuple[str, ...]
    title: str
    id: str
    modes: tuple[str, ...]
    does: str


class SheetGroup(NamedTuple):
    """The lines under one menu."""

    name: str
    lines: tuple[SheetLine, ...]


def sheet_groups(
    keymap: Keymap,
    mode: str | None,
    every_command: bool,
    key: Callable[[Run], str] = str,
) -> list[SheetGroup]:
    """The groups of a sheet, in the application's order.

    Only commands that a key reaches, in ``mode`` if one is given, unless ``every_command``.
    ``key`` says how a trigger is written.
    """
    root = keymap.app.modes.names[0]
    groups: dict[str, list[SheetLine]] = {}
    for command in keymap.app.catalogue.commands:
        found = holdings(keymap, command.id)
        live = [holding for holding in found if (mode in holding.live if mode else holding.live)]
        if not live and not every_command:
            continue
        modes = dict.fromkeys(m for holding in live for m in holding.live)
        line = SheetLine(
            tuple(dict.fromkeys(key(holding.trigger) for holding in live)),
            command.title,
            command.id,
            () if root in modes else keymap.app.modes.outermost(modes),
            command.does,
        )
        groups.setdefault(command.menu[0] if command.menu else "Without a menu", []).append(line)
    return [SheetGroup(name, tuple(lines)) for name, lines in groups.items()]
