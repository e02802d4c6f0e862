"""Accidents around the program, by name: odd files, odd texts, odd streams, odd folders.

Each lays something out on a desk and says what is run. Whatever it is, the program ends soon, with a
status and a sentence, and never with a traceback or a fault of its own. ``benchmarks/endurance.py``
tries them all as processes, ``test_accidents.py`` too.
"""

import os
import signal
import subprocess
import sys
from collections.abc import Callable, Mapping
from pathlib import Path
from typing import NamedTuple

from tests.conftest import PROGRAM, environ_of

#: How long each may take, in seconds, on a machine that is busy with other things.
PATIENCE = 20


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
    return Trial(("app", "add", "Odd", "--from", "/dev/zero"), statuses=(2,), says="/dev/zero")


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
    return Trial(("app", "add", "Odd", "--from", "odd.json", "--yes"))


@accident
def a_superscript_where_a_number_is_expected(desk: Path) -> Trial:
    _write(
        desk,
        "odd.html",
        "<table><tr><th>Command<th>Shortcut</tr><tr><td colspan='²'>A<td>Ctrl+A</tr>"
        "<tr><td>B<td>Ctrl+B</tr></table>",
    )
    return Trial(("app", "add", "Odd", "--from", "odd.html", "--yes"), statuses=(0,))


@accident
def a_cell_of_200000_characters_in_a_listing(desk: Path) -> Trial:
    _write(desk, "odd.csv", f"title,keys\n{'x' * 200_000},Ctrl+A\nJoin,Ctrl+J\n")
    assert run(Trial(("app", "add", "Odd", "--from", "odd.csv", "--yes")), desk).status == 0
    return Trial(LOOK, statuses=(0,))


@accident
def a_title_with_line_breaks_and_escapes(desk: Path) -> Trial:
    odd = '[{"title": "Join\\nGone.\\u001b[2J\\u2028\\u202e", "keys": "Ctrl+J"}, {"title": "B"}]'
    _write(desk, "odd.json", odd)
    assert run(Trial(("app", "add", "Odd", "--from", "odd.json", "--yes")), desk).status == 0
    return Trial(("find", "join"), statuses=(0,))


@accident
def HTML_of_100000_open_tags(desk: Path) -> Trial:
    _write(desk, "odd.html", "<table>" + "<tr><td>" * 100_000)
    return Trial(("app", "add", "Odd", "--from", "odd.html", "--yes"))


@accident
def HTML_of_100000_open_tables(desk: Path) -> Trial:
    _write(desk, "odd.html", "<table><tr><td>" * 100_000)
    return Trial(("app", "add", "Odd", "--from", "odd.html", "--yes"))


@accident
def a_listing_of_2000_columns(desk: Path) -> Trial:
    line = ",".join(f"c{n}" for n in range(2_000)) + "\n"
    _write(desk, "odd.csv", "title,keys," + line + f"Join,Ctrl+J,{line}" * 400)
    return Trial(("app", "add", "Odd", "--from", "odd.csv", "--yes"))


@accident
def thousands_of_differing_JSON_objects(desk: Path) -> Trial:
    entries = ",".join(f'{{"title": "T{n}", "k{n}": "Ctrl+{n}"}}' for n in range(6_000))
    _write(desk, "odd.json", f"[{entries}]")
    return Trial(("app", "add", "Odd", "--from", "odd.json", "--yes"))


@accident
def a_pattern_on_hostile_text(desk: Path) -> Trial:
    _write(desk, "odd.txt", " " * 20_000 + "x\n" + "a" * 40_000 + "\n")
    pattern = r"(?P<title>.+?)\s{2,}(?P<keys>\S+)"
    return Trial(("app", "add", "Odd", "--from", "odd.txt", "--pattern", pattern, "--yes"))


@accident
def a_pattern_that_never_ends(desk: Path) -> Trial:
    _write(desk, "odd.txt", "a" * 60 + "!\n")
    pattern = r"(?P<title>(a+)+)$"
    return Trial(("app", "add", "Odd", "--from", "odd.txt", "--pattern", pattern, "--yes"))


@accident
def a_sheet_whose_only_cell_is_the_last(desk: Path) -> Trial:
    from openpyxl import Workbook

    book = Workbook()
    book.active["XFD1048576"] = "Join"  # type: ignore[index]
    book.save(desk / "odd.xlsx")
    return Trial(("app", "add", "Odd", "--from", "odd.xlsx", "--yes"), statuses=(2,))


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
    _write(desk, "odd.zip", pack(Bundle("desk", "x", "now", files)))
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


def interrupt_at(desk: Path, seconds: float, *words: str, program: list[str] = PROGRAM) -> Ended:
    """Presses Ctrl-C so long after the start of a process."""
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
        process.send_signal(signal.SIGINT)
    out, err = process.communicate(timeout=PATIENCE)
    return Ended(process.returncode, out, err.decode(errors="replace"))


if __name__ == "__main__":
    sys.exit("\n".join(ACCIDENTS))
