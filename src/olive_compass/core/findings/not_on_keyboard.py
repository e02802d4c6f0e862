"""A trigger that the desk's keyboard cannot make."""

from collections.abc import Iterator

from olive_compass.core.findings.finding import Finding, View, stroke_findings
from olive_compass.core.keys.triggers import Stroke

ID = "not-on-keyboard"
SEVERITY = "error"
SAYS = "A trigger needs a key or a character that the desk's keyboard does not have."
ADVICE = (
    "Give the command another key, or tell the desk which keyboard it has: olive-compass desk "
    "keyboard. To ask about another keyboard: olive-compass check --keyboard FORM/LAYOUT."
)


def find(view: View) -> Iterator[Finding]:
    keyboard = view.keymap.keyboard

    def trait(stroke: Stroke) -> str:
        return keyboard.made(stroke).missing

    return stroke_findings(
        view,
        ID,
        SEVERITY,
        trait,
        "{key} of “{title}” cannot be pressed: {trait}.",
        "This keyboard cannot make these factory keys: {keys}.",
    )
