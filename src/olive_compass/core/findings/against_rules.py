"""A key that the application's rules do not allow, or one too many for a command."""

from collections.abc import Iterator

from olive_compass.core.findings.advice import better_key, line
from olive_compass.core.findings.finding import Finding, Place, View, place
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.standing import broken_rules

ID = "against-rules"
SEVERITY = "error"
SAYS = (
    "A key breaks a rule of the application: its modifiers, plain keys, or how many keys there are."
)
ADVICE = "Choose a key that the rules allow: olive-compass app rules APP shows them."

#: Rules with a finding of their own.
ELSEWHERE = ("longest-run", "roses")


def find(view: View) -> Iterator[Finding]:
    rules = view.app.rules
    for claim in view.decisions if rules.modifiers or rules.plain_keys != "all" else ():
        for broken in broken_rules(view.app, view.keymap.keyboard, claim.trigger):
            if broken.rule not in ELSEWHERE and not claim.mutes:
                yield Finding(
                    ID,
                    SEVERITY,
                    view.app.name,
                    f"{claim.trigger} of “{view.title(claim.command)}” breaks the rule "
                    f"{broken.rule} of {view.app.title}: {broken.why}.",
                    better_key(view, claim),
                    (place(claim),),
                    (claim.command,),
                    (str(claim.trigger),),
                )
    if rules.most_keys:
        yield from _too_many(view, rules.most_keys)


def _too_many(view: View, most: int) -> Iterator[Finding]:
    """The commands with more presses than they may have; the last key is the one to take out."""
    press = view.keyboard.press_of
    for scheme in view.stack.schemes:
        for command, assignments in scheme.assign.items():
            live = {press(run): run for run in live_triggers(view.keymap, command)}
            if len(live) <= most:
                continue
            last = [run for each in assignments for run in each.keys][-1]
            yield Finding(
                ID,
                SEVERITY,
                view.app.name,
                f"“{view.title(command)}” has {len(live)} keys ({', '.join(map(str, live.values()))}); "
                f"{view.app.title} lets a command have {most}.",
                line("clear", view.app.name, command, str(last), "--scheme", scheme.name),
                (Place(scheme.name, "assign", command),),
                (command,),
                tuple(map(str, live.values())),
            )
