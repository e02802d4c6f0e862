"""``fileformat new``: a format as it is described, or as lines of the file tell it."""

from itertools import zip_longest
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import keep, writing_of
from olive_compass.cli.files import read_file
from olive_compass.cli.options import WriteOptions
from olive_compass.cli.sharing.file_formats import as_typed, pairs_in, say_unknown
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.wording import counted
from olive_compass.desk.formats.file_format_file import TEXTS, file_format_path, new_text, read
from olive_compass.desk.shortcuts.by_example import Example, joined_patterns, key_fields, pattern_of
from olive_compass.desk.shortcuts.delivery import opened
from olive_compass.desk.shortcuts.file_format import FileFormat
from olive_compass.desk.shortcuts.shortcuts_content import Content
from olive_compass.desk.shortcuts.shortcuts_file import read as read_entries
from olive_compass.desk.storage.file_names import checked_name
from olive_compass.desk.storage.records import FileChange
from olive_compass.errors import UserError
from olive_compass.structs import replace

#: How many records are shown when a format is asked about.
MOST_SHOWN = 12


class FileformatNewOptions(WriteOptions, kw_only=True):
    """The options of ``fileformat new``."""

    name: str
    source: str | None
    example: list[str]
    key: list[str]
    command: list[str]
    mode: list[str]
    titled: bool
    title: str | None
    pattern: str | None
    section: str | None
    entry: str | None
    between: str | None
    new_section: str | None
    section_end: str | None
    outside: str | None
    each: str | None
    named_key: str | None
    join: str | None
    none: str | None
    off: str | None
    off_pattern: str | None
    records: str | None
    several: str | None
    holds: str | None
    notation: str | None
    capitals: str | None
    structure: str | None
    field: list[str]
    escape: list[str]
    spell: list[str]
    mode_name: list[str]


def _given_texts(args: FileformatNewOptions) -> dict[str, Any]:
    """The fields of the format that options give."""
    values = {
        name: getattr(args, name, None) for name in (each.replace("-", "_") for each in TEXTS)
    }
    return {name: as_typed(value) for name, value in values.items() if value is not None}


def new(args: FileformatNewOptions, context: Surroundings) -> int:
    """Runs ``fileformat new``."""
    desk = pick.desk(args, context)
    checked_name(args.name, "a file format", desk.own_file_formats())
    path = file_format_path(args.name)
    if args.name in desk.own_file_formats():
        raise UserError(
            f"The desk has a file format “{args.name}” already; nothing was changed.",
            file=path,
        )
    text = ""
    if args.source:
        text = opened(read_file(context, args.source)).text
    texts = {**_by_examples(args, context, text), **_given_texts(args)}
    if not texts.keys() & {"pattern", "structure"}:
        raise UserError(
            "A format needs a line of the file as an example.",
            hint="Give it, and what is in it: --example LINE --key KEY --command COMMAND. At a terminal, name the "
            "file with --from, and you are asked.",
        )
    tables: dict[str, Any] = {
        "fields": dict(each.partition("=")[::2] for each in args.field),
        "escapes": pairs_in(args.escape),
        "spelling": {**texts.pop("spelling", {}), **pairs_in(args.spell)},
        "modes": pairs_in(args.mode_name),
    }
    form = replace(FileFormat(name=args.name), **texts, **tables)
    data = new_text(form if form.title else replace(form, title=args.name))
    # Read back before it is written: what is wrong is refused as it would be in the file.
    form = read(data, path, args.name)
    if text:
        content = read_entries(form, text)
        _say_matches(context, content, text)
        say_unknown(context, content, text)
        if not content.entries:
            raise UserError(
                "The format matches nothing in that file; it was not made.", file=args.source or ""
            )
        if content.form.capitals != form.capitals:
            data = new_text(replace(form, capitals=content.form.capitals))
    lines = (f"To see what it makes of a file: olive-compass fileformat try {args.name} FILE",)
    return keep(
        writing_of(args),
        context,
        desk,
        [FileChange(path, None, data)],
        f"Created file format {args.name}",
        lines,
    )


def _by_examples(args: FileformatNewOptions, context: Surroundings, text: str) -> dict[str, Any]:
    """The pattern and the entry that examples tell; at a terminal they are asked for, until all lines match."""
    examples = _examples(args)
    asks = bool(text) and context.interactive and not args.pattern
    if asks and not examples:
        for number, line in enumerate(text.split("\n")[:MOST_SHOWN], 1):
            context.say(f"{number:>4}  {line}")
        examples = _asked(context, args.titled)
    if not examples:
        return {}
    found = _told_by(examples)
    while asks:
        content = read_entries(FileFormat(name=args.name, **found), text)
        _say_matches(context, content, text)
        more = []
        if content.outside:
            more = _asked(context, args.titled)
        if not more:
            break
        examples += more
        found = _told_by(examples)
    return found


def _told_by(examples: list[Example]) -> dict[str, Any]:
    """The fields of a format that examples tell."""
    made = [pattern_of(each) for each in examples]
    found: dict[str, Any] = {
        "pattern": joined_patterns([each[0] for each in made]),
        "entry": made[0][1],
    }
    found |= key_fields([each.key for each in examples])
    # One key in a line of its own: a command with several keys has several lines.
    if "(?P<keys>.*)" not in found["pattern"]:
        found["several"] = "records"
    return found


def _examples(args: FileformatNewOptions) -> list[Example]:
    """The examples that were typed. Raises ``UserError`` where one lacks its line, its key or its command."""
    examples = [
        Example(line=line, key=key, command=command, mode=mode, titled=args.titled)
        for line, key, command, mode in zip_longest(
            args.example, args.key, args.command, args.mode, fillvalue=""
        )
    ]
    if any(not each.line or not each.key or not each.command for each in examples):
        raise UserError(
            "An example needs a line with its key and its command.",
            hint="Use --example LINE --key KEY --command COMMAND, once for each shape of line.",
        )
    return examples


def _asked(context: Surroundings, titled: bool) -> list[Example]:
    line = context.ask("Which line has a key? [as in the file; Enter: done]")
    if not line.strip():
        return []
    key = context.ask("Which key is in it?").strip()
    command = context.ask("Which command?").strip()
    mode = context.ask("Which mode? [Enter: none]").strip()
    return [Example(line=line.strip("\r\n"), key=key, command=command, mode=mode, titled=titled)]


def _say_matches(context: Surroundings, content: Content, text: str) -> None:
    """How much of a file a format matches, and the first line that it does not."""
    context.report(f"It matches {counted(len(content.entries), 'record')}.")
    if content.outside:
        first = content.outside[0]
        line = text.split("\n")[first - 1].strip()
        context.report(
            f"{counted(len(content.outside), 'line')} with something in them it does not match, the first is line "
            f"{first}: {line}"
        )
