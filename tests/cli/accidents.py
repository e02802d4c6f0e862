"""Accidents around the program, by name: odd files, odd texts, odd streams, odd folders.

Each lays something out on a desk and says what is run. Whatever it is, the program ends soon, with a
status and a sentence, and never with a traceback or a fault of its own. ``benchmarks/endurance.py``
tries them all as processes, ``test_accidents.py`` those that concern the process.
"""

import faulthandler
import os
import signal
import subprocess
import sys
from collections.abc import Callable, Mapping
from pathlib import Path
from typing import NamedTuple

from tests.conftest import PROGRAM, ask_in, environ_of

#: How long each may take, in seconds, on a machine that is busy with other things.
PATIENCE = 45


class Trial(NamedTuple):
    """What is run: its words, its surroundings, and the statuses in which it may end."""

    words: tuple[str | bytes, ...]
    environ: Mapping[str, str | bytes] = {}
    #: ``pipe``, ``full`` (a full disk), ``closed`` (a closed descriptor).
    out: str = "pipe"
    before: str = ""
    statuses: tuple[int, ...] = (0, 1, 2)
    #: Words that the error stream must have.
    says: str = ""


Accident = Callable[[Path], Trial]
ACCIDENTS: dict[str, Accident] = {}


def accident(arrange: Accident) -> Accident:
    """Notes an accident under the name of its function."""
    ACCIDENTS[arrange.__name__.replace("_", " ")] = arrange
    return arrange


class Ended(NamedTuple):
    """How a trial ended: the status (None: it did not end), and both streams."""

    status: int | None
    out: bytes
    err: str


def run(trial: Trial, desk: Path) -> Ended:
    """Runs a trial as a process of its own."""
    environ: dict[bytes, bytes] = {
        os.fsencode(key): os.fsencode(value) for key, value in environ_of().items()
    }
    environ |= {os.fsencode(key): os.fsencode(value) for key, value in trial.environ.items()}
    words = [*PROGRAM, *trial.words]
    if trial.before:
        script = f'{trial.before}; exec "$@"'
        words = ["bash", "-c", script, "bash", *words]
    out: int = subprocess.PIPE
    full = open("/dev/full", "wb") if trial.out == "full" else None  # noqa: SIM115
    try:
        done = subprocess.run(
            words,
            cwd=desk,
            env=environ,
            stdin=subprocess.DEVNULL,
            stdout=full or out,
            stderr=subprocess.PIPE,
            timeout=PATIENCE,
        )
    except subprocess.TimeoutExpired as late:
        return Ended(None, late.stdout or b"", (late.stderr or b"").decode(errors="replace"))
    finally:
        if full:
            full.close()
    return Ended(done.returncode, done.stdout or b"", done.stderr.decode(errors="replace"))


def concerns_the_process(trial: Trial) -> bool:
    """Whether a trial is about streams, the environment or bytes of the command line."""
    is_text = all(isinstance(word, str) and word.isprintable() for word in trial.words)
    return bool(trial.environ or trial.before) or trial.out != "pipe" or not is_text


def run_here(trial: Trial, desk: Path) -> Ended:
    """Runs a trial within this process, which ends if it hangs."""
    faulthandler.dump_traceback_later(PATIENCE, exit=True)
    try:
        answer = ask_in(desk, *map(str, trial.words))
    finally:
        faulthandler.cancel_dump_traceback_later()
    return Ended(answer.status, answer.out.encode(), answer.err)


def wrong(trial: Trial, ended: Ended) -> str:
    """What is wrong with how a trial ended, ``""``: nothing."""
    if ended.status is None:
        return f"it hangs, more than {PATIENCE} s"
    if "Traceback" in ended.err or "fault of the program" in ended.err:
        return f"it ends in a fault: {ended.err[-300:]}"
    if ended.status not in trial.statuses:
        return f"it ends with {ended.status}: {ended.err[-300:]}"
    if ended.status == 2 and not ended.err.strip() and "2>&-" not in trial.before:
        return "it refuses without a word"
    if trial.says and trial.says not in ended.err:
        return f"it does not say “{trial.says}”: {ended.err[-300:]}"
    if len(ended.err) > 4_000:
        return f"it says too much: {len(ended.err)} characters"
    return ""


