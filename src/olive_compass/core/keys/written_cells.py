"""The triggers of a command in one cell of a file of ours: written in one way, and read back."""

from olive_compass.core.keys.cell import Cell
from olive_compass.core.keys.reading import canonical, read_trigger
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Run

#: How we join triggers in one cell.
JOIN = " or "

#: How we write the key ``-`` where it stands alone: the sign alone is a word for “no key”.
_LONE_MINUS = "minus"


def write_cell(triggers: tuple[Run, ...]) -> str:
    """The triggers in one cell, as ``read_written_cell`` reads them back."""
    text = JOIN.join(map(str, triggers))
    if text == "-":
        return _LONE_MINUS
    return text


def read_written_cell(text: str, typed: int = 0) -> Cell:
    """The triggers in a cell of a file of ours, also where a person has edited it.

    A lone ``/`` within a run that we wrote is a key; in a listing it parts two triggers.
    """
    if text == _LONE_MINUS:
        return Cell((read_trigger("-"),))
    runs = [canonical(part) or _as_we_write_it(part) for part in text.split(JOIN)]
    if None in runs or text == "-":
        # Loaded here: a person or another program wrote it.
        from olive_compass.core.keys.cells import read_cell

        return read_cell(text, typed)
    return Cell(tuple(run for run in runs if run))


def _as_we_write_it(text: str) -> Run | None:
    """What our own writing has that ``canonical`` does not know: letters beyond ASCII, places."""
    try:
        run = read_trigger(text)
    except TriggerError:
        return None
    if str(run) == text:
        return run
    return None
