"""Suggested plans beside one command after another and a random search, on made-up desks.

Usage: python -m benchmarks.suggestions [SECONDS of random search] [DESKS]
"""

import random
import sys
import time

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.changes.view import AppView
from olive_compass.core.savings.model import DEFAULT
from olive_compass.core.savings.solving import Demand
from olive_compass.core.savings.suggestable import suggestable
from olive_compass.core.savings.suggesting import suggest
from olive_compass.core.schemes.claims import Stack
from olive_compass.desk.keyboards import load

WORDS = [
    "Buoy",
    "Beacon",
    "Wreck",
    "Shoal",
    "Light",
    "Mole",
    "Quay",
    "Ferry",
    "Marsh",
    "Weir",
    "Cairn",
    "Ford",
    "Gate",
    "Hedge",
    "Inlet",
    "Jetty",
]


def desk(seed: int, number: int) -> tuple[AppView, list[Demand]]:
    """A made-up application of so many commands without keys; every other one has modes."""
    draw = random.Random(seed)
    modes = [(), ("draw",), ("text",)] if seed % 2 else [()]
    commands = tuple(
        Command(
            id=f"c.{n}",
            title=f"{draw.choice(WORDS)} {draw.choice(WORDS).lower()} {n}",
            menu=(draw.choice(["Draw", "Edit", "View"]), draw.choice(["One", "Two", "Three"])),
            keys=(),
            modes=draw.choice(modes),
        )
        for n in range(number)
    )
    tree = ModeTree({"draw": "everywhere", "text": "everywhere"})
    app = App(
        name="app",
        title="App",
        version="1",
        modes=tree,
        rules=Rules(),
        catalogue=Catalogue(commands),
    )
    view = AppView(Stack(app), load(".", "pc", "ansi-104", "us"))
    return view, [Demand(each, float(draw.randrange(1, 60))) for each in commands]


def one_by_one(
    table: list[dict[int, float]], order: list[int], apart: list[frozenset[str]]
) -> float:
    """What it costs to give the best key that is left to one command after another, in this order."""
    taken: dict[int, set[str]] = {}
    total = 0.0
    for i in order:
        free = [(c, j) for j, c in table[i].items() if not taken.get(j, set()) & apart[i]]
        cost, j = min(free)
        taken.setdefault(j, set()).update(apart[i])
        total += cost
    return total


def main(seconds: float, desks: int) -> None:
    worse = 0
    for seed in range(desks):
        view, demands = desk(seed, 30)
        pairs = suggestable(view, tuple(demands), DEFAULT, "")
        table = [{j: float(c) for j, c in enumerate(row) if c < float("inf")} for row in pairs.cost]
        plan = suggest(view, demands, DEFAULT)
        order = sorted(range(len(demands)), key=lambda i: -demands[i].a_week)
        greedy = one_by_one(table, order, list(pairs.modes))
        best, until, draw = greedy, time.monotonic() + seconds, random.Random(seed)
        while time.monotonic() < until:
            tried = order[:]
            for _ in range(draw.randrange(1, 6)):
                a, b = draw.sample(range(len(tried)), 2)
                tried[a], tried[b] = tried[b], tried[a]
            best = min(best, one_by_one(table, tried, list(pairs.modes)))
        worse += plan.weighed > best + 1e-6
        print(
            f"desk {seed}: plan {plan.weighed:.1f} ({plan.cost:.1f} s, none below {plan.bound:.1f} s), "
            f"one by one {greedy:.1f}, random search {best:.1f}"
        )
    view, demands = desk(100, 500)
    begun = time.perf_counter()
    plan = suggest(view, demands, DEFAULT)
    took = time.perf_counter() - begun
    keys = len({s.trigger for s in plan.suggestions})
    print(f"500 commands, {keys} keys given: {took:.1f} s, gap {plan.gap:.2%}")
    if worse or took > 5:
        raise SystemExit(f"missed: worse on {worse} desks, {took:.1f} s, gap {plan.gap:.2%}")


if __name__ == "__main__":
    main(
        float(sys.argv[1]) if len(sys.argv) > 1 else 60,
        int(sys.argv[2]) if len(sys.argv) > 2 else 20,
    )
