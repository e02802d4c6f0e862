"""Commands that have a key, and are reached by menu for the most part all the same."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import Practise
from olive_compass.core.apps.modes import joined
from olive_compass.core.findings.advice import accepting
from olive_compass.core.findings.finding import MOST_NAMED, Finding, View, catalogue_place
from olive_compass.core.findings.of_usage import MUCH
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.usage.looking import by_menu_though_keyed
from olive_compass.core.wording import by_number

ID = "menu-despite-key"
SEVERITY: Final = "note"
SAYS = (
    "A command has a key, but you start it from the menu at least ten times a week, and more "
    "often than by its key."
)
ADVICE = "Practise the key (practise APP), or assign an easier one."


def find(view: View) -> Iterator[Finding]:
    found = [
        each
        for each in by_menu_though_keyed(view.keymap, view.used)
        if each.by_menu / view.usage.weeks >= MUCH and each.by_menu * 2 >= each.times
    ]
    if not found:
        return
    names = joined(
        (
            f"“{view.title(e.command)}” ({live_triggers(view.keymap, e.command)[0]}, "
            f"{e.by_menu / view.usage.weeks:.0f} times a week)"
            for e in found
        ),
        MOST_NAMED,
    )
    verb = by_number(len(found), "has a key and is", "have keys and are")
    yield Finding(
        id=ID,
        severity=SEVERITY,
        app=view.app.name,
        says=f"{names} {verb} reached by menu.",
        advice=accepting(view, ID, found[0].command, "the hand is at the mouse then"),
        places=(catalogue_place(found[0].command),),
        commands=tuple(each.command for each in found),
        look=Practise(app=view.app.name),
    )
