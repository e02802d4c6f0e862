"""An application's own file of keys, read and written by a form of one's own.

What the form does not match stays as it is, byte for byte: a record whose keys are the wanted ones is
not touched, in one whose keys differ only the keys are, and a new one is put beside its siblings.
"""

import re
import time
from collections.abc import Iterable, Mapping, Sequence
from types import MappingProxyType
from typing import Any, NamedTuple

from olive_compass.core.keys.reading import TriggerError, read_trigger
from olive_compass.core.keys.spelling import Spelling
from olive_compass.core.keys.triggers import Run
from olive_compass.errors import Refused

#: The groups that a pattern may name.
GROUPS = ("id", "title", "menu", "mode", "keys", "kind", "does")

#: What a command with several keys becomes: one record for all, one a key, or its first key only.
SEVERAL = ("joined", "records", "first")

#: Whether the file has the keys of every command, or those only that differ from the factory's.
HOLDS = ("all", "changes")

#: How long a pattern may look at a file, in seconds.
LONGEST = 6.0


class TextForm(NamedTuple):
    """How a file is read and written.

    ``pattern`` matches a record and names its parts; ``section`` the heading of records that follow it.
    ``entry`` is a new record, with the parts in braces; ``between`` what parts two records, its sign
    (a comma, say) also where a record is taken out; ``new_section`` is a new section with ``{entry}`` in
    it, put after the sign ``section_end`` of the last one. ``each`` is how one key is written in the
    cell, ``join`` what parts several; ``none`` is the cell of a command without a key (None: its record
    goes). ``escapes`` are signs that are written otherwise, ``modes`` our modes as the file calls them.
    """

    name: str
    title: str = ""
    pattern: str = ""
    section: str = ""
    entry: str = ""
    between: str = "\n"
    new_section: str = ""
    section_end: str = ""
    each: str = "{key}"
    join: str = ", "
    none: str | None = None
    several: str = "joined"
    holds: str = "all"
    spelling: Mapping[str, str] = MappingProxyType({})
    escapes: Mapping[str, str] = MappingProxyType({})
    modes: Mapping[str, str] = MappingProxyType({})


class Entry(NamedTuple):
    """A record of a file: its parts, its mode (``""``: the file names none), its keys, and where it
    stands: the whole of it, and the cell of its keys. ``problem`` says why keys cannot be read."""

    parts: Mapping[str, str]
    mode: str
    keys: tuple[Run, ...]
    span: tuple[int, int]
    cell: tuple[int, int]
    problem: str = ""

    @property
    def subject(self) -> str:
        """What names the command: its id, or else its title."""
        return self.parts.get("id") or self.parts.get("title", "")


def names_modes(form: TextForm) -> bool:
    """Whether files of the form say in which mode a key counts."""
    return "(?P<mode>" in form.pattern or bool(form.section)


class Content(NamedTuple):
    """What a form makes of a file: its records, its headings with their ends, and how many lines with
    something in them belong to neither."""

    entries: tuple[Entry, ...]
    sections: tuple[tuple[str, int], ...]
    passed_over: int


class Wanted(NamedTuple):
    """What a command is to have in a mode: its parts, the mode as we call it, and its keys.

    None for the keys: the file is to say nothing of it.
    """

    parts: Mapping[str, str]
    mode: str
    keys: tuple[Run, ...] | None


class Unwritten(NamedTuple):
    """What a form cannot write: whose, and why."""

    subject: str
    mode: str
    why: str


def read(form: TextForm, text: str, typed: int = 0) -> Content:
    """The records of a file. Raises ``Refused`` where the form cannot be carried out."""
    heads = [
        (found.start(), found.end(), _part(form, found.groupdict().get("mode") or ""))
        for found in (_found(form, "section", text) if form.section else ())
    ]
    entries = []
    for found in _found(form, "pattern", text):
        mode = next((name for start, _, name in reversed(heads) if start < found.start()), "")
        entries.append(_entry(form, found, mode, typed))
    matched = [each.span for each in entries] + [(start, end) for start, end, _ in heads]
    sections = tuple((mode, end) for _, end, mode in heads)
    return Content(tuple(entries), sections, _lines_outside(text, matched))


