"""What the access letters of an application open, and those that stand twice in a menu."""

from collections.abc import Iterable

from olive_compass.core.apps.app import Command
from olive_compass.core.keys.triggers import Run, stroke


def menu_openers(commands: Iterable[Command]) -> dict[Run, str]:
    """The strokes by which access letters open the menus of the bar, with what each does."""
    menus: dict[tuple[str, str], None] = {}
    for command in commands:
        if command.access and command.access[0] and command.menu:
            menus[command.access[0], command.menu[0]] = None
    names: dict[str, list[str]] = {}
    for letter, menu in menus:
        names.setdefault(letter, []).append(menu)
    return {
        Run((stroke(letter, "Alt"),)): f"opens the menu {' or '.join(found)}"
        for letter, found in names.items()
    }


def doubled_letters(commands: Iterable[Command]) -> set[tuple[tuple[str, ...], str]]:
    """The access letters that two items of one menu have: the menu's path, and the letter.

    Such a letter starts neither of them.
    """
    items: dict[tuple[tuple[str, ...], str], set[str]] = {}
    for command in commands:
        steps = (*command.menu, command.title)
        for depth, letter in enumerate(command.access):
            if letter:
                items.setdefault((steps[:depth], letter), set()).add(steps[depth])
    return {place for place, names in items.items() if len(names) > 1}
