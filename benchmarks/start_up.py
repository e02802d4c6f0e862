"""How long everyday commands take on the demo desk, against the bare interpreter.

Usage: python benchmarks/start_up.py [ROUNDS]

A check is measured of a desk as it was at the last one, and (without an aim) with nothing kept of that.
Runs each command and ``python -c pass`` in turn, ROUNDS times (15), with the interpreter that
runs this script and has Olive Compass installed (not in editable mode, so that its modules are
compiled). Prints the medians in milliseconds and their ratio, and exits 1 where an aim is missed.
"""

import os
import statistics
import subprocess
import sys
import tempfile
import time

COMMANDS = {
    "find": (["find", "smooth"], 5),
    "find --unassigned": (["find", "--unassigned"], 5),
    "press": (["press", "quillmap", "S", "--mode", "draw"], 5),
    "check": (["check"], 5),
    "check, anew": (["check"], 0),
    "free": (["free", "quillmap"], 6),
    "sheet": (["sheet", "quillmap"], 6),
    "--help": (["--help"], 4),
    "assign": (["assign", "quillmap", "Trim to neat line", "F10", "--why", "x"], 5),
    "undo": (["undo"], 6),
}


def main() -> int:
    rounds = int(sys.argv[1]) if len(sys.argv) > 1 else 15
    program = [os.path.join(os.path.dirname(sys.executable), "olive-compass")]
    with tempfile.TemporaryDirectory() as folder:
        desk = os.path.join(folder, "desk")
        subprocess.run([*program, "demo", desk, "--quiet"], check=True)
        for words in (
            ["app", "add", "Tagwright", "--from", f"{desk}/listings/tagwright-keys.csv"],
            ["scheme", "new", "quillmap/mine"],
            ["assign", "quillmap", "Spot height", "Q", "--why", "x"],
        ):
            subprocess.run([*program, *words, "--desk", desk, "--quiet"], check=True)
        times: dict[str, list[float]] = {name: [] for name in ["bare", *COMMANDS]}
        for _ in range(rounds):
            times["bare"].append(_timed([sys.executable, "-c", "pass"], desk))
            for name, (words, _limit) in COMMANDS.items():
                times[name].append(_timed([*program, *words], desk, name.endswith("anew")))
    bare = statistics.median(times["bare"])
    print(f"{'command':<20}{'ms':>8}{'ratio':>8}{'aim':>6}")
    print(f"{'python -c pass':<20}{bare:8.1f}")
    missed = False
    for name, (_words, limit) in COMMANDS.items():
        median = statistics.median(times[name])
        missed = missed or median > (limit or 99) * bare
        print(f"{name:<20}{median:8.1f}{median / bare:8.2f}{limit or '':6}")
    return 1 if missed else 0


def _timed(command: list[str], folder: str, anew: bool = False) -> float:
    environ = {**os.environ, "OLIVE_COMPASS_CACHE": ""} if anew else None
    begun = time.perf_counter()
    subprocess.run(
        command, cwd=folder, env=environ, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
    )
    return (time.perf_counter() - begun) * 1000


if __name__ == "__main__":
    raise SystemExit(main())
