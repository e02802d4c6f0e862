"""Which of several commands stand for a purpose, and what a purpose is called that was found."""

from collections import Counter
from collections.abc import Iterable, Sequence
from itertools import groupby

from olive_compass.core.apps.app import App
from olive_compass.core.apps.command_ids import slug
from olive_compass.core.sharing.candidates import Candidate, same_application
from olive_compass.core.sharing.purposes import Purpose
from olive_compass.core.sharing.titles import first_part, turned

#: How many other names a purpose gets that was found.
MOST_NAMES = 6


def one_each(entries: list[tuple[int, Candidate]]) -> list[tuple[int, Candidate]]:
    """One command for each application: the nearest, by its keys where two are as near."""
    by_app: dict[str, list[tuple[int, Candidate]]] = {}
    for far, each in entries:
        by_app.setdefault(each.app.name, []).append((far, each))
    keys = _applications_with(by_app.values())
    chosen = []
    for some in by_app.values():
        least = min(far for far, _ in some)
        same = [each for far, each in some if far == least]
        # Where a word was left out and two are the same without it, that word told them apart.
        if least == 0 or all(each.words == same[0].words for each in same):
            first = max(same, key=lambda c: max(map(keys.__getitem__, c.keys), default=0))
            chosen.append((least, first))
    return chosen


def _applications_with(by_app: Iterable[list[tuple[int, Candidate]]]) -> Counter[str]:
    """How many applications have each key."""
    keys: Counter[str] = Counter()
    for some in by_app:
        keys.update({key for _, c in some for key in c.keys})
    return keys


def of_one_kind(entries: list[tuple[int, Candidate]]) -> list[tuple[int, Candidate]]:
    """The commands of the kind that most of them are of, and whose words stand in the same order."""
    entries = sorted(entries, key=lambda entry: entry[1].kind)
    kinds = [list(some) for _, some in groupby(entries, key=lambda entry: entry[1].kind)]
    most = max(kinds, key=len, default=[])
    orders = Counter(order for _, c in most if (order := turned(c.command.title)))
    if len(orders) > 1:
        first = orders.most_common(1)[0][0]
        most = [(far, c) for far, c in most if turned(c.command.title) in ((), first)]
    return most


def editions(apps: Sequence[App]) -> dict[str, str]:
    """For each application the first on the desk that is the same one, in this version or another."""
    found: dict[str, str] = {}
    first: list[App] = []
    for app in apps:
        known = next((other for other in first if same_application(app, other)), None)
        if known is None:
            first.append(app)
        found[app.name] = (known or app).name
    return found


def new_purpose(found: list[Candidate], taken: set[str]) -> Purpose:
    """A purpose for commands that no list knows: the shortest of their titles, the others as names of it."""
    titles = Counter(first_part(each.command.title).strip().rstrip("….:") for each in found)
    title = min(titles, key=lambda each: (len(each), -titles[each], each))
    menus = Counter(
        each.command.menu[0].replace("&", "").casefold() for each in found if each.command.menu
    )
    id_ = stem = slug(title) or "purpose"
    number = 2
    while id_ in taken:
        id_, number = f"{stem}-{number}", number + 1
    lasts = any(each.command.marks.disruptive for each in found)
    return Purpose(
        id=id_,
        title=title,
        group=menus.most_common(1)[0][0] if menus else "other",
        risk="irreversible" if lasts else "harmless",
        names=tuple(sorted(set(titles) - {title}))[:MOST_NAMES],
    )
