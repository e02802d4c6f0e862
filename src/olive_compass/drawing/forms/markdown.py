"""Markdown, for wikis and notes."""

from collections.abc import Iterator

from olive_compass.core.schemes.sheet import SheetGroup, SheetLine
from olive_compass.core.wording import clause
from olive_compass.drawing.documents import Checklist, SheetDocument, TableDocument, Written
from olive_compass.drawing.forms import Form


def marked(text: str) -> str:
    """Text in which Markdown finds no mark-up of its own."""
    for sign in "\\`*_[]<>|#":
        text = text.replace(sign, "\\" + sign)
    return text.replace("\n", " ")


def _table(document: TableDocument) -> Written:
    headings = document.table.headings
    lines = [f"# {marked(document.title)}\n", f"{marked(document.subtitle)}\n"]
    lines.append(f"| {' | '.join(map(marked, headings))} |")
    lines.append(f"| {' | '.join('---' for _ in headings)} |")
    for row in document.table.rows:
        lines.append(f"| {' | '.join(marked(cell.whole) for cell in row)} |")
    return _written([*lines, "", *map(marked, document.notes)])


def _sheets(document: SheetDocument) -> Written:
    """A table for each menu, the keys as code."""
    lines = []
    for sheet in document.sheets:
        about = sheet.about
        where = clause(", {}", about.mode)
        lines.append(f"# {marked(about.title)} {marked(about.version)}{marked(where)}\n")
        lines.append(f"{marked(about.desk)}, {about.date}; {marked(about.schemes)}\n")
        for group in sheet.groups:
            lines += _group(group)
    return _written(lines)


def _group(group: SheetGroup) -> Iterator[str]:
    yield f"## {marked(group.name)}\n"
    yield "| keys | command | modes |\n| --- | --- | --- |"
    for line in group.lines:
        asks = ""
        if line.asks:
            asks = f" (asks {', '.join(line.asks)})"
        yield f"| {_keys(line)} | {marked(line.title + asks)} | {marked(line.where)} |"
    yield ""


def _keys(line: SheetLine) -> str:
    """The keys of a line; or the reason for having none, if there is one."""
    if line.texts:
        return " or ".join(map(_code, line.texts))
    if line.note:
        return marked(f"none: {line.note}")
    return ""


def _code(key: str) -> str:
    key = key.replace("|", "\\|")
    if "`" in key:
        return f"`` {key} ``"
    return f"`{key}`"


def _checklist(checklist: Checklist) -> Written:
    """A list with boxes, as most readers of Markdown draw them."""
    lines = [f"# {marked(checklist.title)}: keys to change by hand", ""]
    for number, task in enumerate(checklist.tasks, 1):
        lines.append(f"- [ ] {number}. {marked(task.text)} {marked(task.menu)}".rstrip())
    if checklist.left:
        lines += ["", "## What it does not allow", ""]
        lines += [f"- {marked(each)}" for each in checklist.left]
    return _written(lines)


def _written(lines: list[str]) -> Written:
    return Written(data=("\n".join(lines).rstrip() + "\n").encode())


FORM = Form(endings=(".md",), write_table=_table, write_sheets=_sheets, write_checklist=_checklist)
