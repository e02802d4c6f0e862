"""Which command of a new version is which of the old one."""

from collections import Counter
from collections.abc import Mapping
from types import MappingProxyType

from msgspec import Struct

from olive_compass.core.apps.app import Catalogue, Command
from olive_compass.core.apps.search import fold

#: From this score on two commands are taken for the same one.
LEAST = 0.6


class Match(Struct, frozen=True, kw_only=True):
    """A command of the old version and the one that it is in the new; None: there is none.

    ``score`` is from 0 to 1, ``by`` says what told.
    """

    old: Command | None
    new: Command | None
    score: float = 1.0
    by: str = "id"

    @property
    def id(self) -> str:
        """The id of the command: the old one, where it had one."""
        either = self.old or self.new
        assert either is not None
        return either.id

    @property
    def what(self) -> tuple[str, ...]:
        """What happened to the command: new, withdrawn, or renamed, moved, keys moved."""
        if self.old is None or self.new is None:
            if self.old is None:
                return ("new",)
            return ("withdrawn",)
        changes = {
            "renamed": self.old.title != self.new.title,
            "other menu": self.old.menu != self.new.menu,
            "keys moved": set(self.old.keys) != set(self.new.keys),
            "other modes": set(self.old.modes) != set(self.new.modes),
        }
        return tuple(name for name, is_so in changes.items() if is_so)


def match(
    old: Catalogue, new: Catalogue, ids: Mapping[str, str] = MappingProxyType({})
) -> tuple[Match, ...]:
    """Which command of ``new`` each of ``old`` is: by id, then by title, menu and keys.

    ``ids`` are those of ``old`` that the application calls otherwise. In the order of the new version, withdrawn ones last.
    """
    by_new: dict[str, Match] = {}
    left = {ids.get(c.id, c.id): c for c in old.commands}
    for command in new.commands:
        # Ids made of titles and numbers are given anew by some applications: the same id may be another command.
        if command.id in left and _could_be(left[command.id], command):
            by_new[command.id] = Match(old=left.pop(command.id), new=command)
    _by_title(left, [c for c in new.commands if c.id not in by_new], by_new)
    _by_likeness(left, [c for c in new.commands if c.id not in by_new], by_new)
    found = [by_new.get(c.id, Match(old=None, new=c)) for c in new.commands]
    return (*found, *map(_gone, left.values()))


def _gone(command: Command) -> Match:
    """A command that the new version does not have."""
    return Match(old=command, new=None)


def _by_title(left: dict[str, Command], new: list[Command], by_new: dict[str, Match]) -> None:
    """Matches the commands whose title stands once on either side, and takes them from ``left``."""
    times_old = Counter(fold(c.title) for c in left.values())
    times_new = Counter(fold(c.title) for c in new)
    by_title = {fold(c.title): id_ for id_, c in left.items()}
    for command in new:
        title = fold(command.title)
        # Of twins nobody can say which is which by their title alone.
        if times_old[title] == times_new[title] == 1:
            by_new[command.id] = Match(
                old=left.pop(by_title[title]), new=command, score=1.0, by="title"
            )


def _by_likeness(left: dict[str, Command], new: list[Command], by_new: dict[str, Match]) -> None:
    """Matches what is likeliest one, the likeliest first, and takes it from ``left``."""
    pairs = sorted(
        (-score, id_, b.id, by)
        for id_, a in left.items()
        for b in new
        for score, by in [_score(a, b)]
        if score >= LEAST
    )
    news = {c.id: c for c in new}
    for negative, old_id, new_id, by in pairs:
        if old_id in left and new_id in news:
            by_new[new_id] = Match(
                old=left.pop(old_id), new=news.pop(new_id), score=-negative, by=by
            )


def _could_be(old: Command, new: Command) -> bool:
    """Whether the same id means the same command: its title or its menu must have something left."""
    return bool(
        set(fold(old.title).split()) & set(fold(new.title).split())
        or old.menu == new.menu
        or set(old.keys) & set(new.keys)
    )


def _score(old: Command, new: Command) -> tuple[float, str]:
    """How likely two commands are one: the words of the title, menu, keys, and what it does."""
    # Small words make all titles alike.
    a, b = (set(fold(each.title).split()) - {"or", "and", "the", "a", "of"} for each in (old, new))
    words = 0.0
    if a and b:
        words = 2 * len(a & b) / (len(a) + len(b))
    keys = bool(set(old.keys) & set(new.keys))
    menu = bool(old.menu) and old.menu == new.menu
    does = bool(old.does) and old.does == new.does
    score = 0.6 * words + 0.3 * keys + 0.2 * menu + 0.4 * does
    by = " and ".join(name for name, is_so in _told(words > 0, menu, keys, does) if is_so)
    # 1.0 is kept for the same id: what is only likely never looks sure.
    return round(min(score, 0.99), 2), by


def _told(title: bool, menu: bool, keys: bool, does: bool) -> tuple[tuple[str, bool], ...]:
    return (("title", title), ("menu", menu), ("keys", keys), ("what it does", does))
