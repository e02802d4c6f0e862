"""The examples in docstrings hold, in every room that neither asks nor prints."""

import doctest
import pkgutil
from importlib import import_module

import pytest

import olive_compass

ROOMS = ("core", "desk", "drawing", "standin")
MODULES = [
    info.name
    for info in pkgutil.walk_packages(olive_compass.__path__, "olive_compass.")
    if info.name.split(".")[1] in ROOMS
]


@pytest.mark.parametrize("room", ROOMS)
def test_the_examples_in_docstrings_hold(room: str) -> None:
    tried = 0
    for name in MODULES:
        if name.split(".")[1] == room:
            result = doctest.testmod(import_module(name))
            assert not result.failed, name
            tried += result.attempted
    assert tried > 0 or room == "standin"
