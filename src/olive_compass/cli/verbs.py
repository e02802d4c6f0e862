"""The parts of a command's module, and the verbs of a command.

A command that has verbs lists them as ``VERBS``. Only the verb that was typed gets its options, and only its module is
loaded.
"""

import argparse
from collections.abc import Callable
from importlib import import_module
from typing import TYPE_CHECKING, Any

from msgspec import Struct

from olive_compass.cli.changing.saving import retry_on_conflict
from olive_compass.cli.options import typed
from olive_compass.cli.surroundings import Surroundings

if TYPE_CHECKING:
    from typing import Protocol

    class CommandModule(Protocol):
        """What a module of ``cli/commands`` holds."""

        GROUP: str
        ORDER: int
        SUMMARY: str
        EXAMPLES: str

        def add_arguments(self, parser: argparse.ArgumentParser) -> None: ...

        #: Its first argument is a record of options, or the parsed line where another function has the record.
        run: Callable[[Any, Surroundings], int]

        #: Instead of the two above, what it has where it does several things.
        VERBS: "tuple[Verb, ...]"


class Verb(Struct, frozen=True, kw_only=True):
    """A verb of a command.

    ``work`` names the function that does it by its module below ``cli``: ``sharing.keysets.list_sets``. ``options`` is
    the function that declares its options, or the name of one in the same module. ``retries``: it is run again if someone
    else changed the desk in the meantime.
    """

    name: str
    help: str
    options: Callable[[argparse.ArgumentParser], None] | str
    work: str
    aliases: tuple[str, ...] = ()
    retries: bool = True

    @property
    def names(self) -> tuple[str, ...]:
        """What it may be called on the command line."""
        return (self.name, *self.aliases)

    def add_options(self, parser: argparse.ArgumentParser) -> None:
        """Gives ``parser`` the options of the verb."""
        declare = self.options
        if isinstance(declare, str):
            declare = self._beside(declare)
        declare(parser)

    def run(self, args: argparse.Namespace, context: Surroundings) -> int:
        """Does it, and returns the exit status."""
        work = typed(self._beside(self.work.rpartition(".")[2]))
        if not self.retries:
            return work(args, context)
        return retry_on_conflict(lambda: work(args, context), context)

    def _beside(self, function: str) -> Callable[..., Any]:
        """A function of the module that does the work."""
        module = import_module(f"olive_compass.cli.{self.work.rpartition('.')[0]}")
        found: Callable[..., Any] = vars(module)[function]
        return found
