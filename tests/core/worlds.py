"""Random desks for properties: modes as trees, all rules, all layers, runs, mutes, bares, guards."""

from collections.abc import Iterable, Sequence
from itertools import permutations
from typing import Any

from hypothesis import strategies as st

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.marks import read_marks
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import DUPLICATES, TAKES, Rules
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.devices import Device
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.core.schemes.layers import HOUSE, PERSONAL, PROJECT, Layer
from olive_compass.desk.keyboards import load

MODES = {"draw": "everywhere", "vertex": "draw", "label": "everywhere"}
NAMES = ("everywhere", *MODES)
COMMANDS = ("one", "two", "three", "four", "five")

PEDAL = Device(name="pedal", title="Foot pedal", rows=(("left", "middle", "right"),), hand="foot")

#: A US board with a pedal, a German laptop with AltGr, and a Mac.
KEYBOARDS = (
    load("", "pc", "ansi-104", "us", {"pedal": PEDAL}),
    load("", "pc", "iso-laptop", "german"),
    load("", "mac", "iso-105", "french"),
)

TRIGGERS: tuple[Run, ...] = tuple(
    map(
        read_trigger,
        (
            "A",
            "A B",
            "A B C",
            "B",
            "Space",
            "F6",
            "F7",
            "Ctrl+A",
            "Main+S",
            "Ctrl+#",
            "Ctrl+Shift+3",
            "Ctrl+Alt+Q",
            "Alt+F",
            "Escape",
            "Num5",
            "swipe:N",
            "swipe:NE",
            "Ctrl+@KeyA",
            "Ctrl+K Ctrl+S",
            "tap:Alt",
            "tap:Shift*2",
            "hold:Space",
            "hold:A",
            "Ctrl+wheel:up",
            "mouse:4*2",
            "mouse:4",
            "pedal:left",
        ),
    )
)

triggers = st.sampled_from(TRIGGERS)
MODE_SETS = [each for n in (1, 2) for each in permutations(NAMES, n)]
#: One or two triggers, as often the one as the other. All is laid out to be chosen from in one draw: drawn
#: piece by piece, a desk takes longer to make than to ask.
KEYS = [*permutations(TRIGGERS, 2), *permutations(TRIGGERS, 1)]
KEYS += [*permutations(TRIGGERS, 1)] * (len(TRIGGERS) - 2)
some_keys = st.sampled_from([*KEYS, *[()] * (len(KEYS) // 2)])
some_modes = st.sampled_from(MODE_SETS)


def perhaps(keys: Iterable[Any], values: Sequence[Any]) -> st.SearchStrategy[Any]:
    """A table of one entry, or as often an empty one."""
    full = [{key: value} for key in keys for value in values]
    return st.sampled_from([*full, *[{}] * len(full)])


@st.composite
def assignments(draw: st.DrawFn) -> Assignment:
    return Assignment(
        keys=draw(st.sampled_from(KEYS)),
        modes=draw(some_modes),
        why="",
        slot="",
        instead=draw(st.sampled_from([True, *[False] * 5])),
    )


DECISIONS = [Decision(why="x", modes=modes) for modes in MODE_SETS]
bares = perhaps(COMMANDS, DECISIONS)
of_triggers = perhaps(TRIGGERS, DECISIONS)
wired = perhaps(TRIGGERS, ["is wired"])


@st.composite
def schemes(draw: st.DrawFn, name: str, layer: Layer) -> Scheme:
    entries = st.lists(assignments(), min_size=1, max_size=2).map(tuple)
    return Scheme(
        app="app",
        name=name,
        layer=layer,
        assign=draw(st.dictionaries(st.sampled_from(COMMANDS), entries, max_size=2)),
        keyless=draw(bares),
        mute=draw(of_triggers),
        guard=draw(of_triggers),
    )


#: Half of the commands have none.
MARKS = [
    *([()] * 6),
    *((word,) for word in ("irreversible", "often", "withdrawn", "fixed", "needs:sky", "never")),
]


@st.composite
def commands(draw: st.DrawFn, name: str) -> Command:
    menu = draw(st.sampled_from([(), ("File",), ("Edit", "More")]))
    letters = ("F", *("M" for _ in menu[1:]), name[0].upper()) if menu else ()
    return Command(
        id=name,
        title=name.title() + " thing",
        menu=menu,
        keys=draw(some_keys),
        modes=draw(st.sampled_from([*MODE_SETS, *[()] * len(MODE_SETS)])),
        marks=read_marks(draw(st.sampled_from(MARKS))),
        access=letters if draw(st.booleans()) else (),
    )


@st.composite
def rules(draw: st.DrawFn) -> Rules:
    return Rules(
        duplicates=draw(st.sampled_from(DUPLICATES)),
        longest_sequence=draw(st.sampled_from([1, 2, 4])),
        typed_sequences=draw(st.booleans()),
        fold_pad=draw(st.booleans()),
        swipes=draw(st.sampled_from([{}, {"draw": 4}, {"everywhere": 8, "label": 6}])),
        most_keys=draw(st.sampled_from([0, 0, 1, 2])),
        modifiers=draw(st.sampled_from([None, None, ("Ctrl", "Shift"), ("Main",)])),
        plain_keys=draw(st.sampled_from(["all", "all", "named", "none"])),
        can_mute=draw(st.booleans()),
        text_modes=draw(st.sampled_from([(), ("label",), ("vertex",)])),
        reserved=draw(wired),
        unlisted=draw(wired),
        licences={"sky": draw(st.booleans())},
        takes=draw(st.sampled_from([(), TAKES, TAKES])),
    )


@st.composite
def views(draw: st.DrawFn) -> AppView:
    """An application with schemes of up to three layers, the personal one always there."""
    catalogue = Catalogue(tuple(draw(commands(name)) for name in COMMANDS))
    app = App(
        name="app",
        title="App",
        version="1",
        modes=ModeTree(MODES),
        rules=draw(rules()),
        catalogue=catalogue,
    )
    stack = [draw(schemes("mine", PERSONAL))]
    if draw(st.booleans()):
        stack.append(draw(schemes("house", HOUSE)))
    if draw(st.integers(0, 3)) == 0:
        stack.insert(0, draw(schemes("here", PROJECT)))
    system = draw(wired)
    return AppView(Stack(app, tuple(stack), system), draw(st.sampled_from(KEYBOARDS)))
