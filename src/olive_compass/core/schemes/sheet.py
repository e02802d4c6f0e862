"""The lines of a sheet: commands with their working keys, grouped as the application groups them."""

from collections.abc import Callable, Mapping, Sequence
from types import MappingProxyType

from msgspec import Struct

from olive_compass.core.apps.app import App, Command
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.holdings import holdings


class SheetKey(Struct, frozen=True, kw_only=True):
    """A trigger of a line, how it is written, and the very modes in which it counts; ``where`` says
    them in words, ``""``: everywhere."""

    trigger: Run
    text: str
    modes: tuple[str, ...]
    where: str


class SheetLine(Struct, frozen=True, kw_only=True):
    """A command and the triggers that reach it; ``where`` any does, in words, ``""``: everywhere.

    ``note`` is why it is left without a key on purpose, ``asks`` what a macro asks for at each play.
    """

    keys: tuple[SheetKey, ...]
    title: str
    id: str
    where: str
    does: str
    note: str = ""
    asks: tuple[str, ...] = ()

    @property
    def texts(self) -> tuple[str, ...]:
        """The triggers as they are written; with their modes where those are not the same for all."""
        alike = len({key.where for key in self.keys}) < 2
        return tuple(
            key.text if alike or not key.where else f"{key.text} ({key.where})" for key in self.keys
        )


class SheetGroup(Struct, frozen=True):
    """The lines under one menu."""

    name: str
    lines: tuple[SheetLine, ...]


def sheet_groups(
    keymap: Keymap,
    mode: str | None,
    every_command: bool,
    key: Callable[[Run], str] = str,
    asks: Mapping[str, tuple[str, ...]] = MappingProxyType({}),
) -> list[SheetGroup]:
    """The groups of a sheet, in the application's order.

    Only commands that a key reaches where they can be used, in ``mode`` if one is given, unless
    ``every_command``. ``key`` says how a trigger is written, ``asks`` what the commands of macros ask for.
    """
    app = keymap.app
    lines: dict[str, SheetLine] = {}
    # Those of the catalogue by menu; what stands on trays is put after them.
    groups: dict[str, list[SheetLine]] = {}
    on_trays = {item for tray in app.active_trays for item in tray.items}
    keyless = _why_keyless(keymap.stack.schemes)
    for command in app.catalogue.commands:
        usable = _usable(app, command, mode)
        if not usable:
            continue
        keys = _working(keymap, command.id, usable)
        # What stands on a tray is on the sheet with its tray, key or no key.
        if not keys and not every_command and command.id not in on_trays:
            continue
        note = ""
        if not keys:
            note = keyless.get(command.id, "")
        line = _line(keymap, command, keys, key, note, asks.get(command.id, ()))
        lines[command.id] = line
        if keys or every_command:
            groups.setdefault(command.top_menu, []).append(line)
    menus = [SheetGroup(name, tuple(found)) for name, found in groups.items()]
    return menus + _of_trays(keymap, lines)


def _line(
    keymap: Keymap,
    command: Command,
    keys: Mapping[Run, dict[str, None]],
    key: Callable[[Run], str],
    note: str,
    asks: tuple[str, ...],
) -> SheetLine:
    """The line of a command with the keys that reach it, by the modes in which they do."""
    modes = dict.fromkeys(mode for live in keys.values() for mode in live)
    return SheetLine(
        keys=tuple(_shown(keymap, run, live, key) for run, live in keys.items()),
        title=_titled(keymap, command.id),
        id=command.id,
        where=_where(keymap, modes),
        does=command.does,
        note=note,
        asks=asks,
    )


def _why_keyless(schemes: Sequence[Scheme]) -> dict[str, str]:
    """Why commands are to have no key: the nearest reason is the one that counts, so it is put in last."""
    reasons = {}
    for scheme in reversed(schemes):
        reasons.update({command: each.why for command, each in scheme.keyless.items()})
    return reasons


def _usable(app: App, command: Command, mode: str | None) -> set[str]:
    """The modes in which a command can be used; of those only ``mode``, if one is given."""
    usable = set(app.modes.inside(command.usable_in))
    if mode:
        return usable & {mode}
    return usable


def _shown(keymap: Keymap, run: Run, live: dict[str, None], key: Callable[[Run], str]) -> SheetKey:
    return SheetKey(trigger=run, text=key(run), modes=tuple(live), where=_where(keymap, live))


def _working(keymap: Keymap, command: str, usable: set[str]) -> dict[Run, dict[str, None]]:
    """The triggers that reach a command, with the modes in which they do.

    A key that works where its command cannot be used is no line of a sheet.
    """
    keys: dict[Run, dict[str, None]] = {}
    for holding in holdings(keymap, command):
        if live := [mode for mode in holding.live if mode in usable]:
            keys.setdefault(holding.trigger, {}).update(dict.fromkeys(live))
    return keys


def _titled(keymap: Keymap, command: str) -> str:
    """What a command is called, with what it shows for want of a key."""
    things = keymap.app.stands_for(command)
    return keymap.app.shown(command) + (f" (shows {', '.join(things)})" if things else "")


def _of_trays(keymap: Keymap, lines: dict[str, SheetLine]) -> list[SheetGroup]:
    """A group for each group of each tray, with the keys that its items have besides."""
    found = []
    for tray in keymap.app.active_trays:
        for group in tray.groups:
            if group.title:
                name = f"{tray.title}, {group.title}"
            else:
                name = tray.title
            here = tuple(lines[item] for item in group.items if item in lines)
            if here:
                found.append(SheetGroup(f"{name} ({tray.kind})", here))
    return found


def _where(keymap: Keymap, modes: dict[str, None]) -> str:
    """The modes in words, ``""`` where it is everywhere or nowhere."""
    if not modes or len(modes) == len(keymap.app.modes.names):
        return ""
    return keymap.app.modes.phrase(modes).removeprefix("in ")
