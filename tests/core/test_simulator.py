"""The simulator without a terminal: what a press leads to, what is asked, what is kept."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.marks import read_marks
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.macros.document import Document, Thing
from olive_compass.core.macros.macro import Macro, Step
from olive_compass.core.macros.simulator import first_mode
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.simulator.script import ORDERS, Leave, do_line
from olive_compass.simulator.session import Session
from olive_compass.simulator.terminal_keys import stroke_of

PLACE = Command(
    id="place",
    title="Place",
    menu=(),
    keys=(key("P"),),
    modes=("draw",),
    kind="part",
    inputs="at:point name:text",
)
COMMANDS = (
    PLACE,
    Command(
        id="split",
        title="Split",
        menu=(),
        keys=(key("S P"),),
        modes=("draw",),
        marks=read_marks({"acts:say"}),
    ),
    Command(
        id="spline",
        title="Spline",
        menu=(),
        keys=(key("S"),),
        modes=("draw",),
        marks=read_marks({"acts:say"}),
    ),
    Command(id="one", title="One", menu=(), keys=(key("F2"),), marks=read_marks({"acts:say"})),
    Command(id="two", title="Two", menu=(), keys=(key("F2"),), marks=read_marks({"acts:say"})),
    Command(id="erase", title="Erase", menu=(), keys=(key("Delete"),)),
    Command(
        id="swipe", title="Swipe", menu=(), keys=(key("swipe:N"),), marks=read_marks({"acts:say"})
    ),
    Command(id="old", title="Old", marks=read_marks({"withdrawn"})),
    Command(id="macro.both", title="Both", kind="macro"),
)
RULES = Rules(
    duplicates="choice",
    longest_sequence=4,
    typed_sequences=True,
    closing_key="Enter",
    unlisted={key("F9"): "checks again"},
)
SCHEME = Scheme(
    app="app",
    name="mine",
    assign={"macro.both": (Assignment(keys=(key("F5"),), why="B"),)},
    mute={key("F7"): Decision(why="too near")},
)
BOTH = Macro(
    app="app",
    name="both",
    title="Both",
    steps=(
        Step(command="place", inputs={"name": "Quay"}, ask={"at": "Where to?"}),
        Step(command="erase", inputs={"what": "buoy-9"}),
    ),
)


@pytest.fixture
def session() -> Session:
    return made()


def made() -> Session:
    """A session at a document with one thing in it."""
    app = App(
        name="app",
        title="App",
        version="1",
        modes=ModeTree({"draw": "everywhere"}),
        rules=RULES,
        catalogue=Catalogue(COMMANDS),
    )
    keymap = Keymap(Stack(app, (SCHEME,)), Keyboard("pc"))
    document = Document(mode="draw", things=(Thing(id="buoy-1", what="Buoy", at=(1, 1)),))
    return Session(keymap, {"both": BOTH}, document, lambda: "now", lambda claim: claim.layer)


def shown(session: Session, *lines: str) -> list[str]:
    """What the lines of a script show."""
    return [line.text for text in lines for line in do_line(session, text)]


def test_a_run_waits_goes_on_or_ends(session: Session) -> None:
    assert shown(session, "S P")[-2:] == ["factory, draw; factory", "Split: done."]
    assert shown(session, "S")[0] == "S waits: S P may follow."
    assert [each.command for each in session.recorder.events] == ["split", "spline"]
    session.stroke(key("S").strokes[0])
    assert session.stroke(key("Enter").strokes[0])[-1].text == "Spline: done."
    session.stroke(key("S").strokes[0])
    lines = [line.text for line in session.stroke(key("F2").strokes[0])]
    assert "S starts Spline" in lines
    assert "F2 is shared. Which one? Its number; Enter: the first" in lines


def test_the_candidates_of_a_shared_key_have_numbers(session: Session) -> None:
    assert shown(session, "F2")[1:] == ["  1  One", "  2  Two"]
    assert shown(session, "2") == ["Two: done."]
    shown(session, "F2")
    assert shown(session, "Enter") == ["One: done."]
    shown(session, "F2")
    assert shown(session, "F2")[1:] == ["  1  One", "  2  Two"]
    assert shown(session, "take 1") == ["One: done."]
    shown(session, "F2")
    assert shown(session, "F7")[0] == "F7 does nothing, on purpose"
    assert shown(session, "take 1") == ["There is no such choice."]


def test_what_is_asked_is_asked_until_it_is_answered(session: Session) -> None:
    assert shown(session, "P")[-1] == "Where?"
    assert shown(session, "answer here") == ["A point is two numbers, such as 120,80.", "Where?"]
    assert session.stroke(key("F2").strokes[0])[0].text == "It still asks: Where? (Escape ends it)"
    assert shown(session, "answer 2,3", "answer Quay") == ["Name?", "Placed place-1 at 2,3."]
    (event,) = session.recorder.events
    assert (event.how, event.key, event.made) == ("key", "P", ("place-1",))
    assert event.inputs == {"at": "2,3", "name": "Quay"}
    assert shown(session, "P", "Escape")[-1] == "Place was ended; nothing was changed."
    assert session.recorder.events[-1].outcome == "cancelled"
    assert "Place was ended; nothing was changed." in shown(session, "P", "menu one")
    assert shown(session, "answer 5") == ["Nothing is asked."]


def test_layers_without_commands_say_what_they_are(session: Session) -> None:
    assert shown(session, "F9") == [
        "F9 checks again: the simulator has nothing to show for it",
        "unlisted, everywhere; unlisted",
    ]
    assert shown(session, "F12") == ["F12 does nothing in draw: no layer has it here."]
    assert "Swipe: done." in shown(session, "swipe:N")
    assert session.recorder.events[-1].how == "swipe"


def test_a_macro_on_a_key_plays_stops_and_is_taken_back(session: Session) -> None:
    before = session.document
    assert shown(session, "F5") == [
        "F5 starts Both",
        "mine (personal), everywhere; personal: B",
        "Where to?",
    ]
    assert shown(session, "answer 7,7") == [
        "  1  Place: Placed place-1 at 7,7.",
        "It stopped at step 2: The document has no buoy-9. To take all back: back",
    ]
    assert [(e.command, e.how) for e in session.recorder.events] == [
        ("macro.both", "key"),
        ("place", "macro"),
    ]
    assert len(session.document.things) == 2
    shown(session, "back")
    assert session.document == before
    assert shown(session, "back") == ["No macro was played."]
    shown(session, "F5")
    assert "What it did stays" in shown(session, "Escape")[0]


def test_recording_while_working(session: Session) -> None:
    assert shown(session, "finish") == ["Nothing is being recorded."]
    shown(session, "record My work", "P", "answer 1,1", "answer Quay", "toolbar one", "finish")
    (macro,) = session.recorder.recorded
    assert (macro.name, macro.title, macro.modes) == ("my-work", "My work", ("draw",))
    assert [step.command for step in macro.steps] == ["place", "one"]
    shown(session, "record Nothing")
    assert "no macro was made" in shown(session, "finish")[0]


def test_orders(session: Session) -> None:
    assert len(shown(session, "help")) == len(ORDERS)
    assert shown(session, "select buoy-1", "Delete")[-1] == "Took away buoy-1."
    assert shown(session, "select all") == ["Selected nothing."]
    assert "no ghost" in shown(session, "select ghost")[0]
    assert shown(session, "mode nowhere")[0].endswith("it has everywhere, draw.")
    assert shown(session, "menu old") == ["Old, from the menu", "App 1 no longer has Old."]
    assert session.recorder.events[-1].outcome == "failed"
    assert shown(session, "menu nothing at all")[0].startswith("There is no command")
    assert shown(session, "menu o")[0].endswith("commands match “o”.")
    assert "cannot read the key" in shown(session, "manuu x+")[0].lower()
    assert shown(session, "press F12")[0].startswith("F12 does nothing")
    assert shown(session, "", "# a remark") == []
    assert shown(session, "show")[0].startswith("Untitled, in draw")
    with pytest.raises(Leave):
        do_line(session, "leave")
    assert first_mode(session.app) == "draw"


@pytest.mark.parametrize(
    ("name", "held", "stroke"),
    [
        ("a", False, "A"),
        ("A", False, "Shift+A"),
        (" ", False, "Space"),
        ("c-s", False, "Ctrl+S"),
        ("c-i", False, "Tab"),
        ("c-m", False, "Enter"),
        ("s-tab", False, "Shift+Tab"),
        ("f12", False, "F12"),
        ("c-s-left", False, "Ctrl+Shift+Left"),
        ("pagedown", False, "PageDown"),
        ("m", True, "Alt+M"),
        ("+", False, "+"),
        ("vt100-mouse", False, "None"),
    ],
)
def test_strokes_as_a_terminal_sends_them(name: str, held: bool, stroke: str) -> None:
    assert str(stroke_of(name, held)) == stroke


LINES = st.sampled_from(
    [
        "S",
        "S P",
        "P",
        "F2",
        "F5",
        "F7",
        "F9",
        "Delete",
        "Escape",
        "Enter",
        "swipe:N",
        "Ctrl+?",
        "answer 1,2",
        "answer Quay",
        "answer",
        "answer buoy-1",
        "Quay",
        "take 1",
        "take 2",
        "take x",
        "stop",
        "mode draw",
        "mode everywhere",
        "select all",
        "select none",
        "select buoy-1",
        "menu place",
        "menu both",
        "toolbar erase",
        "menu old",
        "record x",
        "finish",
        "back",
        "show",
        ":",
        "::",
        ":nonsense",
        "\x00",
    ]
)


@given(st.lists(LINES, max_size=25))
def test_whatever_is_typed_the_session_goes_on(lines: list[str]) -> None:
    session = made()
    for text in lines:
        for line in do_line(session, text):
            assert line.text
    document = session.document
    ids = [thing.id for thing in document.things]
    assert len(set(ids)) == len(ids)
    assert set(document.selection) <= set(ids)
    assert document.mode in session.app.modes
    for event in session.recorder.events:
        assert event.outcome in ("done", "failed", "cancelled", "started")
        assert event.how in ("key", "menu", "toolbar", "swipe", "macro")
    session.cancel()
    session.recorder.stop("x")
    for macro in session.recorder.recorded:
        assert macro.steps
