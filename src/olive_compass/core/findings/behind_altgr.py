"""A trigger whose label this keyboard has only behind AltGr, or on a dead key."""

from collections.abc import Iterator

from olive_compass.core.findings.finding import Finding, View, stroke_findings
from olive_compass.core.keys.triggers import Stroke

ID = "behind-altgr"
SEVERITY = "warning"
SAYS = "A trigger's character stands behind AltGr or on a dead key of the desk's keyboard."
ADVICE = "Name the key by its place (@ and its code), or choose one that is typed directly."


def find(view: View) -> Iterator[Finding]:
    keyboard = view.keymap.keyboard

    def trait(stroke: Stroke) -> str:
        made = keyboard.made(stroke)
        if made.dead:
            return "is a dead key"
        return "is typed only with AltGr" if made.level >= 2 else ""

    return stroke_findings(
        view,
        ID,
        SEVERITY,
        trait,
        "“{stroke}” in {key} of “{title}” {trait} here.",
        "These factory keys are typed only with AltGr or on a dead key here: {keys}.",
    )
