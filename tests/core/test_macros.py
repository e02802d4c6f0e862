"""Macros: inputs, playing, editing, cleaning, recording, carrying; without files or terminal."""

from collections.abc import Mapping

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.marks import read_marks
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.macros import editing
from olive_compass.core.macros.acts import VERBS, act_of
from olive_compass.core.macros.calling import called_macros
from olive_compass.core.macros.cleaning import suspects, tidied
from olive_compass.core.macros.document import Document, Thing, differences
from olive_compass.core.macros.inputs import Input, accepted, declared, read_inputs
from olive_compass.core.macros.likeness import alike
from olive_compass.core.macros.macro import Macro, Step, reference
from olive_compass.core.macros.playing import World, play
from olive_compass.core.macros.recording import Event, events_of, recorded, steps_of
from olive_compass.core.macros.travelling import translated
from olive_compass.structs import replace


def marked(id_: str, *marks: str, inputs: str = "", modes: tuple[str, ...] = ()) -> Command:
    return Command(
        id=id_,
        title=id_.title(),
        menu=(),
        keys=(),
        modes=modes,
        marks=read_marks(marks),
        inputs=inputs,
    )


COMMANDS = (
    Command(id="light", title="Light", kind="part", inputs="at:point character:text"),
    Command(id="name", title="Name", kind="part", inputs="at:point text:text"),
    Command(id="grid", title="Grid", kind="setting", inputs="value:choice=on/off"),
    Command(id="halo", title="Halo", kind="setting", inputs="value:number", modes=("label",)),
    Command(id="italic", title="Italic", kind="style"),
    Command(id="third", title="Third view", kind="slot"),
    Command(id="inks", title="Inks", kind="tray"),
    Command(id="area", title="Zoom to area", does="Shows an area"),
    marked("last", "acts:back"),
    marked("in", "acts:zoom=1"),
    marked("out", "acts:zoom=-1"),
    marked("undo", "acts:undo"),
    marked("redo", "acts:redo"),
    marked("escape", "acts:cancel"),
    marked("erase", "acts:remove"),
    marked("copy", "acts:copy"),
    marked("move", "acts:move"),
    marked("all", "acts:select=all"),
    marked("none", "acts:select=none"),
    marked("rest", "acts:select=rest"),
    marked("write", "acts:enter=label"),
    marked("leave", "acts:leave"),
    marked("save", "acts:save"),
    marked("burn", "irreversible"),
    marked("smooth", "acts:change", inputs="what:selection"),
    marked("measure", "acts:say", inputs="from:point to:point"),
    marked("old", "withdrawn"),
    marked("sky", "needs:sky"),
    Command(id="macro.other", title="Other", kind="macro"),
    Command(id="macro.loop", title="Loop", kind="macro"),
)
APP = App(
    name="app",
    title="App",
    version="1",
    modes=ModeTree({"label": "everywhere"}),
    rules=Rules(),
    catalogue=Catalogue(COMMANDS),
)


def macro(*steps: Step, name: str = "mine") -> Macro:
    return Macro(app="app", name=name, title=name.title(), steps=steps)


def step(command: str, ask: Mapping[str, str] | None = None, **inputs: str) -> Step:
    return Step(command=command, inputs=inputs, ask=ask or {})


def played(*steps: Step, document: Document | None = None, **answers: str) -> Document:
    result = play(World(APP), macro(*steps), document or Document(), answers)
    assert result.stopped is None, result.stopped
    return result.document


LIGHT = step("light", at="120,80", character="Fl.W.5s")
NAME = step("name", at="120,92", text="Sule Point")


def test_inputs_are_read_from_the_catalogue_and_answers_are_written_one_way() -> None:
    assert [
        i.kind for i in read_inputs("a:point b:text c:number d:choice=x/y e:selection f:yes")
    ] == [
        "point",
        "text",
        "number",
        "choice",
        "selection",
        "yes",
    ]
    for cell in ("at:place", "at:choice", "at:point=1", "a b a", "ä!:text"):
        with pytest.raises(ValueError):
            read_inputs(cell)
    point, ink = Input("at", "point"), Input("ink", "choice", ("black", "blue"))
    assert accepted(point, "1.50, -0") == "1.5,0"
    assert accepted(ink, "BLA") == "black"
    assert accepted(Input("what", "selection"), "a-1, b-2") == "a-1 b-2"
    assert accepted(Input("n", "number"), "3.0") == "3"
    for asked, text in (
        (point, "1"),
        (point, "a,b"),
        (ink, "bl"),
        (Input("y", "yes"), "maybe"),
        (Input("n", "number"), "nan"),
        (Input("n", "number"), ""),
    ):
        with pytest.raises(ValueError):
            accepted(asked, text)
    assert declared(marked("odd", inputs="at:nothing")) == ()
    assert [i.name for i in declared(Command(id="x", title="X", kind="part"))] == ["at"]


