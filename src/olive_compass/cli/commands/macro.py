"""``macro``: records, shows, cleans, plays and carries macros."""

import argparse
from collections.abc import Callable

from olive_compass.cli.options import (
    app_argument,
    command_argument,
    dry_run_option,
    json_option,
    list_options,
    mode_option,
    reason_option,
    scheme_option,
    session_options,
    write_options,
    yes_option,
)
from olive_compass.cli.pairs import column_option
from olive_compass.cli.verbs import Verb

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


def _which(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("which", metavar="APP/MACRO")


def _step(parser: argparse.ArgumentParser) -> None:
    _which(parser)
    parser.add_argument("step", type=int, metavar="STEP", help="the number of the step")


def _show(parser: argparse.ArgumentParser) -> None:
    _which(parser)
    json_option(parser)


def _record(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("which", metavar="APP/NAME", help="the name of the new macro")
    session_options(parser)


def _from_log(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("log", metavar="FILE", help="a session log, or another application's")
    parser.add_argument(
        "which", nargs="?", metavar="APP/NAME", help="the new macro (default: show the log)"
    )
    parser.add_argument("--lines", metavar="N..M", help="these lines only; N.. and ..M are open")
    column_option(parser, "command, time, mode, how, key, inputs or outcome")
    parser.add_argument(
        "--flat",
        action="store_true",
        help="take the steps of macros that were played, not the macros",
    )
    write_options(parser)


def _setting(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    command_argument(parser, "setting", metavar="SETTING")
    parser.add_argument("--name", metavar="NAME", help="the macro's name (default: the setting's)")
    parser.add_argument("--question", metavar="TEXT", help="the question that it asks")
    parser.add_argument("--key", metavar="KEY", help="a free key or sequence for it")
    reason_option(parser, "the reason for the key")
    scheme_option(parser)
    write_options(parser)


def _input(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("input", metavar="INPUT")


def _ask(parser: argparse.ArgumentParser) -> None:
    _step(parser)
    _input(parser)
    parser.add_argument("question", nargs="?", metavar="QUESTION")
    write_options(parser)


def _fix(parser: argparse.ArgumentParser) -> None:
    _step(parser)
    _input(parser)
    parser.add_argument(
        "value", nargs="?", metavar="VALUE", help="the value (default: the recorded one)"
    )
    write_options(parser)


def _cut(parser: argparse.ArgumentParser) -> None:
    _which(parser)
    parser.add_argument("steps", nargs="+", type=int, metavar="STEP")
    write_options(parser)


def _move(parser: argparse.ArgumentParser) -> None:
    _step(parser)
    parser.add_argument("to", type=int, metavar="TO")
    write_options(parser)


def _insert(parser: argparse.ArgumentParser) -> None:
    _step(parser)
    command_argument(parser, "command", nargs="?", metavar="COMMAND")
    parser.add_argument(
        "--press", metavar="KEY", help="insert a press of this key instead of a command"
    )
    parser.add_argument(
        "--input", dest="inputs", action="append", default=[], metavar="INPUT=VALUE"
    )
    parser.add_argument("--ask", dest="asks", action="append", default=[], metavar="INPUT")
    write_options(parser)


def _note(parser: argparse.ArgumentParser) -> None:
    _step(parser)
    parser.add_argument("text", metavar="TEXT", help="the note; an empty text removes it")
    write_options(parser)


def _split(parser: argparse.ArgumentParser) -> None:
    _step(parser)
    parser.add_argument("name", metavar="NAME", help="the name of the second macro")
    write_options(parser)


def _join(parser: argparse.ArgumentParser) -> None:
    _which(parser)
    parser.add_argument("other", metavar="OTHER")
    write_options(parser)


def _remove(parser: argparse.ArgumentParser) -> None:
    _which(parser)
    write_options(parser)


def _tidy(parser: argparse.ArgumentParser) -> None:
    _which(parser)
    yes_option(parser)
    write_options(parser)


def _play(parser: argparse.ArgumentParser) -> None:
    _which(parser)
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
    mode_option(parser, "start in this mode, without a document")
    parser.add_argument("--step", action="store_true", help="wait after each step")
    parser.add_argument("--keep", action="store_true", help="keep what was done if it stops")
    write_options(parser)


def _export(parser: argparse.ArgumentParser) -> None:
    _which(parser)
    parser.add_argument(
        "--as",
        dest="form",
        choices=("toml", "json"),
        default="toml",
        help="the output form (default: toml)",
    )
    parser.add_argument(
        "-o",
        "--out",
        metavar="FILE",
        help="output file; must not exist yet (default: the terminal)",
    )
    dry_run_option(parser)


def _import(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("file", metavar="FILE")
    parser.add_argument(
        "--app", required=True, metavar="APP", help="the application to import it for"
    )
    parser.add_argument("--name", metavar="NAME", help="its name here (default: its title)")
    parser.add_argument("--table", metavar="FILE", help="a CSV of two columns: their command, ours")
    write_options(parser)


def _edits(name: str, help: str, options: Callable[[argparse.ArgumentParser], None]) -> Verb:
    """A verb that changes one macro."""
    return Verb(name=name, help=help, options=options, work="macros.editing.edit")


VERBS = (
    Verb(
        name="list",
        help="list the macros on this desk",
        options=list_options,
        work="macros.showing.list_macros",
    ),
    Verb(
        name="show",
        help="show its steps, and what looks accidental in them",
        options=_show,
        work="macros.showing.show_macro",
    ),
    Verb(
        name="record",
        help="record your work in the simulator as a macro",
        options=_record,
        work="macros.simulating.simulate",
        retries=False,
    ),
    Verb(
        name="from-log",
        help="create a macro from a part of a log, or show the log",
        options=_from_log,
        work="macros.recording.from_log",
    ),
    Verb(
        name="setting",
        help="create a macro that asks for the value of a setting",
        options=_setting,
        work="macros.recording.setting",
    ),
    _edits("ask", "turn a fixed value into a question", _ask),
    _edits("fix", "turn a question into a fixed value, or set one", _fix),
    _edits("cut", "remove steps", _cut),
    _edits("move", "move a step to another place", _move),
    _edits("insert", "insert a step before another", _insert),
    _edits("note", "write a note to a step", _note),
    _edits("split", "split a macro in two, from a step on", _split),
    _edits("join", "add the steps of another macro", _join),
    _edits("remove", "remove a macro", _remove),
    _edits(
        "tidy", "remove accidental steps, and ask for values that belong to one document", _tidy
    ),
    Verb(
        name="play",
        help="play a macro in the simulator",
        options=_play,
        work="macros.playing.play_macro",
    ),
    Verb(
        name="export",
        help="export a macro as TOML or JSON",
        options=_export,
        work="macros.travel.export_macro",
    ),
    Verb(
        name="import",
        help="import a macro, also from another application",
        options=_import,
        work="macros.travel.import_macro",
    ),
)
