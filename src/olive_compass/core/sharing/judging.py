"""What speaks for two commands being for the same thing, and against it, beside their titles."""

from collections.abc import Iterable, Iterator, Mapping, Sequence

from olive_compass.core.keys.triggers import Run
from olive_compass.core.sharing.candidates import Candidate, describes_alike, key_of, speaks_against
from olive_compass.core.sharing.proposals import NO_PURPOSE, Guess, Kind
from olive_compass.core.sharing.title_words import TELLING_WORDS, opposed
from olive_compass.core.sharing.titles import Form

#: What a title is worth by how far the forms that agree are from what is written, taken together.
BY_DISTANCE = (0.9, 0.87, 0.83, 0.8, 0.76)

#: What a title is worth where one word is added to the other's, and where one word stands for another.
ADDED, EXCHANGED = 0.6, 0.5

#: What a title that is only alike is worth at most where a word stands for another: nobody takes that unasked.
MOST_EXCHANGED = 0.78

#: What the same key adds, the same menu, a like description, neighbours that are for the same; for titles that
#: are the same, and for those that are only alike.
FOR_KEY, FOR_MENU, FOR_WORDS, FOR_NEIGHBOURS = 0.1, 0.05, 0.05, 0.05
FOR_KEY_ALIKE = 0.2

#: What is taken off where neither key, menu nor description have anything in common.
AGAINST = 0.15

#: For each key the applications in which a command of a purpose has it.
Keys = Mapping[str, set[str]]


def by_distance(far: int) -> float:
    """What titles are worth whose forms agree at this distance.

    >>> by_distance(0), by_distance(9)
    (0.9, 0.76)
    """
    return BY_DISTANCE[min(far, len(BY_DISTANCE) - 1)]


def by_likeness(one: Form, other: Form) -> float:
    """What a title is worth that differs in one word, 0 where that word makes it another command.

    >>> by_likeness(("edit",), ("edit", "tag")), by_likeness(("in", "zoom"), ("out", "zoom"))
    (0.6, 0.0)
    """
    more, less = set(one) - set(other), set(other) - set(one)
    changed = more | less
    if max(len(more), len(less)) != 1 or changed & TELLING_WORDS:
        return 0.0
    if any(word.isdigit() or len(word) == 1 for word in changed):
        return 0.0
    # “Nudge left” and “Text to the left” have only in common what tells commands apart.
    if not set(one) & set(other) - TELLING_WORDS:
        return 0.0
    if more and less:
        if opposed(*more, *less):
            return 0.0
        return EXCHANGED
    return ADDED


def keys_of(members: Iterable[Candidate]) -> Keys:
    """The factory keys of commands, with the applications that have them."""
    found: dict[str, set[str]] = {}
    for each in members:
        for key in each.keys:
            found.setdefault(key, set()).add(each.app.name)
    return found


def judged(
    each: Candidate,
    beside: Sequence[Candidate],
    *,
    score: float,
    because: str,
    kind: Kind,
    keys: Keys | None = None,
    group: Form = (),
    has_neighbours: bool = False,
) -> Guess:
    """A guess for a command beside those of other applications, with its score and the reasons for it.

    ``score`` is what its title is worth, ``because`` the reason; ``keys`` are those that the purpose usually has,
    where they are not those of ``beside``; ``group`` are the words of the purpose's group; ``has_neighbours`` says
    whether the commands about it are for the same things as those about the others.
    """
    most = MOST_EXCHANGED if score == EXCHANGED else 1.0
    usual = keys_of(beside) if keys is None else keys
    evidence = list(_evidence(each, beside, kind, usual, group))
    if has_neighbours:
        evidence.append((FOR_NEIGHBOURS, "beside it are the same commands"))
    for points, _ in evidence:
        score += points
    return Guess(
        purpose=NO_PURPOSE,
        candidate=each,
        score=round(min(score, most), 2),
        reasons=(because, *(reason for _, reason in evidence)),
        kind=kind,
    )


def _for_key(each: Candidate, key: Run, kind: Kind) -> float:
    """The points for a key that other applications have for the same."""
    points = FOR_KEY
    if kind == "alike":
        points = FOR_KEY_ALIKE
    if each.is_telling(key):
        return points
    return points / 2


def _evidence(
    each: Candidate, beside: Sequence[Candidate], kind: Kind, usual: Keys, group: Form
) -> Iterator[tuple[float, str]]:
    """What its key, its menu and its description say for a guess, or against it: points, and the reason in words."""
    same = [run for run in each.command.keys if usual.get(key_of(run), set()) - {each.app.name}]
    if same:
        yield _for_key(each, same[0], kind), f"{same[0]} from the factory, as elsewhere"
    if _is_in_menu(each, beside, kind, group):
        yield FOR_MENU, f"menu {each.command.menu[0]}"
    if any(describes_alike(each, other) for other in beside):
        yield FOR_WORDS, "described alike"
    if beside and not same and all(speaks_against(each, other) for other in beside):
        yield -AGAINST, "other menu, other key, other description"


def _is_in_menu(each: Candidate, beside: Sequence[Candidate], kind: Kind, group: Form) -> bool:
    """Whether its menu has a word of the purpose's group, or of the menus of the others."""
    if any(word in each.menu_words for word in group):
        return True
    # A known name is of the purpose's own list, which has no menu.
    return kind != "known name" and any(each.menu_words & other.menu_words for other in beside)