def test_what_a_command_does_is_told_by_mark_kind_and_words() -> None:
    assert {act_of(command).verb for command in COMMANDS} <= set(VERBS)
    assert act_of(Command(id="x", title="X", does="Removes the vertex")).verb == "remove"
    assert act_of(Command(id="x", title="X", does="Hatches an area")).verb == "change"
    assert act_of(marked("x", "acts:nonsense")).verb == "change"


def test_a_document_shows_what_commands_do() -> None:
    after = played(LIGHT, NAME, step("italic"), step("grid", value="on"), step("burn"))
    assert [(t.id, t.at) for t in after.things] == [("light-1", (120, 80)), ("name-1", (120, 92))]
    assert after.things[1].values == {"text": "Sule Point", "style": "Italic"}
    assert (after.settings, after.deeds) == ({"grid": "on"}, ("Burn (runs)",))
    assert differences(Document(), after)[0] == "new: light-1 (Light) at 120,80, character Fl.W.5s"
    after = played(LIGHT, step("copy"), step("move", to="0,0"), step("all"), step("rest"))
    assert (after.things[1].at, after.selection) == ((0, 0), ())
    after = played(LIGHT, NAME, step("erase"), step("undo"), step("undo"), step("redo"))
    assert [thing.id for thing in after.things] == ["light-1", "name-1"]
    after = played(step("write"), step("halo", value="2"), step("leave"), step("save"))
    assert (after.mode, after.settings, after.saved) == ("everywhere", {"halo": "2"}, True)
    after = played(step("third"), step("area"), step("last"), step("in"), step("inks"))
    assert (after.shown[-1], after.zoom, after.panels) == ("Third view", 1, ("Inks",))


@pytest.mark.parametrize(
    ("steps", "where", "says"),
    [
        ((LIGHT, step("halo", value="1")), "2", "only in label"),
        ((step("old"),), "1", "no longer has Old"),
        ((step("sky"),), "1", "this computer does not have"),
        ((step("nothing"),), "1", "no such command"),
        ((step("light", at="1,2"),), "1", "no question asks for it"),
        ((step("light", {"character": "Which?"}, at="1,2"),), "1", "It asks: Which?"),
        ((step("light", at="here", character="x"),), "1", "two numbers"),
        ((step("light", at="{step 7 at}", character="x"),), "1", "names nothing"),
        ((step("grid", colour="red"),), "1", "no input “colour”"),
        ((step("erase", what="buoy-9"),), "1", "no buoy-9"),
        ((step("undo"),), "1", "nothing to take back"),
        ((step("macro.loop"),), "1.1", "would play itself"),
    ],
)
def test_a_play_stops_where_it_cannot_go_on_and_says_why(
    steps: tuple[Step, ...], where: str, says: str
) -> None:
    loop = macro(step("macro.mine"), name="loop")
    mine = macro(*steps)
    world = World(APP, {"loop": loop, "mine": mine})
    result = play(world, mine, Document())
    assert result.stopped
    assert (result.stopped.path, says in result.stopped.says) == (where, True), result.stopped
    assert len(result.done) == int(where[0]) - ("." not in where)


def test_questions_references_and_other_macros() -> None:
    other = macro(step("light", {"at": "", "character": ""}), name="other")
    mine = macro(
        step("name", {"text": "Which?"}, at="5,5"),
        step("italic", what="{step 1}"),
        step("name", at="{step 1 at +0 -2.5}", text="{step 1 text}"),
        step("macro.other"),
        step("smooth", what="{step 4}"),
    )
    answers = {"text": "Wick", "4.1.at": "9,9", "character": "Oc.R"}
    result = play(World(APP, {"other": other}), mine, Document(), answers)
    assert result.stopped is None
    assert [(t.id, t.at, dict(t.values)) for t in result.document.things] == [
        ("name-1", (5, 5), {"text": "Wick", "style": "Italic"}),
        ("name-2", (5, 2.5), {"text": "Wick"}),
        ("light-1", (9, 9), {"character": "Oc.R", "Smooth": "yes"}),
    ]
    assert [done.path for done in result.done] == ["1", "2", "3", "4", "4.1", "5"]
    picked = Document(things=(Thing(id="a-1", what="A"),), selection=("a-1",))
    assert played(step("erase"), document=picked).things == ()


