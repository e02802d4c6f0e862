"""What a pull of the house does to the keys that count here, in sentences."""

from olive_compass.cli import words
from olive_compass.core.changes.change import touched
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import in_layer_order
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.meanings import title_of
from olive_compass.core.schemes.view import View
from olive_compass.desk.desk import Desk
from olive_compass.desk.house import PulledScheme
from olive_compass.structs import replace


def _keys_of(scheme: Scheme, command: str) -> set[Run]:
    """The keys that a scheme gives a command, in any mode."""
    return {run for each in scheme.assign[command] for run in each.keys}


def effects(desk: Desk, pulled: PulledScheme) -> list[str]:
    """What the keys that count do differently, and which personal decisions are beside the point."""
    old, new = pulled.before, pulled.after
    stack = desk.stack(pulled.app)
    others = [each for each in stack.schemes if each.name != old.name]
    before = Keymap(stack, desk.keyboard)
    after = Keymap(replace(stack, schemes=in_layer_order([new, *others])), desk.keyboard)
    title = stack.app.title
    lines = [
        f"{title}: {line}"
        for line in words.shifts(before, after, touched(View(stack, desk.keyboard), old, new))
    ]
    for scheme in others:
        for command in scheme.assign:
            # Only what this pull brings is to be said.
            if command not in new.assign or new.assign[command] == old.assign.get(command):
                continue
            name = title_of(after, command)
            says = "has another key and comes first"
            if _keys_of(scheme, command) == _keys_of(new, command):
                says = "says the same now"
            lines.append(f"{title}: {scheme.name} {says} for {name}.")
    return lines
