"""Finds commands by words, the best hit first."""

from collections.abc import Iterable, Mapping
from types import MappingProxyType

from olive_compass.core.apps.app import Command


def search(
    commands: Iterable[Command], words: str, slots: Mapping[str, str] = MappingProxyType({})
) -> tuple[Command, ...]:
    """The commands that have every one of ``words`` in title, menu, id or description.

    ``slots`` are what is in slots now: they are found by that as well. Order: the title itself, titles that begin with the words, words that begin a word of
    the title, words inside it, then id, menu and description; catalogue order among equals.
    """
    commands = list(commands)
    query = fold(words)
    parts = query.split()
    if not parts:
        return tuple(commands)
    ranked = []
    for index, command in enumerate(commands):
        rank = _rank(command, query, parts, slots.get(command.id, ""))
        if rank is not None:
            ranked.append((rank, index))
    ranked.sort()
    return tuple(commands[index] for _, index in ranked)


def _rank_in_title(title: str, query: str) -> int:
    """How well a title fits that has the words as they were typed: whole, at its beginning, at that of a word.

    >>> [_rank_in_title(title, "trim") for title in ("trim", "trim to line", "hard trim", "untrimmed")]
    [0, 1, 2, 3]
    """
    if title == query:
        return 0
    if title.startswith(query):
        return 1
    if f" {query}" in f" {title}":
        return 2
    return 3


def _rank(command: Command, query: str, parts: list[str], content: str) -> int | None:
    # No part has a space in it, so what is in none of these is not in all of them together. Most
    # commands have none of the words: the answer is known at once.
    texts = (command.title, content, command.id, *command.menu, command.does)
    whole = fold(" ".join(texts))
    for part in parts:
        if part not in whole:
            return None
    title = fold(f"{command.title} {content}" if content else command.title)
    if query in title:
        return _rank_in_title(title, query)
    if all(part in title for part in parts):
        return 4
    rest = f"{title} {command.id.casefold()}"
    if all(part in rest for part in parts):
        return 5
    rest = fold(f"{rest} {' '.join(command.menu)}")
    if all(part in rest for part in parts):
        return 6
    return 7


def fold(text: str) -> str:
    """``text`` without case and accents, for comparing.

    >>> fold("Überdruck")
    'uberdruck'
    """
    if text.isascii():
        return text.lower()
    import unicodedata

    parted = unicodedata.normalize("NFD", text.casefold())
    return "".join(char for char in parted if not unicodedata.combining(char))
