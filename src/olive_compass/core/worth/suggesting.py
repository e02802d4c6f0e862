"""Which keys to give to many commands at once: the cheapest plan, with a proven lower bound.

The cost of a pair is what its presses take a week: making up one's mind, and K for each of its home
strokes, less what letter and siblings are worth (``offers.rank``), all of it in seconds by the
keystroke-level model. The assignment of commands to triggers is solved by ``scipy``; where modes let two
commands share a trigger, as a mixed-integer programme. Siblings that come to lie side by side are found by
local search on top.
"""

from collections.abc import Iterable, Iterator, Mapping
from itertools import combinations

from msgspec import Struct

from olive_compass.core.apps.app import Command
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.effort.reach import distance, run_effort
from olive_compass.core.keys.presses import Press
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.free import free_strokes
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.offers import Offer, scored
from olive_compass.core.schemes.verdicts import in_itself
from olive_compass.core.schemes.view import View
from olive_compass.core.worth.model import Times, menu_cost
from olive_compass.core.worth.solving import Pairs, Wish, forbidden, solve
from olive_compass.structs import replace

#: What lying side by side with a sibling that gets its key in the same plan is worth, in home strokes. It is
#: to break ties, not to outweigh reach: our own choice.
SIDE_BY_SIDE = 0.1

#: What it is worth, in home strokes, that other applications have the key for the same purpose: our own choice.
SAME_PURPOSE = 3.0

#: Over how many weeks the learning of another key for a habit is spread: our own choice.
SPREAD = 8.0

#: How often the plan is made anew where a verdict forbids a pair of it.
ROUNDS = 12


class Suggestion(Struct, frozen=True):
    """A key for a command: what it saves a week against the menu (seconds), and why it is this one."""

    command: Command
    trigger: Run
    a_week: float
    saves: float
    offer: Offer
    had: tuple[Run, ...] = ()


class LeftOut(Struct, frozen=True):
    """A command that the plan gives no key, and why: ``no-key-is-free``, ``menu-is-quicker``, or a part of
    the verdict."""

    command: Command
    why: str


class Plan(Struct, frozen=True):
    """The suggestions, what was left out, the cost a week in seconds, and its proven lower bound."""

    suggestions: tuple[Suggestion, ...]
    left: tuple[LeftOut, ...]
    cost: float
    bound: float

    @property
    def gap(self) -> float:
        """How far the cost is above the bound at most, as a part of it."""
        return (self.cost - self.bound) / self.bound if self.bound > 0 else 0.0


def suggest(
    view: View,
    wishes: Iterable[Wish],
    times: Times,
    hand: str = "",
    moves: bool = False,
    scheme: Scheme | None = None,
) -> Plan:
    """The cheapest keys for all wishes together. ``hand``: only what it can do alone; ``moves``: commands
    that have keys may get others, at the price of the habit.

    What stands against a pair, by its verdict, takes it out of the plan.
    """
    pairs = _pairs(view, tuple(wishes), times, hand, moves)
    stopped: dict[int, str] = {}
    bound = None
    chosen: dict[int, int] = {}
    for _ in range(ROUNDS):
        chosen, least = solve(pairs)
        bound = least if bound is None else max(bound, least)
        bad = forbidden(view, pairs, chosen, scheme)
        if not bad:
            break
        for (i, j), found in bad.items():
            pairs.cost[i, j] = float("inf")
            if found.hopeless:
                pairs.cost[i, :] = float("inf")
                stopped[i] = next(iter(found.own), "hopeless")
    else:
        # What is forbidden still in the last round is left out rather than offered.
        chosen = {i: j for i, j in chosen.items() if (i, j) not in bad}
    chosen = _side_by_side(view, pairs, chosen, times, scheme)
    cost = _cost(view, pairs, chosen, times)
    floor = (bound or 0.0) - _most_for_siblings(pairs, times)
    return Plan(
        tuple(_suggestion(view, pairs, i, j, times) for i, j in sorted(chosen.items())),
        tuple(_left(pairs, chosen, stopped)),
        cost,
        min(floor, cost),
    )


def _pairs(view: View, wishes: tuple[Wish, ...], times: Times, hand: str, moves: bool) -> Pairs:
    import numpy as np

    tree = view.app.modes
    modes = tuple(frozenset(tree.inside(w.command.modes or (ROOT,))) for w in wishes)
    free = {inside: _free_in(view, inside) for inside in set(modes)}
    runs = _worth_trying(view, {run for found in free.values() for run in found}, wishes, hand)
    places = {run: n for n, run in enumerate(runs)}
    cost = np.full((len(wishes), len(runs)), np.inf)
    offers: dict[tuple[int, int], Offer] = {}
    alone = []
    for i, wish in enumerate(wishes):
        has = live_triggers(view.keymap, wish.command.id)
        habit = times.learn / SPREAD if has else 0.0
        menu = menu_cost(view.app, wish.command.id, times).seconds
        now = [_pressed(view, run, times) for run in has]
        alone.append(wish.a_week * min([menu, *now]))
        if has and not moves:
            continue
        for offer in _offers(view, wish.command, free[modes[i]] & places.keys()):
            j = places[offer.trigger]
            cost[i, j] = wish.a_week * _seconds(offer.score, times) + habit
            offers[i, j] = offer
    return Pairs(wishes, runs, cost, tuple(alone), offers, modes)


def _free_in(view: View, inside: frozenset[str]) -> set[Run]:
    """The strokes that do nothing in any of the modes ``inside``."""
    order = tuple(name for name in view.app.modes.names if name in inside)
    return {Run((each,)) for each in free_strokes(view, order)}


