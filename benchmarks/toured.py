"""Commands on the desk of the whole tour: beside the bare interpreter, with ten times the tallies, and pictures beside an import.

Usage: python -m benchmarks.toured

All take turns; prints the ratios of the best of seven, in seconds of the processor, beside their goals; exits 1 where
one is missed. ``benchmarks.growth`` measures them as well.
"""

import os
import re
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path

from benchmarks.measuring import Row, in_turn, tell

#: What is measured, of what it is measured, and the goal.
RATIOS = {
    "check, nothing kept": ("bare", 12),
    "kept check APP, changed": ("bare", 10),
    "keyset show": ("bare", 8),
    "kept check, tenfold": ("kept check", 1.3),
    "kept usage, tenfold": ("kept usage", 1.3),
    "kept savings, tenfold": ("kept savings", 1.3),
    "board as PNG": ("import pyplot", 1.3),
    "swipes as PNG": ("import pyplot", 1.3),
}


#: A change in one application, and a check of it.
CHANGED = """
import os, sys
with open(sys.argv[2] + "/schemes/quillmap/mine.toml", "a") as file:
    file.write("# A thought.\\n")
os.execv(sys.argv[1], [sys.argv[1], "check", "quillmap", "--desk", sys.argv[2]])
"""


def main() -> int:
    return tell(rows(os.path.join(os.path.dirname(sys.executable), "olive-compass")))


def rows(program: str) -> Iterator[Row]:
    with tempfile.TemporaryDirectory() as folder:
        environ = {**os.environ, "OLIVE_COMPASS_CACHE": ""}
        subprocess.run(
            [program, "demo", "--all"],
            cwd=folder,
            env=environ,
            stdout=subprocess.DEVNULL,
            check=True,
        )
        desk, large = os.path.join(folder, "larkspur"), os.path.join(folder, "tenfold")
        shutil.copytree(desk, large)
        # What is changed would be looked for anew by the others, were it on their desk.
        shutil.copytree(desk, changed := os.path.join(folder, "changed"))
        tenfold(Path(large, "tallies"))
        commands = {
            "bare": [sys.executable, "-c", "pass"],
            "import pyplot": [sys.executable, "-c", "import matplotlib.pyplot"],
            "check, nothing kept": [program, "check"],
            "kept check APP, changed": [sys.executable, "-c", CHANGED, program, changed],
            "keyset show": [program, "keyset", "show"],
            "board as PNG": [program, "board", "quillmap", "--out", "board.png"],
            "swipes as PNG": [program, "swipes", "quillmap", "--out", "swipes.png"],
        }
        for words in ("check", "usage", "savings"):
            commands[f"kept {words}"] = [program, words]
            commands[f"kept {words}, tenfold"] = [program, words, "--desk", large]
        found = in_turn(
            commands, desk, rounds=7, clean=("board.png", "swipes.png"), of_processor=True
        )
    for name, (peer, goal) in RATIOS.items():
        seconds = found[name][0]
        ratio = seconds / found[peer][0]
        yield Row(name=name, figure=ratio, goal=goal, of=f"{seconds:.3f} s, of {peer}")


def tenfold(folder: Path) -> None:
    """Writes each tally nine times more, as that of another seat."""
    for file in sorted(folder.glob("*.csv")):
        head, columns, *rows = file.read_text().splitlines(keepends=True)
        seat = rows[0].split(",")[1]
        for n in range(1, 10):
            other = [re.sub(rf"^([^,]*),{seat},", rf"\g<1>{n},{seat}{n},", row) for row in rows]
            name = file.name.replace(seat.lower(), f"{seat.lower()}{n}", 1)
            (folder / name).write_text("".join([head, columns, *other]))


if __name__ == "__main__":
    raise SystemExit(main())
