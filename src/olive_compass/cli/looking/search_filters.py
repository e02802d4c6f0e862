"""What a search for commands is narrowed by, beside words: key, mode, menu, kind, mark, having a key."""

from collections.abc import Callable, Iterator

from msgspec import Struct

from olive_compass.cli import pick
from olive_compass.core.apps.app import Command
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.apps.search import fold
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers

#: Whether a command is among those that are looked for.
Filter = Callable[[Command], bool]


class SearchQuery(Struct, frozen=True, kw_only=True):
    """What was asked: words, and what the commands are to be besides (None or False: no matter)."""

    words: str
    app: str | None
    key: str | None
    mode: str | None
    menu: str | None
    kind: str | None
    mark: str | None
    assigned: bool
    unassigned: bool
    keyless: bool

    @property
    def filters(self) -> bool:
        """Whether anything but words narrows the search."""
        return any((self.app, self.key, self.mode, self.menu, self.kind, self.mark))


def filtered(keymap: Keymap, query: SearchQuery) -> Iterator[Command]:
    """The commands that pass every filter but the words."""
    mode = query.mode.casefold() if query.mode else ""
    if mode and mode not in keymap.app.modes:
        if query.app:
            pick.mode(keymap.app, mode)
        return
    filters = [
        *_by_key(keymap, query.key),
        *_by_mode(keymap, mode),
        *_by_menu(query.menu),
        *_by_having_a_key(keymap, mode, query.assigned, query.unassigned, query.keyless),
        *_by_what_it_is(query.kind, query.mark),
    ]
    for command in keymap.app.catalogue.commands:
        if all(passes(command) for passes in filters):
            yield command


def _by_key(keymap: Keymap, key: str | None) -> Iterator[Filter]:
    if not key:
        return
    from olive_compass.core.keys.patterns import is_pattern, pattern

    if is_pattern(key):
        fits = pattern(key, keymap.keyboard, keymap.app.rules.typed)
        having = {claim.command for claim in keymap.claims if fits(claim.trigger)}
        yield lambda command: command.id in having
    else:
        press = keymap.keyboard.press_of(read_trigger(key, keymap.app.rules.typed))
        wanted = {claim.command for claim in keymap.buckets.get(press, ())}
        yield lambda command: command.id in wanted


def _by_mode(keymap: Keymap, mode: str) -> Iterator[Filter]:
    if mode:
        path = set(keymap.app.modes.path(mode))
        yield lambda command: not command.modes or bool(path & set(command.modes))


def _by_menu(menu: str | None) -> Iterator[Filter]:
    if menu:
        parts = fold(menu).split()
        yield lambda command: all(part in fold(" ".join(command.menu)) for part in parts)


def _by_what_it_is(kind: str | None, mark: str | None) -> Iterator[Filter]:
    if kind:
        yield lambda command: command.kind == kind
    if mark:
        yield lambda command: any(
            word == mark or word.startswith(f"{mark}:") for word in command.marks.words
        )


def _by_having_a_key(
    keymap: Keymap, mode: str, assigned: bool, unassigned: bool, keyless: bool
) -> Iterator[Filter]:
    """With a key that works, in the mode if one is named; or without, undecided or on purpose."""
    where = mode if mode != ROOT else None

    def has_key(command: Command) -> bool:
        return bool(live_triggers(keymap, command.id, where))

    if assigned:
        yield has_key
    if unassigned or keyless:
        on_purpose = {command for scheme in keymap.stack.schemes for command in scheme.keyless}
        yield lambda command: (command.id in on_purpose) == keyless and not has_key(command)
