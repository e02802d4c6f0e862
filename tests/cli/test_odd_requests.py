"""What cannot be done is refused in a sentence that names the way out, and nothing is changed."""

import random
import shutil
from pathlib import Path

import pytest

from tests.cli.odd_lines import odd_line
from tests.conftest import Ask, ask_in, contents

REFUSED = [
    (("tray", "new", "quillmap/", "--kind", "tab"), "names no tray"),
    (("tray", "new", "quillmap/Day", "--kind", "lamp"), "It has tab and ring"),
    (("tray", "new", "quillmap/Day"), "Kind of tray missing"),
    (("tray", "new", "quillmap/con", "--kind", "tab"), "cannot be the name of a tray"),
    (("tray", "new", "quillmap/Day", "--kind", "tab", "--fill", "often", "3"), "does not fill"),
    (("tray", "new", "quillmap/Day", "--kind", "tab", "--fill", "most", "x"), "no number"),
    (("tray", "new", "quillmap/Day", "--kind", "tab", "--place", "above"), "is no place"),
    (("tray", "new", "quillmap/Day", "--kind", "tab", "--letter", "ab"), "one letter"),
    (("tray", "show", "quillmap/nosuch"), "has no tray “nosuch”"),
    (("tray", "add", "nosuch", "Cairn"), "No application has a tray"),
    (("tray", "add", "harbour", "Nothing like it"), "has no command"),
    (("tray", "add", "harbour", "zoom"), "“zoom” matches"),
    (("tray", "remove", "harbour", "Cairn"), "is not on"),
    (("tray", "move", "harbour", "Buoy", "--before", "Buoy"), "beside itself"),
    (("tray", "group", "harbour", "Nothing", "--off"), "has no group"),
    (("tray", "copy", "harbour", "quillmap/Other"), "already"),
    (("tray", "copy", "harbour", "tagwright"), "has no trays"),
    (("tray", "reset", "harbour", "--as-in", "moon"), "--as-in factory"),
    (("app", "trays", "quillmap", "tab", "--items", "-1"), "below 0"),
    (("app", "trays", "quillmap", "lamp", "--off"), "no trays of the kind"),
    (("app", "trays", "quillmap", "tab", "--off"), "is a tab of"),
    (("via", "quillmap", "Gauge"), "shows Gauge is missing"),
    (("via", "quillmap", "Gauge", "--off"), "nothing recorded"),
    (("via", "quillmap", "Gauge", "--through", "nothing like it"), "has no command"),
    (("app", "slot", "reliefkiln", "View 1", "--inserted", "--removed"), "not allowed with"),
    (("usage", "take"), "Missing: FILE"),
    (("usage", "take", "nosuch.jsonl"), "cannot be read"),
    (("usage", "take", "schemes"), "no log in this folder"),
    (("usage", "take", "logs/*.jsonl", "--app", "nosuch"), "no application"),
    (("usage", "take", "nowhere", "--cluster", "here"), "cannot be read"),
    (("usage", "quillmap"), "Nothing has been counted"),
    (("usage", "quillmap", "tagwright"), "tagwright"),
    (("usage", "--since", "yesterday"), "is no day"),
    (("usage", "quillmap", "--as", "png"), "--out picture.png"),
    (("savings", "quillmap", "--model", "K"), "LETTER=SECONDS"),
    (("savings", "quillmap", "--model", "K=nan"), "The model cannot be so"),
    (("suggest", "quillmap"), "Name the commands"),
    (("suggest", "quillmap", "nothing like it"), "has no command"),
    (("practise", "quillmap"), "usage take"),
    (("press", "quillmap"), "Key missing"),
    (("press", "quillmap", "?"), "this is none"),
    (("press", "quillmap", "--live"), "this is none"),
    (("press", "quillmap", "F5", "--live"), "cannot be used with it"),
    (("assign", "quillmap", "Cairn", "@?"), "this is none"),
    (("keyless", "quillmap", "Cairn"), "--why (the reason)"),
]


