"""Checks a desk of 50 applications and 200,000 assignments, against a pandas script.

Usage: python -m benchmarks.conflicts [APPS ASSIGNMENTS]      (50 200000)

Each application has a catalogue and a personal scheme with its share of the assignments. One pandas
script reads the same files (the schemes with the standard library's TOML parser), the other the same
assignments as plain tables; both list the keys that stand twice in one application and mode. Besides
there is a desk whose schemes have comments, and one where a thousand commands share a key. A check is
measured as the first one of a desk, as one of which nothing changed since, and as one after a change in
one application. All of them take turns; prints the best of three, peak memory in MB, and the ratios;
exits 1 where an aim is missed.
"""

import os
import random
import sys
import tempfile
from collections.abc import Iterator

from benchmarks.measuring import MODES, Row, in_turn, tell, trigger, write

PANDAS = """
import glob, sys, tomllib
import pandas as pd
rows = []
for path in glob.glob("schemes/*/*.toml"):
    with open(path, "rb") as file:
        for command, entry in tomllib.load(file)["assign"].items():
            for mode in entry["modes"]:
                for key in entry["keys"]:
                    rows.append((path.split("/")[1], command, key, mode))
mine = pd.DataFrame(rows, columns=["app", "command", "key", "mode"])
frames = []
for path in glob.glob("apps/*/commands.csv"):
    frame = pd.read_csv(path, skiprows=1, dtype=str).fillna("")
    frame["app"] = path.split("/")[1]
    frames.append(frame)
factory = pd.concat(frames)
factory["key"] = factory["keys"].str.split(" or ")
factory = factory.explode("key").rename(columns={"id": "command", "modes": "mode"})
factory = factory[factory["key"] != ""][["app", "command", "key", "mode"]]
for table in (mine, factory):
    twice = table[table.duplicated(["app", "mode", "key"], keep=False)]
    twice.sort_values(["app", "key"]).to_csv(sys.stdout)
"""


PLAIN = """
import glob, sys
import pandas as pd
for kind in ("mine", "factory"):
    frames = []
    for path in glob.glob(f"tables/{kind}/*.csv"):
        frame = pd.read_csv(path, dtype=str)
        frame["app"] = path
        frames.append(frame)
    table = pd.concat(frames)
    twice = table[table.duplicated(["app", "mode", "key"], keep=False)]
    twice.sort_values(["app", "key"]).to_csv(sys.stdout)
"""

#: A change in one application, and a check of them all.
CHANGED = """
import os, sys
with open("schemes/app0/mine.toml", "a") as file:
    file.write("# A thought.\\n")
os.execv(sys.argv[1], [sys.argv[1], "check"])
"""

#: How much of the time of each peer a check may take, by the clock: the first one, and one after a change.
AIMS = {("check", "pandas"): 0.35, ("kept, one changed", "plain tables"): 0.4}

#: How much longer it may take where every decision has a comment, or one key is crowded.
MOST_FOR_COMMENTS = 1.5
MOST_FOR_CROWD = 0.1


def main() -> int:
    sizes = [int(n) for n in sys.argv[1:3]]
    return tell(rows(os.path.join(os.path.dirname(sys.executable), "olive-compass"), *sizes))


def rows(program: str, apps: int = 50, size: int = 200_000) -> Iterator[Row]:
    with tempfile.TemporaryDirectory() as folder:
        for name in ("plain", "commented", "crowded"):
            lay_out(
                os.path.join(folder, name),
                *((1, 1000) if name == "crowded" else (apps, size)),
                name,
            )
        check = [program, "check", "--desk"]
        found = in_turn(
            {
                "pandas": [sys.executable, "-c", PANDAS],
                "plain tables": [sys.executable, "-c", PLAIN],
                "check": [*check, "."],
                "kept, none changed": [*check, "."],
                "kept, one changed": [sys.executable, "-c", CHANGED, program],
                "commented": [*check, "../commented"],
                "crowded": [*check, "../crowded"],
            },
            os.path.join(folder, "plain"),
        )
    of = f"{size:,} assignments"
    whole = found["check"][0]
    for (name, peer), goal in AIMS.items():
        seconds, memory = found[name]
        yield Row(
            name=f"{of}, {name}",
            figure=seconds / found[peer][0],
            goal=goal,
            of=f"{seconds:.2f} s, {memory:.0f} MB, of {peer}",
        )
    for name, goal in (("commented", MOST_FOR_COMMENTS), ("crowded", MOST_FOR_CROWD)):
        seconds = found[name][0]
        yield Row(
            name=f"{of}, {name}",
            figure=seconds / whole,
            goal=goal,
            of=f"{seconds:.2f} s, of a check",
        )


def lay_out(desk: str, apps: int, size: int, kind: str) -> None:
    """Writes a desk with ``size`` assignments, one for each command of its applications.

    ``plain`` writes the same as plain tables too; ``commented`` has a comment over every decision,
    ``crowded`` one key for all commands.
    """
    draw = random.Random(size)
    write(desk, "desk.toml", 'format = "olive-compass-desk/1"\nname = "Conflicts"\n')
    modes = "".join(f'{mode} = "everywhere"\n' for mode in MODES)
    rules = "\n[rules]\nlongest-sequence = 4\ntyped-sequences = true\n"
    for app in range(apps):
        rows = ["# olive-compass-commands/1", "id,title,menu,keys,modes,kind,does"]
        scheme = ['format = "olive-compass-scheme/1"', f'app = "app{app}"', "", "[assign]"]
        tables: dict[str, list[str]] = {each: ["command,key,mode"] for each in ("mine", "factory")}
        for n in range(size // apps):
            key = "" if n % 3 else trigger(draw, size)
            given = "Ctrl+K" if kind == "crowded" else trigger(draw, size)
            mode = draw.choice(MODES)
            rows.append(f"menu.command-{n},Smooth {n},Menu {n % 30},{key},{mode},command,")
            if kind == "commented":
                scheme.append(f"# The {n}th decision was made on a Monday.")
            scheme.append(f'"menu.command-{n}" = {{ keys = ["{given}"], modes = ["{mode}"] }}')
            tables["mine"].append(f"menu.command-{n},{given},{mode}")
            if key:
                tables["factory"].append(f"menu.command-{n},{key},{mode}")
        write(desk, f"apps/app{app}/commands.csv", "\n".join(rows) + "\n")
        head = 'format = "olive-compass-app/1"\n[modes]\n'
        write(desk, f"apps/app{app}/app.toml", head + modes + rules)
        write(desk, f"schemes/app{app}/mine.toml", "\n".join(scheme) + "\n")
        for name, lines in tables.items() if kind == "plain" else ():
            write(desk, f"tables/{name}/app{app}.csv", "\n".join(lines) + "\n")


if __name__ == "__main__":
    raise SystemExit(main())
