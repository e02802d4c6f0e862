"""How much the program stands: kills, many writers, broken files, planted links, closed pipes, signals, logs of
others, and accidents by name.

Usage: python -m benchmarks.endurance [--share SHARE] [--seed SEED] [PART …]

The parts are kills, writers, fuzz, desks, links, pipes, logs, interrupts and accidents; all of them where none
is named. SHARE (1.0) is how much of each is done: 1,000 kills, 8 writers of 100 changes each, 100,000 broken
files, 4,000 desks with one broken file, 200 planted links, 100 closed pipes, 400 logs, 400 signals (Ctrl-C and
SIGTERM in turn). What is drawn at random goes by SEED (1). Prints figures, and exits 1 where one is not as it
should be.
"""

import argparse
import os
import random
import re
import shutil
import signal
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

from tests.cli.accidents import ACCIDENTS, interrupt_at, run, wrong
from tests.conftest import PROGRAM, ask_in, contents, environ_of
from tests.core.fuzzing import broken, damaged, readers, stands

#: The calls that touch the disk: a kill falls before any of them.
STEPS = ("replace", "fsync", "unlink", "open", "fchmod", "mkdir", "rmdir", "write")

#: Changes of one file, of several, of new and of removed ones.
CHANGES = (
    ("assign", "quillmap", "Cairn", "Alt+F10", "--why", "x"),
    ("macro", "setting", "quillmap", "Grid", "--key", "Alt+F11"),
    ("unpack", "bundle.zip", "--if-taken", "replace", "--yes"),
    ("scheme", "new", "reliefkiln/mine"),
    ("undo",),
)


#: Commands that read, and a few that would change something.
LOOKS = (
    ("check",),
    ("check", "--json"),
    ("find", "save"),
    ("find", "--unassigned"),
    ("press", "quillmap", "S"),
    ("key", "Ctrl+S"),
    ("free", "quillmap"),
    ("sheet", "quillmap"),
    ("board", "quillmap"),
    ("swipes", "quillmap"),
    ("scheme", "list"),
    ("app", "list"),
    ("app", "show", "foldpress"),
    ("desk", "system"),
    ("purpose", "list"),
    ("keyset", "list"),
    ("macro", "list"),
    ("history",),
    ("compare", "quillmap/factory", "quillmap/mine"),
    ("export", "quillmap", "--as", "json"),
    ("worklist", "quillmap", "--to", "quillmap/mine"),
    ("pack", "none.zip", "--dry-run"),
    ("assign", "quillmap", "Cairn", "Alt+F10", "--dry-run", "--explain"),
    ("undo", "--dry-run"),
)


class Result(NamedTuple):
    """What a part came to, in one line, and what was not as it should be."""

    says: str
    faults: list[str]


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("parts", nargs="*", metavar="PART", choices=[[], *PARTS])
    parser.add_argument("--share", type=float, default=1.0)
    parser.add_argument("--seed", type=int, default=1)
    args = parser.parse_args()
    failed = False
    for name in args.parts or PARTS:
        begun = time.monotonic()
        with tempfile.TemporaryDirectory() as folder:
            result = PARTS[name](Path(folder), args.share, random.Random(args.seed))
        print(f"{name}: {result.says} ({time.monotonic() - begun:.0f} s)", flush=True)
        for fault in result.faults[:10]:
            print(f"  {fault}", flush=True)
        failed |= bool(result.faults)
    return 1 if failed else 0


def laid_out(folder: Path) -> Path:
    """A demo desk with a personal scheme, a bundle that changes it, and something to undo."""
    desk = folder / "desk"
    assert ask_in(folder, "demo", "desk", "--quiet").status == 0
    assert ask_in(desk, "scheme", "new", "quillmap/mine").status == 0
    other = Path(shutil.copytree(desk, folder / "other"))
    for words in (("Ford", "Alt+F8"), ("Marsh", "Alt+F7")):
        assert ask_in(other, "assign", "quillmap", *words).status == 0
    assert ask_in(other, "macro", "setting", "quillmap", "Frost").status in (0, 2)
    assert ask_in(other, "pack", str(desk / "bundle.zip")).status == 0
    assert ask_in(desk, "assign", "quillmap", "Hatch", "Alt+F9").status == 0
    return desk


