"""``fileformat``: file formats, by which an application's shortcuts file is read and written."""

import argparse
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.files import read_file
from olive_compass.cli.keeping import keep, writing_of
from olive_compass.cli.parsing import dry_run_option, json_option
from olive_compass.cli.saving import until_saved
from olive_compass.cli.surroundings import BOLD, OFF, Surroundings
from olive_compass.cli.tables import print_fields, print_table
from olive_compass.core.keys.written_cells import write_cell
from olive_compass.core.wording import counted
from olive_compass.desk.delivery import opened
from olive_compass.desk.desk import Desk
from olive_compass.desk.file_format_file import TEXTS, file_format_path, new_text, read
from olive_compass.desk.file_names import checked_name
from olive_compass.desk.records import FileChange
from olive_compass.desk.shortcuts_file import HOLDS, SEVERAL, FileFormat
from olive_compass.desk.shortcuts_file import read as read_entries
from olive_compass.errors import Refused
from olive_compass.structs import replace

GROUP = "share"
ORDER = 85
SUMMARY = "Describe an application's shortcuts file, so that it can be read and written"
EXAMPLES = r"""olive-compass fileformat new plain --pattern '^(?P<id>[\w.-]+) = (?P<keys>.*)$' --entry '{id} = {keys}'
olive-compass fileformat list
olive-compass fileformat show kiln
olive-compass fileformat try kiln kiln/keys.kiln
olive-compass fileformat drop lines --dry-run"""

#: How many records are shown when a format is tried.
MOST_SHOWN = 12


def add_arguments(parser: argparse.ArgumentParser) -> None:
    verbs = parser.add_subparsers(dest="verb", metavar="new|list|show|try|drop", required=True)
    new = verbs.add_parser("new", help="describe a format")
    new.add_argument("name", metavar="NAME")
    helps = {
        "title": "what it is called",
        "pattern": "a record as a regular expression, with (?P<keys>…) and (?P<id>…) or (?P<title>…)",
        "section": "the heading of the records of a mode, with (?P<mode>…)",
        "entry": "a new record, with {id} {title} {menu} {mode} {keys} in it",
        "between": "what parts two records (the end of a line)",
        "new-section": "a new section, with {mode} and {entry} in it",
        "section-end": "the sign at the end of a section",
        "each": "how one key is written in the cell, with {key} in it",
        "join": "what parts several keys",
        "none": "the cell of a command without a key (its record goes)",
    }
    for name in TEXTS:
        if name in helps:
            new.add_argument(f"--{name}", metavar="TEXT", help=helps[name])
    new.add_argument("--several", choices=SEVERAL, help="a command with several keys (joined)")
    new.add_argument("--holds", choices=HOLDS, help="all keys, or only what differs from factory")
    for name, help_ in (
        ("escape", "a sign that is written otherwise, such as '\"=\\\"'"),
        ("spell", "a word for a modifier or a key, such as 'C-=Ctrl+'"),
        ("mode-name", "a mode of ours and what the file calls it, such as everywhere=global"),
    ):
        new.add_argument(f"--{name}", action="append", default=[], metavar="A=B", help=help_)
    dry_run_option(new)
    json_option(new)
    json_option(verbs.add_parser("list", help="the forms on this desk"))
    show = verbs.add_parser("show", help="a format at a glance")
    show.add_argument("name", metavar="NAME")
    json_option(show)
    attempt = verbs.add_parser("try", help="what a format makes of a file; nothing is written")
    attempt.add_argument("name", metavar="NAME")
    attempt.add_argument("file", metavar="FILE")
    json_option(attempt)
    drop = verbs.add_parser("drop", help="take a format away")
    drop.add_argument("name", metavar="NAME")
    dry_run_option(drop)
    json_option(drop)


def run(args: Any, around: Surroundings) -> int:
    verbs = {"new": _new, "list": _list, "show": _show, "try": _try, "drop": _drop}
    return until_saved(lambda: verbs[args.verb](args, around), around)


