"""A shortcut that makes a character untypable, because AltGr counts as Ctrl+Alt here."""

from collections.abc import Iterator

from olive_compass.core.findings.finding import Finding, View, stroke_findings
from olive_compass.core.keys.triggers import Stroke

ID = "swallows-character"
SEVERITY = "warning"
SAYS = "A shortcut takes the press with which a character is typed, so that it cannot be typed."
ADVICE = "Choose another key: on this platform AltGr is the same as other modifiers held together."


def find(view: View) -> Iterator[Finding]:
    keyboard = view.keymap.keyboard

    def trait(stroke: Stroke) -> str:
        return keyboard.swallows(stroke)

    return stroke_findings(
        view,
        ID,
        SEVERITY,
        trait,
        "{key} of “{title}” makes “{trait}” untypable: this keyboard types it with the same keys.",
        "These factory keys make characters of this keyboard untypable: {keys}.",
    )
