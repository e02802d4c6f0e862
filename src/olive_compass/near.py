"""The nearest right name for a wrong one."""

from collections.abc import Iterable, Mapping
from functools import lru_cache


def nearest(given: str, names: Iterable[str], least: float = 0.55) -> str:
    """The name that is spelt most like ``given``, ``""`` where none is near.

    ``least`` is how alike they must be: 1 is the same, 0 has nothing in common.

    >>> nearest("asign", ["assign", "clear"]), nearest("xyz", ["assign"])
    ('assign', '')
    """
    from rapidfuzz import process
    from rapidfuzz.distance import DamerauLevenshtein

    found = process.extractOne(
        given.casefold(),
        _folded(tuple(names)),
        scorer=DamerauLevenshtein.normalized_similarity,
        score_cutoff=least,
    )
    if found:
        return str(found[2])
    return ""


@lru_cache(maxsize=64)
def _folded(names: tuple[str, ...]) -> Mapping[str, str]:
    """The names as they are compared. A listing with a thousand odd keys asks for the same names each time."""
    return {name: name.casefold() for name in names}


def did_you_mean(given: str, names: Iterable[str]) -> str:
    """The question after the nearest name, ``""`` where none is near."""
    near = nearest(given, names)
    if near:
        return f"Did you mean {near}?"
    return ""