#: Those that take seconds, because a limit of time is what ends them: the endurance run has them.
SLOW = frozenset(
    [
        "a pattern on hostile text",
        "a template that loops",
        "a sheet whose only cell is the last",
        "HTML of 100000 open tags",
        "HTML of 100000 open tables",
        "HTML of comments without an end",
        "HTML of tags without an end",
        "a silent server as the house",
    ]
)

LOOK = ("find", "cairn")
CHECK = ("check",)


def _write(desk: Path, path: str, text: str | bytes) -> Path:
    file = desk / path
    file.parent.mkdir(parents=True, exist_ok=True)
    file.write_bytes(text if isinstance(text, bytes) else text.encode())
    return file


# Files of the desk.


@accident
def TOML_nested_thousands_deep(desk: Path) -> Trial:
    _write(desk, "schemes/quillmap/mine.toml", "a = " + "[" * 5_000)
    return Trial(CHECK, statuses=(2,), says="mine.toml")


@accident
def a_number_of_5000_digits(desk: Path) -> Trial:
    path = desk / "desk.toml"
    path.write_text(path.read_text() + "\n[effort]\nsame-finger = " + "9" * 5_000 + "\n")
    return Trial(CHECK, statuses=(2,), says="desk.toml")


@accident
def a_dotted_key_of_kilobytes(desk: Path) -> Trial:
    _write(desk, "schemes/quillmap/mine.toml", ".".join(["a"] * 50_000) + " = 1\n")
    return Trial(LOOK, statuses=(2,), says="mine.toml")


@accident
def a_table_where_a_value_is_expected(desk: Path) -> Trial:
    path = desk / "apps/quillmap/app.toml"
    path.write_text(
        path.read_text().replace("title =", "version-notes =", 1) + "\n[title]\na = 1\n"
    )
    return Trial(LOOK, statuses=(2,), says="app.toml")


@accident
def a_value_where_a_table_is_expected(desk: Path) -> Trial:
    text = 'format = "olive-compass-scheme/1"\napp = "quillmap"\nassign = 3\nbare = "x"\n'
    _write(desk, "schemes/quillmap/mine.toml", text)
    return Trial(LOOK, statuses=(2,), says="mine.toml")


@accident
def lone_carriage_returns(desk: Path) -> Trial:
    path = desk / "apps/quillmap/commands.csv"
    path.write_bytes(path.read_bytes().replace(b"\n", b"\r"))
    return Trial(LOOK)


@accident
def conflict_markers_in_a_catalogue(desk: Path) -> Trial:
    path = desk / "apps/quillmap/commands.csv"
    lines = path.read_text().splitlines()
    lines[5:6] = ["<<<<<<< ours", lines[5], "=======", lines[5], ">>>>>>> theirs"]
    path.write_text("\n".join(lines) + "\n")
    return Trial(LOOK, statuses=(2,), says="commands.csv:6")


@accident
def conflict_markers_in_the_purposes(desk: Path) -> Trial:
    path = desk / "purposes.csv"
    lines = path.read_text().splitlines()
    lines[3:4] = ["<<<<<<< ours", lines[3], "=======", lines[3], ">>>>>>> theirs"]
    path.write_text("\n".join(lines) + "\n")
    return Trial(("purpose", "list"), statuses=(2,), says="purposes.csv:4")


@accident
def a_cell_of_200000_characters_in_a_catalogue(desk: Path) -> Trial:
    path = desk / "apps/quillmap/commands.csv"
    path.write_text(path.read_text() + f"long.one,{'x' * 200_000},,,,\n")
    return Trial(LOOK)


