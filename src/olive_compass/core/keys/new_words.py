"""Words that an application writes for keys and that its spelling has not yet: found, proposed, checked."""

import re
from collections import Counter
from collections.abc import Container, Iterable, Mapping

from msgspec import Struct

from olive_compass.core.keys.kinds import prefixed
from olive_compass.core.keys.names import MODIFIER_RANK
from olive_compass.core.keys.spelling import CAPITAL, LOWER
from olive_compass.core.keys.spellings import KEY_SPELLINGS, MODIFIER_SPELLINGS
from olive_compass.near import nearest

#: What a single letter with a hyphen most often stands for.
_LETTERS = {
    "C-": "Ctrl+",
    "c-": "Ctrl+",
    "\\C": "Ctrl+",
    "M-": "Alt+",
    "\\M": "Alt+",
    "A-": "Alt+",
    "a-": "Alt+",
    "S-": "Shift+",
    "s-": "Meta+",
    "W-": "Meta+",
}

#: What such a letter stands in: before its hyphen, or after a backslash.
_BEFORE_KEY = re.compile(r"(?<![^\W_])[A-Za-z]-(?=\S)|\\[CM](?=\w)")


#: A cell with more words is a sentence.
_MOST_WORDS = 5


class Unknown(Struct, frozen=True, kw_only=True):
    """A word in cells of keys that nobody knows: how often, in what, and what it may be (``""``)."""

    word: str
    times: int
    sample: str
    proposal: str


def unknown_words(cells: Iterable[str], known: Container[str] = frozenset()) -> tuple[Unknown, ...]:
    """The words of ``cells`` that could not be read, the commonest first, each with a proposal.

    ``known`` are words that the application's spelling has.
    """
    counts: Counter[str] = Counter()
    samples: dict[str, str] = {}
    for cell in cells:
        if len(cell.split()) > _MOST_WORDS:
            # A sentence: its words are words, and name no keys.
            continue
        found = _BEFORE_KEY.findall(cell)
        found += [
            word
            for word in re.findall(r"[^\W\d_]{2,}\d*|F\d+", _BEFORE_KEY.sub(" ", cell))
            if word.lower() not in MODIFIER_SPELLINGS and word.lower() not in KEY_SPELLINGS
        ]
        found = [word for word in found if word not in known]
        counts.update(found)
        for word in found:
            samples.setdefault(word, cell)
    return tuple(
        Unknown(word=word, times=count, sample=samples[word], proposal=_proposal(word))
        for word, count in counts.most_common()
    )


def _checked_modifier(word: str, modifier: str, ours: str) -> str:
    """A modifier for a word, with the plus that joins it where the word does. Raises ``ValueError``."""
    if len(word) < 2 and word.isalnum():
        raise ValueError(f"“{word}” alone is a key; with its joiner it can be a modifier: {word}-")
    if word[-1].isalnum() and not ours.strip().endswith("+"):
        return modifier
    return f"{modifier}+"


def checked(word: str, ours: str) -> tuple[str, str]:
    """A word and what it stands for, as it is kept. Raises ``ValueError`` with a sentence.

    >>> checked("C-", "ctrl"), checked("^", "Ctrl+"), checked("Sft", "Shift"), checked("kplus", "num+")
    (('C-', 'Ctrl+'), ('^', 'Ctrl+'), ('Sft', 'Shift'), ('kplus', 'Num+'))
    """
    word, plain = word.strip(), ours.strip()
    if plain.lower() not in KEY_SPELLINGS:
        # A plus joins a modifier to what follows, unless it is a key by itself: Num+.
        plain = plain.rstrip("+").strip()
    if not word:
        raise ValueError("a spelling is WORD=OURS, such as C-=Ctrl+")
    if (word, plain) in (LOWER, CAPITAL):
        return word, plain
    if modifier := MODIFIER_SPELLINGS.get(plain.lower()):
        return word, _checked_modifier(word, modifier, ours)
    key = _key(plain)
    if not key:
        raise ValueError(f"“{ours}” is no modifier and no key of ours")
    if len(word) < 2 or not word[-1].isalnum():
        raise ValueError(
            f"“{word}” cannot stand for a key: it is one, or it ends as a modifier does"
        )
    return word, key


def _key(plain: str) -> str:
    """The key that is meant by a word of ours, ``""`` where it is none."""
    if known := KEY_SPELLINGS.get(plain.lower()):
        return known
    if len(plain) == 1:
        return plain.upper()
    kind = prefixed(plain)
    if kind and kind.prefix != "@":
        return kind.read(plain[len(kind.prefix) :])
    return ""


def _proposal(word: str) -> str:
    """What a word may stand for, ``""``: nothing is near."""
    if word in _LETTERS:
        return _LETTERS[word]
    if re.fullmatch(r"F\d+", word):
        return ""
    for names in (MODIFIER_SPELLINGS, KEY_SPELLINGS):
        near = nearest(word, (name for name in names if len(name) > 2), 0.59)
        if near:
            return names[near]
    return ""


def in_order(words: Mapping[str, str]) -> dict[str, str]:
    """The words as they are kept: modifiers first, then keys."""
    rank = {f"{name}+": n for name, n in MODIFIER_RANK.items()} | MODIFIER_RANK
    return dict(sorted(words.items(), key=lambda item: (rank.get(item[1], 99), item[0])))
