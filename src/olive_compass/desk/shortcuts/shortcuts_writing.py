"""Writes wanted keys into a text of an application's own form.

What the format does not match stays as it is, byte for byte: a record whose keys are the wanted ones is
not touched, in one whose keys differ only the keys are, and a new one is put beside its siblings.
"""

import re
from collections.abc import Container, Mapping, Sequence

from msgspec import Struct

from olive_compass.core.keys.terminal_notation import NotWrittenError
from olive_compass.core.keys.triggers import Run
from olive_compass.desk.shortcuts.file_format import GROUPS, FileFormat, escaped, their_mode
from olive_compass.desk.shortcuts.record_places import Edit, RecordPlaces
from olive_compass.desk.shortcuts.shortcut_cells import write_cell, write_key
from olive_compass.desk.shortcuts.shortcuts_content import (
    Content,
    Entry,
    Unwritten,
    Wanted,
    subject,
)
from olive_compass.desk.shortcuts.shortcuts_file import read
from olive_compass.desk.shortcuts.structures import LISTS, Lists
from olive_compass.desk.texts.line_changes import Line, changed_lines, edited


class Written(Struct, frozen=True):
    """A file as it is to be, the lines of it that change, and what the format cannot write."""

    text: str
    lines: tuple[Line, ...]
    unwritten: tuple[Unwritten, ...]


def written(
    form: FileFormat,
    text: str,
    wanted: Sequence[Wanted],
    typed: int = 0,
    offs: Sequence[tuple[Wanted, bool]] = (),
) -> Written:
    """The file with the wanted keys, and the keys that the format cannot write.

    Records that nothing is said of stay as they are. ``offs`` are keys of commands, each with whether it is to be
    switched off by a record of its own.
    """
    content = read(form, text, typed)
    plan = _Plan(content.form, text, content)
    for each in wanted:
        plan.settle(each)
    plan.switch(offs)
    edits = plan.places.all_edits(plan.edits, plan.added, plan.gone)
    return Written(edited(text, edits), tuple(changed_lines(text, edits)), tuple(plan.unwritten))


