"""The command has as many keys as it may, in layers that do not make room."""

from typing import TYPE_CHECKING

from msgspec import Struct

from olive_compass.core.apps.guesses import guessed
from olive_compass.core.apps.modes import joined
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.objections.kind import OF_COMMAND, REFUSED, Kind, Request
from olive_compass.core.wording import counted

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


class Full(Struct, frozen=True):
    """How many keys a command may have, and those that it has: key and scheme."""

    most: int
    have: tuple[tuple[Run, str], ...]


def find(request: Request) -> tuple[Full, ...]:
    """The keys that no lower layer can make room for, where there are too many of them."""
    view, scheme = request.view, request.scheme
    most = view.app.rules.most_keys
    if not most or scheme is None:
        return ()
    # Keys of lower layers are pushed out by nearer ones, so only those above and this one count.
    names = view.stack.scheme_names
    if scheme.name in names:
        at = names.index(scheme.name)
    else:
        at = len(names)
    press = view.keymap.keyboard.press_of
    have = {
        press(run): (run, each.name)
        for each in (*view.stack.schemes[:at], scheme)
        for assignment in each.assign.get(request.command.id, ())
        for run in assignment.keys
        if press(run) != request.press
    }
    if len(have) >= most:
        return (Full(most, tuple(have.values())),)
    return ()


def left_of(found: tuple[Full, ...], scheme: Scheme | None) -> tuple[Full, ...]:
    """What is left of it where the key takes the place of those of ``scheme`` and below: a nearer scheme still makes
    it too many by itself."""
    nearer = (
        Full(full.most, tuple((run, name) for run, name in full.have if name != scheme.name))
        for full in found
        if scheme
    )
    return tuple(full for full in nearer if len(full.have) >= full.most)


def says(telling: "Telling", evidence: tuple[Full, ...]) -> str:
    app, full = telling.view.app, evidence[0]
    keys = joined(f"{run} ({scheme})" for run, scheme in full.have)
    return (
        f"{app.title} allows a command {counted(full.most, 'key')}, and "
        f"{telling.command.title} has {keys}{guessed(app, 'most-keys')}"
    )


KIND = Kind(id="too-many", weight=REFUSED, order=40, find=find, says=says, of=OF_COMMAND)
