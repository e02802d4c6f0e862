"""A lasting command on a key that hands press without thinking."""

from collections.abc import Iterator

from olive_compass.core.findings.advice import leaving_bare, silencing
from olive_compass.core.findings.finding import Finding, View, place
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.schemes.standing import REFLEXES

ID = "lasting-on-reflex"
SEVERITY = "warning"
SAYS = "A command that lasts and cannot be taken back is on a key that people press as a reflex."
ADVICE = "Leave the command bare: it is to be started from the menu only. Or mute the key."


def find(view: View) -> Iterator[Finding]:
    board = view.keymap.keyboard
    for text in REFLEXES:
        press = board.press_of(read_trigger(text))
        for claim in view.keymap.buckets.get(press, ()):
            command = view.app.catalogue.by_id.get(claim.command)
            if command is None or not command.marks.lasting:
                continue
            inside = view.app.modes.within(claim.mode)
            if not any(claim in view.keymap.winners(press, mode) for mode in inside):
                continue
            yield Finding(
                ID,
                SEVERITY,
                view.app.name,
                f"{claim.trigger} is a reflex, and starts “{command.title}”, which lasts and cannot be "
                "taken back.",
                leaving_bare(view, claim, f"{claim.trigger} is a reflex: from the menu only"),
                (place(claim),),
                (command.id,),
                (str(claim.trigger),),
                (claim.mode,),
                instead=(silencing(view, claim, "a reflex from elsewhere"),),
            )
