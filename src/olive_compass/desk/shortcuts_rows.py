"""An application's shortcuts file as the rows of a listing, by a file format."""

from olive_compass.core.apps.listing import Row
from olive_compass.core.keys.written_cells import write_cell
from olive_compass.core.wording import counted
from olive_compass.desk.delivery import opened
from olive_compass.desk.importing.source import Read
from olive_compass.desk.shortcuts_file import Entry, FileFormat
from olive_compass.desk.shortcuts_file import read as read_entries


def read(form: FileFormat, data: bytes, typed: int = 0) -> Read:
    """A row a command and mode, several records of which are one row; a heading before them."""
    text = opened(data).text
    content = read_entries(form, text, typed)
    together: dict[tuple[str, str, str], list[Entry]] = {}
    for each in content.entries:
        key = (each.subject, each.parts.get("menu", ""), each.mode)
        together.setdefault(key, []).append(each)
    rows = [Row(0, ("id", "title", "menu", "modes", "keys", "kind", "does"))]
    for (subject, menu, mode), entries in together.items():
        parts = entries[0].parts
        runs = tuple(dict.fromkeys(run for each in entries for run in each.keys))
        # What cannot be read stands there as the file has it, to be set aside with its reason.
        wrong = [text[slice(*each.cell)] for each in entries if each.problem]
        keys = wrong[0] if wrong else write_cell(runs)
        title = parts.get("title") or _as_title(subject)
        line = text.count("\n", 0, entries[0].span[0]) + 1
        cells = (
            parts.get("id", ""),
            title,
            menu,
            mode,
            keys,
            parts.get("kind", ""),
            parts.get("does", ""),
        )
        rows.append(Row(line, cells))
    note = f"by the format {form.name}"
    if content.passed_over:
        note += f"; {counted(content.passed_over, 'line')} passed over"
    return Read(rows, (), note)


def _as_title(id_: str) -> str:
    """A title for a command of which the file has the id only: ``line.smooth`` is Line smooth."""
    words = id_.replace(".", " ").replace("-", " ").replace("_", " ").split()
    return " ".join(words)[:1].upper() + " ".join(words)[1:]
