"""The keys of a list that a person keeps, as decisions on the commands of an application."""

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.changes.own_list import own_list
from olive_compass.core.keys.reading import read_trigger as key

COMMANDS = (
    Command(id="undo", title="Undo", keys=(key("Ctrl+Z"),)),
    Command(id="all", title="Select all", menu=("Edit",)),
    Command(id="arc", title="Arc", modes=("draw",)),
)
APP = App(
    name="app",
    title="App",
    version="1",
    modes=ModeTree({"draw": "everywhere", "vertex": "draw"}),
    rules=Rules(),
    catalogue=Catalogue(COMMANDS),
)


def listed(*rows: Command) -> Catalogue:
    return Catalogue(rows)


def test_a_key_counts_where_its_row_says_or_where_its_command_can_be_used() -> None:
    found = own_list(
        APP,
        listed(
            Command(id="1", title="undo", keys=(key("F1"), key("F2"))),
            Command(id="2", title="Arc", keys=(key("A"),)),
            Command(id="3", title="Select all", keys=(key("F3"),), modes=("vertex", "nowhere")),
        ),
    )
    assert found.keys == {
        "undo": {"everywhere": (key("F1"), key("F2"))},
        "arc": {"draw": (key("A"),)},
        "all": {"vertex": (key("F3"),)},
    }
    assert (found.likely, found.unknown) == ((), ())


def test_what_is_only_like_a_command_is_named_and_what_is_none_is_left_out() -> None:
    found = own_list(
        APP,
        listed(
            Command(id="x", title="Select all things", menu=("Edit",), keys=(key("F3"),)),
            Command(id="y", title="Weave cloth", keys=(key("F4"),)),
            Command(id="z", title="Arc"),
        ),
    )
    assert found.keys == {"all": {"everywhere": (key("F3"),)}}
    assert [(each.old, each.new and each.new.id) for each in found.likely] == [(COMMANDS[1], "x")]
    assert [each.title for each in found.unknown] == ["Weave cloth"]