def _found(form: TextForm, field: str, text: str) -> Iterable[Any]:
    """The matches of a pattern of the form, within its time."""
    # The patterns of others can run for ever; the standard library's have no limit of time.
    import regex

    pattern = getattr(form, field)
    end = time.monotonic() + LONGEST
    try:
        compiled = regex.compile(pattern, regex.MULTILINE)
        at = compiled.finditer(text, timeout=max(end - time.monotonic(), 0.01))
        return [found for found in at if found.end() > found.start()]
    except regex.error as error:
        raise Refused(f"The {field} of the form {form.name} cannot be read: {error}.") from error
    except TimeoutError as error:
        raise Refused(
            f"The {field} of the form {form.name} took more than {LONGEST:.0f} s.",
            hint="Let each part of it fit in one way only: [^\\n]+ and not .+ before a blank.",
        ) from error


def _entry(form: TextForm, found: Any, mode: str, typed: int) -> Entry:
    parts = {
        name: _unescaped(form, value)
        for name, value in found.groupdict().items()
        if value is not None
    }
    cell = found.span("keys") if parts.get("keys") is not None else (found.end(), found.end())
    mode = _our_mode(form, parts["mode"]) if parts.get("mode") else mode
    text = found.group("keys") or ""
    keys, problem = read_cell(form, text, typed)
    parts.pop("keys", None)
    return Entry(parts, mode, keys, found.span(), cell, problem)


def read_cell(form: TextForm, text: str, typed: int = 0) -> tuple[tuple[Run, ...], str]:
    """The keys in a cell as the file has it, and why it cannot be read (``""``: it can)."""
    plain = text.strip()
    if not plain or (form.none is not None and plain == form.none.strip()):
        return (), ""
    spelling = Spelling(form.spelling)
    keys = []
    for piece in _pieces(form, plain):
        try:
            keys.append(read_trigger(spelling.read(_unescaped(form, piece)), typed))
        except TriggerError as error:
            return (), str(error)
    return tuple(dict.fromkeys(keys)), ""


def _pieces(form: TextForm, cell: str) -> list[str]:
    """The keys of a cell, each as the file writes it."""
    before, _, after = form.each.partition("{key}")
    if before or after:
        inner = "".join(f"{re.escape(sign)}|" for sign in form.escapes.values())
        pattern = f"{re.escape(before)}((?:{inner}.)*?){re.escape(after)}(?={re.escape(form.join.strip())}|\\s*$|\\s)"
        return re.findall(pattern, cell, re.DOTALL)
    if form.several != "joined" or not form.join:
        return [cell]
    return [piece for piece in cell.split(form.join) if piece.strip()]


def write_cell(form: TextForm, keys: Sequence[Run]) -> str:
    """The cell of a record with these keys."""
    if not keys:
        return form.none or ""
    spelling = Spelling(form.spelling)
    several = keys if form.several == "joined" else keys[:1]
    return form.join.join(
        form.each.replace("{key}", _escaped(form, spelling.write(key))) for key in several
    )


def written(
    form: TextForm, text: str, wanted: Sequence[Wanted], typed: int = 0
) -> tuple[str, list[Unwritten]]:
    """The file in which the commands have what is wanted, and what the form cannot write.

    Records that nothing is said of stay as they are.
    """
    content = read(form, text, typed)
    plan = _Plan(form, text, content)
    for each in wanted:
        plan.settle(each)
    return plan.text(), plan.unwritten


