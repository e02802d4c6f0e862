"""A key that the application's rules do not allow, or one too many for a command."""

from collections.abc import Container, Iterator
from typing import Final

from olive_compass.core.actions import ShowRules
from olive_compass.core.apps.guesses import guessed
from olive_compass.core.findings.advice import better_key, clearing
from olive_compass.core.findings.finding import Finding, View, place
from olive_compass.core.keys.presses import Press
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.traits import broken_rules

ID = "against-rules"
SEVERITY: Final = "error"
SAYS = (
    "The key breaks a rule of the application: which modifiers it allows, whether plain keys, "
    "or how many keys for a command."
)
ADVICE = "Choose a key that the rules allow; {rules} shows them."
ACTIONS = {"rules": ShowRules(app="APP")}

#: Rules with a finding of their own.
ELSEWHERE = ("longest-sequence", "swipes")


def find(view: View) -> Iterator[Finding]:
    rules = view.app.rules
    if rules.modifiers is not None or rules.plain_keys != "all":
        for claim in view.decisions:
            for broken in broken_rules(view.app, view.keymap.keyboard, claim.trigger):
                if broken.rule not in ELSEWHERE and not claim.mutes:
                    yield Finding(
                        id=ID,
                        severity=SEVERITY,
                        app=view.app.name,
                        says=f"{claim.trigger} of “{view.title(claim.command)}” breaks the rule "
                        f"{broken.rule} of {view.app.title}: {broken.why}{guessed(view.app, broken.rule)}.",
                        advice=better_key(view, claim),
                        places=(place(claim),),
                        commands=(claim.command,),
                        keys=(str(claim.trigger),),
                    )
    if rules.most_keys:
        yield from _too_many(view, rules.most_keys)


def _given_last(view: View, command: str, live: Container[Press]) -> Iterator[Claim]:
    """The claim on the last live key that schemes give a command, but rather one that a single scheme gives: taken
    there, it is gone."""
    press = view.keyboard.press_of
    given: dict[Press, list[Claim]] = {}
    for claim in view.keymap.by_command.get(command, ()):
        if claim.origin and press(claim.trigger) in live:
            given.setdefault(press(claim.trigger), []).append(claim)
    last = sorted(given.values(), key=lambda each: -len({claim.origin for claim in each}))[-1:]
    yield from (each[-1] for each in last)


def _too_many(view: View, most: int) -> Iterator[Finding]:
    """The commands with more presses than they may have; the last key is the one to take out."""
    press = view.keyboard.press_of
    commands = {command: None for scheme in view.stack.schemes for command in scheme.assign}
    for command in commands:
        live = {press(run): run for run in live_triggers(view.keymap, command)}
        if len(live) <= most:
            continue
        keys = ", ".join(map(str, live.values()))
        for claim in _given_last(view, command, live):
            yield Finding(
                id=ID,
                severity=SEVERITY,
                app=view.app.name,
                says=f"“{view.title(command)}” has {len(live)} keys ({keys}); {view.app.title} lets a "
                f"command have {most}{guessed(view.app, 'most-keys')}.",
                advice=clearing(view, claim),
                places=(place(claim),),
                commands=(command,),
                keys=tuple(map(str, live.values())),
            )
