"""The sheet as HTML, CSV and Markdown."""

import csv
import io
from collections.abc import Sequence
from typing import NamedTuple

from olive_compass.core.schemes.sheet import SheetGroup, SheetLine
from olive_compass.desk.cells import shielded
from olive_compass.drawing.templating import page


class About(NamedTuple):
    """What stands at the head of a sheet."""

    title: str
    version: str
    desk: str
    mode: str
    schemes: str
    date: str


def as_csv(groups: Sequence[SheetGroup], about: About) -> str:
    """A row a command; cells that a spreadsheet would run are shielded."""
    text = io.StringIO()
    writer = csv.writer(text, lineterminator="\n")
    writer.writerow(("menu", "title", "keys", "modes", "command"))
    for group in groups:
        for line in group.lines:
            keys = " or ".join(line.texts)
            writer.writerow(map(shielded, (group.name, line.title, keys, line.where, line.id)))
    return text.getvalue()


def as_markdown(groups: Sequence[SheetGroup], about: About) -> str:
    """A table for each menu, the keys as code."""
    where = f", {about.mode}" if about.mode else ""
    parts = [f"# {marked(about.title)} {marked(about.version)}{marked(where)}\n"]
    parts.append(f"{marked(about.desk)}, {about.date}; {marked(about.schemes)}\n")
    for group in groups:
        parts.append(f"## {marked(group.name)}\n")
        parts.append("| keys | command | modes |\n| --- | --- | --- |")
        for line in group.lines:
            keys = " or ".join(map(_code, line.texts)) or marked(_none(line))
            parts.append(f"| {keys} | {marked(line.title)} | {marked(line.where)} |")
        parts.append("")
    return "\n".join(parts).rstrip() + "\n"


def as_html(groups: Sequence[SheetGroup], about: About) -> str:
    """One file that needs no other, made to be printed on A4 and Letter."""
    return page("sheet.html", groups=groups, about=about)


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