@accident
def a_pipe_in_place_of_a_scheme(desk: Path) -> Trial:
    (desk / "schemes/quillmap/mine.toml").unlink()
    os.mkfifo(desk / "schemes/quillmap/mine.toml")
    return Trial(LOOK, statuses=(2,), says="mine.toml")


@accident
def a_pipe_in_place_of_a_catalogue(desk: Path) -> Trial:
    (desk / "apps/quillmap/commands.csv").unlink()
    os.mkfifo(desk / "apps/quillmap/commands.csv")
    return Trial(LOOK, statuses=(2,), says="commands.csv")


@accident
def a_device_in_place_of_a_listing(desk: Path) -> Trial:
    return Trial(("app", "import", "Odd", "--from", "/dev/zero"), statuses=(2,), says="/dev/zero")


@accident
def a_folder_in_place_of_a_file(desk: Path) -> Trial:
    (desk / "purposes.csv").unlink()
    (desk / "purposes.csv").mkdir()
    return Trial(("purpose", "list"))


@accident
def a_link_out_of_the_desk(desk: Path) -> Trial:
    outside = desk.parent / "outside.toml"
    (desk / "schemes/quillmap/mine.toml").rename(outside)
    (desk / "schemes/quillmap/mine.toml").symlink_to(outside)
    words = ("assign", "quillmap", "Cairn", "Alt+F10", "--scheme", "mine")
    return Trial(words, statuses=(2,), says="mine.toml")


@accident
def an_empty_pending_record(desk: Path) -> Trial:
    _write(desk, ".history/pending.json", "")
    return Trial(("undo",), statuses=(2,), says="pending.json")


# Texts that others wrote.


@accident
def half_characters_in_JSON(desk: Path) -> Trial:
    _write(desk, "odd.json", '[{"title": "Join \\ud800", "keys": "Ctrl+J"}, {"title": "B"}]')
    return Trial(("app", "import", "Odd", "--from", "odd.json", "--yes"))


@accident
def a_superscript_where_a_number_is_expected(desk: Path) -> Trial:
    _write(
        desk,
        "odd.html",
        "<table><tr><th>Command<th>Shortcut</tr><tr><td colspan='²'>A<td>Ctrl+A</tr>"
        "<tr><td>B<td>Ctrl+B</tr></table>",
    )
    return Trial(("app", "import", "Odd", "--from", "odd.html", "--yes"), statuses=(0,))


@accident
def a_cell_of_200000_characters_in_a_listing(desk: Path) -> Trial:
    _write(desk, "odd.csv", f"title,keys\n{'x' * 200_000},Ctrl+A\nJoin,Ctrl+J\n")
    assert run(Trial(("app", "import", "Odd", "--from", "odd.csv", "--yes")), desk).status == 0
    return Trial(LOOK, statuses=(0,))


@accident
def a_title_with_line_breaks_and_escapes(desk: Path) -> Trial:
    odd = '[{"title": "Join\\nGone.\\u001b[2J\\u2028\\u202e", "keys": "Ctrl+J"}, {"title": "B"}]'
    _write(desk, "odd.json", odd)
    assert run(Trial(("app", "import", "Odd", "--from", "odd.json", "--yes")), desk).status == 0
    return Trial(("find", "join"), statuses=(0,))


@accident
def HTML_of_100000_open_tags(desk: Path) -> Trial:
    _write(desk, "odd.html", "<table>" + "<tr><td>" * 100_000)
    return Trial(("app", "import", "Odd", "--from", "odd.html", "--yes"))


@accident
def HTML_of_100000_open_tables(desk: Path) -> Trial:
    _write(desk, "odd.html", "<table><tr><td>" * 100_000)
    return Trial(("app", "import", "Odd", "--from", "odd.html", "--yes"))