def kills(folder: Path, share: float, draw: random.Random) -> Result:
    """Kills at points all over the saving code, and of real processes at random moments."""
    base = laid_out(folder)
    faults: list[str] = []
    count, done, real = round(1_000 * share), 0, round(100 * share)
    outcomes = {"held": 0, "taken back": 0}
    before = contents(base)
    entries = _entries(base)
    after = {}
    for words in CHANGES:
        desk = _copied(base, folder)
        assert ask_in(desk, *words).status == 0, words
        after[words] = contents(desk)
    while done < count:
        words = CHANGES[done % len(CHANGES)]
        desk = _copied(base, folder)
        if done < count - real:
            _killed_at(desk, words, draw.randrange(1, 90))
        else:
            _killed_after(desk, words, draw.uniform(0.05, 0.4))
        done += 1
        history = ask_in(desk, "history", "--json")
        now = contents(desk)
        where = f"kill {done}, {' '.join(words)}"
        if history.status != 0:
            faults.append(f"{where}: the history cannot be read: {history.err}")
            continue
        more = _entries(desk) - entries
        if now == after[words] and more == 1:
            outcomes["held"] += 1
        elif now == before and more == 0:
            outcomes["taken back"] += 1
        else:
            odd = sorted(set(now.items()) ^ set(before.items()))
            faults.append(f"{where}: half a change, {more} entries, {[name for name, _ in odd]}")
            continue
        ask_in(desk, "assign", "quillmap", "Scree", "Alt+F6")
        if left := [path for path in desk.rglob("*") if path.name.endswith(".tmp")]:
            faults.append(f"{where}: left behind for ever: {left[0].name}")
        ask_in(desk, "undo")
        if contents(desk) != now:
            faults.append(f"{where}: an undo afterwards did not give back what was there")
    says = f"{done} kills, {outcomes['held']} held, {outcomes['taken back']} taken back"
    return Result(says, faults)


def _entries(desk: Path) -> int:
    """How many changes the history of a desk has."""
    return len(list((desk / ".history").glob("0*.json")))


def _copied(base: Path, folder: Path) -> Path:
    desk = folder / "copy"
    shutil.rmtree(desk, ignore_errors=True)
    return Path(shutil.copytree(base, desk))


def _killed_at(desk: Path, words: tuple[str, ...], step: int) -> None:
    """Runs a command in a child of this process that is killed before its ``step``-th disk call."""
    child = os.fork()
    if child:
        os.waitpid(child, 0)
        return
    left = step

    def counted(call: Callable[..., object]) -> Callable[..., object]:
        def stepped(*given: object, **options: object) -> object:
            nonlocal left
            left -= 1
            if left < 0:
                os.kill(os.getpid(), signal.SIGKILL)
            return call(*given, **options)

        return stepped

    for name in STEPS:
        setattr(os, name, counted(getattr(os, name)))
    ask_in(desk, *words)
    os._exit(0)


def _killed_after(desk: Path, words: tuple[str, ...], seconds: float) -> None:
    """Runs a command as a process that is killed so long after its start."""
    process = subprocess.Popen(
        [*PROGRAM, *words],
        cwd=desk,
        env=environ_of(),
        stdin=subprocess.DEVNULL,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
    )
    try:
        process.wait(seconds)
    except subprocess.TimeoutExpired:
        process.kill()
        process.wait()


def writers(folder: Path, share: float, draw: random.Random) -> Result:
    """Eight processes that write to one desk at the same time, one change after another."""
    desk = laid_out(folder)
    each = max(1, round(100 * share))
    keys = [f"{held}F{n}" for held in ("Ctrl+Alt+Shift+", "Alt+Shift+Meta+") for n in range(1, 13)]
    keys += [
        f"Ctrl+Alt+Shift+Meta+{chr(65 + n)} {chr(65 + m)}" for n in range(26) for m in range(26)
    ]
    keys += [f"Ctrl+Shift+Meta+{chr(65 + n)} {chr(65 + m)}" for n in range(26) for m in range(26)]
    draw.shuffle(keys)
    before = _entries(desk)
    alone = statistics.median(_mute(desk, f"Ctrl+Alt+Meta+F{n}") for n in range(2, 9))
    script = f"""
import subprocess, sys, time
for key in sys.argv[1:]:
    begun = time.monotonic()
    done = subprocess.run({PROGRAM!r} + ["mute", "quillmap", key, "--why", "x"], capture_output=True)
    print(done.returncode, time.monotonic() - begun, done.stderr.decode(errors="replace")[:200])
"""
    running = [
        subprocess.Popen(
            [sys.executable, "-c", script, *keys[n * each : (n + 1) * each]],
            cwd=desk,
            env=environ_of(),
            stdout=subprocess.PIPE,
            text=True,
        )
        for n in range(8)
    ]
    lines = [line for process in running for line in process.communicate()[0].splitlines()]
    faults = [line for line in lines if not line.startswith("0 ")]
    slowest = max(float(line.split()[1]) for line in lines)
    text = (desk / "schemes/quillmap/mine.toml").read_text()
    lost = [key for key in keys[: 8 * each] if f'"{key}"' not in text]
    faults += [f"lost: {key}" for key in lost]
    recorded = _entries(desk) - before - 7
    if recorded != 8 * each:
        faults.append(f"{recorded} entries in the history, not {8 * each}")
    if slowest > 8 * alone:
        faults.append(f"the slowest took longer than eight in a row would ({8 * alone:.2f} s)")
    says = (
        f"{len(lines)} changes by 8 writers, one alone {alone:.2f} s, the slowest {slowest:.2f} s"
    )
    return Result(says, faults)


