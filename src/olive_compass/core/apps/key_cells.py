"""Reads the cells with keys of a listing, each text once, by what all of them show together."""

from collections.abc import Sequence

from olive_compass.core.apps.columns import family
from olive_compass.core.apps.habits import leaders, longest_typed, minus_is_key
from olive_compass.core.apps.listing_result import ListingRequest, SetAside
from olive_compass.core.apps.listing_row import Row
from olive_compass.core.keys.cell import Cell
from olive_compass.core.keys.cells import GESTURE, names_command, read_cell
from olive_compass.core.keys.kinds import kind_of
from olive_compass.core.keys.letter_case import has_both_cases, typed_capitals
from olive_compass.core.keys.spelling import CAPITAL, Spelling
from olive_compass.core.keys.triggers import Run, Stroke


class KeyCells:
    """The reader for a column of keys. What it cannot read goes to ``aside``, with its line.

    ``typed`` is how long typed sequences are; ``capitals`` whether a capital letter is Shift and that letter;
    ``unread`` are the cells that could not be read, ``gestures`` those that tell a gesture.
    """

    def __init__(
        self, column: Sequence[str], request: ListingRequest, aside: list[SetAside]
    ) -> None:
        cells = list(filter(None, column))
        self.request = request
        self.aside = aside
        self.unread: list[str] = []
        self.gestures: set[str] = set()
        self.spelling = Spelling(request.spelling)
        self.capitals = has_both_cases(map(self.spelling.read, set(cells)))
        if self.capitals:
            self.spelling = Spelling({**request.spelling, **dict([CAPITAL])})
        self.minus_is_key = minus_is_key(cells)
        #: Keys that begin sequences: “G, D” is one in a listing where many cells begin with “G,”.
        self.leaders: frozenset[str] = frozenset()
        if request.longest != 1:
            self.leaders = leaders(cells)
        if request.typed is None:
            self.typed = longest_typed(cells)
        else:
            self.typed = request.typed
        # What texts of cells were read as: most stand many times.
        self._triggers: dict[str, tuple[Run, ...]] = {}
        self._others: dict[str, tuple[Run, ...] | None] = {"": None}

    @property
    def sequences(self) -> tuple[str, ...]:
        """The cells with a sequence that begins with a modifier."""
        return tuple(text for text, runs in self._triggers.items() if any(map(_is_chord, runs)))

    def read(self, row: Row, cell_text: str) -> tuple[Run, ...]:
        """The keys of a cell; one that could be read without a word is read once."""
        known = self._triggers.get(cell_text)
        if known is not None:
            return known
        if not cell_text:
            return ()
        cell = self._cell(cell_text, self.request.platform)
        if cell.problem == GESTURE:
            self.gestures.add(cell_text)
            self._set_aside(row, cell.problem, cell_text)
        elif cell.problem:
            self.unread.append(cell_text)
            self._set_aside(row, cell.problem, cell_text)
        if stranger := next(filter(None, map(self._stranger, cell.triggers)), ""):
            self.unread.append(cell_text)
            self._set_aside(row, f"the desk has no device “{stranger}”", cell_text)
            return ()
        if not cell.problem:
            self._triggers[cell_text] = cell.triggers
        return cell.triggers

    def elsewhere(self, cell_text: str) -> tuple[Run, ...] | None:
        """What a cell has for the other platform, None: the same."""
        if cell_text not in self._others:
            self._others[cell_text] = self._of_other_platform(cell_text)
        return self._others[cell_text]

    def _cell(self, cell_text: str, platform: str) -> Cell:
        text = cell_text
        if self.spelling.has_capitals:
            text = typed_capitals(text, self.typed)
        text = self.spelling.read(text)
        if text in ("-", "–") and self.minus_is_key:
            text = "minus"
        if "," in text and text.partition(",")[0].strip() in self.leaders:
            text = " ".join(part.strip() for part in text.split(","))
        return read_cell(text, self.typed, platform)

    def _of_other_platform(self, cell_text: str) -> tuple[Run, ...] | None:
        if "mac" not in cell_text.lower() and not names_command(cell_text):
            return None
        other = "mac"
        if family(self.request.platform) == "mac":
            other = "pc"
        cell = read_cell(self.spelling.read(cell_text), self.typed, other)
        own = self._triggers.get(cell_text)
        if cell.problem or own is None or cell.triggers == own:
            return None
        return cell.triggers

    def _stranger(self, run: Run) -> str:
        """The device of a trigger that the desk does not declare, ``""``: there is none."""
        for stroke in run.strokes:
            device, colon, control = stroke.key.partition(":")
            # A colon alone is a key.
            if not device or not colon or device in self.request.devices:
                continue
            if kind_of(Stroke((), f"{device}:{control}")).name == "device":
                return device
        return ""

    def _set_aside(self, row: Row, why: str, text: str) -> None:
        self.aside.append(SetAside(line=row.line, what="keys", why=why, text=text))


def _is_chord(run: Run) -> bool:
    """Whether it is a sequence that begins with a modifier."""
    return len(run.strokes) > 1 and bool(run.strokes[0].modifiers)
