"""A key that counts in modes in which its command cannot be used."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import Action, ClearKeys, LimitModes, ShowModes
from olive_compass.core.findings.advice import better_key, narrowing
from olive_compass.core.findings.finding import Finding, Fix, Place, View
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.layers import FACTORY
from olive_compass.core.schemes.traits import outside

ID = "wider-than-needed"
SEVERITY: Final = "warning"
SAYS = "A key applies in modes in which its command cannot be used, and may override others there."
ADVICE = "Limit it to where the command can be used: {modes}."
ACTIONS = {"modes": ShowModes(app="APP", command="COMMAND", only="MODE")}


def find(view: View) -> Iterator[Finding]:
    tree = view.app.modes
    for scheme in view.stack.schemes:
        for command, assignments in scheme.assign.items():
            known = view.app.catalogue.by_id.get(command)
            # A command that can be used everywhere cannot have a key too wide.
            if known is None or not known.modes:
                continue
            for each in assignments:
                extra = outside(view.app, known, each.modes) if each.modes != known.modes else ()
                if not extra:
                    continue
                usable = set(tree.inside(known.modes))
                for key in each.keys:
                    # The fewest names that say the same modes: a parent for all of its children.
                    kept = narrowing(view, scheme, command, key, each.modes)
                    narrower = LimitModes(
                        app=view.app.name,
                        command=command,
                        key=str(key),
                        modes=kept,
                        scheme=scheme.name,
                    )
                    yield Finding(
                        id=ID,
                        severity=SEVERITY,
                        app=view.app.name,
                        says=f"{key} of “{known.title}” applies {tree.phrase(tree.inside(each.modes))}, but "
                        f"the command can be used only {tree.phrase(usable)}"
                        f"{_harm(view, command, key, extra)}.",
                        advice=narrower if kept else _without(view, scheme.name, command, key),
                        places=(Place(scheme.name, "assign", command),),
                        commands=(command,),
                        keys=(str(key),),
                        modes=tuple(extra),
                        fix=Fix(scheme=scheme.name, command=command, key=str(key), modes=kept)
                        if kept
                        else None,
                    )


def _without(view: View, scheme: str, command: str, key: Run) -> Action:
    """The action that takes a key out, or gives a better one where its command would be left with none."""
    for claim in view.keymap.by_command.get(command, ()):
        if claim.origin == scheme and claim.trigger == key:
            return better_key(view, claim)
    return ClearKeys(app=view.app.name, command=command, key=str(key), scheme=scheme)


def _harm(view: View, command: str, key: Run, extra: tuple[str, ...]) -> str:
    """What the key hides where its command cannot be used."""
    press = view.keymap.keyboard.press_of(key)
    for claim in view.keymap.buckets.get(press, ()):
        if _is_hidden_factory_key(claim, extra, command):
            return f", and overrides “{view.title(claim.command)}” there"
    return ""


def _is_hidden_factory_key(claim: Claim, extra: tuple[str, ...], command: str) -> bool:
    return claim.layer == FACTORY and claim.mode in extra and claim.command != command
