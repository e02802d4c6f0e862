"""The examples in docstrings hold."""

import doctest
import pkgutil
from importlib import import_module
from itertools import groupby

import pytest

import olive_compass

#: The modules of each room, and those beside the rooms.
ROOMS = {
    room: list(names)
    for room, names in groupby(
        sorted(
            info.name
            for info in pkgutil.walk_packages(olive_compass.__path__, "olive_compass.")
            if not info.name.endswith("__main__")
        ),
        key=lambda name: name.split(".")[1],
    )
}


@pytest.mark.parametrize("room", ROOMS)
def test_the_examples_in_docstrings_hold(room: str) -> None:
    for name in ROOMS[room]:
        assert not doctest.testmod(import_module(name)).failed, name
