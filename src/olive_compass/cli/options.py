"""What commands are told: the options that many have, as values with types.

A command says in a record of its own what it takes; ``registry.typed`` makes it of the parsed line. Functions that
several commands share ask for what they need of such a record.
"""

from typing import TYPE_CHECKING

from msgspec import Struct


class Common(Struct, kw_only=True, forbid_unknown_fields=True):
    """What every command can be told; which verb of it was typed, where it has verbs."""

    verb: str = ""
    desk: str | None = None
    quiet: bool = False
    verbose: bool = False
    color: str | None = None


class ChangeOptions(Common, kw_only=True):
    """What commands can be told that change what keys do; some have not all of it."""

    scheme: str | None = None
    despite: list[str] = []
    if_taken: str | None = None
    yes: bool = False
    explain: bool = False
    dry_run: bool = False
    json: bool = False


if TYPE_CHECKING:
    from typing import Protocol

    from olive_compass.core.apps.listing_row import Groups, Headings

    class HasDesk(Protocol):
        """Which desk is meant."""

        desk: str | None

    class Writes(Protocol):
        """That a change can be only shown, and what is said of it be JSON."""

        dry_run: bool
        json: bool

    class GivesOut(Protocol):
        """In which form something is given out, and into which file."""

        form: str
        out: str | None

    class OnPaper(GivesOut, Protocol):
        """The same, and how it lies on paper."""

        paper: str | None
        landscape: bool
        size: float | None

    class ReadsListing(Protocol):
        """How a listing is read."""

        columns: list[str]
        pattern: str
        file_format: str
        groups: Groups | None
        headings: Headings | None
        spell: list[str]
