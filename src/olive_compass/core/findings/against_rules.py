"""A key that the application's rules do not allow, or one too many for a command."""

from collections.abc import Iterator

from olive_compass.core.findings.finding import Finding, Place, View, place
from olive_compass.core.schemes.guarding import broken_rules
from olive_compass.core.schemes.holdings import live_triggers

ID = "against-rules"
SEVERITY = "error"
SAYS = (
    "A key breaks a rule of the application: its modifiers, plain keys, or how many keys there are."
)
ADVICE = "Choose a key that the rules allow: olive-compass app rules APP shows them."


def find(view: View) -> Iterator[Finding]:
    rules = view.app.rules
    for claim in view.decisions if rules.modifiers or rules.plain_keys != "all" else ():
        for rule, why in broken_rules(rules, claim.trigger):
            if rule != "longest-run" and not claim.mutes:
                yield Finding(
                    ID,
                    SEVERITY,
                    view.app.name,
                    f"{claim.trigger} of “{view.title(claim.command)}” breaks the rule {rule} of "
                    f"{view.app.title}: {why}.",
                    f"olive-compass free {view.app.name} --for {claim.command}",
                    (place(claim),),
                    (claim.command,),
                    (str(claim.trigger),),
                )
    if not rules.most_keys:
        return
    for scheme in view.stack.schemes:
        for command in scheme.assign:
            live = live_triggers(view.keymap, command)
            if len(live) > rules.most_keys:
                keys = ", ".join(map(str, live))
                yield Finding(
                    ID,
                    SEVERITY,
                    view.app.name,
                    f"“{view.title(command)}” has {len(live)} keys ({keys}); {view.app.title} lets a "
                    f"command have {rules.most_keys}.",
                    f"olive-compass clear {view.app.name} {command} --scheme {scheme.name}",
                    (Place(scheme.name, "assign", command),),
                    (command,),
                    tuple(map(str, live)),
                )
