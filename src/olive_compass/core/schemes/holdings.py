"""Which keys each command really has, where each comes from, and what it is left with."""

from msgspec import Struct

from olive_compass.core.keys.triggers import Run, Stroke, stroke
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.layers import MENUS


class Holding(Struct, frozen=True, kw_only=True):
    """A trigger that some layer gives to a command.

    ``claims`` are one a mode; ``live`` the modes in which it reaches the command;
    ``hidden_by`` the claim that decides the press in the other modes, or None.
    """

    trigger: Run
    claims: tuple[Claim, ...]
    live: tuple[str, ...]
    hidden_by: Claim | None = None

    @property
    def layer(self) -> str:
        return self.claims[0].layer

    @property
    def modes(self) -> tuple[str, ...]:
        return tuple(claim.mode for claim in self.claims)


def holdings(keymap: Keymap, command: str) -> tuple[Holding, ...]:
    """The triggers that any layer gives to ``command``, the nearest layer first."""
    together: dict[tuple[int, Run], list[Claim]] = {}
    for claim in keymap.by_command.get(command, ()):
        together.setdefault((claim.rank, claim.trigger), []).append(claim)
    return tuple(_holding(keymap, together[key]) for key in sorted(together, key=lambda k: k[0]))


def live_triggers(keymap: Keymap, command: str, mode: str | None = None) -> tuple[Run, ...]:
    """The triggers that reach ``command``: in ``mode``, or in any mode where None is given."""
    claims = keymap.by_command.get(command, ())
    # Most commands share no key with another: there is nothing to decide mode by mode.
    if mode is None and all(map(keymap.is_alone, claims)):
        return tuple(dict.fromkeys(claim.trigger for claim in claims))
    return tuple(
        dict.fromkeys(
            holding.trigger
            for holding in holdings(keymap, command)
            if (mode in holding.live if mode else holding.live)
        )
    )


def _holding(keymap: Keymap, claims: list[Claim]) -> Holding:
    press = keymap.keyboard.press_of(claims[0].trigger)
    # Most keys are wanted by one command only: nothing is decided mode by mode for them.
    alone = keymap.is_alone(claims[0])
    live: list[str] = []
    hidden_by: Claim | None = None
    for claim in claims:
        for mode in keymap.app.modes.within(claim.mode):
            winners = claims if alone else keymap.winners(press, mode)
            if any(winner.command == claim.command for winner in winners):
                live.append(mode)
            elif winners:
                hidden_by = winners[0]
    return Holding(
        trigger=claims[0].trigger,
        claims=tuple(claims),
        live=tuple(dict.fromkeys(live)),
        hidden_by=hidden_by,
    )


def letter_route(keymap: Keymap, command: str) -> str:
    """The way to a command by access letters, ``""`` where it is none.

    It is none where a letter appears twice in a menu, or where the stroke that opens the menu was
    given to something else in a mode of the command.
    """
    known = keymap.app.catalogue.by_id.get(command)
    if known is None or not known.keyboard_route or not keymap.app.rules.letters_open_menus:
        return ""
    if keymap.app.why_absent(known):
        return ""
    steps = (*known.menu, known.title)
    doubled = keymap.doubled_letters
    # A letter that appears twice only walks between the two: it starts neither.
    if any((steps[:depth], letter) in doubled for depth, letter in enumerate(known.access)):
        return ""
    press = keymap.keyboard.press_of(Run((stroke(known.access[0], "Alt"),)))
    modes = keymap.app.modes.inside(known.usable_in)
    # One mode in which the stroke does something else is enough: nobody can rely on the route then.
    for mode in modes:
        winners = keymap.winners(press, mode)
        if winners and winners[0].layer != MENUS:
            return ""
    return known.keyboard_route


def by_letters(keymap: Keymap, trigger: Run) -> list[str]:
    """The commands to which a sequence of access letters leads: ``Alt+P I T``."""
    first, *rest = trigger.strokes
    if _opens_no_menu(first, rest):
        return []
    route = " ".join(("Alt", first.key, *(each.key for each in rest)))
    # Cheap first: few commands have such a route, and whether it can be walked takes a look at every mode.
    return [
        command.id
        for command in keymap.app.catalogue.commands
        if command.keyboard_route == route and letter_route(keymap, command.id)
    ]


def _opens_no_menu(first: Stroke, rest: list[Stroke]) -> bool:
    return first.modifiers != ("Alt",) or not rest or any(each.modifiers for each in rest)


def given_up(before: Keymap, after: Keymap, command: str) -> list[Run]:
    """The keys that a command had and has no longer."""
    has = live_triggers(after, command)
    return [run for run in live_triggers(before, command) if run not in has]
