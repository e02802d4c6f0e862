"""The verbs of ``fileformat`` that look, try and edit; ``new`` is in ``format_making``."""

from collections.abc import Iterator
from shlex import quote

from olive_compass.cli import exit_status, pick
from olive_compass.cli.changing.keeping import keep, writing_of
from olive_compass.cli.files import read_file
from olive_compass.cli.options import Common, WriteOptions
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import print_fields, print_table
from olive_compass.core.apps.modes import joined
from olive_compass.core.keys.new_words import unknown_words
from olive_compass.core.keys.terminal_notation import NotWrittenError
from olive_compass.core.keys.written_cells import write_cell
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats.file_format_file import (
    TABLES,
    TEXTS,
    file_format_path,
    new_text,
    read,
    with_field,
    with_pair,
)
from olive_compass.desk.reported.file_format import line_of_entry, tried_report
from olive_compass.desk.shortcuts.delivery import opened
from olive_compass.desk.shortcuts.file_format import FileFormat
from olive_compass.desk.shortcuts.shortcut_cells import write_key
from olive_compass.desk.shortcuts.shortcuts_content import Content, Entry
from olive_compass.desk.shortcuts.shortcuts_file import read as read_entries
from olive_compass.desk.shortcuts.shortcuts_rows import keys_in_own_words
from olive_compass.desk.shortcuts.shortcuts_writing import written
from olive_compass.desk.storage.records import FileChange
from olive_compass.errors import UserError

#: How many records are shown when a format is tried.
MOST_SHOWN = 12

#: How many words for keys that nobody knows are looked at for a proposal.
MOST_PROPOSED = 6


class FileformatSetOptions(WriteOptions, kw_only=True):
    """The options of ``fileformat set``."""

    name: str
    field: str
    value: str


def set_field(args: FileformatSetOptions, context: Surroundings) -> int:
    """Runs ``fileformat set``."""
    desk = pick.desk(args, context)
    form = desk.file_format(args.name)
    path = file_format_path(args.name)
    before = None
    if args.name in desk.own_file_formats():
        before = desk.bytes(path)
    whole = before or new_text(form)
    if args.field in TABLES:
        ((name, value),) = pairs_in([args.value]).items()
        data = with_pair(whole, args.field, name, value)
    else:
        data = with_field(whole, args.field, as_typed(args.value))
    read(data, path, args.name)
    what = f"File format {args.name}: {args.field} {'has' if args.field in TABLES else 'is'} {args.value}"
    return keep(writing_of(args), context, desk, [FileChange(path, before, data)], what)


def as_typed(text: str) -> str:
    r"""A text as it was typed in a shell, with ``\n`` and ``\t`` for what those stand for."""
    if "(?P<" not in text:
        return text.replace("\\n", "\n").replace("\\t", "\t")
    return text


def pairs_in(given: list[str]) -> dict[str, str]:
    """What is written as ``A=B``. Raises ``UserError`` where there is no sign in it."""
    found = {}
    for each in given:
        # The first sign may itself be the one that parts the two.
        name, sign, value = each[:1], each[1:2], each[2:]
        if sign != "=":
            name, sign, value = each.partition("=")
        if not sign:
            raise UserError(f"“{each}” has no “=”.", hint="Write A=B.")
        found[name] = value
    return found


class FileformatListOptions(Common, kw_only=True):
    """The options of ``fileformat list``."""

    json: bool