@accident
def a_listing_of_2000_columns(desk: Path) -> Trial:
    line = ",".join(f"c{n}" for n in range(2_000)) + "\n"
    _write(desk, "odd.csv", "title,keys," + line + f"Join,Ctrl+J,{line}" * 400)
    return Trial(("app", "import", "Odd", "--from", "odd.csv", "--yes"))


@accident
def thousands_of_differing_JSON_objects(desk: Path) -> Trial:
    entries = ",".join(f'{{"title": "T{n}", "k{n}": "Ctrl+{n}"}}' for n in range(6_000))
    _write(desk, "odd.json", f"[{entries}]")
    return Trial(("app", "import", "Odd", "--from", "odd.json", "--yes"))


@accident
def a_pattern_on_hostile_text(desk: Path) -> Trial:
    _write(desk, "odd.txt", " " * 20_000 + "x\n" + "a" * 40_000 + "\n")
    pattern = r"(?P<title>.+?)\s{2,}(?P<keys>\S+)"
    return Trial(("app", "import", "Odd", "--from", "odd.txt", "--pattern", pattern, "--yes"))


@accident
def a_pattern_that_never_ends(desk: Path) -> Trial:
    _write(desk, "odd.txt", "a" * 60 + "!\n")
    pattern = r"(?P<title>(a+)+)$"
    return Trial(("app", "import", "Odd", "--from", "odd.txt", "--pattern", pattern, "--yes"))


@accident
def a_sheet_whose_only_cell_is_the_last(desk: Path) -> Trial:
    from openpyxl import Workbook

    book = Workbook()
    book.active["XFD1048576"] = "Join"  # type: ignore[index]
    book.save(desk / "odd.xlsx")
    return Trial(("app", "import", "Odd", "--from", "odd.xlsx", "--yes"), statuses=(2,))


@accident
def a_template_that_loops(desk: Path) -> Trial:
    _write(
        desk,
        "odd.j2",
        "{% for a in range(99999) %}{% for b in range(99999) %}x{% endfor %}{% endfor %}",
    )
    return Trial(("export", "quillmap", "--template", "odd.j2"), statuses=(2,), says="odd.j2")


@accident
def a_template_that_multiplies(desk: Path) -> Trial:
    _write(desk, "odd.j2", "{{ 'x' * 9999999999 }}")
    return Trial(("export", "quillmap", "--template", "odd.j2"), statuses=(2,), says="odd.j2")


@accident
def a_bundle_in_which_a_file_is_a_folder(desk: Path) -> Trial:
    from olive_compass.desk.bundles import Bundle, pack

    files = {"schemes/quillmap/mine.toml": b"x", "schemes/quillmap/mine.toml/a.toml": b"y"}
    _write(desk, "odd.zip", pack(Bundle(scope="desk", name="x", made="now", files=files)))
    return Trial(("unpack", "odd.zip", "--yes"), statuses=(2,), says="odd.zip")


# Words, names and streams.


@accident
def an_argument_that_is_not_UTF_8(desk: Path) -> Trial:
    return Trial(("find", b"cairn\xff\xfe"))


@accident
def a_reason_that_is_not_UTF_8(desk: Path) -> Trial:
    return Trial(("assign", "quillmap", "Cairn", "Alt+F10", "--why", b"so\xff"))


@accident
def a_user_name_that_is_not_UTF_8(desk: Path) -> Trial:
    words = ("assign", "quillmap", "Cairn", "Alt+F10")
    return Trial(words, environ={"USER": b"J\xfcrg"}, statuses=(0,))


@accident
def a_full_disk_for_the_answer(desk: Path) -> Trial:
    return Trial(LOOK, out="full", statuses=(2,), says="cannot be written")


@accident
def a_full_disk_after_a_change(desk: Path) -> Trial:
    words = ("assign", "quillmap", "Cairn", "Alt+F10")
    return Trial(words, out="full", statuses=(2,), says="saved")


@accident
def a_full_disk_for_JSON(desk: Path) -> Trial:
    return Trial(("check", "--json"), out="full", statuses=(2,), says="cannot be written")


