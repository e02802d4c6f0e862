"""What each verb of the simulator makes of a document, and what it says where it cannot."""

import pytest

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.marks import read_marks
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.macros.acts import VERBS
from olive_compass.core.macros.document import Document, Thing, described, differences
from olive_compass.core.macros.simulator import perform

APP = App(
    name="app",
    title="App",
    version="1",
    modes=ModeTree({"draw": "everywhere", "vertex": "draw"}),
    rules=Rules(slots={"act": "Harbour side"}),
    catalogue=Catalogue(()),
)
TWO = Document(
    mode="vertex",
    things=(
        Thing(id="a-1", what="A", at=(1, 2)),
        Thing(id="b-1", what="B", at=(10, 20), values={"ink": "blue"}),
    ),
    selection=("a-1",),
)


def act(
    mark: str, inputs: str = "", document: Document = TWO, **values: str
) -> tuple[Document, str, str]:
    """What a command with the mark ``acts:`` and some inputs does."""
    command = Command(
        id="act", title="Act", marks=read_marks({f"acts:{mark}"}), inputs=inputs, does="Acts"
    )
    effect = perform(APP, command, values, document)
    return effect.document, effect.outcome, effect.says


@pytest.mark.parametrize(
    ("mark", "inputs", "values", "says", "change"),
    [
        (
            "place",
            "at:point ink:text",
            {"at": "3,4", "ink": "red"},
            "Placed act-1 at 3,4.",
            ["new: act-1 (Act) at 3,4, ink red"],
        ),
        ("place", "n:number", {"n": "3"}, "Placed act-1.", ["new: act-1 (Act), n 3"]),
        (
            "set",
            "value:number",
            {"value": "3"},
            "Act is now 3 (it was unset).",
            ["act: unset -> 3"],
        ),
        (
            "style",
            "what:selection",
            {},
            "Act for a-1.",
            ["changed: a-1 (A) at 1,2 -> a-1 (A) at 1,2, style Act"],
        ),
        (
            "style",
            "what:selection value:text",
            {"value": "bold"},
            "bold for a-1.",
            ["changed: a-1 (A) at 1,2 -> a-1 (A) at 1,2, style bold"],
        ),
        (
            "remove",
            "what:selection",
            {"what": "a-1 b-1"},
            "Took away a-1 and b-1.",
            ["gone: a-1 (A) at 1,2", "gone: b-1 (B) at 10,20, ink blue"],
        ),
        ("copy", "", {}, "Copied a-1.", ["new: a-2 (A) at 11,12"]),
        (
            "move",
            "to:point",
            {"to": "2,2"},
            "Moved to 2,2: a-1.",
            ["changed: a-1 (A) at 1,2 -> a-1 (A) at 2,2"],
        ),
        (
            "move",
            "what:selection to:point",
            {"what": "a-1 b-1", "to": "0,0"},
            "Moved to 0,0: a-1 and b-1.",
            [
                "changed: a-1 (A) at 1,2 -> a-1 (A) at 0,0",
                "changed: b-1 (B) at 10,20, ink blue -> b-1 (B) at 9,18, ink blue",
            ],
        ),
        (
            "change",
            "what:selection n:number",
            {"n": "5"},
            "Act: a-1.",
            ["changed: a-1 (A) at 1,2 -> a-1 (A) at 1,2, Act 5"],
        ),
        ("change", "n:number", {"n": "5"}, "Act: done.", ["done: Act, 5"]),
        ("batch", "", {}, "Act runs, and cannot be undone.", ["done: Act (runs)"]),
        ("enter=draw", "", {}, "The mode is now draw.", ["mode: vertex -> draw"]),
        ("leave", "", {}, "The mode is now draw.", ["mode: vertex -> draw"]),
        ("select=all", "", {}, "Selected a-1 and b-1.", []),
        ("select=none", "", {}, "Nothing is selected.", []),
        ("select=last", "", {}, "Selected b-1.", []),
        ("select=rest", "", {}, "Selected b-1.", []),
        ("select", "what:selection", {"what": "b-1"}, "Selected b-1.", []),
        ("show", "", {}, "Shows Harbour side.", []),
        ("view", "", {}, "Shows: Act.", []),
        ("zoom=1", "", {}, "Shows it larger (+1).", []),
        ("zoom=-1", "", {}, "Shows it smaller (-1).", []),
        ("open", "", {}, "The panel “Act” is open.", []),
        ("save", "", {}, "Untitled is saved.", []),
        ("cancel", "", {}, "There was nothing to end.", []),
        ("say", "from:point to:point", {"from": "0,0", "to": "3,4"}, "Act: 5.", []),
        ("say", "", {}, "Act: Acts.", []),
    ],
)
def test_what_a_verb_does(
    mark: str, inputs: str, values: dict[str, str], says: str, change: list[str]
) -> None:
    after, outcome, said = act(mark, inputs, **values)
    assert outcome == ("started" if mark == "batch" else "done")
    assert (said, differences(TWO, after)) == (says, change)


@pytest.mark.parametrize(
    ("mark", "document", "values", "says"),
    [
        ("remove", Document(), {}, "Nothing is selected."),
        ("remove", TWO, {"what": "c-9"}, "The document has no c-9."),
        ("select", TWO, {"what": "c-9"}, "The document has no c-9."),
        ("move", TWO, {}, "It needs a point to go to."),
        ("undo", TWO, {}, "There is nothing to take back."),
        ("redo", TWO, {}, "There is nothing to do again."),
        ("back", TWO, {}, "Nothing was shown before."),
        ("enter=nowhere", TWO, {}, "App has no mode “nowhere”."),
        ("play", TWO, {}, "Act is a macro: it is played."),
    ],
)
def test_what_it_says_where_it_cannot(
    mark: str, document: Document, values: dict[str, str], says: str
) -> None:
    inputs = "what:selection" if "what" in values else ""
    after, outcome, said = act(mark, inputs, document, **values)
    assert (after, outcome, said) == (document, "failed", says)


def test_undo_goes_back_and_redo_forward_through_every_change() -> None:
    first, _, _ = act("copy")
    second, _, _ = act("remove", "what:selection", first, what="b-1")
    back, _, _ = act("undo", document=second)
    assert back.kept == first.kept
    further, _, _ = act("undo", document=back)
    assert further.kept == TWO.kept
    again, _, _ = act("redo", document=further)
    assert again.kept == first.kept
    changed, _, _ = act("set", "value:number", again, value="1")
    assert act("redo", document=changed)[1] == "failed"
    lasting, _, _ = act("batch", document=second)
    assert act("undo", document=lasting)[1] == "failed"
    shut, _, said = act("open", document=act("open")[0])
    assert (shut.panels, said) == ((), "The panel “Act” is closed.")
    shown, _, said = act("back", document=act("view")[0])
    assert (shown.shown, said) == (TWO.shown, "Shows the whole document again.")


def test_every_verb_is_tried_here() -> None:
    from pathlib import Path

    text = Path(__file__).read_text(encoding="utf-8")
    assert [verb for verb in VERBS if f'"{verb}' not in text] == []
    assert described(Thing(id="x", what="X")) == "x (X)"
