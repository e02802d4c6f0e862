"""``export`` and ``scheme import``: a scheme out to other programs, and in again."""

import csv
import io
import os
import re
from collections.abc import Sequence

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import keep, writing_of
from olive_compass.cli.files import read_file
from olive_compass.cli.intake.reading import ListingOptions, read_for, said_of
from olive_compass.cli.options import Common
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import ROOT, joined
from olive_compass.core.changes.change import Answers
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.layers import FACTORY, PERSONAL, scheme_layer
from olive_compass.core.schemes.view import View
from olive_compass.core.sharing.rows import DecisionRow, as_it_counts, scheme_of
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import scheme_file, scheme_writing
from olive_compass.desk.paths import scheme_path
from olive_compass.desk.storage.file_names import checked_name
from olive_compass.desk.storage.plain_file import utf8_of
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.texts.cells import restored
from olive_compass.desk.texts.json_text import loads
from olive_compass.drawing import exports
from olive_compass.drawing.sandbox import RenderError
from olive_compass.errors import UserError
from olive_compass.structs import replace

#: How many rows of a list are named of which something is to be said.
MOST_NAMED = 8


class ExportOptions(Common, kw_only=True):
    """The options of ``export``."""

    app: str
    scheme: str | None
    form: str
    template: str | None
    show_template: bool
    keys_as: str | None


def export(args: ExportOptions, context: Surroundings) -> int:
    """Runs ``export``: the keys as they count, or one scheme's decisions."""
    desk = pick.desk(args, context)
    pick.show_keys(args.keys_as, context, desk, [args.app])
    keymap = Keymap(desk.stack(desk.app_name(args.app)), desk.keyboard)
    app = keymap.app
    if args.scheme:
        scheme = desk.scheme(app, args.scheme)
    else:
        scheme = as_it_counts(keymap)
    if args.template:
        text = _by_template(args.template, args.show_template, context, desk, keymap, scheme)
    elif args.form == "toml":
        text = scheme_writing.new_text(scheme).decode()
    elif args.form == "html":
        text = exports.as_html(app, scheme, context.key, desk.keyboard)
    else:
        text = getattr(exports, f"as_{args.form}")(app, scheme)
    context.write(text)
    return 0


def _by_template(
    template: str,
    show_template: bool,
    context: Surroundings,
    desk: Desk,
    keymap: Keymap,
    scheme: Scheme,
) -> str:
    if template in exports.STARTERS and not os.path.exists(os.path.join(context.folder, template)):
        source = exports.starter(template)
    else:
        hint = f"There are {', '.join(exports.STARTERS)} to start from."
        source = utf8_of(read_file(context, template, "The template", hint), template)
    if show_template:
        return source
    try:
        return exports.by_template(source, keymap.app, scheme, context.key, desk.keyboard)
    except RenderError as error:
        raise UserError(f"{error}.", file=template, line=error.line) from error


class SchemeImportOptions(ListingOptions, kw_only=True):
    """The options of ``scheme import``."""

    which: str
    file: str
    layer: str | None
    dry_run: bool
    json: bool


def import_scheme(args: SchemeImportOptions, context: Surroundings) -> int:
    """Runs ``scheme import``: makes a scheme of an export, or of a list of a person's own keys."""
    desk = pick.desk(args, context)
    app, name = pick.app_and_scheme(desk, args.which, context)
    if name in desk.scheme_names(app.name):
        raise UserError(f"{app.title} has a scheme “{name}” already; nothing was changed.")
    checked_name(name, "a scheme", desk.scheme_names(app.name), (FACTORY,))
    data = read_file(context, args.file)
    lines: list[str] = []
    left_out: list[str] = []
    text = _text_of(data)
    form = _form_of(text)
    if form == "toml":
        scheme = _of_toml(args.file, app, name, data)
    elif form:
        scheme = _of_rows(args.file, app, name, text, form)
    else:
        scheme, lines, left_out = _of_list(args, context, desk, app, name)
    layer = scheme_layer(args.layer or scheme.layer) or PERSONAL
    based_on = scheme.based_on or f"factory {app.version}".strip()
    scheme = replace(scheme, app=app.name, name=name, layer=layer, based_on=based_on)
    unknown = [id_ for id_ in (*scheme.assign, *scheme.keyless) if id_ not in app.catalogue.by_id]
    path = scheme_path(app.name, name)
    what = f"{app.title}: imported the scheme {name}, {counted(scheme.decisions, 'decision')}"
    # They are kept: the command may come with the next listing.
    lines += [f"Note that {app.title} has no command “{id_}”." for id_ in unknown[:MOST_NAMED]]
    lines.append(f"To make it active: olive-compass scheme use {app.name}/{name}")
    files = [FileChange(path, None, scheme_writing.new_text(scheme))]
    return keep(
        writing_of(args),
        context,
        desk,
        files,
        what,
        tuple(lines),
        app=app.name,
        scheme=name,
        **{"unknown-commands": unknown, "left-out": left_out},
    )


