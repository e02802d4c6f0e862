"""A catalogue as ``commands.csv``: a row a command, to be opened in any spreadsheet."""

import csv
import io
from collections.abc import Sequence
from operator import itemgetter
from typing import Any

from olive_compass.core.apps.access import marked, unmarked
from olive_compass.core.apps.app import KINDS, Catalogue, Command, UnreadableKey
from olive_compass.core.apps.marks import UNMARKED, Marks, read_marks
from olive_compass.core.keys.triggers import Run
from olive_compass.core.keys.written_cells import read_written_cell, write_cell
from olive_compass.core.plain import one_line
from olive_compass.desk.texts.cells import restored, shielded
from olive_compass.desk.texts.csv_text import columns_of, rows_of, text_of, too_long
from olive_compass.errors import UserError

FORMAT = "olive-compass-commands/1"
FIELDS = ("id", "title", "menu", "keys", "modes", "kind", "does", "marks", "inputs")

#: The column of a Mac's factory keys, in a catalogue that has those of both platforms: ``keys`` are the others'.
MAC = "keys-mac"

#: A menu path, and the access letter of each step.
Menu = tuple[tuple[str, ...], tuple[str, ...]]

#: How a cell begins that a spreadsheet may run, or that was shielded from that.
_ODD = frozenset("=+-@\t\r'")


def write(catalogue: Catalogue, platform: str) -> bytes:
    """The file of a catalogue whose keys are those of a platform."""
    by_platform = any(command.keys_elsewhere is not None for command in catalogue.commands)
    text = io.StringIO()
    text.write(f"# {FORMAT}\n")
    writer = csv.writer(text, lineterminator="\n")
    writer.writerow((*FIELDS, MAC) if by_platform else FIELDS)
    # Most menus, modes, keys and marks stand many times: each is put together once.
    menus: dict[object, str] = {}
    keys: dict[object, str] = {(): ""}
    marks: dict[object, str] = {}
    for command in catalogue.commands:
        menu, runs, noted, access = command.menu, command.keys, command.marks, command.access
        menu_cell = menus.get((menu, access[:-1]))
        if menu_cell is None:
            menu_cell = menus[menu, access[:-1]] = _menu_cell(command)
        others = command.keys_elsewhere
        mac_keys: tuple[Run, ...] = ()
        if by_platform:
            if others is None:
                others = runs
            if platform == "mac":
                runs, mac_keys = others, runs
            else:
                mac_keys = others
        keys_cell = keys.get(runs)
        if keys_cell is None:
            keys_cell = keys[runs] = write_cell(runs)
        marks_cell = marks.get((noted, access[-1:]))
        if marks_cell is None:
            marks_cell = marks[noted, access[-1:]] = " ".join(noted.words + _letter_mark(command))
        cells = [
            command.id,
            command.title,
            menu_cell,
            keys_cell,
            " ".join(command.modes),
            command.kind,
            command.does,
            marks_cell,
            command.inputs,
        ]
        if by_platform:
            cells.append(write_cell(mac_keys))
        writer.writerow([shielded(cell) if cell[:1] in _ODD else cell for cell in cells])
    return text.getvalue().encode()


def read(data: bytes, file: str, typed: int, platform: str) -> Catalogue:
    """The catalogue in a file with the keys of a platform, also after a spreadsheet has saved it in its own way.

    Raises ``UserError`` where it is no such file; single cells of keys that cannot be read
    are in the catalogue's ``unreadable``.
    """
    head, reader = rows_of(text_of(data, file, FORMAT), file)
    head = [cell.lower() for cell in head]
    at = columns_of(head, FIELDS, file)
    if MAC in head:
        keys, mac = FIELDS.index("keys"), head.index(MAC)
        at = [*at, at[keys] if platform == "mac" else mac]
        if platform == "mac":
            at[keys] = mac
    try:
        return _CatalogueReader(file, typed, by_platform=MAC in head).catalogue(reader, at)
    except csv.Error as error:
        raise too_long(file, reader) from error


