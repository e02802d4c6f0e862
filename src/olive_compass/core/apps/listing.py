"""Makes the commands of a catalogue out of the rows of an application's own listing."""

import re
from collections.abc import Collection, Mapping, Sequence
from operator import itemgetter

from olive_compass.core.apps.access import unmarked
from olive_compass.core.apps.app import KINDS, Catalogue, Command, CommandKind
from olive_compass.core.apps.columns import Columns, family, find_heading, guess_columns
from olive_compass.core.apps.command_ids import UniqueCommands, slug, unused_id
from olive_compass.core.apps.groups import filled_down, group_rows
from olive_compass.core.apps.habits import (
    has_access_letters,
    leaders,
    longest_typed,
    menu_signs,
    minus_is_key,
    mostly_paths,
)
from olive_compass.core.apps.headings import EVERYWHERE
from olive_compass.core.apps.key_columns import gather_keys
from olive_compass.core.apps.key_matrix import as_list, map_heading
from olive_compass.core.apps.listing_result import Listing, ListingRequest, SetAside
from olive_compass.core.apps.listing_row import Row
from olive_compass.core.apps.naming import MENU_SIGNS, menu_path
from olive_compass.core.apps.search import fold
from olive_compass.core.apps.situations import (
    ENOUGH,
    Path,
    mode_names,
    situations,
    with_modes,
)
from olive_compass.core.keys.cell import Cell
from olive_compass.core.keys.cells import GESTURE, NO_KEY, names_command, read_cell
from olive_compass.core.keys.kinds import kind_of
from olive_compass.core.keys.letter_case import has_both_cases
from olive_compass.core.keys.new_words import unknown_words
from olive_compass.core.keys.spelling import CAPITAL, Spelling
from olive_compass.core.keys.triggers import Run, Stroke
from olive_compass.core.plain import escaped, one_line, plain_text
from olive_compass.structs import replace

#: The most characters in a cell: what is longer is no title, and no description that a table has.
LONGEST_CELL = 5_000


def read_listing(rows: Sequence[Row], request: ListingRequest) -> Listing:
    """The catalogue that ``rows`` describe.

    Raises ``LookupError`` where the columns cannot be recognised; anything smaller that cannot be
    read is in ``set_aside`` with its line.
    """
    rows, odd = _parted(rows)
    spelling = Spelling(request.spelling)
    rows, cleaned = _cleaned(rows)
    odd += cleaned
    # In a map a row has many commands, so it is counted before the list is made.
    mapped = 0 if map_heading(rows) is None else len(rows)
    rows = as_list(rows)
    body = [row for row in rows if any(row.cells)]
    all_rows = len(body)
    head, preface, body = _headed(body, request.columns)
    gathered = gather_keys(head, body, request.columns, request.platform)
    head, body = gathered.head, gathered.rows
    spelt = [row.cells for row in body if not row.heading]
    if request.spelling:
        spelt = [tuple(map(spelling.read, cells)) for cells in spelt]
    columns = guess_columns(head, spelt, request.columns, request.platform)
    if gathered.note:
        columns.why["keys"] += gathered.note
    before = "it stands before the headings"
    aside = [
        *(
            SetAside(
                line=row.line, what="row", why=before, text=" | ".join(filter(None, row.cells))
            )
            for row in preface
        ),
        *odd,
    ]
    # The file itself has no such row.
    invented = sum(row.line == 0 for row in rows[:1])
    maker = _Maker(body, columns, request, aside)
    listing = _parted_by_modes(maker.listing(len(cleaned)), request, maker.headings)
    return replace(
        listing,
        rows=all_rows - invented + sum(each.what == "row" for each in odd),
        heads=listing.heads + all_rows - invented - len(body) - len(preface),
        unused=unused_id(head, body, columns.fields),
        mapped=mapped,
    )


def _parted_by_modes(
    listing: Listing, request: ListingRequest, headings: Collection[Path]
) -> Listing:
    """The listing with the headings as modes that part its keys, where they are taken for that."""
    commands = listing.catalogue.commands
    if request.headed:
        headings = {command.menu for command in commands if command.menu}
    if not headings or request.headings == "menu":
        return listing
    found = situations(commands, headings)
    keys = len({each.key for each in found.splits})
    as_modes = bool(found.headings) and (request.headings == "mode" or keys >= ENOUGH)
    if not as_modes:
        return replace(listing, situations=found)
    names = mode_names(found.headings, slug)
    catalogue = Catalogue(tuple(with_modes(command, names) for command in commands))
    modes = tuple(dict.fromkeys((*listing.modes, *names.values())))
    return replace(listing, catalogue=catalogue, modes=modes, situations=found, as_modes=True)


