"""``demo``: lays out a desk of a made-up studio and walks through a day's work on it."""

import argparse
import io
import os
import time
from typing import Any

from olive_compass.cli.surroundings import BOLD, DIM, GREEN, OFF, Surroundings
from olive_compass.errors import Refused

GROUP = "start"
ORDER = 10
SUMMARY = "Lay out the desk of a made-up studio, and walk through the work with real commands"
EXAMPLES = """olive-compass demo
olive-compass demo my-folder --quiet"""

FOLDER = "larkspur"

#: The tour: a caption, and the command that it is about.
TOUR: tuple[tuple[str, tuple[str, ...]], ...] = (
    (
        "Larkspur Map Works draws walking maps. Three of its applications are on the desk already.",
        ("desk", "show"),
    ),
    (
        "Klara's spreadsheet of Tagwright's keys is a mess. It becomes a catalogue all the same.",
        (
            "app",
            "add",
            "Tagwright",
            "--version",
            "2.7",
            "--duplicates",
            "refuse",
            "--from",
            "listings/tagwright-keys.csv",
        ),
    ),
    ("On top of the house's keys, a scheme of one's own.", ("scheme", "new", "quillmap/mine")),
    ("Spot heights are placed all day, and have no key.", ("find", "spot height")),
    ("Which letters are left while drawing?", ("free", "quillmap", "--mode", "draw")),
    (
        "S is taken, of course. Nothing is given away unasked.",
        ("assign", "quillmap", "Spot height", "S", "--if-taken", "stop"),
    ),
    (
        "So it is Q, beside the hand, and the reason stays with it.",
        (
            "assign",
            "quillmap",
            "Spot height",
            "q",
            "--why",
            "the letter S is Spline; Q is beside the hand",
        ),
    ),
    (
        "Smoothing goes next to simplifying. Any spelling of the key will do.",
        (
            "assign",
            "quillmap",
            "Smooth contour",
            "alt-m",
            "--why",
            "M: next to N, which simplifies",
        ),
    ),
    (
        "The parallel line takes the key of Duplicate, and we hear what that is left with.",
        ("assign", "quillmap", "Parallel line", "Ctrl+D", "--if-taken", "replace"),
    ),
    (
        "Try it: what does the key do, who decided that, and who is hidden behind it?",
        ("press", "quillmap", "⌃D", "--mode", "draw"),
    ),
    ("One letter of a typed run waits for the next.", ("press", "quillmap", "S", "--mode", "draw")),
    (
        "Are Ctrl+Shift+= and Ctrl++ two keys? Not on this keyboard.",
        ("key", "Ctrl+Shift+="),
    ),
    (
        "The board while lettering, with Ctrl held.",
        ("board", "quillmap", "--mode", "label", "--with", "Ctrl"),
    ),
    ("Swipes, mode beside mode.", ("rose", "quillmap")),
    (
        "Would all this work on the laptop with the German keyboard?",
        ("check", "quillmap", "--keyboard", "iso-laptop/german", "--brief"),
    ),
    ("The scheme at a glance.", ("scheme", "show", "quillmap/mine")),
    (
        "Is all in order? The house's key for the closure check reaches into the label mode.",
        ("check", "quillmap"),
    ),
    (
        "So it leaks. Narrowed in one step, without typing it all again.",
        ("narrow", "quillmap", "Check closure", "--scheme", "house"),
    ),
    (
        "Foldpress says that F9 is unassigned. It is not.",
        ("press", "foldpress", "F9"),
    ),
    (
        "In Reliefkiln the space bar bakes the tints for good, and F6 shades for forty minutes.",
        ("check", "reliefkiln", "--brief"),
    ),
    (
        "The space bar goes silent there, with the reason.",
        ("mute", "reliefkiln", "Space", "--why", "a reflex from elsewhere", "--scheme", "house"),
    ),
    (
        "Some keys are sacred.",
        ("assign", "reliefkiln", "Erode", "Ctrl+Z", "--if-taken", "replace", "--scheme", "house"),
    ),
    (
        "What would a visitor press wrongly?",
        ("show", "quillmap", "--visitor"),
    ),
    ("The last two back again.", ("undo", "2")),
    (
        "And second thoughts about Ctrl+D: back to factory, and nothing else moves.",
        ("reset", "quillmap", "--key", "Ctrl+D"),
    ),
    ("Every change is kept, with its reason.", ("history",)),
    (
        "Klara drew a light and its name on Monday. The log has it, a line an event.",
        ("macro", "from-log", "logs/quillmap-2026-10-12.jsonl"),
    ),
    (
        "Lines 3 to 12 become a macro. What was chance, and what belongs to that one chart?",
        (
            "macro",
            "from-log",
            "logs/quillmap-2026-10-12.jsonl",
            "quillmap/Light with name",
            "--from",
            "3",
            "--to",
            "12",
        ),
    ),
    (
        "The chance steps go.",
        ("macro", "drop", "quillmap/light-with-name", "1", "3", "5", "6"),
    ),
    (
        "The point is asked for, with a question of one's own.",
        ("macro", "ask", "quillmap/light-with-name", "1", "at", "Where does the light stand?"),
    ),
    (
        "The name stands 12 above the light, wherever that is.",
        ("macro", "fix", "quillmap/light-with-name", "2", "at", "@1.at+0,12"),
    ),
    ("And what it says is asked.", ("macro", "ask", "quillmap/light-with-name", "2", "text")),
    (
        "On a key.",
        ("assign", "quillmap", "Light with name", "Alt+L", "--why", "L: light"),
    ),
    (
        "Played on another chart, dry: it works. But did that light blink like the first one?",
        (
            "macro",
            "play",
            "quillmap/light-with-name",
            "--document",
            "documents/quillmap/west-quay.json",
            "--answer",
            "at=90,60",
            "--answer",
            "text=Wick Head",
            "--dry-run",
        ),
    ),
    ("The check knows what was forgotten.", ("check", "quillmap", "--brief")),
    (
        "So the light's character is asked for too, and the finding is gone.",
        ("macro", "ask", "quillmap/light-with-name", "1", "character", "Which character?"),
    ),
    (
        "On all three charts: where does it come out otherwise?",
        (
            "macro",
            "play",
            "quillmap/light-with-name",
            "--on-each",
            "documents/quillmap",
            "--answer",
            "at=90,60",
            "--answer",
            "text=Wick Head",
            "--answer",
            "character=Oc.R.4s",
        ),
    ),
    (
        "A long name, set ten times a day: two letters and the value.",
        ("macro", "setting", "quillmap", "Dim other layers", "--key", "D O"),
    ),
    (
        "A sheet for the wall. As HTML it prints on A4 and Letter.",
        ("sheet", "quillmap", "--mode", "label"),
    ),
)


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "folder",
        nargs="?",
        default=FOLDER,
        metavar="FOLDER",
        help=f"a new or empty folder ({FOLDER})",
    )


