"""What an application's own file is to say, and what somebody changed in it over there."""

from types import MappingProxyType

from olive_compass.core.schemes.decisions import Decision
from olive_compass.core.sharing.delivering import (
    NO_MODE,
    Moved,
    alike,
    factory_by_mode,
    moved,
    only_changes,
    ordered,
    wanted_by_mode,
)
from tests.core.test_schemes import APP, key, keymap, on, scheme


def test_each_command_has_its_keys_in_the_modes_in_which_they_work() -> None:
    mine = keymap(scheme(assign={"join": on("F7", modes=("vertex",)), "save": on("F8")}))
    found = wanted_by_mode(mine, with_modes=True)
    assert found["join"] == {"draw": (key("J"),), "vertex": (key("F7"),)}
    assert found["save"] == {"everywhere": (key("F8"), key("Ctrl+S"))}
    assert found["burn"] == {}
    whole = wanted_by_mode(mine, with_modes=False)
    assert whole["join"] == {NO_MODE: (key("F7"), key("J"))}
    assert whole["burn"] == {NO_MODE: ()}


def test_a_key_that_is_taken_in_a_mode_is_wanted_in_the_others_only() -> None:
    mine = keymap(scheme(assign={"burn": on("J", modes=("vertex",))}))
    found = wanted_by_mode(mine, with_modes=True)
    assert found["burn"] == {"vertex": (key("J"),)}
    assert found["join"] == {"draw": (key("J"),)}
    keyless = keymap(scheme(keyless={"save": Decision(why="by the menu")}))
    assert wanted_by_mode(keyless, with_modes=True)["save"] == {}


def test_a_mute_by_a_command_that_is_never_enabled_is_a_key_of_that_command() -> None:
    mute = {key("F6"): Decision(why="too near", never="burn")}
    found = wanted_by_mode(keymap(scheme(mute=mute)), with_modes=True)
    assert found["burn"] == {"everywhere": (key("F6"),)}
    assert found["split"] == {"draw": (key("S P"),)}


def test_the_keys_of_nearer_layers_come_first() -> None:
    mine = keymap(scheme(assign={"save": on("F9", "F8")}))
    runs = [key("Ctrl+S"), key("F8"), key("F9"), key("Alt+Z"), key("Alt+B")]
    assert [str(run) for run in ordered(mine, "save", runs)] == [
        "F9",
        "F8",
        "Ctrl+S",
        "Alt+B",
        "Alt+Z",
    ]


def test_the_factory_has_its_keys_in_the_modes_of_the_command() -> None:
    found = factory_by_mode(APP, with_modes=True)
    assert found["split"] == {"draw": (key("S P"), key("F6"))}
    assert found["save"] == {"everywhere": (key("Ctrl+S"),)}
    assert found["burn"] == {}
    assert factory_by_mode(APP, with_modes=False)["split"] == {NO_MODE: (key("S P"), key("F6"))}


def test_a_file_of_changes_says_nothing_of_what_is_as_usual() -> None:
    usual = {"a": {"draw": (key("A"), key("B"))}, "b": {"draw": (key("C"),)}}
    wanted = {
        "a": {"draw": (key("B"), key("A"))},
        "b": {"label": (key("C"),)},
        "c": {"draw": (key("D"),)},
    }
    assert only_changes(wanted, usual) == {
        "a": None,
        "b": {"draw": (), "label": (key("C"),)},
        "c": {"draw": (key("D"),)},
    }
    assert alike({"draw": ()}, {})
    assert not alike({"draw": (key("A"),)}, {"label": (key("A"),)})


def test_what_was_changed_over_there_is_told_mode_by_mode() -> None:
    before = {"a": {"draw": (key("A"), key("B"))}, "b": {"draw": (key("C"),)}}
    now = {
        "a": {"draw": (key("B"), key("A")), "label": (key("F6"),)},
        "c": {"draw": (key("D"),)},
    }
    assert moved(before, now) == [
        Moved(command="a", mode="label", was=(), now=(key("F6"),)),
        Moved(command="b", mode="draw", was=(key("C"),), now=()),
        Moved(command="c", mode="draw", was=(), now=(key("D"),)),
    ]
    assert moved(before, MappingProxyType(before)) == []
