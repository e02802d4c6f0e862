"""A plain key in a mode in which typing writes text."""

from collections.abc import Iterator

from olive_compass.core.findings.finding import Finding, View, of_schemes, place
from olive_compass.core.schemes.guarding import types_text

ID = "swallows-typing"
SEVERITY = "error"
SAYS = "A letter, digit or sign without a modifier is a key in a mode in which typing writes text."
ADVICE = "Add a modifier, or narrow the key to modes without text: olive-compass narrow."


def find(view: View) -> Iterator[Finding]:
    texts = set(view.app.modes.inside(view.app.rules.text_modes))
    for bucket in view.keymap.buckets.values() if texts else ():
        for claim in of_schemes(bucket):
            inside = [mode for mode in view.app.modes.within(claim.mode) if mode in texts]
            if not inside or claim.mutes or not types_text(claim.trigger):
                continue
            yield Finding(
                ID,
                SEVERITY,
                view.app.name,
                f"{claim.trigger} of “{view.title(claim.command)}” counts "
                f"{view.app.modes.phrase(inside)}, where it would swallow what is typed.",
                f"olive-compass narrow {view.app.name} {claim.command} '{claim.trigger}' --mode MODE",
                (place(claim),),
                (claim.command,),
                (str(claim.trigger),),
                tuple(inside),
            )