def _mute(desk: Path, key: str) -> float:
    """How long a change takes while nobody else writes, in seconds."""
    begun = time.monotonic()
    words = [*PROGRAM, "mute", "quillmap", key, "--why", "x"]
    done = subprocess.run(words, cwd=desk, env=environ_of(), capture_output=True)
    assert done.returncode == 0, done.stderr
    return time.monotonic() - begun


def fuzz(folder: Path, share: float, draw: random.Random) -> Result:
    """Broken files for every reader, each read or refused, and soon."""
    known = readers()
    each = round(100_000 * share / len(known))
    faults: list[str] = []
    slowest, slow = 0.0, ""
    for reader in known:
        for n in range(each):
            data = broken(draw, reader.seeds)
            begun = time.monotonic()
            if fault := stands(reader, data):
                faults.append(f"{reader.name}, input {n}: {fault}")
            took = time.monotonic() - begun
            if took > slowest:
                slowest, slow = took, reader.name
    if slowest > 5:
        faults.append(f"one took {slowest:.1f} s: {slow}")
    says = f"{each * len(known)} broken files, {len(known)} readers, the slowest {slowest:.2f} s ({slow})"
    return Result(says, faults)


def desks(folder: Path, share: float, draw: random.Random) -> Result:
    """A desk with one broken file, looked at by every command that reads."""
    desk = laid_out(folder)
    files = [
        path
        for path in sorted(desk.rglob("*"))
        if path.suffix in (".toml", ".csv", ".json") and ".history" not in path.parts
    ]
    count = round(4_000 * share)
    faults: list[str] = []
    slowest = 0.0
    for n in range(count):
        path, words = draw.choice(files), draw.choice(LOOKS)
        sound = path.read_bytes()
        path.write_bytes(damaged(draw, sound))
        begun = time.monotonic()
        answer = ask_in(desk, *words)
        slowest = max(slowest, time.monotonic() - begun)
        if answer.status not in (0, 1, 2) or (answer.status == 2 and not answer.err.strip()):
            name = path.relative_to(desk)
            faults.append(f"desk {n}, {name}, {' '.join(words)}: {answer.err[-200:]}")
        path.write_bytes(sound)
    if slowest > 5:
        faults.append(f"one took {slowest:.1f} s")
    return Result(f"{count} desks with a broken file, the slowest answer {slowest:.2f} s", faults)


def interrupts(folder: Path, share: float, draw: random.Random) -> Result:
    """Ctrl-C and SIGTERM at moments from the start of a process to its end."""
    base = laid_out(folder)
    script = Path(sys.executable).with_name("olive-compass")
    count, early = round(400 * share), 0
    faults: list[str] = []
    before = contents(base)
    assigned = _copied(base, folder)
    assert ask_in(assigned, "assign", "quillmap", "Cairn", "Alt+F10").status == 0
    after = contents(assigned)
    for n in range(count):
        seconds = 0.5 * n / count
        words = ("check",) if n % 4 < 2 else ("assign", "quillmap", "Cairn", "Alt+F10")
        how = signal.SIGTERM if n % 2 else signal.SIGINT
        desk = _copied(base, folder)
        ended = interrupt_at(
            desk, seconds, *words, program=[str(script)] if script.exists() else PROGRAM, how=how
        )
        ask_in(desk, "history")
        now = contents(desk)
        if now not in (before, after):
            faults.append(f"after {seconds:.3f} s: half a change")
        if "was saved" in ended.err and now != after:
            faults.append(f"after {seconds:.3f} s: it says that a change was saved that was not")
        if "nothing was changed" in ended.err and now != before:
            faults.append(f"after {seconds:.3f} s: it says that nothing was changed, and it was")
        if "fault of the program" in ended.err or (
            "Traceback" in ended.err and _is_ours(ended.err)
        ):
            faults.append(f"after {seconds:.3f} s: {ended.err[-200:]}")
        elif "Traceback" in ended.err:
            early += 1
        if (
            ended.status not in (0, 1, 130, -signal.SIGINT, -signal.SIGTERM)
            and "Traceback" not in ended.err
        ):
            faults.append(f"after {seconds:.3f} s: status {ended.status}")
    says = f"{count} signals, {early} in the interpreter before it loads the program"
    return Result(says, faults)