def list_formats(args: FileformatListOptions, context: Surroundings) -> int:
    """Runs ``fileformat list``."""
    desk = pick.desk(args, context)
    forms = [desk.file_format(name) for name in desk.file_format_names()]
    users = {form.name: _users(desk, form.name) for form in forms}
    own = desk.own_file_formats()
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
        context.json({"fileformats": rows})
    else:
        print_table(
            context,
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


def _users(desk: Desk, name: str) -> list[str]:
    return [app for app in desk.app_names() if desk.reading(app).file_format == name]


class FileformatShowOptions(Common, kw_only=True):
    """The options of ``fileformat show``."""

    name: str
    json: bool


def show(args: FileformatShowOptions, context: Surroundings) -> int:
    """Runs ``fileformat show``."""
    desk = pick.desk(args, context)
    form = desk.file_format(args.name)
    if args.json:
        value = {name: getattr(form, name.replace("-", "_")) for name in TEXTS}
        tables = {name: dict(getattr(form, name)) for name in TABLES}
        context.json({"name": form.name, "file": file_format_path(form.name), **value, **tables})
        return 0
    context.say(f"{BOLD}{form.title}{OFF} ({file_format_path(form.name)})")
    users = ", ".join(_users(desk, form.name)) or "no app"
    print_fields(context, [*_texts(form), *_tables(form), ("used by", users)])
    return 0


def _texts(form: FileFormat) -> Iterator[tuple[str, str]]:
    """The fields of a format that are texts, on one line each."""
    for name in TEXTS:
        text = getattr(form, name.replace("-", "_"))
        if text and name != "title":
            yield name, text.replace("\n", "⏎")


def _tables(form: FileFormat) -> Iterator[tuple[str, str]]:
    """The tables of a format, a line an entry."""
    for name in TABLES:
        yield name, "\n".join(f"{a} = {b}" for a, b in getattr(form, name).items())


class FileformatTryOptions(Common, kw_only=True):
    """The options of ``fileformat try``."""

    name: str
    file: str
    json: bool


def try_format(args: FileformatTryOptions, context: Surroundings) -> int:
    """Runs ``fileformat try``."""
    desk = pick.desk(args, context)
    form = desk.file_format(args.name)
    text = opened(read_file(context, args.file)).text
    content = read_entries(form, text)
    if args.json:
        context.json(tried_report(form, content, text))
    else:
        _print_tried(context, content, text, args.verbose)
    return exit_status.found(content.entries)


def _print_tried(context: Surroundings, content: Content, text: str, verbose: bool) -> None:
    """What a format reads in a file; ``verbose``: all of it, in the order of the file."""
    wrong = [each for each in content.entries if each.problem]
    context.say(
        f"{counted(len(content.entries), 'record')}, {counted(len(wrong), 'record')} with keys that "
        f"cannot be read, {counted(content.passed_over, 'line')} passed over."
    )
    if content.form.capitals:
        context.say("A capital letter is that letter with Shift.")
    say_unknown(context, content, text)
    shown = list(content.entries)
    outside = list(content.outside)
    if not verbose:
        # What cannot be read comes first where not all is shown.
        shown.sort(key=lambda each: not each.problem)
        del shown[MOST_SHOWN:], outside[3:]
    if shown:
        rows = [_tried_row(text, each) for each in shown]
        print_table(context, ("line", "command", "mode", "keys"), rows)
    left = len(content.entries) - len(shown)
    if left:
        context.say(f"and {left} more; --verbose shows all")
    lines = text.split("\n")
    for number in outside:
        context.say(f"Passed over: line {number}: {lines[number - 1].strip()}")
    _say_round_trip(context, content, text)


def say_unknown(context: Surroundings, content: Content, text: str) -> None:
    """Which keys are words that nobody knows, and how to say what these stand for."""
    cells = keys_in_own_words(content, text)
    if not cells:
        return
    some = joined(list(dict.fromkeys(cells)), 3)
    context.report(f"{counted(len(cells), 'key')} kept as the file writes them: {some}.")
    for each in unknown_words(cells)[:MOST_PROPOSED]:
        # Two or three letters are more likely typed one after another.
        if each.proposal and not (each.word.isalpha() and len(each.word) < 4):
            pair = quote(f"{each.word}={each.proposal}")
            context.report(
                f"If {each.word} stands for {each.proposal}: olive-compass fileformat set "
                f"{content.form.name} spelling {pair}"
            )


def _tried_row(text: str, entry: Entry) -> tuple[str, ...]:
    keys = entry.problem or write_cell(entry.keys) or "-"
    return str(line_of_entry(text, entry)), entry.subject, entry.mode or "-", keys


def _say_round_trip(context: Surroundings, content: Content, text: str) -> None:
    """Whether what was read would be written again as it stands there, and that nothing is written without being asked for."""
    otherwise = []
    for entry in content.entries:
        for piece in entry.pieces:
            if piece.run is None:
                continue
            there = text[slice(*piece.span)]
            try:
                again = write_key(content.form, piece.run)
            except NotWrittenError as error:
                again = str(error)
            if again != there:
                otherwise.append(f"{there} (we would write {again})")
    if otherwise:
        some = ", ".join(otherwise[:3])
        context.say(
            f"{counted(len(otherwise), 'key')} would be spelt differently if they moved: {some}"
        )
    same = written(content.form, text, ()).text == text
    context.say(f"A delivery without decisions would change {'nothing' if same else 'this file'}.")


class FileformatRemoveOptions(WriteOptions, kw_only=True):
    """The options of ``fileformat remove``."""

    name: str


def drop(args: FileformatRemoveOptions, context: Surroundings) -> int:
    """Runs ``fileformat drop``."""
    desk = pick.desk(args, context)
    form = desk.file_format(args.name)
    path = file_format_path(form.name)
    if form.name not in desk.own_file_formats():
        raise UserError(f"{form.name} ships with the program, and stays; nothing was changed.")
    users = _users(desk, form.name)
    if users:
        raise UserError(
            f"{', '.join(users)} is read by this format; nothing was changed.",
            file=path,
            hint=f"Change how it is read first: olive-compass app import {users[0]} --from FILE --pattern …",
        )
    files = [desk.change_of(path, None)]
    return keep(writing_of(args), context, desk, files, f"Removed file format {form.name}")
