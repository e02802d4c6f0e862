"""Trays as commands, so that keys can open them."""

from olive_compass.core.apps.app import Command
from olive_compass.core.apps.marks import UNMARKED
from olive_compass.core.apps.trays import Tray, TrayKind
from olive_compass.structs import replace


def command_of(tray: Tray, kind: TrayKind | None) -> Command:
    """The tray as a command, for keys. One that is switched off is there and never enabled."""
    seen = kind is None or kind.opens != "key"
    menu = (f"{tray.kind.capitalize()}s",) if seen else ()
    marks = UNMARKED
    if tray.off:
        marks = replace(UNMARKED, never=True)
    does = f"Opens the {tray.kind} “{tray.title}”"
    return Command(
        id=tray.id,
        title=tray.title,
        menu=menu,
        keys=(),
        modes=(),
        kind="tray",
        does=does,
        line=1,
        marks=marks,
    )
