"""What a table or a sheet is given out as: the options of its form and its paper."""

import argparse
from typing import TYPE_CHECKING, Any

from msgspec import Struct

from olive_compass.cli.output.new_file import Into, claimed, into_of
from olive_compass.cli.surroundings import Surroundings
from olive_compass.drawing.forms import form_called, form_names
from olive_compass.errors import UserError

if TYPE_CHECKING:
    from olive_compass.cli.options import OnPaper
    from olive_compass.drawing.documents import Printing
    from olive_compass.drawing.faces import Faces

#: The papers that can be named (drawing/pages.py has their sizes).
PAPERS = ("a3", "a4", "a5", "a6", "letter", "tabloid")

#: Letters that are smaller or larger than these are not for reading.
SIZES = (4.0, 24.0)

#: The most columns of a sheet.
MOST_COLUMNS = 12


def paper_options(parser: argparse.ArgumentParser, usual: str) -> Any:
    """The options of a command that prints on paper, a group of them; ``usual`` is the paper where none is named."""
    group = parser.add_argument_group("on paper (--as pdf)")
    group.add_argument(
        "--paper",
        type=str.lower,
        choices=PAPERS,
        metavar="SIZE",
        help=f"{', '.join(PAPERS)} (default: {usual})",
    )
    group.add_argument("--landscape", action="store_true", help="landscape format")
    group.add_argument("--size", type=float, metavar="POINTS", help="the size of the letters")
    return group


def table_options(parser: argparse.ArgumentParser, *more: str) -> None:
    """``--as`` and ``--out`` of a command whose table is given out in any form; ``more`` are forms that only it has."""
    parser.add_argument(
        "--as",
        dest="form",
        choices=("text", *more, *form_names()),
        default="text",
        help="the output form (default: by the ending of --out, or text)",
    )
    parser.add_argument("-o", "--out", metavar="FILE", help="output file (default: the terminal)")


class Wanted(Struct, frozen=True, kw_only=True):
    """What was asked for of a table or a sheet: where it goes, the paper and how it lies, the size of the
    letters in points and the columns (None: as fits best)."""

    into: Into
    paper: str | None
    landscape: bool
    size: float | None
    columns: int | None

    @property
    def form(self) -> str:
        """The form that was asked for."""
        return self.into.form


def wanted(
    args: "OnPaper",
    context: Surroundings,
    *,
    columns: int | None = None,
    json: bool = False,
    dry_run: bool = False,
) -> Wanted:
    """What the options say, with the ``columns`` of a sheet; raises ``UserError`` where they do not go together,
    before anything is worked out."""
    into = into_of(args, dry_run)
    form, out = into.form, into.out
    _check_paper(args, form, columns)
    if form != "text" and json:
        raise UserError("--json is a form of its own.", hint="Use --json or --as, not both.")
    if form == "text" and out:
        raise UserError(
            "Text is for the terminal.", hint="For a file say --as markdown, html or pdf."
        )
    if not out:
        if form in form_names() and form_called(form).only_file:
            raise UserError(
                "This goes into a file.", hint=f"Name a file: --as {form} --out keys.{form}"
            )
    else:
        # Refused now and not when it is made: what is drawn for a minute must have a place to go.
        claimed(context, out)
    return Wanted(
        into=into, paper=args.paper, landscape=args.landscape, size=args.size, columns=columns
    )


def _check_paper(args: "OnPaper", form: str, columns: int | None) -> None:
    """Raises ``UserError`` where something is said of paper for another form, or cannot be."""
    on_paper = {
        "paper": args.paper is not None,
        "landscape": args.landscape,
        "size": args.size is not None,
        "columns": columns is not None,
    }
    for name, is_said in on_paper.items():
        if is_said and form != "pdf":
            raise UserError(f"--{name} is for paper.", hint="Use --as pdf --out FILE with it.")
    if columns is not None and not 1 <= columns <= MOST_COLUMNS:
        raise UserError(f"--columns is 1 to {MOST_COLUMNS}; {columns} is not.")
    if args.size is not None and not SIZES[0] <= args.size <= SIZES[1]:
        raise UserError(f"--size is in points, {SIZES[0]:g} to {SIZES[1]:g}; {args.size:g} is not.")


def printing_of(asked: Wanted, usual: str, lying: bool = False) -> "Printing":
    """How it is to lie on paper; ``usual`` is the paper where none was asked for."""
    from olive_compass.drawing.documents import Printing

    return Printing(
        paper=asked.paper or usual,
        landscape=asked.landscape or lying,
        size=asked.size or 0.0,
        columns=asked.columns or 0,
    )


def warn_of_fonts(context: Surroundings, name: str, faces: "Faces") -> None:
    """Says which letters of a printed file no font has, and which are left to its reader."""
    from olive_compass.drawing.text_metrics import named_letters

    if faces.lacking:
        context.warn(
            f"olive-compass: {name}: No font on this machine has {named_letters(faces.lacking)}; "
            "their code points are shown instead. Install a font that has them, and print it again."
        )
    if faces.borrowed:
        context.warn(
            f"olive-compass: {name}: Some East Asian letters are in no font of this machine; the PDF asks "
            f"its reader for {faces.borrowed}. With a font that has them installed, they are put into it."
        )