class _CatalogueReader:
    """Reads rows as commands. Most menus, keys and marks stand many times: each is read once."""

    def __init__(self, file: str, typed: int, by_platform: bool) -> None:
        self.file = file
        self.typed = typed
        self.by_platform = by_platform
        self.commands: dict[str, Command] = {}
        self.unreadable: list[UnreadableKey] = []
        self.known_keys: dict[str, tuple[Run, ...]] = {"": ()}
        self.known_marks: dict[str, tuple[Marks, str]] = {"": (UNMARKED, "")}
        self.known_menus: dict[str, Menu] = {"": ((), ())}

    def catalogue(self, reader: Any, at: list[int]) -> Catalogue:
        """The commands in the rows; ``at`` are the columns of the fields, -1 where one is missing."""
        # A column that is missing is the empty cell that is put at the end of each row.
        pick, widest = itemgetter(*at), max(at)
        line = reader.line_num
        for row in reader:
            first, line = line + 1, reader.line_num
            row.append("")
            if len(row) <= widest:
                row += [""] * (widest + 1 - len(row))
            cells = pick(row)
            if "'" in "".join(cells):
                cells = tuple(map(restored, cells))
            self._take(cells, first)
        return Catalogue(tuple(self.commands.values()), tuple(self.unreadable))

    def _take(self, cells: Sequence[str], line: int) -> None:
        """Takes the command of a row."""
        if self.by_platform:
            *cells, others = cells
        id_, title, menu, keys, modes, kind, does, marks, inputs = cells
        if not (id_ + title + menu + does).isprintable():
            id_, title, menu, does = map(one_line, (id_, title, menu, does))
        if not id_ and not title:
            return
        self._check_id(id_, title, line)
        path, letters = self._menu(menu)
        words, own = self._marks(marks)
        self.commands[id_] = Command(
            id=id_,
            title=title or id_,
            menu=path,
            keys=self._keys(keys, id_, line),
            modes=tuple(modes.split()) if modes else (),
            kind=kind if kind in KINDS else "command",
            does=does,
            line=line,
            marks=words,
            access=(*letters, own) if own or any(letters) else (),
            inputs=inputs,
            keys_elsewhere=self._keys(others, id_, line) if self.by_platform else None,
        )

    def _check_id(self, id_: str, title: str, line: int) -> None:
        """Raises ``UserError`` for a command without an id, or with that of another."""
        if id_ and id_ not in self.commands:
            return
        if id_:
            says = f"The id “{id_}” appears twice"
        else:
            says = f"“{title}” has no id"
        raise UserError(f"{says}; every command needs one of its own.", file=self.file, line=line)

    def _keys(self, cell: str, command: str, line: int) -> tuple[Run, ...]:
        known = self.known_keys.get(cell)
        if known is None:
            read = read_written_cell(cell, self.typed)
            if read.problem:
                unreadable = UnreadableKey(
                    command=command, text=cell, reason=read.problem, line=line
                )
                self.unreadable.append(unreadable)
            known = self.known_keys[cell] = read.triggers
        return known

    def _menu(self, cell: str) -> "Menu":
        known = self.known_menus.get(cell)
        if known is None:
            steps = [unmarked(step.strip()) for step in cell.split(" > ") if step.strip()]
            known = tuple(step for step, _ in steps), tuple(letter for _, letter in steps)
            self.known_menus[cell] = known
        return known

    def _marks(self, cell: str) -> tuple[Marks, str]:
        known = self.known_marks.get(cell)
        if known is None:
            known = self.known_marks[cell] = _marks(cell)
        return known


def _marks(cell: str) -> tuple[Marks, str]:
    """The marks of a command, and its own access letter."""
    words = cell.split()
    if "letter:" not in cell:
        return read_marks(words), ""
    letter = next((word[7:].upper() for word in words if word.startswith("letter:")), "")
    return read_marks(word for word in words if not word.startswith("letter:")), letter


def _letter_mark(command: Command) -> list[str]:
    if command.access and command.access[-1]:
        return [f"letter:{command.access[-1]}"]
    return []


def _menu_cell(command: Command) -> str:
    return " > ".join(map(marked, command.menu, command.menu_letters))
