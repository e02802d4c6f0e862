"""Makes the commands of a catalogue out of the rows of an application's own listing."""

import re
from collections.abc import Collection, Mapping, Sequence
from operator import itemgetter

from olive_compass.core.apps.access import unmarked
from olive_compass.core.apps.app import KINDS, Catalogue, Command, CommandKind
from olive_compass.core.apps.columns import Columns, find_heading, guess_columns
from olive_compass.core.apps.command_ids import UniqueCommands, slug, unused_id
from olive_compass.core.apps.double_headings import joined_headings
from olive_compass.core.apps.groups import filled_down, group_rows
from olive_compass.core.apps.habits import has_access_letters, menu_signs, mostly_paths
from olive_compass.core.apps.headings import EVERYWHERE
from olive_compass.core.apps.key_cells import KeyCells
from olive_compass.core.apps.key_columns import gather_keys
from olive_compass.core.apps.key_matrix import as_list, map_heading
from olive_compass.core.apps.listing_cleaning import cleaned_rows, short_enough
from olive_compass.core.apps.listing_result import Listing, ListingRequest, SetAside
from olive_compass.core.apps.listing_row import Row
from olive_compass.core.apps.naming import MENU_SIGNS, menu_path
from olive_compass.core.apps.search import fold
from olive_compass.core.apps.situations import ENOUGH, Path, mode_names, situations, with_modes
from olive_compass.core.keys.cells import NO_KEY
from olive_compass.core.keys.new_words import unknown_words
from olive_compass.core.keys.spelling import Spelling
from olive_compass.core.keys.triggers import Run
from olive_compass.core.plain import one_line
from olive_compass.structs import replace


def read_listing(rows: Sequence[Row], request: ListingRequest) -> Listing:
    """The catalogue that ``rows`` describe.

    Raises ``LookupError`` where the columns cannot be recognised; anything smaller that cannot be
    read is in ``set_aside`` with its line.
    """
    rows, odd = short_enough(rows)
    spelling = Spelling(request.spelling)
    rows, cleaned = cleaned_rows(rows)
    rows = joined_headings(rows)
    odd += cleaned
    # In a map a row has many commands, so it is counted before the list is made.
    mapped = 0
    if map_heading(rows) is not None:
        mapped = sum(any(row.cells) for row in rows)
    rows, remarks = as_list(rows)
    odd += remarks
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
    aside = [*map(_before_headings, preface), *odd]
    maker = _Maker(body, columns, request, aside)
    listing = _parted_by_modes(maker.listing(len(cleaned)), request, maker.headings)
    # The file itself has no row without a line.
    added = rows[:1] if rows and rows[0].line == 0 else []
    written = all_rows - len(added)
    return replace(
        listing,
        rows=written + sum(each.what == "row" for each in odd),
        heads=listing.heads + written - len(body) - len(preface),
        own_heads=any(row.heading for row in added),
        unused=unused_id(head, body, columns.fields),
        mapped=mapped,
    )


def _before_headings(row: Row) -> SetAside:
    """A row that is set aside because the table has not begun."""
    text = " | ".join(filter(None, row.cells))
    return SetAside(line=row.line, what="row", why="it comes before the headings", text=text)


def _parted_by_modes(
    listing: Listing, request: ListingRequest, headings: Collection[Path]
) -> Listing:
    """The listing with the headings as modes that part its keys, where they are taken for that."""
    commands = listing.catalogue.commands
    if request.headed:
        headings = {command.menu for command in commands} - {()}
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
        #: The menus that are headings of rows.
        self.headings: set[Path] = set()
        # A field without a column is read from an empty cell after the last one.
        used = (column + 1 for column in columns.fields.values())
        width = max(0, *(len(row.cells) for row in rows), *used)
        self.at = {field: columns.fields.get(field, width) for field in _ORDER}
        self.pick = itemgetter(*(self.at[field] for field in _ORDER))
        self.blanks = [("",) * n for n in range(width + 2)]
        self.width = width
        self.keys = KeyCells(self._column("keys"), request, aside)
        titles, menus = self._column("title"), self._column("menu")
        self.title_is_path = "menu" not in self.fields and mostly_paths(titles)
        self.has_letters = has_access_letters([*titles, *menus])
        self.menu_signs = menu_signs(menus)
        #: What texts of cells were read as: most stand many times.
        self.paths: dict[str, tuple[str, ...]] = {}
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
        catalogue = Catalogue(taken.all)
        return Listing(
            catalogue=catalogue,
            columns=self.columns,
            modes=catalogue.modes,
            set_aside=tuple(self.aside),
            rows=len(self.rows),
            groups=len(groups) - empty,
            repeated=taken.repeated,
            typed=self.keys.typed,
            longest_sequence=catalogue.longest_sequence,
            cleaned=cleaned,
            heads=heads,
            guessed_groups=tuple(
                dict.fromkeys(text for n, text in groups.items() if not self.rows[n].heading)
            ),
            filled=self.filled,
            unknown=unknown_words(self.keys.unread, self.request.spelling),
            capitals=self.keys.capitals,
            sequences=self.keys.sequences[:3],
        )

    def _heads_nothing(self, n: int, groups: Mapping[int, str]) -> bool:
        """Whether a row that a person said is a heading has no command below it."""
        return self.request.groups == "yes" and (n + 1 in groups or n + 1 == len(self.rows))

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
            keys=self.keys.read(row, keys),
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
        said = ""
        if keys in self.keys.gestures:
            said = one_line(keys)
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

    def _keys_elsewhere(self, row: Row, keys: str, cell_text: str) -> tuple[Run, ...] | None:
        """The keys on the other platform: of their own column, or of a cell that has those of both."""
        if "keys_elsewhere" in self.fields:
            return self.keys.read(row, cell_text)
        return self.keys.elsewhere(keys)

    def _modes(self, text: str) -> tuple[str, ...]:
        known = self.places.get(text)
        if known is None:
            known = ()
            if fold(text) not in NO_KEY | EVERYWHERE:
                names = map(slug, re.split(r"[,;/|]| and | or ", text))
                known = tuple(dict.fromkeys(filter(None, names)))
            self.places[text] = known
        return known

    def _set_aside(self, row: Row, what: str, why: str, text: str) -> None:
        self.aside.append(SetAside(line=row.line, what=what, why=why, text=text))


def _without_stop(title: str) -> str:
    """A title that is a sentence without its final stop."""
    if " " in title and not title.endswith((" etc.", "..")):
        return title.removesuffix(".").rstrip()
    return title


def _without_letters(
    title: str, menu: tuple[str, ...]
) -> tuple[str, tuple[str, ...], tuple[str, ...]]:
    """A title and a menu without the marks of their access letters, and these: those of the menu first."""
    title, own = unmarked(title)
    parts = [unmarked(step) for step in menu]
    letters = (*(letter for _, letter in parts), own)
    # A menu without letters is no menu whose letters are all unknown.
    return title, tuple(step for step, _ in parts), letters if any(letters) else ()
