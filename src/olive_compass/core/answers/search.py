"""Which commands a search finds, by their words, keys, modes, menus, kinds and marks, and by which other name."""

from collections.abc import Callable, Iterable, Iterator, Sequence

from msgspec import Struct

from olive_compass.core.apps.app import Command, CommandKind
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.apps.search import fold, search
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.sharing.purposes import Purpose

#: Whether a command is among those that are looked for.
Filter = Callable[[Command], bool]

#: A purpose, and the one of its names that has the words.
Named = tuple[Purpose, str]

#: How many commands of an application are shown where only some are spelt nearly like the words.
MOST_NEAR = 8


class SearchQuery(Struct, frozen=True, kw_only=True):
    """A search: words, and conditions on the commands (None or False: any)."""

    words: str
    app: str | None
    key: str | None
    mode: str | None
    menu: str | None
    kind: CommandKind | None
    mark: str | None
    assigned: bool
    unassigned: bool
    keyless: bool

    @property
    def filters(self) -> bool:
        """Whether anything but words narrows the search."""
        return any((self.app, self.key, self.mode, self.menu, self.kind, self.mark))


class Hit(Struct, frozen=True, kw_only=True):
    """A command that was found; where not by its own words, by the ``name`` of a purpose that it serves, or as what
    shows a ``thing``."""

    keymap: Keymap
    command: Command
    purpose: str = ""
    name: str = ""
    thing: str = ""


class SearchAnswer(Struct, frozen=True, kw_only=True):
    """What was found, ``total`` in all; ``near``: nothing has the words, these are spelt nearly like them."""

    hits: tuple[Hit, ...]
    total: int
    near: bool


def search_desk(
    keymaps: Sequence[Keymap], named: Sequence[Named], query: SearchQuery, most: int
) -> SearchAnswer:
    """What a query finds in applications, at most so many commands of each; ``named`` are the purposes that have its
    words."""
    found = []
    for keymap in keymaps:
        commands = tuple(filtered(keymap, query))
        found.append((keymap, _with_words(keymap, commands, query.words, named)))
    near = bool(query.words) and not any(commands for _, commands in found)
    if near:
        # Loaded here, and only where no application has the words themselves.
        from olive_compass.core.apps.naming import near_commands

        found = [
            (keymap, near_commands(filtered(keymap, query), query.words, MOST_NEAR))
            for keymap in keymaps
        ]
    total = sum(len(commands) for _, commands in found)
    hits = [
        _hit(keymap, command, query.words, named)
        for keymap, commands in found
        for command in commands[:most]
    ]
    return SearchAnswer(hits=tuple(hits), total=total, near=near and total > 0)


def filtered(keymap: Keymap, query: SearchQuery) -> Iterator[Command]:
    """The commands that pass every filter but the words."""
    mode = ""
    if query.mode:
        mode = query.mode.casefold()
    if mode and mode not in keymap.app.modes:
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


def _with_words(
    keymap: Keymap, commands: Sequence[Command], words: str, named: Sequence[Named]
) -> list[Command]:
    """The commands that have the words, then those that serve a purpose or show a thing that is called so."""
    app = keymap.app
    found = list(search(commands, words, app.rules.slots))
    having = {command.id for command in found}
    served = {id_ for purpose, _ in named for id_ in purpose.commands(app.name)}
    served.update(app.vias[thing].through for thing in _things(keymap, words))
    found += [each for each in commands if each.id in served and each.id not in having]
    return found


def _hit(keymap: Keymap, command: Command, words: str, named: Sequence[Named]) -> Hit:
    for purpose, name in named:
        if command.id in purpose.commands(keymap.app.name) and not search([command], words):
            return Hit(keymap=keymap, command=command, purpose=purpose.id, name=name)
    for thing in _things(keymap, words):
        if keymap.app.vias[thing].through == command.id:
            return Hit(keymap=keymap, command=command, thing=thing)
    return Hit(keymap=keymap, command=command)


def _things(keymap: Keymap, words: str) -> list[str]:
    """The things without a key, shown through a command, whose names have the words."""
    parts = fold(words).split()
    names: Iterable[str] = ()
    if parts:
        names = keymap.app.vias
    return [thing for thing in names if all(part in fold(thing) for part in parts)]


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


def _by_what_it_is(kind: CommandKind | None, mark: str | None) -> Iterator[Filter]:
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
        on_purpose = keymap.stack.keyless
        yield lambda command: (command.id in on_purpose) == keyless and not has_key(command)
