"""A key right beside a much-used one, which starts what takes long or cannot be undone."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import Action, AssignKey
from olive_compass.core.apps.app import Command
from olive_compass.core.findings.advice import modes_alike, scheme_named, silencing
from olive_compass.core.findings.finding import Finding, View, place
from olive_compass.core.keys.presses import Press
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.traits import neighbours

ID = "slip"
SEVERITY: Final = "warning"
SAYS = "A key beside a much-used one starts something that takes a long time or cannot be undone."
ADVICE = "Mute it, give it the command of its neighbour, or move its command to another key."


def find(view: View) -> Iterator[Finding]:
    known = view.app.catalogue.by_id
    costly = {c.id for c in view.app.catalogue.commands if c.marks.disruptive}
    if not costly:
        return
    for press, bucket in view.keymap.buckets.items():
        if len(press) != 1 or view.keymap.keyboard.form is None:
            continue
        seen: set[tuple[str, str]] = set()
        for claim in bucket:
            if claim.command not in costly or (claim.command, claim.origin) in seen:
                continue
            if beside := _beside(view, press, claim):
                seen.add((claim.command, claim.origin))
                yield _finding(view, claim, beside, known[claim.command])


def _beside(view: View, press: Press, claim: Claim) -> list[Claim]:
    """What is often pressed on the keys beside that of a claim, where it reaches its command."""
    tree, winners = view.app.modes, view.keymap.winners
    # Only what works in one and the same mode can be slipped on to.
    modes = [mode for mode in tree.within(claim.mode) if claim in winners(press, mode)]
    often = neighbours(view.keymap, press, modes, "often")
    return [each for each in often if each.command != claim.command]


def _finding(view: View, claim: Claim, beside: list[Claim], command: Command) -> Finding:
    names = " and ".join(f"{c.trigger} (“{view.title(c.command)}”)" for c in beside[:2])
    return Finding(
        id=ID,
        severity=SEVERITY,
        app=view.app.name,
        says=f"{claim.trigger} is right beside {names}, and starts “{command.title}”, which "
        f"{command.marks.warning}.",
        advice=silencing(view, claim, f"beside {beside[0].trigger}"),
        places=(place(claim), place(beside[0])),
        commands=(claim.command,),
        keys=(str(claim.trigger),),
        instead=tuple(_same_as_beside(view, claim, beside[0].command)),
    )


def _same_as_beside(view: View, claim: Claim, beside: str) -> Iterator[Action]:
    """To give the key the meaning of its neighbour, where nothing but its holder stands against it."""
    # Loaded here: most applications have no such pair.
    from olive_compass.core.schemes.verdicts import ASKED, REFUSED, verdict

    command, scheme = view.app.catalogue.by_id[beside], scheme_named(view, claim.origin)
    modes = modes_alike(view, claim)
    found = verdict(view, command, claim.trigger, modes, scheme)
    # In a mode in which the neighbour cannot be used, or something comes first, the slip would stay.
    stays = any(map(found.has, ("outside", "first", "unreached")))
    if {each.id for each in found.against(REFUSED, ASKED)} <= {"holders"} and not stays:
        yield AssignKey(
            app=view.app.name,
            command=beside,
            key=str(claim.trigger),
            modes=modes,
            replacing=True,
            scheme=claim.origin,
        )
