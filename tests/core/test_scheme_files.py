"""Scheme files: any edit of any scheme reads back as the scheme that was meant, comments kept."""

import tomllib
from itertools import permutations

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tomlkit.items import KeyType, SingleKey

from olive_compass.core.apps.app import Catalogue, Command
from olive_compass.core.apps.marks import read_marks
from olive_compass.core.keys.triggers import Run, stroke
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.core.schemes.layers import SCHEME_LAYERS
from olive_compass.desk.formats import catalogue_file, purposes_file
from olive_compass.desk.formats.scheme_file import read
from olive_compass.desk.formats.scheme_writing import _slow_edit, edited, new_text, quick_edit
from olive_compass.desk.texts.cells import restored, shielded
from olive_compass.desk.texts.toml_text import key_lines
from olive_compass.errors import UserError
from olive_compass.structs import replace
from tests.core.test_triggers import runs

MODES = ("everywhere", "draw", "label")

any_text = st.text(st.characters(blacklist_categories=("Cs", "Cc", "Cf", "Zl", "Zp")), max_size=12)
#: Mostly what is hard to write, in one draw each.
texts = st.one_of(
    st.sampled_from(
        ["", "M: next to N", 'a "why"', "it's", "\\", "# none", "[x]", "a = 1", '"' * 3]
    ),
    st.sampled_from(["Größe", "→ ½", "'" * 3, " a ", "\u00a0", "{}", '", "', "\\u0041", "日本"]),
    any_text,
)
ids = st.one_of(
    st.sampled_from(["a", "lines.split", "with space", 'quo"te', "back\\slash", "Ü.ö", "a#b"]),
    texts.filter(bool),
)
modes = st.sampled_from([each for n in (1, 2, 3) for each in permutations(MODES, n)])
assignments = st.builds(
    Assignment,
    keys=st.lists(runs, min_size=1, max_size=3, unique=True).map(tuple),
    modes=modes,
    why=texts,
    slot=texts,
    instead=st.booleans(),
)
decisions = st.builds(
    Decision, why=texts, modes=modes, keeps=st.just(""), never=st.just(""), away=st.none()
)
guards = st.builds(Decision, why=texts, modes=modes, keeps=texts, never=st.just(""), away=st.none())
mutes = st.builds(
    Decision, why=texts, modes=modes, keeps=st.just(""), never=texts, away=st.none() | runs
)


@st.composite
def schemes(draw: st.DrawFn) -> Scheme:
    entries = st.lists(assignments, min_size=1, max_size=3).map(tuple)
    return Scheme(
        app="app",
        name="mine",
        layer=draw(st.sampled_from(SCHEME_LAYERS)),
        based_on="factory 1",
        assign=draw(st.dictionaries(ids, entries, max_size=3)),
        keyless=draw(
            st.dictionaries(ids, decisions.map(lambda d: replace(d, modes=MODES[:1])), max_size=2)
        ),
        mute=draw(st.dictionaries(runs, mutes, max_size=2)),
        guard=draw(st.dictionaries(runs, guards, max_size=2)),
        accept=draw(st.dictionaries(ids, decisions, max_size=2)),
        order=draw(
            st.dictionaries(runs, st.lists(ids, min_size=1, max_size=3).map(tuple), max_size=2)
        ),
    )


def read_back(data: bytes) -> Scheme:
    return read(data, "mine.toml", "mine", frozenset(MODES), typed=4)


@given(schemes())
def test_a_new_file_says_what_the_scheme_is(scheme: Scheme) -> None:
    assert read_back(new_text(scheme)) == scheme


@given(schemes(), schemes())
def test_any_edit_leads_to_the_scheme_that_was_meant(before: Scheme, after: Scheme) -> None:
    after = replace(after, layer=before.layer)
    data = new_text(before)
    assert read_back(edited(data, before, after, "mine.toml")) == after
    assert edited(data, before, before, "mine.toml") == data


@given(schemes(), schemes())
def test_the_quick_editor_agrees_with_the_full_one_or_gives_up(
    before: Scheme, after: Scheme
) -> None:
    after = replace(after, layer=before.layer, based_on=before.based_on, project=before.project)
    text = new_text(before).decode()
    quick = quick_edit(text, before, after)
    full = _slow_edit(text, before, after, "f").decode()
    if quick is not None:
        assert tomllib.loads(quick) == tomllib.loads(full)
    commented = text + "# at the end\n"
    kept = quick_edit(commented, before, after)
    assert kept is None or "# at the end" in kept


@given(schemes())
def test_lines_are_found_for_every_decision(scheme: Scheme) -> None:
    data = new_text(scheme).decode()
    lines = data.split("\n")
    found = key_lines(data)
    for table in ("assign", "keyless", "mute", "guard"):
        for key in getattr(scheme, table):
            number = found[table, str(key)]
            written = SingleKey(str(key), KeyType.Basic).as_string()
            assert lines[number - 1].startswith(f"{written} = ")


