"""A command that the factory gave a key, and that no key reaches any more."""

from collections.abc import Iterable, Iterator
from typing import Final

from olive_compass.core.actions import LeaveKeyless
from olive_compass.core.apps.app import Command
from olive_compass.core.changes.view import AppView
from olive_compass.core.findings.advice import new_key
from olive_compass.core.findings.finding import Finding, View, place
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.holdings import Holding, holdings, live_triggers
from olive_compass.core.severities import Severity

ID = "lost-last-key"
SEVERITY: Final = "warning"
SAYS = "A command had a factory key, and your schemes leave it no key that works."
ADVICE = "Assign another key, or mark the command as keyless on purpose."


def find(view: View) -> Iterator[Finding]:
    if not view.stack.schemes:
        return
    keyless = view.stack.keyless
    for command in view.app.catalogue.commands:
        if _needs_no_key(command, keyless, view):
            continue
        claims = view.keymap.by_command.get(command.id, ())
        if any(_uncontested(view, command, claim) for claim in claims):
            continue
        held = holdings(view.keymap, command.id)
        works = any(_works(view, command, each) for each in held)
        if not works and live_triggers(view.factory, command.id):
            takers = [h.hidden_by for h in held if h.hidden_by is not None]
            yield _finding(view, command, held, takers)


def _needs_no_key(command: Command, keyless: frozenset[str], view: AppView) -> bool:
    return bool(not command.keys or command.id in keyless or view.app.why_absent(command))


def _finding(
    view: View, command: Command, held: tuple[Holding, ...], takers: list[Claim]
) -> Finding:
    lost = filter(None, (_where_it_went(view, each) for each in held))
    rest, why = "no menu has it either", "it is to have none"
    if command.route:
        rest, why = f"the menu {command.route} remains", f"reached by {command.route}"
    return Finding(
        id=ID,
        severity=_severity(command, held, takers),
        app=view.app.name,
        says=f"“{command.title}” has no key any more: {', '.join(lost)}; {rest}.",
        advice=new_key(view, command.id),
        places=tuple(dict.fromkeys(place(claim) for claim in takers)),
        commands=(command.id,),
        keys=tuple(str(h.trigger) for h in held),
        instead=(LeaveKeyless(app=view.app.name, command=command.id, why=why),),
    )


def _where_it_went(view: View, held: Holding) -> str:
    if held.hidden_by is None:
        if held.live:
            return f"{held.trigger} works only where the command cannot be used"
        return ""
    if held.hidden_by.mutes:
        return f"{held.trigger} is muted"
    return f"{held.trigger} went to “{view.meaning(held.hidden_by.does)}”"


def _works(view: View, command: Command, held: Holding) -> bool:
    """Whether a key reaches the command in a mode in which it can be used."""
    usable = view.app.modes.inside(command.usable_in)
    return not set(usable).isdisjoint(held.live)


def _uncontested(view: View, command: Command, claim: Claim) -> bool:
    """Whether nobody else wants the press of a claim, so that it surely works."""
    alone = view.keymap.is_alone(claim)
    return alone and (not command.modes or claim.mode in command.modes)


def _severity(command: Command, held: Iterable[Holding], takers: Iterable[Claim]) -> Severity:
    """How bad it is. What a menu has is reached all the same; what was muted has a reason; what a scheme gives a command
    works where it cannot be used; ``assign`` said so at the time."""
    given = any(each.hidden_by is None and each.live for each in held)
    if _can_still_be_reached(command, given, takers):
        return SEVERITY
    return "error"


def _can_still_be_reached(command: Command, given: bool, takers: Iterable[Claim]) -> bool:
    return bool(command.route or given or all(taker.mutes for taker in takers))
