"""The laws of delivering: no decision, no byte; only what was decided; what cannot be read stays."""

import json
import shlex
from pathlib import Path
from xml.sax.saxutils import escape, quoteattr

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from olive_compass.core.apps.app import App
from olive_compass.core.apps.listing import read_listing
from olive_compass.core.apps.listing_result import ListingRequest
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Assignment, Scheme
from olive_compass.desk.formats.file_format_file import read as read_form
from olive_compass.desk.shortcuts.delivery import opened
from olive_compass.desk.shortcuts.delivery_plans import plan_delivery
from olive_compass.desk.shortcuts.delivery_target import Target
from olive_compass.desk.shortcuts.shortcuts_file import read as read_file_of
from olive_compass.desk.shortcuts.shortcuts_rows import read as rows_of_file
from olive_compass.errors import UserError
from tests.conftest import Ask, ask_in

LINES = r"""format = "olive-compass-fileformat/1"
pattern = '^bind +(?P<keys>\S.*?) +=> +(?P<id>\S.*)$'
entry = "bind {keys} => {id}"
several = "records"
"""
JOINED = r"""format = "olive-compass-fileformat/1"
pattern = '^(?P<id>[^=#\n]+?) *= *(?P<keys>.*)$'
section = '^\[(?P<mode>(?!end)\w+)\]$'
section-end = "\n[end]\n"
entry = "{id} = {keys}"
join = " | "
none = "-"
"""
OFF = 'holds = "keys"\noff = "unbind {keys}"\noff-pattern = \'^unbind +(?P<keys>.+)$\'\n'
TITLES = r"""format = "olive-compass-fileformat/1"
pattern = '^(?P<title>[^\t\n]+)\t(?P<keys>.*)$'
entry = "{title}\t{keys}"
join = ", "
"""

XML = """format = "olive-compass-fileformat/1"
structure = "xml"
records = ".//binding"
entry = '<binding key="{keys}" command="{id}"/>'
between = "\\n    "
several = "records"
[fields]
keys = "@key"
id = "@command"
mode = "context@name"
"""
JSON = """format = "olive-compass-fileformat/1"
structure = "json"
entry = '{ "command": "{id}", "keys": [{keys}] }'
between = ",\\n    "
each = '"{key}"'
[fields]
keys = "keys"
id = "command"
mode = "^"
"""
PLIST = """format = "olive-compass-fileformat/1"
structure = "plist"
entry = "<dict><key>where</key><string>{mode}</string><key>key</key><string>{keys}</string><key>command</key><string>{id}</string></dict>"
between = "\\n"
[fields]
keys = "key"
id = "command"
mode = "where"
"""
PAIRS = """format = "olive-compass-fileformat/1"
structure = "json"
records = "keys"
entry = '"{keys}": "{id}"'
between = ", "
several = "records"
[fields]
keys = ":name"
id = ":value"
"""
PLIST_PAIRS = """format = "olive-compass-fileformat/1"
structure = "plist"
entry = "<key>{id}</key>\\n<string>{keys}</string>"
between = "\\n"
[fields]
keys = ":value"
id = ":name"
mode = "^"
"""
TERMINAL = r"""format = "olive-compass-fileformat/1"
pattern = '^(?P<keys>[^\s#]\S*)\t(?P<id>\w.*)$'
section = '^#(?P<mode>\w+)$'
outside = "draw"
entry = "{keys}\t{id}"
new-section = "#{mode}\n{entry}\n"
several = "records"
holds = "keys"
notation = "caret"
off = "{keys}\tinvalid"
off-pattern = '^(?P<keys>[^\s#]\S*)\tinvalid$'
"""
#: The kinds of files that the laws are held against, by what they are.
KINDS = {
    "lines": LINES,
    "cells of several keys": JOINED,
    "titles": TITLES,
    "keys that are switched off": LINES + OFF,
    "elements": XML,
    "objects": JSON,
    "property lists": PLIST,
    "pairs": PAIRS,
    "pairs of a property list": PLIST_PAIRS,
    "a terminal's": TERMINAL,
}


