"""How well purposes are found, against truths written by hand, and how quickly.

Usage: python -m benchmarks.purposes [--show] [--speed] [--folder FOLDER]

Four applications of the demo, and five listings from the manuals of real programs, which are fetched from their
packages into FOLDER (a temporary one); without them only the four are looked at. ``purposes.csv`` beside this file
says which commands people would link. Prints precision (of the pairs that ``--yes`` would link, how many are right)
and recall (of the pairs that people linked, how many it links), with the shipped list and without any; exits 1
below 0.97 and 0.85. ``--speed`` measures 50 applications with 1,000 commands each, and a tenth of it.
"""

import argparse
import csv
import itertools
import resource
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from importlib.resources import as_file, files
from pathlib import Path

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.sharing.guessing import proposals
from olive_compass.core.sharing.proposals import SURE, Proposal
from olive_compass.core.sharing.purposes import Purposes
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import purposes_file

TRUTH = Path(__file__).with_suffix(".csv")
DEMO = ("foldpress", "quillmap", "reliefkiln", "tagwright")

#: Where the listings of real manuals are: the package, and its pages.
MANUALS = {
    "text": ("libreoffice-help-en-us", ["text/swriter/04/01020000.html"]),
    "slides": ("libreoffice-help-en-us", ["text/simpress/04/01020000.html"]),
    "general": ("libreoffice-help-en-us", ["text/shared/04/01010000.html"]),
    "pictures": (
        "gimp-help-en",
        [
            f"help/en/key-reference-{name}.html"
            for name in [
                "edit",
                "file",
                "image",
                "layer",
                "select",
                "tools",
                "view",
                "windows",
                "help",
            ]
        ],
    ),
    "source": ("texstudio-doc", ["html/usermanual_en.html"]),
}

#: How many commands the listings have: with others, the numbers of the truth mean other commands.
COUNTS = {"text": 114, "slides": 88, "general": 93, "pictures": 132, "source": 124}

Place = tuple[str, str]


def main() -> int:
    parser = argparse.ArgumentParser(description=(__doc__ or "").partition("\n")[0])
    parser.add_argument("--show", action="store_true", help="show what is wrong and what is missed")
    parser.add_argument("--speed", action="store_true", help="measure time and memory")
    parser.add_argument("--folder", type=Path, help="where packages are kept")
    args = parser.parse_args()
    if args.speed:
        return speed()
    with tempfile.TemporaryDirectory() as made:
        root = Path(made)
        desk = lay_out(root, args.folder or root / "packages")
        names = [name for name in (*DEMO, *MANUALS) if name in desk.app_names()]
        apps = [desk.app(name) for name in names]
        for name in names:
            print(f"{name:<12} {len(desk.app(name).catalogue.commands):>4} commands")
        base = purposes_file.read(purposes_file.base(), "purposes.csv")
        good = judge("with the list that ships", apps, base, args.show)
        judge("without any list", apps, Purposes(), args.show)
        return 0 if good else 1


# Quality.


def judge(what: str, apps: list[App], purposes: Purposes, show: bool) -> bool:
    """Compares what ``--yes`` would link with what people linked."""
    groups, doubtful = truth(apps)
    found = [sure for each in proposals(apps, purposes) if (sure := each.above(SURE))]
    right: set[tuple[int, str, str]] = set()
    wrong: list[tuple[Place, Place, Proposal]] = []
    count = 0
    for proposal in found:
        members = [(guess.app, id_) for guess in proposal.guesses for id_ in guess.commands]
        for one, other in itertools.combinations(members, 2):
            if one[0] == other[0] or {one, other} & doubtful:
                continue
            common = groups.get(one, -1)
            if common >= 0 and groups.get(other) == common:
                right.add((common, *sorted((one[0], other[0]))))
                count += 1
            else:
                wrong.append((one, other, proposal))
    wanted = set(pairs_of(groups, doubtful))
    precision = count / max(1, count + len(wrong))
    recall = len(right & wanted) / max(1, len(wanted))
    print(
        f"{what}: precision {precision:.3f} ({len(wrong)} of {count + len(wrong)} pairs wrong), "
        f"recall {recall:.3f} ({len(right & wanted)} of {len(wanted)} pairs), {len(found)} purposes"
    )
    if show:
        titles = {(app.name, c.id): c.title[:60] for app in apps for c in app.catalogue.commands}
        for one, other, proposal in wrong:
            print(
                f"  wrong  {one[0]} “{titles[one]}” + {other[0]} “{titles[other]}” as {proposal.purpose.id}"
            )
        names = {v: k for k, v in numbers().items()}
        for number, one, other in sorted(wanted - right):
            print(f"  missed {names[number]}: {one} and {other}")
    return precision >= 0.97 and recall >= 0.85


def numbers() -> dict[str, int]:
    """The purposes of the truth, by their number."""
    return {row["purpose"]: n for n, row in enumerate(rows())}


def rows() -> Iterator[dict[str, str]]:
    lines = [line for line in TRUTH.read_text().splitlines() if not line.startswith("#")]
    yield from csv.DictReader(lines)


def truth(apps: list[App]) -> tuple[dict[Place, int], set[Place]]:
    """The number of the purpose of each command, and the commands about which people would differ."""
    groups: dict[Place, int] = {}
    doubtful: set[Place] = set()
    for number, row in enumerate(rows()):
        for app in apps:
            for cell in (row.get(app.name) or "").split():
                name = cell.removeprefix("?")
                place = (
                    app.name,
                    (app.catalogue.commands[int(name) - 1].id if app.name in MANUALS else name),
                )
                assert place[1] in app.catalogue.by_id, place
                groups[place] = number
                if cell != name:
                    doubtful.add(place)
    return groups, doubtful


