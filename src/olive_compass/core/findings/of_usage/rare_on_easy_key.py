"""A command that is hardly used on an easy key, while one that is used much has none."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import SuggestKeys
from olive_compass.core.effort.reach import run_effort
from olive_compass.core.findings.advice import accepting
from olive_compass.core.findings.finding import Finding, View, place
from olive_compass.core.findings.of_usage import MUCH
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.holdings import holdings
from olive_compass.core.usage.looking import a_week, without_key

ID = "rare-on-easy-key"
SEVERITY: Final = "note"
SAYS = (
    "An easy key is assigned to a command that you use less than once a week, and a much-used "
    "command has no key."
)
ADVICE = "Move the key; {suggest} counts the cost of relearning."
ACTIONS = {"suggest": SuggestKeys(app="APP", move=True)}

#: What an easy key costs at most, in home strokes: our own choice.
EASY = 3.0


def _is_easy(view: View, trigger: Run) -> bool:
    effort = run_effort(view.keyboard, trigger, view.weights)
    return effort is not None and effort.strokes <= EASY


def find(view: View) -> Iterator[Finding]:
    often = a_week(view.used, view.usage.weeks)
    lacking = [e for e in without_key(view.keymap, view.used) if often[e.command] >= MUCH]
    if not lacking:
        return
    for scheme in view.stack.schemes:
        for command in scheme.assign:
            if often.get(command, 0.0) >= 1:
                continue
            for held in holdings(view.keymap, command):
                own = held.claims[0].origin == scheme.name
                if not held.live or not own or not _is_easy(view, held.trigger):
                    continue
                key = str(held.trigger)
                yield Finding(
                    id=ID,
                    severity=SEVERITY,
                    app=view.app.name,
                    says=f"{key} is an easy key, and “{view.title(command)}” is hardly used; "
                    f"“{view.title(lacking[0].command)}” has none.",
                    advice=accepting(view, ID, command, "it is wanted at once when it is wanted"),
                    places=(place(held.claims[0]),),
                    commands=(command, lacking[0].command),
                    keys=(key,),
                    look=SuggestKeys(app=view.app.name, move=True),
                )
