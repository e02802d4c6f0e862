"""A command that is used much, and that no key reaches."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import SuggestKeys
from olive_compass.core.apps.app import Command
from olive_compass.core.changes.view import AppView
from olive_compass.core.findings.advice import accepting, new_key
from olive_compass.core.findings.finding import Finding, View, catalogue_place
from olive_compass.core.findings.of_usage import MUCH
from olive_compass.core.schemes.traits import not_assignable
from olive_compass.core.usage.looking import without_key

ID = "used-without-key"
SEVERITY: Final = "note"
SAYS = "You use a command at least ten times a week, according to the logs, and it has no key."
ADVICE = "Assign a key; suggest APP suggests keys for all such commands at once."


def find(view: View) -> Iterator[Finding]:
    for each in without_key(view.keymap, view.used, view.macros):
        often = each.times / view.usage.weeks
        known = view.app.catalogue.by_id[each.command]
        if _needs_no_key(often, known, view):
            continue
        yield Finding(
            id=ID,
            severity=SEVERITY,
            app=view.app.name,
            says=f"“{view.title(each.command)}” is used {often:.0f} times a week, and has no key.",
            advice=new_key(view, each.command),
            places=(catalogue_place(each.command),),
            commands=(each.command,),
            instead=(accepting(view, ID, each.command, "the menu will do"),),
            look=SuggestKeys(app=view.app.name),
        )


def _needs_no_key(often: float, known: Command, view: AppView) -> bool:
    return bool(often < MUCH or known.marks.never or not_assignable(view.app, known))
