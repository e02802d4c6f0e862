"""Headings that are situations: in manuals a heading is as often a mode ("in the slide show") as a menu.

Where one key starts different commands under different headings, it cannot be one place: some of these headings
are modes. As few as part the keys are taken, those first under which most keys start something else.
"""

from collections import Counter, defaultdict
from collections.abc import Callable, Collection, Iterable, Iterator, Mapping, Sequence
from itertools import combinations

from msgspec import Struct

from olive_compass.core.apps.app import Command
from olive_compass.core.apps.headings import without_keys
from olive_compass.core.apps.search import fold
from olive_compass.core.keys.triggers import Run
from olive_compass.structs import replace

#: A heading, as the steps that lead to it.
Path = tuple[str, ...]

#: How many keys must start different commands before headings are taken for modes unasked: one may be a slip.
ENOUGH = 2

#: The longest name of a mode that is made of a heading, and words that end none.
_LONGEST_NAME = 32
_SMALL_WORDS = frozenset(["and", "or", "in", "of", "for", "the", "to", "with", "a", "an"])

#: Words with which headings begin that tell of a situation, where keys alone leave it open.
_WHEN = ("in ", "while ", "when ", "during ", "on ", "with ", "editing ", "working ", "navigating ")


class Split(Struct, frozen=True):
    """A key that starts different commands: ``one`` under a heading that is a mode, ``other`` elsewhere."""

    key: Run
    one: Command
    other: Command


class Situations(Struct, frozen=True):
    """The headings that are modes, and the keys that tell so."""

    headings: tuple[Path, ...] = ()
    splits: tuple[Split, ...] = ()


def situations(commands: Iterable[Command], headings: Collection[Path]) -> Situations:
    """The fewest of ``headings`` that part the keys of ``commands``, whose menus are headings of a document."""
    under: dict[Run, list[Command]] = defaultdict(list)
    sizes: Counter[Path] = Counter()
    for command in commands:
        if command.menu in headings and not command.modes:
            sizes[command.menu] += 1
            for run in command.keys:
                under[run].append(command)
    clashes = list(_clashes(under))
    chosen: list[Path] = []
    left = clashes
    while left:
        times = Counter(path for each in left for path in (each.one.menu, each.other.menu))
        best = max(times, key=lambda path: (times[path], _tells_when(path), -sizes[path]))
        chosen.append(best)
        left = [each for each in left if best not in (each.one.menu, each.other.menu)]
    named = set(chosen)
    turned = (
        each if each.one.menu in named else Split(each.key, each.other, each.one)
        for each in clashes
    )
    return Situations(tuple(chosen), tuple(turned))


def _clashes(under: Mapping[Run, Sequence[Command]]) -> Iterator[Split]:
    """Two and two commands under different headings that have one key and are not the same."""
    for run, found in under.items():
        for one, other in combinations(found, 2):
            if one.menu != other.menu and fold(one.title) != fold(other.title):
                yield Split(run, one, other)


def _tells_when(path: Path) -> bool:
    if path:
        return path[-1].lower().startswith(_WHEN)
    return False


def mode_names(headings: Iterable[Path], slug_of: Callable[[str], str]) -> dict[Path, str]:
    """A name for the mode of each heading: its last step, or all of them where two end alike."""
    headings = list(headings)
    short = {path: _short(path[-1], slug_of) for path in headings}
    times = Counter(short.values())
    return {
        path: end if times[end] == 1 else slug_of(" ".join(path)) for path, end in short.items()
    }


def _short(heading: str, slug_of: Callable[[str], str]) -> str:
    """The name of a mode for a heading, without what only says that keys follow: ``Shortcut keys for tables``."""
    words = slug_of(without_keys(heading)).split("-")
    while len(words) > 1 and len("-".join(words)) > _LONGEST_NAME:
        words.pop()
    while len(words) > 1 and words[-1] in _SMALL_WORDS:
        words.pop()
    return "-".join(words)


def with_modes(command: Command, modes: dict[Path, str]) -> Command:
    """The command in the mode of its heading, and in the menu above that."""
    mode = modes.get(command.menu)
    if mode is None:
        return command
    return replace(command, menu=command.menu[:-1], modes=(mode,))
