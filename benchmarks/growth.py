"""Time and memory of commands on desks of growing size, against a pandas script.

Usage: python -m benchmarks.growth [SIZE ...]      (1000 10000 100000 commands)

Each desk has ten applications with a personal scheme each (one decision to five commands). The
pandas script reads the same catalogues and lists the keys that stand twice in one mode. All of them take
turns. Prints seconds, peak memory in MB, and the ratios; exits 1 where ten times the size takes more
than eleven times as long.
"""

import os
import random
import subprocess
import sys
import tempfile
import time
from collections.abc import Mapping, Sequence
from itertools import pairwise
from pathlib import Path

from olive_compass.desk.storage.history import History
from olive_compass.desk.storage.records import FileChange, text_of
from olive_compass.structs import replace

APPS = 10

#: Ten times the size may take eleven times as long.
MOST_GROWTH = 1.1

#: What a change of a scheme of 4 KB may weigh, in bytes; and by how much more of the history may slow redo.
MOST_WEIGHT, FLAT = 1000, 1.3

#: The memory that a merge of 10,000 decisions may take, in MB.
MOST_MEMORY = 80

MODES = ("draw", "vertex", "label")

PANDAS = """
import sys, glob
import pandas as pd
frames = [pd.read_csv(path, skiprows=1).assign(app=path) for path in glob.glob("apps/*/commands.csv")]
table = pd.concat(frames)
table["keys"] = table["keys"].fillna("").str.split(" or ")
table["modes"] = table["modes"].fillna("everywhere").str.split(" ")
keys = table.explode("keys").explode("modes")
keys = keys[keys["keys"] != ""]
twice = keys[keys.duplicated(["app", "modes", "keys"], keep=False)].sort_values(["app", "keys"])
twice.to_csv(sys.stdout)
"""


def main() -> int:
    sizes = [int(size) for size in sys.argv[1:]] or [1000, 10_000, 100_000]
    program = os.path.join(os.path.dirname(sys.executable), "olive-compass")
    print(f"{'commands':>9} {'what':<10}{'seconds':>9}{'MB':>7}{'of pandas':>11}{'us each':>9}")
    seconds: dict[tuple[str, int], float] = {}
    for size in sizes:
        with tempfile.TemporaryDirectory() as desk:
            lay_out(desk, size)
            commands = {
                "pandas": [sys.executable, "-c", PANDAS],
                "check": [program, "check", "--json"],
                "check APP": [program, "check", "app0", "--json"],
                "find": [program, "find", "smooth 77"],
                "worklist": [program, "worklist", "app0", "--json"],
                "page": [program, "page", "--out", os.path.join(desk, "page.html"), "--json"],
                "guess": [program, "purpose", "guess", "--json"],
            }
            found = in_turn(commands, desk, clean=("page.html",))
        for name, (took, peak) in found.items():
            seconds[name, size] = took
            ratio = took / found["pandas"][0]
            print(
                f"{size:>9} {name:<10}{took:9.2f}{peak:7.0f}{ratio:11.2f}{took / size * 1e6:9.1f}"
            )
    missed = [
        f"{name}: {large / small:.1f} times the time for {more // fewer} times the commands"
        for fewer, more in pairwise(sizes)
        for name in ("check", "check APP", "find", "worklist", "page", "guess")
        for small, large in [(seconds[name, fewer], seconds[name, more])]
        if large / small > MOST_GROWTH * more / fewer
    ]
    missed += macros_missed(program)
    missed += history_missed(program)
    missed += merges_missed(program)
    for line in missed:
        print(f"missed: {line}")
    return 1 if missed else 0


def macros_missed(program: str) -> list[str]:
    """Checks an application with 100 and with 1,000 macros that no key starts; says where that grows too much."""
    seconds = []
    for count in (100, 1000):
        with tempfile.TemporaryDirectory() as desk:
            lay_out(desk, 1000)
            for n in range(count):
                write(desk, f"macros/app0/macro-{n}.toml", MACRO.format(n=n, command=n % 100))
            found = in_turn({"check": [program, "check", "app0", "--json"]}, desk)
        seconds.append(found["check"][0])
        print(f"{count:>9} macros, check{seconds[-1]:9.2f}")
    times = seconds[1] / seconds[0]
    return [f"macros: {times:.1f} times the time for 10 times as many"] if times > 11 else []


