"""How a listing writes its cells: what the cells of a column tell together, and one alone does not."""

import re
from collections import Counter
from collections.abc import Sequence

from olive_compass.core.apps.naming import MENU_SIGNS
from olive_compass.core.keys.cells import read_cell

#: Words in the name of a mode in which typing writes text.
_TYPING = frozenset(
    [
        "text",
        "texts",
        "typing",
        "type",
        "lettering",
        "label",
        "labels",
        "write",
        "writing",
        "edit-text",
        "text-edit",
        "entry",
        "texte",
        "beschriftung",
        "schreiben",
        "texto",
        "testo",
        "tekst",
        "saisie",
    ]
)


def text_modes(modes: Sequence[str]) -> tuple[str, ...]:
    """The modes in which typing most likely writes text, by what they are called.

    >>> text_modes(["draw", "label", "text-edit"])
    ('label', 'text-edit')
    """
    return tuple(mode for mode in modes if mode in _TYPING or _TYPING & set(mode.split("-")))


def leaders(cells: list[str]) -> frozenset[str]:
    """What stands before a comma in the cells of several commands, and is a stroke with a modifier.

    It is no key of any of them: it begins a run (``Ctrl+K, Ctrl+S``), where ``Ctrl+M, F6`` is two keys.
    """
    parted = {cell for cell in cells if cell.count(",") == 1 and not cell.endswith(",")}
    first = Counter(cell.partition(",")[0].strip() for cell in parted)
    return frozenset(text for text, times in first.items() if times > 1 and _begins_held(text))


def _begins_held(text: str) -> bool:
    """Whether a text is one trigger, and begins with a modifier."""
    runs = read_cell(text).triggers
    return len(runs) == 1 and bool(runs[0].strokes[0].modifiers)


def minus_is_key(cells: list[str]) -> bool:
    """Whether a lone ``-`` is the minus key: it stands once, and ``+`` or ``=`` stands alone too."""
    counts = Counter(cells)
    return counts["-"] + counts["–"] == 1 and (counts["+"] > 0 or counts["="] > 0)


def longest_typed(cells: list[str]) -> int:
    """How long typed runs are here: enough cells are two to four letters that name no key."""
    short = [cell for cell in cells if re.fullmatch(r"[A-Za-z0-9]{2,4}", cell)]
    runs = [cell for cell in short if read_cell(cell).problem]
    if len(runs) >= 3 and len(runs) * 20 >= len(cells):
        return max(map(len, runs))
    return 0


def mostly_paths(titles: list[str]) -> bool:
    paths = sum(any(sign in title for sign in ("→", "»", "▸", "->", " > ")) for title in titles)
    return paths * 3 > len(titles) > 0


def has_access_letters(cells: list[str]) -> bool:
    """Whether enough cells have a letter after an ampersand: one or two may just be names."""
    if not any("&" in cell for cell in cells):
        return False
    marked = sum(bool(re.search(r"(?:^|[^\s&])?&\w", cell)) for cell in cells if "&" in cell)
    return marked >= 3 and marked * 10 >= len([cell for cell in cells if cell])


def menu_signs(cells: list[str]) -> tuple[str, ...]:
    """The signs that part menu steps here: ``/`` and ``|`` only where no other does so more."""
    menus = Counter(cells)
    counts = Counter(
        {sign: sum(n for menu, n in menus.items() if sign in menu) for sign in MENU_SIGNS}
    )
    most = counts.most_common(1)[0][0]
    return tuple(sign for sign in MENU_SIGNS if sign == most or (sign not in "/|"))
