"""``sheet --as``: the sheets of applications in every form but the terminal's."""

from collections.abc import Sequence
from typing import TYPE_CHECKING

from olive_compass.cli.output.forms import give, give_json
from olive_compass.cli.output.papers import Wanted, printing_of
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.sheet import SheetGroup
from olive_compass.desk.desk import Desk
from olive_compass.drawing.forms import form_called
from olive_compass.errors import UserError

if TYPE_CHECKING:
    from olive_compass.drawing.documents import Printing, Sheet

#: An application's keys, its groups, and the mode that was asked for.
Found = tuple[Keymap, list[SheetGroup], str | None]


def give_sheets(asked: Wanted, context: Surroundings, desk: Desk, found: Sequence[Found]) -> None:
    """Gives the sheets out in the form that was asked for, on stdout or into the file of ``--out``."""
    from olive_compass.drawing.documents import SheetDocument

    if asked.form == "json":
        from olive_compass.desk.reported.sheet import sheet_report

        documents = [sheet_report(*each) for each in found]
        if len(documents) == 1:
            give_json(asked.into, context, documents[0])
        else:
            give_json(asked.into, context, {"sheets": documents})
        return
    sheets = SheetDocument(
        sheets=tuple(_sheet(context, desk, *each) for each in found),
        show=context.key,
        printing=_printing(asked),
    )
    give(asked.into, context, form_called(asked.form).sheets(sheets))


def _printing(asked: Wanted) -> "Printing":
    """How the sheets lie on paper. Raises ``UserError`` where it has no room for so many columns."""
    printing = printing_of(asked, "a4")
    if asked.columns:
        from olive_compass.drawing.wall_sheet import most_columns

        most = most_columns(printing.page, printing.size)
        if asked.columns > most:
            raise UserError(
                f"{asked.columns} columns of letters of this size do not fit this paper.",
                hint=f"It has room for {most}; or use --landscape, or a larger --paper.",
            )
    return printing


def _sheet(
    context: Surroundings, desk: Desk, keymap: Keymap, groups: list[SheetGroup], mode: str | None
) -> "Sheet":
    from olive_compass.drawing.documents import About, Sheet

    app = keymap.app
    about = About(
        title=app.title,
        version=app.version,
        desk=desk.settings.name,
        mode=mode or "",
        schemes=" over ".join(keymap.stack.names),
        date=context.now().date().isoformat(),
    )
    return Sheet(about=about, groups=tuple(groups), menus=app.catalogue.top_menus, modes=app.modes)
