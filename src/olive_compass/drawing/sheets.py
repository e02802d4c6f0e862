"""The sheet as HTML, CSV and Markdown."""

import csv
import io
from collections.abc import Sequence
from typing import NamedTuple

from olive_compass.core.schemes.sheet import SheetGroup
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
    writer.writerow(("menu", "command", "keys", "modes", "id"))
    for group in groups:
        for line in group.lines:
            cells = (group.name, line.title, " or ".join(line.keys), " ".join(line.modes), line.id)
            writer.writerow(map(shielded, cells))
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
            keys = " or ".join(map(_code, line.keys))
            parts.append(f"| {keys} | {marked(line.title)} | {marked(' '.join(line.modes))} |")
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


def _code(key: str) -> str:
    key = key.replace("|", "\\|")
    return f"`` {key} ``" if "`" in key else f"`{key}`"
