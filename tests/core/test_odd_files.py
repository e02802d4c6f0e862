"""Whatever a file of macros, logs, documents or exports holds, it is read or refused with its place."""

import json
from collections.abc import Callable

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.macros.cleaning import suspects, tidied
from olive_compass.core.macros.document import Document
from olive_compass.core.macros.macro import Macro
from olive_compass.core.macros.playing import World, play
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.sharing.rows import DecisionRow, scheme_of
from olive_compass.desk.formats import (
    document_file,
    keyset_file,
    log_file,
    macro_file,
    purposes_file,
)
from olive_compass.desk.formats.desk_file import read as read_desk
from olive_compass.drawing.exports import read_json
from olive_compass.errors import UserError

TEXTS = st.sampled_from(
    ["", "a", "place", "1,2", "{step 1}", "{step 2 at +1 +2}", "macro.m", "Ctrl+S", "é\x1b"]
)
LEAVES = st.one_of(st.none(), st.booleans(), st.integers(-5, 5), st.floats(-2, 2), TEXTS)
VALUES = st.recursive(
    LEAVES,
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(TEXTS, inner, max_size=3),
    max_leaves=8,
)
STEP_KEYS = st.sampled_from(["command", "press", "inputs", "ask", "keep", "note", "ended", "x"])
STEPS = st.dictionaries(STEP_KEYS, st.dictionaries(TEXTS, TEXTS, max_size=2) | TEXTS | VALUES)


def toml(value: object) -> str | None:
    """A value as TOML, None where TOML has no such value."""
    if value is None:
        return None
    if isinstance(value, dict):
        parts = [f"{json.dumps(k)} = {t}" for k, v in value.items() if (t := toml(v)) is not None]
        return f"{{ {', '.join(parts)} }}"
    if isinstance(value, list):
        return f"[{', '.join(t for v in value if (t := toml(v)) is not None)}]"
    return json.dumps(value)


@given(st.lists(STEPS, max_size=3), st.dictionaries(TEXTS, VALUES, max_size=2))
def test_macros(steps: list[dict[str, object]], head: dict[str, object]) -> None:
    lines = ['format = "olive-compass-macro/1"']
    lines += [f"{json.dumps(k)} = {t}" for k, v in head.items() if (t := toml(v)) is not None]
    for step in steps:
        lines += ["[[steps]]"]
        lines += [f"{json.dumps(k)} = {t}" for k, v in step.items() if (t := toml(v)) is not None]
    data = "\n".join(lines).encode()
    try:
        macro = macro_file.read(data, "m.toml", "app", "m")
    except UserError as refused:
        assert refused.line >= 1
        return
    assert isinstance(macro, Macro)
    commands = (
        Command(id="place", title="Place", kind="part"),
        Command(id="a", title="A"),
        macro.command,
    )
    app = App(
        name="app",
        title="App",
        version="1",
        modes=ModeTree({}),
        rules=Rules(),
        catalogue=Catalogue(commands),
    )
    played = play(World(app, {"m": macro}), macro, Document(), {"at": "1,2"})
    assert played.stopped is None or played.stopped.says
    assert suspects(app, macro) is not None
    assert tidied(app, macro).macro.app == "app"


READERS: list[Callable[[bytes], object]] = [
    lambda data: document_file.read(data, "f"),
    lambda data: log_file.read(data, "f.jsonl"),
    lambda data: log_file.read(data, "f.csv"),
    lambda data: keyset_file.read(data, "f", "k"),
    lambda data: purposes_file.read(data, "f"),
    lambda data: macro_file.read(data, "f", "app", "m"),
    lambda data: read_desk(data, "f"),
]
HEADS = st.sampled_from(
    [
        b"",
        b'{"format": "olive-compass-log/1"}\n',
        b"# olive-compass-purposes/1\nid,title,app\n",
        b'format = "olive-compass-keyset/1"\n[keys]\n',
        b'format = "olive-compass-macro/1"\n[[steps]]\n',
        b'format = "olive-compass-desk/1"\n[house]\n',
        b"command,time\n",
    ]
)


@given(
    st.sampled_from(READERS), HEADS, st.binary(max_size=40) | st.text(max_size=40).map(str.encode)
)
def test_bytes(reader: Callable[[bytes], object], head: bytes, rest: bytes) -> None:
    try:
        reader(head + rest)
    except UserError as refused:
        assert str(refused)


@given(
    st.dictionaries(
        st.sampled_from(sorted(document_file.DocumentTable.__struct_encode_fields__)), VALUES
    )
)
def test_documents(content: dict[str, object]) -> None:
    data = json.dumps({**content, "format": document_file.FORMAT}).encode()
    try:
        document = document_file.read(data, "d.json")
    except UserError:
        return
    assert document_file.read(document_file.text(document), "d.json") == document


@given(VALUES, VALUES)
def test_logs_line_by_line(one: object, other: object) -> None:
    lines = [log_file.head_line("app", "1", "now").strip(), json.dumps(one), json.dumps(other), "{"]
    log = log_file.read("\n".join(lines).encode(), "l.jsonl")
    assert len(log.events) + len(log.set_aside) == 3


@given(VALUES, st.lists(VALUES, max_size=3))
def test_exports(whole: object, decisions: list[object]) -> None:
    for value in (whole, {"format": "olive-compass-export/1", "decisions": decisions}):
        try:
            _, rows = read_json(value)
            scheme = scheme_of(Scheme(app="app", name="x"), rows, 0)
        except ValueError as error:
            assert str(error)
            continue
        assert scheme.app == "app"


@pytest.mark.parametrize(
    ("row", "says"),
    [
        (DecisionRow(decision="assign", subject="", keys="F1"), "does not say of what"),
        (DecisionRow(decision="assign", subject="save"), "names no key"),
        (DecisionRow(decision="assign", subject="save", keys="Crtl+S"), "row 1"),
        (DecisionRow(decision="asign", subject="save", keys="F1"), "is none of assign"),
        (DecisionRow(decision="mute", subject=""), "names no key"),
        (DecisionRow(decision="keyless", subject=""), "does not say of what"),
    ],
)
def test_rows_that_make_no_decision(row: DecisionRow, says: str) -> None:
    with pytest.raises(ValueError, match=says):
        scheme_of(Scheme(app="app", name="x"), [row], 0)
