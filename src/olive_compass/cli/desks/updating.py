"""``desk update``: rewrites what an older version wrote, in the words of today."""

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import keep, writing_of
from olive_compass.cli.options import WriteOptions
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.wording import counted
from olive_compass.desk.storage.records import changing
from olive_compass.desk.writing.rewriting import rewritten


class DeskUpdateOptions(WriteOptions, kw_only=True):
    """The options of ``desk update``."""


def update(args: DeskUpdateOptions, context: Surroundings) -> int:
    """Runs ``desk update``."""
    desk = pick.desk(args, context)
    files = changing(rewritten(desk))
    if not files and not args.json:
        context.report("Nothing on this desk was written by an older version.")
        return 0
    paths = list(dict.fromkeys(each.path for each in files))
    what = f"Rewrote {counted(len(paths), 'file')} of an older version"
    return keep(writing_of(args), context, desk, files, what)
