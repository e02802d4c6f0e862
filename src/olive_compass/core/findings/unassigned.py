"""How many commands nobody has decided about, by menu."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import FindCommands
from olive_compass.core.findings.advice import accepting
from olive_compass.core.findings.finding import Finding, View
from olive_compass.core.schemes.traits import not_assignable

ID = "unassigned"
SEVERITY: Final = "note"
SAYS = "Commands without a key, about which nobody has decided."
ADVICE = (
    "Go through them: assign keys to those that you use often, and mark the others as keyless "
    "on purpose."
)


def find(view: View) -> Iterator[Finding]:
    keyless = {command for scheme in view.stack.schemes for command in scheme.keyless}
    keyed = view.keymap.by_command
    by_menu: dict[str, list[str]] = {}
    for command in view.app.catalogue.commands:
        if command.id in keyed or command.id in keyless or command.is_own:
            continue
        # What can have no key is not to be decided about.
        if not not_assignable(view.app, command) and not command.marks.never:
            by_menu.setdefault(command.menu[0] if command.menu else "", []).append(command.id)
    count = sum(map(len, by_menu.values()))
    if not count:
        return
    menus = sorted(by_menu.items(), key=lambda item: -len(item[1]))
    parts = [f"{menu or 'no menu'} {len(ids)}" for menu, ids in menus[:8]]
    more = sum(len(ids) for _, ids in menus[8:])
    yield Finding(
        id=ID,
        severity=SEVERITY,
        app=view.app.name,
        says=f"{count} of {len(view.app.catalogue.commands)} commands {'has' if count == 1 else 'have'} no key: {', '.join(parts)}"
        + (f", other menus {more}." if more else "."),
        advice=accepting(view, ID, menus[0][1][0], "looked through"),
        places=(),
        commands=tuple(command for _, ids in menus for command in ids),
        look=FindCommands(app=view.app.name, unassigned=True),
    )