def history_missed(program: str) -> list[str]:
    """What a change of a scheme of 4 KB weighs, and redo after 1,000 and after 10,000 changes; says what is too much."""
    missed, seconds = [], []
    for count in (1000, 10_000):
        with tempfile.TemporaryDirectory() as desk:
            lay_out(desk, 1000)
            history = History(desk)
            weight = changed(history, 100)
            newest = history.record(100)
            for number in range(101, count):
                Path(history.path_of(number)).write_bytes(text_of(replace(newest, number=number)))
            done = subprocess.run([program, "undo"], cwd=desk, stdout=subprocess.DEVNULL)
            assert done.returncode == 0
            found = in_turn({"redo": [program, "redo", "--dry-run"]}, desk)
        seconds.append(found["redo"][0])
        print(
            f"{count:>9} changes, redo{seconds[-1]:9.2f}{found['redo'][1]:7.0f}   {weight} bytes each"
        )
        missed += [f"history: {weight} bytes a change"] if weight > MOST_WEIGHT else []
    times = seconds[1] / seconds[0]
    return missed + ([f"redo: {times:.1f} times the time"] if times > FLAT else [])


def changed(history: History, count: int) -> int:
    """Changes a scheme of 4 KB so often, a line each time; what each change weighs, in bytes."""
    lines = [f"# {n:03}: a decision about something, and why it was made\n" for n in range(75)]
    before = None
    for number in range(1, count + 1):
        lines[number % 75] = f"# {number:03}: another decision about something\n"
        after = "".join(lines).encode()
        history.save(
            [FileChange("schemes/app0/notes.txt", before, after)],
            what="App 0: Smooth got Ctrl+K in draw",
            why="one key in all of them",
            command="assign app0 Smooth Ctrl+K --mode draw",
            who="Runa",
            when="2026-10-05T09:00:00+00:00",
        )
        before = after
    sizes = [os.path.getsize(history.path_of(number)) for number in history.numbers()[1:]]
    return sum(sizes) // len(sizes)


def merges_missed(program: str) -> list[str]:
    """Merges schemes of 1,000 and of 10,000 decisions, a tenth of which each side has changed; says what is too much."""
    seconds, missed = [], []
    for count in (1000, 10_000):
        with tempfile.TemporaryDirectory() as folder:
            for side, changed_ones in (("base", -1), ("ours", 3), ("theirs", 7)):
                write(folder, f"{side}.toml", scheme_text(count, changed_ones))
            merge = [program, "merge", "base.toml", "ours.toml", "theirs.toml", "--out", "new.toml"]
            took, peak = in_turn({"merge": merge}, folder, clean=("new.toml",))["merge"]
        seconds.append(took)
        print(f"{count:>9} decisions, merge{took:7.2f}{peak:7.0f}")
        missed += [f"merge: {peak:.0f} MB"] if peak > MOST_MEMORY else []
    times = seconds[1] / seconds[0]
    return missed + ([f"merge: {times:.1f} times the time"] if times > 10 else [])


def scheme_text(count: int, changed_ones: int) -> str:
    """A scheme of so many decisions; every tenth has another reason, beginning at ``changed_ones`` (-1: none)."""
    lines = ['format = "olive-compass-scheme/1"', 'app = "app0"', "", "[assign]"]
    for n in range(count):
        why = "another reason" if n % 10 == changed_ones else "a reason"
        key = f"Ctrl+{chr(65 + n % 26)} {chr(65 + n // 26 % 26)} {chr(65 + n // 676 % 26)}"
        lines.append(f'"menu.command-{n}" = {{ keys = ["{key}"], why = "{why}" }}')
    return "\n".join(lines) + "\n"


MACRO = """format = "olive-compass-macro/1"
app = "app0"
title = "Macro {n}"

[[steps]]
command = "menu.command-{command}"
"""


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


if __name__ == "__main__":
    raise SystemExit(main())
