"""A habit from another application that starts something worse here."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import ShowPress
from olive_compass.core.apps.modes import joined
from olive_compass.core.findings.advice import accepting, leaving_keyless, silencing
from olive_compass.core.findings.finding import Finding, View, place
from olive_compass.core.sharing.cross_app import WORST

ID = "false-friend"
SEVERITY: Final = "warning"
SAYS = "The same key is harmless in another application, and starts something worse here."
ADVICE = "Mute it here, leave the command keyless on purpose, or change one of the two keys."

#: How many of the milder ones are named in one note.
MOST_NAMED = 6


def find(view: View) -> Iterator[Finding]:
    if view.across is None:
        return
    milder = []
    for cross_app in view.across.false_friends(view.app.name):
        meets, reflex = cross_app.meets, cross_app.reflex
        if meets.risk < WORST:
            milder.append(cross_app)
            continue
        often = ""
        if reflex.often:
            often = " all day"
        yield Finding(
            id=ID,
            severity=SEVERITY,
            app=view.app.name,
            says=f"{meets.trigger} is “{reflex.title}” in {reflex.app_title}{often}; here it starts "
            f"“{meets.title}”, which {meets.warning}.",
            advice=silencing(view, meets.claim, f"{reflex.title} in {reflex.app_title}"),
            places=(place(meets.claim),),
            commands=(meets.claim.command,),
            keys=(str(meets.trigger),),
            modes=(meets.claim.mode,),
            instead=(leaving_keyless(view, meets.claim, "from the menu only"),),
        )
    if milder:
        named = [
            f"{f.meets.trigger} (“{f.meets.title}”, in {f.reflex.app_title} “{f.reflex.title}”)"
            for f in milder
        ]
        yield Finding(
            id=ID,
            severity="note",
            app=view.app.name,
            says=f"Keys that are harmless in other applications change work here: {joined(named, MOST_NAMED)}.",
            advice=accepting(view, ID, str(milder[0].meets.trigger)),
            places=(place(milder[0].meets.claim),),
            commands=(),
            keys=tuple(str(f.meets.trigger) for f in milder),
            look=ShowPress(app=view.app.name, key=str(milder[0].meets.trigger)),
        )
