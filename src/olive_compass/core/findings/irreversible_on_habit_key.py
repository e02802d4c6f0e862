"""A command that takes long or cannot be undone, on a key that people press without thinking."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.findings.advice import leaving_keyless, muting
from olive_compass.core.findings.finding import Finding, View, place
from olive_compass.core.keys.presses import Press
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.traits import reflex_presses

ID = "irreversible-on-habit-key"
SEVERITY: Final = "warning"
SAYS = (
    "A command that takes a long time or cannot be undone is on a key that people press "
    "without thinking."
)
ADVICE = "Leave the command keyless, so that it starts only from the menu; or mute the key."


def find(view: View) -> Iterator[Finding]:
    board = view.keymap.keyboard
    for press in reflex_presses(board):
        for claims in _started(view, press):
            claim = claims[0]
            command = view.app.catalogue.by_id[claim.command]
            modes = tuple(dict.fromkeys(each.mode for each in claims))
            yield Finding(
                id=ID,
                severity=SEVERITY,
                app=view.app.name,
                says=f"People press {claim.trigger} without thinking; here it starts “{command.title}”, which "
                f"{command.marks.warning}.",
                advice=leaving_keyless(
                    view, claim, f"{claim.trigger} is a habit: from the menu only"
                ),
                places=(place(claim),),
                commands=(command.id,),
                keys=(str(claim.trigger),),
                modes=modes,
                instead=tuple(
                    filter(None, (muting(view, claim, "a habit from elsewhere", modes),))
                ),
            )


def _started(view: View, press: Press) -> list[list[Claim]]:
    """The claims by which a press starts such commands: those of one command and scheme together."""
    known = view.app.catalogue.by_id
    found: dict[tuple[str, str], list[Claim]] = {}
    for claim in view.keymap.buckets.get(press, ()):
        if claim.command not in known or not known[claim.command].marks.disruptive:
            continue
        inside = view.app.modes.within(claim.mode)
        if any(claim in view.keymap.winners(press, mode) for mode in inside):
            found.setdefault((claim.command, claim.origin), []).append(claim)
    return list(found.values())
