"""A key that counts in modes in which its command cannot be used."""

from collections.abc import Iterator

from olive_compass.core.findings.finding import Finding, Fix, Place, View
from olive_compass.core.schemes.layers import FACTORY

ID = "wider-than-needed"
SEVERITY = "warning"
SAYS = (
    "An assignment counts in modes in which its command cannot be used, and may hide others there."
)
ADVICE = "Narrow it to the modes of the command: olive-compass narrow APP COMMAND."


def find(view: View) -> Iterator[Finding]:
    tree = view.app.modes
    for scheme in view.stack.schemes:
        for command, assignments in scheme.assign.items():
            known = view.app.catalogue.by_id.get(command)
            if known is None or not known.modes:
                continue
            if all(each.modes == known.modes for each in assignments):
                continue
            needed = set(tree.inside(known.modes))
            for each in assignments:
                extra = [mode for mode in tree.inside(each.modes) if mode not in needed]
                if not extra:
                    continue
                for key in each.keys:
                    press = view.keymap.keyboard.press_of(key)
                    hidden = [
                        claim.command
                        for claim in view.keymap.buckets.get(press, ())
                        if claim.layer == FACTORY
                        and claim.mode in extra
                        and claim.command != command
                    ]
                    harm = f", and hides “{view.title(hidden[0])}” there" if hidden else ""
                    yield Finding(
                        ID,
                        SEVERITY,
                        view.app.name,
                        f"{key} of “{known.title}” counts {tree.phrase(tree.inside(each.modes))}, but "
                        f"the command can be used only {tree.phrase(needed)}{harm}.",
                        f"olive-compass narrow {view.app.name} {command} --scheme {scheme.name}",
                        (Place(scheme.name, "assign", command),),
                        (command,),
                        (str(key),),
                        tuple(extra),
                        Fix(scheme.name, command, str(key), known.modes),
                    )