@accident
def a_full_disk_for_help(desk: Path) -> Trial:
    return Trial(("assign", "--help"), out="full", statuses=(2,), says="cannot be written")


@accident
def a_closed_output(desk: Path) -> Trial:
    return Trial(LOOK, before="exec >&-")


@accident
def a_closed_error_stream(desk: Path) -> Trial:
    return Trial(("press", "nowhere", "F1"), before="exec 2>&-", statuses=(2,))


@accident
def all_streams_closed(desk: Path) -> Trial:
    return Trial(("assign", "quillmap", "Cairn", "Alt+F10"), before="exec <&- >&- 2>&-")


@accident
def output_in_ASCII(desk: Path) -> Trial:
    environ = {"PYTHONIOENCODING": "ascii", "PYTHONUTF8": "0"}
    return Trial(("find", "save", "--keys-as", "mac"), environ=environ, statuses=(0,))


@accident
def output_in_cp1252(desk: Path) -> Trial:
    environ = {"PYTHONIOENCODING": "cp1252", "PYTHONUTF8": "0"}
    return Trial(("find", "save", "--keys-as", "mac"), environ=environ, statuses=(0,))


@accident
def the_C_locale(desk: Path) -> Trial:
    environ = {"LC_ALL": "C", "PYTHONUTF8": "0", "PYTHONCOERCECLOCALE": "0"}
    return Trial(("check", "quillmap"), environ=environ, statuses=(0, 1))


@accident
def a_deleted_current_folder(desk: Path) -> Trial:
    return Trial(LOOK, before='d=$(mktemp -d); cd "$d"; rmdir "$d"', statuses=(2,))


@accident
def a_deleted_folder_and_a_named_desk(desk: Path) -> Trial:
    words = ("--desk", str(desk), *LOOK)
    return Trial(words, before='d=$(mktemp -d); cd "$d"; rmdir "$d"', statuses=(0, 2))


@accident
def a_home_that_is_not_there(desk: Path) -> Trial:
    return Trial(LOOK, environ={"HOME": "/nowhere/at/all"}, statuses=(0,))


@accident
def a_folder_that_cannot_be_written(desk: Path) -> Trial:
    before = f"chmod -R a-w {desk}/.history {desk}/schemes; trap 'true' EXIT"
    return Trial(("assign", "quillmap", "Cairn", "Alt+F10"), before=before)


# What a desk, a page or a log from elsewhere can have in it.


def _quoted(desk: Path, text: str) -> tuple[str, ...]:
    """Delivers into a file whose keys are in quotation marks, which are written with a backslash."""
    form = (desk / "fileformats/kiln.toml").read_text()
    quotes = r"""each = '"{key}"'

[escapes]
'\' = '\\'
'"' = '\"'

[spelling]"""
    form = form.replace("[spelling]", quotes, 1)
    _write(desk, "fileformats/odd.toml", form)
    _write(desk, "kiln/odd.kiln", text)
    return ("deliver", "reliefkiln", "--to", "kiln/odd.kiln", "--file-format", "odd", "--dry-run")


@accident
def a_cell_of_escaped_quotes(desk: Path) -> Trial:
    cell = '"' + '\\"' * 28
    return Trial(_quoted(desk, f"on all\n  view.saved-3 <= {cell}\nend\n"))


@accident
def records_before_20000_sections(desk: Path) -> Trial:
    text = "  view.saved-3 <= C-h\n" * 20_000 + "".join(f"[s{n}]\n" for n in range(20_000))
    _write(desk, "kiln/odd.kiln", text)
    return Trial(("deliver", "reliefkiln", "--to", "kiln/odd.kiln", "--file-format", "kiln", "-n"))


@accident
def HTML_of_comments_without_an_end(desk: Path) -> Trial:
    _write(desk, "odd.html", "<table><tr><td>a<td>b</table>" + "<!--" * 75_000)
    return Trial(("app", "import", "Odd", "--from", "odd.html"))


