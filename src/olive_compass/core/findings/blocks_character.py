"""A shortcut that makes a character untypable, because AltGr counts as Ctrl+Alt here."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.findings.finding import Finding, View, stroke_findings
from olive_compass.core.schemes.traits import makes_untypable

ID = "blocks-character"
SEVERITY: Final = "warning"
SAYS = "The key is the only press that types a character."
ADVICE = (
    "Choose another key: on this platform, AltGr is the same as other modifiers pressed together."
)


def find(view: View) -> Iterator[Finding]:
    return stroke_findings(
        view,
        ID,
        SEVERITY,
        makes_untypable,
        "{key} of “{title}” makes “{trait}” untypable: this keyboard types it with the same keys.",
        "These factory keys make characters of this keyboard untypable: {keys}.",
    )
