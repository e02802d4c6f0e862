"""Purposes that have another key here than in every other application."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import LearnKeySet, ListKeySets
from olive_compass.core.apps.modes import joined
from olive_compass.core.findings.advice import accepting
from olive_compass.core.findings.finding import Finding, View

ID = "purpose-on-other-key"
SEVERITY: Final = "note"
SAYS = "The same purpose has another key in the other applications."
ADVICE = "Use one set of keys for all: {learn}, then keyset apply."
ACTIONS = {"learn": LearnKeySet()}

#: How many are named.
MOST_NAMED = 6


def find(view: View) -> Iterator[Finding]:
    if view.across is None:
        return
    found = view.across.elsewhere(view.app.name)
    if not found:
        return
    named = [
        f"{purpose.title} ({here.trigger}, in {there.app_title} {there.trigger})"
        for purpose, here, there in found
    ]
    yield Finding(
        id=ID,
        severity=SEVERITY,
        app=view.app.name,
        says=f"{len(found)} purposes have other keys elsewhere: {joined(named, MOST_NAMED)}."
        if len(found) > 1
        else f"One purpose has another key elsewhere: {named[0]}.",
        advice=accepting(view, ID, found[0][1].claim.command, "kept apart on purpose"),
        places=(),
        commands=tuple(here.claim.command for _, here, _ in found),
        look=ListKeySets(),
    )
