"""A shortcut that makes a character untypable, because AltGr counts as Ctrl+Alt here."""

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

ID = "swallows-character"
SEVERITY = "warning"
SAYS = "A shortcut takes the press with which a character is typed, so that it cannot be typed."
ADVICE = "Choose another key: on this platform AltGr is the same as other modifiers held together."


def find(view: View) -> Iterator[Finding]:
    of_factory: list[Claim] = []
    for stroke, claims in claims_by_stroke(view):
        char = view.keymap.keyboard.swallows(stroke)
        if not char:
            continue
        of_factory += claims
        for claim in of_schemes(claims):
            yield Finding(
                ID,
                SEVERITY,
                view.app.name,
                f"{claim.trigger} of “{view.title(claim.command)}” makes “{char}” untypable: this "
                "keyboard types it with the same keys.",
                f"olive-compass free {view.app.name} --for {claim.command}",
                (place(claim),),
                (claim.command,),
                (str(claim.trigger), char),
            )
    says = "These factory keys make characters of this keyboard untypable: {keys}."
    yield from factory_note(view, ID, says, of_factory)
