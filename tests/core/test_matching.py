"""Which command of a new version each of the old is: by id, by title, by what is likeliest."""

import pytest

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.core.sharing.recognising import match
from olive_compass.core.sharing.upgrading import put_back, upgrade
from olive_compass.desk.keyboards import load
from olive_compass.structs import replace


def pairs(old: tuple[Command, ...], new: tuple[Command, ...]) -> list[tuple[str, str, str]]:
    """The old id, the new id and by what they were matched, in the order of the answer."""
    found = match(Catalogue(old), Catalogue(new))
    return [(m.old.id if m.old else "", m.new.id if m.new else "", m.by) for m in found]


WALL = Command(
    id="wall", title="Draw quay wall", menu=("Draw",), keys=(key("F6"),), does="Draws a wall"
)


def test_the_same_id_is_the_same_command_while_anything_of_it_is_left() -> None:
    renamed = Command(id="wall", title="Draw harbour wall", menu=("Harbour",))
    assert pairs((WALL,), (renamed,)) == [("wall", "wall", "id")]
    moved = Command(id="wall", title="Something else", menu=("Draw",))
    assert pairs((WALL,), (moved,)) == [("wall", "wall", "id")]
    same_key = Command(id="wall", title="Something else", menu=("View",), keys=(key("F6"),))
    assert pairs((WALL,), (same_key,)) == [("wall", "wall", "id")]
    other = Command(id="wall", title="Zoom in", menu=("View",), keys=(key("F9"),))
    assert pairs((WALL,), (other,)) == [("", "wall", "id"), ("wall", "", "id")]


def test_a_title_that_stands_once_on_either_side_is_the_same_command() -> None:
    again = Command(id="quay-1", title="Draw Quay wall", menu=("Tools",))
    assert pairs((WALL,), (again,)) == [("wall", "quay-1", "title")]
    twins = (
        again,
        Command(id="quay-2", title="Draw quay wall", menu=("Draw",), does="Draws a wall"),
    )
    found = pairs((WALL,), twins)
    # Of twins the likelier one is it, and by more than the title.
    assert ("wall", "quay-2", "title and menu and what it does") in found
    assert ("", "quay-1", "id") in found


def test_the_likeliest_is_matched_and_the_others_are_new() -> None:
    near = Command(id="a", title="Draw quay walls", menu=("Draw",), keys=(key("F6"),))
    far = Command(id="b", title="Draw the quay", menu=("Draw",), does="Draws a wall")
    found = pairs((WALL,), (far, near))
    assert len([one for one in found if one[0] == "wall"]) == 1
    assert len(found) == 2
    two = (WALL, Command(id="gate", title="Draw quay gate", menu=("Draw",), does="Draws a gate"))
    news = (
        Command(id="x", title="Draw a wall on the quay", menu=("Draw",), does="Draws a wall"),
        Command(id="y", title="Draw a gate on the quay", menu=("Draw",), does="Draws a gate"),
        Command(id="z", title="Draw a quay", menu=("Draw",)),
    )
    assert [one[:2] for one in pairs(two, news)] == [("wall", "x"), ("gate", "y"), ("", "z")]


def test_only_what_is_the_same_speaks_for_a_match() -> None:
    elsewhere = Command(id="q", title="Draw quay walls", menu=("View",), does="Draws a wall")
    assert pairs((WALL,), (elsewhere,)) == [("wall", "q", "title and what it does")]
    without = replace(WALL, menu=(), does="")
    walls = Command(id="q", title="Draw quay walls", menu=(), keys=(key("F6"),))
    assert pairs((without,), (walls,)) == [("wall", "q", "title and keys")]