#: What is written, in whatever way.
WRITES = (
    ("assign", "quillmap", "Cairn", "Alt+F10", "--why", "x"),
    ("mute", "quillmap", "Alt+F11", "--why", "x"),
    ("undo",),
    ("use", "quillmap"),
    ("desk", "keyboard", "--layout", "german"),
    ("scheme", "new", "tagwright/mine"),
    ("usage", "take", "logs/quillmap-2026-10-12.jsonl"),
    ("unpack", "bundle.zip", "--if-taken", "replace", "--yes"),
    ("tray", "new", "quillmap/Day", "--kind", "tab"),
    ("deliver", "reliefkiln", "--to", "kiln/keys.kiln", "--file-format", "kiln", "--yes"),
    ("page", "--out", "out/keys.html"),
    ("sheet", "quillmap", "--as", "pdf", "--out", "out/wall.pdf"),
    ("pack", "out/all.zip"),
    ("check",),
)


def links(folder: Path, share: float, draw: random.Random) -> Result:
    """Links planted on a desk, in the place of folders, of files, and of files yet to be: whatever is
    done then, nothing outside the desk is written."""
    base = laid_out(folder)
    (base / "out").mkdir()
    assert ask_in(base, *WRITES[6]).status == 0
    count = round(200 * share)
    faults: list[str] = []
    refused = 0
    everything = [path for path in sorted(base.rglob("*")) if path.name != "desk.toml"]
    # Mostly what one of these commands writes.
    written = ("", "/lock", "/pending.json", "/000004.json", "/delivered", "/identity")
    places = [base / f".history{each}" for each in written]
    places += [
        base / each for each in ("schemes/quillmap", "schemes/quillmap/mine.toml", "seat.toml")
    ]
    places += [
        base / each for each in ("kiln/keys.kiln", "kiln", "tallies", "trays", "out", "schemes")
    ]
    for n in range(count):
        desk = _copied(base, folder)
        home = folder / "home"
        shutil.rmtree(home, ignore_errors=True)
        home.mkdir()
        for each in range(draw.randrange(1, 4)):
            place = draw.choice(places if draw.random() < 0.8 else everything)
            _plant(draw, desk, home, desk / place.relative_to(base), each)
        before = {path: path.read_bytes() for path in home.rglob("*") if path.is_file()}
        words = draw.choice(WRITES)
        cache = draw.choice((str(folder / "cache"), "", str(desk), "."))
        answer = ask_in(desk, *words, OLIVE_COMPASS_CACHE=cache)
        after = {path: path.read_bytes() for path in home.rglob("*") if path.is_file()}
        if before != after:
            odd = sorted(str(path) for path, _ in set(before.items()) ^ set(after.items()))
            faults.append(f"link {n}, {' '.join(words)}: written outside: {odd[0]}")
        if answer.status == 70 or (answer.status == 2 and not answer.err.strip()):
            faults.append(f"link {n}, {' '.join(words)}: {answer.err[-200:]}")
        refused += answer.status == 2
    return Result(f"{count} desks with planted links, {refused} refused", faults)


def _plant(draw: random.Random, desk: Path, home: Path, place: Path, number: int) -> None:
    """A link in the place of something of the desk; what was there, or something else, lies outside."""
    outside = home / f"{number}-{place.name}"
    if draw.random() < 0.4 and place.parent.is_dir():
        # In the place of a file that a writer may be about to make.
        endings = (f".{os.getpid()}.tmp", ".tmp", ".before-delivery", ".lock", "~")
        place = place.with_name(f".{place.name}{draw.choice(endings)}")
        if draw.random() < 0.5:
            outside.write_text("theirs")
    elif place.exists() and not place.is_symlink():
        shutil.move(place, outside)
    if not place.exists() and not place.is_symlink() and place.parent.is_dir():
        place.symlink_to(outside)


