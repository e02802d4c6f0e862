"""A tray that is open at the simulator: its items, chosen by arrow, letter or number."""

from msgspec import Struct

from olive_compass.core.apps.app import App
from olive_compass.core.apps.trays import Tray
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.trays.filling import filled
from olive_compass.core.usage.tally import Tally
from olive_compass.counts import parse_count
from olive_compass.simulator.saying import ASKS, REMARK, TROUBLE, Line
from olive_compass.structs import replace


class OpenTray(Struct, frozen=True, kw_only=True):
    """A tray that is open, what is on it now, the item that the arrows are at, and what opened it."""

    tray: Tray
    items: tuple[str, ...]
    at: int = 0
    key: str = ""


class Pressed(Struct, frozen=True, kw_only=True):
    """What became of a press: ``starts`` is an item; ``left`` the tray as it is then, None: closed."""

    starts: str = ""
    left: OpenTray | None = None
    lines: tuple[Line, ...] = ()
    passed_on: bool = False


def opened(app: App, command: str, keymap: Keymap, tally: Tally, key: str) -> OpenTray | None:
    """The tray that a command opens, with what fills it by ``tally``; None: it is no tray of ours."""
    tray = next((each for each in app.trays if each.id == command), None)
    if tray is None:
        return None
    items = tray.items
    if tray.fill:
        items = tuple(each.item for each in filled(tray, tally, keymap))
    return OpenTray(tray=tray, items=items, at=0, key=key)


def listed(app: App, open_: OpenTray) -> list[Line]:
    """What is on it, by number."""
    if not open_.items:
        return [Line(REMARK, f"{open_.tray.title} is empty.")]
    text = f"{open_.tray.title}: number, letter, or arrows and Enter; Escape closes it"
    rows = [
        Line(ASKS, f"{'>' if n == open_.at else ' '} {n + 1:>2}  {app.shown(item)}")
        for n, item in enumerate(open_.items)
    ]
    return [Line(ASKS, text), *rows]


def pressed(app: App, open_: OpenTray, run: Run) -> Pressed:
    """What a press does while a tray is open. What is nothing to the tray closes it and is passed on."""
    key, items = str(run), open_.items
    if key == "Escape":
        return Pressed(lines=(Line(REMARK, f"{open_.tray.title} is closed."),))
    if key in ("Up", "Down") and items:
        there = replace(open_, at=(open_.at + (1 if key == "Down" else -1)) % len(items))
        return Pressed(left=there, lines=(Line(ASKS, f"> {app.shown(items[there.at])}"),))
    if key == "Enter" and items:
        return Pressed(starts=items[open_.at])
    number = parse_count(key.removeprefix("Num"))
    if 1 <= number <= len(items):
        return Pressed(starts=items[number - 1])
    if len(key) == 1 and key.isalpha():
        return _by_letter(app, open_, key)
    return Pressed(passed_on=True)


def _by_letter(app: App, open_: OpenTray, letter: str) -> Pressed:
    """What a letter does: the one item that begins with it starts; of several the next is looked at."""
    items = open_.items
    places = [n for n, item in enumerate(items) if app.shown(item)[:1].upper() == letter]
    if not places:
        lines = (Line(TROUBLE, f"Nothing on {open_.tray.title} begins with {letter}."),)
        return Pressed(left=open_, lines=lines)
    if len(places) == 1:
        return Pressed(starts=items[places[0]])
    there = replace(open_, at=next((n for n in places if n > open_.at), places[0]))
    return Pressed(left=there, lines=(Line(ASKS, f"> {app.shown(items[there.at])}"),))