def test_the_score_is_of_title_menu_keys_and_what_it_does() -> None:
    def score(**changes: object) -> float:
        new = replace(WALL, **{"id": "q", "title": "Draw quay walls", **changes})  # type: ignore[arg-type]
        (found,) = match(Catalogue((WALL,)), Catalogue((new,)))
        return found.score

    keyless = score(does="", menu=("View",), keys=(key("F6"),))
    assert keyless == pytest.approx(0.6 * 2 / 3 + 0.3, abs=0.01)
    assert score(does="", keys=(key("F6"),)) == pytest.approx(keyless + 0.2, abs=0.01)
    assert score(keys=(), menu=("View",)) == pytest.approx(0.6 * 2 / 3 + 0.4, abs=0.01)
    assert score(keys=(key("F6"),)) == 0.99
    # In two places: 0.6 times two of seven words, with the menu and what it does.
    assert score(title="Draw one two three", keys=()) == 0.77


def test_what_a_guard_keeps_and_does_now_is_said() -> None:
    board = load("", "pc", "ansi-104", "us")
    gate = Command(id="gate", title="Open gate", menu=("Draw",), keys=(key("F7"),))
    app = App(
        name="app",
        title="App",
        version="1",
        modes=ModeTree({}),
        rules=Rules(),
        catalogue=Catalogue((WALL, gate)),
    )
    guards = {key(run): Decision(why="mine") for run in ("F6", "F7", "F8")}
    scheme = Scheme(app="app", name="mine", guard=guards)
    new = Catalogue((replace(WALL, keys=(key("F7"),)), replace(gate, keys=(key("F8"),))))
    found = upgrade(Stack(app, (scheme,)), new, "2", board)
    assert {v.subject: v.says for v in found.verdicts if v.table == "guard"} == {
        "F6": "it was “Draw quay wall” and is nothing now",
        "F7": "it was “Open gate” and is “Draw quay wall” now",
        "F8": "it was nothing and is “Open gate” now",
    }


def test_a_bare_command_is_kept_from_its_new_keys() -> None:
    gate = Command(id="gate", title="Open gate", menu=("Tools",), keys=(key("F7"),))
    app = App(
        name="app",
        title="App",
        version="1",
        modes=ModeTree({}),
        rules=Rules(),
        catalogue=Catalogue((WALL, gate)),
    )
    scheme = Scheme(
        app="app", name="mine", keyless=dict.fromkeys(("wall", "gate", "odd"), Decision(why="no"))
    )
    new = Catalogue((replace(WALL, keys=(key("F6"), key("F9"))),))
    found = upgrade(Stack(app, (scheme,)), new, "2", load("", "pc", "ansi-104", "us"))
    assert [(v.subject, v.what, v.says) for v in found.verdicts] == [
        ("wall", "holds", "it also keeps F9 from it now"),
        ("gate", "command gone", "Open gate is not in the new version"),
        ("odd", "command gone", "odd is not in the new version"),
    ]


def test_a_bare_command_that_only_the_new_version_has_holds() -> None:
    app = App(
        name="app",
        title="App",
        version="1",
        modes=ModeTree({}),
        rules=Rules(),
        catalogue=Catalogue((WALL,)),
    )
    scheme = Scheme(app="app", name="mine", keyless={"gate": Decision(why="later")})
    gate = Command(id="gate", title="Open gate", menu=("Draw",), keys=(key("F7"),))
    found = upgrade(
        Stack(app, (scheme,)), Catalogue((WALL, gate)), "2", load("", "pc", "ansi-104", "us")
    )
    assert [(v.table, v.subject, v.what, v.says) for v in found.verdicts] == [
        ("keyless", "gate", "holds", "")
    ]


@pytest.mark.parametrize("title", ["Zoom in", "The of and", ""])
def test_what_has_nothing_in_common_is_no_match(title: str) -> None:
    new = Command(id="n", title=title, menu=("View",))
    assert pairs((WALL,), (new,)) == [("", "n", "id"), ("wall", "", "id")]


