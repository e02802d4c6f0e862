"""How many commands nobody has decided about, by menu."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import FindCommands
from olive_compass.core.apps.app import Command
from olive_compass.core.findings.advice import accepting
from olive_compass.core.findings.finding import Finding, View
from olive_compass.core.schemes.traits import not_assignable
from olive_compass.core.wording import by_number

ID = "unassigned"
SEVERITY: Final = "note"
SAYS = "Commands without a key, about which nobody has decided."
ADVICE = (
    "Go through them: assign keys to those that you use often, and mark the others as keyless "
    "on purpose."
)


def find(view: View) -> Iterator[Finding]:
    by_menu: dict[str, list[str]] = {}
    for command in _undecided(view):
        by_menu.setdefault(command.menu[0] if command.menu else "", []).append(command.id)
    count = sum(map(len, by_menu.values()))
    if not count:
        return
    menus = sorted(by_menu.items(), key=lambda item: -len(item[1]))
    parts = [f"{menu or 'no menu'} {len(ids)}" for menu, ids in menus[:8]]
    if more := sum(len(ids) for _, ids in menus[8:]):
        parts.append(f"other menus {more}")
    have = by_number(count, "has", "have")
    of = len(view.app.catalogue.commands)
    yield Finding(
        id=ID,
        severity=SEVERITY,
        app=view.app.name,
        says=f"{count} of {of} commands {have} no key: {', '.join(parts)}.",
        advice=accepting(view, ID, menus[0][1][0], "looked through"),
        places=(),
        commands=tuple(command for _, ids in menus for command in ids),
        look=FindCommands(app=view.app.name, unassigned=True),
    )


def _undecided(view: View) -> Iterator[Command]:
    """The commands that have no key, can have one, and are not left without on purpose."""
    keyless = view.stack.keyless
    for command in view.app.catalogue.commands:
        decided = command.id in view.keymap.by_command or command.id in keyless
        if _needs_no_key(decided, command):
            continue
        if not not_assignable(view.app, command):
            yield command


def _needs_no_key(decided: bool, command: Command) -> bool:
    return decided or command.is_own or command.marks.never