class _Plan:
    """The edits of a file: spans of it and what takes their place."""

    def __init__(self, form: TextForm, text: str, content: Content) -> None:
        self.form = form
        self.source = text
        self.content = content
        self.edits: list[tuple[int, int, str]] = []
        self.added: dict[str, list[str]] = {}
        self.gone: set[tuple[int, int]] = set()
        self.unwritten: list[Unwritten] = []

    def settle(self, wanted: Wanted) -> None:
        """Plans what one command needs in one mode."""
        mine = [
            each
            for each in self.content.entries
            if _same(each, wanted.parts) and each.mode == wanted.mode
        ]
        if wanted.keys is None:
            self.gone.update(each.span for each in mine)
            return
        if self.form.several == "records":
            self._settle_each(wanted, wanted.keys, mine)
            return
        keys = wanted.keys if self.form.several == "joined" else wanted.keys[:1]
        if wanted.keys[len(keys) :]:
            left = ", ".join(map(str, wanted.keys[1:]))
            self._leave(wanted, f"the form has room for one key, and not for {left}")
        self.gone.update(each.span for each in mine[1:])
        if not mine:
            self._add_if_needed(wanted, keys)
        elif set(mine[0].keys) == set(keys) and not mine[0].problem:
            return
        elif keys or self.form.none is not None:
            self.edits.append((*mine[0].cell, write_cell(self.form, keys)))
        else:
            self.gone.add(mine[0].span)

    def _settle_each(self, wanted: Wanted, keys: tuple[Run, ...], mine: list[Entry]) -> None:
        """A record a key: those that stay, those that change, those that come and go."""
        left = list(keys)
        free = []
        for entry in mine:
            if entry.keys and entry.keys[0] in left:
                left.remove(entry.keys[0])
            else:
                free.append(entry)
        for entry in free:
            if left:
                self.edits.append((*entry.cell, write_cell(self.form, (left.pop(0),))))
            elif self.form.none is None or keys or entry is not mine[0]:
                self.gone.add(entry.span)
            elif entry.keys or entry.problem:
                self.edits.append((*entry.cell, self.form.none))
        if not mine and not keys:
            self._add_if_needed(wanted, ())
        for key in left:
            self._add(wanted, (key,))

    def _add_if_needed(self, wanted: Wanted, keys: tuple[Run, ...]) -> None:
        """A new record, where there is a key, or where the file must say that there is none."""
        if keys or (self.form.holds == "changes" and self.form.none is not None):
            self._add(wanted, keys)
        elif self.form.holds == "changes":
            self._leave(wanted, "the form has no way to say that a command has no key (none)")

    def _add(self, wanted: Wanted, keys: tuple[Run, ...]) -> None:
        form = self.form
        homeless = form.section and not form.new_section
        if not form.entry:
            self._leave(wanted, "the form does not say how a new record is written (entry)")
        elif homeless and all(mode != wanted.mode for mode, _ in self.content.sections):
            where = wanted.mode or "what counts everywhere"
            self._leave(wanted, f"the file has no section for {where}, and the form makes none")
        else:
            made = self._rendered(form.entry, wanted, write_cell(form, keys))
            self.added.setdefault(wanted.mode, []).append(made)

    def _leave(self, wanted: Wanted, why: str) -> None:
        self.unwritten.append(Unwritten(_subject(wanted.parts), wanted.mode, why))

    def _rendered(self, template: str, wanted: Wanted, cell: str) -> str:
        values = {name: _escaped(self.form, wanted.parts.get(name, "")) for name in GROUPS}
        values |= {"mode": _escaped(self.form, _their_mode(self.form, wanted.mode)), "keys": cell}
        return re.sub(r"\{(\w+)\}", lambda found: values.get(found[1], found[0]), template)

    def text(self) -> str:
        """The file with all edits in it."""
        edits = list(self.edits)
        opened: list[str] = []
        for mode, entries in self.added.items():
            edit = self._put(mode, entries)
            if edit is None:
                opened.append(self._opening(mode, entries))
            else:
                edits.append(edit)
        if opened:
            edits.append(self._at_the_end(opened))
        edits += self._without()
        text = self.source
        # From the end on, so that what lies before keeps its place; what is taken out goes before
        # something is put in at the same place.
        for start, end, new in sorted(edits, key=lambda edit: edit[:2], reverse=True):
            text = text[:start] + new + text[end:]
        return text

    def _put(self, mode: str, entries: list[str]) -> tuple[int, int, str] | None:
        """Where new records go: after the last sibling, in the place of one that goes, or right after
        the heading; None: there is no such place yet."""
        form = self.form
        in_sections = bool(form.section)
        siblings = [e for e in self.content.entries if e.mode == mode or not in_sections]
        staying = [each for each in siblings if each.span not in self.gone]
        if staying:
            at = staying[-1].span[1]
            return at, at, "".join(form.between + entry for entry in entries)
        if siblings:
            self.gone.discard(siblings[-1].span)
            return (*siblings[-1].span, form.between.join(entries))
        head = next((end for name, end in self.content.sections if name == mode), None)
        if head is None:
            return None
        return head, head, _blanks(form) + form.between.join(entries)

    def _opening(self, mode: str, entries: list[str]) -> str:
        """A new section with its records, or the records alone where the file has no sections."""
        made = self.form.between.join(entries)
        name = _escaped(self.form, _their_mode(self.form, mode))
        new = self.form.new_section or "{entry}"
        return new.replace("{mode}", name).replace("{entry}", made)

    def _at_the_end(self, opened: list[str]) -> tuple[int, int, str]:
        """New sections: after the end of the last one, or at the end of the file."""
        form = self.form
        ends = [each.span[1] for each in self.content.entries]
        last = max([*ends, *(end for _, end in self.content.sections)], default=0)
        found = self.source.find(form.section_end, last) if form.section_end and last else -1
        if found >= 0:
            at = found + len(form.section_end)
            return at, at, "".join(opened)
        end = len(self.source)
        gap = "" if not self.source or self.source.endswith("\n") else "\n"
        return (
            end,
            end,
            gap + "".join(each + ("" if each.endswith("\n") else "\n") for each in opened),
        )

    def _without(self) -> list[tuple[int, int, str]]:
        """The spans that go: records that stand next to each other as one, with what parts them from
        their neighbours."""
        sign = self.form.between.strip()
        between = re.compile(rf"\s*{re.escape(sign)}\s*")
        runs: list[tuple[int, int]] = []
        for start, end in sorted(self.gone):
            if runs and between.fullmatch(self.source, runs[-1][1], start):
                runs[-1] = (runs[-1][0], end)
            else:
                runs.append((start, end))
        return [self._cut(start, end, sign) for start, end in runs]

    def _cut(self, start: int, end: int, sign: str) -> tuple[int, int, str]:
        """What goes with records that go: the sign after them, or else before; or their lines."""
        if sign:
            following = re.compile(rf"\s*{re.escape(sign)}\s*").match(self.source, end)
            leading = re.search(rf"\s*{re.escape(sign)}\s*$", self.source[:start])
            if following:
                return start, following.end(), ""
            return (leading.start() if leading else start), end, ""
        head = self.source.rfind("\n", 0, start) + 1
        tail = re.compile(r"[^\S\n]*(?:\n|$)").match(self.source, end)
        if tail and not self.source[head:start].strip():
            return head, tail.end(), ""
        return start, end, ""