def desk_with(tmp_path: Path, form: str, text: str) -> tuple[Ask, Path]:
    """A desk with one application, read from its own file by a form."""
    folder = tmp_path / "desk"
    ask_in(tmp_path, "desk", "new", str(folder))
    file = tmp_path / "own.keys"
    file.write_bytes(text.encode())
    (folder / "fileformats").mkdir()
    (folder / "fileformats" / "own.toml").write_text(form)

    def ask(*words: str, **more: str):  # type: ignore[no-untyped-def]
        return ask_in(folder, *words, **more)

    added = ask("app", "import", "Own", "--from", str(file), "--file-format", "own", "--yes")
    assert added.status == 0, added.err
    ask("scheme", "new", "own/mine")
    return ask, file


def deliver(ask: Ask, file: Path, *words: str) -> str:
    done = ask("deliver", "own", "--to", str(file), "--file-format", "own", "--yes", *words)
    assert done.status == 0, done.err
    return file.read_text()


FILES = {
    "elements": (
        XML,
        "<?xml version='1.0'?>\n<!-- mine: <binding key='F1' command='x'/> -->\n<keys>\n  <context name='draw'>\n"
        "    <binding key=\"Ctrl+&lt;\"   command='line.smooth' />\n"
        "    <binding command=\"cut &amp; paste\" key='XF99'><note>é</note></binding>\n  </context>\n"
        "  <binding command='help' key='F1'/>\n</keys>\n",
    ),
    "objects with comments": (
        JSON,
        '// mine\n{\n  "version": 3, /* é */\n  "draw": [\n    { "command": "smooth", "keys": ["Ctrl+M", "XF99"] },\n'
        '    { "keys": ["Ctrl+\\"", "@@"], "command": "cut" } // last\n  ],\n  "text": []\n}\n',
    ),
    "a property list": (
        PLIST,
        "<?xml version='1.0'?>\n<plist version='1.0'><dict>\n<!-- mine -->\n<key>v</key><integer>3</integer>\n"
        "<key>all</key><array>\n<dict><key>key</key><string>F5</string> <key>command</key><string>a &amp; b</string></dict>\n"
        "<dict><key>command</key><string>é</string><key>key</key><array><string>XF99</string> <string>F6</string></array></dict>"
        "\n</array></dict></plist>\n",
    ),
    "pairs": (
        PAIRS,
        '{"v": "1", "keys": { // é\n  "F5" : "open",\n  "XF99": "save",\n  "@@": "save" }}',
    ),
    "an unreadable key": (LINES, "bind F5 => open\nbind XF99 => save it\nbind @@ => close\n"),
    "a command with one unreadable key of several": (
        JOINED,
        "[draw]\nline = F5 | XF99 | Ctrl+K\ncut = @@ | F6\n",
    ),
    "records outside sections": (
        JOINED,
        "help = F1\n[draw]\nline = F5\n[end]\n\nquit = Ctrl+Q\nzoom = -\n",
    ),
    "a title-only format": (
        TITLES,
        "Smooth\tF5\nSmooth\tF6\nCut\tCtrl+X, Ctrl+X\nsmooth\tF7\n",
    ),
    "one id in two modes": (JOINED, "[draw]\nline = F5\n[text]\nline = F6\n[draw]\nline = F7\n"),
    "capitals": (
        LINES,
        "bind f => find\nbind F => find all\nbind g => go  there\nbind G => go there\n",
    ),
    "carets": (
        LINES,
        "bind ^K => cut\nbind ^[ => leave\nbind ^@ => mark\nbind ^ => up\nbind ^? => erase\n",
    ),
    "blanks, comments and odd ends of lines": (
        JOINED,
        "# keys of mine\r\n[draw]\r\nline   =   F5\nerase =\n; = | -\n\n[text]\n  line = F6  \n[draw]\nline = f5",
    ),
}


@pytest.mark.parametrize("what", FILES)
def test_no_decision_no_byte(what: str, tmp_path: Path) -> None:
    form, text = FILES[what]
    ask, file = desk_with(tmp_path, form, text)
    before = file.read_bytes()
    deliver(ask, file)
    assert file.read_bytes() == before
    tried = ask("fileformat", "try", "own", str(file))
    assert tried.status in (0, 1), tried.err


