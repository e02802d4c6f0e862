"""The sheet as HTML, CSV and Markdown."""

import csv
import io
from collections.abc import Sequence
from typing import NamedTuple

from olive_compass.core.schemes.sheet import SheetGroup
from olive_compass.desk.cells import shielded


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
    parts = [f"# {_marked(about.title)} {_marked(about.version)}{_marked(where)}\n"]
    parts.append(f"{_marked(about.desk)}, {about.date}; {_marked(about.schemes)}\n")
    for group in groups:
        parts.append(f"## {_marked(group.name)}\n")
        parts.append("| keys | command | modes |\n| --- | --- | --- |")
        for line in group.lines:
            keys = " or ".join(map(_code, line.keys))
            parts.append(f"| {keys} | {_marked(line.title)} | {_marked(' '.join(line.modes))} |")
        parts.append("")
    return "\n".join(parts).rstrip() + "\n"


def as_html(groups: Sequence[SheetGroup], about: About) -> str:
    """One file that needs no other, made to be printed on A4 and Letter."""
    from jinja2 import Environment, PackageLoader, select_autoescape

    loader = PackageLoader("olive_compass.drawing", "templates")
    environment = Environment(
        loader=loader, autoescape=select_autoescape(["html"]), trim_blocks=True, lstrip_blocks=True
    )
    environment.filters["strokes"] = _strokes
    template = environment.get_template("sheet.html")
    return template.render(groups=groups, about=about) + "\n"


def _strokes(key: str) -> list[list[str]]:
    """A trigger as strokes of single keys, for one ``<kbd>`` each."""
    strokes = []
    for stroke in key.split(" "):
        *held, last = (
            stroke.split("+") if not stroke.endswith("+") else (*stroke[:-2].split("+"), "+")
        )
        if stroke.endswith("Num+"):
            held, last = [part for part in stroke[:-4].split("+") if part], "Num+"
        strokes.append([part for part in (*held, last) if part])
    return strokes


def _marked(text: str) -> str:
    """Text in which Markdown finds no mark-up of its own."""
    for sign in "\\`*_[]<>|#":
        text = text.replace(sign, "\\" + sign)
    return text.replace("\n", " ")


def _code(key: str) -> str:
    key = key.replace("|", "\\|")
    return f"`` {key} ``" if "`" in key else f"`{key}`"
