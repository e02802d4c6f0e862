"""An application's shortcuts file as the rows of a listing, by a file format."""

import re
from collections.abc import Iterable

from olive_compass.core.apps.listing_row import Row
from olive_compass.core.keys.kinds.own import PREFIX as OWN
from olive_compass.core.keys.written_cells import write_cell
from olive_compass.core.wording import counted
from olive_compass.desk.importing.source import Read
from olive_compass.desk.shortcuts.delivery import opened
from olive_compass.desk.shortcuts.file_format import FileFormat, id_in_mode, unescaped
from olive_compass.desk.shortcuts.shortcuts_content import Content, Entry
from olive_compass.desk.shortcuts.shortcuts_file import read as read_entries


def _together(entries: Iterable[Entry]) -> dict[tuple[str, str, str], list[Entry]]:
    """The records of each command, menu and mode."""
    found: dict[tuple[str, str, str], list[Entry]] = {}
    for each in entries:
        key = (each.subject, each.parts.get("menu", ""), each.mode)
        found.setdefault(key, []).append(each)
    return found


def read(form: FileFormat, data: bytes, typed: int = 0) -> Read:
    """A row a command and mode, several records of which are one row; a heading before them."""
    text = opened(data).text
    content = read_entries(form, text, typed)
    together = _together(content.entries)
    rows = [Row(line=0, cells=("id", "title", "menu", "modes", "keys", "kind", "does"))]
    for (subject, menu), by_mode in _by_subject(together).items():
        alike = len({_keys(text, entries) for entries in by_mode.values()}) == 1
        # A command with other keys in another mode is a command of its own there: a catalogue has its keys once.
        groups = [(", ".join(by_mode), next(iter(by_mode.values())))] if alike else by_mode.items()
        for modes, entries in groups:
            parts = entries[0].parts
            id_ = parts.get("id", "")
            line = text.count("\n", 0, entries[0].span[0]) + 1
            cells = (
                id_ if alike or not id_ else id_in_mode(id_, modes),
                parts.get("title") or _as_title(unescaped(content.form, subject)),
                menu,
                modes,
                _keys(text, entries),
                parts.get("kind", ""),
                parts.get("does", ""),
            )
            rows.append(Row(line=line, cells=cells, is_exact=True))
    return Read(rows=rows, set_aside=(), note=_note(form, content, text))


def keys_in_own_words(content: Content, text: str) -> list[str]:
    """The keys of a file that are words which only the application knows, as they stand there."""
    pieces = (piece for entry in content.entries for piece in entry.pieces if piece.run)
    return [
        text[slice(*piece.span)]
        for piece in pieces
        if piece.run and any(each.key.startswith(OWN) for each in piece.run.strokes)
    ]


def _note(form: FileFormat, content: Content, text: str) -> str:
    """How the file was read, in words."""
    note = f"by the format {form.name}"
    if content.form.capitals and not form.capitals:
        note += "; a capital letter means Shift and that letter, because the file has both"
    if own := keys_in_own_words(content, text):
        note += f"; {counted(len(own), 'key')} kept as the file writes them"
    if content.passed_over:
        note += f"; {counted(content.passed_over, 'line')} passed over"
    return note


def _by_subject(
    together: dict[tuple[str, str, str], list[Entry]],
) -> dict[tuple[str, str], dict[str, list[Entry]]]:
    """The records of each command by mode."""
    found: dict[tuple[str, str], dict[str, list[Entry]]] = {}
    for (subject, menu, mode), entries in together.items():
        found.setdefault((subject, menu), {})[mode] = entries
    return found


def _keys(text: str, entries: list[Entry]) -> str:
    """The cell of keys of a command in a mode; what cannot be read stands there as the file has it, to be set aside
    with its reason."""
    wrong = [text[slice(*each.cell)] for each in entries if each.problem]
    runs = tuple(dict.fromkeys(run for each in entries for run in each.keys))
    if wrong:
        return wrong[0]
    return write_cell(runs)


def _as_title(id_: str) -> str:
    """A title for a command of which the file has the id only.

    >>> _as_title("line.smooth"), _as_title("scroll +5"), _as_title("resize-pane -U 5")
    ('Line smooth', 'Scroll +5', 'Resize-pane -U 5')
    """
    # A text with blanks is a command with arguments: its signs set it apart from others.
    if " " in id_:
        words = id_
    else:
        words = re.sub(r"(?<=\w)[._-]+(?=\w)", " ", id_)
    return words[:1].upper() + words[1:]
