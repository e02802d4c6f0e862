"""A key on a command that this seat cannot use, or that the application gives no key."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import Action, ClearKeys, LeaveKeyless, ShowRules
from olive_compass.core.apps.app import Command
from olive_compass.core.findings.advice import accepting, guards_broken_by
from olive_compass.core.findings.finding import Finding, Place, View
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.traits import not_assignable, not_assignable_says
from olive_compass.structs import replace

ID = "not-available"
SEVERITY: Final = "error"
SAYS = (
    "A key is assigned to a command that was withdrawn, needs a licence that this computer "
    "lacks, or cannot have a key."
)
ADVICE = "Clear it; or, if this computer has the licence, say so: {rules}."
ACTIONS = {"rules": ShowRules(app="APP", licence=True)}


def find(view: View) -> Iterator[Finding]:
    for scheme in view.stack.schemes:
        for command in scheme.assign:
            known = view.app.catalogue.by_id.get(command)
            why = ""
            if known:
                why = not_assignable(view.app, known)
            if known and why:
                yield Finding(
                    id=ID,
                    severity=SEVERITY,
                    app=view.app.name,
                    says=f"“{known.title}” has a key, but {not_assignable_says(known, why)}.",
                    advice=_advice(view, known, scheme),
                    places=(Place(scheme.name, "assign", command),),
                    commands=(command,),
                )


def _makes_wait(keymap: Keymap, run: Run) -> bool:
    """Whether a key begins a longer sequence, or goes on from a shorter one."""
    press = keymap.keyboard.press_of(run)
    shorter = (press[:n] for n in range(1, len(press)))
    return press in keymap.beginnings or any(each in keymap.buckets for each in shorter)


def _advice(view: View, known: Command, scheme: Scheme) -> Action:
    """To take the keys out; where others came back by that, of another scheme or, beside sequences, of the
    application, to leave it so."""
    if any(known.id in each.assign for each in view.stack.schemes if each.name != scheme.name):
        return accepting(view, ID, known.id, "another scheme has keys for it, too")
    without = {id_: lines for id_, lines in scheme.assign.items() if id_ != known.id}
    cleared = replace(scheme, assign=without)
    if broken := guards_broken_by(view, cleared):
        why = f"{broken[0].scheme.name} guards {broken[0].trigger}"
        return accepting(view, ID, known.id, why)
    after = Keymap(view.stack.with_scheme(cleared), view.keyboard)
    if live_triggers(view.factory, known.id) and not live_triggers(after, known.id):
        why = "it cannot have a key, and its factory key starts another command"
        return LeaveKeyless(app=view.app.name, command=known.id, why=why, scheme=scheme.name)
    if any(_makes_wait(view.keymap, run) for run in known.keys):
        return accepting(view, ID, known.id, "its own keys make others wait")
    return ClearKeys(app=view.app.name, command=known.id, scheme=scheme.name)
