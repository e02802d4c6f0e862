"""What two sides say otherwise: key sets, macros, purposes, catalogues, schemes."""

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.marks import read_marks
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.apps.trays import Group, Tray
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.macros.macro import Macro, Step
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.core.sharing.comparing import (
    Difference,
    compare_catalogues,
    compare_keysets,
    compare_macros,
    compare_purposes,
    compare_trays,
)
from olive_compass.core.sharing.comparing_schemes import compare_schemes, factory_scheme
from olive_compass.core.sharing.keysets import Entry, KeySet
from olive_compass.core.sharing.purposes import Purpose, Purposes
from olive_compass.structs import replace


def told(found: list[Difference]) -> list[tuple[str, ...]]:
    return [(d.what, d.table, d.subject, d.before, d.after) for d in found]


def test_key_sets_differ_by_purpose() -> None:
    before = KeySet(
        "k",
        keys={
            "gone": Entry((key("F1"),)),
            "moved": Entry((key("F2"), key("F3"))),
            "why": Entry((key("F4"),), "old"),
            "alike": Entry((key("F5"),), "same"),
            "one": Entry((key("F6"),)),
            "other": Entry((key("F7"),)),
        },
    )
    after = KeySet(
        "k",
        keys={
            "new": Entry((key("F8"),), "fresh"),
            "moved": Entry((key("F3"), key("F2"))),
            "why": Entry((key("F4"),), "new"),
            "alike": Entry((key("F5"),), "same"),
            "one": Entry((key("F7"),)),
            "other": Entry((key("F6"),)),
        },
    )
    found = compare_keysets(before, after)
    assert sorted(told(found)) == [
        ("gone", "keys", "gone", "F1", ""),
        ("moved", "keys", "moved", "F2, F3", "F3, F2"),
        ("new", "keys", "new", "", "F8"),
        ("reason changed", "keys", "why", "old", "new"),
        ("swapped", "keys", "one", "F6", "F7"),
        ("swapped", "keys", "other", "F7", "F6"),
    ]
    assert {d.subject: d.why for d in found}["new"] == "fresh"
    assert compare_keysets(before, before) == []


def test_macros_differ_by_what_they_do() -> None:
    light = Macro(
        app="app", name="light", title="Light", steps=(Step(command="place"), Step(command="save"))
    )
    same = replace(light, steps=(Step(command="place", origin=7), Step(command="save", origin=9)))
    assert compare_macros({"light": light}, {"light": same}) == []
    more = replace(light, steps=(*light.steps, Step(command="proof")))
    assert told(compare_macros({"light": light}, {"light": more})) == [
        ("changed", "macros", "light", "Light, 2 steps", "Light, 3 steps")
    ]
    renamed = replace(light, title="Lamp")
    assert told(compare_macros({"light": light}, {"light": renamed})) == [
        ("changed", "macros", "light", "Light, 2 steps", "Lamp, 2 steps")
    ]
    assert told(compare_macros({"light": light}, {"more": replace(more, name="more")})) == [
        ("new", "macros", "more", "", "Light, 3 steps"),
        ("gone", "macros", "light", "Light, 2 steps", ""),
    ]


def test_purposes_differ_by_what_serves_them() -> None:
    save = Purpose(
        id="save", title="Save", links={"app": ("file.save",), "zoo": ("a", "b")}, line=3
    )
    assert compare_purposes(Purposes([save]), Purposes([replace(save, line=9)])) == []
    other = replace(save, links={"app": ("file.keep",)})
    assert told(compare_purposes(Purposes([save]), Purposes([other]))) == [
        ("moved", "purposes", "save", "app: file.save, zoo: a b", "app: file.keep")
    ]
    risky = replace(save, title="Keep")
    assert [d.what for d in compare_purposes(Purposes([save]), Purposes([risky]))] == ["changed"]
    assert told(compare_purposes(Purposes([save]), Purposes())) == [
        ("gone", "purposes", "save", "app: file.save, zoo: a b", "")
    ]
    assert told(compare_purposes(Purposes(), Purposes([other]))) == [
        ("new", "purposes", "save", "", "app: file.keep")
    ]


def test_catalogues_differ_field_by_field() -> None:
    old = Command(id="cut", title="Cut", menu=("Edit",), keys=(key("Ctrl+X"),), modes=("text",))
    new = replace(
        old, menu=("Edit", "More"), keys=(), does="Takes it away", marks=read_marks(["often"])
    )
    found = compare_catalogues(
        Catalogue((old, Command(id="bin", title="Bin"))),
        Catalogue((new, Command(id="hat", title="Hat", menu=(), keys=(key("H"),)))),
    )
    assert told(found) == [
        ("moved", "factory keys", "cut", "Ctrl+X", "none"),
        ("changed", "menu", "cut", "Edit", "Edit > More"),
        ("changed", "does", "cut", "", "Takes it away"),
        ("changed", "marks", "cut", "", "often"),
        ("new", "commands", "hat", "", "Hat (H)"),
        ("gone", "commands", "bin", "Bin", ""),
    ]


