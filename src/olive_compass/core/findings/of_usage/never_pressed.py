"""Keys of schemes that nobody pressed, over some weeks."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import ShowUsage
from olive_compass.core.apps.modes import joined
from olive_compass.core.findings.advice import accepting
from olive_compass.core.findings.finding import Finding, View, place
from olive_compass.core.usage.looking import never_pressed

ID = "never-pressed"
SEVERITY: Final = "note"
SAYS = "Nobody has pressed these keys for at least four weeks, according to the logs."
ADVICE = "Practise them, or use them for something else; {usage} lists all."
ACTIONS = {"usage": ShowUsage(app="APP", part="never")}

#: From how many days on a key that was not pressed is worth a word: our own choice.
LONG = 28


def find(view: View) -> Iterator[Finding]:
    days = view.usage.days
    if days < LONG:
        return
    own = [claim for claim in never_pressed(view.keymap, view.usage.tally) if claim.layer.by_scheme]
    if not own:
        return
    keys = list(dict.fromkeys(str(claim.trigger) for claim in own))
    yield Finding(
        id=ID,
        severity=SEVERITY,
        app=view.app.name,
        says=f"Nobody pressed {joined(keys, 8)} in {days} days.",
        advice=accepting(view, ID, own[0].command, "they are new"),
        places=tuple(dict.fromkeys(place(claim) for claim in own)),
        commands=tuple(dict.fromkeys(claim.command for claim in own)),
        keys=tuple(keys),
        look=ShowUsage(app=view.app.name, part="never"),
    )
