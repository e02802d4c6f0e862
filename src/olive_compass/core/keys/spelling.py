"""How an application writes its keys: its own words for modifiers and keys, learnt and kept.

A word may have what joins it to the rest (``C-`` for ``Ctrl+``). ``a`` for ``A`` says that letters are
in lower case.
"""

import re
from collections import Counter
from collections.abc import Container, Iterable, Mapping
from types import MappingProxyType

from olive_compass.core.keys.kinds import prefixed
from olive_compass.core.keys.names import (
    KEY_SPELLINGS,
    MODIFIER_RANK,
    MODIFIER_SPELLINGS,
    NAMED_KEYS,
)
from olive_compass.core.keys.triggers import Run, Stroke
from olive_compass.values import Value

#: What a single letter with a hyphen most often stands for.
_LETTERS = {"C-": "Ctrl+", "M-": "Alt+", "A-": "Alt+", "S-": "Shift+", "s-": "Meta+", "W-": "Meta+"}

#: The words that say that letters are written in lower case.
LOWER = ("a", "A")


class Spelling(Value):
    """The application's words, each with ours."""

    words: Mapping[str, str] = MappingProxyType({})

    def read(self, text: str) -> str:
        """A cell as we would write it.

        >>> Spelling({"C-": "Ctrl+", "Ent": "Enter"}).read("C-M or C-Ent")
        'Ctrl+M or Ctrl+Enter'
        """
        known = [word for word in self.words if word != LOWER[0]]
        if not known or not any(word in text for word in known):
            return text
        return re.sub(_pattern(known), lambda found: self.words[found[0]], text)

    def write(self, run: Run) -> str:
        """A trigger as the application writes it.

        >>> from olive_compass.core.keys.reading import read_trigger
        >>> Spelling({"C-": "Ctrl+", "Ent": "Enter", "a": "A"}).write(read_trigger("Ctrl+Enter Ctrl+B"))
        'C-Ent C-b'
        """
        theirs = {ours: word for word, ours in reversed(list(self.words.items()))}
        return " ".join(self._stroke(each, theirs) for each in run.strokes)

    def _stroke(self, stroke: Stroke, theirs: Mapping[str, str]) -> str:
        parts = [
            theirs.get(f"{name}+") or f"{theirs.get(name, name)}+" for name in stroke.modifiers
        ]
        if stroke.by_place or stroke.key in _plain_words(self.words):
            return str(stroke)
        key = theirs.get(stroke.key, stroke.key)
        lower = self.words.get(LOWER[0]) == LOWER[1] and len(key) == 1
        return "".join(parts) + (key.lower() if lower else key)


class Unknown(Value):
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
        found = re.findall(r"(?<![^\W_])[A-Za-z]-(?=\S)", cell)
        found += [
            word
            for word in re.findall(r"[^\W\d_]{2,}\d*|F\d+", cell)
            if word.lower() not in MODIFIER_SPELLINGS and word.lower() not in KEY_SPELLINGS
        ]
        found = [word for word in found if word not in known]
        counts.update(found)
        for word in found:
            samples.setdefault(word, cell)
    return tuple(
        Unknown(word, count, samples[word], _proposal(word)) for word, count in counts.most_common()
    )


def checked(word: str, ours: str) -> tuple[str, str]:
    """A word and what it stands for, as it is kept. Raises ``ValueError`` with a sentence.

    >>> checked("C-", "ctrl"), checked("Sft", "Shift"), checked("kplus", "num+")
    (('C-', 'Ctrl+'), ('Sft', 'Shift'), ('kplus', 'Num+'))
    """
    word, plain = word.strip(), ours.strip()
    if plain.lower() not in KEY_SPELLINGS:
        # A plus joins a modifier to what follows, unless it is a key by itself: Num+.
        plain = plain.rstrip("+").strip()
    if not word:
        raise ValueError("a spelling is WORD=OURS, such as C-=Ctrl+")
    if (word, plain) == LOWER:
        return LOWER
    modifier = MODIFIER_SPELLINGS.get(plain.lower())
    if modifier:
        joined = not word[-1].isalnum()
        if len(word) < 2:
            raise ValueError(
                f"“{word}” alone is a key; with its joiner it can be a modifier: {word}-"
            )
        return word, f"{modifier}+" if joined or ours.strip().endswith("+") else modifier
    key = KEY_SPELLINGS.get(plain.lower()) or (plain.upper() if len(plain) == 1 else "")
    kind = None if key else prefixed(plain)
    if kind and kind.prefix != "@":
        key = kind.read(plain[len(kind.prefix) :])
    if not key:
        raise ValueError(f"“{ours}” is no modifier and no key of ours")
    if len(word) < 2 or not word[-1].isalnum():
        raise ValueError(
            f"“{word}” cannot stand for a key: it is one, or it ends as a modifier does"
        )
    return word, key


def _plain_words(words: Mapping[str, str]) -> set[str]:
    """Words of the application that are also keys of ours: those cannot be written without doubt."""
    return {word for word in words if word in NAMED_KEYS and words[word] != word}


def _pattern(words: Iterable[str]) -> str:
    """Each word where it stands by itself, the longest first."""
    parts = []
    for word in sorted(words, key=len, reverse=True):
        before = r"(?<![^\W_])" if word[0].isalnum() else ""
        after = r"(?![^\W_])" if word[-1].isalnum() else r"(?=\S)"
        parts.append(before + re.escape(word) + after)
    return "|".join(parts)


def _proposal(word: str) -> str:
    """What a word may stand for, ``""``: nothing is near."""
    if word in _LETTERS:
        return _LETTERS[word]
    if re.fullmatch(r"F\d+", word):
        return ""
    from rapidfuzz import process
    from rapidfuzz.distance import DamerauLevenshtein

    for names in (MODIFIER_SPELLINGS, KEY_SPELLINGS):
        found = process.extractOne(
            word.lower(),
            [name for name in names if len(name) > 2],
            scorer=DamerauLevenshtein.normalized_similarity,
            score_cutoff=0.59,
        )
        if found:
            return names[found[0]]
    return ""


def in_order(words: Mapping[str, str]) -> dict[str, str]:
    """The words as they are kept: modifiers first, then keys."""
    rank = {f"{name}+": n for name, n in MODIFIER_RANK.items()} | MODIFIER_RANK
    return dict(sorted(words.items(), key=lambda item: (rank.get(item[1], 99), item[0])))
