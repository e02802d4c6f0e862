"""A trigger that the desk's keyboard cannot make."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import CheckKeyboard, SetKeyboard
from olive_compass.core.findings.finding import Finding, View, stroke_findings
from olive_compass.core.schemes.traits import lacking

ID = "not-on-keyboard"
SEVERITY: Final = "error"
SAYS = "The key, or the character that it needs, is not on this desk's keyboard."
ADVICE = "Assign another key, or set your keyboard: {set}. To check another keyboard: {check}."
ACTIONS = {"set": SetKeyboard(), "check": CheckKeyboard(keyboard="FORM/LAYOUT")}


def find(view: View) -> Iterator[Finding]:
    return stroke_findings(
        view,
        ID,
        SEVERITY,
        lacking,
        "{key} of “{title}” cannot be pressed: {trait}.",
        "This keyboard cannot make these factory keys: {keys}.",
    )
