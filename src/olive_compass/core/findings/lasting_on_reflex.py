"""A lasting command on a key that hands press without thinking."""

from collections.abc import Iterator

from olive_compass.core.findings.finding import Finding, View, place
from olive_compass.core.keys.reading import read_trigger

ID = "lasting-on-reflex"
SEVERITY = "warning"
SAYS = "A command that lasts and cannot be taken back is on a key that people press as a reflex."
ADVICE = "Mute the key, and leave the command bare: it is to be started from the menu only."

#: Keys that mean something harmless in most programs, so that hands press them unasked.
REFLEXES = (
    "Escape",
    "Enter",
    "Space",
    "Tab",
    "Delete",
    "Backspace",
    "Main+S",
    "Main+Z",
    "Main+Y",
    "Main+X",
    "Main+C",
    "Main+V",
    "Main+A",
    "Main+F",
    "Main+D",
    "Main+N",
    "Main+O",
    "F1",
    "F2",
    "F5",
)


def find(view: View) -> Iterator[Finding]:
    board = view.keymap.keyboard
    for text in REFLEXES:
        press = board.press_of(read_trigger(text))
        for claim in view.keymap.buckets.get(press, ()):
            command = view.app.catalogue.by_id.get(claim.command)
            if command is None or not command.marks.lasting:
                continue
            if claim not in view.keymap.winners(press, claim.mode):
                continue
            yield Finding(
                ID,
                SEVERITY,
                view.app.name,
                f"{claim.trigger} is a reflex, and starts “{command.title}”, which lasts and cannot be "
                "taken back.",
                f"olive-compass mute {view.app.name} '{claim.trigger}' --why 'a reflex from elsewhere'",
                (place(claim),),
                (command.id,),
                (str(claim.trigger),),
                (claim.mode,),
            )
            break
