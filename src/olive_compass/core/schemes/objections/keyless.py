"""A scheme leaves the command without a key on purpose."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from msgspec import Struct

from olive_compass.core.keys.presses import Press
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.objections.kind import (
    ASKED,
    KEYLESS,
    OF_COMMAND,
    Edited,
    Kind,
    Request,
)

if TYPE_CHECKING:
    from olive_compass.core.schemes.objections.kind import Telling


class Keyless(Struct, frozen=True):
    """A scheme that leaves the command without a key, and why."""

    scheme: Scheme
    why: str


def find(request: Request) -> tuple[Keyless, ...]:
    """The schemes that do so in one of the modes."""
    id_, modes = request.command.id, request.view.app.modes
    inside = set(request.inside)
    return tuple(
        Keyless(each, each.keyless[id_].why)
        for each in request.view.stack.schemes
        if id_ in each.keyless and not inside.isdisjoint(modes.inside(each.keyless[id_].modes))
    )


def with_what_comes_back(
    edited: Edited,
    kind: Kind[Claim],
    look: Callable[[Keymap, Press, tuple[str, ...]], tuple[Claim, ...]],
) -> tuple[Claim, ...]:
    """What an objection is based on, looked for once more after the edit where the command was keyless: it gets back
    the keys that it had besides."""
    before = edited.before(kind)
    if not edited.before(KIND):
        return before
    press = edited.after.keyboard.press_of(edited.request.trigger)
    return tuple(dict.fromkeys((*before, *look(edited.after, press, edited.request.inside))))


def says(telling: "Telling", evidence: tuple[Keyless, ...]) -> str:
    first = evidence[0]
    return (
        f"{first.scheme.name} leaves {telling.command.title} without a key on purpose: "
        f"{first.why or 'no reason given'}"
    )


KIND = Kind(
    id="keyless",
    weight=ASKED,
    order=60,
    find=find,
    says=says,
    early=True,
    of=OF_COMMAND,
    asks=KEYLESS,
)
