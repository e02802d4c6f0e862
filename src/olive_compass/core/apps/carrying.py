"""What a new listing leaves out of a command that is known: it stays as it was."""

from collections.abc import Container

from olive_compass.core.apps.app import Command
from olive_compass.core.apps.marks import UNMARKED, WHOLE
from olive_compass.structs import replace

#: What people add to a catalogue, or what another listing said, and what goes only where it is asked.
KEPT = ("menu", "modes", "kind", "does", "marks", "inputs", "keys-elsewhere")

#: What a person can say of a command in the place of a listing.
SAID = ("title", "menu", "keys", "modes", "does", "kind")


def field_of(name: str) -> str:
    """The field of a command for a word of the command line."""
    return name.replace("-", "_")


def carried(before: Command, command: Command, forget: Container[str] = ()) -> Command:
    """``command`` as a listing has it, with what it leaves empty as it was ``before``.

    ``forget`` names those of ``KEPT`` that go where the listing leaves them empty. The id stays.
    """
    empty = {
        "menu": not command.menu,
        "modes": not command.modes,
        "kind": command.kind == "command",
        "does": not command.does,
        "marks": command.marks == UNMARKED,
        "inputs": not command.inputs,
        "keys-elsewhere": command.keys_elsewhere is None,
    }
    stays = {
        field_of(name): getattr(before, field_of(name))
        for name in KEPT
        if empty[name] and name not in forget
    }
    said = before.marks.said.split("+")
    if "marks" in stays:
        # It is in the listing: it is not withdrawn any more, unless a person said so.
        stays["marks"] = replace(before.marks, withdrawn=before.marks.withdrawn and "marks" in said)
    elif before.marks.said:
        stays["marks"] = replace(command.marks, said=before.marks.said)
    # What a person said of it stays, whatever a listing says.
    if before.marks.said == WHOLE:
        said = list(SAID)
    stays |= {field: getattr(before, field) for field in SAID if field in said}
    if "menu" in stays and before.menu:
        stays["access"] = before.access
    return replace(command, id=before.id, **stays)
