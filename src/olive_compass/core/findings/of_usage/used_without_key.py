"""A command that is used much, and that no key reaches."""

from collections.abc import Iterator

from olive_compass.core.command_line import line
from olive_compass.core.findings.advice import accepting, new_key
from olive_compass.core.findings.finding import Finding, View, catalogue_place
from olive_compass.core.findings.of_usage import MUCH
from olive_compass.core.schemes.standing import not_assignable
from olive_compass.core.usage.looking import without_key

ID = "used-without-key"
SEVERITY = "note"
SAYS = "A command is used ten times a week and more, by what was counted, and no key reaches it."
ADVICE = "Give it a key: suggest APP proposes keys for all of them together."


def find(view: View) -> Iterator[Finding]:
    for each in without_key(view.keymap, view.used, view.macros):
        often = each.times / view.weeks
        known = view.app.catalogue.by_id[each.command]
        if often < MUCH or known.marks.never or not_assignable(view.app, known):
            continue
        yield Finding(
            ID,
            SEVERITY,
            view.app.name,
            f"“{view.title(each.command)}” is used {often:.0f} times a week, and has no key.",
            new_key(view, each.command),
            (catalogue_place(each.command),),
            (each.command,),
            instead=(accepting(view, ID, each.command, "the menu will do"),),
            look=line("suggest", view.app.name),
        )
