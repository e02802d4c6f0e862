"""The places for new records in an application's own file, and the spans that removed ones leave."""

import re
from collections.abc import Iterable, Mapping

from olive_compass.desk.shortcuts.file_format import FileFormat, escaped, our_mode, their_mode
from olive_compass.desk.shortcuts.shortcuts_content import Content, Entry

#: A span of a text, and what takes its place.
Edit = tuple[int, int, str]


class RecordPlaces:
    """The places for records of a file in a format, as they were read from its text."""

    def __init__(self, form: FileFormat, source: str, content: Content) -> None:
        self._form = form
        self._source = source
        self._content = content
        #: Whether the place of a record says its mode: it stands in a section, or within an element.
        self._parts_modes = bool(form.section) or (
            "mode" in form.fields and "{mode}" not in form.entry
        )

    def has_place(self, mode: str) -> bool:
        """Whether a record of a mode can be put somewhere: beside its siblings, under its heading, or in a new section."""
        if not self._parts_modes or self._form.new_section or self._is_outside(mode):
            return True
        return any(name == mode for name, _ in self._content.sections) or any(
            each.mode == mode for each in self._content.entries
        )

    def _is_outside(self, mode: str) -> bool:
        return bool(self._form.outside) and mode == our_mode(self._form, self._form.outside)

    def all_edits(
        self,
        edits: Iterable[Edit],
        added: Mapping[str, list[str]],
        gone: Iterable[tuple[int, int]],
    ) -> list[Edit]:
        """These edits, those that put in the records of ``added`` (by mode), and those that take out the spans
        ``gone``, in the order of their places."""
        edits = list(edits)
        going = set(gone)
        opened: list[str] = []
        for mode, entries in added.items():
            edit = self._put(mode, entries, going)
            if edit is None:
                opened.append(self._opening(mode, entries))
            else:
                edits.append(edit)
        if opened:
            edits.append(self._at_the_end(opened))
        edits += self._without(going)
        # In the order of the file: of those at one place what goes first, then what comes.
        return sorted(edits, key=lambda edit: edit[:2])

    def _siblings(self, mode: str) -> list[Entry]:
        """The records of a mode; all, where a file without such parts has none."""
        siblings = [each for each in self._content.entries if each.mode == mode]
        if not siblings and not self._parts_modes:
            return list(self._content.entries)
        return siblings

    def _put(self, mode: str, entries: list[str], gone: set[tuple[int, int]]) -> Edit | None:
        """Where new records go: after the last sibling, in the place of one that goes, or right after
        the heading; None: there is no such place yet. The one whose place is taken no longer goes: ``gone``."""
        form = self._form
        siblings = self._siblings(mode)
        staying = [each for each in siblings if each.span not in gone]
        if staying:
            at = staying[-1].span[1]
            return at, at, "".join(form.between + entry for entry in entries)
        if siblings:
            gone.discard(siblings[-1].span)
            return (*siblings[-1].span, form.between.join(entries))
        head = next((end for name, end in self._content.sections if name == mode), None)
        if head is None:
            if self._is_outside(mode):
                return self._put_outside(entries)
            return None
        return head, head, _blanks(form) + form.between.join(entries)

    def _put_outside(self, entries: list[str]) -> Edit:
        """New records before all sections: above the first heading, or at the end of the file."""
        first = next(iter(self._content.sections), None)
        if first:
            at = self._source.rfind("\n", 0, first[1] - 1) + 1
        else:
            at = len(self._source)
        gap = "\n"
        if not at or self._source[at - 1] == "\n":
            gap = ""
        return at, at, gap + "".join(f"{entry}\n" for entry in entries)

    def _opening(self, mode: str, entries: list[str]) -> str:
        """A new section with its records, or the records alone where the file has no sections."""
        made = self._form.between.join(entries)
        name = escaped(self._form, their_mode(self._form, mode))
        new = self._form.new_section or "{entry}"
        return new.replace("{mode}", name).replace("{entry}", made)

    def _at_the_end(self, opened: list[str]) -> Edit:
        """New sections: after the end of the last one, or at the end of the file."""
        form = self._form
        ends = [each.span[1] for each in self._content.entries]
        last = max([*ends, *(end for _, end in self._content.sections)], default=0)
        found = -1
        if form.section_end and last:
            found = self._source.find(form.section_end, last)
        if found >= 0:
            at = found + len(form.section_end)
            return at, at, "".join(opened)
        end = len(self._source)
        gap = "\n"
        if not self._source or self._source.endswith("\n"):
            gap = ""
        return (
            end,
            end,
            gap + "".join(each + ("" if each.endswith("\n") else "\n") for each in opened),
        )

    def _without(self, gone: set[tuple[int, int]]) -> list[Edit]:
        """The spans that go: records that stand next to each other as one, with what parts them from
        their neighbours."""
        sign = self._form.between.strip()
        between = re.compile(rf"\s*{re.escape(sign)}\s*")
        runs: list[tuple[int, int]] = []
        for start, end in sorted(gone):
            if runs and between.fullmatch(self._source, runs[-1][1], start):
                runs[-1] = (runs[-1][0], end)
            else:
                runs.append((start, end))
        return [self._cut(start, end, sign) for start, end in runs]

    def _cut(self, start: int, end: int, sign: str) -> Edit:
        """What goes with records that go: the sign after them, or else before; or their lines."""
        if sign:
            following = re.compile(rf"\s*{re.escape(sign)}\s*").match(self._source, end)
            leading = re.search(rf"\s*{re.escape(sign)}\s*$", self._source[:start])
            if following:
                return start, following.end(), ""
            return (leading.start() if leading else start), end, ""
        head = self._source.rfind("\n", 0, start) + 1
        tail = re.compile(r"[^\S\n]*(?:\n|$)").match(self._source, end)
        if tail and not self._source[head:start].strip():
            return head, tail.end(), ""
        return start, end, ""


def _blanks(form: FileFormat) -> str:
    """What parts the first record of a section from its heading: the blanks that part two records."""
    if form.between.strip():
        return form.between.replace(form.between.strip(), "", 1)
    return form.between
