"""Checks a desk of 50 applications and 200,000 assignments, against a pandas script.

Usage: python benchmarks/conflicts.py [APPS ASSIGNMENTS]      (50 200000)

Each application has a catalogue and a personal scheme with its share of the assignments. The
pandas script reads the same files (the schemes with the standard library's TOML parser) and lists
the keys that stand twice in one application and mode. Both are run in turn, three times each;
prints the best of each, peak memory in MB, and the ratio.
"""

import os
import random
import sys
import tempfile

from growth import MODES, measured, trigger, write

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


def main() -> int:
    apps, size = (int(n) for n in sys.argv[1:3]) if len(sys.argv) > 2 else (50, 200_000)
    program = os.path.join(os.path.dirname(sys.executable), "olive-compass")
    with tempfile.TemporaryDirectory() as desk:
        lay_out(desk, apps, size)
        pandas = measured([sys.executable, "-c", PANDAS], desk)
        check = measured([program, "check"], desk)
    print(f"{apps} applications, {size} assignments")
    print(f"pandas {pandas[0]:6.2f} s {pandas[1]:6.0f} MB")
    print(f"check  {check[0]:6.2f} s {check[1]:6.0f} MB, {check[0] / pandas[0]:.2f} of pandas")
    return 0


def lay_out(desk: str, apps: int, size: int) -> None:
    """Writes a desk with ``size`` assignments, one for each command of its applications."""
    draw = random.Random(size)
    write(desk, "desk.toml", 'format = "olive-compass-desk/1"\nname = "Conflicts"\n')
    modes = "".join(f'{mode} = "everywhere"\n' for mode in MODES)
    rules = "\n[rules]\nlongest-run = 4\ntyped-runs = true\n"
    for app in range(apps):
        rows = ["# olive-compass-commands/1", "id,title,menu,keys,modes,kind,does"]
        scheme = ['format = "olive-compass-scheme/1"', f'app = "app{app}"', "", "[assign]"]
        for n in range(size // apps):
            key = "" if n % 3 else trigger(draw, size)
            mode = draw.choice(MODES)
            rows.append(f"menu.command-{n},Smooth {n},Menu {n % 30},{key},{mode},command,")
            scheme.append(
                f'"menu.command-{n}" = {{ keys = ["{trigger(draw, size)}"], modes = ["{mode}"] }}'
            )
        write(desk, f"apps/app{app}/commands.csv", "\n".join(rows) + "\n")
        head = 'format = "olive-compass-app/1"\n[modes]\n'
        write(desk, f"apps/app{app}/app.toml", head + modes + rules)
        write(desk, f"schemes/app{app}/mine.toml", "\n".join(scheme) + "\n")


if __name__ == "__main__":
    raise SystemExit(main())