class _Plan:
    """The edits of a file: spans of it and what takes their place."""

    def __init__(self, form: FileFormat, text: str, content: Content) -> None:
        self.form = form
        self.source = text
        self.content = content
        self.edits: list[Edit] = []
        self.added: dict[str, list[str]] = {}
        self.gone: set[tuple[int, int]] = set()
        self.unwritten: list[Unwritten] = []
        self.places = RecordPlaces(form, text, content)

    def settle(self, wanted: Wanted) -> None:
        """Plans what one command needs in one mode; what the notation has no way to write is named."""
        edits, added, gone = len(self.edits), dict(self.added), set(self.gone)
        try:
            self._settle(wanted)
        except NotWrittenError as error:
            del self.edits[edits:]
            self.added, self.gone = added, gone
            self._leave(wanted, str(error))

    def _settle(self, wanted: Wanted) -> None:
        mine = [
            each
            for each in self.content.entries
            if _same(each, wanted.parts) and each.mode == wanted.mode
        ]
        # The desk says nothing of it: the application goes back to its own.
        if wanted.keys is None:
            self.gone.update(each.span for each in mine)
            return
        if self.form.several == "records":
            self._settle_each(wanted, wanted.keys, mine)
            return
        if self.form.several == "joined":
            keys = wanted.keys
        else:
            keys = wanted.keys[:1]
        if wanted.keys[len(keys) :]:
            left = ", ".join(map(str, wanted.keys[1:]))
            self._leave(wanted, f"the format has room for one key, and not for {left}")
        if mine:
            self._settle_joined(keys, mine)
        else:
            self._add_if_needed(wanted, keys)

    def _settle_joined(self, keys: tuple[Run, ...], mine: list[Entry]) -> None:
        """Cells with several keys: what stays keeps its place and its spelling, what nobody can read among it; a new
        key takes the place of one that goes."""
        have = {run for entry in mine for run in entry.keys}
        new = [run for run in keys if run not in have]
        planned = [(entry, self._pieces_after(entry, keys, new)) for entry in mine]
        # The key of the nearest layer is the one that menus show: it comes first.
        first_kept = next((n for n, run in enumerate(keys) if run in have), 0)
        front = [run for run in new if keys.index(run) < first_kept]
        if not mine[0].pieces:
            front = []
        back = [run for run in new if run not in front]
        # What found no place of one that goes is put into the first cell.
        for entry, after in planned:
            self._rewrite(entry, after, self._written(front), self._written(back))
            front = back = []

    def _pieces_after(
        self, entry: Entry, keys: tuple[Run, ...], new: list[Run]
    ) -> list[str | None]:
        """What becomes of each piece of a cell: it stays, gives way to the next of ``new``, or goes (None)."""
        after: list[str | None] = []
        for piece in entry.pieces:
            if piece.run is None or piece.run in keys:
                after.append(self.source[slice(*piece.span)])
            elif new:
                after.append(write_key(self.form, new.pop(0)))
            else:
                after.append(None)
        return after

    def _written(self, keys: list[Run]) -> list[str]:
        return [write_key(self.form, key) for key in keys]

    def _empty(self, entry: Entry) -> None:
        """Takes the last key out of a record: it says so, where the format has a word for that, or goes."""
        if not entry.pieces:
            return
        if self.form.none is None:
            self.gone.add(entry.span)
        else:
            self.edits.append((*entry.cell, self.form.none))

    def _rewrite(
        self, entry: Entry, own: list[str | None], front: list[str], back: list[str]
    ) -> None:
        """Puts these keys into the cell of a record: ``own`` for each that it has (None: that one goes), with new
        ones before and after them."""
        form = self.form
        before, _, after = form.each.partition("{key}")
        left = [*front, *(text for text in own if text is not None), *back]
        cell = form.join.join(form.each.replace("{key}", text) for text in left)
        if not left:
            self._empty(entry)
        elif not entry.pieces:
            self.edits.append((*entry.cell, cell))
        elif len(left) > 1 and (lists := self._no_list(self.source[: entry.cell[0]])):
            self.edits.append((*entry.cell, lists.opening + cell + lists.closing))
        elif None in own:
            start = entry.pieces[0].span[0] - len(before)
            self.edits.append((start, entry.pieces[-1].span[1] + len(after), cell))
        else:
            self._change_each(entry, own)
            at = entry.pieces[0].span[0] - len(before)
            self._insert(at, [form.each.replace("{key}", text) + form.join for text in front])
            at = entry.pieces[-1].span[1] + len(after)
            self._insert(at, [form.join + form.each.replace("{key}", text) for text in back])

    def _change_each(self, entry: Entry, own: list[str | None]) -> None:
        """Puts these keys in the places of those that a record has."""
        for piece, text in zip(entry.pieces, own, strict=True):
            if text is not None and text != self.source[slice(*piece.span)]:
                self.edits.append((*piece.span, text))

    def _insert(self, at: int, texts: list[str]) -> None:
        if texts:
            self.edits.append((at, at, "".join(texts)))

    def _no_list(self, before: str) -> Lists | None:
        """What makes a list of several keys where only one stands yet, after this text; None: nothing is needed."""
        lists = LISTS.get(self.form.structure)
        is_one = (
            lists and self.form.each == lists.each and not before.rstrip().endswith(lists.opening)
        )
        if is_one:
            return lists
        return None

    def _settle_each(self, wanted: Wanted, keys: tuple[Run, ...], mine: list[Entry]) -> None:
        """A record a key: those that stay, those that change, those that come and go."""
        have = {run for entry in mine for run in entry.keys}
        left = [run for run in keys if run not in have]
        for entry in _spare(mine, keys):
            if left:
                self.edits.append((*entry.cell, write_cell(self.form, (left.pop(0),))))
            elif entry.keys:
                # The first record of a command says that it has no key, where the format has a word for that.
                self._take_away(entry, says_so=not keys and entry is mine[0])
        if not mine and not keys:
            self._add_if_needed(wanted, ())
        for key in left:
            self._add(wanted, (key,))

    def _take_away(self, entry: Entry, says_so: bool) -> None:
        """Plans that a key goes: its record stays with the word for none, or goes with it."""
        if says_so and self.form.none is not None:
            self.edits.append((*entry.cell, self.form.none))
        else:
            self.gone.add(entry.span)

    def switch(self, offs: Sequence[tuple[Wanted, bool]]) -> None:
        """Plans the records that switch keys off: adds missing ones, removes unwanted ones."""
        there: dict[tuple[str, Run | None], list[tuple[int, int]]] = {}
        for off in self.content.offs:
            there.setdefault((off.mode, off.run), []).append(off.span)
        for wanted, is_off in offs:
            (run,) = wanted.keys or (None,)
            spans = there.get((wanted.mode, run), [])
            if not is_off:
                self.gone.update(spans)
            elif not spans:
                self._switch_off(wanted)

    def _switch_off(self, wanted: Wanted) -> None:
        if not self.form.off:
            self._leave(wanted, "the format does not say how a key is turned off", "off")
            return
        try:
            made = self._rendered(self.form.off, wanted, write_cell(self.form, wanted.keys or ()))
        except NotWrittenError as error:
            self._leave(wanted, str(error))
        else:
            self.added.setdefault(wanted.mode, []).append(made)

    def _add_if_needed(self, wanted: Wanted, keys: tuple[Run, ...]) -> None:
        """A new record, where there is a key, or where the file must say that there is none."""
        if keys or (self.form.holds == "changes" and self.form.none is not None):
            self._add(wanted, keys)
        elif self.form.holds == "changes":
            self._leave(wanted, "the format has no way to say that a command has no key", "none")

    def _add(self, wanted: Wanted, keys: tuple[Run, ...]) -> None:
        form = self.form
        if not form.entry:
            self._leave(wanted, "the format does not say how a new record is written", "entry")
        elif not self.places.has_place(wanted.mode):
            where = wanted.mode or "what applies everywhere"
            what, field = "place", ""
            if self.form.section:
                what, field = "section", "new-section"
            why = f"the file has no {what} for {where}, and the format makes none"
            self._leave(wanted, why, field)
        else:
            cell = write_cell(form, keys)
            if len(keys) > 1 and (lists := self._no_list(form.entry.partition("{keys}")[0])):
                cell = lists.opening + cell + lists.closing
            made = self._rendered(form.entry, wanted, cell)
            self.added[wanted.mode] = [*self.added.get(wanted.mode, ()), made]

    def _leave(self, wanted: Wanted, why: str, field: str = "") -> None:
        self.unwritten.append(
            Unwritten(subject=subject(wanted.parts), mode=wanted.mode, why=why, field=field)
        )

    def _rendered(self, template: str, wanted: Wanted, cell: str) -> str:
        values = {name: escaped(self.form, wanted.parts.get(name, "")) for name in GROUPS}
        values["id"] = wanted.parts.get("id", "")
        values |= {"mode": escaped(self.form, their_mode(self.form, wanted.mode)), "keys": cell}
        return re.sub(r"\{(\w+)\}", lambda found: values.get(found[1], found[0]), template)


def _same(entry: Entry, parts: Mapping[str, str]) -> bool:
    """Whether a record is of the command with these parts."""
    if entry.parts.get("id"):
        return entry.parts["id"] == parts.get("id")
    if entry.parts.get("title", "").casefold() != parts.get("title", "").casefold():
        return False
    return not entry.parts.get("menu") or entry.parts["menu"] == parts.get("menu")


def _spare(mine: Sequence[Entry], keys: Container[Run]) -> list[Entry]:
    """The records that can take another key: those of keys that go, then those without one."""
    # What nobody can read is no key that could go.
    going = [entry for entry in mine if entry.keys and entry.keys[0] not in keys]
    return [*going, *(entry for entry in mine if not entry.pieces)]
