"""``fileformat``: file formats, by which an application's shortcuts file is read and written."""

import argparse

from olive_compass.cli.changing.saving import retry_on_conflict
from olive_compass.cli.options import dry_run_option, json_option
from olive_compass.cli.registry import verb
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.keys.terminal_notation import NOTATIONS
from olive_compass.desk.formats.file_format_file import TEXTS
from olive_compass.desk.shortcuts.file_format import HOLDS, SEVERAL, STRUCTURES

GROUP = "application"
ORDER = 30
SUMMARY = "Describe how an application's shortcuts file is read and written"
EXAMPLES = r"""olive-compass fileformat list
olive-compass fileformat try kiln kiln/keys.kiln
olive-compass fileformat try kiln kiln/keys.kiln --verbose
olive-compass fileformat new ours --from kiln/keys.kiln --example '  edit.undo <= C-z' --key C-z --command edit.undo
olive-compass fileformat new plain --pattern '^(?P<id>[\w.-]+) = (?P<keys>.*)$' --entry '{id} = {keys}'
olive-compass fileformat set lines join " or "
olive-compass fileformat show kiln
olive-compass fileformat remove lines --dry-run"""

_VERBS = {
    "new": ("format_making", "new"),
    "set": ("file_formats", "set_field"),
    "list": ("file_formats", "list_formats"),
    "show": ("file_formats", "show"),
    "try": ("file_formats", "try_format"),
    "remove": ("file_formats", "drop"),
}


def add_arguments(parser: argparse.ArgumentParser) -> None:
    verbs = parser.add_subparsers(
        dest="verb", metavar="new|set|list|show|try|remove", required=True
    )
    new = verbs.add_parser("new", help="describe a format, or derive it from a line of the file")
    new.add_argument("name", metavar="NAME", help="the name of the new format")
    new.add_argument(
        "--from", dest="source", metavar="FILE", help="the shortcuts file to try it on"
    )
    for option, help_ in (
        ("example", "a line of the file, as it is; repeat for lines of another shape"),
        ("key", "the key in the example"),
        ("command", "the command in the example"),
        ("mode", "the mode in the example"),
    ):
        metavar = "TEXT" if option == "example" else option.upper()
        new.add_argument(f"--{option}", action="append", default=[], metavar=metavar, help=help_)
    new.add_argument(
        "--titled",
        action="store_true",
        help="the example names the command by its title, not by an id",
    )
    helps = {
        "title": "the title of the format",
        "pattern": "a regular expression for a record, with (?P<keys>…) and (?P<id>…) or (?P<title>…)",
        "section": "a regular expression for the heading of a mode, with (?P<mode>…)",
        "entry": "a new record, with {id} {title} {menu} {mode} {keys} in it",
        "between": "what separates two records (the end of a line)",
        "new-section": "a new section, with {mode} and {entry} in it",
        "section-end": "the text that ends a section",
        "outside": "the mode of records before and between the sections (default: everywhere)",
        "each": "how one key is written, with {key} in it",
        "join": "what separates several keys",
        "none": "what a command without a key has in place of keys (default: its record is removed)",
        "off": "a record that switches a key off, with {keys}, {mode} and {id} in it",
        "off-pattern": "a regular expression for such a record, with (?P<keys>…)",
        "records": "of XML: the path of the elements that are records, such as .//binding; of JSON: the name under "
        "which they stand",
    }
    for name in TEXTS:
        if name in helps:
            new.add_argument(f"--{name}", metavar="TEXT", help=helps[name])
    new.add_argument(
        "--several",
        choices=SEVERAL,
        help="how a command with several keys is written (default: joined)",
    )
    new.add_argument(
        "--holds", choices=HOLDS, help="what the file lists: all keys, or what differs from factory"
    )
    new.add_argument(
        "--notation",
        choices=NOTATIONS,
        help="how the file writes keys: ^K is caret, \\C-k is backslash",
    )
    new.add_argument(
        "--capitals", choices=["shift"], help="read a capital letter as Shift and that letter"
    )
    new.add_argument(
        "--structure", choices=STRUCTURES, help="a file of elements or objects, not of lines"
    )
    for name, help_ in (
        ("field", "where a part of a record is: keys=@key, id=@command, mode=context@name"),
        ("escape", "a sign that the file writes differently, such as '\"=\\\"'"),
        ("spell", "a word for a modifier or a key, such as 'C-=Ctrl+'"),
        ("mode-name", "a mode of ours and what the file calls it, such as everywhere=global"),
    ):
        new.add_argument(f"--{name}", action="append", default=[], metavar="A=B", help=help_)
    dry_run_option(new)
    json_option(new)
    json_option(
        verbs.add_parser("list", help="list the file formats of this desk and those that ship")
    )
    put = verbs.add_parser("set", help="change one field of a format")
    put.add_argument("name", metavar="NAME", help="the format")
    put.add_argument("field", choices=TEXTS, metavar="FIELD", help=", ".join(TEXTS))
    put.add_argument("value", metavar="VALUE", help="its new value")
    dry_run_option(put)
    json_option(put)
    show = verbs.add_parser("show", help="show all fields of a format")
    show.add_argument("name", metavar="NAME")
    json_option(show)
    attempt = verbs.add_parser("try", help="show what a format reads in a file; write nothing")
    attempt.add_argument("name", metavar="NAME")
    attempt.add_argument("file", metavar="FILE", help="a shortcuts file")
    json_option(attempt)
    drop = verbs.add_parser("remove", help="remove a format from the desk")
    drop.add_argument("name", metavar="NAME")
    dry_run_option(drop)
    json_option(drop)


def run(args: argparse.Namespace, context: Surroundings) -> int:
    module, function = _VERBS[args.verb]
    work = verb(f"sharing.{module}", function)
    return retry_on_conflict(lambda: work(args, context), context)
