"""The tours of the demo, as ``data/tour.toml`` has them: the ten first steps, and the whole."""

import shlex
from functools import cache
from importlib.resources import files

import msgspec.toml


class Scene(msgspec.Struct, frozen=True):
    """What a scene says (``""``: it goes with the one before), and the command that it runs."""

    run: str
    says: str = ""

    @property
    def words(self) -> tuple[str, ...]:
        return tuple(shlex.split(self.run))


class Tours(msgspec.Struct, frozen=True):
    """Both tours, scene by scene."""

    first: tuple[Scene, ...]
    whole: tuple[Scene, ...]


@cache
def tours() -> Tours:
    """The tours that come with the program."""
    data = (files("olive_compass.data") / "tour.toml").read_bytes()
    return msgspec.toml.decode(data, type=Tours)
