"""A file that a person named for what they asked for: it is written new, never over another."""

import argparse
import os
from typing import TYPE_CHECKING

from msgspec import Struct

from olive_compass.cli.surroundings import Surroundings
from olive_compass.drawing.forms import form_of_ending
from olive_compass.errors import UserError

if TYPE_CHECKING:
    from olive_compass.cli.options import GivesOut

#: The forms that an ending says by itself, beside those of documents (``drawing/forms``).
ENDINGS = {".json": "json", ".png": "png", ".svg": "svg"}


class Into(Struct, frozen=True):
    """In which form an answer is given, and into which file (``""``: the terminal); or whether it is
    only to be said what would be written."""

    form: str
    out: str
    dry_run: bool = False

    @property
    def is_plain(self) -> bool:
        """Whether it is the text for a terminal: no other form, and no file."""
        return self.form == "text" and not self.out


def into_of(args: "GivesOut", dry_run: bool = False) -> Into:
    """What ``--as`` and ``--out`` say: where the form is not said, the ending of the file says it."""
    out = args.out or ""
    ending = os.path.splitext(out)[1].casefold()
    form = args.form
    if form == "text" and ending:
        form = ENDINGS.get(ending) or form_of_ending(ending) or form
    return Into(form, out, dry_run)


def claimed(context: Surroundings, name: str) -> str:
    """The whole path of a file that is to be written; ``UserError`` where there is one already, or no
    folder for it, so that long work is not done for nothing."""
    path = os.path.join(context.folder, os.path.expanduser(name))
    # A link that leads nowhere is something, too.
    if os.path.lexists(path):
        raise UserError("This file exists already; nothing was written.", file=name)
    if not os.path.isdir(os.path.dirname(path)):
        raise UserError("This file cannot be written: there is no such folder.", file=name)
    path = os.path.abspath(path)
    if context.desk is not None:
        from olive_compass.desk.storage.saving import refuse_leading_out

        refuse_leading_out(context.desk.root, os.path.dirname(path), name)
    return path


def put_new(into: Into, context: Surroundings, data: bytes, what: str = "") -> None:
    """Writes the file and says so, with ``what`` it holds; or only says what would be written."""
    if what:
        about = f"{into.out} ({what})"
    else:
        about = into.out
    if into.dry_run:
        context.say(f"Would write {about}.\nDry run: nothing was written.")
        return
    write_new(context, into.out, data)
    context.report(f"Written: {about}.")


def write_new(context: Surroundings, name: str, data: bytes) -> None:
    """Writes it whole, or not at all; ``UserError`` where the folder takes none."""
    # Text alone is shown without what writes files.
    from olive_compass.desk.storage.saving import write_atomically

    path = claimed(context, name)
    try:
        write_atomically(path, data)
    except OSError as error:
        raise UserError(f"This file cannot be written: {error.strerror}.", file=name) from error


def picture_options(parser: argparse.ArgumentParser, what: str) -> None:
    """``--as`` and ``--out`` of a command that also draws a ``what``."""
    parser.add_argument(
        "--as",
        dest="form",
        choices=("text", "png", "svg", "pdf"),
        default="text",
        help=f"draw a {what} into the file of --out (default: by its ending, or text)",
    )
    parser.add_argument("-o", "--out", metavar="FILE", help="output file; must not exist yet")
