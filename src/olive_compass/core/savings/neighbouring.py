"""A plan of keys made better by swaps: keys of one menu lie side by side."""

from collections.abc import Iterable, Mapping
from itertools import combinations

from olive_compass.core.effort.reach import distance
from olive_compass.core.keys.triggers import Run
from olive_compass.core.savings.model import Times
from olive_compass.core.savings.solving import Pairs, forbidden
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.view import View

#: What lying side by side with a sibling that gets its key in the same plan is worth, in home strokes. It is
#: to break ties, not to outweigh reach: our own choice.
SIDE_BY_SIDE = 0.1


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


def plan_cost(view: View, pairs: Pairs, chosen: Mapping[int, int], times: Times) -> float:
    """What a plan costs with all that speaks for and against its keys."""
    total = 0.0
    for i in range(len(pairs.demands)):
        j = chosen.get(i)
        if j is None:
            total += pairs.alone[i]
        else:
            total += float(pairs.cost[i, j])
    for i, k in combinations(chosen, 2):
        if _family(pairs, i, k) and _beside(view, pairs.runs[chosen[i]], pairs.runs[chosen[k]]):
            total -= _bonus(pairs, i, k, times)
    return total


def moved_together(
    view: View, pairs: Pairs, chosen: dict[int, int], times: Times, scheme: Scheme | None
) -> dict[int, int]:
    """The plan with siblings swapped or moved side by side where that is cheaper."""
    if not any(_family(pairs, i, k) for i, k in combinations(chosen, 2)) or len(chosen) > 60:
        return chosen
    now = plan_cost(view, pairs, chosen, times)
    better = True
    while better:
        better = False
        for tried in _neighbours(pairs, chosen):
            cost = plan_cost(view, pairs, tried, times)
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
        cheap = ()
        if family:
            cheap = pairs.cost[i].argsort()[:12]
        for j in map(int, cheap):
            if j not in taken and pairs.cost[i, j] < float("inf"):
                yield {**chosen, i: j}
