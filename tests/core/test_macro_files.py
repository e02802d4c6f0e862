"""The files of macros, documents and logs: read, written, edited by hand, and full of mistakes."""

import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.macros import editing
from olive_compass.core.macros.document import Document, Thing
from olive_compass.core.macros.macro import Macro, Step
from olive_compass.core.macros.recording import Event
from olive_compass.desk.formats import document_file, log_file, macro_file, macro_writing
from olive_compass.errors import UserError
from olive_compass.structs import replace

HAND_MADE = """\
# Klara's, for all harbour charts.
format = "olive-compass-macro/1"
app = "quillmap"
title = "Light with name"

# The light first: everything else goes by it.
[[steps]]
command = "point.light"   # with its sectors
inputs = { at = [120, 80], sectors = 3, character = "Fl.W.5s" }

[[steps]]
command = "label.place"
ask = { text = "What is it called?" }
inputs = { at = "{step 1 at +0 +12}" }

# Small capitals, as in the style book.
[[steps]]
command = "label.caps"
inputs = { what = "{step 2}" }
"""


def read(text: str) -> Macro:
    return macro_file.read(text.encode(), "m.toml", "quillmap", "light")


def edit(text: str, before: Macro, after: Macro) -> str:
    return macro_writing.edited(text.encode(), before, after).decode()


def test_a_file_edited_by_hand_keeps_its_comments_and_order() -> None:
    before = read(HAND_MADE)
    assert before.steps[0].inputs == {"at": "120,80", "sectors": "3", "character": "Fl.W.5s"}
    asked = edit(HAND_MADE, before, editing.ask(before, 1, "character", "Which?"))
    for kept in ("# Klara's", "# The light first", "# with its sectors", "# Small capitals"):
        assert kept in asked
    assert read(asked).steps[0].ask == {"character": "Which?"}
    dropped = edit(HAND_MADE, before, editing.drop(before, [2]))
    assert "# Small capitals" in dropped
    assert "label.place" not in dropped
    swapped = editing.move(editing.fix(before, 3, "what", "buoy-1"), 3, 1)
    moved = edit(HAND_MADE, before, swapped)
    assert moved.index("# Small capitals") < moved.index("# The light first")
    assert [s.meaning for s in read(moved).steps] == [s.meaning for s in swapped.steps]
    assert edit(HAND_MADE, before, before) == HAND_MADE
    crlf = HAND_MADE.replace("\n", "\r\n")
    assert macro_writing.edited(crlf.encode(), before, before).decode() == crlf


@pytest.mark.parametrize(
    ("old", "new", "line", "says"),
    [
        ('format = "olive-compass-macro/1"', "", 1, "does not begin with"),
        ('app = "quillmap"', 'app = "foldpress"', 3, "This macro is for “foldpress”"),
        ('command = "label.caps"', 'comand = "label.caps"', 18, "did you mean “command”"),
        ('command = "label.caps"', "", 17, "needs a command"),
        ('inputs = { what = "{step 2}" }', 'inputs = "{step 2}"', 19, "wrong kind"),
        ('inputs = { at = "{step 1 at +0 +12}" }', 'inputs = { text = "x" }', 14, "at once"),
    ],
)
def test_mistakes_are_named_with_their_line(old: str, new: str, line: int, says: str) -> None:
    assert old in HAND_MADE
    with pytest.raises(UserError) as refused:
        read(HAND_MADE.replace(old, new))
    assert says in str(refused.value)
    assert refused.value.line == line


#: Texts as titles are: on one line, without blanks at their ends.
WORDS = st.text(
    st.characters(exclude_categories=("C", "Z"), include_characters=" "), max_size=8
).map(lambda text: " ".join(text.split()))
NAMES = st.text("abc-_ö", min_size=1, max_size=5)
STEPS = st.builds(
    lambda command, inputs, ask, note, keep: Step(
        command=command,
        inputs=inputs,
        ask={k: v for k, v in ask.items() if k not in inputs},
        keep=tuple(keep),
        press="",
        note=note,
    ),
    WORDS.map(lambda text: text or "x"),
    st.dictionaries(NAMES, WORDS, max_size=3),
    st.dictionaries(NAMES, WORDS, max_size=2),
    WORDS,
    st.lists(NAMES, max_size=2),
)


