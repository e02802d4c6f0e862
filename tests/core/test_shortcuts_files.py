"""An application's shortcuts file, read and written by a format: three made-up kinds of file."""

import json
import string

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.keys import terminal_notation
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.triggers import Run, stroke
from olive_compass.desk.formats.file_format_file import FORMAT, new_text
from olive_compass.desk.formats.file_format_file import read as read_file
from olive_compass.desk.shortcuts.delivery import opened
from olive_compass.desk.shortcuts.file_format import FileFormat, names_modes
from olive_compass.desk.shortcuts.shortcuts_content import Content, Unwritten, Wanted
from olive_compass.desk.shortcuts.shortcuts_file import read
from olive_compass.desk.shortcuts.shortcuts_writing import written as write_into
from olive_compass.desk.shortcuts.structures import records
from olive_compass.errors import UserError
from olive_compass.structs import replace

BLOCKS = FileFormat(
    name="blocks",
    pattern=r"bind (?P<id>[\w.-]+) \{\n\s*label \"(?P<title>[^\"\n]*)\"\n"
    r"(?:\s*in (?P<mode>\w+)\n)?\s*keys (?P<keys>[^\n]*)\n\}",
    entry='bind {id} {\n  label "{title}"\n  in {mode}\n  keys {keys}\n}',
    between="\n\n",
    none="none",
    spelling={"C-": "Ctrl+", "M-": "Alt+", "S-": "Shift+", "a": "A", "ret": "Enter"},
    modes={"everywhere": "all"},
)
FLAT = FileFormat(
    name="flat",
    pattern=r"^(?P<id>[\w.-]+)(?:@(?P<mode>\w+))? *= *(?P<keys>[^\n;]*)",
    entry="{id}@{mode} = {keys}",
    several="records",
    holds="changes",
    none="off",
    spelling={"Ctl-": "Ctrl+", "Sft-": "Shift+", "Opt-": "Alt+"},
)
NESTED = FileFormat(
    name="nested",
    pattern=r'"(?P<id>[\w.-]+)":\s*\{\s*"on":\s*\[(?P<keys>(?:"(?:\\.|[^"\\])*"|[^\]"])*)\]\s*\}',
    section=r'^\s*"(?P<mode>\w+)":\s*\{$',
    entry='"{id}": {"on": [{keys}]}',
    between=",\n    ",
    each='"{key}"',
    new_section=',\n  "{mode}": {\n    {entry}\n  }',
    section_end="\n  }",
    escapes={'"': '\\"', "\\": "\\\\"},
)


def written(
    form: FileFormat, text: str, wanted: list[Wanted], typed: int = 0
) -> tuple[str, list[Unwritten]]:
    """The file and what could not be written; the lines that are said to change are those that do."""
    made = write_into(form, text, wanted, typed)
    old, new = text.split("\n"), made.text.split("\n")
    changed = {line.was for line in made.lines} | {line.now for line in made.lines}
    assert {line for line in (*old, *new) if (line in old) != (line in new)} <= changed
    assert bool(made.lines) == (text != made.text)
    return made.text, list(made.unwritten)


MODES = ("everywhere", "draw", "label")
IDS = ("line.smooth", "line.split", "view.zoom-in", "help", "a-b.c")
KEYS = tuple(
    map(
        read_trigger,
        [
            "Ctrl+M",
            "F6",
            "Alt+Shift+B",
            "Ctrl+Enter",
            "Q",
            "G D",
            "Num5",
            'Ctrl+"',
            "\\",
            "Ctrl+Up",
            "Ctrl+,",
        ],
    )
)

states = st.dictionaries(
    st.tuples(st.sampled_from(IDS), st.sampled_from(MODES)),
    st.lists(st.sampled_from(KEYS), max_size=3, unique=True).map(tuple),
    max_size=8,
)
comments = st.lists(st.text(string.ascii_letters + " ", max_size=20), max_size=3)


def file_of(form: FileFormat, notes: list[str]) -> str:
    """A file without a record, with what the form does not match."""
    if form is NESTED:
        return '{\n  "draw": {\n  },\n  "label": {\n  }\n}\n'
    return "".join(f"# {note}\n" for note in notes) + "version 3\n"


def parts(id_: str) -> dict[str, str]:
    return {"id": id_, "title": id_.replace(".", " ").title()}


def wanted(state: dict[tuple[str, str], tuple[Run, ...]]) -> list[Wanted]:
    return [Wanted(parts(id_), mode, keys) for (id_, mode), keys in state.items()]


def state_of(content: Content) -> dict[tuple[str, str], frozenset[Run]]:
    found: dict[tuple[str, str], frozenset[Run]] = {}
    for each in content.entries:
        assert not each.problem, each
        key = (each.parts["id"], each.mode or "everywhere")
        found[key] = found.get(key, frozenset()) | frozenset(each.keys)
    return {key: keys for key, keys in found.items() if keys}


