"""The modes of an application: a tree whose root is ``everywhere``."""

from collections.abc import Iterable, Mapping, Sequence

ROOT = "everywhere"


class ModeTree:
    """Which mode lies inside which.

    ``parents`` maps each mode to the mode it lies inside; ``everywhere`` is not named in
    it. Raises ``ValueError`` where a parent is unknown or modes lie inside each other.
    """

    def __init__(self, parents: Mapping[str, str]) -> None:
        self.parents = dict(parents)
        self.names = (ROOT, *self.parents)
        self._paths: dict[str, tuple[str, ...]] = {ROOT: (ROOT,)}
        self._inside: dict[tuple[str, ...], tuple[str, ...]] = {}
        for name in self.parents:
            self._paths[name] = self._climb(name)
        # Asked for at every press of every finding: worked out once.
        self._within = {
            mode: tuple(name for name in self.names if mode in self._paths[name])
            for mode in self.names
        }

    def __contains__(self, name: object) -> bool:
        return name in self._paths

    def path(self, mode: str) -> tuple[str, ...]:
        """``mode``, what it lies inside, and so on out to ``everywhere``."""
        return self._paths[mode]

    def within(self, mode: str) -> tuple[str, ...]:
        """``mode`` and all that lies inside it, in the order of the application."""
        return self._within[mode]

    def inside(self, modes: Iterable[str]) -> tuple[str, ...]:
        """``modes`` and all that lies inside them, each once, in the order of the application."""
        asked = tuple(modes)
        known = self._inside.get(asked)
        if known is None:
            wanted = {inner for mode in asked for inner in self.within(mode)}
            known = self._inside[asked] = tuple(mode for mode in self.names if mode in wanted)
        return known

    def outermost(self, modes: Iterable[str]) -> tuple[str, ...]:
        """``modes`` without those that lie inside another of them."""
        modes = tuple(modes)
        return tuple(mode for mode in modes if not set(self.path(mode)[1:]) & set(modes))

    def phrase(self, modes: Iterable[str]) -> str:
        """Where ``modes`` are, in words: a mode stands for itself and what lies inside it.

        >>> tree = ModeTree({"draw": "everywhere", "vertex": "draw", "label": "everywhere"})
        >>> tree.phrase(["draw", "vertex"]), tree.phrase(["everywhere", "draw", "vertex"])
        ('in draw', 'everywhere but in label')
        >>> tree.phrase(["everywhere", "label", "vertex"])
        'everywhere but in draw, and in vertex'
        """
        among = set(modes)
        if among.issuperset(self.names):
            return ROOT
        spans = self.spans(among)
        said = ""
        # “In everywhere” is no English, and “everywhere” reads best before the others.
        if spans and spans[0][0] == ROOT:
            said = f"{ROOT} but in {joined(spans.pop(0)[1])}" + (", and " if spans else "")
        if not spans and said:
            return said
        return f"{said}in " + joined(
            f"{mode} without {joined(without)}" if without else mode for mode, without in spans
        )

    def spans(self, modes: Iterable[str]) -> list[tuple[str, tuple[str, ...]]]:
        """The fewest modes that stand for ``modes`` with all that lies inside them, each with what of
        that is left out, and all that lies inside it in turn.

        >>> tree = ModeTree({"draw": "everywhere", "vertex": "draw", "label": "everywhere"})
        >>> tree.spans(["draw", "label"])
        [('draw', ('vertex',)), ('label', ())]
        """
        among = set(modes)
        begins = [m for m in self.names if m in among and not among.intersection(self.path(m)[1:2])]
        without: dict[str, list[str]] = {mode: [] for mode in begins}
        for mode in self.names:
            parents = self.path(mode)[1:]
            if mode not in among and among.intersection(parents[:1]):
                nearest = next(parent for parent in parents if parent in without)
                without[nearest].append(mode)
        return [(mode, tuple(left)) for mode, left in without.items()]

    def _climb(self, name: str) -> tuple[str, ...]:
        path = [name]
        while path[-1] != ROOT:
            parent = self.parents.get(path[-1])
            if parent is None:
                raise ValueError(
                    f"the mode “{path[-2]}” lies inside “{path[-1]}”, which is no mode"
                )
            if parent in path:
                raise ValueError(f"the modes “{path[-1]}” and “{parent}” lie inside each other")
            path.append(parent)
        return tuple(path)


def joined(words: Iterable[str], most: int = 0) -> str:
    """``a, b and c``; of more than ``most`` (0: any number) the first, and how many more there are.

    >>> joined("abcd"), joined("abcd", 2)
    ('a, b, c and d', 'a, b and 2 more')
    """
    words = list(words)
    if most and len(words) > most:
        words = [*words[:most], f"{len(words) - most} more"]
    return " and ".join(filter(None, [", ".join(words[:-1]), *words[-1:]]))


def in_modes(modes: Sequence[str]) -> str:
    """``in draw and label``, or ``everywhere``."""
    if ROOT in modes:
        return ROOT
    return "in " + joined(modes)