@accident
def HTML_of_tags_without_an_end(desk: Path) -> Trial:
    _write(desk, "odd.html", "<table><tr><td>a<td>b</table>" + "<a " * 100_000)
    return Trial(("app", "import", "Odd", "--from", "odd.html"))


def _below_history(desk: Path, name: str, pipe: bool) -> None:
    (desk / ".history/delivered").mkdir(exist_ok=True)
    (desk / f".history/{name}").unlink(missing_ok=True)
    if pipe:
        os.mkfifo(desk / f".history/{name}")
    else:
        (desk / f".history/{name}").symlink_to("/dev/zero")


def _of_history(name: str, pipe: bool, *words: str) -> Accident:
    def arrange(desk: Path) -> Trial:
        _below_history(desk, name, pipe)
        return Trial(words)

    kind = "pipe" if pipe else "endless device"
    ACCIDENTS[f"an {kind} as {name} of the history and {words[0]}"] = arrange
    return arrange


for _name in ("lock", "pending.json", "000001.json", "identity", "delivered/reliefkiln.json"):
    for _is_pipe in (True, False):
        for _words in (("undo",), ("history",), ("assign", "quillmap", "Cairn", "Alt+F10")):
            _of_history(_name, _is_pipe, *_words)


@accident
def a_desk_file_that_is_broken_and_house_from(desk: Path) -> Trial:
    _write(desk, "desk.toml", "format = [\n")
    return Trial(("house", "from", "."), statuses=(2,), says="desk.toml")


@accident
def a_desk_file_that_is_broken_and_house_off(desk: Path) -> Trial:
    _write(desk, "desk.toml", 'format = "olive-compass-desk/1"\n<<<<<<< ours\na = 1\n')
    return Trial(("house", "off"), statuses=(2,), says="desk.toml")


@accident
def a_cell_of_25000_characters(desk: Path) -> Trial:
    _write(desk, "odd.csv", f"Title,Keys\n{'x' * 25_000},F9\nShort,F8\n")
    return Trial(("app", "import", "Odd", "--from", "odd.csv", "--yes"))


@accident
def a_cell_of_25000_characters_in_a_catalogue(desk: Path) -> Trial:
    path = desk / "apps/quillmap/commands.csv"
    path.write_text(path.read_text() + f"x.y,{'x' * 25_000},,,,,,,\n")
    return Trial(CHECK, statuses=(2,), says="commands.csv")


@accident
def UTF_16_of_an_odd_length(desk: Path) -> Trial:
    data = "Title,Keys\nSplit,F9\n".encode("utf-16-le")
    _write(desk, "odd.csv", b"\xff\xfe" + data + b"\x41")
    return Trial(("app", "import", "Odd", "--from", "odd.csv", "--yes"))


@accident
def UTF_16_of_an_odd_length_without_a_mark(desk: Path) -> Trial:
    _write(desk, "odd.txt", "Title;Keys\nSplit;F9\n".encode("utf-16-be") + b"\x00")
    return Trial(("app", "import", "Odd", "--from", "odd.txt", "--yes"))


@accident
def names_that_are_no_UTF_8(desk: Path) -> Trial:
    for folder, ending in (
        ("schemes/quillmap", b".toml"),
        ("macros/quillmap", b".toml"),
        ("keysets", b".toml"),
        ("tallies", b".csv"),
        ("logs", b".jsonl"),
        ("apps", b""),
    ):
        (desk / folder).mkdir(parents=True, exist_ok=True)
        path = os.path.join(os.fsencode(desk / folder), b"caf\xe9" + ending)
        if ending:
            with open(path, "wb") as file:
                file.write(b"x")
        else:
            os.mkdir(path)
    return Trial(CHECK)


@accident
def names_that_are_no_UTF_8_and_a_bundle(desk: Path) -> Trial:
    names_that_are_no_UTF_8(desk)
    return Trial(("pack", "all.zip", "--with", "logs"))


