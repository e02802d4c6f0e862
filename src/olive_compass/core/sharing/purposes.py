"""Purposes: what a person wants, whatever each application calls it, and who serves it."""

from collections import Counter
from collections.abc import Iterable, Mapping
from functools import cached_property
from types import MappingProxyType

from msgspec import Struct

from olive_compass.structs import replace

#: What meeting a purpose by mistake costs: the order is that of growing harm.
RISKS = ("harmless", "changes work", "irreversible")


class Purpose(Struct, frozen=True, kw_only=True):
    """A purpose: ``names`` are what other applications call it; ``links`` the commands by app.

    ``risk`` is one of ``RISKS``; ``line`` is its line in the file.
    """

    id: str
    title: str
    group: str = ""
    risk: str = "harmless"
    names: tuple[str, ...] = ()
    links: Mapping[str, tuple[str, ...]] = MappingProxyType({})
    line: int = 0

    def commands(self, app: str) -> tuple[str, ...]:
        """The commands of an application that serve it."""
        return self.links.get(app, ())

    @property
    def places(self) -> tuple[tuple[str, str], ...]:
        """All commands that serve it, by application and id."""
        return tuple((app, id_) for app, ids in self.links.items() for id_ in ids)


def joined_purposes(first: Purpose, others: Iterable[Purpose]) -> Purpose:
    """``first`` with the links and names of ``others``, whose titles become names of it.

    >>> one = Purpose(id="a", title="A", links={"x": ("p",)})
    >>> two = Purpose(id="b", title="B", links={"x": ("q",)})
    >>> joined_purposes(one, [two]).names, dict(joined_purposes(one, [two]).links)
    (('B',), {'x': ('p', 'q')})
    """
    links = dict(first.links)
    names = dict.fromkeys(first.names)
    risk = first.risk
    for other in others:
        names |= dict.fromkeys((other.title, *other.names))
        risk = max(risk, other.risk, key=RISKS.index)
        for app, ids in other.links.items():
            links[app] = tuple(dict.fromkeys((*links.get(app, ()), *ids)))
    names.pop(first.title, None)
    return replace(first, names=tuple(names), links=links, risk=risk)


class Purposes:
    """All purposes of a desk, in the order of its file."""

    def __init__(self, purposes: Iterable[Purpose] = ()) -> None:
        self.all = tuple(purposes)

    @cached_property
    def by_id(self) -> dict[str, Purpose]:
        return {purpose.id: purpose for purpose in self.all}

    @cached_property
    def by_command(self) -> dict[tuple[str, str], Purpose]:
        """The purpose of each command, by application and id: the first that names it."""
        found: dict[tuple[str, str], Purpose] = {}
        for purpose in self.all:
            for app, commands in purpose.links.items():
                for command in commands:
                    found.setdefault((app, command), purpose)
        return found

    def group_of(self, app: str, command: str) -> str:
        """The group of the purpose that a command serves, ``""``: it serves none."""
        purpose = self.by_command.get((app, command))
        if purpose:
            return purpose.group
        return ""

    @property
    def groups(self) -> tuple[str, ...]:
        """The groups of the purposes, the one with most of them first."""
        counts = Counter(purpose.group for purpose in self.all if purpose.group)
        return tuple(sorted(counts, key=lambda group: (-counts[group], group)))

    def named(self, words: str) -> list[tuple[Purpose, str]]:
        """Purposes whose title or other name has all of ``words``: each with that name."""
        # Loaded here: only a search looks for purposes by their words.
        from olive_compass.core.apps.search import fold

        wanted = fold(words).split()
        found = []
        if wanted:
            for purpose in self.all:
                names = fold(" ".join((purpose.title, *purpose.names)))
                if not all(word in names for word in wanted):
                    continue
                for name in (purpose.title, *purpose.names):
                    # Words of one name begin with those that were asked for.
                    have = " " + " ".join(fold(name).split())
                    if all(f" {word}" in have for word in wanted):
                        found.append((purpose, name))
                        break
        return found

    def with_purpose(self, purpose: Purpose) -> "Purposes":
        """The purposes with one more, at the end."""
        return Purposes((*self.all, purpose))

    def linked(self, purpose: str, app: str, commands: tuple[str, ...]) -> "Purposes":
        """The purposes in which ``commands`` of ``app`` serve ``purpose``; none: it is unlinked."""
        changed = []
        for each in self.all:
            links = dict(each.links)
            if each.id == purpose:
                links[app] = commands
            else:
                # A command has one purpose: a new link takes it from the old one.
                links[app] = tuple(c for c in links.get(app, ()) if c not in commands)
            links = {name: ids for name, ids in links.items() if ids}
            changed.append(replace(each, links=links) if links != each.links else each)
        return Purposes(changed)