@given(st.lists(STEPS, max_size=4), st.lists(STEPS, max_size=4), WORDS, st.randoms())
def test_writing_and_editing_give_back_what_was_meant(
    steps: list[Step], others: list[Step], title: str, chance: object
) -> None:
    before = Macro(
        app="quillmap",
        name="light",
        title=title or "x",
        steps=tuple(steps),
        does="does",
        modes=("draw",),
    )
    text = macro_writing.new_text(before)
    again = macro_file.read(text, "m", "quillmap", "light")
    assert [s.meaning for s in again.steps] == [s.meaning for s in before.steps]
    mixed = [*again.steps, *others]
    chance.shuffle(mixed)  # type: ignore[attr-defined]
    after = replace(again, steps=tuple(mixed), does="", title="Other")
    edited = macro_file.read(macro_writing.edited(text, again, after), "m", "quillmap", "light")
    assert [s.meaning for s in edited.steps] == [s.meaning for s in after.steps]
    assert (edited.title, edited.does) == ("Other", "")


def test_documents_and_logs_come_back_as_they_were() -> None:
    document = Document(
        name="West Quay",
        mode="draw",
        things=(
            Thing(id="a-1", what="A", at=(1.5, 2), values={"n": "x"}),
            Thing(id="b-1", what="B"),
        ),
        selection=("b-1",),
        settings={"grid": "on"},
        deeds=("Burn",),
        panels=("Inks",),
        shown=("all", "part"),
        zoom=-2,
        saved=True,
    )
    assert document_file.read(document_file.text(document), "d.json") == document
    event = Event(
        time="t",
        app="app",
        version="1",
        mode="draw",
        command="x",
        how="key",
        key="S P",
        inputs={"at": "1,2"},
        outcome="done",
        made=("a-1",),
        line=2,
    )
    text = log_file.head_line("app", "1", "t") + log_file.event_line(event) + "nonsense\n"
    log = log_file.read(text.encode(), "l.jsonl")
    assert log.events == (event,)
    assert [aside.line for aside in log.set_aside] == [3]
    # A line that no program wrote is one line, however long it is, and what follows is read.
    text = log_file.head_line("app", "1", "t") + "x" * 2_100_000 + "\n" + log_file.event_line(event)
    log = log_file.read(text.encode(), "l.jsonl")
    assert [(aside.line, aside.why) for aside in log.set_aside] == [(2, "the line is too long")]
    assert [each.line for each in log.events] == [3]


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"format": "x"}, "does not have"),
        ({"things": [{"id": "a"}, {"id": "a"}]}, "same id"),
        ({"things": [{"id": "a", "at": [1]}]}, "two numbers"),
        ({"things": ["a"]}, "needs an id"),
        ({"selection": ["ghost"]}, "not there"),
        ({"zoom": "far"}, "wrong kind"),
        ({"colour": "red"}, "no key"),
    ],
)
def test_a_document_that_is_none_is_refused(change: dict[str, object], says: str) -> None:
    content = {"format": document_file.FORMAT, **change}
    with pytest.raises(UserError, match=says):
        document_file.read(json.dumps(content).encode(), "d.json")


def test_logs_of_other_applications_are_read_by_their_headings() -> None:
    table = "When;Action;Shortcut;Details;Ink;Result\n9:00;Split;S P;at=1,2; ;ok\n9:01;Join;;;blue;Cancelled\n;;;;;x\n"
    log = log_file.read(table.replace("at=1,2; ", "at=1,2;").encode(), "log.csv")
    first, second = log.events
    assert (first.command, first.how, first.key, first.inputs) == (
        "Split",
        "key",
        "S P",
        {"at": "1,2"},
    )
    assert (second.inputs, second.outcome, second.how) == ({"ink": "blue"}, "cancelled", "menu")
    assert [aside.why for aside in log.set_aside] == ["it names no command"]
    lines = b'{"done": "Split", "at": "1,2"}\n{"done": "Join", "at": ""}\n'
    with pytest.raises(UserError, match="which column has the commands"):
        log_file.read(lines, "x.jsonl")
    named = log_file.read(lines, "x.jsonl", {"command": "done"})
    assert [(e.command, dict(e.inputs)) for e in named.events] == [
        ("Split", {"at": "1,2"}),
        ("Join", {}),
    ]
    with pytest.raises(UserError, match="no field of a log"):
        log_file.read(lines, "x.jsonl", {"colour": "done"})