def sets(state: dict[tuple[str, str], tuple[Run, ...]]) -> dict[tuple[str, str], frozenset[Run]]:
    return {key: frozenset(keys) for key, keys in state.items() if keys}


@pytest.mark.parametrize("form", [BLOCKS, FLAT, NESTED], ids=lambda form: form.name)
@given(first=states, second=states, notes=comments)
def test_what_is_written_is_read_back_and_what_is_read_stays(
    form: FileFormat,
    first: dict[tuple[str, str], tuple[Run, ...]],
    second: dict[tuple[str, str], tuple[Run, ...]],
    notes: list[str],
) -> None:
    empty = file_of(form, notes)
    text, left = written(form, empty, wanted(first), 4)
    assert left == []
    content = read(form, text, 4)
    assert state_of(content) == sets(first)
    # Read and written again unchanged it is the same file.
    same = [
        Wanted(each.parts, each.mode, each.keys)
        for each in content.entries
        if form.several != "records"
    ] or wanted(first)
    assert written(form, text, same, 4)[0] == text
    # Another scheme in its place, and back.
    gone = {key: () for key in first if key not in second}
    there, left = written(form, text, wanted({**gone, **second}), 4)
    assert left == []
    assert state_of(read(form, there, 4)) == sets(second)
    if form is NESTED:
        json.loads(there)
    for note in notes if form is not NESTED else ():
        assert f"# {note}\n" in there


@given(first=states)
def test_what_nobody_speaks_of_stays_byte_for_byte(
    first: dict[tuple[str, str], tuple[Run, ...]],
) -> None:
    text, _ = written(BLOCKS, file_of(BLOCKS, ["mine"]), wanted(first), 4)
    odd = text + '\nbind their.own {\n  label "Odd"\n  keys ??? what\n}\n\ttail without a pattern'
    mine = {key: keys for key, keys in first.items() if key[0] == IDS[0]}
    other, _ = written(BLOCKS, odd, wanted(dict.fromkeys(mine, (KEYS[1],))), 4)
    assert 'bind their.own {\n  label "Odd"\n  keys ??? what\n}\n' in other
    assert other.endswith("\n\ttail without a pattern")
    theirs = [each for each in read(BLOCKS, odd, 4).entries if each.parts["id"] == "their.own"]
    assert "cannot read the key" in theirs[0].problem


def test_only_the_keys_of_a_record_change() -> None:
    text = "# mine\nline.smooth@draw   =   Ctl-M   ; by Klara\nhelp = F1\n"
    other, _ = written(FLAT, text, [Wanted(parts("line.smooth"), "draw", (KEYS[1],))])
    assert other == "# mine\nline.smooth@draw   =   F6; by Klara\nhelp = F1\n"
    gone, _ = written(FLAT, text, [Wanted(parts("help"), "", None)])
    assert gone == "# mine\nline.smooth@draw   =   Ctl-M   ; by Klara\n"
    off, _ = written(FLAT, text, [Wanted(parts("help"), "", ())])
    assert off.endswith("help = off\n")


def test_what_a_form_cannot_write_is_named() -> None:
    silent = replace(FLAT, entry="")
    _, left = written(silent, "a = F1\n", [Wanted(parts("help"), "", (KEYS[1],))])
    assert "does not say how a new record" in left[0].why
    first = replace(FLAT, several="first")
    _, left = written(first, "", [Wanted(parts("help"), "", KEYS[:2])])
    assert "room for one key" in left[0].why
    homeless = replace(NESTED, new_section="")
    _, left = written(
        homeless, '{\n  "draw": {\n  }\n}', [Wanted(parts("help"), "label", KEYS[:1])]
    )
    assert "no section for label" in left[0].why


@pytest.mark.parametrize("form", [BLOCKS, FLAT, NESTED], ids=lambda form: form.name)
def test_a_form_is_kept_as_it_is(form: FileFormat) -> None:
    data = new_text(replace(form, title="A form"))
    assert read_file(data, "fileformats/x.toml", form.name) == replace(form, title="A form")
    assert names_modes(form)


@pytest.mark.parametrize(
    ("lines", "says"),
    [
        ("pattern = '(?P<id>.*'", "cannot be read"),
        ("pattern = '(?P<keys>.*)'", "names the keys and the command"),
        ("pattern = '(?P<id>a)(?P<keys>.*)(?P<knob>b)'", "no group of a form"),
        ("pattern = '(?P<id>a)(?P<keys>.*)'\nsection = 'x'", "names the mode"),
        ("pattern = '(?P<id>a)(?P<keys>.*)'\neach = 'x'", "has {key} in it"),
        ("pattern = '(?P<id>a)(?P<keys>.*)'\nentry = 'x'", "has {keys} in it"),
        ("pattern = '(?P<id>a)(?P<keys>.*)'\nseveral = 'x'", "one of first, joined, records"),
        ("pattern = '(?P<id>a)(?P<keys>.*)'\n[escapes]\n'\"' = '\\\"'", "must be escaped as well"),
        ("pattern = '(?P<id>a)(?P<keys>.*)'\n[spelling]\nx = 'nothing'", "no modifier and no key"),
    ],
)
def test_a_form_that_cannot_work_is_refused_with_its_line(lines: str, says: str) -> None:
    with pytest.raises(UserError) as refused:
        read_file(f'format = "{FORMAT}"\n{lines}\n'.encode(), "fileformats/x.toml", "x")
    assert says in refused.value.what
    assert refused.value.line >= 2


