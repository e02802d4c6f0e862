"""Fields that are named at the beginning of lines: ``Command: Save sheet``, and below it ``Default key: Ctrl+S``."""

from olive_compass.core.apps.columns import by_heading, plain_heading
from olive_compass.desk.importing.line_pairs import is_keys

#: The most words before the colon.
_MOST_WORDS = 3


def field_in(text: str) -> tuple[str, str]:
    """The field that a line names, and what it is; ``("", "")``: it names none.

    >>> field_in("Default key: Ctrl+S"), field_in("Command: Save sheet"), field_in("Save sheet: Ctrl+S")
    (('keys', 'Ctrl+S'), ('title', 'Save sheet'), ('', ''))
    """
    label, colon, value = text.partition(":")
    if not colon or not value.strip() or len(label.split()) > _MOST_WORDS:
        return "", ""
    field = next(iter(by_heading([plain_heading(label)], "pc")), "")
    if not field:
        return "", ""
    return field, value.strip()


def title_and_keys(above: str, below: str) -> tuple[str, str] | None:
    """The title and the keys that two lines name, None where they name something else."""
    (first, title), (second, keys) = field_in(above), field_in(below)
    if (first, second) == ("title", "keys") and is_keys(keys):
        return title, keys
    return None
