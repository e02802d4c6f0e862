"""The modes of an application: a tree whose root is ``everywhere``."""

from collections.abc import Iterable, Mapping

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
        for name in self.parents:
            self._paths[name] = self._climb(name)

    def __contains__(self, name: object) -> bool:
        return name in self._paths

    def path(self, mode: str) -> tuple[str, ...]:
        """``mode``, what it lies inside, and so on out to ``everywhere``."""
        return self._paths[mode]

    def within(self, mode: str) -> tuple[str, ...]:
        """``mode`` and all that lies inside it, in the order of the application."""
        return tuple(name for name in self.names if mode in self._paths[name])

    def inside(self, modes: Iterable[str]) -> tuple[str, ...]:
        """``modes`` and all that lies inside them, each once, in the order of the application."""
        wanted = {inner for mode in modes for inner in self.within(mode)}
        return tuple(mode for mode in self.names if mode in wanted)

    def outermost(self, modes: Iterable[str]) -> tuple[str, ...]:
        """``modes`` without those that lie inside another of them."""
        modes = tuple(modes)
        return tuple(mode for mode in modes if not set(self.path(mode)[1:]) & set(modes))

    def phrase(self, modes: Iterable[str]) -> str:
        """Where ``modes`` are, in words: ``everywhere``, or ``in draw and label``.

        A mode stands for what lies inside it where all of that is among ``modes``.

        >>> ModeTree({"draw": "everywhere", "vertex": "draw"}).phrase(["draw", "vertex"])
        'in draw'
        """
        modes = tuple(modes)
        whole = [mode for mode in modes if set(self.within(mode)) <= set(modes)]
        if ROOT in whole:
            return ROOT
        named = [mode for mode in modes if mode not in whole or mode in self.outermost(whole)]
        parts = [f"{mode} itself" if mode not in whole else mode for mode in named]
        return "in " + " and ".join(filter(None, [", ".join(parts[:-1]), *parts[-1:]]))

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
