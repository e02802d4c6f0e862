"""``fileformat``: file formats, by which an application's shortcuts file is read and written."""

import argparse
from itertools import zip_longest
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.files import read_file
from olive_compass.cli.keeping import keep, writing_of
from olive_compass.cli.parsing import dry_run_option, json_option
from olive_compass.cli.saving import until_saved
from olive_compass.cli.surroundings import BOLD, OFF, Surroundings
from olive_compass.cli.tables import print_fields, print_table
from olive_compass.core.keys.terminal_notation import NOTATIONS, NotWritten
from olive_compass.core.keys.written_cells import write_cell
from olive_compass.core.wording import counted
from olive_compass.desk.by_example import Example, joined_patterns, pattern_of
from olive_compass.desk.delivery import opened
from olive_compass.desk.desk import Desk
from olive_compass.desk.file_format import HOLDS, SEVERAL, FileFormat
from olive_compass.desk.file_format_file import TEXTS, file_format_path, new_text, read, with_field
from olive_compass.desk.file_names import checked_name
from olive_compass.desk.records import FileChange
from olive_compass.desk.shortcut_cells import write_key
from olive_compass.desk.shortcuts_file import Content, Entry
from olive_compass.desk.shortcuts_file import read as read_entries
from olive_compass.desk.shortcuts_writing import written
from olive_compass.desk.structures import STRUCTURES
from olive_compass.errors import Refused
from olive_compass.structs import replace

GROUP = "share"
ORDER = 85
SUMMARY = "Describe an application's shortcuts file, so that it can be read and written"
EXAMPLES = r"""olive-compass fileformat list
olive-compass fileformat try kiln kiln/keys.kiln
olive-compass fileformat try kiln kiln/keys.kiln --verbose
olive-compass fileformat new ours --from kiln/keys.kiln --example '  edit.undo <= C-z' --key C-z --command edit.undo
olive-compass fileformat new plain --pattern '^(?P<id>[\w.-]+) = (?P<keys>.*)$' --entry '{id} = {keys}'
olive-compass fileformat set lines join " or "
olive-compass fileformat show kiln
olive-compass fileformat drop lines --dry-run"""

#: How many records are shown when a format is tried.
MOST_SHOWN = 12


def add_arguments(parser: argparse.ArgumentParser) -> None:
    verbs = parser.add_subparsers(dest="verb", metavar="new|set|list|show|try|drop", required=True)
    new = verbs.add_parser(
        "new", help="describe a format, or let it be told from a line of the file"
    )
    new.add_argument("name", metavar="NAME", help="what the format is to be called")
    new.add_argument(
        "--from", dest="source", metavar="FILE", help="the shortcuts file, to try it on"
    )
    for option, help_ in (
        ("example", "a line of the file as it stands there; again for lines of another shape"),
        ("key", "the key in the example"),
        ("command", "the command in the example"),
        ("mode", "the mode in the example"),
    ):
        metavar = "TEXT" if option == "example" else option.upper()
        new.add_argument(f"--{option}", action="append", default=[], metavar=metavar, help=help_)
    new.add_argument(
        "--titled", action="store_true", help="the command stands there by its title, not by an id"
    )
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
        "off": "a record that switches a key off, with {keys} and {mode} in it",
        "off-pattern": "such a record as a regular expression, with (?P<keys>…)",
        "records": "of XML: the path of the elements that are records, such as .//binding; of JSON: the name under "
        "which they stand",
    }
    for name in TEXTS:
        if name in helps:
            new.add_argument(f"--{name}", metavar="TEXT", help=helps[name])
    new.add_argument("--several", choices=SEVERAL, help="a command with several keys (joined)")
    new.add_argument("--holds", choices=HOLDS, help="all keys, or only what differs from factory")
    new.add_argument(
        "--notation", choices=NOTATIONS, help="keys as programs of the terminal write them"
    )
    new.add_argument(
        "--capitals", choices=["shift"], help="a capital letter is that letter with Shift"
    )
    new.add_argument(
        "--structure", choices=STRUCTURES, help="a file of elements or objects, not of lines"
    )
    for name, help_ in (
        ("field", "where a part of a record is: keys=@key, id=@command, mode=context@name"),
        ("escape", "a sign that is written otherwise, such as '\"=\\\"'"),
        ("spell", "a word for a modifier or a key, such as 'C-=Ctrl+'"),
        ("mode-name", "a mode of ours and what the file calls it, such as everywhere=global"),
    ):
        new.add_argument(f"--{name}", action="append", default=[], metavar="A=B", help=help_)
    dry_run_option(new)
    json_option(new)
    json_option(verbs.add_parser("list", help="the file formats, of this desk and shipped"))
    put = verbs.add_parser("set", help="change one field of a format")
    put.add_argument("name", metavar="NAME", help="the format")
    put.add_argument("field", choices=TEXTS, metavar="FIELD", help=", ".join(TEXTS))
    put.add_argument("value", metavar="VALUE", help="what it is from now on")
    dry_run_option(put)
    json_option(put)
    show = verbs.add_parser("show", help="a format at a glance")
    show.add_argument("name", metavar="NAME")
    json_option(show)
    attempt = verbs.add_parser("try", help="what a format makes of a file; nothing is written")
    attempt.add_argument("name", metavar="NAME")
    attempt.add_argument("file", metavar="FILE", help="a shortcuts file")
    json_option(attempt)
    drop = verbs.add_parser("drop", help="take a format away")
    drop.add_argument("name", metavar="NAME")
    dry_run_option(drop)
    json_option(drop)


