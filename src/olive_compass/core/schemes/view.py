"""What everything that judges an application looks at: its stack, on a keyboard, for a hand."""

from collections.abc import Iterable
from functools import cached_property
from typing import TYPE_CHECKING

from olive_compass.core.apps.app import App, Command
from olive_compass.core.apps.modes import joined
from olive_compass.core.effort.weights import Weights
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.triggers import Run, Stroke
from olive_compass.core.schemes.claims import Claim, Does, Stack
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.reaches import Reach, reach_of

if TYPE_CHECKING:
    from typing import Protocol

    class FalseFriend(Protocol):
        """A press with two purposes: where a reflex is learnt, and where it meets something worse."""

        @property
        def says(self) -> str: ...

    class Neighbours(Protocol):
        """What presses mean in the other applications of the desk."""

        def worse_with(self, keymap: Keymap, command: str, trigger: Run) -> tuple[FalseFriend, ...]:
            """The worst false friends that giving ``trigger`` to ``command`` there makes."""
            ...


class View:
    """A stack with its keymap, and the same application with its factory keys alone.

    ``hand`` is the one that is free (``left``, ``right`` or ``both``); ``across`` what presses mean
    in all applications, where the desk has purposes.
    """

    def __init__(
        self,
        stack: Stack,
        keyboard: Keyboard,
        weights: Weights | None = None,
        hand: str = "left",
        across: "Neighbours | None" = None,
    ) -> None:
        self.stack = stack
        self.keyboard = keyboard
        self.weights = weights or Weights()
        self.hand = hand
        self.across = across
        #: Triggers that were offered in some advice, so that no two pieces of it name the same.
        self.offered: set[Run] = set()
        self._reaches: dict[Run, Reach | None] = {}
        self._strokes_in: dict[tuple[str, ...], list[tuple[Command, Stroke]]] = {}
        #: The free triggers by modes: ``offers`` keeps them here.
        self.kept: dict[tuple[str, ...], list[Run]] = {}

    def strokes_in(self, menu: tuple[str, ...]) -> list[tuple[Command, Stroke]]:
        """The commands of a menu with their single strokes, a stroke each."""
        if menu not in self._strokes_in:
            self._strokes_in[menu] = [
                (command, run.strokes[0])
                for command in self.app.catalogue.by_menu.get(menu, ())
                for run in live_triggers(self.keymap, command.id)
                if len(run.strokes) == 1
            ]
        return self._strokes_in[menu]

    @cached_property
    def keymap(self) -> Keymap:
        """The keymap of the stack; one that is at hand already may be put in its place."""
        return Keymap(self.stack, self.keyboard)

    def reach(self, run: Run) -> Reach | None:
        """What a trigger takes of the hands; None: the keyboard cannot make it."""
        try:
            return self._reaches[run]
        except KeyError:
            found = reach_of(self.keyboard, self.weights, self.hand, run)
            self._reaches[run] = found
            return found

    @property
    def app(self) -> App:
        return self.stack.app

    @cached_property
    def factory(self) -> Keymap:
        return Keymap(Stack(self.app), self.keyboard)

    @cached_property
    def decisions(self) -> list[Claim]:
        """The claims of schemes, a decision that counts in several modes once."""
        return once_each(self.keymap.claims)

    @cached_property
    def strokes(self) -> tuple[Stroke, ...]:
        """The strokes of which triggers of the application are made, each once."""
        triggers = dict.fromkeys(claim.trigger for claim in self.keymap.claims)
        return tuple(dict.fromkeys(stroke for run in triggers for stroke in run.strokes))

    def title(self, command: str) -> str:
        """The title of a command, or its id where the catalogue has none."""
        return self.app.shown(command)

    def meaning(self, does: Does) -> str:
        """What a claim does: a command's title or the wired meaning, ``""`` where it mutes."""
        return does.wired or self.title(does.command)

    def meanings(self, claims: Iterable[Claim]) -> str:
        """What claims do, each once."""
        return joined(dict.fromkeys(self.meaning(claim.does) for claim in claims))


def once_each(claims: list[Claim]) -> list[Claim]:
    """The claims that a person can change, a decision that counts in several modes once."""
    seen: dict[tuple[str, str, Run], Claim] = {}
    for claim in claims:
        if claim.origin:
            seen.setdefault((claim.origin, claim.command, claim.trigger), claim)
    return list(seen.values())
