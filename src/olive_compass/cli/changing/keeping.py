"""Saves changes of files that are no decisions of a scheme, and says so: one way for all of them."""

from typing import TYPE_CHECKING, Any

from msgspec import Struct

from olive_compass.cli.changing.saving import save, would
from olive_compass.cli.surroundings import Surroundings
from olive_compass.desk.desk import Desk
from olive_compass.desk.storage.records import FileChange, changing

if TYPE_CHECKING:
    from olive_compass.cli.options import Writes


class Writing(Struct, frozen=True):
    """How a change is to be written: whether it is only shown, and whether JSON is to be printed."""

    dry_run: bool
    json: bool


def writing_of(args: "Writes") -> Writing:
    """The same of a command's options."""
    return Writing(args.dry_run, args.json)


def keep(
    how: Writing,
    context: Surroundings,
    desk: Desk,
    files: list[FileChange],
    what: str,
    lines: tuple[str, ...] = (),
    **fields: Any,
) -> int:
    """Saves ``files`` as one change called ``what`` and returns 0.

    ``lines`` are said after the change, ``fields`` stand in the JSON beside what every writing
    command gives (docs/json.md).
    """
    files = changing(files)
    number = None
    if files and not how.dry_run:
        number = save(desk, context, files, what)
    if how.json:
        context.json(
            {
                "what": what,
                "changed": number is not None,
                "dry-run": how.dry_run,
                "change": number,
                "files": [each.path for each in files],
                **fields,
            }
        )
    elif not files:
        context.report(f"Already done; nothing was changed: {what}.")
    elif how.dry_run:
        context.say("\n".join([*would(what, lines), "Dry run: nothing was written."]))
    else:
        context.report(f"{what} ({', '.join(each.path for each in files)}).")
        for line in lines:
            context.report(line)
        context.report("To undo: olive-compass undo")
    return 0
