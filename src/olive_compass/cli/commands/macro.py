"""``macro``: records, shows, cleans, plays and carries macros."""

import argparse

from olive_compass.cli.changing.saving import retry_on_conflict
from olive_compass.cli.completion import complete_with, macro_names
from olive_compass.cli.options import (
    Verbs,
    app_argument,
    command_argument,
    dry_run_option,
    json_option,
    scheme_option,
    session_options,
    yes_option,
)
from olive_compass.cli.pairs import column_option
from olive_compass.cli.registry import typed, verb
from olive_compass.cli.surroundings import Surroundings

GROUP = "automate"
ORDER = 10
SUMMARY = "Record macros, tidy them, turn values into questions, play them"
EXAMPLES = """olive-compass macro list
olive-compass macro record "quillmap/Harbour lights" --script scripts/harbour.txt
olive-compass macro from-log logs/quillmap-2026-10-12.jsonl
olive-compass macro from-log logs/quillmap-2026-10-12.jsonl "quillmap/Two lights" --lines 3..12
olive-compass macro show quillmap/light-with-name
olive-compass macro tidy quillmap/light-with-name
olive-compass macro ask quillmap/light-with-name 1 character "Which character has the light?"
olive-compass macro fix quillmap/light-with-name 1 sectors 4
olive-compass macro cut quillmap/light-with-name 1 3
olive-compass macro move quillmap/light-with-name 3 1
olive-compass macro insert quillmap/light-with-name 2 "Halo" --input value=0.8
olive-compass macro note quillmap/light-with-name 2 "as on all harbour charts"
olive-compass macro split quillmap/light-with-name 3 "Name only"
olive-compass macro join quillmap/light-with-name dim-other-layers
olive-compass macro play quillmap/light-with-name --document documents/quillmap/west-quay.json --dry-run
olive-compass macro play quillmap/light-with-name --on-each documents/quillmap
olive-compass macro setting quillmap Grid --key "D G"
olive-compass macro export quillmap/light-with-name --as json
olive-compass macro import elsewhere/light.toml --app quillmap
olive-compass macro remove quillmap/light-with-name"""

#: The verbs that edit a macro.
_EDITING = ("ask", "fix", "cut", "move", "insert", "note", "split", "join", "remove", "tidy")

#: The verbs, and the module and function that does each.
_VERBS = {
    "list": ("showing", "list_macros"),
    "show": ("showing", "show_macro"),
    "from-log": ("recording", "from_log"),
    "setting": ("recording", "setting"),
    **dict.fromkeys(_EDITING, ("editing", "edit")),
    "play": ("playing", "play_macro"),
    "export": ("travel", "export_macro"),
    "import": ("travel", "import_macro"),
}


def add_arguments(parser: argparse.ArgumentParser) -> None:
    verbs = parser.add_subparsers(dest="verb", metavar="VERB", required=True)
    listing = verbs.add_parser("list", help="list the macros on this desk")
    app_argument(listing, optional=True)
    json_option(listing)
    json_option(_macro(verbs, "show", "show its steps, and what looks accidental in them"))
    _recording(verbs)
    ask = _macro(verbs, "ask", "turn a fixed value into a question", step=True)
    ask.add_argument("input", metavar="INPUT")
    ask.add_argument("question", nargs="?", metavar="QUESTION")
    fix = _macro(verbs, "fix", "turn a question into a fixed value, or set one", step=True)
    fix.add_argument("input", metavar="INPUT")
    fix.add_argument(
        "value", nargs="?", metavar="VALUE", help="the value (default: the recorded one)"
    )
    drop = _macro(verbs, "cut", "remove steps")
    drop.add_argument("steps", nargs="+", type=int, metavar="STEP")
    _macro(verbs, "move", "move a step to another place", step=True).add_argument(
        "to", type=int, metavar="TO"
    )
    _insert(_macro(verbs, "insert", "insert a step before another", step=True))
    note = _macro(verbs, "note", "write a note to a step", step=True)
    note.add_argument("text", metavar="TEXT", help="the note; an empty text removes it")
    split = _macro(verbs, "split", "split a macro in two, from a step on", step=True)
    split.add_argument("name", metavar="NAME", help="the name of the second macro")
    join = _macro(verbs, "join", "add the steps of another macro")
    join.add_argument("other", metavar="OTHER")
    _macro(verbs, "remove", "remove a macro")
    tidy = _macro(
        verbs, "tidy", "remove accidental steps, and ask for values that belong to one document"
    )
    yes_option(tidy)
    for name in _EDITING:
        dry_run_option(verbs.choices[name])
        json_option(verbs.choices[name])
    _play(_macro(verbs, "play", "play a macro in the simulator"))
    _travel(verbs)


