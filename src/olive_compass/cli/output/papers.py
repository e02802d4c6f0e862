"""What is printed on paper: the options, and the PDF that a sheet or a table becomes."""

from collections.abc import Callable, Iterable, Sequence
from typing import TYPE_CHECKING, Any

from msgspec import Struct

from olive_compass.cli.output.new_file import Into, claimed, into_of, put_new
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.keys.kinds.swipe import bearing_of
from olive_compass.core.keys.roses import bearing_name
from olive_compass.core.keys.triggers import Run
from olive_compass.errors import UserError

if TYPE_CHECKING:
    from olive_compass.drawing.faces import Faces
    from olive_compass.drawing.key_caps import Trigger
    from olive_compass.drawing.pages import Page, Paper

#: The papers that can be named (drawing/pages.py has their sizes).
PAPERS = ("a3", "a4", "a5", "a6", "letter", "tabloid")

#: Letters that are smaller or larger than these are not for reading.
SIZES = (4.0, 24.0)

#: The most columns of a sheet.
MOST_COLUMNS = 12


def paper_options(parser: Any, usual: str) -> Any:
    """The options of a command that prints on paper, a group of them; ``usual`` is the paper unasked."""
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


def table_options(parser: Any) -> None:
    """``--as`` and ``--out`` of a command whose table is given out in any form."""
    parser.add_argument(
        "--as",
        dest="form",
        choices=("text", "html", "csv", "markdown", "xlsx", "pdf"),
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


def wanted(args: Any, context: Surroundings) -> Wanted:
    """What the options say; raises ``UserError`` where they do not go together, before anything is worked
    out."""
    into = into_of(args)
    form, out = into.form, into.out
    said = [
        name
        for name in ("paper", "landscape", "size", "columns")
        if vars(args).get(name) is not None and vars(args)[name] is not False
    ]
    if said and form != "pdf":
        raise UserError(f"--{said[0]} is for paper.", hint="Use --as pdf --out FILE with it.")
    columns = vars(args).get("columns")
    if columns is not None and not 1 <= columns <= MOST_COLUMNS:
        raise UserError(f"--columns is 1 to {MOST_COLUMNS}; {columns} is not.")
    if args.size is not None and not SIZES[0] <= args.size <= SIZES[1]:
        raise UserError(f"--size is in points, {SIZES[0]:g} to {SIZES[1]:g}; {args.size:g} is not.")
    if form != "text" and vars(args).get("json") is True:
        raise UserError("--json is a form of its own.", hint="Use --json or --as, not both.")
    if form == "text" and out:
        raise UserError(
            "Text is for the terminal.", hint="For a file say --as markdown, html or pdf."
        )
    if not out:
        if form in ("pdf", "xlsx"):
            raise UserError(
                "This goes into a file.", hint=f"Name a file: --as {form} --out keys.{form}"
            )
    else:
        # Refused now and not when it is made: what is drawn for a minute must have a place to go.
        claimed(context, out)
    return Wanted(
        into=into, paper=args.paper, landscape=args.landscape, size=args.size, columns=columns
    )


def paper_of(asked: Wanted, usual: str, lying: bool = False) -> "Paper":
    """The paper that was asked for."""
    from olive_compass.drawing.pages import paper

    return paper(asked.paper or usual, asked.landscape or lying)


def faces_for(context: Surroundings, name: str, texts: Iterable[str]) -> "Faces":
    """The fonts for ``texts``; says which letters none has."""
    from olive_compass.drawing.faces import Faces
    from olive_compass.drawing.text_metrics import named_letters

    faces = Faces(texts)
    if faces.lacking:
        context.warn(
            f"olive-compass: {name}: No font on this machine has {named_letters(faces.lacking)}; "
            "their code points stand in their place. Install a font that has them, and print it again."
        )
    if faces.borrowed:
        context.warn(
            f"olive-compass: {name}: Some East Asian letters are in no font of this machine; the PDF asks "
            f"its reader for {faces.borrowed}. With a font that has them installed, they are put into it."
        )
    return faces


def printed(trigger: Run, show: Callable[[Run], str], marks: tuple[str, ...] = ()) -> "Trigger":
    """A trigger as it is drawn: a key a stroke, an arrow for a swipe."""
    from olive_compass.drawing.key_caps import Piece, Trigger

    pieces = []
    for stroke in trigger.strokes:
        bearing = bearing_of(stroke)
        text = show(Run((stroke,)))
        if bearing is not None:
            text = "+".join((*stroke.modifiers, bearing_name(bearing)))
        pieces.append(Piece(text, bearing))
    return Trigger(tuple(pieces), marks, show(trigger))


def write_pdf(
    into: Into,
    context: Surroundings,
    leaves: Sequence["Page"],
    faces: "Faces",
    title: str,
    listing: str = "",
) -> None:
    """Writes the pages into a new file, and says so; ``listing`` is what can be read back from them."""
    from olive_compass.core.wording import counted
    from olive_compass.drawing.pdf_files import as_pdf

    data = as_pdf(leaves, faces, title, listing)
    put_new(into, context, data, counted(len(leaves), "page"))