def test_only_what_was_decided_changes_and_taking_it_back_brings_the_file_back(
    tmp_path: Path,
) -> None:
    form, text = FILES["a command with one unreadable key of several"]
    ask, file = desk_with(tmp_path, form, text)
    ask("assign", "own", "line", "F9")
    after = deliver(ask, file)
    assert after == text.replace("line = F5 | XF99 | Ctrl+K", "line = F9 | F5 | XF99 | Ctrl+K")
    ask("clear", "own", "line", "F9")
    assert deliver(ask, file) == text
    # What somebody changed over there, and nobody decided here, stays.
    file.write_text(text.replace("cut = @@ | F6", "cut = @@ | F7"))
    ask("assign", "own", "line", "F9")
    assert "cut = @@ | F7" in deliver(ask, file)


def test_records_outside_sections_are_of_everywhere(tmp_path: Path) -> None:
    form, text = FILES["records outside sections"]
    ask, file = desk_with(tmp_path, form, text)
    found = ask("find", "--app", "own", "--json").json["hits"]
    modes = {c["command"]: c["modes"] for c in found}
    assert modes == {"help": [], "line": ["draw"], "quit": [], "zoom": []}
    ask("assign", "own", "zoom", "F8")
    assert deliver(ask, file) == text.replace("zoom = -", "zoom = F8")


def test_a_format_is_told_from_a_line_of_the_file(tmp_path: Path) -> None:
    """Named by example: what the lines have in common is the pattern, and what it does not match is shown."""
    text = (
        '; keys of the loom\nkey f "Find thread"  (weave)\nkey F "Find all"  (weave)\n'
        'key Ctrl+B "Break"  (always)\nPEDAL left lift-shaft\n'
    )
    ask, file = desk_with(tmp_path, LINES, "bind F5 => open\n")
    file.write_text(text)
    first = ("--example", 'key f "Find thread"  (weave)', "--key", "f", "--command", "Find thread")
    made = ask(
        "fileformat", "new", "loom", "--from", str(file), *first, "--mode", "weave", "--titled"
    )
    assert made.status == 0, made.err
    assert "It matches 3 records." in made.out
    assert "the first is line 1: ; keys of the loom" in made.out
    tried = ask("fileformat", "try", "loom", str(file), "--verbose").out
    assert "A capital letter is that letter with Shift." in tried
    assert "Find all     weave   Shift+F" in tried
    assert "Passed over: line 5: PEDAL left lift-shaft" in tried
    assert tried.endswith("A delivery without decisions would change nothing.\n")
    # Kept in the format, and one field changed.
    kept = (tmp_path / "desk/fileformats/loom.toml").read_text()
    assert 'capitals = "shift"' in kept
    assert ask("fileformat", "set", "loom", "none", "nothing").status == 0
    assert 'none = "nothing"' in (tmp_path / "desk/fileformats/loom.toml").read_text()
    for words, says in (
        (
            ("new", "x", "--example", "a = b"),
            "An example needs a line with its key and its command",
        ),
        (
            ("new", "x", "--example", "a = b", "--key", "c", "--command", "a"),
            "“c” is not in “a = b”",
        ),
        (
            ("new", "x", "--from", str(file), "--pattern", "^no (?P<keys>x) (?P<id>y)$"),
            "matches nothing",
        ),
        (("set", "loom", "several", "many"), "“several” is one of"),
        (("set", "nosuch", "none", "x"), "There is no file format"),
        (("remove", "multiplexer"), "ships with the program"),
    ):
        answer = ask("fileformat", *words)
        assert (answer.status, says in answer.err) == (2, True), answer.err
    # One that ships is changed on the desk, and there only.
    assert ask("fileformat", "set", "multiplexer", "title", "Mine").status == 0
    assert "this desk" in ask("fileformat", "list").out


def test_words_for_keys_that_nobody_knows_are_named_and_explained_once(tmp_path: Path) -> None:
    text = "# keys\nshuttle <C-r> reset  # from the start\nshuttle <A-j> next\nshuttle f find\nshuttle F all\n"
    ask, file = desk_with(tmp_path, LINES, "bind F5 => open\n")
    file.write_text(text)
    line = "shuttle <C-r> reset  # from the start"
    example = ("--example", line, "--key", "<C-r>", "--command", "reset")
    made = ask("fileformat", "new", "loom", "--from", str(file), *example)
    assert "It matches 4 records." in made.out
    assert "2 keys kept as the file writes them: <C-r> and <A-j>." in made.out
    (told,) = [each for each in made.out.splitlines() if each.startswith("If C- stands for")]
    words = shlex.split(told.partition("olive-compass ")[2])
    assert ask(*words).status == 0
    tried = ask("fileformat", "try", "loom", str(file), "--json").json
    assert [each["keys"] for each in tried["records"]][:2] == [["Ctrl+R"], ["own:<A-j>"]]
    assert tried["unknown-words"] == [{"word": "A-", "times": 1, "proposal": "Alt+"}]
    answer = ask("app", "import", "Loom", "--from", str(file), "--file-format", "loom")
    assert "1 key kept as the file writes them" in answer.out
    refused = ask("fileformat", "set", "loom", "spelling", "A-Alt+")
    assert (refused.status, refused.err) == (2, "olive-compass: “A-Alt+” has no “=”. Write A=B.\n")
    assert (
        "A format needs a line of the file"
        in ask("fileformat", "new", "y", "--from", str(file)).err
    )