def _macro(verbs: Verbs, name: str, does: str, step: bool = False) -> argparse.ArgumentParser:
    parser: argparse.ArgumentParser = verbs.add_parser(name, help=does)
    which = parser.add_argument("which", metavar="APP/MACRO")
    complete_with(which, macro_names)
    if step:
        parser.add_argument("step", type=int, metavar="STEP", help="the number of the step")
    return parser


def _recording(verbs: Verbs) -> None:
    record = verbs.add_parser("record", help="record your work in the simulator as a macro")
    record.add_argument("which", metavar="APP/NAME", help="the name of the new macro")
    session_options(record)
    log = verbs.add_parser("from-log", help="create a macro from a part of a log, or show the log")
    log.add_argument("log", metavar="FILE", help="a session log, or another application's")
    log.add_argument(
        "which", nargs="?", metavar="APP/NAME", help="the new macro (default: show the log)"
    )
    log.add_argument("--lines", metavar="N..M", help="these lines only; N.. and ..M are open")
    column_option(log, "command, time, mode, how, key, inputs or outcome")
    log.add_argument(
        "--flat",
        action="store_true",
        help="take the steps of macros that were played, not the macros",
    )
    dry_run_option(log)
    json_option(log)
    setting = verbs.add_parser(
        "setting", help="create a macro that asks for the value of a setting"
    )
    app_argument(setting)
    command_argument(setting, "setting", metavar="SETTING")
    setting.add_argument("--name", metavar="NAME", help="the macro's name (default: the setting's)")
    setting.add_argument("--question", metavar="TEXT", help="the question that it asks")
    setting.add_argument("--key", metavar="KEY", help="a free key or sequence for it")
    setting.add_argument("--why", default="", metavar="TEXT", help="the reason for the key")
    scheme_option(setting)
    dry_run_option(setting)
    json_option(setting)


def _insert(parser: argparse.ArgumentParser) -> None:
    command_argument(parser, "command", nargs="?", metavar="COMMAND")
    parser.add_argument(
        "--press", metavar="KEY", help="insert a press of this key instead of a command"
    )
    parser.add_argument(
        "--input", dest="inputs", action="append", default=[], metavar="INPUT=VALUE"
    )
    parser.add_argument("--ask", dest="asks", action="append", default=[], metavar="INPUT")


def _play(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "--document", metavar="FILE", help="play it on this document, and save the document"
    )
    parser.add_argument(
        "--on-each", metavar="FOLDER", help="play it on each document of a folder, and save none"
    )
    parser.add_argument("--answers", metavar="FILE", help="answers, as TOML or JSON")
    parser.add_argument(
        "--answer",
        action="append",
        default=[],
        metavar="INPUT=VALUE",
        help="one answer; 2.at=120,80 is for step 2 only",
    )
    parser.add_argument("--mode", metavar="MODE", help="start in this mode, without a document")
    parser.add_argument("--step", action="store_true", help="wait after each step")
    parser.add_argument("--keep", action="store_true", help="keep what was done if it stops")
    dry_run_option(parser)
    json_option(parser)


def _travel(verbs: Verbs) -> None:
    export = _macro(verbs, "export", "export a macro as TOML or JSON")
    export.add_argument(
        "--as",
        dest="form",
        choices=("toml", "json"),
        default="toml",
        help="the output form (default: toml)",
    )
    export.add_argument(
        "-o",
        "--out",
        metavar="FILE",
        help="output file; must not exist yet (default: the terminal)",
    )
    dry_run_option(export)
    take_in = verbs.add_parser("import", help="import a macro, also from another application")
    take_in.add_argument("file", metavar="FILE")
    take_in.add_argument(
        "--app", required=True, metavar="APP", help="the application to import it for"
    )
    take_in.add_argument("--name", metavar="NAME", help="its name here (default: its title)")
    take_in.add_argument(
        "--table", metavar="FILE", help="a CSV of two columns: their command, ours"
    )
    dry_run_option(take_in)
    json_option(take_in)


def run(args: argparse.Namespace, context: Surroundings) -> int:
    if args.verb == "record":
        from olive_compass.cli.macros.stand_in import stand_in

        return typed(stand_in)(args, context)
    module, function = _VERBS[args.verb]
    work = verb(f"macros.{module}", function)
    return retry_on_conflict(lambda: work(args, context), context)
