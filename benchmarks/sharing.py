"""Applies a key set of 200 purposes to 50 applications, against reading the desk.

Usage: python -m benchmarks.sharing [APPS COMMANDS]      (50 20000)

The desk is that of ``conflicts.py`` with purposes linked in every application. Reading the desk is
``find`` with a word that no command has, which reads every catalogue and scheme. Both are run in
turn, three times each; then merging and comparing on schemes of growing size, in one process, in
microseconds a decision. Prints the best of each, peak memory in MB, and the ratio.
"""

import os
import sys
import tempfile
import time

from benchmarks.conflicts import lay_out
from benchmarks.measuring import in_turn, write
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.schemes.decisions import Assignment, Scheme
from olive_compass.core.sharing.comparing_schemes import compare_schemes
from olive_compass.core.sharing.merging import merge

PURPOSES = 200


def main() -> int:
    apps, size = (int(n) for n in sys.argv[1:3]) if len(sys.argv) > 2 else (50, 20_000)
    program = os.path.join(os.path.dirname(sys.executable), "olive-compass")
    with tempfile.TemporaryDirectory() as desk:
        lay_out(desk, apps, size, "plain")
        with_set(desk, apps)
        commands = {
            "reading": [program, "find", "xyzzy"],
            "applying": [program, "keyset", "apply", "big", "--dry-run", "--json"],
        }
        reading, applying = in_turn(commands, desk).values()
    print(f"{apps} applications, {size} commands, a set of {PURPOSES} purposes")
    print(f"reading  {reading[0]:6.2f} s {reading[1]:6.0f} MB")
    ratio = applying[0] / reading[0]
    print(f"applying {applying[0]:6.2f} s {applying[1]:6.0f} MB, {ratio:.1f} times reading")
    print(f"{'decisions':>9} {'compare':>9} {'merge':>9}  microseconds each")
    for count in (1_000, 10_000, 100_000):
        times = [each / count * 1e6 for each in growth(count)]
        print(f"{count:>9} {times[0]:9.1f} {times[1]:9.1f}")
    return 0


def with_set(desk: str, apps: int) -> None:
    """Purposes that the first commands of every application serve, and a key set for them."""
    names = [f"app{n}" for n in range(apps)]
    rows = [
        "# olive-compass-purposes/1",
        ",".join(("id", "title", "group", "risk", "names", *names)),
    ]
    lines = ['format = "olive-compass-keyset/1"', 'title = "Big"', "", "[keys]"]
    for n in range(PURPOSES):
        links = ",".join([f"menu.command-{n}"] * apps)
        rows.append(f"p{n},Purpose {n},all,harmless,,{links}")
        held = ("Ctrl", "Ctrl+Shift", "Alt", "Ctrl+Alt")[n % 4]
        key = f"F{n // 4 % 12 + 1}" if n < 96 else "ABCDEFGHIJKLMNOPQRSTUVWXYZ"[(n - 96) // 4 % 26]
        lines.append(f'p{n} = ["{held}+{key}", "G {"ABCDEFGHIJ"[n % 10]}"]')
    write(desk, "purposes.csv", "\n".join(rows) + "\n")
    write(desk, "keysets/big.toml", "\n".join(lines) + "\n")


def growth(count: int) -> tuple[float, float]:
    """The seconds that comparing and merging two schemes of ``count`` decisions take."""
    keys = [read_trigger(f"Ctrl+F{n}") for n in range(1, 13)]
    one = {f"c{n}": (Assignment(keys=(keys[n % 12],)),) for n in range(count)}
    other = {f"c{n}": (Assignment(keys=(keys[n % 11],)),) for n in range(count)}
    started = time.perf_counter()
    compare_schemes(Scheme(app="a", name="x", assign=one), Scheme(app="a", name="x", assign=other))
    compared = time.perf_counter()
    merge(one, other, {**one, **other})
    return compared - started, time.perf_counter() - compared


if __name__ == "__main__":
    raise SystemExit(main())