def test_schemes_differ_decision_by_decision() -> None:
    def on(*keys: str, modes: tuple[str, ...] = ("everywhere",), why: str = "") -> Assignment:
        return Assignment(keys=tuple(map(key, keys)), modes=modes, why=why)

    before = Scheme(
        app="app",
        name="mine",
        assign={
            "a": (on("F1", why="x"),),
            "b": (on("F2"),),
            "c": (on("F3", why="old"),),
            "d": (on("F4"),),
        },
        keyless={"x": Decision(why="costly"), "y": Decision(why="old"), "z": Decision(why="same")},
        mute={key("F9"): Decision(why="slips", modes=("draw",))},
    )
    after = replace(
        before,
        assign={
            "a": (on("F1", why="x"),),
            "b": (on("F2", modes=("draw", "text")),),
            "c": (on("F3", why="new"),),
            "e": (on("F4"), on("F5", modes=("draw",), why="near")),
        },
        keyless={
            "y": Decision(why="new"),
            "z": Decision(why="same"),
            "w": Decision(why="", modes=("draw",)),
        },
        mute={key("F9"): Decision(why="slips")},
    )
    assert sorted(told(compare_schemes(before, after))) == sorted(
        [
            ("mode changed", "assign", "b", "F2", "F2 in draw, text"),
            ("reason changed", "assign", "c", "old", "new"),
            ("new", "assign", "e", "", "F4; F5 in draw"),
            ("gone", "assign", "d", "F4", ""),
            ("reason changed", "keyless", "y", "old", "new"),
            ("new", "keyless", "w", "", "yes in draw"),
            ("gone", "keyless", "x", "costly", ""),
            ("mode changed", "mute", "F9", "draw", "everywhere"),
        ]
    )
    assert {d.subject: d.why for d in compare_schemes(before, after)}["e"] == "near"


def test_trays_differ_by_what_stands_on_them_and_where() -> None:
    day = Tray(
        app="app",
        name="day",
        title="Day",
        layer="personal",
        kind="tab",
        groups=(Group("", ("undo",)),),
        why="daily",
    )
    evening = replace(day, name="evening", title="Evening", fill="last", most=5, off=True)
    more = replace(day, groups=(Group("", ("undo",)), Group("Lights", ("buoy", "beacon"))))
    found = compare_trays([day, evening], [more, replace(evening, layer="house")])
    assert told(found) == [
        (
            "changed",
            "trays",
            "day",
            "Day (tab, last); undo",
            "Day (tab, last); undo; Lights: buoy, beacon",
        ),
        ("new", "trays", "evening", "", "Evening (tab, last); off; 5 last; undo"),
        ("gone", "trays", "evening", "Evening (tab, last); off; 5 last; undo", ""),
    ]
    assert {d.why for d in found} == {"daily"}
    assert compare_trays([day], [day]) == []
    assert compare_trays([], []) == []


def test_orders_of_a_choice_differ_by_trigger() -> None:
    def scheme(**orders: tuple[str, ...]) -> Scheme:
        return Scheme(app="a", name="s", order={key(run): ids for run, ids in orders.items()})

    before = scheme(S=("a", "b"), G=("a", "b"), D=("a", "b"))
    after = scheme(N=("b", "a"), G=("b", "a"), D=("a", "b"))
    assert told(compare_schemes(before, after)) == [
        ("new", "order", "N", "", "b, a"),
        ("changed", "order", "G", "a, b", "b, a"),
        ("gone", "order", "S", "a, b", ""),
    ]
    assert compare_schemes(after, after) == []


def test_the_factory_as_a_scheme_has_the_modes_of_its_commands() -> None:
    commands = (
        Command(id="wall", title="Wall", keys=(key("F6"),), modes=("draw",)),
        Command(id="save", title="Save", keys=(key("F7"), key("F8"))),
        Command(id="none", title="None"),
    )
    app = App(
        name="app",
        title="App",
        version="1",
        modes=ModeTree({"draw": "everywhere"}),
        rules=Rules(),
        catalogue=Catalogue(commands),
    )
    assert factory_scheme(app).assign == {
        "wall": (Assignment(keys=(key("F6"),), modes=("draw",)),),
        "save": (Assignment(keys=(key("F7"), key("F8")), modes=("everywhere",)),),
    }


def test_what_lost_its_key_to_another_is_no_swap() -> None:
    one = KeySet("k", keys={"a": Entry(()), "b": Entry((key("F1"),))})
    other = KeySet("k", keys={"a": Entry((key("F1"),)), "b": Entry(())})
    assert [d.what for d in compare_keysets(one, other)] == ["moved", "moved"]
