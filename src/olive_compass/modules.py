"""Finds the modules of a folder of the program, so that a new file there is all it takes."""

from collections.abc import Iterable
from glob import glob


def module_names(package_path: Iterable[str]) -> list[str]:
    """The names of the modules in a package's ``__path__``, sorted; packages in it are left out."""
    found = (name for folder in package_path for name in glob("[!_]*.py", root_dir=folder))
    return sorted(name.removesuffix(".py") for name in found)