def test_a_key_in_angle_brackets_is_written_in_angle_brackets(tmp_path: Path) -> None:
    text = "shuttle <C-r> reset\nshuttle q quit\nshuttle gg first\nshuttle <esc> leave\n"
    ask, file = desk_with(tmp_path, LINES, "bind F5 => open\n")
    file.write_text(text)
    example = ("--example", "shuttle <C-r> reset", "--key", "<C-r>", "--command", "reset")
    ask("fileformat", "new", "loom", "--from", str(file), *example, "--spell", "C-=Ctrl+")
    tried = ask("fileformat", "try", "loom", str(file)).out
    # The file has its own word for Escape; letters typed one after another stay as they are.
    assert (
        "1 key would be spelt differently if they moved: <esc> (we would write <Escape>)" in tried
    )
    ask("app", "import", "Loom", "--from", str(file), "--file-format", "loom", "--yes")
    ask("scheme", "new", "loom/mine")
    for command, key in (("quit", "Ctrl+K"), ("leave", "X"), ("reset", "F4")):
        assert ask("assign", "loom", command, key, "--instead", "--why", "x").status == 0
    done = ask("deliver", "loom", "--to", str(file), "--file-format", "loom", "--yes")
    assert done.status == 0, done.err
    assert file.read_text() == (
        "shuttle <F4> reset\nshuttle <C-k> quit\nshuttle gg first\nshuttle x leave\n"
    )


def test_capitals_are_written_as_the_file_has_them(tmp_path: Path) -> None:
    form, text = FILES["capitals"]
    ask, file = desk_with(tmp_path, form, text)
    found = {c["command"]: c["keys"] for c in ask("find", "--app", "own", "--json").json["hits"]}
    assert (found["find"], found["find all"]) == (
        [{**found["find"][0]}],
        [{**found["find all"][0]}],
    )
    assert found["find all"][0]["key"] == "Shift+F"
    ask("assign", "own", "go  there", "Shift+X", "--instead")
    ask("assign", "own", "go there", "X", "--instead")
    assert deliver(ask, file) == text.replace("bind g =>", "bind X =>").replace(
        "bind G =>", "bind x =>"
    )


def test_keys_that_are_switched_off(tmp_path: Path) -> None:
    form = (
        LINES + 'holds = "keys"\noff = "unbind {keys}"\noff-pattern = \'^unbind +(?P<keys>.+)$\'\n'
    )
    listing = "bind F5 => open\nbind F6 => save\nbind F7 => close\n"
    ask, file = desk_with(tmp_path, form, listing)
    own = "# mine\nunbind F7\nbind F9 => save\n"
    file.write_text(own)
    assert deliver(ask, file) == own
    ask("assign", "own", "open", "F6", "--instead", "--if-taken", "replace")
    ask("keyless", "own", "save", "--why", "never by key")
    assert deliver(ask, file) == "# mine\nunbind F7\nbind F6 => open\nunbind F5\n"
    ask("undo", "3")
    deliver(ask, file)
    seen = ask("deliver", "own", "--check", "--json").json
    assert seen["unreadable"] == []


def test_a_file_of_changes_that_is_not_there_yet(tmp_path: Path) -> None:
    ask, file = desk_with(tmp_path, LINES + OFF, "bind F5 => open\nbind F6 => save\n")
    ask("assign", "own", "save", "F9", "--instead")
    file.unlink()
    words = ("deliver", "own", "--to", str(file), "--file-format", "own")
    shown = ask(*words, "--dry-run", "--json").json
    assert [(d["command"], d["was"], d["keys"]) for d in shown["differences"]] == [
        ("save", ["F6"], ["F9"])
    ]
    done = ask(*words, "--yes")
    assert "a new file" in done.out
    assert file.read_text() == "bind F9 => save\nunbind F6\n"