def _headed(
    body: list[Row], named: Mapping[str, str]
) -> tuple[tuple[str, ...], list[Row], list[Row]]:
    """The headings of the columns, the rows before them that are no titles, and the rows below."""
    # A title above the table is not the row of its headings, whatever words are in it.
    lone = [row.heading and sum(map(bool, row.cells)) == 1 for row in body]
    heads = [() if alone else row.cells for row, alone in zip(body, lone, strict=True)]
    at = find_heading(heads, named)
    if at is None:
        return (), [], body
    head = body[at].cells
    preface = [row for row in body[:at] if not row.heading]
    # A long page repeats its headings.
    below = [row for n, row in enumerate(body) if row.cells != head and (n > at or row.heading)]
    return head, preface, below


#: The fields in the order in which a command takes them.
_ORDER = ("title", "keys", "menu", "modes", "id", "kind", "does", "keys_elsewhere")


class _Maker:
    def __init__(
        self, rows: Sequence[Row], columns: Columns, request: ListingRequest, aside: list[SetAside]
    ) -> None:
        self.filled = 0
        if request.groups != "no":
            rows, self.filled = filled_down(rows, columns.fields)
        self.rows = rows
        self.columns = columns
        self.fields = columns.fields
        self.request = request
        self.aside = aside
        self.spelling = Spelling(request.spelling)
        self.unread: list[str] = []
        #: The menus that are headings of rows.
        self.headings: set[Path] = set()
        #: Cells that tell a gesture.
        self.gestures: set[str] = set()
        # A field without a column is read from an empty cell after the last one.
        used = (column + 1 for column in columns.fields.values())
        width = max(0, *(len(row.cells) for row in rows), *used)
        self.at = {field: columns.fields.get(field, width) for field in _ORDER}
        self.pick = itemgetter(*(self.at[field] for field in _ORDER))
        self.blanks = [("",) * n for n in range(width + 2)]
        self.width = width
        cells = list(filter(None, self._column("keys")))
        #: Whether the cells themselves tell that a capital letter is Shift and that letter.
        self.capitals = has_both_cases(map(self.spelling.read, set(cells)))
        if self.capitals:
            self.spelling = Spelling({**request.spelling, **dict([CAPITAL])})
        self.minus_is_key = minus_is_key(cells)
        self.devices = request.devices
        if request.longest != 1:
            self.leaders = leaders(cells)
        else:
            self.leaders = frozenset()
        if request.typed is None:
            self.typed = longest_typed(cells)
        else:
            self.typed = request.typed
        titles, menus = self._column("title"), self._column("menu")
        self.title_is_path = "menu" not in self.fields and mostly_paths(titles)
        self.has_letters = has_access_letters([*titles, *menus])
        self.menu_signs = menu_signs(menus)
        #: What texts of cells were read as: most stand many times.
        self.paths: dict[str, tuple[str, ...]] = {}
        self.triggers: dict[str, tuple[Run, ...]] = {}
        self.others: dict[str, tuple[Run, ...] | None] = {"": None}
        self.places: dict[str, tuple[str, ...]] = {}

    def _column(self, field: str) -> list[str]:
        """The cells of a field, row by row."""
        at = self.at[field]
        return [row.cell(at) for row in self.rows]

    def _cells(self, row: Row) -> tuple[str, ...]:
        """The cells of a row, one for each of ``_ORDER``."""
        found: tuple[str, ...] = self.pick(row.cells + self.blanks[self.width + 1 - len(row.cells)])
        return found

    def listing(self, cleaned: int) -> Listing:
        groups = group_rows(self.rows, self.fields, self.request.groups)
        group = ""
        taken = UniqueCommands(ids="id" in self.fields)
        heads = empty = 0
        for n, row in enumerate(self.rows):
            if n in groups:
                group = groups[n]
                if self._heads_nothing(n, groups):
                    why = "it was read as a heading, and no command follows it"
                    self._set_aside(row, "row", why, group)
                    empty += 1
            elif row.heading:
                # Headings of columns once more, in other words than those above.
                heads += 1
            else:
                command = self._command(row, group)
                if command is not None:
                    taken.add(command)
        commands = taken.all
        modes = tuple(dict.fromkeys(mode for command in commands for mode in command.modes))
        lengths = [len(run.strokes) for command in commands for run in command.keys]
        return Listing(
            catalogue=Catalogue(commands),
            columns=self.columns,
            modes=modes,
            set_aside=tuple(self.aside),
            rows=len(self.rows),
            groups=len(groups) - empty,
            repeated=taken.repeated,
            typed=self.typed,
            longest_sequence=max(lengths, default=1),
            cleaned=cleaned,
            heads=heads,
            guessed_groups=tuple(
                dict.fromkeys(text for n, text in groups.items() if not self.rows[n].heading)
            ),
            filled=self.filled,
            unknown=unknown_words(self.unread, self.request.spelling),
            capitals=self.capitals,
            sequences=tuple(filter(self._has_sequence, self.triggers))[:3],
        )

    def _heads_nothing(self, n: int, groups: Mapping[int, str]) -> bool:
        """Whether a row that a person said is a heading has no command below it."""
        return self.request.groups == "yes" and (n + 1 in groups or n + 1 == len(self.rows))

    def _has_sequence(self, text: str) -> bool:
        """Whether a cell has a sequence that begins with a modifier."""
        runs = self.triggers[text]
        return any(len(run.strokes) > 1 and run.strokes[0].modifiers for run in runs)

    def _command(self, row: Row, group: str) -> Command | None:
        title, keys, menu_text, modes, id_, kind_text, does, keys_elsewhere = self._cells(row)
        title, menu = self._title_and_menu(title, menu_text)
        if not title:
            self._set_aside(row, "row", "it has no title", " | ".join(filter(None, row.cells)))
            return None
        if group and not menu:
            menu = menu_path(group, MENU_SIGNS[:5])
            self.headings.add(menu)
        access: tuple[str, ...] = ()
        if self.has_letters:
            title, menu, access = _without_letters(title, menu)
        return Command(
            id=one_line(id_),
            title=title,
            menu=menu,
            keys=self._keys(row, keys) if keys else (),
            modes=self._modes(modes) if modes else (),
            kind=self._kind(row, kind_text),
            does=self._does(one_line(does), keys),
            line=row.line,
            access=access,
            keys_elsewhere=self._keys_elsewhere(row, keys, keys_elsewhere),
        )

    def _title_and_menu(self, title: str, menu_text: str) -> tuple[str, tuple[str, ...]]:
        """The title of a row and its menu, of which each may stand in the other's cell."""
        title = _without_stop(one_line(title))
        menu = self.paths.get(menu_text)
        if menu is None:
            menu = self.paths[menu_text] = menu_path(menu_text, self.menu_signs)
        # "Edit > Lines > Smooth" in the column of titles: the last step is the title.
        if self.title_is_path:
            *steps, title = menu_path(title, MENU_SIGNS[:5]) or ("",)
            menu = tuple(steps)
        # A list of menu paths alone names its commands by their last steps.
        if not title and menu and "title" not in self.fields:
            *steps, title = menu
            menu = tuple(steps)
        # Some lists give the menu with the command at its end, and the command beside it.
        if len(menu) > 1 and menu[-1].casefold() == title.casefold():
            menu = menu[:-1]
        return title, menu

    def _does(self, does: str, keys: str) -> str:
        """What a command does, with the gesture that starts it: no key can be made of that, and it can be found."""
        said = one_line(keys) if keys in self.gestures else ""
        if "(" in keys and not said:
            # Loaded here: few cells say when.
            from olive_compass.core.keys.manual_cells import condition

            said = condition(keys)
        if not said:
            return does
        if does:
            return f"{does} ({said})"
        return said

    def _kind(self, row: Row, text: str) -> CommandKind:
        kind = text.lower() or "command"
        if kind in KINDS:
            return kind
        self._set_aside(row, "kind", "it is none of " + ", ".join(KINDS), kind)
        return "command"

    def _keys(self, row: Row, cell_text: str) -> tuple[Run, ...]:
        """The keys of a cell; one that could be read without a word is read once."""
        known = self.triggers.get(cell_text)
        if known is not None:
            return known
        text = self.spelling.read(cell_text)
        if text in ("-", "–") and self.minus_is_key:
            text = "minus"
        # “G, D”: where many cells begin with the same key and a comma, it begins runs and parts no keys.
        if "," in text and text.partition(",")[0].strip() in self.leaders:
            text = " ".join(part.strip() for part in text.split(","))
        cell: Cell = read_cell(text, self.typed, self.request.platform)
        if cell.problem == GESTURE:
            self.gestures.add(cell_text)
            self._set_aside(row, "keys", cell.problem, cell_text)
        elif cell.problem:
            self.unread.append(cell_text)
            self._set_aside(row, "keys", cell.problem, cell_text)
        if stranger := next((d for run in cell.triggers if (d := self._stranger(run))), ""):
            self.unread.append(cell_text)
            why = f"the desk has no device “{stranger}”"
            self._set_aside(row, "keys", why, cell_text)
            return ()
        if not cell.problem:
            self.triggers[cell_text] = cell.triggers
        return cell.triggers

    def _keys_elsewhere(self, row: Row, keys: str, cell_text: str) -> tuple[Run, ...] | None:
        """The keys on the other platform: of their own column, or of a cell that has those of both."""
        if "keys_elsewhere" in self.fields:
            if cell_text:
                return self._keys(row, cell_text)
            return ()
        if keys not in self.others:
            self.others[keys] = self._of_other_platform(keys)
        return self.others[keys]

    def _of_other_platform(self, keys: str) -> tuple[Run, ...] | None:
        """What a cell has for the other platform, None: the same."""
        if "mac" not in keys.lower() and not names_command(keys):
            return None
        other = "mac"
        if family(self.request.platform) == "mac":
            other = "pc"
        cell: Cell = read_cell(self.spelling.read(keys), self.typed, other)
        own = self.triggers.get(keys)
        if cell.problem or own is None or cell.triggers == own:
            return None
        return cell.triggers

    def _stranger(self, run: Run) -> str:
        """The device of a trigger that the desk does not declare, ``""``: there is none."""
        found = (stroke.key.partition(":") for stroke in run.strokes if ":" in stroke.key[1:])
        return next(
            (
                device
                for device, _, control in found
                if device not in self.devices
                and kind_of(Stroke((), f"{device}:{control}")).name == "device"
            ),
            "",
        )

    def _modes(self, text: str) -> tuple[str, ...]:
        known = self.places.get(text)
        if known is None:
            plain = fold(text)
            none = plain in NO_KEY or plain in EVERYWHERE
            names = () if none else map(slug, re.split(r"[,;/|]| and | or ", text))
            known = self.places[text] = tuple(dict.fromkeys(filter(None, names)))
        return known

    def _set_aside(self, row: Row, what: str, why: str, text: str) -> None:
        self.aside.append(SetAside(line=row.line, what=what, why=why, text=text))


