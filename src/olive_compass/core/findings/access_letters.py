"""Two items of one menu with the same access letter."""

from collections.abc import Iterator, Sequence
from typing import Final

from olive_compass.core.actions import FindCommands
from olive_compass.core.apps.app import Command
from olive_compass.core.apps.menu_letters import doubled_letters
from olive_compass.core.findings.advice import accepting
from olive_compass.core.findings.finding import Finding, View, catalogue_place

ID = "access-letters"
SEVERITY: Final = "note"
SAYS = "Two items of a menu have the same access letter, so the letter alone starts neither."
ADVICE = "Assign a key to what you use; by letters it takes one press more."


def find(view: View) -> Iterator[Finding]:
    clashes = _clashes(view.app.catalogue.commands)
    if not clashes:
        return
    named = {
        (" > ".join(menu) or "the menu bar", letter): c for (menu, letter), c in clashes.items()
    }
    texts = [f"{letter} in {menu} ({', '.join(c)})" for (menu, letter), c in named.items()]
    ids = [command for names in clashes.values() for command in names.values()]
    menu = next(iter(named))[0]
    # One finding for all of them: they are the application's own, and nobody here can mend them.
    yield Finding(
        id=ID,
        severity=SEVERITY,
        app=view.app.name,
        says=f"Access letters that appear twice in one menu: {'; '.join(texts[:6])}"
        + (f"; and {len(texts) - 6} more." if texts[6:] else "."),
        advice=accepting(view, ID, ids[0], "the application has it so"),
        places=tuple(catalogue_place(command) for command in ids[:4]),
        commands=tuple(ids),
        look=FindCommands(app=view.app.name, menu=menu.replace(" > ", " ")),
    )


def _clashes(commands: Sequence[Command]) -> dict[tuple[tuple[str, ...], str], dict[str, str]]:
    """The letters that stand twice, by menu and letter: the entries that have them, each with a command."""
    doubled = doubled_letters(commands)
    found: dict[tuple[tuple[str, ...], str], dict[str, str]] = {}
    if doubled:
        for command in commands:
            items = (*command.menu, command.title)
            for depth, letter in enumerate(command.access):
                if (items[:depth], letter) in doubled:
                    names = found.setdefault((items[:depth], letter), {})
                    # A submenu is one entry, however many commands lie below it.
                    names.setdefault(items[depth], command.id)
    return found
