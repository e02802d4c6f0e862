"""A command whose presses are mostly taken back at once."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import ShowUsage
from olive_compass.core.findings.advice import leaving_keyless, silencing
from olive_compass.core.findings.finding import Finding, View, place
from olive_compass.core.schemes.holdings import holdings
from olive_compass.core.usage.looking import slips

ID = "mostly-undone"
SEVERITY: Final = "warning"
SAYS = "At least half of the presses of a key were undone within two seconds."
ADVICE = "Assign the key to something harmless, or leave its command keyless."

#: From how many presses on a habit of slipping can be told from chance: our own choice.
ENOUGH = 5


def find(view: View) -> Iterator[Finding]:
    meant: dict[str, str] = {}
    for slip in slips(view.usage.tally):
        meant.setdefault(slip.command, slip.meant)
    for each in view.used:
        pressed = each.times - each.by_menu
        held = [h for h in holdings(view.keymap, each.command) if h.live]
        if pressed < ENOUGH or each.undone * 2 < pressed or not held:
            continue
        claim = held[0].claims[0]
        key = str(claim.trigger)
        beside, why = "", "hit by accident"
        if each.command in meant:
            beside = f", {meant[each.command]} being pressed then"
            why = f"pressed for {meant[each.command]}"
        yield Finding(
            id=ID,
            severity=SEVERITY,
            app=view.app.name,
            says=f"{key} starts “{view.title(each.command)}”, and was taken back at once {each.undone} "
            f"times of {pressed}{beside}.",
            advice=silencing(view, claim, why, held[0].modes),
            places=(place(claim),),
            commands=(each.command,),
            keys=(key,),
            instead=(leaving_keyless(view, claim, why),),
            look=ShowUsage(app=view.app.name, part="slips"),
        )