def _blanks(form: TextForm) -> str:
    """What parts the first record of a section from its heading: the blanks that part two records."""
    return (
        form.between.replace(form.between.strip(), "", 1) if form.between.strip() else form.between
    )


def _same(entry: Entry, parts: Mapping[str, str]) -> bool:
    """Whether a record is of the command with these parts."""
    if entry.parts.get("id"):
        return entry.parts["id"] == parts.get("id")
    if entry.parts.get("title", "").casefold() != parts.get("title", "").casefold():
        return False
    return not entry.parts.get("menu") or entry.parts["menu"] == parts.get("menu")


def _subject(parts: Mapping[str, str]) -> str:
    return parts.get("id") or parts.get("title", "")


def _our_mode(form: TextForm, text: str) -> str:
    return next((ours for ours, theirs in form.modes.items() if theirs == text), text)


def _part(form: TextForm, text: str) -> str:
    return _our_mode(form, _unescaped(form, text))


def _their_mode(form: TextForm, mode: str) -> str:
    return form.modes.get(mode, mode)


def _escaped(form: TextForm, text: str) -> str:
    return "".join(form.escapes.get(char, char) for char in text)


def _unescaped(form: TextForm, text: str) -> str:
    if not form.escapes:
        return text
    signs = {theirs: ours for ours, theirs in form.escapes.items()}
    pattern = "|".join(re.escape(each) for each in sorted(signs, key=len, reverse=True))
    return re.sub(pattern, lambda found: signs[found[0]], text)


def _lines_outside(text: str, spans: Iterable[tuple[int, int]]) -> int:
    """How many lines have something in them that no span covers."""
    at, rest = 0, []
    for start, end in sorted(spans):
        rest.append(text[at:start])
        at = max(at, end)
    rest.append(text[at:])
    return sum(1 for piece in rest for line in piece.splitlines() if line.strip(" \t\r,;{}[]()"))
