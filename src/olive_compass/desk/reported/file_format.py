"""What a file format reads, as ``fileformat try`` reports it."""

from typing import Any

from olive_compass.core.keys.new_words import unknown_words
from olive_compass.desk.reported.report import Report
from olive_compass.desk.shortcuts.file_format import FileFormat
from olive_compass.desk.shortcuts.shortcuts_content import Content, Entry
from olive_compass.desk.shortcuts.shortcuts_rows import keys_in_own_words


class UnknownWordReport(Report, frozen=True, kw_only=True):
    """A word for a key that nobody knows, and what it may mean."""

    word: str
    times: int
    proposal: str | None


class TriedReport(Report, frozen=True, kw_only=True):
    """What a format reads in a file."""

    file_format: str
    records: list[dict[str, Any]]
    lines_passed_over: int
    unknown_words: list[UnknownWordReport]


def tried_report(form: FileFormat, content: Content, text: str) -> TriedReport:
    """What a format reads in a text, which ``content`` has already."""
    return TriedReport(
        file_format=form.name,
        records=[
            {
                **each.parts,
                "line": line_of_entry(text, each),
                "mode": each.mode or None,
                "keys": list(map(str, each.keys)),
                "problem": each.problem or None,
            }
            for each in content.entries
        ],
        lines_passed_over=content.passed_over,
        unknown_words=[
            UnknownWordReport(word=each.word, times=each.times, proposal=each.proposal or None)
            for each in unknown_words(keys_in_own_words(content, text))
        ],
    )


def line_of_entry(text: str, entry: Entry) -> int:
    """The line of the text in which a record begins, from 1."""
    return text.count("\n", 0, entry.span[0]) + 1