def test_a_macro_that_starts_itself_is_found_by_name_and_by_key() -> None:
    by_name = {"a": macro(step("macro.b"), name="a"), "b": macro(step("macro.a"), name="b")}
    assert called_macros(by_name["a"], by_name, lambda press: ()) == ("a", "b", "a")
    by_key = {"a": macro(Step(command="", press="F9"), name="a")}
    assert called_macros(by_key["a"], by_key, lambda press: ("macro.a",)) == ("a", "a")
    assert called_macros(by_key["a"], by_key, lambda press: ("save",)) == ()


def test_editing_keeps_what_later_steps_take_from_earlier_ones() -> None:
    mine = macro(
        LIGHT, NAME, step("italic", what="{step 2}"), step("name", at="{step 1 at +1 +1}", text="x")
    )
    dropped = editing.drop(mine, [2])
    assert dropped.steps[1].meaning == step("italic", {"what": ""}).meaning
    assert dropped.steps[2].inputs["at"] == "{step 1 at +1 +1}"
    moved = editing.move(mine, 4, 2)
    assert [s.command for s in moved.steps] == ["light", "name", "name", "italic"]
    assert moved.steps[3].inputs["what"] == "{step 3}"
    with pytest.raises(ValueError, match="step 3 takes a value from step 2"):
        editing.move(mine, 2, 4)
    with pytest.raises(ValueError, match="no step 9"):
        editing.drop(mine, [9])
    longer = editing.insert(mine, 1, step("save"))
    assert longer.steps[3].inputs["what"] == "{step 3}"
    asked = editing.ask(mine, 1, "at", "Where?")
    assert (asked.steps[0].ask, "at" in asked.steps[0].inputs) == ({"at": "Where?"}, False)
    fixed = editing.fix(asked, 1, "at", "1,1")
    assert (fixed.steps[0].inputs["at"], fixed.steps[0].keep) == ("1,1", ("at",))
    assert editing.note(mine, 1, "why").steps[0].note == "why"
    head, tail = editing.split(mine, 2, "rest", "Rest")
    assert (len(head.steps), [s.command for s in tail.steps]) == (1, ["name", "italic", "name"])
    assert "at" in tail.steps[2].ask
    again = editing.join(head, tail)
    assert [s.command for s in again.steps] == [s.command for s in mine.steps]
    assert again.steps[2].inputs["what"] == "{step 2}"


def test_what_was_chance_is_pointed_out_and_tidied() -> None:
    mine = macro(
        step("area"),
        LIGHT,
        step("last"),
        NAME,
        replace(step("light"), ended="cancelled"),
        step("grid", value="on"),
        step("grid", value="off"),
        LIGHT,
        step("undo"),
        step("escape"),
        step("in"),
        step("out"),
        step("erase", what="buoy-1"),
        step("smooth", what="{step 4}"),
    )
    found = suspects(APP, mine)
    assert [each.step for each in found if each.is_chance] == [1, 3, 5, 6, 8, 9, 10, 11, 12]
    assert {(e.step, e.input) for e in found if not e.is_chance} == {
        (2, "at"),
        (2, "character"),
        (4, "at"),
        (4, "text"),
        (13, "what"),
    }
    after = tidied(APP, mine).macro
    assert [s.command for s in after.steps] == ["light", "name", "grid", "erase", "smooth"]
    assert after.steps[1].inputs["at"] == "{step 1 at +0 +12}"
    assert (set(after.steps[0].ask), after.steps[4].inputs["what"]) == (
        {"at", "character"},
        "{step 2}",
    )
    assert not suspects(APP, after)
    assert not tidied(APP, after).changes
    used_between = macro(step("grid", value="on"), LIGHT, step("grid", value="off"))
    assert not [each for each in suspects(APP, used_between) if each.is_chance]
    at_the_end = macro(LIGHT, step("in"), step("out"))
    assert [each.step for each in suspects(APP, at_the_end) if each.is_chance] == [2, 3]
    redone = suspects(APP, macro(LIGHT, step("undo"), step("redo")))
    assert [each.step for each in redone if each.is_chance] == [2, 3]


def test_a_value_that_is_meant_is_no_suspect() -> None:
    kept = editing.fix(macro(LIGHT), 1, "character", "Fl.W.5s")
    assert [each.input for each in suspects(APP, kept)] == ["at"]
    file = suspects(APP, macro(step("name", {"at": ""}, text="out/coldwell.tif")))
    assert [each.what for each in file] == ["file of one document"]