@pytest.mark.parametrize(
    "data", [b"a\r\nb\r\n", "ä\n".encode("utf-16"), b"\xef\xbb\xbfx\n", b"\xe4\n", b"a\r\nb\n"]
)
def test_a_file_is_written_in_its_own_encoding(data: bytes) -> None:
    text = opened(data)
    assert text.encode(text.text) == data


@pytest.mark.parametrize("notation", ["caret", "backslash"])
@given(
    st.lists(
        st.tuples(
            st.sampled_from(
                [(), ("Ctrl",), ("Alt",), ("Ctrl", "Alt"), ("Shift",), ("Alt", "Shift")]
            ),
            st.sampled_from(
                [*"ABXYZ019-+=/", "F5", "Up", "Delete", "Space", "own:XF99", '"', "\\"]
            ),
        ),
        min_size=1,
        max_size=3,
    )
)
def test_what_terminals_write_is_read_back(
    notation: str, strokes: list[tuple[tuple[str, ...], str]]
) -> None:
    words = (
        {"\\e[A": "Up", "\\e[3~": "Delete"}
        if notation == "backslash"
        else {"<Up>": "Up", "<Del>": "Delete"}
    )
    run = Run(tuple(stroke(key, *held) for held, key in strokes))
    try:
        text = terminal_notation.write(run, notation, words, capitals=True)
    except terminal_notation.NotWrittenError as error:
        assert "no way to write" in str(error)
        return
    # The application's own words are cut out as words of the file only.
    if "XF99" not in text:
        assert terminal_notation.read(text, notation, words, capitals=True) == run


def test_codes_and_signs_of_terminals() -> None:
    def read_so(text: str, notation: str = "backslash") -> str:
        return str(terminal_notation.read(text, notation, {"\\e[3~": "Delete"}))

    assert [read_so(text) for text in ("\\033f", "\\x1bf", "\\M-f", "\\ef")] == ["Alt+F"] * 4
    assert read_so("\\C-x\\C-g") == "Ctrl+X Ctrl+G"
    assert read_so("\\C-x\\e[3~") == "Ctrl+X Delete"
    assert read_so("\\e[99~") == "own:\\e[99~"
    assert read_so("\\001") == "Ctrl+A"
    assert read_so("\\t\\e") == "Tab Escape"
    carets = [
        read_so(text, "caret")
        for text in ("^K", "^[", "^?", "^]", "^\\", "^@", "^", "M-x", "^X^V", ":q")
    ]
    assert carets == [
        "Ctrl+K",
        "Escape",
        "Backspace",
        "Ctrl+]",
        "Ctrl+\\",
        "Ctrl+@",
        "^",
        "Alt+X",
        "Ctrl+X Ctrl+V",
        ": Q",
    ]
    for wrong in ("", "\\q", "\\C-"):
        with pytest.raises(terminal_notation.NotWrittenError):
            read_so(wrong)


@pytest.mark.parametrize(
    ("text", "fields", "told"),
    [
        (
            '{"draw": {"Save": "Ctrl+S", "Join": "J"}}',
            {"title": ":name", "keys": ":value", "mode": "^"},
            [
                {"title": "Save", "keys": "Ctrl+S", "mode": "draw"},
                {"title": "Join", "keys": "J", "mode": "draw"},
            ],
        ),
        (
            '{"where": "draw", "all": [{"id": "a", "keys": "F1"}, {"id": "b"}]}',
            {"id": "id", "keys": "keys", "mode": "where"},
            [{"id": "a", "keys": "F1", "mode": "draw"}],
        ),
        (
            '{"ü": {"keys": ["F1","F2"], "id": "é"}}',
            {"id": "id", "keys": "keys"},
            [{"id": "é", "keys": '"F1","F2"'}],
        ),
    ],
)
def test_records_of_json_say_where_their_parts_stand(
    text: str, fields: dict[str, str], told: list[dict[str, str]]
) -> None:
    found, _ = records("json", "", fields, text)
    assert [record.groupdict() for record in found] == told
    for record in found:
        for name, part in record.groupdict().items():
            start, end = record.span(name)
            # What is a name around the records stands at none of them.
            assert text[start:end] in (part, "")


def test_what_is_no_json_is_refused_with_the_line_where_it_ends() -> None:
    with pytest.raises(UserError, match="something is wrong in line 2"):
        records("json", "", {"keys": "keys"}, '{"a": 1,\n "b": }\n')
