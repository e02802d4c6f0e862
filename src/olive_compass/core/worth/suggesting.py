"""Which keys to give to many commands at once: the cheapest plan, with a proven lower bound.

What a plan makes least is what its presses take a week by the keystroke-level model (``model.press_cost``, as
``savings_of_keys`` counts it), with what speaks for and against each key beyond that (``Offer.liking``) as home strokes.
Only what really saves time is proposed, and what is promised is seconds alone. The assignment of commands to
triggers is solved by ``scipy``; where modes let two commands share a trigger, as a mixed-integer programme.
Siblings that come to lie side by side are found by local search on top.
"""

from collections.abc import Iterable, Iterator, Mapping
from itertools import combinations

from msgspec import Struct

from olive_compass.core.apps.app import Command
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.effort.reach import distance, run_effort
from olive_compass.core.keys.presses import Press
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.editing import give
from olive_compass.core.schemes.free import free_strokes
from olive_compass.core.schemes.guards import broken_guards
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.offers import Offer, scored
from olive_compass.core.schemes.verdicts import in_itself
from olive_compass.core.schemes.view import View
from olive_compass.core.worth.least import least
from olive_compass.core.worth.model import Times, menu_cost, press_cost
from olive_compass.core.worth.savings_of_keys import pressable
from olive_compass.core.worth.solving import Demand, Pairs, forbidden, judged, solve
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


#: Why a command gets no key, where it is no part of the verdict: it has one, and others were not asked for;
#: its key is guarded; some of its keys would stay, in other modes or a nearer scheme; no other is better, or none quicker than its menu; none is free at all.
HAS_KEY, GUARDED, SOME_STAY, NO_BETTER, MENU, NONE_FREE = (
    "has-key",
    "guarded",
    "some-stay",
    "no-better",
    "menu-is-quicker",
    "no-key-is-free",
)


class Suggestion(Struct, frozen=True, kw_only=True):
    """A key for a command: what it saves a week against now (seconds), and why it is this one.

    ``had`` are the keys whose place it takes.
    """

    command: Command
    trigger: Run
    a_week: float
    saves: float
    offer: Offer
    had: tuple[Run, ...] = ()


class LeftOut(Struct, frozen=True):
    """A command that the plan gives no key, and why: one of the words above, or a part of the verdict;
    ``has`` are the keys that it has."""

    command: Command
    why: str
    has: tuple[Run, ...] = ()


class Plan(Struct, frozen=True, kw_only=True):
    """The suggestions, and what was left out; in seconds a week what the commands that might have had a key
    take by the plan and take ``now``, and what no choice of keys comes below (``bound``).

    ``weighed`` is the cost with what speaks for and against the keys: what the plan makes least.
    """

    suggestions: tuple[Suggestion, ...]
    left: tuple[LeftOut, ...]
    cost: float
    now: float
    bound: float
    weighed: float

    @property
    def gap(self) -> float:
        """How far the cost is above the bound at most, as a part of it."""
        if self.bound > 0:
            return (self.cost - self.bound) / self.bound
        return 0.0


def suggest(
    view: View,
    demands: Iterable[Demand],
    times: Times,
    hand: str = "",
    moves: bool = False,
    scheme: Scheme | None = None,
) -> Plan:
    """The cheapest keys for all wishes together. ``hand``: only what it can do alone; ``moves``: commands
    that have keys may get others, where they save more than the habit costs.

    An objection to a pair, by its verdict, takes it out of the plan; so does an objection
    once all of the plan is there.
    """
    wanted, left = _with_a_chance(view, demands, moves, scheme)
    pairs = _pairs(view, wanted, times, hand)
    stopped: dict[int, str] = {}
    chosen: dict[int, int] = {}
    for _ in range(ROUNDS):
        chosen = solve(pairs)
        bad = _stopped(view, pairs, chosen, scheme, stopped)
        if not bad:
            break
        for i, j in bad:
            pairs.cost[i, j] = float("inf")
    else:
        # What is forbidden still in the last round is left out rather than offered.
        chosen = {i: j for i, j in chosen.items() if (i, j) not in bad}
    sorted_out = _side_by_side(view, pairs, chosen, times, scheme)
    if not _in_the_way(view, pairs, sorted_out, scheme):
        chosen = sorted_out
    seconds = sum(
        float(pairs.seconds[i, chosen[i]]) if i in chosen else now
        for i, now in enumerate(pairs.now)
    )
    each_now = [_now(view, demand, times) for demand in wanted]
    return Plan(
        suggestions=tuple(_suggestion(pairs, i, j) for i, j in sorted(chosen.items())),
        left=(*left, *_left(pairs, chosen, stopped)),
        cost=seconds,
        now=sum(pairs.now),
        bound=min(least(view, wanted, each_now, times), seconds),
        weighed=_cost(view, pairs, chosen, times),
    )


def _with_a_chance(
    view: View, demands: Iterable[Demand], moves: bool, scheme: Scheme | None
) -> tuple[tuple[Demand, ...], list[LeftOut]]:
    """The wishes that a plan may give a key, and the others."""
    wanted, left = [], []
    for demand in demands:
        has = live_triggers(view.keymap, demand.command.id)
        if has and not moves:
            left.append(LeftOut(demand.command, HAS_KEY, has))
        elif has and scheme and (why := _keys_stay(view, demand.command, scheme, has)):
            left.append(LeftOut(demand.command, why, has))
        else:
            wanted.append(demand)
    return tuple(wanted), left


