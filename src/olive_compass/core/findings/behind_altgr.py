"""A trigger whose label this keyboard has only behind AltGr, or on a dead key."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.findings.finding import Finding, View, stroke_findings
from olive_compass.core.schemes.traits import behind_altgr

ID = "behind-altgr"
SEVERITY: Final = "warning"
SAYS = "The character of a key needs AltGr or a dead key on this desk's keyboard."
ADVICE = "Name the key by its place (@ and its code), or choose a character that you type directly."


def find(view: View) -> Iterator[Finding]:
    return stroke_findings(
        view,
        ID,
        SEVERITY,
        behind_altgr,
        "“{stroke}” in {key} of “{title}” {trait} here.",
        "These factory keys are typed only with AltGr or on a dead key here: {keys}.",
    )
