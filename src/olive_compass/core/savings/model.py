"""How long the ways to a command take, by the keystroke-level model.

Source: S. K. Card, T. P. Moran and A. Newell, *The keystroke-level model for user performance time with
interactive systems*, Communications of the ACM 23 (7), 1980, 396 to 410: K 0.28 s (an average typist who
is no secretary), P 1.1 s, H 0.4 s, M 1.35 s. Later editions distinguish a press and a release of a button: by later
users of the model; that each takes 0.1 s, and whatever is marked below, is our own choice.
"""

from collections.abc import Mapping

from msgspec import Struct

from olive_compass.core.apps.app import App
from olive_compass.core.effort.reach import run_effort
from olive_compass.core.effort.weights import Weights
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.triggers import Run
from olive_compass.core.trays.verdicts import kind_of_tray
from olive_compass.structs import replace


class Times(Struct, frozen=True, kw_only=True):
    """The figures of the model, in seconds.

    ``key`` is K, ``point`` P, ``button`` B (a press or a release), ``home`` H, ``mind`` M. Our own choice:
    ``strokes``, how many home strokes an average key takes, by which K grows with the reach;
    ``learn``, the seconds in all until a new key is pressed without thinking; and ``swipe``, the part of
    a pointing that a swipe is.
    """

    key: float = 0.28
    point: float = 1.1
    button: float = 0.1
    home: float = 0.4
    mind: float = 1.35
    strokes: float = 2.0
    learn: float = 40.0
    swipe: float = 0.5


#: The letters by which the figures of the model are named.
LETTERS = {
    "K": "key",
    "P": "point",
    "B": "button",
    "H": "home",
    "M": "mind",
    "L": "learn",
}

DEFAULT = Times()


class Part(Struct, frozen=True):
    """One operator of a way: its letter, how often, and the seconds that it comes to."""

    letter: str
    times: float
    seconds: float


class Cost(Struct, frozen=True):
    """The seconds of one use, and the operators that they consist of."""

    seconds: float
    parts: tuple[Part, ...]

    @property
    def text(self) -> str:
        """How it came about: ``M 1.35 + 2 K 0.56``."""
        return " + ".join(
            f"{part.times:g} {part.letter} {part.seconds:.2f}"
            if part.times != 1
            else f"{part.letter} {part.seconds:.2f}"
            for part in self.parts
        )


def press_cost(
    keyboard: Keyboard, run: Run, times: Times, weights: Weights, hand: str = "left"
) -> Cost:
    """What pressing a trigger takes: K for each key by its reach, and H there and back where the hand
    at the mouse must leave it."""
    effort = run_effort(keyboard, run, weights)
    if effort is None:
        # A swipe, or a board whose form nobody knows.
        if any(":" in stroke.key for stroke in run.strokes):
            return _cost(times, M=1, P=times.swipe, B=2)
        return _cost(times, M=1, K=sum(1 + len(s.modifiers) for s in run.strokes))
    leaves = 2
    if effort.one_hand(hand):
        leaves = 0
    return _cost(times, M=1, K=round(effort.strokes / times.strokes, 2), H=leaves)


def menu_cost(app: App, command: str, times: Times) -> Cost:
    """What the menu takes: P for each step, B for the first and the last click."""
    known = app.catalogue.by_id.get(command)
    steps = 2
    if known and known.menu:
        steps = len(known.menu) + 1
    return _cost(times, M=1, P=steps, B=4 if steps > 1 else 2)


def way_cost(app: App, command: str, how: str, times: Times) -> Cost:
    """What one use by hand takes: ``menu``, ``toolbar`` or ``tray``."""
    if how == "toolbar":
        return _cost(times, M=1, P=1, B=2)
    if how == "tray":
        trays = app.trays_with(command)
        steps = min((kind_of_tray(app, tray).steps for tray in trays), default=2)
        return _cost(times, M=1, P=steps, B=2 * steps)
    return menu_cost(app, command, times)


def _cost(times: Times, **operators: float) -> Cost:
    seconds = {letter: getattr(times, LETTERS[letter]) for letter in operators}
    parts = tuple(
        Part(letter, number, number * seconds[letter])
        for letter, number in operators.items()
        if number
    )
    return Cost(sum(part.seconds for part in parts), parts)


def changed(times: Times, given: Mapping[str, float]) -> Times:
    """The model with other figures, by letter. Raises ``KeyError`` and ``ValueError``.

    >>> changed(DEFAULT, {"K": 0.2}).key
    0.2
    """
    for letter, seconds in given.items():
        if not 0 <= seconds < 1000:
            raise ValueError(f"{seconds:g} is no time of {letter}")
        times = replace(times, **{LETTERS[letter]: seconds})
    return times