def _keys_stay(view: View, command: Command, scheme: Scheme, has: tuple[Run, ...]) -> str:
    """Why no other key can take the place of those that a command has, ``""``: one can."""
    # Any key does that is not one of its own: what becomes of those is what is looked for.
    inside = frozenset(view.app.modes.inside(command.modes or (ROOT,)))
    another = next((run for run in sorted(_free_in(view, inside), key=str) if run not in has), None)
    if another is None:
        return ""
    after = give(scheme, command.id, another, command.modes or (ROOT,), instead=True)
    keymap = Keymap(view.stack.with_scheme(after), view.keyboard)
    if broken_guards(view.keymap, keymap):
        return GUARDED
    return SOME_STAY if set(live_triggers(keymap, command.id)) & set(has) else ""


def _stopped(
    view: View,
    pairs: Pairs,
    chosen: Mapping[int, int],
    scheme: Scheme | None,
    stopped: dict[int, str],
) -> list[tuple[int, int]]:
    """The pairs of a plan that cannot stay. A command that can have no key at all is taken out of it, and
    noted in ``stopped`` with the reason."""
    bad = forbidden(view, pairs, chosen, scheme)
    for (i, _), found in bad.items():
        if found.hopeless:
            pairs.cost[i, :] = float("inf")
            stopped[i] = found.own[0].id
    return list(bad) or _in_the_way(view, pairs, chosen, scheme)


def _in_the_way(
    view: View, pairs: Pairs, chosen: Mapping[int, int], scheme: Scheme | None
) -> list[tuple[int, int]]:
    """The pairs that something stands against once all of the plan is given: keys of the plan beside each
    other, and guards. The command that is used most keeps its key."""
    if scheme is None or not chosen:
        return []
    after = scheme
    for i, j in chosen.items():
        command = pairs.demands[i].command
        modes = command.modes or (ROOT,)
        instead = bool(pairs.had[i])
        after = give(after, command.id, pairs.runs[j], modes, instead=instead)
    there = View(view.stack.with_scheme(after), view.keyboard, view.weights, view.hand, view.across)
    bad = [
        (i, j)
        for i, j in sorted(chosen.items(), key=lambda pair: -pairs.demands[pair[0]].a_week)
        if not judged(there, pairs, i, j, after, effects=False).clean
        or _has_more(there, pairs, i, j)
    ]
    if not bad and broken_guards(view.keymap, there.keymap):
        bad = list(chosen.items())
    return bad[1:] or bad


def _has_more(there: View, pairs: Pairs, i: int, j: int) -> bool:
    """Whether a command has other keys besides that of the plan: some that came to light by it."""
    live = live_triggers(there.keymap, pairs.demands[i].command.id)
    return bool(set(live) - {pairs.runs[j]})


def _pairs(view: View, demands: tuple[Demand, ...], times: Times, hand: str) -> Pairs:
    import numpy as np

    tree = view.app.modes
    modes = tuple(frozenset(tree.inside(w.command.modes or (ROOT,))) for w in demands)
    free = {inside: _free_in(view, inside) for inside in set(modes)}
    runs = _worth_trying(view, {run for found in free.values() for run in found}, demands, hand)
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
        habit = times.learn / SPREAD if had[i] else 0.0
        now.append(demand.a_week * _now(view, demand, times))
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


def _now(view: View, demand: Demand, times: Times) -> float:
    """What one use takes: by the best of its keys or its menu, or as it was counted where it has no key."""
    menu = menu_cost(view.app, demand.command.id, times).seconds
    has = pressable(view, view.keymap, demand.command.id)
    if not has:
        if demand.now is None:
            return menu
        return demand.now
    keys = (press_cost(view.keyboard, run, times, view.weights, view.hand) for run in has)
    return min([menu, *(each.seconds for each in keys)])


def _free_in(view: View, inside: frozenset[str]) -> set[Run]:
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
    for name in across.keymaps if purpose else ():
        for other in purpose.commands(name) if name != view.app.name else ():
            keymap = across.keymaps[name]
            for run in live_triggers(keymap, other):
                found.setdefault(view.keyboard.press_of(run), keymap.app.title)
    return found


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
    one, other = pairs.demands[i].command, pairs.demands[k].command
    return bool(one.menu) and one.menu == other.menu


def _bonus(pairs: Pairs, i: int, k: int, times: Times) -> float:
    """What it is worth a week that two siblings lie side by side."""
    often = min(pairs.demands[i].a_week, pairs.demands[k].a_week)
    return often * times.key * SIDE_BY_SIDE / times.strokes


def _cost(view: View, pairs: Pairs, chosen: Mapping[int, int], times: Times) -> float:
    """What a plan costs with all that speaks for and against its keys."""
    total = 0.0
    for i in range(len(pairs.demands)):
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


def _suggestion(pairs: Pairs, i: int, j: int) -> Suggestion:
    demand = pairs.demands[i]
    saves = pairs.now[i] - float(pairs.seconds[i, j])
    return Suggestion(
        command=demand.command,
        trigger=pairs.runs[j],
        a_week=demand.a_week,
        saves=saves,
        offer=pairs.offers[i, j],
        had=pairs.had[i],
    )


def _left(pairs: Pairs, chosen: Mapping[int, int], stopped: Mapping[int, str]) -> Iterable[LeftOut]:
    for i, demand in enumerate(pairs.demands):
        if i in chosen:
            continue
        if i in stopped:
            yield LeftOut(demand.command, stopped[i], pairs.had[i])
        elif pairs.had[i]:
            yield LeftOut(demand.command, NO_BETTER, pairs.had[i])
        else:
            yield LeftOut(demand.command, MENU if len(pairs.runs) else NONE_FREE)
