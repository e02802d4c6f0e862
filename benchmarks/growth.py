"""Time and memory of commands as desks grow, and of large desks beside other programs: the whole table.

Usage: python -m benchmarks.growth [--large]

Desks of 1,000 and of 10,000 commands in ten applications (``--large``: and of 100,000) with a personal scheme each, one
decision to five commands, and with purposes, a key set, a tray, layouts and counts that grow alike; macros, a history
and merges by themselves; then what ``benchmarks.toured`` and ``benchmarks.conflicts`` measure. Ten times as much may take
eleven times as long. The peers are pandas scripts, the bare interpreter and an import, which take turns with our
commands. Prints a row for each, with its goal; exits 1 where one is missed.
"""

import argparse
import os
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from itertools import pairwise
from pathlib import Path

from benchmarks import conflicts, toured
from benchmarks.measuring import APPS, Row, in_turn, lay_out, tell, write
from olive_compass.desk.storage.history import History
from olive_compass.desk.storage.records import FileChange, text_of
from olive_compass.structs import replace

#: How many times as long ten times as much may take.
MOST = 11.0

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

#: What is done on each desk, and on one with purposes, a key set, a tray, layouts and counts.
COMMANDS = {
    "check": ("check", "--json"),
    "check APP": ("check", "app0", "--json"),
    "find": ("find", "smooth 77"),
    "free --for": ("free", "app0", "--for", "menu.command-7", "--json"),
    "assign": ("assign", "app0", "menu.command-7", "Ctrl+Alt+F9", "--mode", "draw", "--dry-run"),
    "compare": ("compare", "app0/mine", "app0/factory", "--json"),
    "worklist": ("worklist", "app0", "--json"),
    "page": ("page", "--out", "page.html", "--json"),
    "purpose guess": ("purpose", "guess", "--json"),
    "sheet as PDF": ("sheet", *(f"app{n}" for n in range(APPS)), "--all", "--out", "sheet.pdf"),
}
WITH_MORE = {
    "upgrade": ("upgrade", "app0", "--from", "newer.csv", "--version", "2", "--dry-run", "--json"),
    "keyset show": ("keyset", "show", "one", "--json"),
    "keyset apply": ("keyset", "apply", "one", "--dry-run", "--json"),
    "undo": ("undo", "--dry-run"),
    "tray show": ("tray", "show", "app0/many", "--json"),
    "layouts": ("key", "Ctrl+K", "--layouts", "all", "--json"),
    "suggest": ("suggest", "app0", "--most", "5", "--json"),
}

#: What is made anew by a command.
MADE = ("page.html", "sheet.pdf")

#: Commands that take longer than others of their size, and what they are given.
SECONDS = {"purpose guess": 2.0, "sheet as PDF": 3.0}


def main() -> int:
    parser = argparse.ArgumentParser(description=(__doc__ or "").partition("\n")[0])
    parser.add_argument("--large", action="store_true", help="also desks of 100,000 commands")
    args = parser.parse_args()
    program = os.path.join(os.path.dirname(sys.executable), "olive-compass")
    sizes = [1000, 10_000, *([100_000] if args.large else [])]
    return tell(rows(program, sizes)) | tell(toured.rows(program)) | tell(conflicts.rows(program))


def rows(program: str, sizes: list[int]) -> Iterator[Row]:
    found = {size: measured(program, size) for size in sizes}
    for (fewer, small), (more, large) in pairwise(found.items()):
        for name in COMMANDS | WITH_MORE:
            (before, _), (after, memory) = small[name], large[name]
            yield Row(
                name=f"{name}, {fewer:,} to {more:,} commands",
                figure=after / before,
                goal=MOST,
                of=f"{before:.2f} to {after:.2f} s, {memory:.0f} MB",
            )
    for name, most in SECONDS.items():
        took, memory = found[10_000][name]
        yield Row(
            name=f"{name}, 10,000 commands", figure=took, goal=most, in_=" s", of=f"{memory:.0f} MB"
        )
    yield Row(
        name="sheet as PDF, 10,000 commands, memory",
        figure=found[10_000]["sheet as PDF"][1],
        goal=120,
        in_=" MB",
        of="peak",
    )
    took, peer = found[10_000]["check"][0], found[10_000]["pandas"][0]
    yield Row(
        name="check, 10,000 commands, of pandas",
        figure=took / peer,
        goal=1,
        of=f"{took:.2f} of {peer:.2f} s",
    )
    yield from macros(program)
    yield from history(program)
    yield from merges(program)


def measured(program: str, size: int) -> dict[str, tuple[float, float]]:
    """Seconds and memory of each command, and of the pandas script, on a desk of so many commands."""
    with tempfile.TemporaryDirectory() as desk:
        lay_out(desk, size)
        found = in_turn(
            {"pandas": [sys.executable, "-c", PANDAS], **of(program, COMMANDS)}, desk, clean=MADE
        )
        lay_out_more(desk, program, size)
        return found | in_turn(of(program, WITH_MORE), desk)


def of(program: str, commands: dict[str, tuple[str, ...]]) -> dict[str, list[str]]:
    return {name: [program, *words] for name, words in commands.items()}


