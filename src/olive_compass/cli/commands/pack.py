"""``pack``: one file to carry a scheme, an application, a key set or the whole desk."""

import argparse
import os

from olive_compass.cli import pick
from olive_compass.cli.options import WriteOptions, write_options
from olive_compass.cli.output.new_file import claimed, write_new
from olive_compass.cli.sharing.keysets import keyset_named
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.wording import counted
from olive_compass.desk.bundles import FILES, FOLDERS, Bundle, files_of, pack, packed_stacks
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats.keyset_file import keyset_path
from olive_compass.desk.paths import app_path, catalogue_path, scheme_path

GROUP = "share"
ORDER = 50
SUMMARY = "Pack a desk, application, scheme or key set into one file"
EXAMPLES = """olive-compass pack studio.zip --dry-run
olive-compass pack quillmap.zip --app quillmap
olive-compass pack mine.zip --scheme quillmap/mine
olive-compass pack keys.zip --keyset larkspur"""

#: What says what somebody did, and when: it travels only where that is wanted.
EXTRA = ("logs", "tallies")


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("file", metavar="FILE", help="the bundle, a zip file; must not exist yet")
    what = parser.add_mutually_exclusive_group()
    what.add_argument("--app", metavar="APP", help="one application with its schemes and macros")
    what.add_argument("--scheme", metavar="APP/NAME", help="one scheme with its application")
    what.add_argument("--keyset", metavar="SET", help="one key set with the purposes")
    parser.add_argument(
        "--with",
        dest="extra",
        action="append",
        choices=EXTRA,
        default=[],
        help="also pack the logs, or the counts of them (default: neither)",
    )
    write_options(parser)


class PackOptions(WriteOptions, kw_only=True):
    """The options of ``pack``."""

    file: str
    app: str | None
    scheme: str | None
    keyset: str | None
    extra: list[str]


def run(args: PackOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    scope, name, beginnings = _scope(args.app, args.scheme, args.keyset, desk, context)
    beginnings = [each for each in beginnings if each[:-1] not in EXTRA or each[:-1] in args.extra]
    found = files_of(desk.root, beginnings)
    files, left_out = found.files, found.left_out
    made = context.now().isoformat(timespec="seconds")
    data = pack(
        Bundle(scope=scope, name=name, made=made, files=files, stacks=packed_stacks(desk, files))
    )
    claimed(context, args.file)
    what = f"{scope} {name}: {counted(len(files), 'file')}, {len(data)} bytes"
    left = [f"Left out: {path} ({why})." for path, why in left_out.items()]
    if args.dry_run:
        context.say(f"Would pack the {what}:\n  " + "\n  ".join(files))
        context.say("\n".join([*left, "Dry run: nothing was written."]))
    else:
        write_new(context, args.file, data)
    if args.json:
        gone = [{"file": file, "why": why} for file, why in left_out.items()]
        context.json(
            {
                "file": args.file,
                "dry-run": args.dry_run,
                "bytes": len(data),
                "files": list(files),
                "left-out": gone,
            }
        )
    if args.dry_run or args.json:
        return 0
    context.report(f"Packed the {what} ({args.file}).")
    for line in left:
        context.report(line)
    context.report(f"On the other desk: olive-compass unpack {os.path.basename(args.file)}")
    return 0


def _scope(
    asked_app: str | None, scheme: str | None, keyset: str | None, desk: Desk, context: Surroundings
) -> tuple[str, str, list[str]]:
    """What is packed, what it is called, and how the paths of its files begin."""
    if asked_app:
        app = desk.app_name(asked_app)
        return (
            "application",
            app,
            [f"{f}/{app}/" for f in ("apps", "schemes", "macros")] + [f"trays/{app}.toml"],
        )
    if scheme:
        found, name = pick.app_and_scheme(desk, scheme, context)
        desk.scheme(found, name)
        paths = [app_path(found.name), catalogue_path(found.name), scheme_path(found.name, name)]
        return "scheme", f"{found.name}/{name}", paths
    if keyset:
        keyset_named(desk, keyset)
        return "key set", keyset, [keyset_path(keyset), "purposes.csv"]
    return "desk", desk.settings.name or "desk", [*FILES, *FOLDERS]
