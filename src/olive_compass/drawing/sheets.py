"""The sheet as HTML, CSV and Markdown."""

import csv
import io
from collections.abc import Sequence

from msgspec import Struct

from olive_compass.core.schemes.sheet import SheetGroup, SheetLine
from olive_compass.desk.texts.cells import shielded
from olive_compass.drawing.group_colours import tints
from olive_compass.drawing.sheet_markup import sections
from olive_compass.drawing.web_pages import filled, heading, joined, page
from olive_compass.drawing.workbooks import Grid, as_workbook


class About(Struct, frozen=True, kw_only=True):
    """What stands at the head of a sheet."""

    title: str
    version: str
    desk: str
    mode: str
    schemes: str
    date: str


class Sheet(Struct, frozen=True):
    """The sheet of an application: what stands at its head, its groups, and its menus in the order in which they get
    their colours."""

    about: About
    groups: tuple[SheetGroup, ...]
    menus: tuple[str, ...] = ()


COLUMNS = ("menu", "title", "keys", "modes", "command")


def as_csv(sheets: Sequence[Sheet]) -> str:
    """A row a command; of several applications with their titles before. Cells that a spreadsheet would
    run are shielded."""
    text = io.StringIO()
    writer = csv.writer(text, lineterminator="\n")
    several = len(sheets) > 1
    writer.writerow(("application", *COLUMNS) if several else COLUMNS)
    for sheet in sheets:
        for row in _rows(sheet):
            writer.writerow(map(shielded, (sheet.about.title, *row) if several else row))
    return text.getvalue()


def as_listing(sheets: Sequence[Sheet]) -> str:
    """What a sheet has, as a listing to be read back: each command once, its keys in our spelling."""
    text = io.StringIO()
    writer = csv.writer(text, lineterminator="\n")
    writer.writerow(("id", "title", "menu", "keys", "modes"))
    for sheet in sheets:
        above = (sheet.about.title,) if len(sheets) > 1 else ()
        known = set()
        for group in sheet.groups:
            for line in group.lines:
                if line.id not in known:
                    known.add(line.id)
                    keys = " or ".join(str(key.trigger) for key in line.keys)
                    modes = dict.fromkeys(m for key in line.keys if key.where for m in key.modes)
                    row = (line.id, line.title, " > ".join((*above, group.name)), keys)
                    writer.writerow(map(shielded, (*row, ", ".join(modes))))
    return text.getvalue()


def as_xlsx(sheets: Sequence[Sheet]) -> bytes:
    """A workbook with a sheet for each application."""
    grids = []
    for sheet in sheets:
        lines = [line for group in sheet.groups for line in group.lines]
        rows = [
            (*row, line.does, ", ".join(line.asks))
            for row, line in zip(_rows(sheet), lines, strict=True)
        ]
        grids.append(Grid(sheet.about.title, (*COLUMNS, "does", "asks"), tuple(rows)))
    return as_workbook(grids, ", ".join(sheet.about.title for sheet in sheets))


def _rows(sheet: Sheet) -> list[tuple[str, ...]]:
    return [
        (group.name, line.title, " or ".join(line.texts), line.where, line.id)
        for group in sheet.groups
        for line in group.lines
    ]


def as_markdown(sheets: Sequence[Sheet]) -> str:
    """A table for each menu, the keys as code."""
    parts = []
    for sheet in sheets:
        about, groups = sheet.about, sheet.groups
        where = f", {about.mode}" if about.mode else ""
        parts.append(f"# {marked(about.title)} {marked(about.version)}{marked(where)}\n")
        parts.append(f"{marked(about.desk)}, {about.date}; {marked(about.schemes)}\n")
        for group in groups:
            parts.append(f"## {marked(group.name)}\n")
            parts.append("| keys | command | modes |\n| --- | --- | --- |")
            for line in group.lines:
                keys = " or ".join(map(_code, line.texts)) or marked(_none(line))
                asks = f" (asks {', '.join(line.asks)})" if line.asks else ""
                parts.append(f"| {keys} | {marked(line.title + asks)} | {marked(line.where)} |")
            parts.append("")
    return "\n".join(parts).rstrip() + "\n"


def as_html(sheets: Sequence[Sheet]) -> str:
    """One file that needs no other, made to be printed on A4 and Letter."""
    titles = ", ".join(f"{each.about.title} {each.about.version}".strip() for each in sheets)
    lines = sum(len(group.lines) for sheet in sheets for group in sheet.groups)
    body = joined(
        heading(*_heading(each.about))
        + filled(_MAIN, sections(each.groups, "h2", tints=tints(each.menus)))
        for each in sheets
    )
    return page(f"{titles}: keys", body, styles=["sheet.css"], foot=f"{lines} lines.")


def _heading(about: About) -> tuple[str, str]:
    mode = f", {about.mode}" if about.mode else ""
    return (
        f"{about.title} {about.version}".strip() + mode,
        f"{about.desk} · {about.schemes} · {about.date}",
    )


_MAIN = "<main>\n{}</main>\n"


def marked(text: str) -> str:
    """Text in which Markdown finds no mark-up of its own."""
    for sign in "\\`*_[]<>|#":
        text = text.replace(sign, "\\" + sign)
    return text.replace("\n", " ")


def _none(line: SheetLine) -> str:
    """What stands in the place of keys: the reason for having none, if there is one."""
    return f"none: {line.note}" if line.note else ""


def _code(key: str) -> str:
    key = key.replace("|", "\\|")
    return f"`` {key} ``" if "`" in key else f"`{key}`"
