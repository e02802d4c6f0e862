"""A swipe in a direction that the rose of its mode does not have."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import Action, AssignKey, ShowSwipes
from olive_compass.core.findings.advice import better_key, modes_of, scheme_named
from olive_compass.core.findings.finding import Finding, View, of_command, place
from olive_compass.core.keys.kinds import Broken
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.traits import broken_rules
from olive_compass.core.schemes.verdicts import verdict

ID = "no-such-direction"
SEVERITY: Final = "error"
SAYS = "A swipe goes in a direction that its mode does not have."
ADVICE = "Use one of the nearest directions: {swipes} shows which are empty."
ACTIONS = {"swipes": ShowSwipes(app="APP")}


def _broken(view: View, claim: Claim) -> list[Broken]:
    """What is wrong with a swipe. A mute everywhere may well name a bearing that only one of the roses has."""
    modes: tuple[str, ...] = (claim.mode,)
    if claim.mutes:
        modes = view.app.modes.names
    rules = broken_rules(view.app, view.keymap.keyboard, claim.trigger, modes)
    found = [each for each in rules if each.rule == "swipes"]
    if claim.mutes and len(found) < len(modes):
        return []
    return found


def find(view: View) -> Iterator[Finding]:
    for claim in view.decisions:
        if all(":" not in stroke.key for stroke in claim.trigger.strokes):
            continue
        broken = _broken(view, claim)
        if not broken:
            continue
        near = " or ".join(broken[0].nearest)
        what = of_command(view, claim)
        yield Finding(
            id=ID,
            severity=SEVERITY,
            app=view.app.name,
            says=f"{claim.trigger} {what}cannot be: {broken[0].why}"
            + (f"; the nearest are {near}." if near else "."),
            advice=_advice(view, claim, broken[0]),
            places=(place(claim),),
            commands=(claim.command,),
            keys=(str(claim.trigger),),
            modes=(claim.mode,),
            look=ShowSwipes(app=view.app.name),
        )


def _advice(view: View, claim: Claim, broken: Broken) -> Action:
    """The nearest bearing that is free there; else to take the swipe out."""
    scheme = scheme_named(view, claim.origin)
    command = view.app.catalogue.by_id.get(claim.command)
    if scheme and command and modes_of(scheme, claim) == (claim.mode,):
        for text in broken.nearest:
            run = read_trigger(text)
            if verdict(view, command, run, (claim.mode,), scheme).clean:
                return AssignKey(
                    app=view.app.name,
                    command=command.id,
                    key=text,
                    modes=(claim.mode,),
                    instead=True,
                    scheme=claim.origin,
                )
    return better_key(view, claim)