def test_a_misspelt_command_over_there_is_named_and_no_key_is_lost(tmp_path: Path) -> None:
    ask, file = desk_with(tmp_path, JOINED, "[draw]\nsmooth = F5\ncut = F6\n")
    deliver(ask, file)
    file.write_text("[draw]\nsmoth = F5\ncut = F7\n")
    taken = ask("deliver", "own", "--import-changes", "--dry-run")
    assert "Not imported: smoth, which is no command of Own here. Did you mean smooth?" in taken.out
    assert "Cut: F6 before, F7 now" in taken.out
    assert "Smooth: F5" not in taken.out


# Random files: nothing of what stands in them is of anybody's making.

KEYS = st.sampled_from(
    [
        "F5",
        "f",
        "F",
        "g",
        "G",
        "Ctrl+K",
        "^K",
        "^[",
        "XF99",
        "@@",
        "M-x",
        "C-x C-s",
        "see below",
        "Ctrl+Shift+Up",
        "Esc",
        "9",
        "+",
        "-",
        ",",
        "Alt+F4",
        "PageUp",
        "%%",
        " ",
        "ctrl+k",
        "Num5",
    ]
)
CODES = st.sampled_from(
    ["^K", "^X^V", "f", "F", ":q", "^[", "M-x", "XF99", "^@", "\\\\", "+", "F5"]
)
NAMES = st.sampled_from(
    [
        "open",
        "Open",
        "save it",
        "save  it",
        "line.smooth",
        "draw/line",
        "go +5",
        "go -5",
        "éà",
        "x",
        "quit  ",
        "Draw",
        "a-b_c.d",
    ]
)
NOISE = st.sampled_from(
    ["", "# a note", "set x 5", "\t", "bind broken", "[end]", "= =", "[odd", "}", "…"]
)


@st.composite
def structured_files(draw: st.DrawFn, kind: str) -> str:
    parts: dict[str, list[str]] = {}
    for _ in range(draw(st.integers(0, 8))):
        mode = draw(st.sampled_from(["draw", "Text", "everywhere"]))
        record = {XML: _element, JSON: _object, PLIST: _dictionary}.get(kind, _pair)
        parts.setdefault(mode, []).append(record(draw, kind, draw(KEYS), draw(NAMES)))
    if kind == XML:
        inside = "".join(
            f"\n<context name='{mode}'><!-- é -->{'  '.join(some)}</context>"
            for mode, some in parts.items()
        )
        return f"<?xml version='1.0'?><keys>{inside}\n</keys>"
    if kind in (PLIST, PLIST_PAIRS):
        tag = "array" if kind == PLIST else "dict"
        inside = "".join(
            f"\n<key>{mode}</key><{tag}><!-- é -->{'  '.join(some)}</{tag}>"
            for mode, some in parts.items()
        )
        return f"<plist><dict><key>v</key><integer>3</integer>{inside}\n</dict></plist>"
    if kind == PAIRS:
        # A name stands once in an object.
        some = list(dict.fromkeys(each for inner in parts.values() for each in inner))
        return f'{{"v": "1", "keys": {{ // é\n{", ".join(some)}}}}}\n'
    lists = [f'"{mode}": [ // é\n{", ".join(some)}]' for mode, some in parts.items()]
    return "{" + ",\n".join(['"v": 1', *lists]) + "}\n"


def _element(draw: st.DrawFn, kind: str, key: str, name: str) -> str:
    quote = draw(st.sampled_from("\"'"))
    blanks = " " * draw(st.integers(1, 3))
    return f"<binding{blanks}key={quoteattr(key)} x='é'\n command={quote}{name}{quote}/>"


def _object(draw: st.DrawFn, kind: str, key: str, name: str) -> str:
    more = draw(st.lists(KEYS, max_size=2))
    keys = json.dumps(key) if not more and draw(st.booleans()) else json.dumps([key, *more])
    made = [f'"keys": {keys}', f'"command": {json.dumps(name, ensure_ascii=False)}', '"x": null']
    return f"{{ {', '.join(draw(st.permutations(made)))} }}"


