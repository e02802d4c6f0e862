"""A plain key in a mode in which typing writes text."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import Action, LimitModes, ShowModes
from olive_compass.core.apps.guesses import guessed
from olive_compass.core.findings.advice import better_key, modes_of, narrowing, scheme_named
from olive_compass.core.findings.finding import Finding, View, of_schemes, place
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.traits import types_text, typing_modes

ID = "blocks-typing"
SEVERITY: Final = "error"
SAYS = (
    "A letter, digit, sign or Space without a modifier is assigned in a mode in which you "
    "type text."
)
ADVICE = "Limit the key to modes without text ({modes}), or add a modifier."
ACTIONS = {"modes": ShowModes()}


def find(view: View) -> Iterator[Finding]:
    if not view.app.rules.text_modes:
        return
    for bucket in view.keymap.buckets.values():
        if not any(claim.origin for claim in bucket):
            continue
        if not types_text(view.keymap.keyboard, bucket[0].trigger):
            continue
        for claim in of_schemes(bucket):
            if claim.mutes:
                inside = []
            else:
                inside = _modes(view, claim)
            if not inside:
                continue
            yield Finding(
                id=ID,
                severity=SEVERITY,
                app=view.app.name,
                says=f"{claim.trigger} of “{view.title(claim.command)}” applies "
                f"{view.app.modes.phrase(inside)}, where it would no longer type its character"
                f"{guessed(view.app, 'text-modes')}.",
                advice=_advice(view, claim),
                places=(place(claim),),
                commands=(claim.command,),
                keys=(str(claim.trigger),),
                modes=tuple(inside),
            )


def _modes(view: View, claim: Claim) -> list[str]:
    """The text modes in which the decision counts that a claim is of."""
    scheme = scheme_named(view, claim.origin)
    assignments = scheme.assign.get(claim.command, ()) if scheme else ()
    modes = [m for each in assignments if claim.trigger in each.keys for m in each.modes]
    return list(typing_modes(view.app, modes))


def _advice(view: View, claim: Claim) -> Action:
    """To let the key count in the modes without text that it counts in; else another key."""
    scheme = scheme_named(view, claim.origin)
    if scheme:
        open_ = narrowing(view, scheme, claim.command, claim.trigger, modes_of(scheme, claim))
    else:
        open_ = ()
    if not open_:
        return better_key(view, claim)
    return LimitModes(
        app=view.app.name,
        command=claim.command,
        key=str(claim.trigger),
        modes=open_,
        scheme=claim.origin,
    )