def _worth_trying(
    view: View, free: set[Run], wishes: tuple[Wish, ...], hand: str
) -> tuple[Run, ...]:
    """The free triggers that nothing in themselves stands against; with ``hand``, which it does alone."""
    runs = sorted(free, key=str)
    if wishes:
        # What stands against a trigger itself is asked once, not for every command.
        first = wishes[0].command
        modes = first.modes or (ROOT,)
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
    for name in across.keymaps if purpose else ():
        for other in purpose.commands(name) if name != view.app.name else ():
            keymap = across.keymaps[name]
            for run in live_triggers(keymap, other):
                found.setdefault(view.keyboard.press_of(run), keymap.app.title)
    return found


def _seconds(score: float, times: Times) -> float:
    """What a press of that score takes; what speaks for it never makes it less than free."""
    return times.mind + times.key * max(score, 0.0) / times.strokes


def _pressed(view: View, run: Run, times: Times) -> float:
    effort = run_effort(view.keyboard, run, view.weights)
    return _seconds(effort.strokes if effort else 8.0, times)


def _beside(view: View, one: Run, other: Run) -> bool:
    """Whether two keys lie side by side, held alike."""
    form = view.keyboard.form
    if form is None:
        return False
    (held, code), (other_held, other_code) = (
        view.keyboard.press_of(run)[0] for run in (one, other)
    )
    return held == other_held and code != other_code and distance(form, code, other_code) <= 1.05


def _family(pairs: Pairs, i: int, k: int) -> bool:
    one, other = pairs.wishes[i].command, pairs.wishes[k].command
    return bool(one.menu) and one.menu == other.menu


def _bonus(pairs: Pairs, i: int, k: int, times: Times) -> float:
    """What it is worth a week that two siblings lie side by side."""
    often = min(pairs.wishes[i].a_week, pairs.wishes[k].a_week)
    return often * times.key * SIDE_BY_SIDE / times.strokes


def _most_for_siblings(pairs: Pairs, times: Times) -> float:
    """What lying side by side can be worth at most: as if each family lay in one row, by how often
    each is used, so that every pair of neighbours counts the rarer of the two."""
    families: dict[tuple[str, ...], list[float]] = {}
    for wish in pairs.wishes:
        if wish.command.menu:
            families.setdefault(wish.command.menu, []).append(wish.a_week)
    rows = sum(sum(often) - max(often) for often in families.values())
    return rows * times.key * SIDE_BY_SIDE / times.strokes


def _cost(view: View, pairs: Pairs, chosen: Mapping[int, int], times: Times) -> float:
    total = 0.0
    for i in range(len(pairs.wishes)):
        j = chosen.get(i)
        total += pairs.alone[i] if j is None else float(pairs.cost[i, j])
    for i, k in combinations(chosen, 2):
        if _family(pairs, i, k) and _beside(view, pairs.runs[chosen[i]], pairs.runs[chosen[k]]):
            total -= _bonus(pairs, i, k, times)
    return total


def _side_by_side(
    view: View, pairs: Pairs, chosen: dict[int, int], times: Times, scheme: Scheme | None
) -> dict[int, int]:
    """The plan with siblings swapped or moved side by side where that is cheaper."""
    if not any(_family(pairs, i, k) for i, k in combinations(chosen, 2)) or len(chosen) > 60:
        return chosen
    now = _cost(view, pairs, chosen, times)
    better = True
    while better:
        better = False
        for tried in _neighbours(pairs, chosen):
            cost = _cost(view, pairs, tried, times)
            changed = {i: j for i, j in tried.items() if chosen.get(i) != j}
            fits = cost < now - 1e-9 and _apart_in_modes(pairs, tried)
            if fits and not forbidden(view, pairs, changed, scheme):
                chosen, now, better = tried, cost, True
                break
    return chosen


def _apart_in_modes(pairs: Pairs, chosen: Mapping[int, int]) -> bool:
    """Whether in no mode two commands have one trigger."""
    held = [(j, mode) for i, j in chosen.items() for mode in pairs.modes[i]]
    return len(held) == len(set(held))


def _neighbours(pairs: Pairs, chosen: dict[int, int]) -> Iterable[dict[int, int]]:
    """Plans that differ by a swap, or by a trigger that nobody has."""
    for i, k in combinations(chosen, 2):
        swapped = {**chosen, i: chosen[k], k: chosen[i]}
        if all(pairs.cost[n, swapped[n]] < float("inf") for n in (i, k)):
            yield swapped
    taken = set(chosen.values())
    for i in chosen:
        family = any(_family(pairs, i, k) for k in chosen if k != i)
        cheap = pairs.cost[i].argsort()[:12] if family else ()
        for j in map(int, cheap):
            if j not in taken and pairs.cost[i, j] < float("inf"):
                yield {**chosen, i: j}


def _suggestion(view: View, pairs: Pairs, i: int, j: int, times: Times) -> Suggestion:
    wish = pairs.wishes[i]
    effort = run_effort(view.keyboard, pairs.runs[j], view.weights)
    pressed = _seconds(effort.strokes if effort else 4.0, times)
    had = live_triggers(view.keymap, wish.command.id)
    saves = pairs.alone[i] - wish.a_week * pressed
    return Suggestion(wish.command, pairs.runs[j], wish.a_week, saves, pairs.offers[i, j], had)


def _left(pairs: Pairs, chosen: Mapping[int, int], stopped: Mapping[int, str]) -> Iterable[LeftOut]:
    for i, wish in enumerate(pairs.wishes):
        if i in chosen:
            continue
        if i in stopped:
            yield LeftOut(wish.command, stopped[i])
        elif (pairs.cost[i] == float("inf")).all():
            yield LeftOut(wish.command, "no-key-is-free")
        else:
            yield LeftOut(wish.command, "menu-is-quicker")