def pipes(folder: Path, share: float, draw: random.Random) -> Result:
    """Output that is closed after any number of bytes: the desk is then as with output that is read."""
    base = laid_out(folder)
    (base / "out").mkdir()
    rows = "".join(f"Command {n},Menu {n % 9} > Part,,\n" for n in range(2_000))
    (base / "large.csv").write_text(f"Title,Menu,Keys,Text\n{rows}")
    changes = (
        ("app", "import", "Large", "--from", "large.csv", "--yes"),
        ("upgrade", "quillmap", "--from", "large.csv", "--yes"),
        (*WRITES[9], "--show-lines"),
        *WRITES[:9],
    )
    count = round(100 * share)
    faults: list[str] = []
    known = {}
    for words in changes:
        desk = _copied(base, folder)
        known[words] = (ask_in(desk, *words).status, contents(desk))
    for n in range(count):
        words = changes[n % len(changes)]
        desk = _copied(base, folder)
        running = subprocess.Popen(
            [*PROGRAM, *words],
            cwd=desk,
            env=environ_of(),
            stdout=subprocess.PIPE,
            stderr=subprocess.DEVNULL,
        )
        assert running.stdout is not None
        bytes_ = draw.choice((0, 1, draw.randrange(200), draw.randrange(9_000)))
        if bytes_:
            running.stdout.read(bytes_)
        running.stdout.close()
        status = running.wait(60)
        if (status, contents(desk)) != known[words]:
            faults.append(f"closed after {bytes_} bytes, {' '.join(words)}: status {status}")
    return Result(f"{count} pipes closed early", faults)


def logs(folder: Path, share: float, draw: random.Random) -> Result:
    """Logs with times as programs write them, and broken ones: what is taken breaks nothing after it."""
    base = laid_out(folder)
    count, taken = round(400 * share), 0
    faults: list[str] = []
    forms = (
        "%Y-%m-%dT%H:%M:%S",
        "%d.%m.%Y %H:%M",
        "%m/%d/%Y",
        "%d/%m/%y %I:%M %p",
        "%Y/%m/%d",
        "%d %B %Y",
        "%s",
        "%H:%M",
        "%Y%m%dT%H%M%S",
    )
    for n in range(count):
        desk = _copied(base, folder)
        rows = []
        for _ in range(draw.randrange(1, 9)):
            moment = time.gmtime(draw.randrange(600_000_000, 2_500_000_000))
            command = draw.choice(("Wreck", "Steps", "x" * draw.randrange(3_000), "Cairn"))
            rows.append(f'{command};"{time.strftime(draw.choice(forms), moment)}";1')
        text = "Command;Time;Key\n" + "\n".join(rows) + "\n"
        data = text.encode()
        (desk / "odd.csv").write_bytes(damaged(draw, data) if n % 3 == 0 else data)
        answer = ask_in(desk, "usage", "take", "odd.csv", "--app", "quillmap")
        if answer.status not in (0, 2):
            faults.append(f"log {n}: {answer.err[-200:]}")
        taken += answer.status == 0
        for words in (("check", "quillmap"), ("usage", "quillmap"), ("savings", "quillmap")):
            after = ask_in(desk, *words)
            if after.status not in (0, 1, 2) or (answer.status == 0 and "left out" in after.err):
                faults.append(f"log {n}, {' '.join(words)}: {after.err[-200:]}")
    return Result(f"{count} logs of others, {taken} taken", faults)


def _is_ours(traceback: str) -> bool:
    """Whether a traceback is from our code, and not from the interpreter that is about to load it."""
    return re.search(r'File "[^"]*[/\\]olive_compass[/\\]', traceback) is not None


def accidents(folder: Path, share: float, draw: random.Random) -> Result:
    """Every accident by name."""
    base = laid_out(folder)
    faults: list[str] = []
    for name, arrange in ACCIDENTS.items():
        desk = _copied(base, folder)
        trial = arrange(desk)
        if fault := wrong(trial, run(trial, desk)):
            faults.append(f"{name}: {fault}")
    return Result(f"{len(ACCIDENTS)} accidents", faults)


PARTS: dict[str, Callable[[Path, float, random.Random], Result]] = {
    "kills": kills,
    "writers": writers,
    "fuzz": fuzz,
    "desks": desks,
    "links": links,
    "pipes": pipes,
    "logs": logs,
    "interrupts": interrupts,
    "accidents": accidents,
}


if __name__ == "__main__":
    sys.exit(main())
