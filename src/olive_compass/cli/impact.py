"""What an edited scheme means beyond itself: guards that it breaks, and other applications."""

from typing import Any

from olive_compass.cli import words
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.deciding import NOTHING, Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.desk.desk import Desk, scheme_path
from olive_compass.errors import Refused


def refuse_broken_guards(args: Any, at: Desk, before: Scheme, after: Scheme) -> None:
    """Raises ``Refused`` where the edit changes a guarded key that kept its meaning until now."""
    stack = at.stack(before.app)
    if getattr(args, "despite_guard", False) or not any(scheme.guard for scheme in stack.schemes):
        return
    old, new = Keymap(stack, at.keyboard), Keymap(stack.with_scheme(after), at.keyboard)
    for rank, scheme in enumerate(new.stack.schemes):
        if not scheme.guard:
            continue
        # What the guard keeps is what its own layer and those below it say.
        own = Keymap(Stack(stack.app, stack.schemes[rank:], stack.system), at.keyboard)
        for run, decision in scheme.guard.items():
            press = old.keyboard.press_of(run)
            for mode in stack.app.modes.inside(decision.modes):
                kept, was, now = (
                    [claim.command for claim in keymap.winners(press, mode)]
                    for keymap in (own, old, new)
                )
                if was == kept != now:
                    path = scheme_path(stack.app.name, scheme.name)
                    raise Refused(
                        f"{run} is guarded by {scheme.name}: {decision.why or 'no reason given'}; "
                        "nothing was changed.",
                        file=path,
                        line=at.line(path, "guard", str(run)),
                        hint="To change it all the same: --despite-guard",
                    )


def beyond(at: Desk, before: Scheme, after: Scheme) -> list[str]:
    """With ``--explain``: the application's rules, and what the keys do in the others."""
    stack = at.stack(before.app)
    rules = stack.app.rules
    lines = [
        f"Rules of {stack.app.title}: a key given twice: {rules.duplicates}; "
        f"keys for a command: {rules.most_keys or 'any number'}; longest run: {rules.longest_run}; "
        f"switching a key off: {'it can' if rules.can_mute else 'it cannot'}."
    ]
    lines.append("In the other applications:")
    others = [name for name in at.app_names() if name != stack.app.name]
    for trigger in touched(stack, before, after):
        for name in others:
            lines += [f"  {trigger} in {line}" for line in elsewhere(at, trigger, name)]
    return lines


def elsewhere(at: Desk, trigger: Run, name: str) -> list[str]:
    """What a trigger does in another application, with a warning where it starts what lasts."""
    keymap = Keymap(at.stack(name), at.keyboard)
    together: dict[str, list[str]] = {}
    for mode in keymap.app.modes.names:
        outcome = keymap.decide(trigger, mode)
        if outcome.what != NOTHING:
            together.setdefault(words.outcome_text(keymap, outcome), []).append(mode)
    return [
        f"{keymap.app.title}: {text} {keymap.app.modes.phrase(modes)}{_lasting(keymap, trigger)}"
        for text, modes in together.items()
    ] or [f"{keymap.app.title}: nothing"]


def _lasting(keymap: Keymap, trigger: Run) -> str:
    known = keymap.app.catalogue.by_id
    for claim in keymap.buckets.get(keymap.keyboard.press_of(trigger), ()):
        command = known.get(claim.command)
        if command and command.marks.lasting:
            return f" - beware: {command.title} lasts and cannot be taken back"
    return ""


def touched(stack: Stack, before: Scheme, after: Scheme) -> list[Run]:
    """The triggers about which the two schemes differ, the keys of commands made bare included."""
    found: dict[Run, None] = {}
    for command in dict.fromkeys((*before.assign, *after.assign)):
        if before.assign.get(command) != after.assign.get(command):
            for each in (*before.assign.get(command, ()), *after.assign.get(command, ())):
                found.update(dict.fromkeys(each.keys))
    for command in before.bare.keys() ^ after.bare.keys():
        known = stack.app.catalogue.by_id.get(command)
        found.update(dict.fromkeys(known.keys if known else ()))
    for old, new in ((before.mute, after.mute), (before.guard, after.guard)):
        found.update(dict.fromkeys(run for run in (*old, *new) if old.get(run) != new.get(run)))
    return list(found)
