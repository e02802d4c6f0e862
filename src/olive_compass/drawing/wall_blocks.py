"""A sheet of keys for the wall as blocks: each line with its keys, and signs for the modes in which they count."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from olive_compass.core.apps.modes import ROOT, ModeTree
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.sheet import SheetLine
from olive_compass.core.wording import clause
from olive_compass.drawing.documents import Sheet
from olive_compass.drawing.group_colours import tints
from olive_compass.drawing.key_caps import printed
from olive_compass.drawing.print_frame import Head
from olive_compass.drawing.wall_sheet import Block, Row


def blocks_of(sheet: Sheet, show: Callable[[Run], str]) -> tuple[Head, list[Block]]:
    """A sheet as it is laid out: the modes as marks, whose meaning stands below."""
    about = sheet.about
    marks = Marks(sheet.modes)
    colours = tints(sheet.menus)
    blocks = [
        Block(
            group.name,
            tuple(_row(line, marks, show, about.mode) for line in group.lines),
            colours.get(group.name, ""),
        )
        for group in sheet.groups
    ]
    subtitle = " · ".join(filter(None, (about.desk, about.schemes, about.date)))
    return Head(about.heading, subtitle, tuple(marks.meanings())), blocks


def _row(line: SheetLine, marks: Marks, show: Callable[[Run], str], mode: str) -> Row:
    if mode:
        where = {}
    else:
        where = {key: marks.of(key.modes) for key in line.keys}
    alike = len(set(where.values())) < 2
    triggers = tuple(printed(key.trigger, show, () if alike else where[key]) for key in line.keys)
    note = clause("none: {}", line.note)
    if line.asks:
        note = f"asks {', '.join(line.asks)}"
    shared = next(iter(where.values()), ()) if alike else ()
    return Row(triggers=triggers, title=line.title, marks=shared, note=note)


def texts_of(head: Head, blocks: Sequence[Block]) -> list[str]:
    """All that may be written."""
    found = [head.title, head.subtitle, *head.notes]
    for block in blocks:
        found.append(f"{block.heading}, continued")
        for row in block.rows:
            found += [row.title, row.note, *row.marks]
            for trigger in row.triggers:
                found += [*trigger.marks, *(piece.text for piece in trigger.pieces)]
    return found


class Marks:
    """Short signs for modes: as much of the beginning of each as tells it from the others."""

    def __init__(self, modes: ModeTree) -> None:
        self._modes = modes
        self._signs = {mode: _sign(mode, modes.names) for mode in modes.names}
        self._met: set[str] = set()
        self._leaves_out = False

    def of(self, modes: Sequence[str]) -> tuple[str, ...]:
        """The signs of modes, with ``−`` before what is left out; none for everywhere."""
        if len(set(modes)) in (0, len(self._modes.names)):
            return ()
        found = []
        for mode, without in self._modes.spans(modes):
            self._met.update((mode, *without))
            self._leaves_out = self._leaves_out or bool(without)
            left = "".join(f"−{self._signs[each]}" for each in without)
            found.append(("" if mode == ROOT and without else self._signs[mode]) + left)
        return tuple(found)

    def meanings(self) -> list[str]:
        """What the signs say that were given so far."""
        met = [mode for mode in self._modes.names if mode in self._met and mode != ROOT]
        said = [f"{self._signs[mode]} {mode}" for mode in met]
        if self._leaves_out:
            return [*said, "− but not in"]
        return said


def _sign(mode: str, names: Sequence[str]) -> str:
    others = [name for name in names if name != mode]
    for n in range(1, len(mode) + 1):
        if not any(name.casefold().startswith(mode[:n].casefold()) for name in others):
            return mode[:n].capitalize()
    return mode
