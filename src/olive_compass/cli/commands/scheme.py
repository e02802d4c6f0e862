"""``scheme``: makes, lists, shows and chooses schemes."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import Writing, keep, writing_of
from olive_compass.cli.looking.scheme_views import show_stack
from olive_compass.cli.options import (
    WriteOptions,
    app_argument,
    despite_guard_option,
    json_option,
    layer_option,
    reading_options,
    write_options,
    yes_option,
)
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.verbs import Verb
from olive_compass.core.apps.app import App
from olive_compass.core.schemes.claims import Stack, in_layer_order
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.layers import (
    FACTORY,
    PERSONAL,
    PROJECT,
    SCHEME_LAYERS,
    scheme_layer,
)
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import scheme_writing
from olive_compass.desk.formats.desk_file import with_stack
from olive_compass.desk.paths import DESK_FILE, scheme_path
from olive_compass.desk.storage.file_names import checked_name
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.writing.stacks import copied_scheme
from olive_compass.errors import UserError

GROUP = "first steps"
ORDER = 40
SUMMARY = "Create, list, show or choose a scheme: your keys for an application"
EXAMPLES = """olive-compass scheme new quillmap/night
olive-compass scheme new quillmap/night --based-on mine
olive-compass scheme list
olive-compass scheme use quillmap/mine
olive-compass scheme stack quillmap mine house
olive-compass scheme rename quillmap/mine evenings
olive-compass scheme remove quillmap/mine --dry-run
olive-compass scheme show quillmap/mine
olive-compass scheme import quillmap/klara --from elsewhere/klara.csv"""


def _new_options(parser: argparse.ArgumentParser) -> None:
    _which(parser)
    parser.add_argument(
        "--based-on",
        dest="origin",
        default=FACTORY,
        metavar="SCHEME",
        help="start with the decisions of this scheme (factory: none)",
    )
    layer_option(parser)
    parser.add_argument(
        "--project", default="", metavar="NAME", help="for this project only; sets --layer project"
    )
    write_options(parser)


def _show_options(parser: argparse.ArgumentParser) -> None:
    _which(parser)
    json_option(parser)


def _use_options(parser: argparse.ArgumentParser) -> None:
    _which(parser)
    write_options(parser)


def _stack_options(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument("names", nargs="*", metavar="SCHEME", help="the schemes to make active")
    write_options(parser)


def _import_options(parser: argparse.ArgumentParser) -> None:
    _which(parser)
    parser.add_argument(
        "--from",
        dest="file",
        required=True,
        metavar="FILE",
        help="an export (CSV, JSON or TOML), or a list of your own: a table of commands and keys in any form that "
        "app import reads",
    )
    parser.add_argument(
        "--layer", choices=SCHEME_LAYERS, help="the scheme layer (default: the one it had)"
    )
    write_options(parser)
    reading_options(parser, keeps=False)


def _rename_options(parser: argparse.ArgumentParser) -> None:
    _which(parser)
    parser.add_argument("name", metavar="NEW", help="its new name")
    write_options(parser)


def _remove_options(parser: argparse.ArgumentParser) -> None:
    _which(parser)
    yes_option(parser)
    despite_guard_option(parser)
    write_options(parser)


def _which(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("which", metavar="APP/NAME")


VERBS = (
    Verb(
        name="new", help="create a scheme", options=_new_options, work="commands.scheme.new_scheme"
    ),
    Verb(
        name="list",
        help="list the schemes on this desk",
        options=json_option,
        work="looking.scheme_views.list_schemes",
    ),
    Verb(
        name="show",
        help="show a scheme: what differs from the factory keys, and why",
        options=_show_options,
        work="looking.scheme_views.show_scheme",
    ),
    Verb(
        name="use",
        help="make a scheme active, in place of others of its layer",
        options=_use_options,
        work="commands.scheme.use_scheme",
    ),
    Verb(
        name="stack",
        help="show or set the active schemes, in order",
        options=_stack_options,
        work="commands.scheme.stack_schemes",
    ),
    Verb(
        name="import",
        help="create a scheme from an exported file, or from a list of your own keys",
        options=_import_options,
        work="sharing.exporting.import_scheme",
    ),
    Verb(
        name="rename",
        help="rename a scheme, wherever it is named",
        options=_rename_options,
        work="changing.scheme_files.rename",
    ),
    Verb(
        name="remove",
        help="remove a scheme",
        options=_remove_options,
        work="changing.scheme_files.drop",
    ),
)


class SchemeNewOptions(WriteOptions, kw_only=True):
    """The options of ``scheme new``."""

    which: str
    origin: str
    layer: str | None
    project: str


def new_scheme(args: SchemeNewOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    app, name = pick.app_and_scheme(desk, args.which, context)
    checked_name(name, "a scheme", desk.scheme_names(app.name), (FACTORY,))
    if name in desk.scheme_names(app.name):
        raise UserError(f"{app.title} has a scheme “{name}” already; nothing was changed.")
    path = scheme_path(app.name, name)
    stack = desk.stack(app.name)
    if args.origin == FACTORY:
        layer = scheme_layer(args.layer or "") or (PROJECT if args.project else PERSONAL)
        based_on = f"factory {app.version}".strip()
        scheme = Scheme(
            app=app.name, name=name, layer=layer, based_on=based_on, project=args.project
        )
        data = scheme_writing.new_text(scheme)
    else:
        scheme, data = copied_scheme(desk, app, args.origin, args.layer, name)
    files = [FileChange(path, None, data)]
    counts = all(each.layer != scheme.layer for each in stack.schemes)
    line = f"To make it active: olive-compass scheme use {app.name}/{name}"
    if counts:
        files.append(_stack_change(desk, stack, scheme))
        order = " over ".join(stack.going_by(scheme).names)
        line = f"It is active now. Order: {order}."
    summary = f"{app.title}: created scheme {name}, {scheme.layer}, based on {scheme.based_on}"
    return keep(writing_of(args), context, desk, files, summary, (line,), app=app.name, scheme=name)


class SchemeUseOptions(WriteOptions, kw_only=True):
    """The options of ``scheme use``."""

    which: str


def use_scheme(args: SchemeUseOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    app, name = pick.app_and_scheme(desk, args.which, context)
    schemes = desk.stack(app.name).going_by(desk.scheme(app, name)).schemes
    return _go_by(writing_of(args), context, desk, app, schemes)


def _stack_change(desk: Desk, stack: Stack, scheme: Scheme) -> FileChange:
    names = tuple(each.name for each in stack.going_by(scheme).schemes)
    before = desk.bytes(DESK_FILE)
    return FileChange(DESK_FILE, before, with_stack(before, stack.app.name, names))


class SchemeStackOptions(WriteOptions, kw_only=True):
    """The options of ``scheme stack``."""

    app: str
    names: list[str]


def stack_schemes(args: SchemeStackOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    stack = desk.stack(desk.app_name(args.app))
    app = stack.app
    if args.names:
        schemes = in_layer_order([desk.scheme(app, name) for name in args.names])
        return _go_by(writing_of(args), context, desk, app, schemes)
    return show_stack(args.json, context, desk, stack)


def _go_by(
    how: Writing, context: Surroundings, desk: Desk, app: App, schemes: tuple[Scheme, ...]
) -> int:
    """Lets ``schemes`` count for ``app``, in that order."""
    names = tuple(each.name for each in schemes)
    order = " over ".join([*names, FACTORY])
    before = desk.bytes(DESK_FILE)
    files = [FileChange(DESK_FILE, before, with_stack(before, app.name, names))]
    what = f"{app.title}: set the order of schemes to {order}"
    return keep(how, context, desk, files, what, app=app.name, schemes=list(names))