def run(args: Any, around: Surroundings) -> int:
    folder = os.path.abspath(os.path.join(around.folder, args.folder))
    started = time.monotonic()
    _lay_out(folder, args.folder)
    if args.quiet:
        return 0
    for n, (caption, words) in enumerate(TOUR, 1):
        around.say(f"{GREEN}{n}. {caption}{OFF}")
        around.say(f"{BOLD}$ olive-compass {' '.join(map(_typed, words))}{OFF}")
        _show(words, folder, around)
        around.say()
    sheet = os.path.join(folder, "quillmap.html")
    text = io.StringIO()
    _run(("sheet", "quillmap", "--as", "html"), folder, around, text)
    with open(sheet, "w", encoding="utf-8") as file:
        file.write(text.getvalue())
    around.say(
        f"The desk is in {args.folder}, the sheet in {os.path.join(args.folder, 'quillmap.html')}. "
        f"{DIM}{len(TOUR) + 1} commands in {time.monotonic() - started:.1f} s.{OFF}\n"
        f"Go on by yourself: cd {_typed(args.folder)} && olive-compass find --unassigned"
    )
    return 0


def _lay_out(folder: str, named: str) -> None:
    """Copies the demo's files into ``folder``, which must be new or empty."""
    if os.path.exists(folder) and (not os.path.isdir(folder) or os.listdir(folder)):
        raise Refused(
            "There is something in this folder already; nothing was written.",
            file=named,
            hint="Name another: olive-compass demo FOLDER",
        )
    import shutil
    from importlib.resources import as_file, files

    with as_file(files("olive_compass.data") / "demo") as origin:
        try:
            shutil.copytree(origin, folder, dirs_exist_ok=True)
        except OSError as error:
            raise Refused(f"The demo cannot be laid out: {error}.", file=named) from error


def _show(words: tuple[str, ...], folder: str, around: Surroundings) -> None:
    """Runs a command as a script would, and shows what it says on either stream."""
    _run(words, folder, around, around.out)


def _run(words: tuple[str, ...], folder: str, around: Surroundings, out: Any) -> int:
    from olive_compass.cli.main import main

    inner = Surroundings(
        out,
        out,
        environ=around.environ,
        folder=folder,
        interactive=False,
        colour=around.colour,
        width=around.width,
    )
    return main(words, inner)


def _typed(word: str) -> str:
    plain = word and all(char.isalnum() or char in "-_./+" for char in word)
    return word if plain else f'"{word}"'
