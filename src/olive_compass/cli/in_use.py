"""The application that is meant where none is named: that of the folder, or the seat's current one."""

import argparse
import os
from typing import Any

from msgspec import Struct

from olive_compass.cli import pick
from olive_compass.cli.current_app import current, none_named
from olive_compass.cli.parsing import positionals
from olive_compass.cli.surroundings import Surroundings
from olive_compass.desk.desk import Desk
from olive_compass.desk.paths import find_root
from olive_compass.errors import UserError
from olive_compass.structs import replace


class Place(Struct, frozen=True, kw_only=True):
    """Where the application stands among the words of a command: the index of the first word that is
    no option, how many such words there are, and how few and how many the command takes."""

    at: int
    given: int
    least: int
    most: int

    @property
    def is_full(self) -> bool:
        """Whether the command takes no further word."""
        return self.given >= self.most


def with_app(
    parser: argparse.ArgumentParser, words: list[str], named: str | None, context: Surroundings
) -> list[str]:
    """The words of a command with the application that is meant, where none is named.

    ``named`` is the desk of ``--desk``. Raises ``UserError`` where one is lacking and none is in use.
    """
    place = _place(parser, words)
    if place is None:
        return words
    first = ""
    if place.given:
        first = words[place.at]
    if _asks_for_help(words) or _is_plainly_app(first, named, context):
        return words
    try:
        desk = pick.open_desk(named, context)
    except UserError:
        # The command itself will say what is wrong with the desk.
        return words
    if first and (_names_app(desk, first) or place.is_full):
        return words
    used = current(desk, context)
    if used:
        return [*words[: place.at], used, *words[place.at :]]
    if place.given < place.least and desk.app_names() and not _begins_app(desk, first):
        raise none_named(desk)
    return words


def _asks_for_help(words: list[str]) -> bool:
    return "-h" in words or "--help" in words


def _is_plainly_app(word: str, named: str | None, context: Surroundings) -> bool:
    """Whether a word is the very name of an application: told without reading anything."""
    if not word.isidentifier() and not word.replace("-", "").isalnum():
        return False
    start = named or context.environ.get("OLIVE_COMPASS_DESK", "")
    try:
        root = find_root(os.path.join(context.folder, start))
    except UserError:
        return True
    return os.path.isfile(os.path.join(root, "apps", word, "app.toml"))


def _names_app(desk: Desk, word: str) -> bool:
    """Whether a word is the name or the title of an application, or the beginning of one only."""
    try:
        desk.app_name(word)
    except UserError:
        return False
    return True


def _begins_app(desk: Desk, word: str) -> bool:
    """Whether several applications begin so: then that is what is to be said."""
    return bool(word) and any(name.startswith(word.casefold()) for name in desk.app_names())


def _place(parser: argparse.ArgumentParser, words: list[str]) -> Place | None:
    """Where the application stands, None where the command takes none that must be named."""
    given = positionals(parser, words)
    verbs = [each for each in parser._actions if isinstance(each, argparse._SubParsersAction)]
    if verbs and given:
        return _place_after_verb(verbs[0], words, *given[0])
    wanted = [action for action in parser._actions if not action.option_strings]
    # A verb comes before the application: ``app mode add quillmap trace``.
    if wanted and given and given[0][1] in (wanted[0].choices or ()):
        wanted, given = wanted[1:], given[1:]
    if not wanted or not _is_app(wanted[0]):
        return None
    at = len(words)
    if given:
        at = given[0][0]
    least, most = _least_and_most(wanted)
    return Place(at=at, given=len(given), least=least, most=most)


def _is_app(action: argparse.Action) -> bool:
    """Whether it is an application that must be named."""
    return action.dest == "app" and action.nargs != "?"


def _least_and_most(wanted: list[argparse.Action]) -> tuple[int, int]:
    """The fewest and the most words that these arguments take when the application is named."""
    least = sum(action.nargs in (None, "+") for action in wanted)
    least += sum(vars(action).get("least", 0) for action in wanted)
    if any(action.nargs in ("+", "*") for action in wanted):
        return least, 10**6
    return least, len(wanted)


def _place_after_verb(
    verbs: "argparse._SubParsersAction[Any]", words: list[str], n: int, verb: str
) -> Place | None:
    """The same of a verb, which is the word of number ``n``."""
    inner = verbs.choices.get(verb)
    found = None
    if inner:
        found = _place(inner, words[n + 1 :])
    if found is None:
        return None
    return replace(found, at=found.at + n + 1)
