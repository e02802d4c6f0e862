"""Which command a person means: by id, title, menu path, or any fragment that fits one only."""

import re
from collections.abc import Iterable, Mapping
from types import MappingProxyType

from msgspec import Struct

from olive_compass.core.apps.app import Command

#: The signs that part the steps of a menu path, the surest first.
MENU_SIGNS = ("→", "»", "▸", "->", ">", "|", "/")


class Named(Struct, frozen=True):
    """Who answers to a name: ``exact`` commands, or else ``near`` ones to offer."""

    exact: tuple[Command, ...]
    near: tuple[Command, ...] = ()


def command_named(
    commands: Iterable[Command],
    name: str,
    most_near: int = 6,
    slots: Mapping[str, str] = MappingProxyType({}),
) -> Named:
    """The commands that ``name`` means.

    ``slots`` are what is in slots now: that names them as well. Tried in this order, and the first that fits anything decides: id, menu path, title,
    the end of a menu path, a fragment of title, id or menu path, all the words in any order.
    One ``exact`` command is an answer; several are twins among which a person must choose.
    """
    commands = list(commands)
    wanted = plain_title(name)
    path = _plain_path(name)
    tests = (
        lambda c: c.id == name,
        lambda c: plain_title(c.id) == wanted,
        lambda c: plain_title(c.title) == wanted,
        lambda c: bool(slots.get(c.id)) and plain_title(slots[c.id]) == wanted,
        lambda c: plain_title(f"{c.title}: {slots.get(c.id, '')}") == wanted,
        lambda c: bool(c.menu) and _plain_path(c.route) == path,
        lambda c: bool(c.menu) and _plain_path(c.route).endswith("\n" + path),
        lambda c: wanted in plain_title(c.title),
        lambda c: wanted in plain_title(c.id) or path in _plain_path(c.route),
        lambda c: all(word in _haystack(c) for word in wanted.split()),
    )
    if wanted:
        for test in tests:
            if found := tuple(command for command in commands if test(command)):
                return Named(found)
    return Named((), tuple(near_commands(commands, name, most_near)))


def near_commands(commands: Iterable[Command], words: str, most: int) -> list[Command]:
    """The commands whose titles or ids are spelt nearly like ``words``, the nearest first.

    Each word of ``words`` is held against each word of a command; the mean of the best
    similarities counts (0 to 100, of which 70 is near), or that of all letters in a row.
    """
    from rapidfuzz.fuzz import ratio

    wanted = _words(words)
    whole = "".join(wanted)
    scored = []
    for n, command in enumerate(commands):
        own = _words(f"{command.title} {command.id}")
        best = [max((ratio(word, each) for each in own), default=0.0) for word in wanted]
        score = max(
            sum(best) / len(best) if best else 0.0, ratio(whole, "".join(_words(command.title)))
        )
        if score >= 70:
            scored.append((-score, n, command))
    scored.sort(key=lambda each: each[:2])
    return [command for _, _, command in scored[:most]]


def menu_path(text: str, signs: Iterable[str] = MENU_SIGNS) -> tuple[str, ...]:
    """The steps of a menu path, cut at the first of ``signs`` that occurs in it.

    >>> menu_path("Edit → Lines → Smooth")
    ('Edit', 'Lines', 'Smooth')
    """
    for sign in signs:
        if sign in text:
            return tuple(step.strip() for step in text.split(sign) if step.strip())
    if text.strip():
        return (text.strip(),)
    return ()


def logged(by_id: Mapping[str, Command], name: str) -> str:
    """The id of the command that a log means by an id, a title or the way through the menus; ``name`` as
    it stands where that is no one command."""
    if name in by_id:
        return name
    exact = command_named(by_id.values(), name).exact
    if len(exact) == 1:
        return exact[0].id
    return name


def plain_title(text: str) -> str:
    """A title as it is compared: without case, the dots that announce a question, and extra blanks.

    >>> plain_title("Save  As…")
    'save as'
    """
    return " ".join(text.casefold().replace("…", "").replace("...", "").split())


def _plain_path(text: str) -> str:
    return "\n".join(map(plain_title, menu_path(text)))


def _haystack(command: Command) -> str:
    return plain_title(f"{command.title} {command.id} {' '.join(command.menu)}")


def _words(text: str) -> list[str]:
    return re.findall(r"[^\W_]+", text.casefold())
