"""What no choice of keys can fall below: a proven bound on the seconds a week that commands take.

Every command is given the quickest key of all that ``assign`` would give it without a question, those that the
plan would never offer included; where a look at each is not worth its time, the bound takes something quicker
still, so that it stays a bound. Preferences (letters, siblings, purposes) are no part of it: it is seconds.
"""

from collections.abc import Iterable, Iterator, Sequence
from itertools import combinations

from msgspec import Struct

from olive_compass.core.effort.reach import HOLDERS
from olive_compass.core.keys.triggers import Run, Stroke, stroke
from olive_compass.core.savings.model import Times, press_cost
from olive_compass.core.savings.solving import Demand, apart, cheapest
from olive_compass.core.schemes import traits
from olive_compass.core.schemes.free import BANKS, BEGINS, FREE, TAKEN, banks, slot
from olive_compass.core.schemes.layers import MENUS
from olive_compass.core.schemes.view import View

#: The keys that hold: alone they start nothing, but where they are tapped.
_MODIFIER_KEYS = frozenset(key for keys in HOLDERS.values() for key in keys)

#: What can be held with one of the others.
_HELD = (
    *(names for n in range(5) for names in combinations(("Ctrl", "Alt", "Shift", "Meta"), n)),
    ("AltGr",),
    ("AltGr", "Shift"),
)


class Timed(Struct, frozen=True):
    """A trigger, and the seconds that one press of it takes."""

    seconds: float
    trigger: Run


def least(view: View, demands: Sequence[Demand], now: Sequence[float], times: Times) -> float:
    """The seconds a week below which no keys for all of ``demands`` together can come.

    ``now`` is what one use of each takes as things are, which is what it takes where no key is quicker.
    """
    if not demands:
        return 0.0
    tree = view.app.modes
    modes = tuple(frozenset(tree.inside(demand.command.usable_in)) for demand in demands)
    every = _every_stroke(view, times)
    otherwise = min(_beside_strokes(view, every, times), default=float("inf"))
    # The others can take so many keys from a command and no more.
    open_ = {each: _quickest(view, every, each, len(demands)) for each in set(modes)}
    places = {run: n for n, run in enumerate({t.trigger for own in open_.values() for t in own})}
    table = [[float("inf")] * len(places) for _ in demands]
    for row, demand, inside in zip(table, demands, modes, strict=True):
        for timed in open_[inside]:
            row[places[timed.trigger]] = demand.a_week * timed.seconds
    alone = [w.a_week * min(each, otherwise) for w, each in zip(demands, now, strict=True)]
    # Where modes exclude each other, as many commands may have one key as there are modes.
    return cheapest(table, alone, apart(modes))[1]


def _every_stroke(view: View, times: Times) -> list[Timed]:
    """Every single stroke that the keyboard and the devices can make, the quickest first."""
    found = []
    for each in _strokes(view):
        run = Run((each,))
        cost = press_cost(view.keyboard, run, times, view.weights, view.hand)
        found.append(Timed(cost.seconds, run))
    return sorted(found, key=lambda timed: timed.seconds)


def _strokes(view: View) -> Iterator[Stroke]:
    """Those strokes: every key of the form, and what lies beside it, with all that can be held."""
    codes: list[str] = []
    if view.keyboard.form:
        codes = [code for code in view.keyboard.form.seats if code not in _MODIFIER_KEYS]
    beside = _beside(view, codes)
    for names in _HELD:
        yield from (stroke(code, *names, by_place=True) for code in codes)
        yield from (stroke(key, *names) for key in beside)


def _beside(view: View, codes: Iterable[str]) -> list[str]:
    """What can be pressed beside the keys themselves: buttons, once and twice, and keys (``codes``) that are held."""
    found = [key for bank, keys in banks(view).items() if bank not in BANKS for key in keys]
    found += [f"{key}*2" for key in found if key.startswith("mouse:")]
    if "hold" in view.app.rules.takes:
        found += [f"hold:@{code}" for code in codes]
    return found


def _beside_strokes(view: View, every: Sequence[Timed], times: Times) -> Iterator[float]:
    """What a trigger that is no single stroke takes at the least: any number of commands may have one."""
    rules = view.app.rules
    if every:
        quickest = every[0].seconds
    else:
        quickest = times.mind + times.key
    if rules.longest_sequence > 1:
        yield quickest + (quickest - times.mind)
    if rules.swipes:
        yield times.mind + times.swipe * times.point + 2 * times.button


def _quickest(view: View, every: Iterable[Timed], inside: frozenset[str], most: int) -> list[Timed]:
    """The quickest strokes that ``assign`` gives in these modes without a question, at most so many."""
    order = tuple(name for name in view.app.modes.names if name in inside)
    texts = bool(traits.typing_modes(view.app, order))
    found: list[Timed] = []
    for timed in every:
        if len(found) == most:
            break
        if _is_open(view, timed.trigger, order, texts):
            found.append(timed)
    return found


def _is_open(view: View, run: Run, modes: tuple[str, ...], texts: bool) -> bool:
    """Whether nobody is asked about a stroke: the map calls it free, or begun, or only a menu's letter has it."""
    state = slot(view, run.strokes[0], modes, texts).state
    if state != TAKEN:
        return state in (FREE, BEGINS)
    presses = view.keymap.keyboard.presses_of(run)
    claims = (c for press in presses for mode in modes for c in view.keymap.winners(press, mode))
    return all(claim.layer is MENUS for claim in claims)
