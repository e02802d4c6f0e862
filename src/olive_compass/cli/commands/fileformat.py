"""``fileformat``: file formats, by which an application's shortcuts file is read and written."""

import argparse

from olive_compass.cli.options import json_option, write_options
from olive_compass.cli.verbs import Verb
from olive_compass.core.keys.terminal_notation import NOTATIONS
from olive_compass.desk.formats.file_format_file import TABLES, TEXTS
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

#: What each text of a format says.
_TEXTS = {
    "title": "the title of the format",
    "pattern": "a regular expression for a record, with (?P<keys>…) and (?P<id>…) or (?P<title>…)",
    "section": "a regular expression for the heading of a mode, with (?P<mode>…)",
    "entry": "a new record, with {id} {title} {menu} {mode} {keys} in it",
    "between": "what separates two records (the end of a line)",
    "new-section": "a new section, with {mode} and {entry} in it",
    "section-end": "the text that ends a section",
    "outside": "the mode of records before and between the sections (default: everywhere)",
    "each": "how one key is written, with {key} in it",
    "named-key": "how a key is written that is more than one sign, such as <{key}>",
    "join": "what separates several keys",
    "none": "what a command without a key has in place of keys (default: its record is removed)",
    "off": "a record that switches a key off, with {keys}, {mode} and {id} in it",
    "off-pattern": "a regular expression for such a record, with (?P<keys>…)",
    "records": "of XML: the path of the elements that are records, such as .//binding; of JSON: the name "
    "of the list that holds them",
}


def _new(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("name", metavar="NAME", help="the name of the new format")
    parser.add_argument(
        "--from", dest="source", metavar="FILE", help="the shortcuts file to try it on"
    )
    for option, help_ in (
        ("example", "a line of the file, as it is; repeat for lines of another shape"),
        ("key", "the key in the example"),
        ("command", "the command in the example"),
        ("mode", "the mode in the example"),
    ):
        metavar = "TEXT"
        if option != "example":
            metavar = option.upper()
        parser.add_argument(f"--{option}", action="append", default=[], metavar=metavar, help=help_)
    parser.add_argument(
        "--titled",
        action="store_true",
        help="the example names the command by its title, not by an id",
    )
    for name in TEXTS:
        if name in _TEXTS:
            parser.add_argument(f"--{name}", metavar="TEXT", help=_TEXTS[name])
    parser.add_argument(
        "--several",
        choices=SEVERAL,
        help="how a command with several keys is written (default: joined)",
    )
    parser.add_argument(
        "--holds", choices=HOLDS, help="what the file lists: all keys, or what differs from factory"
    )
    parser.add_argument(
        "--notation",
        choices=NOTATIONS,
        help="how the file writes keys: ^K is caret, \\C-k is backslash",
    )
    parser.add_argument(
        "--capitals", choices=["shift"], help="read a capital letter as Shift and that letter"
    )
    parser.add_argument(
        "--structure", choices=STRUCTURES, help="a file of elements or objects, not of lines"
    )
    for name, help_ in (
        ("field", "where a part of a record is: keys=@key, id=@command, mode=context@name"),
        ("escape", "a sign that the file writes differently, such as '\"=\\\"'"),
        ("spell", "a word for a modifier or a key, such as 'C-=Ctrl+'"),
        ("mode-name", "a mode of ours and what the file calls it, such as everywhere=global"),
    ):
        parser.add_argument(f"--{name}", action="append", default=[], metavar="A=B", help=help_)
    write_options(parser)


def _set(parser: argparse.ArgumentParser) -> None:
    _name(parser)
    fields = (*TEXTS, *TABLES)
    parser.add_argument("field", choices=fields, metavar="FIELD", help=", ".join(fields))
    parser.add_argument(
        "value", metavar="VALUE", help="its new value; of the last four one pair: A=B"
    )
    write_options(parser)


def _name(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("name", metavar="FORMAT", help="the format")


def _show(parser: argparse.ArgumentParser) -> None:
    _name(parser)
    json_option(parser)


def _try(parser: argparse.ArgumentParser) -> None:
    _name(parser)
    parser.add_argument("file", metavar="FILE", help="a shortcuts file")
    json_option(parser)


def _remove(parser: argparse.ArgumentParser) -> None:
    _name(parser)
    write_options(parser)


VERBS = (
    Verb(
        name="new",
        help="describe a format, or derive it from a line of the file",
        options=_new,
        work="sharing.format_making.new",
    ),
    Verb(
        name="list",
        help="list the file formats of this desk and those that ship",
        options=json_option,
        work="sharing.file_formats.list_formats",
    ),
    Verb(
        name="set",
        help="change one field of a format",
        options=_set,
        work="sharing.file_formats.set_field",
    ),
    Verb(
        name="show",
        help="show all fields of a format",
        options=_show,
        work="sharing.file_formats.show",
    ),
    Verb(
        name="try",
        help="show what a format reads in a file; write nothing",
        options=_try,
        work="sharing.file_formats.try_format",
    ),
    Verb(
        name="remove",
        help="remove a format from the desk",
        options=_remove,
        work="sharing.file_formats.drop",
    ),
)