def _text_of(data: bytes) -> str:
    try:
        return data.decode("utf-8-sig")
    # Spreadsheets on one system save CSV so.
    except UnicodeDecodeError:
        return data.decode("cp1252", "replace")


def _form_of(text: str) -> str:
    """The form in which ``export`` wrote a text, by how it begins; ``""``: it is a list of a person's own."""
    if text.startswith(f'format = "{scheme_file.FORMAT}"'):
        return "toml"
    # An object with nothing in it is no list either.
    if _looks_like_json(text):
        return "json"
    if "decision" in re.split(r"[,;\t\"]", text.partition("\n")[0].strip()):
        return "csv"
    return ""


def _looks_like_json(text: str) -> bool:
    return text.lstrip()[:1] == "{" and ('"format"' in text or ":" not in text)


def _of_list(
    args: SchemeImportOptions, context: Surroundings, desk: Desk, app: App, name: str
) -> tuple[Scheme, list[str], list[str]]:
    """The scheme made from a person's own list of keys, sentences about its rows, and the titles of rows that are
    left out."""
    # Loaded here: most schemes come from an export.
    from olive_compass.core.changes.collect import Collect, NotReached, collect
    from olive_compass.core.changes.own_list import own_list

    listing = read_for(said_of(args), args.file, context, desk, app)
    found = own_list(app, listing.catalogue)
    if not found.keys:
        raise UserError(
            f"The list has no key for a command of {app.title}; nothing was changed.",
            file=args.file,
            hint="To name its columns: --column title=HEADING --column keys=HEADING",
        )
    empty = Scheme(app=app.name, name=name)
    view = View(desk.stack(app.name).going_by(empty), desk.keyboard)
    change = collect(view, Collect(keys=found.keys, scheme=empty, answers=Answers(sure=True)))
    lines = [
        f"“{each.new.title}” was taken for {each.old.title} ({each.old.id})."
        for each in found.likely
        if each.old and each.new
    ]
    lines += [f"Left out: {app.title} has no command “{each.title}”." for each in found.unknown]
    lines += [
        f"{app.shown(each.command)} does not get {joined(map(str, each.keys))} everywhere; see olive-compass "
        f"check {app.name}."
        for each in change.effects
        if isinstance(each, NotReached)
    ]
    if len(lines) > MOST_NAMED:
        lines[MOST_NAMED:] = [f"and {len(lines) - MOST_NAMED} more"]
    return change.edits[0].after, lines, [each.title for each in found.unknown]


def _of_toml(file: str, app: App, name: str, data: bytes) -> Scheme:
    """The scheme in an export that is a scheme file."""
    scheme = scheme_file.read(data, file, name, frozenset(app.modes.names), app.rules.typed)
    _check_app(scheme.app, app, file)
    return scheme


def _check_app(named: str, app: App, file: str) -> None:
    """Raises ``UserError`` for a scheme of another application; ``""``: it does not say of which."""
    if named not in ("", app.name):
        raise UserError(f"This scheme is for “{named}”, not {app.name}.", file=file)


def _of_rows(file: str, app: App, name: str, text: str, form: str) -> Scheme:
    """The scheme in an export as rows, in JSON or CSV."""
    empty = Scheme(app=app.name, name=name)
    try:
        if form == "json":
            head, rows = exports.read_json(loads(text))
            _check_app(head["app"], app, file)
            empty = replace(
                empty, layer=scheme_layer(head["layer"]) or PERSONAL, based_on=head["based-on"]
            )
        else:
            rows = _csv_rows(text)
        odd = {mode for row in rows for mode in row.modes} - set(app.modes.names)
        if odd:
            raise ValueError(f"{app.title} has no mode “{min(odd)}”")
        return scheme_of(empty, rows, app.rules.typed)
    except ValueError as error:
        raise UserError(f"This cannot be imported: {error}.", file=file) from error


def _csv_rows(text: str) -> Sequence[DecisionRow]:
    first = text.split("\n", 1)[0]
    delimiter = max(",;\t", key=first.count)
    reader = csv.DictReader(io.StringIO(text, newline=""), delimiter=delimiter)
    if "decision" not in (reader.fieldnames or []):
        raise ValueError("it has no column “decision”")
    rows = []
    for raw in reader:
        row = {
            str(name): restored(cell or "")
            for name, cell in raw.items()
            if isinstance(cell, (str, type(None)))
        }
        if not row.get("decision"):
            continue
        modes = tuple(row.get("modes", "").split()) or (ROOT,)
        rows.append(
            DecisionRow(
                decision=row["decision"],
                subject=row.get("subject", ""),
                keys=row.get("keys", ""),
                modes=modes,
                why=row.get("why", ""),
                slot=row.get("slot", ""),
                how=row.get("how", ""),
            )
        )
    return rows