def _dictionary(draw: st.DrawFn, kind: str, key: str, name: str) -> str:
    texts = [
        f"<string>{escape(each)}</string>" for each in [key, *draw(st.lists(KEYS, max_size=2))]
    ]
    keys = texts[0] if len(texts) == 1 else f"<array>{' '.join(texts)}</array>"
    made = [f"<key>key</key>{keys}", f"<key>command</key> <string>{name}</string>"]
    if draw(st.booleans()):
        made.append("<key>where</key><string>draw</string>")
    return f"<dict>{''.join(draw(st.permutations(made)))}<key>x</key><true/></dict>"


def _pair(draw: st.DrawFn, kind: str, key: str, name: str) -> str:
    if kind == PAIRS:
        return f"{json.dumps(key)}: {json.dumps(name, ensure_ascii=False)}"
    return f"<key>{name}</key>\n<string>{escape(key)}</string>"


@st.composite
def random_files(draw: st.DrawFn, *kinds: str) -> tuple[str, str]:
    """The format, one of ``kinds`` or of all, and the text of a file."""
    kind = draw(st.sampled_from(kinds or tuple(KINDS.values())))
    if "structure" in kind:
        return kind, draw(structured_files(kind))
    lines = []
    for _ in range(draw(st.integers(0, 12))):
        what = draw(st.integers(0, 5))
        key, name = draw(KEYS), draw(NAMES)
        if what == 0:
            lines.append(draw(NOISE))
        elif what == 1 and kind == TERMINAL:
            lines.append(draw(st.sampled_from(["#draw", "#Text", "# note", "^K\tinvalid"])))
        elif what == 1:
            lines.append(draw(st.sampled_from(["[draw]", "[Text]", "[end]", "", "unbind F7"])))
        elif kind == TERMINAL:
            lines.append(f"{draw(CODES)}\t{name}")
        elif kind.startswith(LINES):
            lines.append(f"bind {key}{' ' * draw(st.integers(1, 3))}=> {name}")
        elif kind == JOINED:
            lines.append(
                f"{name} = {draw(st.sampled_from(['', '-', key, f'{key} | F6', f'{key} | {key}']))}"
            )
        else:
            lines.append(f"{name}\t{key}, {draw(KEYS)}")
    end = draw(st.sampled_from(["\n", "\r\n", "\n\n"]))
    return kind, end.join(lines) + draw(st.sampled_from(["", end]))


def random_target(kind: str, text: str) -> tuple[App, Target]:
    """The application that such a file makes, and the file as one to deliver into."""
    form = read_form(kind.encode(), "own.toml", "own")
    data = text.encode()
    rows = rows_of_file(form, data).rows
    listing = read_listing(rows, ListingRequest())
    parents = dict.fromkeys((m for m in listing.modes if m != "everywhere"), "everywhere")
    app = App(
        name="own",
        title="Own",
        version="",
        modes=ModeTree(parents),
        rules=Rules(duplicates="choice", longest_sequence=4),
        catalogue=listing.catalogue,
    )
    content = read_file_of(form, opened(data).text)
    return app, Target(
        path="own", form=content.form, data=data, text=opened(data), content=content, last=None
    )