def pairs_of(groups: dict[Place, int], doubtful: set[Place]) -> Iterator[tuple[int, str, str]]:
    """Each two applications that people linked for a purpose."""
    by_number: dict[int, set[str]] = {}
    for place, number in groups.items():
        if place not in doubtful:
            by_number.setdefault(number, set()).add(place[0])
    for number, names in by_number.items():
        for one, other in itertools.combinations(sorted(names), 2):
            yield number, one, other


# The applications.


def lay_out(root: Path, packages: Path) -> Desk:
    """A desk with the applications of the demo, and of the manuals that can be had."""
    run = [sys.executable, "-m", "olive_compass"]
    folder = root / "desk"
    subprocess.run([*run, "desk", "new", str(folder)], check=True, capture_output=True)
    demo = files("olive_compass.data") / "demo"
    with as_file(demo) as laid_out:
        shutil.copytree(laid_out / "apps", folder / "apps")
        shutil.copy(laid_out / "listings" / "tagwright-keys.csv", root / "tagwright.csv")
    adding = ["app", "import", "tagwright", "--from", str(root / "tagwright.csv")]
    subprocess.run(
        [*run, *adding], cwd=folder, check=True, capture_output=True, stdin=subprocess.DEVNULL
    )
    for name, (package, pages) in MANUALS.items():
        found = fetched(package, packages)
        if found is None:
            print(f"{package} cannot be had here.")
            continue
        listing = root / f"{name}.html"
        listing.write_bytes(b"".join(next(found.rglob(page)).read_bytes() for page in pages))
        subprocess.run(
            [*run, "app", "import", name, "--from", str(listing)],
            cwd=folder,
            check=True,
            capture_output=True,
            stdin=subprocess.DEVNULL,
        )
    desk = Desk(str(folder))
    for name, count in COUNTS.items():
        if name in desk.app_names():
            have = len(desk.app(name).catalogue.commands)
            assert have == count, f"{name} has {have} commands; the truth is for {count}"
    return desk


def fetched(package: str, packages: Path) -> Path | None:
    """The folder of an unpacked package, fetched if need be; None where it cannot be had."""
    folder = packages / package
    if folder.is_dir():
        return folder
    if not (shutil.which("apt-get") and shutil.which("dpkg-deb")):
        return None
    packages.mkdir(parents=True, exist_ok=True)
    if subprocess.run(
        ["apt-get", "download", package], cwd=packages, capture_output=True
    ).returncode:
        return None
    (file,) = packages.glob(f"{package}_*.deb")
    subprocess.run(["dpkg-deb", "-x", file, folder], check=True)
    return folder


# Time and memory.


def made_up(number: int, count: int) -> App:
    """An application with ``count`` commands, of which a third are in all others, with numbers among them."""
    verbs = [
        "Draw",
        "Move",
        "Cut",
        "Weigh",
        "Bend",
        "Tint",
        "Score",
        "Count",
        "Fold",
        "Press",
        "Trace",
        "Mark",
        "Shade",
        "Raise",
        "Split",
    ]
    things = [
        "line",
        "plate",
        "sheet",
        "cell",
        "river",
        "edge",
        "name",
        "frame",
        "column",
        "voice",
        "stop",
        "stroke",
        "bar",
        "tone",
        "stone",
    ]
    signs = ["north", "thin", "wide", "early", "double", "hollow", "open", "dry", "paper", "grey"]
    commands = []
    for n in range(count):
        verb, thing = verbs[n % 15], things[n // 15 % 15]
        if n % 3 == 0:
            title = f"{verb} {signs[n // 225 % 10]} {thing}"
        elif n % 3 == 1:
            title = f"{verb} {thing} of {number}-{n}"
        else:
            title = f"Style {n}"
        keys = (read_trigger(f"Ctrl+{chr(65 + n % 26)}"),) if n % 9 == 0 else ()
        does = f"It will {verb.lower()} the {thing} in the chosen way"
        commands.append(
            Command(id=f"c{number}-{n}", title=title, menu=(verb, thing), keys=keys, does=does)
        )
    title = f"Maker {chr(65 + number % 26)}{'x' * (number // 26)}"
    return App(
        name=f"app{number}",
        title=title,
        version="1",
        modes=ModeTree({}),
        rules=Rules(),
        catalogue=Catalogue(tuple(commands)),
    )


def speed() -> int:
    """50 applications with 1,000 commands each, beside a tenth of it."""
    base = purposes_file.read(purposes_file.base(), "purposes.csv")
    seconds = {}
    for count in (100, 1_000):
        apps = [made_up(n, count) for n in range(50)]
        best = 1e9
        for _ in range(3):
            begun = time.process_time()
            found = proposals(apps, base)
            best = min(best, time.process_time() - begun)
        seconds[count] = best
        print(f"50 applications, {count:>5} commands each: {best:.2f} s, {len(found)} purposes")
    memory = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    times = seconds[1_000] / seconds[100]
    print(f"tenfold commands: {times:.1f} times; at most {memory:.0f} MB")
    return 0 if seconds[1_000] <= 10 and memory <= 500 and times <= 11 else 1


if __name__ == "__main__":
    sys.exit(main())