def test_what_happened_to_a_command_is_told() -> None:
    def what(**changed: object) -> tuple[str, ...]:
        (found,) = match(Catalogue((WALL,)), Catalogue((replace(WALL, **changed),)))  # type: ignore[arg-type]
        return found.what

    assert what() == ()
    assert what(title="Draw harbour wall") == ("renamed",)
    assert what(menu=("Harbour",)) == ("other menu",)
    assert what(keys=(key("F7"),)) == ("keys moved",)
    assert what(modes=("draw",)) == ("other modes",)
    assert what(title="Draw walls", keys=()) == ("renamed", "keys moved")
    gone, new = match(
        Catalogue((WALL,)), Catalogue((Command(id="zoom", title="Zoom", menu=("View",)),))
    )
    assert (gone.what, new.what) == (("new",), ("withdrawn",))


def test_the_new_catalogue_has_each_command_once_under_the_id_that_decisions_name() -> None:
    old = (
        WALL,
        Command(id="zoom", title="Zoom in", menu=("View",), keys=(key("F9"),)),
        Command(id="tide", title="Tide"),
    )
    new = (
        Command(id="quay-wall", title="Draw quay wall", menu=("Draw",), keys=(key("F6"),)),
        # The id of another command of old, which lives on under it.
        Command(id="wall", title="Paint the fence", menu=("Tools",), keys=(key("F2"),)),
        Command(id="fresh", title="Fresh", menu=("Tools",)),
    )
    app = App(
        name="a",
        title="A",
        version="1",
        modes=ModeTree({}),
        rules=Rules(),
        catalogue=Catalogue(old),
    )
    mine = Scheme(app="a", name="mine", keyless={"zoom": Decision(why="by the wheel")})
    found = upgrade(Stack(app, (mine,)), Catalogue(new), "2", load("", "pc", "ansi-104", "us"))
    commands = [(c.id, c.title, c.marks.withdrawn) for c in found.app.catalogue.commands]
    assert commands == [
        ("wall", "Draw quay wall", False),
        ("wall-new", "Paint the fence", False),
        ("fresh", "Fresh", False),
        ("zoom", "Zoom in", True),
    ]
    assert found.app.version == "2"
    assert found.app.catalogue.by_id["zoom"].keys == ()
    # What no decision names is gone with the old version.
    assert "tide" not in found.app.catalogue.by_id


def test_keys_that_moved_are_put_back_where_nobody_has_decided_since() -> None:
    zoom = Command(
        id="zoom", title="Zoom in", menu=("View",), keys=(key("F9"), key("F10")), modes=("draw",)
    )
    tree = ModeTree({"draw": "everywhere"})
    board = load("", "pc", "ansi-104", "us")
    app = App(
        name="a",
        title="A",
        version="1",
        modes=tree,
        rules=Rules(),
        catalogue=Catalogue((WALL, zoom)),
    )
    new = (
        Command(id="fresh", title="Fresh", menu=("Tools",), keys=(key("F6"),)),
        replace(WALL, keys=(key("F7"),)),
        replace(zoom, keys=(key("F10"), key("F12"))),
    )
    mine = Scheme(
        app="a",
        name="mine",
        assign={"fresh": (Assignment(keys=(key("F9"),), modes=("everywhere",)),)},
    )
    found = upgrade(Stack(app, (mine,)), Catalogue(new), "2", board)
    keymap = Keymap(Stack(found.app, (mine,)), board)
    after = put_back(mine, found, app, keymap)
    # F6 comes back in front of the newcomer; F9 is the person's by now; F10 never went.
    assert {c: [str(k) for a in each for k in a.keys] for c, each in after.assign.items()} == {
        "fresh": ["F9"],
        "wall": ["F6"],
    }
    (given,) = after.assign["wall"]
    assert (given.modes, given.why) == (("everywhere",), "as in 1")
    unasked = put_back(Scheme(app="a", name="mine"), found, app, Keymap(Stack(found.app), board))
    assert unasked.assign["zoom"][0].modes == ("draw",)
