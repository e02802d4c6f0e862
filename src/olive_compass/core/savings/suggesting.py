"""Which keys to give to many commands at once: the cheapest plan, with a proven lower bound.

What a plan makes least is what its presses take a week by the keystroke-level model (``model.press_cost``, as
``savings_of_keys`` counts it), with what speaks for and against each key beyond that (``Offer.liking``) as home strokes.
Only keys that save time are proposed, and the promise is in seconds alone. The assignment of commands to
triggers is solved by ``scipy``; where modes let two commands share a trigger, as a mixed-integer programme.
Siblings that come to lie side by side are found by local search on top.
"""

from collections.abc import Iterable, Mapping

from msgspec import Struct

from olive_compass.core.apps.app import Command
from olive_compass.core.keys.triggers import Run
from olive_compass.core.savings.least import least
from olive_compass.core.savings.model import Times
from olive_compass.core.savings.neighbouring import moved_together, plan_cost
from olive_compass.core.savings.solving import Demand, Pairs, forbidden, judged, solve
from olive_compass.core.savings.suggestable import free_in, suggestable, takes_now
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.editing import give
from olive_compass.core.schemes.guards import broken_guards
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.offers import Offer
from olive_compass.core.schemes.view import View

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
    pairs = suggestable(view, wanted, times, hand)
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
    sorted_out = moved_together(view, pairs, chosen, times, scheme)
    if not _in_the_way(view, pairs, sorted_out, scheme):
        chosen = sorted_out
    seconds = sum(
        float(pairs.seconds[i, chosen[i]]) if i in chosen else now
        for i, now in enumerate(pairs.now)
    )
    each_now = [takes_now(view, demand, times) for demand in wanted]
    return Plan(
        suggestions=tuple(_suggestion(pairs, i, j) for i, j in sorted(chosen.items())),
        left=(*left, *_left(pairs, chosen, stopped)),
        cost=seconds,
        now=sum(pairs.now),
        bound=min(least(view, wanted, each_now, times), seconds),
        weighed=plan_cost(view, pairs, chosen, times),
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
    inside = frozenset(view.app.modes.inside(command.usable_in))
    another = next((run for run in sorted(free_in(view, inside), key=str) if run not in has), None)
    if another is None:
        return ""
    after = give(scheme, command.id, another, command.usable_in, instead=True)
    keymap = Keymap(view.stack.with_scheme(after), view.keyboard)
    if broken_guards(view.keymap, keymap):
        return GUARDED
    if set(live_triggers(keymap, command.id)) & set(has):
        return SOME_STAY
    return ""


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
        modes = command.usable_in
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
