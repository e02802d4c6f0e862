"""What the benchmarks of time and memory share: desks of any size, commands that take turns, and rows with a goal."""

import os
import random
import subprocess
import time
from collections.abc import Iterable, Mapping, Sequence
from pathlib import Path

from msgspec import Struct

APPS = 10

MODES = ("draw", "vertex", "label")


class Row(Struct, frozen=True, kw_only=True):
    """What was measured: a figure that may be ``goal`` at most, and what it comes from in words; ``in_``: its unit."""

    name: str
    figure: float
    goal: float
    of: str
    in_: str = ""

    @property
    def missed(self) -> bool:
        return self.figure > self.goal


def tell(rows: Iterable[Row]) -> int:
    """Prints each row as it comes; returns 1 where a goal is missed."""
    status = 0
    for row in rows:
        status |= row.missed
        missed = "   missed" if row.missed else ""
        figure = f"{row.figure:.2f}{row.in_}"
        print(
            f"{row.name:<44}{figure:>11}   goal {row.goal:g}{row.in_}   {row.of}{missed}",
            flush=True,
        )
    return status


def lay_out(desk: str, size: int) -> None:
    """Writes a desk of ``size`` commands with keys as crowded as real ones."""
    draw = random.Random(size)
    write(desk, "desk.toml", 'format = "olive-compass-desk/1"\nname = "Growth"\n')
    for app in range(APPS):
        rows = ["# olive-compass-commands/1", "id,title,menu,keys,modes,kind,does"]
        scheme = ['format = "olive-compass-scheme/1"', f'app = "app{app}"', "", "[assign]"]
        for n in range(size // APPS):
            key = "" if draw.random() < 0.4 else trigger(draw, size)
            mode = draw.choice(["", *MODES])
            rows.append(
                f"menu.command-{n},Smooth {n},Menu {n % 30} > Part {n % 7},{key},{mode},command,"
            )
            if draw.random() < 0.2:
                scheme.append(
                    f'"menu.command-{n}" = {{ keys = ["{trigger(draw, size)}"], modes = ["draw"] }}'
                )
        write(desk, f"apps/app{app}/commands.csv", "\n".join(rows) + "\n")
        modes = "".join(f'{mode} = "everywhere"\n' for mode in MODES)
        rules = "\n[rules]\nlongest-sequence = 4\ntyped-sequences = true\n"
        write(
            desk,
            f"apps/app{app}/app.toml",
            f'format = "olive-compass-app/1"\n[modes]\n{modes}{rules}',
        )
        write(desk, f"schemes/app{app}/mine.toml", "\n".join(scheme) + "\n")


def trigger(draw: random.Random, size: int) -> str:
    """A stroke; on large desks runs, for no keyboard has so many strokes."""
    letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZ"
    if size <= 1000:
        return draw.choice(["Ctrl+", "Alt+", "Ctrl+Shift+", "Alt+Shift+"]) + draw.choice(letters)
    return " ".join(draw.choice(letters) for _ in range(3 if size <= 10_000 else 4))


def write(desk: str, path: str, text: str) -> None:
    whole = os.path.join(desk, path)
    os.makedirs(os.path.dirname(whole), exist_ok=True)
    with open(whole, "w", encoding="utf-8") as file:
        file.write(text)


def in_turn(
    commands: Mapping[str, list[str]],
    desk: str,
    rounds: int = 3,
    clean: Sequence[str] = (),
    of_processor: bool = False,
) -> dict[str, tuple[float, float]]:
    """Seconds (by the clock, or of the processor) and peak memory in MB of each command: the best of its runs, which
    take turns.

    Nothing is kept from one run to the next, but for commands whose name begins with ``kept``; the files ``clean`` are
    removed before each.
    """
    anew = {**os.environ, "OLIVE_COMPASS_CACHE": ""}
    kept = {**os.environ, "OLIVE_COMPASS_CACHE": os.path.join(os.path.dirname(desk), "cache")}
    best = dict.fromkeys(commands, (float("inf"), 0.0))
    for _ in range(rounds):
        for name, command in commands.items():
            for file in clean:
                Path(desk, file).unlink(missing_ok=True)
            begun = time.perf_counter()
            environ = kept if name.startswith("kept") else anew
            with subprocess.Popen(
                command, cwd=desk, env=environ, stdout=subprocess.DEVNULL
            ) as process:
                _, _, usage = os.wait4(process.pid, 0)
            took = usage.ru_utime + usage.ru_stime if of_processor else time.perf_counter() - begun
            best[name] = min(best[name], (took, usage.ru_maxrss / 1024))
    return best
