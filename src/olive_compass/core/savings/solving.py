"""The cheapest plan of triggers for commands: an assignment where none conflict, else an integer programme."""

from collections.abc import Mapping, Sequence
from itertools import combinations
from typing import Any

from msgspec import Struct

from olive_compass.core.apps.app import Command
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.offers import Offer
from olive_compass.core.schemes.verdicts import Verdict, verdict, without_full
from olive_compass.core.schemes.view import View

#: As many pairs at most are solved as a mixed-integer programme.
SMALL = 15_000


#: How long that may take, in seconds.
PATIENCE = 3.0


class Demand(Struct, frozen=True):
    """A command that is to have a key, how often a week it is used, and what one use takes now on the
    average, in seconds (None: its menu)."""

    command: Command
    a_week: float
    now: float | None = None


class Pairs(Struct, frozen=True, kw_only=True):
    """Each demand with each trigger: what it costs, in seconds a week, with what speaks for and against the
    trigger (``cost``; infinite: it cannot be), and what its presses take (``seconds``).

    ``now`` is what each demand takes as things are, ``alone`` what that counts as beside ``cost``: never less
    than a key that is quicker, whatever speaks against it.
    """

    demands: tuple[Demand, ...]
    runs: tuple[Run, ...]
    cost: Any
    seconds: Any
    alone: tuple[float, ...]
    now: tuple[float, ...]
    offers: Mapping[tuple[int, int], Offer]
    modes: tuple[frozenset[str], ...]
    had: tuple[tuple[Run, ...], ...]


def solve(pairs: Pairs) -> dict[int, int]:
    """The cheapest assignment: the number of a trigger for that of a demand."""
    if any(not a & b for a, b in combinations(set(pairs.modes), 2)):
        rows, columns = pairs.cost.shape
        if rows * min(rows, columns) <= SMALL:
            found = programme(pairs)
            if found is not None:
                return found
    return cheapest(pairs.cost, pairs.alone, 1)[0]


def cheapest(cost: Any, alone: Sequence[float], copies: int) -> tuple[dict[int, int], float]:
    """The cheapest matching where ``copies`` rows may have one column, or none at the price of ``alone``."""
    import numpy as np
    from scipy.optimize import linear_sum_assignment

    rows = len(alone)
    if not rows:
        return {}, 0.0
    if np.size(cost):
        known = np.asarray(cost, dtype=float).reshape(rows, -1)
    else:
        known = np.empty((rows, 0))
    columns = known.shape[1]
    none = np.full((rows, rows), np.inf)
    np.fill_diagonal(none, alone)
    table = np.hstack([*([known] * copies), none])
    large = 1e12
    table = np.where(np.isfinite(table), table, large)
    picked_rows, picked = linear_sum_assignment(table)
    total = float(table[picked_rows, picked].sum())
    width = columns * copies
    chosen = {
        int(i): int(j) % columns
        for i, j in zip(picked_rows, picked, strict=True)
        if j < width and columns and table[i, j] < large
    }
    return chosen, total


def programme(pairs: Pairs) -> dict[int, int] | None:
    """The same as a mixed-integer programme: in each mode a trigger has one command at most."""
    import numpy as np
    from scipy.optimize import Bounds, LinearConstraint, milp
    from scipy.sparse import lil_matrix

    rows = len(pairs.demands)
    # The others can take so many triggers from a command and no more: one of its cheapest is left.
    order = np.argsort(pairs.cost, axis=1, kind="stable")[:, :rows]
    places = [
        (i, int(j)) for i in range(rows) for j in order[i] if np.isfinite(pairs.cost[i, int(j)])
    ]
    if not places:
        return {}
    costs = [*(pairs.cost[i, j] for i, j in places), *pairs.alone]
    once = lil_matrix((rows, len(costs)))
    for n, (i, _) in enumerate(places):
        once[i, n] = 1
    for i in range(rows):
        once[i, len(places) + i] = 1
    unique = _rivals(pairs, places)
    apart = lil_matrix((max(len(unique), 1), len(costs)))
    for n, numbers in enumerate(sorted(unique)):
        apart[n, list(numbers)] = 1
    found = milp(
        np.array(costs),
        constraints=[
            LinearConstraint(once.tocsr(), 1, 1),
            LinearConstraint(apart.tocsr(), -np.inf, 1),
        ],
        integrality=np.ones(len(costs)),
        bounds=Bounds(0, 1),
        options={"time_limit": PATIENCE},
    )
    if found.x is None:
        return None
    return {i: j for n, (i, j) in enumerate(places) if found.x[n] > 0.5}


def apart(modes: tuple[frozenset[str], ...]) -> int:
    """No more commands than these can share a trigger: so many modes at most exclude each other."""
    return max(len({mode for each in modes for mode in each}), 1)


def forbidden(
    view: View, pairs: Pairs, chosen: Mapping[int, int], scheme: Scheme | None
) -> dict[tuple[int, int], Verdict]:
    """The pairs of a plan that something stands against, each by itself."""
    bad = {}
    for i, j in chosen.items():
        found = judged(view, pairs, i, j, scheme)
        if not found.clean:
            bad[i, j] = found
    return bad


def judged(
    view: View, pairs: Pairs, i: int, j: int, scheme: Scheme | None, effects: bool = True
) -> Verdict:
    """The objections to a pair: a key that takes the place of others is never one too many."""
    command = pairs.demands[i].command
    modes = command.usable_in
    found = verdict(view, command, pairs.runs[j], modes, scheme, effects=effects)
    if pairs.had[i]:
        return without_full(found, scheme)
    return found


def _rivals(pairs: Pairs, places: Sequence[tuple[int, int]]) -> set[tuple[int, ...]]:
    """The places (by their numbers) of which only one can be had, for they are one trigger in one mode."""
    limits: dict[tuple[int, str], list[int]] = {}
    for n, (i, j) in enumerate(places):
        for mode in pairs.modes[i]:
            limits.setdefault((j, mode), []).append(n)
    return {tuple(numbers) for numbers in limits.values() if len(numbers) > 1}
