"""``demo``: lays out a desk of a made-up studio and walks through a day's work on it."""

import argparse
import os
import time
from collections.abc import Sequence
from typing import Any

from olive_compass.cli.files import is_in_use
from olive_compass.cli.options import Common
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, GREEN, OFF
from olive_compass.cli.tour import Scene, tours
from olive_compass.errors import UserError

GROUP = "first steps"
ORDER = 10
SUMMARY = "Create a sample desk and replay ten steps of work on it"
EXAMPLES = """olive-compass demo
olive-compass demo all-of-it --all
olive-compass demo step-by-step --step 1
olive-compass demo my-folder --quiet"""

FOLDER = "larkspur"


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "folder",
        nargs="?",
        default=FOLDER,
        metavar="FOLDER",
        help=f"a new or empty folder (default: {FOLDER})",
    )
    which = parser.add_mutually_exclusive_group()
    which.add_argument("--all", action="store_true", help="play the whole tour, over 100 commands")
    which.add_argument(
        "--step",
        type=int,
        choices=range(1, len(tours().first) + 1),
        metavar="N",
        help=f"play only step N of {len(tours().first)}; step 1 creates the desk",
    )


class DemoOptions(Common, kw_only=True):
    """The options of ``demo``."""

    folder: str
    all: bool
    step: int | None


def run(args: DemoOptions, context: Surroundings) -> int:
    folder = os.path.abspath(os.path.join(context.folder, args.folder))
    started = time.monotonic()
    if args.step in (None, 1):
        _lay_out(folder, args.folder)
    else:
        _must_be_laid_out(folder, args.folder)
    if args.quiet:
        return 0
    scenes = tours().first
    if args.all:
        scenes = tours().whole
    chosen = scenes
    if args.step:
        chosen = scenes[args.step - 1 : args.step]
    _play(chosen, args.step or 1, folder, context)
    if args.step and args.step < len(tours().first):
        context.say(f"\nNext: olive-compass demo {_typed(args.folder)} --step {args.step + 1}")
        return 0
    took = ""
    if not args.step:
        seconds = time.monotonic() - started
        took = f" {DIM}{len(chosen)} commands in {seconds:.1f} s.{OFF}"
    context.say(
        f"\nThe desk is in {args.folder}.{took} Try:\n  cd {_typed(args.folder)}\n"
        "  olive-compass find --unassigned\n  olive-compass press quillmap Ctrl+D"
    )
    return 0


def _must_be_laid_out(folder: str, named: str) -> None:
    """Raises ``UserError`` where a step is to be played and there is no desk yet."""
    if not os.path.isfile(os.path.join(folder, "desk.toml")):
        raise UserError(
            "There is no desk in this folder yet.",
            file=named,
            hint=f"Play step 1 first: olive-compass demo {_typed(named)} --step 1",
        )


def _play(scenes: Sequence[Scene], number: int, folder: str, context: Surroundings) -> None:
    """Runs the commands one after another, each below what its scene says; ``number`` is that of the first."""
    has_git = any(scene.words[0] == "git" for scene in scenes) and _has_git(folder)
    for scene in scenes:
        words = scene.words
        if scene.says:
            context.say(f"\n{GREEN}{number}. {scene.says}{OFF}")
            number += 1
        line = " ".join(map(_typed, words))
        if words[0] == "over-there":
            _over_there(words[1:], folder, context)
        elif words[0] != "git":
            context.say(f"{BOLD}$ olive-compass {line}{OFF}")
            _show(words, folder, context)
        elif has_git:
            context.say(f"{BOLD}$ {line}{OFF}")
            _git(words[1:], folder, context)
        else:
            context.say("git is not installed here, so this is left out.")


def _lay_out(folder: str, named: str) -> None:
    """Copies the demo's files into ``folder``, which must be new or empty."""
    if is_in_use(folder):
        raise UserError(
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
            raise UserError(f"The demo cannot be created: {error}.", file=named) from error


def _has_git(folder: str) -> bool:
    from olive_compass.desk.git import run as git

    try:
        return git(folder, "--version").returncode == 0
    except UserError:
        return False


def _git(words: tuple[str, ...], folder: str, context: Surroundings) -> None:
    """Runs real git in the demo's own repository, as Klara, and shows what it says."""
    from olive_compass.desk.git import run as git

    me = ("-c", "user.name=Klara", "-c", "user.email=klara@larkspur.example")
    if words[0] != "init" and not os.path.isdir(os.path.join(folder, ".git")):
        return
    done = git(folder, *me, *words)
    for line in (done.stdout + done.stderr).decode("utf-8", "replace").splitlines():
        if not line.startswith(("warning:", "hint:")):
            context.say(line)


def _over_there(words: tuple[str, ...], folder: str, context: Surroundings) -> None:
    """Changes a file as the application that it belongs to would, and says so."""
    path, old, new = words
    context.say(f"{DIM}({path}: “{old}” becomes “{new}”){OFF}")
    whole = os.path.join(folder, path)
    with open(whole, encoding="utf-8") as file:
        text = file.read()
    with open(whole, "w", encoding="utf-8") as file:
        file.write(text.replace(old, new))


def _show(words: tuple[str, ...], folder: str, context: Surroundings) -> None:
    """Runs a command as a script would, and shows what it says on either stream."""
    _run(words, folder, context, context.out)


def _run(words: tuple[str, ...], folder: str, context: Surroundings, out: Any) -> int:
    from olive_compass.cli.main import main

    inner = Surroundings(
        out,
        out,
        environ=context.environ,
        folder=folder,
        interactive=False,
        colour=context.colour,
        width=context.width,
    )
    return main(words, inner)


def _typed(word: str) -> str:
    plain = word and all(char.isalnum() or char in "-_./+" for char in word)
    if plain:
        return word
    return f'"{word}"'
