"""Lines of settings that bind keys, each begun by a word that says so: ``map ctrl+c copy``, ``bind main C commit``.

Where the key stands in such lines is found out from all of them; what comes before it is a mode, what follows it the
command. The other lines are other settings.
"""

import re
from collections.abc import Sequence

from msgspec import Struct

from olive_compass.core.apps.listing_result import SetAside
from olive_compass.core.apps.listing_row import Row
from olive_compass.core.plain import lines_of
from olive_compass.core.wording import counted
from olive_compass.desk.importing.line_pairs import is_keys
from olive_compass.desk.importing.source import Read, Source

SUFFIXES = ()

#: The first word of such a line: ``map``, ``nnoremap``, ``mouse_map``, ``bind-key``, ``keymap``, ``KEY``.
_WORD = re.compile(
    r"(?:[a-z]{1,5}_)?[a-z]{0,4}(?:nore)?map|(?:re|un)?bind(?:[-_]?[a-z]+)?|(?i:key|shortcut|accel)[-_a-z]*"
)

#: What begins a remark, and one behind a command.
_REMARK = re.compile(r"[#;!\"]|//")
_BEHIND = re.compile(r"\s+#\s+(?P<remark>.*)$")

#: An option of such a line.
_FLAG = re.compile(r"-[A-Za-z]\w*")

#: How a key may be written that has to be explained first: ``C-x``, ``<A-Left>``, ``^X``, ``\\Cx``, ``mod+x``.
_STRANGE = re.compile(r"<.+>|\^.|\\\S+|[A-Za-z]-\S+|\w+\+\S+")

#: What letters that are typed one after another look like: ``gg``. By themselves they may be any word.
_TYPED = re.compile(r"[^\W\d_]{2,3}")

#: How many lines must have a key in the same place, how many of a hundred lines with the same first word may have
#: one there, and the last word that may be the key.
_LEAST = 3
_SHARE = 60
_LAST = 3

#: How many sequences of typed letters may stand there for each key that can only be one.
_TYPED_FOR_EACH = 3

#: How many of a hundred lines that are no remarks bind keys: a manual shows a few.
_SHARE_OF_ALL = 5


class _Binding(Struct, frozen=True):
    """A line that binds a key."""

    line: int
    mode: str
    keys: str
    command: str
    remark: str


def suits(source: Source) -> bool:
    """Whether enough lines begin with a word that says so, and have a key in one place."""
    if source.pattern:
        return False
    said = _said(source.text[:200_000])
    places = _places(said)
    bound = sum(text.split()[0] in places for _, text in said)
    return bound * 100 > _SHARE_OF_ALL * len(said)


def read(source: Source) -> Read:
    """A row for each line that binds a key; other lines with such a word are set aside, all others counted."""
    said = _said(source.text)
    places = _places(said)
    bindings = []
    aside = []
    other = 0
    for number, text in said:
        word = text.split()[0]
        if word not in places:
            other += 1
        elif found := _binding(number, text, places[word]):
            bindings.append(found)
        else:
            why = "nothing follows the key"
            aside.append(SetAside(line=number, what="row", why=why, text=text))
    note = f"{source.encoding}, lines that begin with {' or '.join(sorted(places))}"
    if other:
        note += f"; {counted(other, 'line')} of other settings passed over"
    return Read(rows=_rows(bindings), set_aside=tuple(aside), note=note)


def _rows(bindings: Sequence[_Binding]) -> list[Row]:
    """The rows under their headings, without the columns in which nothing stands."""
    heads = {"command": "Title", "keys": "Keys", "mode": "Mode", "remark": "Description"}
    fields = [name for name in heads if any(getattr(each, name) for each in bindings)]
    rows = [Row(line=0, cells=tuple(heads[name] for name in fields), heading=True)]
    for each in bindings:
        cells = tuple(getattr(each, name) for name in fields)
        rows.append(Row(line=each.line, cells=cells))
    return rows


def _said(text: str) -> list[tuple[int, str]]:
    """The lines that are neither empty nor remarks, with their numbers."""
    lines = enumerate(map(str.strip, lines_of(text)), 1)
    return [(number, line) for number, line in lines if line and not _REMARK.match(line)]


def _words_of(line: str) -> list[str]:
    """The words of a line, without options that have no value: another one follows, or the key."""
    words = line.split()
    return [
        word
        for word, after in zip(words, [*words[1:], ""], strict=True)
        if not _FLAG.fullmatch(word) or not (_FLAG.fullmatch(after) or _is_keys(after))
    ]


def _places(said: Sequence[tuple[int, str]]) -> dict[str, int]:
    """The words that begin lines which bind keys, each with the place of the key among the words after it."""
    by_word: dict[str, list[list[str]]] = {}
    for _, line in said:
        if _WORD.fullmatch(line.split()[0]):
            words = _words_of(line)
            by_word.setdefault(words[0], []).append(words)
    found = {}
    for word, lines in by_word.items():
        places = {place: _different_keys(lines, place) for place in range(1, _LAST + 1)}
        # A mode may have the name of a key, but there are few of them.
        best = max(places, key=lambda place: places[place])
        if places[best]:
            found[word] = best
    return found


def _different_keys(lines: list[list[str]], place: int) -> int:
    """How many keys these lines have in one place, with a command behind them; 0: most have none there."""
    bound = [words for words in lines if len(words) > place + 1]
    keyed = [words for words in bound if _is_keys(words[place])]
    typed = [words for words in bound if _is_only_typed(words[place])]
    if (len(keyed) + len(typed)) * 100 < _SHARE * len(lines):
        return 0
    # Where a key stands for another one, nothing is started.
    started = [words for words in keyed if not _is_keys(" ".join(words[place + 1 :]))]
    if len(started) < max(_LEAST, len(typed) // _TYPED_FOR_EACH):
        return 0
    return len({words[place] for words in keyed})


def _is_keys(text: str) -> bool:
    """Whether a text is a key, or written as keys are that have to be explained first."""
    return is_keys(text) or _STRANGE.fullmatch(text) is not None


def _is_only_typed(text: str) -> bool:
    """Whether a text is a key only where letters are typed one after another."""
    return _TYPED.fullmatch(text) is not None and not _is_keys(text)


def _binding(number: int, text: str, usual: int) -> _Binding | None:
    """What a line binds, whose key is the word at its ``usual`` place; None where nothing follows it."""
    line, behind = text, _BEHIND.search(text)
    if behind:
        line = text[: behind.start()]
    words = _words_of(line)
    place = usual
    if usual == 1 and any(map(_FLAG.fullmatch, words[1:2])):
        # An option and its value, which say the mode, stand before the key.
        place = 3
    if len(words) < place + 2:
        return None
    return _Binding(
        line=number,
        mode=" ".join(word for word in words[1:place] if not _FLAG.fullmatch(word)),
        keys=words[place],
        command=" ".join(words[place + 1 :]),
        remark=behind["remark"].strip() if behind else "",
    )
