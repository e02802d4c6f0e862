"""``scheme rename`` and ``scheme drop``: the file of a scheme, and all that goes by its name."""

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import keep, writing_of
from olive_compass.cli.changing.saving import confirm
from olive_compass.cli.options import WriteOptions
from olive_compass.cli.sharing.guarding import refuse_broken_guards
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.schemes.layers import FACTORY
from olive_compass.core.wording import counted
from olive_compass.desk.formats import scheme_writing
from olive_compass.desk.paths import scheme_path
from olive_compass.desk.storage.file_names import checked_name
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.writing.stacks import renamed_in_stack


class SchemeRenameOptions(WriteOptions, kw_only=True):
    """The options of ``scheme rename``."""

    which: str
    name: str


def rename(args: SchemeRenameOptions, context: Surroundings) -> int:
    """Runs ``scheme rename``: the file, the stack, and the schemes that are based on it."""
    desk = pick.desk(args, context)
    app, old = pick.app_and_scheme(desk, args.which, context)
    desk.scheme(app, old)
    others = [name for name in desk.scheme_names(app.name) if name != old]
    new = checked_name(args.name, "a scheme", others, (FACTORY, *others))
    path = scheme_path(app.name, old)
    data = desk.bytes(path)
    files = [FileChange(path, data, None), FileChange(scheme_path(app.name, new), None, data)]
    for name in others:
        if desk.scheme(app, name).based_on == old:
            other = scheme_path(app.name, name)
            before = desk.bytes(other)
            files.append(FileChange(other, before, scheme_writing.with_base(before, new)))
    files += renamed_in_stack(desk, app.name, old, new)
    what = f"{app.title}: renamed the scheme {old} to {new}"
    return keep(writing_of(args), context, desk, files, what, app=app.name, scheme=new)


class SchemeRemoveOptions(WriteOptions, kw_only=True):
    """The options of ``scheme remove``."""

    which: str
    yes: bool
    despite: list[str]


def drop(args: SchemeRemoveOptions, context: Surroundings) -> int:
    """Runs ``scheme drop``: takes a scheme away, after saying what goes with it."""
    desk = pick.desk(args, context)
    app, name = pick.app_and_scheme(desk, args.which, context)
    scheme = desk.scheme(app, name)
    path = scheme_path(app.name, name)
    files = [desk.change_of(path, None), *renamed_in_stack(desk, app.name, name, "")]
    refuse_broken_guards(desk, files, args.despite)
    counts = name in desk.stack(app.name).names
    what = f"{app.title}: removed the scheme {name}"
    goes = f"{counted(scheme.decisions, 'decision')}, {'which count' if counts else 'none of which counts'} now"
    if scheme.decisions and not args.dry_run:
        context.report(f"{app.name}/{name} holds {goes}.")
        confirm(
            args.yes, context, "Taking a scheme away", "Do it?", "It stays; nothing was changed."
        )
    held = (f"It held {goes}.",) if args.dry_run else ()
    return keep(writing_of(args), context, desk, files, what, held, app=app.name, scheme=name)
