"""Which keys a plan may give to which commands, and what each of them takes a week."""

from collections.abc import Iterable, Iterator
from itertools import chain

from olive_compass.core.apps.app import Command
from olive_compass.core.effort.reach import run_effort
from olive_compass.core.keys.presses import Press
from olive_compass.core.keys.triggers import Run
from olive_compass.core.savings.model import Times, menu_cost, press_cost
from olive_compass.core.savings.savings_of_keys import pressable
from olive_compass.core.savings.solving import Demand, Pairs
from olive_compass.core.schemes.free import free_strokes
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.offers import Offer, scored
from olive_compass.core.schemes.verdicts import in_itself
from olive_compass.core.schemes.view import View
from olive_compass.structs import replace

#: What it is worth, in home strokes, that other applications have the key for the same purpose: our own choice.
SAME_PURPOSE = 3.0


#: Over how many weeks the learning of another key for a habit is spread: our own choice.
SPREAD = 8.0


def suggestable(view: View, demands: tuple[Demand, ...], times: Times, hand: str) -> Pairs:
    import numpy as np

    tree = view.app.modes
    modes = tuple(frozenset(tree.inside(w.command.usable_in)) for w in demands)
    free = {inside: free_in(view, inside) for inside in set(modes)}
    runs = _worth_trying(view, set(chain.from_iterable(free.values())), demands, hand)
    places = {run: n for n, run in enumerate(runs)}
    press = {
        run: press_cost(view.keyboard, run, times, view.weights, view.hand).seconds for run in runs
    }
    cost = np.full((len(demands), len(runs)), np.inf)
    seconds = np.full((len(demands), len(runs)), np.inf)
    offers: dict[tuple[int, int], Offer] = {}
    alone, now = [], []
    had = tuple(live_triggers(view.keymap, demand.command.id) for demand in demands)
    for i, demand in enumerate(demands):
        habit = 0.0
        if had[i]:
            habit = times.learn / SPREAD
        now.append(demand.a_week * takes_now(view, demand, times))
        for offer in _offers(view, demand.command, free[modes[i]] & places.keys()):
            takes = demand.a_week * press[offer.trigger]
            # A key that costs more than it saves is no suggestion, whatever speaks for it.
            if now[i] - takes <= habit:
                continue
            j = places[offer.trigger]
            seconds[i, j] = takes
            liking = demand.a_week * times.key * offer.liking / times.strokes
            cost[i, j] = takes + habit + liking
            offers[i, j] = offer
        if had[i]:
            liking = _liking(view, demand, times)
            alone.append(now[i] + demand.a_week * times.key * liking / times.strokes)
            continue
        # What speaks against a key that saves time is no reason to have none.
        dearest = float(np.max(cost[i], where=np.isfinite(cost[i]), initial=0.0))
        alone.append(max(now[i], dearest + 1e-6))
    return Pairs(
        demands=demands,
        runs=runs,
        cost=cost,
        seconds=seconds,
        alone=tuple(alone),
        now=tuple(now),
        offers=offers,
        modes=modes,
        had=had,
    )


def _liking(view: View, demand: Demand, times: Times) -> float:
    """What speaks for (below 0) and against the quickest key that a command has, in home strokes."""
    has = pressable(view, view.keymap, demand.command.id)
    quickest = min(
        _offers(view, demand.command, has),
        key=lambda each: (
            press_cost(view.keyboard, each.trigger, times, view.weights, view.hand).seconds
        ),
        default=None,
    )
    if quickest:
        return quickest.liking
    return 0.0


def takes_now(view: View, demand: Demand, times: Times) -> float:
    """What one use takes: by the best of its keys or its menu, or as it was counted where it has no key."""
    menu = menu_cost(view.app, demand.command.id, times).seconds
    has = pressable(view, view.keymap, demand.command.id)
    if not has:
        if demand.now is None:
            return menu
        return demand.now
    keys = (press_cost(view.keyboard, run, times, view.weights, view.hand) for run in has)
    return min([menu, *(each.seconds for each in keys)])


def free_in(view: View, inside: frozenset[str]) -> set[Run]:
    """The strokes that do nothing in any of the modes ``inside``."""
    order = tuple(name for name in view.app.modes.names if name in inside)
    return {Run((each,)) for each in free_strokes(view, order)}


def _worth_trying(
    view: View, free: set[Run], demands: tuple[Demand, ...], hand: str
) -> tuple[Run, ...]:
    """The free triggers that nothing in themselves stands against; with ``hand``, which it does alone."""
    runs = sorted(free, key=str)
    if demands:
        # The objections to a trigger itself are asked for once, not for every command.
        first = demands[0].command
        modes = first.usable_in
        runs = [run for run in runs if not in_itself(view, first, run, modes).of_trigger]
    if hand:
        efforts = {run: run_effort(view.keyboard, run, view.weights) for run in runs}
        runs = [run for run in runs if (e := efforts[run]) and e.one_hand(hand)]
    return tuple(runs)


def _offers(view: View, command: Command, runs: Iterable[Run]) -> Iterator[Offer]:
    """The triggers with their scores; better ones where another application has the same purpose there."""
    elsewhere = _elsewhere(view, command)
    for offer in scored(view, runs, command):
        if who := elsewhere.get(view.keyboard.press_of(offer.trigger)):
            offer = replace(
                offer,
                score=offer.score - SAME_PURPOSE,
                liking=offer.liking - SAME_PURPOSE,
                reasons=(*offer.reasons, f"as in {who}"),
            )
        yield offer


def _elsewhere(view: View, command: Command) -> dict[Press, str]:
    """The presses that other applications have for what the command is for, and which of them."""
    across = getattr(view, "across", None)
    if across is None:
        return {}
    purpose = across.purposes.by_command.get((view.app.name, command.id))
    found: dict[Press, str] = {}
    if not purpose:
        return found
    for name, keymap in across.keymaps.items():
        if name == view.app.name:
            continue
        for other in purpose.commands(name):
            for run in live_triggers(keymap, other):
                found.setdefault(view.keyboard.press_of(run), keymap.app.title)
    return found
