"""The examples in docstrings hold."""

import doctest
from importlib import import_module
from importlib.resources import files
from pathlib import Path

import pytest

ROOT = Path(str(files("olive_compass")))

#: The modules that show an example.
SHOWN = [
    ".".join(("olive_compass", *path.relative_to(ROOT).with_suffix("").parts))
    for path in sorted(ROOT.rglob("*.py"))
    if ">>> " in path.read_text("utf-8")
]


@pytest.mark.parametrize("name", SHOWN)
def test_the_examples_in_docstrings_hold(name: str) -> None:
    result = doctest.testmod(import_module(name.removesuffix(".__init__")))
    assert result.attempted
    assert not result.failed
