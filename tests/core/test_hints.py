"""What is said beside an answer: the routes that a key takes away, the name that was meant."""

from olive_compass.core.apps.app import App, Catalogue, Command, Rules
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.devices import Device
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.verdicts import routes_by, verdict

BUOY = Command("buoy", "Mark a buoy", ("Draw",), access=("D", "B"))
QUAY = Command("quay", "Draw the quay", ("Draw",), access=("D", "Q"))
OPEN = Command("open", "Open", ("File",), access=("F", "O"))


def seen(*commands: Command) -> AppView:
    app = App("chart", "Chart", "1", ModeTree({}), Rules(), Catalogue(commands))
    return AppView(Stack(app), Keyboard("pc"))


def test_a_key_that_opens_a_menu_names_the_routes_that_go() -> None:
    view = seen(BUOY, QUAY, OPEN)
    assert routes_by(view, key("Alt+D")) == ("Mark a buoy", "Draw the quay")
    assert routes_by(view, key("Alt+F")) == ("Open",)
    assert routes_by(view, key("Alt+X")) == ()
    assert verdict(view, OPEN, key("Alt+D"), ("everywhere",)).menus


def test_a_device_that_is_not_there_is_told_by_its_nearest_name() -> None:
    deck = Device("deck", "Deck", (("K1", "K2"),), hand="left")
    board = Keyboard("pc", devices={"deck": deck})
    missing = board.made(key("dekc:K1").strokes[0]).missing
    assert missing == "the desk has no device “dekc”; did you mean deck?"
    assert board.made(key("deck:K9").strokes[0]).missing.startswith("Deck has no control K9 (")
    assert board.made(key("deck:K2").strokes[0]).missing == ""
