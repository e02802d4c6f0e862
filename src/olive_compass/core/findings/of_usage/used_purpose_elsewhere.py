"""The purpose that is used most, on another key than in the other applications."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import ListKeySets
from olive_compass.core.findings.advice import accepting
from olive_compass.core.findings.finding import Finding, View, place
from olive_compass.core.findings.of_usage import MUCH
from olive_compass.core.usage.looking import a_week

ID = "used-purpose-elsewhere"
SEVERITY: Final = "note"
SAYS = (
    "A purpose that you use at least ten times a week has another key here than in every "
    "other application."
)
ADVICE = "Use one key in all of them: keyset learn, then keyset apply."


def find(view: View) -> Iterator[Finding]:
    if view.across is None:
        return
    often = a_week(view.used, view.usage.weeks)
    found = [
        (often.get(mine.claim.command, 0.0), purpose, mine, other)
        for purpose, mine, other in view.across.elsewhere(view.app.name)
    ]
    found = [each for each in found if each[0] >= MUCH]
    if not found:
        return
    times, purpose, mine, other = max(found, key=lambda each: (each[0], each[1].id))
    yield Finding(
        id=ID,
        severity=SEVERITY,
        app=view.app.name,
        says=f"“{purpose.title}” is used {times:.0f} times a week; its key is {mine.trigger} here, and "
        f"{other.trigger} in {other.app_title}.",
        advice=accepting(view, ID, mine.claim.command, "kept apart on purpose"),
        places=(place(mine.claim),),
        commands=(mine.claim.command,),
        keys=(str(mine.trigger),),
        look=ListKeySets(),
    )
