"""Edges that are easily off by one: what is locked, what is carried along, which character a key types."""

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.keys.layouts import layout_from_lines
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.core.schemes.traits import firm_on
from olive_compass.core.sharing.upgrading import upgrade
from olive_compass.desk.keyboards import load

BOARD = load("", "pc", "ansi-104", "us")


def keymap(**rules: object) -> Keymap:
    app = App(
        name="a",
        title="A",
        version="1",
        modes=ModeTree({}),
        rules=Rules(**rules),
        catalogue=Catalogue(()),
    )  # type: ignore[arg-type]
    return Keymap(Stack(app, (), {key("Meta+L"): "locks the screen"}), BOARD)


def test_what_is_firm_is_told_once_and_whether_a_run_begins_with_it() -> None:
    map_ = keymap(reserved={key("F1"): "its help"}, longest_sequence=3, typed_sequences=True)
    assert [(f.claim.wired, f.begins) for f in firm_on(map_, key("F1"))] == [("its help", False)]
    assert [(f.claim.wired, f.begins) for f in firm_on(map_, key("F1 A B"))] == [("its help", True)]
    assert [f.claim.wired for f in firm_on(map_, key("Meta+L"))] == ["locks the screen"]
    assert firm_on(map_, key("A F1")) == [], "only how it begins"
    assert firm_on(map_, key("F2")) == []


def test_every_withdrawn_command_that_a_decision_names_stays() -> None:
    old = tuple(
        Command(id=f"c{n}", title=f"Old {word}", menu=("Plants",))
        for n, word in enumerate(("moss", "fern", "reed"))
    )
    app = App(
        name="a",
        title="A",
        version="1",
        modes=ModeTree({}),
        rules=Rules(),
        catalogue=Catalogue(old),
    )
    scheme = Scheme(
        app="a",
        name="mine",
        assign={"c0": (Assignment(keys=(key("F2"),)),)},
        keyless={"c2": Decision(why="costly")},
    )
    listed = Catalogue((Command(id="new", title="Quite other"), Command(id="c9", title="Another")))
    after = upgrade(Stack(app, (scheme,)), listed, "2", BOARD).app.catalogue
    assert [(c.id, c.marks.withdrawn, c.keys) for c in after.commands] == [
        ("new", False, ()),
        ("c9", False, ()),
        ("c0", True, ()),
        ("c2", True, ()),
    ]
    again = upgrade(
        Stack(app, (scheme,)), Catalogue((Command(id="c0", title="Stone"),)), "2", BOARD
    )
    ids = [c.id for c in again.app.catalogue.commands]
    assert ids == ["c0-new", "c0", "c2"], "an id that was another command's is not taken over"


def test_letters_of_a_layout_are_found_in_lower_case_where_that_is_one_character() -> None:
    layout = layout_from_lines("x", "X", "KeyA a A\nKeyB İ ß\nKeyC ẞ Ä\n")
    ways = layout.ways
    assert set(ways) == {"a", "İ", "ß", "ä"}
    assert [(way.code, way.level) for way in ways["ß"]] == [("KeyC", 0), ("KeyB", 1)]
    assert [(way.code, way.level) for way in ways["a"]] == [("KeyA", 0)]
    # Keys that type nothing, and those of the pad, are passed over; what comes after them counts.
    ways = layout_from_lines("x", "X", "Numpad1 1\nKeyA none A\nKeyB b B\n").ways
    assert {char: [(w.code, w.level) for w in each] for char, each in ways.items()} == {
        "a": [("KeyA", 1)],
        "b": [("KeyB", 0)],
    }
    assert layout.typed("KeyC", 1) == "Ä"
    assert layout.typed("KeyC", 5) == ""