@accident
def a_path_in_a_bundle_1500_deep(desk: Path) -> Trial:
    import hashlib
    import json
    import zipfile

    path = "documents/" + "d/" * 1_500 + "x.json"
    about = {path: {"sha256": hashlib.sha256(b"{}").hexdigest(), "size": 2}}
    manifest = {"format": "olive-compass-bundle/1", "files": about, "scope": "desk", "name": "x"}
    with zipfile.ZipFile(desk / "deep.zip", "w") as archive:
        archive.writestr("manifest.json", json.dumps(manifest))
        archive.writestr(path, "{}")
    return Trial(("unpack", "deep.zip", "--yes"), statuses=(2,))


@accident
def a_merge_of_deeply_nested_files(desk: Path) -> Trial:
    for n, name in enumerate(("base", "ours", "theirs")):
        depth = 900
        _write(desk, f"{name}.toml", "a = " + "[" * depth + str(n) + "]" * depth + "\n")
        _write(desk, f"{name}.json", "[" * depth + str(n) + "]" * depth + "\n")
    return Trial(("merge", "base.toml", "ours.toml", "theirs.toml"))


@accident
def a_merge_of_deeply_nested_tables(desk: Path) -> Trial:
    for n, name in enumerate(("base", "ours", "theirs")):
        _write(
            desk,
            f"{name}.toml",
            ".".join(["a"] * 90) + f" = {n}\n" + f"[{'.'.join('b' * 90)}]\nx={n}",
        )
    return Trial(("merge", "base.toml", "ours.toml", "theirs.toml"))


@accident
def a_lone_carriage_return_in_a_key_set(desk: Path) -> Trial:
    _write(
        desk, "keysets/odd.toml", 'format = "olive-compass-keyset/1"\r[keys]\rsave = ["Ctrl+S"]\r'
    )
    return Trial(("keyset", "show", "odd"))


@accident
def a_lone_carriage_return_and_a_change(desk: Path) -> Trial:
    text = (
        (desk / "schemes/quillmap/mine.toml").read_text().replace("[assign]", "[assign]\r# odd\r")
    )
    _write(desk, "schemes/quillmap/mine.toml", text)
    return Trial(("assign", "quillmap", "Cairn", "Alt+F10"))


@accident
def a_tilde_in_the_name_of_a_file(desk: Path) -> Trial:
    _write(desk, "home/x", "")
    words = ("sheet", "quillmap", "--as", "html", "--out", "~/keys.html")
    return Trial(words, environ={"HOME": str(desk / "home")}, statuses=(0,))


@accident
def a_silent_server_as_the_house(desk: Path) -> Trial:
    import socket

    silent = socket.socket()
    silent.bind(("127.0.0.1", 0))
    silent.listen()
    # It is kept open for as long as this process runs.
    _KEPT.append(silent)
    address = f"git://127.0.0.1:{silent.getsockname()[1]}/house.git"
    path = desk / "desk.toml"
    path.write_text(path.read_text() + f'\n[house]\nfrom = "{address}"\n')
    return Trial(("house", "pull"), statuses=(2,), says="has not answered yet")


_KEPT: list[object] = []


def interrupt_at(
    desk: Path,
    seconds: float,
    *words: str,
    program: list[str] = PROGRAM,
    how: signal.Signals = signal.SIGINT,
) -> Ended:
    """Presses Ctrl-C, or sends another signal, so long after the start of a process."""
    process = subprocess.Popen(
        [*program, *words],
        cwd=desk,
        env=environ_of(),
        stdin=subprocess.DEVNULL,
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
    )
    try:
        process.wait(seconds)
    except subprocess.TimeoutExpired:
        process.send_signal(how)
    out, err = process.communicate(timeout=PATIENCE)
    return Ended(process.returncode, out, err.decode(errors="replace"))


if __name__ == "__main__":
    sys.exit("\n".join(ACCIDENTS))