def _new(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    checked_name(args.name, "a file format", at.file_format_names())
    path = file_format_path(args.name)
    if args.name in at.file_format_names():
        raise Refused(
            f"The desk has a file format “{args.name}” already; nothing was changed.",
            file=path,
        )
    texts: dict[str, Any] = {
        name.replace("-", "_"): _unwritten(value)
        for name in TEXTS
        if (value := getattr(args, name.replace("-", "_"), None)) is not None
    }
    tables: dict[str, Any] = {
        "escapes": _pairs(args.escape),
        "spelling": _pairs(args.spell),
        "modes": _pairs(args.mode_name),
    }
    form = replace(FileFormat(args.name), **texts, **tables)
    data = new_text(form if form.title else replace(form, title=args.name))
    # Read back before it is written: what is wrong is refused as it would be in the file.
    read(data, path, args.name)
    lines = (f"To see what it makes of a file: olive-compass fileformat try {args.name} FILE",)
    return keep(
        writing_of(args),
        around,
        at,
        [FileChange(path, None, data)],
        f"File format {args.name} made",
        lines,
    )


def _unwritten(text: str) -> str:
    r"""A text as it was typed in a shell, with ``\n`` and ``\t`` for what those stand for."""
    return text.replace("\\n", "\n").replace("\\t", "\t") if "(?P<" not in text else text


def _pairs(given: list[str]) -> dict[str, str]:
    found = {}
    for each in given:
        # The first sign may itself be the one that parts the two.
        name, sign, value = each[:1], each[1:2], each[2:]
        if sign != "=":
            name, sign, value = each.partition("=")
        if not sign:
            raise Refused(f"“{each}” has no “=”.", hint="Write A=B.")
        found[name] = value
    return found


def _list(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    forms = [at.file_format(name) for name in at.file_format_names()]
    users = {form.name: _users(at, form.name) for form in forms}
    if args.json:
        rows = [
            {
                "name": form.name,
                "title": form.title,
                "file": file_format_path(form.name),
                "apps": users[form.name],
            }
            for form in forms
        ]
        around.json({"fileformats": rows})
    elif not forms:
        around.say("The desk has no file format yet. Make one: olive-compass fileformat new --help")
    else:
        print_table(
            around,
            ("form", "title", "used by", "writes"),
            [
                (
                    f.name,
                    f.title,
                    ", ".join(users[f.name]) or "-",
                    f.holds if f.entry else "no new record",
                )
                for f in forms
            ],
        )
    return 0


def _users(at: Desk, name: str) -> list[str]:
    return [app for app in at.app_names() if at.reading(app).file_format == name]


def _show(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    form = at.file_format(args.name)
    if args.json:
        value = {name: getattr(form, name.replace("-", "_")) for name in TEXTS}
        tables = {
            "spelling": dict(form.spelling),
            "escapes": dict(form.escapes),
            "modes": dict(form.modes),
        }
        around.json({"name": form.name, "file": file_format_path(form.name), **value, **tables})
        return 0
    around.say(f"{BOLD}{form.title}{OFF} ({file_format_path(form.name)})")
    fields = [
        (name, getattr(form, name.replace("-", "_")) or "") for name in TEXTS if name != "title"
    ]
    tables_ = [
        (name, "\n".join(f"{a} = {b}" for a, b in getattr(form, name).items()))
        for name in ("spelling", "escapes", "modes")
    ]
    shown = [(name, text.replace("\n", "⏎")) for name, text in fields if text]
    print_fields(
        around, [*shown, *tables_, ("used by", ", ".join(_users(at, form.name)) or "no app")]
    )
    return 0


def _try(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    form = at.file_format(args.name)
    content = read_entries(form, opened(read_file(around, args.file)).text, typed=9)
    if args.json:
        around.json(
            {
                "file-format": form.name,
                "records": [
                    {
                        **each.parts,
                        "mode": each.mode or None,
                        "keys": [str(run) for run in each.keys],
                        "problem": each.problem or None,
                    }
                    for each in content.entries
                ],
                "lines-passed-over": content.passed_over,
            }
        )
        return 0 if content.entries else 1
    wrong = [each for each in content.entries if each.problem]
    around.say(
        f"{counted(len(content.entries), 'record')}, {counted(len(wrong), 'record')} with keys that "
        f"cannot be read, {counted(content.passed_over, 'line')} passed over."
    )
    rows = [
        (each.subject, each.mode or "-", each.problem or write_cell(each.keys) or "-")
        for each in [*wrong, *(e for e in content.entries if not e.problem)][:MOST_SHOWN]
    ]
    if rows:
        print_table(around, ("command", "mode", "keys"), rows)
    if len(content.entries) > MOST_SHOWN:
        around.say(f"and {len(content.entries) - MOST_SHOWN} more")
    return 0 if content.entries else 1


def _drop(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    form = at.file_format(args.name)
    path = file_format_path(form.name)
    users = _users(at, form.name)
    if users:
        raise Refused(
            f"{', '.join(users)} is read by it; nothing was changed.",
            file=path,
            hint=f"Read it otherwise first: olive-compass app add {users[0]} --from LISTING --pattern …",
        )
    files = [FileChange(path, at.bytes(path), None)]
    return keep(writing_of(args), around, at, files, f"File format {form.name} dropped")
