"""What is said beside an answer: the routes that a key takes away, the name that was meant."""

import pytest

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.devices import Device
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.notations import NOTATIONS, InexpressibleError, show
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.schemes.claims import Stack, claims
from olive_compass.core.schemes.decisions import Decision, Scheme
from olive_compass.core.schemes.objections.menus import routes_by
from olive_compass.core.schemes.verdicts import verdict
from olive_compass.structs import replace

BUOY = Command(id="buoy", title="Mark a buoy", menu=("Draw",), access=("D", "B"))
QUAY = Command(id="quay", title="Draw the quay", menu=("Draw",), access=("D", "Q"))
OPEN = Command(id="open", title="Open", menu=("File",), access=("F", "O"))


def seen(*commands: Command) -> AppView:
    app = App(
        name="chart",
        title="Chart",
        version="1",
        modes=ModeTree({}),
        rules=Rules(),
        catalogue=Catalogue(commands),
    )
    return AppView(Stack(app), Keyboard("pc"))


def test_a_key_that_opens_a_menu_names_the_routes_that_go() -> None:
    view = seen(BUOY, QUAY, OPEN)
    assert routes_by(view, key("Alt+D")) == ("Mark a buoy", "Draw the quay")
    assert routes_by(view, key("Alt+F")) == ("Open",)
    assert routes_by(view, key("Alt+X")) == ()
    assert verdict(view, OPEN, key("Alt+D"), ("everywhere",)).has("menus")


def test_a_device_that_is_not_there_is_told_by_its_nearest_name() -> None:
    deck = Device(name="deck", title="Deck", rows=(("K1", "K2"),), hand="left")
    board = Keyboard("pc", devices={"deck": deck})
    missing = board.made(key("dekc:K1").strokes[0]).missing
    assert missing == "the desk has no device “dekc”; did you mean deck?"
    assert board.made(key("deck:K9").strokes[0]).missing.startswith("Deck has no control K9 (")
    assert board.made(key("deck:K2").strokes[0]).missing == ""


def test_what_a_pen_has_and_lacks() -> None:
    board = Keyboard(
        "pc", devices={"pen": Device(name="pen", title="Pen", rows=(("barrel",),), hand="right")}
    )
    missing = [board.made(key(f"pen:{part}").strokes[0]).missing for part in ("barrel", "eraser")]
    assert missing == ["", "the pen of this desk has no eraser"]
    assert "has no pen" in Keyboard("pc").made(key("pen:barrel").strokes[0]).missing


def test_a_run_is_written_only_where_a_notation_has_runs() -> None:
    board = Keyboard("pc")
    for notation in ("aria", "xdg"):
        with pytest.raises(InexpressibleError, match=f"{notation} has no sequences"):
            show(key("G D"), notation, board)
    others = [name for name in NOTATIONS if name not in ("aria", "xdg", "code")]
    assert others
    assert all(len(show(key("G D"), name, board).split(" ")) == 2 for name in others)


def test_layers_come_one_below_the_other() -> None:
    rules = Rules(unlisted={key("F9"): "prints"}, reserved={key("F10"): "opens the menus"})
    app = App(
        name="chart",
        title="Chart",
        version="1",
        modes=ModeTree({}),
        rules=rules,
        catalogue=Catalogue((replace(BUOY, keys=(key("B"),)),)),
    )
    scheme = Scheme(app="chart", name="mine", mute={key("F1"): Decision(why="slips")})
    found = list(claims(Stack(app, (scheme,), {key("F11"): "shows all windows"})))
    names = [str(claim.layer) for claim in found]
    assert names == ["system", "reserved", "personal", "factory", "unlisted", "menus"]
    ranks = [claim.rank for claim in found]
    assert ranks == sorted(set(ranks))