@given(random_files())
@settings(suppress_health_check=list(HealthCheck), deadline=None)
def test_the_laws_hold_on_random_files(made: tuple[str, str]) -> None:
    kind, text = made
    try:
        app, found = random_target(kind, text)
    except LookupError:
        # Nothing in it is a record.
        return
    board = Keyboard("pc")
    nothing = plan_delivery(app, Keymap(Stack(app, ()), board), found)
    # L1: no decision, no byte.
    assert (nothing.data, nothing.lines) == (found.data, ())
    for command in app.catalogue.commands[:3]:
        mine = Scheme(
            app="own", name="mine", assign={command.id: (Assignment(keys=(read_trigger("F11"),)),)}
        )
        try:
            plan = plan_delivery(app, Keymap(Stack(app, (mine,)), board), found)
        except UserError as refused:
            # L3: what would not be read back is refused, and the file stays.
            assert "nothing was changed" in str(refused)
            continue
        # L2: only records of this command change, and its key is there unless that was said (L4).
        after = read_file_of(found.form, opened(plan.data).text)
        names = {command.title.casefold(), command.id, command.id.partition("/")[2]}
        others = [
            (e.parts, e.mode, e.keys)
            for content in (found.content, after)
            for e in content.entries
            if not {e.subject, e.subject.casefold()} & names
        ]
        assert others[: len(others) // 2] == others[len(others) // 2 :]
        has = any(read_trigger("F11") in e.keys for e in after.entries)
        assert has or plan.unwritten
        before = opened(found.data).text.split("\n")
        assert all(line.was is None or line.was in before for line in plan.lines)


def test_a_new_record_of_a_structured_file_stands_where_its_mode_is(tmp_path: Path) -> None:
    form, text = FILES["elements"]
    ask, file = desk_with(tmp_path, form, text)
    ask("assign", "own", "line.smooth", "F8")
    ask("assign", "own", "help", "F9")
    after = deliver(ask, file)
    draw, rest = after.split("</context>")
    assert '<binding key="F8" command="line.smooth"/>' in draw
    assert '<binding key="F9" command="help"/>' in rest


def test_what_cannot_be_written_is_named_and_told_by_the_status(tmp_path: Path) -> None:
    """A format that knows no way to switch a key off, and a mode that the file has no place for."""
    form = LINES + 'holds = "keys"\n'
    ask, file = desk_with(tmp_path, form, "bind F5 => open\nbind F6 => save\n")
    ask("keyless", "own", "open", "--why", "never")
    ask("assign", "own", "save", "F9")
    words = ("deliver", "own", "--to", str(file), "--file-format", "own", "--yes")
    done = ask(*words)
    assert done.status == 1
    assert "Not written: open: the format does not say how a key is turned off." in done.out
    assert "olive-compass fileformat set own off TEXT" in done.out
    assert "bind F9 => save" in file.read_text()
    assert ask("fileformat", "set", "own", "off", "unbind {keys}").status == 0
    assert ask("fileformat", "set", "own", "off-pattern", "^unbind +(?P<keys>.+)$").status == 0
    assert "unbind F5" in deliver(ask, file)


def test_a_comment_sign_switches_a_record_off(tmp_path: Path) -> None:
    form = LINES + 'holds = "keys"\noff = "#bind {keys} => {id}"\n'
    form += "off-pattern = '^#bind (?P<keys>\\S+) => .*$'\n"
    ask, file = desk_with(tmp_path, form, "bind F5 => open\nbind F6 => save\n")
    file.write_text("# mine\n")
    ask("keyless", "own", "open", "--why", "never")
    assert deliver(ask, file) == "# mine\n#bind F5 => open\n"
    assert ask("reset", "own", "--command", "open", "--yes").status == 0
    assert deliver(ask, file) == "# mine\n"


def test_a_record_is_renamed_where_the_new_version_calls_its_command_otherwise(
    tmp_path: Path,
) -> None:
    ask, file = desk_with(tmp_path, LINES, "bind F5 => line.smooth\nbind F6  =>  cut\n")
    ask("assign", "own", "line.smooth", "F11")
    before = deliver(ask, file)
    newer = tmp_path / "newer.keys"
    newer.write_text("bind F5 => line.soften\nbind F6 => cut\nbind F8 => line.new\n")
    for _ in range(2):
        taken = ask("upgrade", "own", "--from", str(newer), "--file-format", "own", "--yes")
        assert taken.status == 0, taken.err
    assert "nothing was changed" in taken.out
    assert deliver(ask, file) == before.replace("smooth", "soften")
    ask("assign", "own", "Line soften", "F12", "--instead")
    assert deliver(ask, file) == "bind F12 => line.soften\nbind F6  =>  cut\n"
    assert ask("deliver", "own", "--import-changes").status == 0
    assert ask("deliver", "own", "--check").status == 0


def test_what_would_not_read_back_is_shown_with_its_line(tmp_path: Path) -> None:
    """A format whose new records say another mode than they are meant for."""
    form = r"""format = "olive-compass-fileformat/1"
pattern = '^(?P<mode>\w+): (?P<keys>\S+) (?P<id>\S+)$'
entry = "draw: {keys} {id}"
several = "records"
"""
    ask, file = desk_with(tmp_path, form, "draw: F5 smooth\ntext: F6 bold\n")
    ask("assign", "own", "bold", "F7", "--mode", "text")
    before = file.read_bytes()
    done = ask("deliver", "own", "--to", str(file), "--file-format", "own", "--yes")
    assert done.status == 2
    assert "line 3 would be “draw: F7 bold”" in done.err
    assert "nothing was changed" in done.err
    assert file.read_bytes() == before
