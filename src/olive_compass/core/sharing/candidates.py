"""The commands that a purpose may be found for, with what tells whether two of them are for the same thing."""

from collections.abc import Iterator
from functools import cache, lru_cache

from msgspec import Struct

from olive_compass.core.apps.app import App, Command
from olive_compass.core.apps.search import fold
from olive_compass.core.keys.triggers import Run
from olive_compass.core.sharing.titles import Form, Nouns, essential, forms, nouns_of, words_in

#: How many commands before and after one are its neighbours.
REACH = 2

#: Two applications are two versions of one where they have so many ids in common, of so many at least: the same
#: dozen of commands for files and editing is in every application.
SAME_IDS, ENOUGH_IDS = 0.7, 30

#: Kinds of things in a catalogue that are one kind here: they are done at once, and a part is drawn.
_ONE_KIND = {"setting": "command", "style": "command"}


class Candidate(Struct, eq=False, kw_only=True):
    """A command of an application, with what it is compared by.

    ``forms`` are those of its title, ``words`` its title as it is compared, ``essential`` what is left of that without
    words that add nothing; ``keys`` are its factory keys, alike on all platforms; ``neighbours`` the places of the
    commands beside it, ``twins`` those that stand for it.
    """

    app: App
    command: Command
    forms: dict[Form, int]
    words: Form
    essential: Form
    keys: frozenset[str]
    menu_words: frozenset[str]
    says: frozenset[str]
    neighbours: tuple[tuple[str, str], ...] = ()
    twins: "tuple[Candidate, ...]" = ()

    @property
    def place(self) -> tuple[str, str]:
        """Its application and its id."""
        return self.app.name, self.command.id

    @property
    def kind(self) -> str:
        """What it is: a part and a style of one name are not the same thing."""
        return _ONE_KIND.get(self.command.kind, self.command.kind)

    def is_telling(self, run: Run) -> bool:
        """Whether that two commands have this key says much: a letter, Escape or Insert by itself does not."""
        first = run.strokes[0]
        return (
            len(run.strokes) > 1
            or bool(first.modifiers)
            or (first.key[:1] == "F" and first.key[1:].isdigit())
        )


def _can_serve(command: Command) -> bool:
    return command.kind not in ("macro", "tray") and not command.marks.withdrawn


def candidates(app: App) -> Iterator[Candidate]:
    """The commands of an application that can serve a purpose, in its order.

    Macros and trays are a person's own words for their work; what is withdrawn is not there.
    """
    commands = list(filter(_can_serve, app.catalogue.commands))
    nouns = nouns_of(app.title, (each.title for each in commands))
    found = [_candidate(app, each, nouns) for each in commands]
    same: dict[tuple[str, Form], list[Candidate]] = {}
    for n, each in enumerate(found):
        about = found[max(0, n - REACH) : n] + found[n + 1 : n + 1 + REACH]
        each.neighbours = tuple(other.place for other in about)
        same.setdefault((each.kind, each.words), []).append(each)
    for each in found:
        others = same[each.kind, each.words]
        if len(others) > 1 or each.command.marks.alternate:
            each.twins = tuple(other for other in others if _stands_for(each, other))
    return iter(found)


def _stands_for(one: Candidate, other: Candidate) -> bool:
    """Whether two commands of an application with one title are the same command, listed twice."""
    if one is other:
        return False
    if other.command.marks.alternate == one.command.id:
        return True
    # A second way to the same: with the same key, or a key of another device.
    return bool(one.keys & other.keys) or (
        one.command.menu == other.command.menu and one.command.modes == other.command.modes
    )


def _candidate(app: App, command: Command, nouns: Nouns) -> Candidate:
    own = forms(command.title, nouns)
    words = tuple(sorted(words_in(command.title, nouns.name)))
    menus = frozenset(word for step in command.menu for word in _stems(step.replace("&", "")))
    return Candidate(
        app=app,
        command=command,
        forms=own,
        words=words,
        essential=essential(own),
        keys=frozenset(map(key_of, command.keys)),
        menu_words=menus,
        says=frozenset(_stems(command.does)) - set(words),
    )


@lru_cache(maxsize=10_000)
def _stems(text: str) -> tuple[str, ...]:
    if text:
        return tuple(words_in(text))
    return ()


@cache
def key_of(run: Run) -> str:
    """A key as it is compared between platforms: ``Ctrl`` here is ``Meta`` there."""
    return str(run).replace("Meta+", "Ctrl+")


def describes_alike(one: Candidate, other: Candidate) -> bool:
    """Whether the descriptions of two commands say the same in half of their words."""
    common = one.says & other.says
    return 2 * len(common) >= min(len(one.says), len(other.says)) > 1


def speaks_against(one: Candidate, other: Candidate) -> bool:
    """Whether two commands have nothing in common but their title: neither menu nor description nor key."""
    if _have_something_in_common(one, other):
        return False
    return not one.says & other.says and not one.says & set(other.words)


def _have_something_in_common(one: Candidate, other: Candidate) -> bool:
    return bool(
        not (one.says and other.says) or one.keys & other.keys or one.menu_words & other.menu_words
    )


@cache
def _plain_name(title: str) -> str:
    return "".join(char for char in fold(title) if char.isalpha())


def same_application(one: App, other: App) -> bool:
    """Whether two entries of a desk are one application in two versions: by its title, or by its ids."""
    if one is other or _plain_name(one.title) == _plain_name(other.title):
        return True
    mine, theirs = one.catalogue.by_id.keys(), other.catalogue.by_id.keys()
    most = max(len(mine), len(theirs))
    return most >= ENOUGH_IDS and len(mine & theirs) > SAME_IDS * most