def lay_out_more(desk: str, program: str, size: int) -> None:
    """Purposes, a key set, a tray, layouts, counts, a newer list and a change: as many as go with the size."""
    apps = [f"app{n}" for n in range(APPS)]
    links = ["# olive-compass-purposes/1", f"id,title,group,risk,names,{','.join(apps)}"]
    links += [
        f"purpose-{n},Purpose {n},all,harmless,,{','.join([f'menu.command-{n}'] * APPS)}"
        for n in range(size // 100)
    ]
    write(desk, "purposes.csv", "\n".join(links) + "\n")
    keys = "".join(
        f'purpose-{n} = "Ctrl+K {chr(65 + n % 26)} {n % 10}"\n' for n in range(size // 100)
    )
    write(
        desk,
        "keysets/one.toml",
        f'format = "olive-compass-keyset/1"\ntitle = "One"\n\n[keys]\n{keys}',
    )
    items = ", ".join(f'"menu.command-{n}"' for n in range(size // 20))
    tray = f'[personal.many]\ntitle = "Many"\nkind = "bar"\nplace = "last"\nitems = [{items}]\n'
    write(desk, "trays/app0.toml", f'format = "olive-compass-trays/1"\napp = "app0"\n\n{tray}')
    for n in range(size // 100):
        write(desk, f"keyboards/layouts/other-{n}.toml", LAYOUT.format(n=n))
    listed = Path(desk, "apps/app0/commands.csv").read_text(encoding="utf-8").splitlines()
    newer = [
        line.replace("Smooth", "Even out") if n % 10 == 3 else line for n, line in enumerate(listed)
    ]
    write(desk, "newer.csv", "\n".join(newer) + "\n")
    counts = "".join(f"menu.command-{n},{n % 40 + 1}\n" for n in range(size // APPS))
    write(desk, "week.csv", f"Command,Times a week\n{counts}")
    for words in (
        ("usage", "take", "week.csv", "--app", "app0"),
        ("mute", "app0", "Ctrl+Alt+F8", "--why", "as a change"),
    ):
        subprocess.run([program, *words], cwd=desk, stdout=subprocess.DEVNULL, check=True)


LAYOUT = """format = "olive-compass-layout/1"
title = "Other {n}"
keys = '''
KeyK k K
KeyQ q Q
'''
"""


def macros(program: str) -> Iterator[Row]:
    """Checks an application with 100 and with 1,000 macros that no key starts."""
    seconds = []
    for count in (100, 1000):
        with tempfile.TemporaryDirectory() as desk:
            lay_out(desk, 1000)
            for n in range(count):
                write(desk, f"macros/app0/macro-{n}.toml", MACRO.format(n=n, command=n % 100))
            found = in_turn({"check": [program, "check", "app0", "--json"]}, desk)
        seconds.append(found["check"][0])
    yield Row(
        name="check APP, 100 to 1,000 macros",
        figure=seconds[1] / seconds[0],
        goal=MOST,
        of=f"{seconds[0]:.2f} to {seconds[1]:.2f} s",
    )


def history(program: str) -> Iterator[Row]:
    """What a change of a scheme of 4 KB weighs, and redo after 1,000 and after 10,000 changes."""
    seconds = []
    for count in (1000, 10_000):
        with tempfile.TemporaryDirectory() as desk:
            lay_out(desk, 1000)
            kept = History(desk)
            weight = changed(kept, 100)
            newest = kept.record(100)
            for number in range(101, count):
                Path(kept.path_of(number)).write_bytes(text_of(replace(newest, number=number)))
            done = subprocess.run([program, "undo"], cwd=desk, stdout=subprocess.DEVNULL)
            assert done.returncode == 0
            found = in_turn({"redo": [program, "redo", "--dry-run"]}, desk, rounds=7)
        seconds.append(found["redo"][0])
    yield Row(
        name="history, a change of 4 KB", figure=weight, goal=1000, in_=" B", of="on the disk"
    )
    yield Row(
        name="redo, 1,000 to 10,000 changes",
        figure=seconds[1] / seconds[0],
        goal=1.3,
        of=f"{seconds[0]:.2f} to {seconds[1]:.2f} s",
    )


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


def merges(program: str) -> Iterator[Row]:
    """Merges schemes of 1,000 and of 10,000 decisions, a tenth of which each side has changed."""
    seconds = []
    for count in (1000, 10_000):
        with tempfile.TemporaryDirectory() as folder:
            for side, changed_ones in (("base", -1), ("ours", 3), ("theirs", 7)):
                write(folder, f"{side}.toml", scheme_text(count, changed_ones))
            merge = [program, "merge", "base.toml", "ours.toml", "theirs.toml", "--out", "new.toml"]
            took, peak = in_turn({"merge": merge}, folder, clean=("new.toml",))["merge"]
        seconds.append(took)
    yield Row(
        name="merge, 1,000 to 10,000 decisions",
        figure=seconds[1] / seconds[0],
        goal=10,
        of=f"{seconds[0]:.2f} to {seconds[1]:.2f} s",
    )
    yield Row(name="merge, 10,000 decisions, memory", figure=peak, goal=80, in_=" MB", of="peak")


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


if __name__ == "__main__":
    raise SystemExit(main())