def run(args: Any, around: Surroundings) -> int:
    verbs = {"new": _new, "set": _set, "list": _list, "show": _show, "try": _try, "drop": _drop}
    return until_saved(lambda: verbs[args.verb](args, around), around)


def _new(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    checked_name(args.name, "a file format", at.own_file_formats())
    path = file_format_path(args.name)
    if args.name in at.own_file_formats():
        raise Refused(
            f"The desk has a file format “{args.name}” already; nothing was changed.",
            file=path,
        )
    text = opened(read_file(around, args.source)).text if args.source else ""
    texts: dict[str, Any] = _by_examples(args, around, text)
    texts |= {
        name.replace("-", "_"): _unwritten(value)
        for name in TEXTS
        if (value := getattr(args, name.replace("-", "_"), None)) is not None
    }
    tables: dict[str, Any] = {
        "fields": dict(each.partition("=")[::2] for each in args.field),
        "escapes": _pairs(args.escape),
        "spelling": _pairs(args.spell),
        "modes": _pairs(args.mode_name),
    }
    form = replace(FileFormat(args.name), **texts, **tables)
    data = new_text(form if form.title else replace(form, title=args.name))
    # Read back before it is written: what is wrong is refused as it would be in the file.
    form = read(data, path, args.name)
    if text:
        content = read_entries(form, text)
        _say_matches(around, content, text)
        if not content.entries:
            raise Refused(
                "The format matches nothing in that file; it was not made.", file=args.source
            )
        if content.form.capitals != form.capitals:
            data = new_text(replace(form, capitals=content.form.capitals))
    lines = (f"To see what it makes of a file: olive-compass fileformat try {args.name} FILE",)
    return keep(
        writing_of(args),
        around,
        at,
        [FileChange(path, None, data)],
        f"File format {args.name} made",
        lines,
    )


def _by_examples(args: Any, around: Surroundings, text: str) -> dict[str, Any]:
    """The pattern and the entry that examples tell; at a terminal they are asked for, until all lines match."""
    examples = [
        Example(line, key, command, mode, args.titled)
        for line, key, command, mode in zip_longest(
            args.example, args.key, args.command, args.mode, fillvalue=""
        )
    ]
    if any(not each.line or not each.key or not each.command for each in examples):
        raise Refused(
            "An example is a line with its key and its command.",
            hint="Say --example LINE --key KEY --command COMMAND, once for each shape of line.",
        )
    asks = bool(text) and around.interactive and not args.pattern
    if asks and not examples:
        for number, line in enumerate(text.split("\n")[:MOST_SHOWN], 1):
            around.say(f"{number:>4}  {line}")
        examples = _asked(around, args.titled)
    while examples:
        made = [pattern_of(each) for each in examples]
        found: dict[str, Any] = {
            "pattern": joined_patterns([each[0] for each in made]),
            "entry": made[0][1],
        }
        # One key in a line of its own: a command with several keys has several lines.
        if "(?P<keys>.*)" not in found["pattern"]:
            found["several"] = "records"
        if not asks:
            return found
        content = read_entries(FileFormat(args.name, **found), text)
        _say_matches(around, content, text)
        more = _asked(around, args.titled) if content.outside else []
        if not more:
            return found
        examples += more
    return {}


def _asked(around: Surroundings, titled: bool) -> list[Example]:
    line = around.ask("Which line has a key? [as it stands there; Enter: enough]")
    if not line.strip():
        return []
    key = around.ask("Which key is in it?").strip()
    command = around.ask("Which command?").strip()
    mode = around.ask("Which mode? [Enter: none]").strip()
    return [Example(line.strip("\r\n"), key, command, mode, titled)]


def _say_matches(around: Surroundings, content: Content, text: str) -> None:
    """How much of a file a format matches, and the first line that it does not."""
    around.report(f"It matches {counted(len(content.entries), 'record')}.")
    if content.outside:
        first = content.outside[0]
        line = text.split("\n")[first - 1].strip()
        around.report(
            f"{counted(len(content.outside), 'line')} with something in them it does not match, the first is line "
            f"{first}: {line}"
        )


def _set(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    form = at.file_format(args.name)
    path = file_format_path(args.name)
    value: dict[str, Any] = {args.field.replace("-", "_"): _unwritten(args.value)}
    changed = replace(form, **value)
    before = at.bytes(path) if args.name in at.own_file_formats() else None
    data = (
        new_text(changed)
        if before is None
        else with_field(before, args.field, _unwritten(args.value))
    )
    read(data, path, args.name)
    what = f"File format {args.name}: {args.field} is {args.value}"
    return keep(writing_of(args), around, at, [FileChange(path, before, data)], what)


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
    own = at.own_file_formats()
    if args.json:
        rows = [
            {
                "name": form.name,
                "title": form.title,
                "file": file_format_path(form.name) if form.name in own else None,
                "apps": users[form.name],
            }
            for form in forms
        ]
        around.json({"fileformats": rows})
    else:
        print_table(
            around,
            ("format", "title", "used by", "holds", "from"),
            [
                (
                    f.name,
                    f.title,
                    ", ".join(users[f.name]) or "-",
                    f.holds if f.entry else "no new record",
                    "this desk" if f.name in own else "shipped",
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
            "fields": dict(form.fields),
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
        for name in ("fields", "spelling", "escapes", "modes")
    ]
    shown = [(name, text.replace("\n", "⏎")) for name, text in fields if text]
    print_fields(
        around, [*shown, *tables_, ("used by", ", ".join(_users(at, form.name)) or "no app")]
    )
    return 0


def _try(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    form = at.file_format(args.name)
    text = opened(read_file(around, args.file)).text
    content = read_entries(form, text)
    if args.json:
        around.json(
            {
                "file-format": form.name,
                "records": [
                    {
                        **each.parts,
                        "line": _line(text, each),
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
    if content.form.capitals:
        around.say("A capital letter is that letter with Shift.")
    # What cannot be read comes first where not all is shown; else the order is that of the file.
    shown = (
        content.entries
        if args.verbose
        else [*wrong, *(e for e in content.entries if not e.problem)]
    )
    most = len(shown) if args.verbose else MOST_SHOWN
    rows = [
        (str(_line(text, e)), e.subject, e.mode or "-", e.problem or write_cell(e.keys) or "-")
        for e in shown[:most]
    ]
    if rows:
        print_table(around, ("line", "command", "mode", "keys"), rows)
    if len(shown) > most:
        around.say(f"and {len(shown) - most} more; --verbose shows all")
    lines = text.split("\n")
    for number in content.outside[: len(lines) if args.verbose else 3]:
        around.say(f"Passed over: line {number}: {lines[number - 1].strip()}")
    _say_round_trip(around, content, text)
    return 0 if content.entries else 1


def _line(text: str, entry: Entry) -> int:
    return text.count("\n", 0, entry.span[0]) + 1


def _say_round_trip(around: Surroundings, content: Content, text: str) -> None:
    """Whether what was read would be written again as it stands there, and that nothing is written unasked."""
    otherwise = []
    for entry in content.entries:
        for piece in entry.pieces:
            if piece.run is None:
                continue
            there = text[slice(*piece.span)]
            try:
                again = write_key(content.form, piece.run)
            except NotWritten as error:
                again = str(error)
            if again != there:
                otherwise.append(f"{there} (we would write {again})")
    if otherwise:
        some = ", ".join(otherwise[:3])
        around.say(
            f"{counted(len(otherwise), 'key')} we would write otherwise, were they moved: {some}"
        )
    same = written(content.form, text, ()).text == text
    around.say(f"A delivery without decisions would change {'nothing' if same else 'this file'}.")


def _drop(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    form = at.file_format(args.name)
    path = file_format_path(form.name)
    if form.name not in at.own_file_formats():
        raise Refused(f"{form.name} ships with the program, and stays; nothing was changed.")
    users = _users(at, form.name)
    if users:
        raise Refused(
            f"{', '.join(users)} is read by it; nothing was changed.",
            file=path,
            hint=f"Read it otherwise first: olive-compass app add {users[0]} --from LISTING --pattern …",
        )
    files = [FileChange(path, at.bytes(path), None)]
    return keep(writing_of(args), around, at, files, f"File format {form.name} dropped")
