"""How long everyday commands take on the demo desk, against the bare interpreter.

Usage: python -m benchmarks.start_up [--instructions] [ROUNDS]

Runs each command and ``python -c pass`` in turn, ROUNDS times (15), with the interpreter that
runs this script and has Olive Compass installed (not in editable mode, so that its modules are
compiled; and without the test extras, for ``rich`` imports more where they are). Prints the medians in
milliseconds and their ratio. With ``--instructions`` it counts them instead, once, with valgrind's callgrind:
the same figure each time, whatever else the machine does. Exits 1 where a goal is missed.

``check`` is measured of a desk as it was at the last one, and once with nothing kept of that.
"""

import os
import re
import statistics
import subprocess
import sys
import tempfile
import time

#: What is typed, and how many bare interpreters it may take.
COMMANDS = {
    "find": (["find", "smooth"], 6.6),
    "find --unassigned": (["find", "--unassigned"], 6.6),
    "press": (["press", "quillmap", "S", "--mode", "draw"], 6.6),
    "check": (["check"], 6.6),
    "check, nothing kept": (["check"], 11),
    "free": (["free", "quillmap"], 7.6),
    "sheet": (["sheet", "quillmap"], 7.6),
    "--help": (["--help"], 4),
    "a TAB": (["press quil"], 6),
    "assign": (["assign", "quillmap", "Trim to neat line", "F10", "--why", "x"], 7.6),
    "undo": (["undo"], 7.6),
}


def main() -> int:
    options = sys.argv[1:]
    counting = "--instructions" in options
    numbers = [int(each) for each in options if each.isdigit()]
    rounds = 1 if counting else (numbers or [15])[0]
    measured = _instructions if counting else _milliseconds
    program = [sys.executable, os.path.join(os.path.dirname(sys.executable), "olive-compass")]
    with tempfile.TemporaryDirectory() as folder:
        desk = os.path.join(folder, "desk")
        os.environ["OLIVE_COMPASS_CACHE"] = os.path.join(folder, "cache")
        _lay_out(program, desk)
        found: dict[str, list[float]] = {name: [] for name in ["bare", *COMMANDS]}
        for _ in range(rounds):
            found["bare"].append(measured([sys.executable, "-c", "pass"], desk, {}))
            for name, (words, _limit) in COMMANDS.items():
                found[name].append(measured(*_typed(program, name, words, desk)))
    medians = {name: statistics.median(each) for name, each in found.items()}
    print(f"{'command':<20}{'M instr.' if counting else 'ms':>9}{'ratio':>8}{'goal':>6}")
    missed = 0
    for name, median in medians.items():
        limit = COMMANDS[name][1] if name in COMMANDS else 1
        ratio = median / medians["bare"]
        missed += ratio > limit
        print(f"{name:<20}{median:9.1f}{ratio:8.2f}{limit:6g}")
    return 1 if missed else 0


def _lay_out(program: list[str], desk: str) -> None:
    subprocess.run([*program, "demo", desk, "--quiet"], check=True)
    for words in (
        ["app", "import", "Tagwright", "--from", f"{desk}/listings/tagwright-keys.csv"],
        ["scheme", "new", "quillmap/mine"],
        ["assign", "quillmap", "Spot height", "Q", "--why", "x"],
        ["check"],
    ):
        subprocess.run([*program, *words, "--desk", desk, "--quiet"], stdout=subprocess.DEVNULL)


def _typed(
    program: list[str], name: str, words: list[str], desk: str
) -> tuple[list[str], str, dict[str, str]]:
    """The command line, the folder and the variables of what is typed."""
    if name == "a TAB":
        line = f"olive-compass {words[0]}"
        variables = {"_ARGCOMPLETE": "1", "COMP_LINE": line, "COMP_POINT": str(len(line))}
        variables |= {"_ARGCOMPLETE_STDOUT_FILENAME": os.devnull, "_ARGCOMPLETE_IFS": " "}
        return program, desk, variables
    variables = {"OLIVE_COMPASS_CACHE": ""} if name.endswith("nothing kept") else {}
    return [*program, *words], desk, variables


def _run(command: list[str], folder: str, variables: dict[str, str]) -> bytes:
    done = subprocess.run(
        command,
        cwd=folder,
        env={**os.environ, **variables},
        stdout=subprocess.DEVNULL,
        stderr=subprocess.PIPE,
    )
    return done.stderr


def _milliseconds(command: list[str], folder: str, variables: dict[str, str]) -> float:
    begun = time.perf_counter()
    _run(command, folder, variables)
    return (time.perf_counter() - begun) * 1000


def _instructions(command: list[str], folder: str, variables: dict[str, str]) -> float:
    """Instructions in millions, as callgrind counts them."""
    tool = ["valgrind", "--tool=callgrind", "--callgrind-out-file=/dev/null"]
    said = _run([*tool, *command], folder, {**variables, "PYTHONHASHSEED": "0"})
    counted = re.search(rb"Collected : (\d+)", said)
    if counted is None:
        raise SystemExit(said.decode(errors="replace"))
    return int(counted[1]) / 1e6


if __name__ == "__main__":
    raise SystemExit(main())