BY_HAND = """\
# My scheme, made on a rainy day.
format = "olive-compass-scheme/1"
app = "quillmap"   # the drafting one

[mute]
"ctrl-shift-e" = "slips"  # spelt my way

[assign]
# the lines
lines = "F4"
'lines.split' = ['S P', "F6"]   # two of them
"view.in" = [
  { keys = "I" },  # I for in
  { keys = ["Num+"], modes = ["draw"], why = '''because
it is large''' },
]
"last.one" = "F9"
"""


def test_an_edit_by_the_program_leaves_the_rest_as_a_person_wrote_it() -> None:
    before = read_back(BY_HAND.encode())
    split = before.assign["lines.split"][0]
    more = replace(split, keys=(*split.keys, Run((stroke("F7"),))))
    kept = {k: v for k, v in before.assign.items() if k != "last.one"}
    after = replace(
        before,
        assign={
            **kept,
            "lines.split": (more,),
            "new.one": (Assignment(keys=(Run((stroke("X"),)),)),),
        },
        mute={},
    )
    text = edited(BY_HAND.encode(), before, after, "").decode()
    assert read_back(text.encode()) == after
    gone = ['"ctrl-shift-e" = "slips"', '"last.one" = "F9"', "['S P', \"F6\"]"]
    for line in BY_HAND.splitlines():
        assert (line in text) is not any(piece in line for piece in gone), line
    assert '"S P", "F6", "F7"]   # two of them' in text


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ('"a" = 3', "“a” needs keys"),
        ('"a" = []', ""),
        ('"a" = { kyes = ["F1"] }', "has no keys"),
        ('"a" = { keys = ["F1"], wyh = "x" }', "did you mean “why”?"),
        ('"a" = { keys = [3] }', "something that is no text"),
        ('"a" = [{ keys = "F1" }, 3]', "“a” needs keys"),
        ("a.b = 'F1'", "write it in quotation marks"),
        ("\n[keyless]\n'a' = 3", "needs a reason"),
        ("\n[gaurd]\n'F1' = 'x'", "did you mean “guard”?"),
    ],
)
def test_mistakes_are_named_with_their_line(line: str, says: str) -> None:
    text = f'format = "olive-compass-scheme/1"\n[assign]\n{line}\n'
    if not says:
        assert read_back(text.encode()).assign == {}
        return
    with pytest.raises(UserError) as refused:
        read_back(text.encode())
    assert says in refused.value.what
    assert refused.value.line >= 2


@given(st.text(max_size=8))
def test_cells_survive_a_spreadsheet(cell: str) -> None:
    safe = shielded(cell)
    assert restored(safe) == cell
    assert not safe.startswith(tuple("=+-@\t\r"))


commands = st.builds(
    Command,
    id=ids.map(lambda text: " ".join(text.split()) or "x"),
    title=texts.map(lambda text: " ".join(text.split()) or "t"),
    menu=st.lists(st.sampled_from(["Edit", "R&D", "Cut & paste", "=Sum", "A"]), max_size=3).map(
        tuple
    ),
    keys=st.lists(runs, max_size=3, unique=True).map(tuple),
    modes=st.lists(st.sampled_from(["draw", "label"]), max_size=2, unique=True).map(tuple),
    kind=st.sampled_from(["command", "style", "slot"]),
    does=texts.map(lambda text: " ".join(text.split())),
    line=st.just(0),
    marks=st.frozensets(
        st.sampled_from(["often", "irreversible", "needs:pro", "alternate:x.y", "red"]), max_size=2
    ).map(read_marks),
    inputs=st.sampled_from(["", "at:point ink:choice=black/blue"]),
)


@given(st.lists(commands, max_size=6, unique_by=lambda command: command.id))
def test_a_catalogue_reads_back_as_it_was(listed: list[Command]) -> None:
    lettered = [
        replace(command, access=("",) * len(command.menu) + (command.title[0].upper(),))
        if command.title[0].isascii() and command.title[0].isalnum()
        else replace(command, access=())
        for command in listed
    ]
    data = catalogue_file.write(Catalogue(tuple(lettered)), "pc")
    back = catalogue_file.read(data, "commands.csv", 0, "pc")
    assert [replace(command, line=0) for command in back.commands] == lettered
    assert back.unreadable == ()


def test_a_catalogue_has_the_keys_of_the_platform_and_those_elsewhere() -> None:
    rows = "id,title,keys,keys-mac\nsheet.save,Save,Ctrl+S,Meta+S\n"
    data = f"# olive-compass-commands/1\n{rows}".encode()
    for platform, here, elsewhere in (("pc", "Ctrl+S", "Meta+S"), ("mac", "Meta+S", "Ctrl+S")):
        (command,) = catalogue_file.read(data, "commands.csv", 0, platform).commands
        assert list(map(str, command.keys)) == [here]
        assert list(map(str, command.keys_elsewhere or ())) == [elsewhere]


def test_a_purpose_may_lack_its_title_but_a_row_with_neither_is_none() -> None:
    rows = "id,title,group,risk,names,quillmap\nsave,,,,,\n,,Sheet,,,\n"
    found = purposes_file.read(f"# olive-compass-purposes/1\n{rows}".encode(), "purposes.csv")
    assert [(each.id, each.title) for each in found.all] == [("save", "save")]
