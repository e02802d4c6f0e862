"""The swipes of a mode: what lies in each place of its rose, and copying it to another mode."""

from collections.abc import Mapping

from msgspec import Struct

from olive_compass.core.keys.kinds.swipe import swipe
from olive_compass.core.keys.roses import bearings
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import Keymap


class RosePlace(Struct, frozen=True):
    """A place of a rose: its bearing in degrees, and the claim that decides it, or None."""

    bearing: int
    claim: Claim | None

    @property
    def command(self) -> str:
        if self.claim:
            return self.claim.command
        return ""


def places(keymap: Keymap, mode: str) -> list[RosePlace]:
    """Every place of the rose of ``mode``, clockwise from north."""
    found = []
    if keymap.app.rose(mode):
        for bearing in bearings(keymap.app.rose(mode)):
            winners = keymap.winners(keymap.keyboard.press_of(swipe(bearing)), mode)
            found.append(RosePlace(bearing, winners[0] if winners else None))
    return found


def differing(found: Mapping[str, list[RosePlace]]) -> set[int]:
    """The bearings that do one thing in one mode and another in another; empty places do not count."""
    commands: dict[int, set[str]] = {}
    for rose in found.values():
        for place in rose:
            if place.command:
                commands.setdefault(place.bearing, set()).add(place.command)
    return {bearing for bearing, each in commands.items() if len(each) > 1}


def copied(
    keymap: Keymap, origin: str, goal: str, only: int | None
) -> tuple[list[tuple[RosePlace, str]], list[RosePlace]]:
    """What copying the rose of ``origin`` (or its place ``only``) to ``goal`` comes to.

    The places to copy, each with the command that has it in ``goal`` now; and those for which
    the rose of ``goal`` has no bearing.
    """
    there = {place.bearing: place.command for place in places(keymap, goal)}
    wanted = [
        place
        for place in places(keymap, origin)
        if place.command and (only is None or place.bearing == only)
    ]
    possible = [(place, there[place.bearing]) for place in wanted if place.bearing in there]
    return possible, [place for place in wanted if place.bearing not in there]
