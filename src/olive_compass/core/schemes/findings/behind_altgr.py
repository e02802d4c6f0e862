"""A trigger whose label this keyboard has only behind AltGr, or on a dead key."""

from collections.abc import Iterator

from olive_compass.core.schemes.findings.finding import (
    Finding,
    View,
    claims_by_stroke,
    factory_note,
    of_schemes,
    place,
)
from olive_compass.core.schemes.layers import Claim

ID = "behind-altgr"
SEVERITY = "warning"
SAYS = "A trigger's character stands behind AltGr or on a dead key of the desk's keyboard."
ADVICE = "Name the key by its place (@ and its code), or choose one that is typed directly."


def find(view: View) -> Iterator[Finding]:
    of_factory: list[Claim] = []
    for stroke, claims in claims_by_stroke(view):
        made = view.keymap.keyboard.made(stroke)
        if made.level < 2 and not made.dead:
            continue
        of_factory += claims
        why = "is a dead key" if made.dead else "is typed only with AltGr"
        for claim in of_schemes(claims):
            yield Finding(
                ID,
                SEVERITY,
                view.app.name,
                f"“{stroke.key}” in {claim.trigger} of “{view.title(claim.command)}” {why} here.",
                f"olive-compass free {view.app.name} --for {claim.command}",
                (place(claim),),
                (claim.command,),
                (str(claim.trigger),),
            )
    says = "These factory keys are typed only with AltGr or on a dead key here: {keys}."
    yield from factory_note(view, ID, says, of_factory)
