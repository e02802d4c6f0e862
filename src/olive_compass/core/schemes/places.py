"""Where a decision stands, so that a surface can name the file and the line."""

from typing import TYPE_CHECKING

from msgspec import Struct

from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.layers import FACTORY

if TYPE_CHECKING:
    from olive_compass.core.apps.trays import Tray


class Place(Struct, frozen=True):
    """A key of a table: of a scheme, or (``scheme`` empty) of the file of another layer."""

    scheme: str
    table: str
    key: str


def place(claim: Claim) -> Place:
    """Where a claim stands."""
    return Place(claim.origin, claim.table, claim.key)


def catalogue_place(command: str) -> Place:
    """Where a command stands in the catalogue."""
    return Place("", FACTORY.table, command)


def tray_place(tray: "Tray", item: str = "") -> Place:
    """Where a tray stands, or an item of it."""
    key = f"{tray.layer}.{tray.name}"
    return Place("", "tray", f"{key}#{item}" if item else key)


def step_place(macro: str, number: int = 0) -> Place:
    """Where a macro stands, or a step of it."""
    return Place("", "macro", f"{macro}#{number}" if number else macro)
