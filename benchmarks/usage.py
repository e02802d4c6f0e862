"""How fast events are counted, beside pandas on the same file, and in which memory.

Usage: python -m benchmarks.usage [EVENTS]
"""

import json
import random
import subprocess
import sys
import tempfile
from pathlib import Path

OURS = """
import sys, resource, time
from olive_compass.desk.log_counting import count_log
begun = time.perf_counter()
with open(sys.argv[1], "rb") as stream:
    found = count_log(stream, sys.argv[1], "log", "seat")
print(time.perf_counter() - begun, resource.getrusage(resource.RUSAGE_SELF).ru_maxrss, found.events)
"""
PANDAS = """
import sys, resource, time
import pandas
begun = time.perf_counter()
table = pandas.read_json(sys.argv[1], lines=True)
table["day"] = table["time"].astype(str).str[:10]
counts = table.groupby(["day", "app", "mode", "command", "how", "key"], dropna=False).size()
print(time.perf_counter() - begun, resource.getrusage(resource.RUSAGE_SELF).ru_maxrss, int(counts.sum()))
"""


def main(events: int) -> None:
    with tempfile.TemporaryDirectory() as name:
        file = Path(name) / "log.jsonl"
        write(file, events)
        print(f"{events} events, {file.stat().st_size / 1e6:.0f} MB")
        figures = {"ours": [], "pandas": []}
        # pandas takes 2.5 GB for each million events.
        peers = (("ours", OURS), ("pandas", PANDAS)) if events <= 2_000_000 else (("ours", OURS),)
        for _ in range(2):
            for who, code in peers:
                done = subprocess.run(
                    [sys.executable, "-c", code, str(file)], capture_output=True, text=True
                )
                if done.returncode:
                    print(who, done.stderr.strip().splitlines()[-1])
                    continue
                figures[who].append([float(each) for each in done.stdout.split()])
        for who, runs in figures.items():
            if runs:
                seconds, memory, _ = min(runs)
                print(f"{who:7} {seconds:7.2f} s  {memory / 1024:7.0f} MB")
        if all(figures.values()):
            print(f"ratio {min(figures['ours'])[0] / min(figures['pandas'])[0]:.2f}")


def write(file: Path, events: int) -> None:
    draw = random.Random(1)
    commands = [f"menu.command-{n}" for n in range(200)]
    with file.open("w", encoding="utf-8") as out:
        out.write('{"format": "olive-compass-log/1", "app": "app"}\n')
        for n in range(events):
            # Always six weeks, so that a longer log is a busier one.
            minute, second = divmod(n * 42 * 86400 // events, 60)
            hour, minute = divmod(minute, 60)
            day, hour = divmod(hour, 24)
            event = {
                "time": f"2026-{1 + day // 28 % 12:02}-{1 + day % 28:02}T{hour:02}:{minute:02}:{second:02}+01:00",
                "app": "app",
                "version": "4.2",
                "mode": draw.choice(("draw", "text")),
                "command": commands[int(200 * draw.random() ** 3)],
                "how": draw.choice(("key", "menu")),
                "key": "Ctrl+S",
                "inputs": {"text": "x" * 20},
                "outcome": "done",
            }
            out.write(json.dumps(event) + "\n")


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 1_000_000)
