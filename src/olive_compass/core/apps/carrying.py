"""What a new listing leaves out of a command that is known: it stays as it was."""

from collections.abc import Container

from olive_compass.core.apps.app import Command
from olive_compass.core.apps.marks import UNMARKED
from olive_compass.structs import replace

#: What people add to a catalogue, or what another listing said, and what goes only where it is asked.
KEPT = ("menu", "modes", "kind", "does", "marks", "inputs")


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
    }
    stays = {
        field: getattr(before, field) for field in KEPT if empty[field] and field not in forget
    }
    if "marks" in stays:
        # It is in the listing: it is not withdrawn any more.
        stays["marks"] = replace(before.marks, withdrawn=False)
    if "menu" in stays and before.menu:
        stays["access"] = before.access
    return replace(command, id=before.id, **stays)
