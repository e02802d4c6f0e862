"""``unpack``: takes a bundle in, after showing what it would change."""

import argparse
import os
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.files import read_file
from olive_compass.cli.parsing import despite_guard_option, dry_run_option, json_option
from olive_compass.cli.saving import confirm, save, until_saved
from olive_compass.cli.sharing.differences import print_sections, sections_json
from olive_compass.cli.sharing.guarding import refuse_broken_guards
from olive_compass.cli.sharing.sides import compare_desks
from olive_compass.cli.surroundings import BOLD, OFF, Surroundings
from olive_compass.core.keys.system import SYSTEM_KEYS
from olive_compass.core.wording import counted
from olive_compass.desk import system_file
from olive_compass.desk.bundles import Bundle, opened, unpack
from olive_compass.desk.desk import DESK_FILE, SYSTEM_FILE, Desk
from olive_compass.desk.history import FileChange
from olive_compass.errors import Refused

GROUP = "share"
ORDER = 95
SUMMARY = "Take a bundle in, after showing what it would change"
EXAMPLES = """olive-compass unpack larkspur.zip --dry-run
olive-compass unpack larkspur.zip --if-there theirs --yes
olive-compass unpack larkspur.zip --if-there ours --yes"""


#: The files of system keys as new desks have them.
_UNTOUCHED = [system_file.new_text(keys) for keys in SYSTEM_KEYS.values()]


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("file", metavar="FILE", help="the bundle")
    parser.add_argument(
        "--if-there",
        choices=("ours", "theirs", "stop"),
        help="which side stands where a file is there already and differs (asked at a terminal)",
    )
    parser.add_argument(
        "--settings", action="store_true", help="take desk.toml as well, with keyboard and stacks"
    )
    parser.add_argument("--yes", action="store_true", help="do it unasked")
    despite_guard_option(parser)
    dry_run_option(parser)
    json_option(parser)


def run(args: Any, around: Surroundings) -> int:
    return until_saved(lambda: _unpack(args, around))


def _unpack(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    bundle = unpack(read_file(around, args.file), args.file)
    path = os.path.join(around.folder, args.file)
    fresh, collisions, alike = _sorted_out(args, at, bundle)
    _show(args, around, at, path, bundle, fresh, collisions, alike)
    if not fresh and not collisions:
        around.report("All of it is here already; nothing was changed.")
        return 0
    if args.dry_run:
        if not args.json:
            around.say("Nothing was written.")
        return 0
    chosen = [*fresh, *_settled(args, around, collisions)]
    if not chosen:
        around.report("Nothing was taken; nothing was changed.")
        return 0
    confirm(args, around, "Unpacking", "Do it?", "Nothing was unpacked.")
    changes = [FileChange(name, _now(at, name), bundle.files[name]) for name in chosen]
    refuse_broken_guards(at, changes, args.despite)
    what = f"Unpacked {bundle.scope} {bundle.name}: {counted(len(changes), 'file')}"
    save(at, around, changes, what)
    around.report(f"{what}. To take it back: olive-compass undo")
    around.report("Look whether it fits this keyboard and seat: olive-compass check")
    return 0


def _sorted_out(args: Any, at: Desk, bundle: Bundle) -> tuple[list[str], list[str], list[str]]:
    """The files that are new here, those that differ from ours, and those that are alike."""
    fresh: list[str] = []
    collisions: list[str] = []
    alike: list[str] = []
    for name, data in bundle.files.items():
        if name == DESK_FILE and not args.settings:
            continue
        now = _now(at, name)
        if name == SYSTEM_FILE and now in _UNTOUCHED:
            # A new desk has the keys of its platform; nobody has decided about them yet.
            now = None
        (fresh if now is None else alike if now == data else collisions).append(name)
    return fresh, collisions, alike


def _show(
    args: Any,
    around: Surroundings,
    at: Desk,
    path: str,
    bundle: Bundle,
    fresh: list[str],
    collisions: list[str],
    alike: list[str],
) -> None:
    """What the bundle is, and what it would change, decision by decision."""
    theirs = opened(path, args.file)
    # What the bundle does not speak of does not go by unpacking it.
    touched = {name.rsplit(".", 1)[0] for name in (*fresh, *collisions)}
    sections = [
        section._replace(differences=[d for d in section.differences if d.what != "gone"])
        if section.name not in touched
        else section
        for section in compare_desks(at, theirs)
    ]
    sections = [section for section in sections if section.differences]
    if args.json:
        around.json(
            {
                "scope": bundle.scope,
                "name": bundle.name,
                "made": bundle.made,
                "new": fresh,
                "differ": collisions,
                "alike": alike,
                "differences": sections_json(sections),
            }
        )
        return
    if around.quiet:
        return
    around.say(f"{BOLD}{args.file}{OFF}: {bundle.scope} {bundle.name}, made {bundle.made}")
    for label, names in (("new here", fresh), ("differ from ours", collisions)):
        if names:
            around.say(f"  {label}: {', '.join(names)}")
    if alike:
        around.say(f"  alike: {counted(len(alike), 'file')}")
    if sections:
        print_sections(around, theirs, sections)


def _settled(args: Any, around: Surroundings, collisions: list[str]) -> list[str]:
    """The files that differ and are to be taken from the bundle."""
    if not collisions or args.if_there == "ours":
        return []
    if args.if_there == "theirs":
        return collisions
    if args.if_there == "stop" or not around.interactive:
        raise Refused(
            f"{counted(len(collisions), 'file')} of the bundle differ from ours, "
            f"{collisions[0]} first; nothing was changed.",
            hint="Say --if-there theirs or ours.",
        )
    chosen: list[str] = []
    for n, name in enumerate(collisions):
        answer = around.ask(
            f"{name} is here and differs. [o: ours, t: theirs, a: all theirs, q: stop]"
        )
        if answer.lower().startswith("q"):
            raise Refused("Nothing was unpacked.")
        if answer.lower().startswith("a"):
            return [*chosen, *collisions[n:]]
        if answer.lower().startswith("t"):
            chosen.append(name)
    return chosen


def _now(at: Desk, name: str) -> bytes | None:
    """The file as it is here, None where there is none."""
    if not os.path.isfile(os.path.join(at.root, name)):
        return None
    return at.bytes(name)