def _without_stop(title: str) -> str:
    """A title that is a sentence without its final stop."""
    if title[-1:] != "." or " " not in title or title.endswith((" etc.", "..")):
        return title
    return title[:-1].rstrip()


def _parted(rows: Sequence[Row]) -> tuple[list[Row], list[SetAside]]:
    """The rows that can be of commands, and those with a cell that is far too long for one."""
    kept, aside = [], []
    for row in rows:
        # All of a row together is mostly shorter than one cell may be.
        if sum(map(len, row.cells)) > LONGEST_CELL and (
            len(longest := max(row.cells, key=len)) > LONGEST_CELL
        ):
            why = f"a cell has {len(longest)} characters, and {LONGEST_CELL} are the most"
            aside.append(SetAside(line=row.line, what="row", why=why, text=longest[:200]))
        else:
            kept.append(row)
    return kept, aside


def _cleaned(rows: Sequence[Row]) -> tuple[list[Row], list[SetAside]]:
    """The rows without control characters and needless spaces, and the cells that had some."""
    aside: list[SetAside] = []
    result = []
    for row in rows:
        if (row.is_exact and "|".join(row.cells).isprintable()) or _is_clean(row.cells):
            result.append(row)
            continue
        cells = []
        for cell in row.cells:
            if not cell.isprintable():
                plain = plain_text(cell)
                if len(plain) < len(cell.replace("\ufeff", "").replace("\r\n", "\n")):
                    why = "signs that do not belong in it were taken out"
                    aside.append(SetAside(line=row.line, what="text", why=why, text=escaped(cell)))
                cell = plain
            lines = (" ".join(line.split()) for line in cell.split("\n"))
            cells.append("\n".join(filter(None, lines)))
        result.append(Row(line=row.line, cells=tuple(cells), heading=row.heading))
    return result, aside


def _is_clean(cells: tuple[str, ...]) -> bool:
    """Whether nothing is to be taken out of the cells of a row; one that looks odd is gone through."""
    text = "|".join(cells)
    return (
        text.isprintable()
        and "  " not in text
        and "| " not in text
        and " |" not in text
        and text == text.strip()
    )


def _without_letters(
    title: str, menu: tuple[str, ...]
) -> tuple[str, tuple[str, ...], tuple[str, ...]]:
    """A title and a menu without the marks of their access letters, and these: those of the menu first."""
    title, own = unmarked(title)
    parts = [unmarked(step) for step in menu]
    letters = (*(letter for _, letter in parts), own)
    # A menu without letters is no menu whose letters are all unknown.
    return title, tuple(step for step, _ in parts), letters if any(letters) else ()