def test_alike_macros_and_the_question_that_would_make_them_one() -> None:
    one, other = macro(LIGHT, name="a"), macro(replace(LIGHT, inputs={"at": "1,1"}), name="b")
    (pair,) = alike([one, other, macro(NAME, name="c")])
    assert (pair.first.name, pair.second.name) == ("a", "b")
    assert pair.differ == ((1, "at"), (1, "character"))
    (same,) = alike([one, macro(LIGHT, name="z")])
    assert same.differ == ()


def test_a_recording_takes_a_macro_for_one_step_or_for_its_own() -> None:
    events = [
        Event(
            time="t",
            app="app",
            version="1",
            mode="draw",
            command="light",
            inputs={"at": "1,1"},
            made=("light-1",),
        ),
        Event(
            time="t", app="app", version="1", mode="draw", command="macro.other", outcome="started"
        ),
        Event(
            time="t",
            app="app",
            version="1",
            mode="draw",
            command="name",
            how="macro",
            made=("name-1",),
        ),
        Event(
            time="t",
            app="app",
            version="1",
            mode="draw",
            command="erase",
            inputs={"what": "name-1"},
        ),
        Event(
            time="t",
            app="app",
            version="1",
            mode="draw",
            command="erase",
            inputs={"what": "light-1"},
            outcome="failed",
        ),
    ]
    steps = steps_of(events)
    assert [s.command for s in steps] == ["light", "macro.other", "erase", "erase"]
    assert [s.inputs.get("what") for s in steps[2:]] == ["{step 2}", "{step 1}"]
    assert steps[3].ended == "failed"
    assert [s.command for s in steps_of(events, flat=True)] == ["light", "name", "erase", "erase"]
    made = recorded("app", "x", "X", events, "log")
    assert (made.modes, made.version) == (("draw",), "1")


def test_a_macro_goes_to_another_application_by_a_table() -> None:
    other = App(
        name="other",
        title="Other",
        version="2",
        modes=ModeTree({}),
        rules=Rules(),
        catalogue=Catalogue(
            (Command(id="beacon", title="Beacon", kind="part", inputs="at:point"), COMMANDS[2])
        ),
    )
    mine = macro(LIGHT, step("italic", what="{step 1}"), step("grid", value="on"))
    after, left = translated(mine, other, {"light": "beacon", "italic": "slanted"})
    assert [s.command for s in after.steps] == ["beacon", "grid"]
    assert [(e.step, e.input) for e in left] == [(1, "character"), (2, "")]
    assert (after.app, after.version) == ("other", "2")


TEXTS = st.text("abcXYZ. 0", min_size=1, max_size=8).map(lambda t: " ".join(t.split())).filter(bool)
POINTS = st.tuples(st.integers(-99, 99), st.integers(-99, 99)).map(lambda p: f"{p[0]},{p[1]}")
STEPS = st.one_of(
    st.builds(lambda at, c: step("light", at=at, character=c), POINTS, TEXTS),
    st.builds(lambda at, t: step("name", at=at, text=t), POINTS, TEXTS),
    st.sampled_from(["on", "off"]).map(lambda v: step("grid", value=v)),
    st.sampled_from(["save", "area", "in", "out", "all", "none", "burn"]).map(step),
)


@given(st.lists(STEPS, max_size=12))
def test_recording_a_play_and_cleaning_nothing_gives_the_same_steps(steps: list[Step]) -> None:
    mine = macro(*steps)
    result = play(World(APP), mine, Document())
    assert result.stopped is None
    again = steps_of(events_of(result, "app", "1", ""), flat=True)
    assert [each.meaning for each in again] == [each.meaning for each in mine.steps]
    assert play(World(APP), macro(*again), Document()) == result


@given(st.lists(STEPS, min_size=1, max_size=8), st.data())
def test_editing_there_and_back_and_tidying_twice(steps: list[Step], data: st.DataObject) -> None:
    mine = macro(*steps)
    number = data.draw(st.integers(1, len(steps)))
    to = data.draw(st.integers(1, len(steps)))
    assert editing.move(editing.move(mine, number, to), to, number) == mine
    assert editing.drop(editing.insert(mine, number, step("save")), [number]) == mine
    if number > 1:
        assert editing.join(*editing.split(mine, number, "rest", "Rest")) == mine
    once = tidied(APP, mine).macro
    assert not [each for each in suspects(APP, once) if not each.is_chance]


@given(st.text("@.+-0123456789atx,", max_size=10))
def test_a_reference_is_written_as_it_is_read(text: str) -> None:
    ref = reference(text)
    if ref is not None:
        assert reference(str(ref)) == ref