@pytest.fixture(scope="module")
def harbour(laid_out: Path, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A desk with a tray of two items, which nothing that is refused changes."""
    desk = Path(shutil.copytree(laid_out, tmp_path_factory.mktemp("harbour") / "desk"))
    ask_in(desk, "tray", "new", "quillmap/Harbour", "--kind", "tab")
    ask_in(desk, "tray", "add", "harbour", "Buoy", "Wreck", "--group", "Lights")
    return desk


@pytest.mark.parametrize(("words", "says"), REFUSED, ids=[" ".join(w) for w, _ in REFUSED])
def test_it_is_refused_in_a_sentence(harbour: Path, words: tuple[str, ...], says: str) -> None:
    before = contents(harbour)
    answer = ask_in(harbour, *words)
    assert answer.status == 2, answer.out
    assert says in answer.err
    assert "Traceback" not in answer.err
    assert answer.err.startswith("olive-compass: ")
    assert contents(harbour) == before


HOSTILE = [
    ("trays/quillmap.toml", 'format = "olive-compass-trays/1"\n[personal.x]\nkind = 3\n', ":3:"),
    ("trays/quillmap.toml", 'format = "olive-compass-trays/1"\n[moon.x]\nkind = "tab"\n', "moon"),
    (
        "trays/quillmap.toml",
        'format = "olive-compass-trays/1"\n[personal.x]\nitems = 1\n',
        "Line 3:",
    ),
    ("trays/quillmap.toml", 'format = "olive-compass-trays/1"\npersonal = 1\n', "wrong kind"),
    ("trays/quillmap.toml", "not toml at all [", "TOML"),
]
#: What was counted is no decision: what cannot be read of it is named, and left out.
COUNTS: list[tuple[str | bytes, str]] = [
    ("garbage\n", ":1:"),
    ("# olive-compass-tally/1\nwrong,heads\n", ":2:"),
    (b"# olive-compass-tally/1\n\xff\xfe\n", "UTF-8"),
]


@pytest.mark.parametrize(("path", "text", "says"), HOSTILE)
def test_a_broken_file_is_named_with_its_line(
    ask: Ask, desk: Path, path: str, text: str | bytes, says: str
) -> None:
    file = desk / path
    file.parent.mkdir(exist_ok=True)
    file.write_bytes(text if isinstance(text, bytes) else text.encode())
    answer = ask("check", "quillmap")
    assert (answer.status, path in answer.err) == (2, True), answer.err
    assert says in answer.err


@pytest.mark.parametrize(("text", "says"), COUNTS)
def test_a_broken_file_of_counts_is_named_and_left_out(
    ask: Ask, desk: Path, text: str | bytes, says: str
) -> None:
    (desk / "tallies").mkdir(exist_ok=True)
    (desk / "tallies/x.csv").write_bytes(text if isinstance(text, bytes) else text.encode())
    for _ in range(2):
        answer = ask("check", "quillmap")
        assert (answer.status in (0, 1), "tallies/x.csv" in answer.err) == (True, True), answer.err
        assert says in answer.err


@pytest.mark.parametrize(
    ("table", "says"),
    [
        ("[trays]\ntab = 3", "no table of a kind"),
        ('[trays.tab]\nopens = "door"', "“opens” is one of"),
        ("[trays.tab]\nlamp = 1", "lamp"),
        ("[via]\nGauge = 3", "through = ID"),
    ],
)
def test_what_an_application_says_of_trays_is_checked(
    ask: Ask, desk: Path, table: str, says: str
) -> None:
    file = desk / "apps/foldpress/app.toml"
    text = file.read_text().partition("# One menu of one's own")[0]
    file.write_text(f"{text}\n{table}\n")
    answer = ask("app", "show", "foldpress")
    assert (answer.status, says in answer.err) == (2, True), answer.err


@pytest.mark.parametrize("seed", [1, *(pytest.param(n, marks=pytest.mark.long) for n in (2, 3, 4))])
def test_any_options_together_are_answered_or_refused(desk: Path, seed: int) -> None:
    draw = random.Random(seed)
    for _ in range(80):
        words = odd_line(draw)
        answer = ask_in(desk, *words)
        assert answer.status in (0, 1, 2), (words, answer.err)
        if answer.status == 2:
            assert "olive-compass: " in answer.err, words
