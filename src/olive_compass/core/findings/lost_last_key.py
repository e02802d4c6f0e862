"""A command that the factory gave a key, and that no key reaches any more."""

from collections.abc import Iterator

from olive_compass.core.findings.finding import Finding, View, place
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.holdings import holdings, live_triggers

ID = "lost-last-key"
SEVERITY = "warning"
SAYS = "A command had a key from the factory, and the schemes leave it none."
ADVICE = "Give it another key, or say that it is to be without one."


def find(view: View) -> Iterator[Finding]:
    if not view.stack.schemes:
        return
    bare = {command for scheme in view.stack.schemes for command in scheme.bare}
    for command in view.app.catalogue.commands:
        if not command.keys or command.id in bare:
            continue
        if any(_uncontested(view, claim) for claim in view.keymap.by_command.get(command.id, ())):
            continue
        held = holdings(view.keymap, command.id)
        if any(holding.live for holding in held) or not live_triggers(view.factory, command.id):
            continue
        takers = [h.hidden_by for h in held if h.hidden_by is not None]
        lost = [
            f"{h.trigger} went to “{view.meaning(h.hidden_by.does)}”"
            if not h.hidden_by.mutes
            else f"{h.trigger} is muted"
            for h in held
            if h.hidden_by is not None
        ]
        rest = f"the menu {command.route} remains" if command.route else "no menu has it either"
        yield Finding(
            ID,
            SEVERITY if command.route else "error",
            view.app.name,
            f"“{command.title}” has no key any more: {', '.join(lost)}; {rest}.",
            f"olive-compass assign {view.app.name} {command.id} KEY",
            tuple(dict.fromkeys(place(claim) for claim in takers)),
            (command.id,),
            tuple(str(h.trigger) for h in held),
        )


def _uncontested(view: View, claim: Claim) -> bool:
    """Whether nobody else wants the press of a claim, so that it surely works."""
    return len(view.keymap.buckets[view.keymap.keyboard.press_of(claim.trigger)]) == 1
