"""What is given out in a form that was asked for: a table, sheets of keys or a checklist, as values.

How it looks as CSV, as a page or on paper is decided in ``forms``, a module a form.
"""

from collections.abc import Callable
from typing import TYPE_CHECKING

from msgspec import Struct

from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.sheet import SheetGroup
from olive_compass.core.wording import clause, counted
from olive_compass.drawing.key_caps import Trigger

if TYPE_CHECKING:
    from olive_compass.drawing.faces import Faces
    from olive_compass.drawing.pages import Paper


class Printing(Struct, frozen=True, kw_only=True):
    """How it lies on paper: the paper by its name and whether on its long side, the size of the letters in points
    and the columns of a sheet (0: as fits best)."""

    paper: str = "a4"
    landscape: bool = False
    size: float = 0.0
    columns: int = 0

    @property
    def page(self) -> "Paper":
        """The paper itself."""
        from olive_compass.drawing.pages import paper

        return paper(self.paper, self.landscape)


class Cell(Struct, frozen=True):
    """What stands in a cell: triggers, and words after them."""

    text: str = ""
    triggers: tuple[Trigger, ...] = ()

    @property
    def whole(self) -> str:
        """All of it in words."""
        return " ".join(filter(None, (", ".join(each.text for each in self.triggers), self.text)))


class Table(Struct, frozen=True):
    """Headings, and rows of as many cells."""

    headings: tuple[str, ...]
    rows: tuple[tuple[Cell, ...], ...]


class TableDocument(Struct, frozen=True, kw_only=True):
    """A table under its title, with a line below that and notes after it."""

    title: str
    subtitle: str
    table: Table
    notes: tuple[str, ...] = ()
    printing: Printing = Printing()


class About(Struct, frozen=True, kw_only=True):
    """What stands at the head of a sheet."""

    title: str
    version: str
    desk: str
    mode: str
    schemes: str
    date: str

    @property
    def heading(self) -> str:
        """The application, its version, and the mode that was asked for."""
        mode = clause(", {}", self.mode)
        return f"{self.title} {self.version}".strip() + mode


class Sheet(Struct, frozen=True, kw_only=True):
    """The sheet of an application: what stands at its head, its groups, its menus in the order in which they get
    their colours, and its modes."""

    about: About
    groups: tuple[SheetGroup, ...]
    menus: tuple[str, ...] = ()
    modes: ModeTree


class SheetDocument(Struct, frozen=True, kw_only=True):
    """Sheets of applications; ``show`` writes a trigger as it was asked for."""

    sheets: tuple[Sheet, ...]
    show: Callable[[Run], str]
    printing: Printing = Printing()


class Task(Struct, frozen=True, kw_only=True):
    """Something to do: the sentence, and the menu where it is done."""

    text: str
    menu: str


class Checklist(Struct, frozen=True, kw_only=True):
    """Steps to do in order, and steps that cannot be done, with the reason."""

    title: str
    tasks: tuple[Task, ...]
    left: tuple[str, ...]
    printing: Printing = Printing()


class Contrast(Struct, frozen=True, kw_only=True):
    """Something that two sides have otherwise: in which ``part`` (a file, an application), of what kind, where it counts, what it is about, what
    each side has, and why."""

    part: str
    what: str
    table: str
    subject: str
    before: str
    after: str
    why: str


class Comparison(Struct, frozen=True, kw_only=True):
    """Two sides by their names, what they have otherwise, and how much that is."""

    before: str
    after: str
    contrasts: tuple[Contrast, ...]
    summary: str
    printing: Printing = Printing()

    @property
    def title(self) -> str:
        """What is compared."""
        return f"{self.before} and {self.after}"


class Written(Struct, frozen=True, kw_only=True):
    """A document in a form: its bytes, what it holds in words, and the fonts of a printed one."""

    data: bytes
    holds: str = ""
    faces: "Faces | None" = None


#: The columns of sheets as one table.
COLUMNS = ("menu", "title", "keys", "modes", "command")


def sheets_as_table(document: SheetDocument) -> TableDocument:
    """The sheets as one table, a row a command; of several applications with their titles before."""
    several = len(document.sheets) > 1
    rows = [
        (sheet.about.title, *row) if several else row
        for sheet in document.sheets
        for row in rows_of(sheet)
    ]
    first = document.sheets[0].about
    return TableDocument(
        title=", ".join(sheet.about.heading for sheet in document.sheets),
        subtitle=f"{first.desk}, {first.date}",
        table=Table(
            ("application", *COLUMNS) if several else COLUMNS,
            tuple(tuple(map(Cell, row)) for row in rows),
        ),
        printing=document.printing,
    )


def rows_of(sheet: Sheet) -> list[tuple[str, ...]]:
    """A row for each line of a sheet."""
    return [
        (group.name, line.title, " or ".join(line.texts), line.where, line.id)
        for group in sheet.groups
        for line in group.lines
    ]


def checklist_as_table(checklist: Checklist) -> TableDocument:
    """The checklist as a table with a column to tick off."""
    rows = [
        (Cell(), Cell(str(number)), Cell(task.text), Cell(task.menu))
        for number, task in enumerate(checklist.tasks, 1)
    ]
    return TableDocument(
        title=f"{checklist.title}: keys to change by hand",
        subtitle=f"{counted(len(rows), 'change')}, in this order",
        table=Table(("done", "step", "change", "menu"), tuple(rows)),
        notes=checklist.left,
        printing=checklist.printing,
    )


#: The columns of a comparison as one table, by the fields of what is in them: in the words of the terminal, where the
#: kind of change has no heading.
CONTRASTS = {
    "part": "part",
    "what": "change",
    "table": "what",
    "subject": "of",
    "before": "before",
    "after": "after",
    "why": "why",
}


def comparison_as_table(comparison: Comparison) -> TableDocument:
    """The comparison as one table."""
    rows = [
        tuple(Cell(getattr(each, field)) for field in CONTRASTS) for each in comparison.contrasts
    ]
    return TableDocument(
        title=comparison.title,
        subtitle=comparison.summary,
        table=Table(tuple(CONTRASTS.values()), tuple(rows)),
        printing=comparison.printing,
    )
