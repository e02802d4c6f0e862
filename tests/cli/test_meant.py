"""What is named is what is meant: words that look like keys, keys that look like words, and reasons that are given."""

import csv
import io
import re
import shlex
import shutil
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.conftest import Answer, Ask, answer_in, ask_in, contents

#: Titles and ids that read as keys, and keys that read as titles.
WORDS = ("Ruler", "R U", "O", "W", "S", "F1", "Home", "Row height", "R T", "Alt", "Escape", "Num3")
KEYS = ("R U", "O", "W", "S", "F1", "Home", "R T", "Ctrl+S", "R", "Escape", "Num3")
MINE = "schemes/mini/mine.toml"


@pytest.fixture(scope="module")
def mini(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A desk with one application that takes typed sequences."""
    return new_mini(tmp_path_factory.mktemp("mini"))


def new_mini(folder: Path) -> Path:
    """Such a desk in a folder."""
    assert ask_in(folder, "desk", "new", "desk").status == 0
    desk = folder / "desk"
    rows = "".join(f"word.w{n},{word}\n" for n, word in enumerate(WORDS))
    (desk / "listing.csv").write_text(f"Id,Title\n{rows}")
    added = ask_in(desk, "app", "import", "Mini", "--from", "listing.csv", "--yes")
    assert added.status == 0, added.err
    rules = [
        f"--set={each}"
        for each in ("longest-sequence=4", "typed-sequences=true", "duplicates=choice")
    ]
    set_ = ask_in(desk, "app", "rules", "mini", *rules)
    assert set_.status == 0, set_.err
    assert ask_in(desk, "scheme", "new", "mini/mine").status == 0
    return desk


some_keys_of_words = st.dictionaries(
    st.sampled_from(WORDS), st.sets(st.sampled_from(KEYS), min_size=1), min_size=1
)


@given(some_keys_of_words, st.data())
@settings(suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_a_key_of_a_command_is_cleared_and_nothing_else(
    mini: Path, keys: dict[str, set[str]], data: st.DataObject
) -> None:
    head = 'format = "olive-compass-scheme/1"\napp = "mini"\nlayer = "personal"\n\n[assign]\n'
    ids = {word: f"word.w{n}" for n, word in enumerate(WORDS)}
    lines = {
        word: f'"{ids[word]}" = [{", ".join(f"""{chr(34)}{key}{chr(34)}""" for key in sorted(own))}]\n'
        for word, own in keys.items()
    }
    (mini / MINE).write_text(head + "".join(lines.values()))
    word = data.draw(st.sampled_from(sorted(keys)))
    key = data.draw(st.sampled_from(sorted(keys[word])))
    named = data.draw(st.sampled_from([word, ids[word]]))
    cleared = ask_in(mini, "clear", "mini", named, key)
    assert cleared.status == 0, (named, key, cleared.err)
    shown = ask_in(mini, "scheme", "show", "mini/mine", "--json").json["decisions"]
    left = {(each["command"], key) for each in shown for key in each["keys"]}
    wanted = {(ids[w], k) for w, own in keys.items() for k in own} - {(ids[word], key)}
    assert left == wanted


@pytest.mark.parametrize(
    ("given", "says"),
    [
        ("Hom", "“Hom” is not a key. Did you mean Home? For the sequence type 'H O M'."),
        ("Esk", "For the sequence type 'E S K'."),
        ("Foo", "“Foo” is not a key. For the sequence type 'F O O'."),
    ],
)
def test_a_misspelt_key_is_not_taken_for_a_sequence(
    given: str, says: str, ask: Ask, desk: Path
) -> None:
    before = contents(desk)
    refused = ask("assign", "quillmap", "Buoy", given)
    assert (refused.status, says in refused.err) == (2, True), refused.err
    assert contents(desk) == before
    assert ask("assign", "quillmap", "Buoy", "H O M", "--dry-run").status == 0


def test_the_reason_stands_before_the_question(desk: Path) -> None:
    words = (
        "assign",
        "reliefkiln",
        "Erode",
        "Ctrl+Z",
        "--if-taken",
        "replace",
        "--scheme",
        "house",
    )
    assert (
        ask_in(
            desk,
            "guard",
            "reliefkiln",
            "Ctrl+Z",
            "--why",
            "every visitor expects it",
            "--scheme",
            "house",
        ).status
        == 0
    )
    status, shown = answer_in(desk, ["n"], *words)
    before, question, _ = shown.partition("Do it all the same?")
    assert question, shown
    assert "every visitor expects it" in before
    assert "Ctrl+Z" in before
    assert status == 2
    typing = ("assign", "tagwright", "Split tag", "S", "--scheme")
    ask_in(desk, "scheme", "new", "tagwright/mine")
    status, shown = answer_in(desk, ["n"], *typing, "mine")
    if "Do it all the same?" in shown:
        assert "S" in shown.partition("Do it all the same?")[0]


def test_an_application_in_place_of_a_scheme_is_named_as_one(ask: Ask) -> None:
    refused = ask("scheme", "new", "quillmap")
    assert refused.status == 2
    assert "quillmap/" in refused.err
    assert "reliefkiln" not in refused.err


def test_a_form_of_files_belongs_to_the_file_that_it_reads(ask: Ask, desk: Path) -> None:
    to = ("--to", "kiln/keys.kiln", "--file-format", "kiln", "--yes")
    assert ask("deliver", "reliefkiln", *to).status == 0
    shown = ask("app", "rules", "reliefkiln").out
    assert "the format kiln" in shown
    rows = "Title,Menu,Keys\nErode,Terrain,Ctrl+Shift+F8\nHarbour side,View,F11\n"
    (desk / "listing.csv").write_text(rows)
    for words in (
        ("upgrade", "reliefkiln", "--from", "listing.csv", "--dry-run"),
        ("app", "import", "Reliefkiln", "--from", "listing.csv", "--dry-run"),
        ("worklist", "reliefkiln", "--from", "listing.csv"),
    ):
        answer = ask(*words)
        assert answer.status in (0, 1), answer.err
        assert "no rows" not in answer.err
    # The file itself is still read by it.
    assert ask("worklist", "reliefkiln", "--from", "kiln/keys.kiln").status in (0, 1)
    assert ask("app", "rules", "reliefkiln", "--forget-reading").status == 0
    assert "the format kiln" not in ask("app", "rules", "reliefkiln").out
    assert ask("undo").status == 0
    assert "the format kiln" in ask("app", "rules", "reliefkiln").out


def test_verbs_come_before_applications(ask: Ask, desk: Path) -> None:
    ask("use", "quillmap")
    copied = ("swipes", "copy", "quillmap", "draw", "vertex", "--if-taken", "replace", "--dry-run")
    without = tuple(word for word in copied if word != "quillmap")
    shown = ask(*copied)
    assert shown.status == 0, shown.err
    assert ask(*without).out == shown.out
    verified = ask("worklist", "verify", "--from", "listings/quillmap-5.csv")
    named = ask("worklist", "verify", "quillmap", "--from", "listings/quillmap-5.csv")
    assert vars(verified) == vars(named)
    assert ask("worklist").out == ask("worklist", "quillmap").out
    nobody = ask("assign", "nosuchapp", "copy", "Ctrl+B")
    assert (nobody.status, "“nosuchapp” is no application" in nobody.err) == (2, True)
    ask("use", "--off")
    assert ask_in(desk / "schemes/quillmap", *without).out == shown.out


def test_a_key_that_is_given_up_is_named_and_its_guard_holds(ask: Ask, desk: Path) -> None:
    assert ask("guard", "quillmap", "Ctrl+S", "--why", "all save so").status == 0
    before = contents(desk)
    instead = ("assign", "quillmap", "sheet.save", "F12", "--instead", "--if-taken", "replace")
    refused = ask(*instead)
    assert (refused.status, "Ctrl+S is guarded by mine: all save so" in refused.err) == (2, True)
    assert contents(desk) == before
    family = ("sheet.save", "Alt+F11", "sheet.trim", "Alt+F12")
    refused = ask("assign", "quillmap", *family, "--instead")
    assert refused.status == 2
    assert contents(desk) == before
    done = ask(*instead, "--despite", "guard")
    assert "Save sheet loses Ctrl+S." in done.out
    row = ("assign", "quillmap", "sheet.trim", "plate.preview", "--row", "Alt+F11", "--instead")
    assert "Preview plates loses F9." in ask(*row, "--dry-run").out


def test_a_scheme_that_is_there_is_not_to_be_made(ask: Ask, desk: Path) -> None:
    text = re.sub(r"^quillmap = .*$", "quillmap = []", (desk / "desk.toml").read_text(), flags=re.M)
    (desk / "desk.toml").write_text(text)
    refused = ask("assign", "quillmap", "Cairn", "Alt+F10")
    assert refused.status == 2
    assert "scheme use quillmap/" in refused.err
    assert "scheme new" not in refused.err


def test_what_a_finding_is_accepted_for_is_said(ask: Ask) -> None:
    findings = ask("check", "quillmap", "--json").json["findings"]
    (unassigned,) = [each for each in findings if each["id"] == "unassigned"]
    first = unassigned["commands"][0]
    accepted = ask("accept", "quillmap", "unassigned", first, "--why", "looked through")
    assert f"for all {len(unassigned['commands'])} commands" in accepted.out


def test_an_access_letter_is_noted_as_it_is_documented(ask: Ask, desk: Path) -> None:
    route = "Sheet > Trim to neat line"
    noted = ask("app", "mark", "quillmap", "sheet.trim", "--add", "letter:T", "--add", "often")
    assert noted.status == 0, noted.err
    row = next(
        r
        for r in (desk / "apps/quillmap/commands.csv").read_text().splitlines()
        if r.startswith("sheet.trim,")
    )
    assert "letter:T" in row
    assert "often" in row
    assert route.split(" > ")[1] in row
    assert ask("app", "mark", "quillmap", "sheet.trim", "--remove", "letter:T").status == 0
    assert "letter:T" not in (desk / "apps/quillmap/commands.csv").read_text()
    assert ask("app", "mark", "quillmap", "sheet.trim", "--add", "letter:TT").status == 2


def test_access_letters_lead_where_find_says_that_they_lead(ask: Ask) -> None:
    hits = ask("find", "--app", "foldpress", "--json", "").json["hits"]
    routes = {hit["keyboard-route"]: hit["command"] for hit in hits if hit.get("keyboard-route")}
    assert len(routes) > 5
    for route, command in list(routes.items())[:12]:
        first, *rest = route.removeprefix("Alt ").split()
        pressed = ask("press", "foldpress", " ".join((f"Alt+{first}", *rest)), "--json")
        assert pressed.status == 0
        assert command in pressed.json["by-letters"]
    some = " ".join((f"Alt+{first}", *rest))
    assert "goes through the menus, letter by letter" in ask("press", "foldpress", some).out
    assert ask("press", "foldpress", "Alt+P Z Z").status == 1


def test_no_to_what_a_word_means_leaves_it_and_goes_on(desk: Path) -> None:
    rows = "".join(f"Command {n},C-{chr(97 + n)}\n" for n in range(8))
    (desk / "odd.csv").write_text(f"Title,Keys\n{rows}")
    words = ("app", "import", "Odd", "--from", "odd.csv", "--yes")
    _, whole = answer_in(desk, ["y", "", "", "", "", ""], *words)
    assert "“C-”" in whole, whole
    ask_in(desk, "undo")
    for answers in (["n", "", "", "", "", ""], ["no key at all", "", "", "", "", ""]):
        status, shown = answer_in(desk, answers, *words)
        assert status == 0, shown
        assert "odd" in ask_in(desk, "app", "list").out
        ask_in(desk, "undo")


def test_a_plan_says_why_and_keeps_its_options(ask: Ask, desk: Path) -> None:
    ask("usage", "take", "logs/studio/klara", "--seat", "Klara")
    shown = ask("suggest", "quillmap", "Grid", "Save *")
    assert "Grid already has G D; to look for a quicker key: --move." in shown.out
    assert "no key is free" not in shown.out
    words = ("--most", "8", "--move", "--keep", "sheet.save")
    shown = ask("suggest", "quillmap", *words)
    assert f"olive-compass suggest quillmap {' '.join(words)} --yes" in shown.out
    plan = ask("suggest", "quillmap", *words, "--json").json
    assert all(each["saves"] > 0 for each in plan["suggestions"])
    assert "No choice of keys can do better than" in shown.out


def test_without_counts_no_seconds_a_week_are_promised(mini: Path) -> None:
    (mini / MINE).write_text(
        'format = "olive-compass-scheme/1"\napp = "mini"\nlayer = "personal"\n'
    )
    shown = ask_in(mini, "suggest", "mini", "Ruler", "Escape")
    assert shown.status == 0
    assert "a week" not in shown.out.partition("\n")[2]
    assert "Nothing has been counted for them" in shown.out


def _added(
    desk: Path, text: str, name: str = "listing.csv", *options: str
) -> tuple[str, list[str]]:
    """What ``app import`` says of a listing, and the rows of the catalogue that it makes."""
    (desk / name).write_text(text)
    added = ask_in(desk, "app", "import", "Odd", "--from", name, "--yes", *options)
    assert added.status == 0, added.err
    rows = (desk / "apps/odd/commands.csv").read_text().splitlines()[2:]
    ask_in(desk, "undo")
    return added.out, rows


def test_an_import_says_what_it_did_not_understand(desk: Path) -> None:
    says, rows = _added(
        desk,
        "Title,Menu,Keys,Where it goes\n"
        "Join,Edit,Ctrl+J,table\n"
        ",Edit,Ctrl+K,\n"
        "Quay,Edit,Ctrl+J,table\n"
        "Open,View,Ctrl+G   F1,\n",
    )
    assert "it has no title" in says
    assert [row.split(",")[1] for row in rows] == ["Join", "Quay", "Open"]
    assert "given twice" in says
    assert "Ctrl+J (Join, Quay)" in says
    assert "keys one after another: “Ctrl+G F1”" in says
    assert "--column modes='Where it goes'" in says
    few = "Title,Keys,Note\n" + "".join(f"Row {n},,x\n" for n in range(12))
    assert (
        _added(desk, few)[0].splitlines()[1].startswith("Few keys: only 0 of 13 rows have a key.")
    )
    paths = "Title,Keys\nSHEET > Fold,\nCrop,F2\nTurn,\nPress > Proof,\nBurn,F3\n"
    says, rows = _added(desk, paths)
    assert [row.split(",")[1:3] for row in rows] == [
        ["Crop", "SHEET > Fold"],
        ["Turn", "SHEET > Fold"],
        ["Burn", "Press > Proof"],
    ]
    says, rows = _added(desk, paths, "listing.csv", "--groups", "yes")
    assert "Turn”: it was read as a heading, and no command follows it" in says
    _, rows = _added(desk, "Keys\tTitle\n#\tCount\nCtrl+J\tJoin\n", "keys.tsv")
    assert [row.split(",")[3] for row in rows] == ["#", "Ctrl+J"]


def test_merged_cells_of_a_workbook_are_filled_down(desk: Path) -> None:
    from openpyxl import Workbook

    book = Workbook()
    sheet = book.active
    for row in (
        ("Menu", "Title", "Keys"),
        ("Edit", "Join", "F2"),
        ("", "Quay", "F3"),
        ("View", "Fold", "F4"),
    ):
        sheet.append(row)
    sheet.merge_cells("A2:A3")
    book.save(desk / "card.xlsx")
    assert ask_in(desk, "app", "import", "Card", "--from", "card.xlsx", "--yes").status == 0
    rows = (desk / "apps/card/commands.csv").read_text().splitlines()[2:]
    assert [row.split(",")[1:3] for row in rows] == [
        ["Join", "Edit"],
        ["Quay", "Edit"],
        ["Fold", "View"],
    ]
    again = ask_in(desk, "upgrade", "card", "--from", "card.xlsx")
    assert "nothing was changed" in again.out


CELLS = st.sampled_from(
    [
        "Join",
        "&Join",
        "Join…",
        "“Quay”",
        "=Sum",
        "'Fold",
        " Zoom  in ",
        "Edit > Lines",
        "Lines, curved",
        "R U",
        "#",
        "Ä b",
    ]
)
LISTED = st.lists(
    st.tuples(
        CELLS,
        st.sampled_from(["", "Edit", "&Edit", "Edit > Lines", "Edit/Lines", "EDIT:"]),
        st.sampled_from(["", "Ctrl+J", "Ctrl+J, F2", "G D", "-", "Strg+K", "Ctrl+Foo", "F2 or F3"]),
        st.sampled_from(["", "draw", "Draw mode", "draw, text"]),
    ),
    min_size=1,
    max_size=7,
)


@given(LISTED, st.sampled_from(["csv", "tsv", "md"]), st.booleans())
@settings(suppress_health_check=[HealthCheck.function_scoped_fixture])
@pytest.mark.long
def test_the_same_listing_twice_changes_nothing(
    mini: Path, rows: list[tuple[str, ...]], form: str, headed: bool
) -> None:
    head = [("Title", "Menu", "Keys", "Modes")] if headed else []
    if form == "md":
        lines = ["| " + " | ".join(row) + " |" for row in (*head, *rows)]
        lines[1:1] = ["|---|---|---|---|"] if headed else []
        text = "\n".join(lines) + "\n"
    else:
        out = io.StringIO()
        csv.writer(out, delimiter="," if form == "csv" else "\t").writerows([*head, *rows])
        text = out.getvalue()
    (mini / f"twice.{form}").write_text(text)
    added = ask_in(mini, "app", "import", "Twice", "--from", f"twice.{form}", "--yes")
    if added.status != 0:
        # Of a row or two it may not be told which column is what.
        assert added.status == 2, added.out
        return
    before = contents(mini)
    for words in (
        ("upgrade", "twice", "--from", f"twice.{form}", "--yes"),
        ("app", "import", "Twice", "--from", f"twice.{form}", "--yes"),
    ):
        again = ask_in(mini, *words)
        assert "nothing was changed" in again.out, (words, text, again.out, again.err)
        assert contents(mini) == before
    ask_in(mini, "undo")


def test_a_listing_comes_from_a_pipe(desk: Path) -> None:
    rows = ask_in(desk, "find", "--app", "quillmap", "--as", "csv").out
    assert rows
    added = ask_in(desk, "app", "import", "Copy", "--from", "-", "--yes", typed=rows)
    assert added.status == 0, added.err
    assert (desk / "apps/copy/commands.csv").read_text().count("\n") > 100


def test_what_no_listing_says_is_said_by_command_and_kept(desk: Path) -> None:
    def ok(*words: str) -> str:
        answer = ask_in(desk, *words)
        assert answer.status == 0, (words, answer.err)
        return answer.out

    def rows(app: str) -> dict[str, list[str]]:
        lines = (desk / f"apps/{app}/commands.csv").read_text().splitlines()[2:]
        return {line.split(",")[0]: line.split(",") for line in lines}

    ok("app", "import", "Notes", "--empty")
    ok("app", "command", "add", "notes", "Tide table", "--menu", "View > Tides", "--key", "Ctrl+T")
    assert rows("notes")["tides.tide-table"][1:4] == ["Tide table", "View > Tides", "Ctrl+T"]
    assert "starts Tide table" in ok("press", "notes", "Ctrl+T")
    again = ask_in(desk, "app", "command", "add", "notes", "Tide table", "--menu", "View > Tides")
    assert (again.status, "already" in again.err) == (2, True)
    (desk / "card.csv").write_text("Title,Menu,Keys\nJoin,Edit,F2\nQuay,Edit,F3\n")
    ok("app", "import", "Card", "--from", "card.csv", "--yes")
    ok("app", "command", "edit", "card", "Join", "--title", "Join lines", "--key", "F9")
    ok("app", "command", "add", "card", "Fold", "--key", "F7")
    ok("app", "command", "remove", "card", "Quay")
    assert "does nothing" in ask_in(desk, "press", "card", "F3").out
    before = rows("card")
    # Another listing takes nothing of that back, and the same one changes nothing.
    assert "nothing was changed" in ok("app", "import", "Card", "--from", "card.csv", "--yes")
    (desk / "card.csv").write_text("Title,Menu,Keys\nJoin,Edit,F2\nQuay,Edit,F3\nBuoy,Edit,F4\n")
    ok("app", "import", "Card", "--from", "card.csv", "--yes")
    after = rows("card")
    assert {id_: cells for id_, cells in after.items() if id_ in before} == before
    assert "edit.buoy" in after
    ok("app", "command", "remove", "card", "Fold")
    assert "fold" not in rows("card")
    ok("undo")
    assert rows("card") == after
    for words in (("add", "Nothing"), ("add", "Both", "--empty", "--from", "card.csv")):
        assert ask_in(desk, "app", *words).status == 2


def test_a_proxy_is_told_of_when_its_slot_moves(ask: Ask) -> None:
    shift = ("app", "slot", "quillmap", "Saved view 1", "--inserted")
    assert ask("via", "quillmap", "Tide gauge", "--through", "Saved view 1").status == 0
    # Nobody noted what is in the slot: that it moved is said, though nothing is written.
    told = ask(*shift, "--dry-run")
    assert "Tide gauge was shown through Saved view 1" in told.out
    assert "--through view.saved-2" in told.out
    noted = ask("app", "slot", "quillmap", "Saved view 1", "Quay")
    assert "Tide gauge is now noted as shown by Quay." in noted.out
    moved = ask(*shift)
    assert "Tide gauge" in moved.out
    findings = ask("check", "quillmap", "--json").json["findings"]
    (found,) = [each for each in findings if each["id"] == "via-moved"]
    assert ask(*shlex.split(found["to-do"])[1:]).status == 0
    after = ask("check", "quillmap", "--json").json["findings"]
    assert "via-moved" not in {each["id"] for each in after}
    assert ask("app", "slot", "quillmap", "Saved view 2", "--project", "harbour").out.endswith(
        "in harbour: Quay.\n"
    )


@pytest.fixture
def lived_in(toured: tuple[Path, Answer], tmp_path: Path) -> Path:
    """The desk as the demo leaves it: with counts, macros and a key set."""
    return Path(shutil.copytree(toured[0], tmp_path / "lived-in"))


@pytest.fixture
def there(lived_in: Path) -> Ask:
    """Runs the program on a desk that is lived in."""
    return lambda *words, **environment: ask_in(lived_in, *words, **environment)


def test_a_guard_says_what_it_keeps_in_every_mode(there: Ask) -> None:
    for key, mode, kept in (("D W", "draw", "Wall"), ("Insert", "vertex", "Add vertex")):
        said = there("guard", "quillmap", key, "--why", "kept", "--dry-run").out
        assert f"It protects in {mode}: {kept} (factory)." in said
        assert f"It protects everywhere but in {mode}: nothing." in said


def test_a_guarded_key_is_not_offered_for_other_use(there: Ask) -> None:
    def never() -> set[str]:
        return {
            each["key"] for each in there("usage", "quillmap", "--never", "--json").json["never"]
        }

    assert "D W" in never()
    there("guard", "quillmap", "D W", "--why", "for the walls of June")
    assert "D W" not in never()


def test_a_tray_that_fills_itself_counts_as_usage_does(there: Ask) -> None:
    there("tray", "new", "quillmap/Top", "--kind", "tab", "--fill", "most", "5")
    now = there("tray", "show", "quillmap/Top", "--json").json["filled"]
    used = there("usage", "quillmap", "--json").json["commands"][:5]
    assert [(e["title"], e["times"]) for e in now] == [(e["title"], e["times"]) for e in used]


def test_a_command_whose_macro_has_a_key_has_one(there: Ask, lived_in: Path) -> None:
    def without() -> set[str]:
        rows = there("usage", "quillmap", "--without-key", "--json").json["commands"]
        return {each["command"] for each in rows}

    (lived_in / "week.csv").write_text("Command,Times a week\nview.dim-others,22\n")
    assert there("usage", "take", "week.csv", "--app", "quillmap").status == 0
    assert "view.dim-others" not in without(), "D O plays a macro of this one step"
    assert there("clear", "quillmap", "macro.dim-other-layers", "D O").status == 0
    assert "view.dim-others" in without()


def test_insert_takes_an_effort_like_any_key(there: Ask) -> None:
    effort = {k: there("key", k, "--json").json["effort"] for k in ("Insert", "F")}
    assert effort["Insert"] > 2 * effort["F"] > 0
    there("mute", "quillmap", "Insert", "--mode", "vertex", "--why", "free again")
    offers = there("free", "quillmap", "--for", "Buoy", "--json").json["ranked"]
    assert all(each["effort"] > 0 for each in offers)
    assert "Insert" not in [each["key"] for each in offers[:10]]


def test_swipes_are_not_copied_in_silence_to_where_they_start_nothing(ask: Ask) -> None:
    words = ("swipes", "copy", "quillmap", "vertex", "label", "--if-taken", "replace", "--dry-run")
    said = ask(*words, "--despite", "keyboard").out
    assert "swipe:060 in label: Add vertex, was Zoom to area; it cannot be used in label." in said


def test_a_key_set_says_what_its_key_would_begin(there: Ask) -> None:
    said = there("keyset", "set", "larkspur", "duplicate", "G", "--dry-run").out
    assert "G D begins with G, so G would start its command only after a wait" in said


def test_what_comes_back_is_said(ask: Ask) -> None:
    ask("assign", "quillmap", "Lane", "Ctrl+Alt+L", "--instead", "--why", "quicker")
    assert "L N in draw: was nothing, now Lane (factory)." in ask("clear", "quillmap", "Lane").out
    ask("undo")
    reset = ask("reset", "quillmap", "--command", "Lane", "--yes").out
    assert "L N in draw: was nothing, now Lane (factory)." in reset
    assert "Ctrl+Alt+L in draw: was Lane (mine, personal), now nothing." in reset


def test_a_key_that_is_muted_and_waits_is_no_silent_one(ask: Ask) -> None:
    ask("mute", "quillmap", "G", "--mode", "draw", "--why", "pressed by mistake")
    pressed = ask("press", "quillmap", "G", "--mode", "draw").out
    assert pressed.startswith("G waits")
    assert "nothing, it is muted" in pressed
    keys = ask("board", "quillmap", "--mode", "draw", "--json").json["keys"]
    assert {each["state"] for each in keys if each["code"] == "KeyG"} == {"begins"}


def test_no_modifiers_are_none_and_not_all(ask: Ask, desk: Path) -> None:
    path = desk / "apps/quillmap/app.toml"
    path.write_text(path.read_text().replace("[rules]\n", "[rules]\nmodifiers = []\n", 1))
    refused = ask("assign", "quillmap", "Lane", "Ctrl+Alt+K")
    assert (refused.status, "it takes no Alt in a key" in refused.err) == (2, True)
    offers = ask("free", "quillmap", "--for", "Lane", "--json").json["ranked"]
    assert offers
    assert not any("+" in each["key"] for each in offers)


def test_an_input_without_a_kind_is_reported(ask: Ask, desk: Path) -> None:
    path = desk / "apps/quillmap/commands.csv"
    path.write_text(path.read_text().replace("at:point to:point", "at: to:point", 1))
    findings = ask("check", "quillmap", "--json").json["findings"]
    (found,) = [each for each in findings if each["id"] == "unreadable-inputs"]
    assert found["says"] == "“Path” has the input “at” without a kind."


def test_a_rule_that_was_guessed_is_called_guessed(ask: Ask, desk: Path) -> None:
    (desk / "twice.csv").write_text("Title,Keys\nJoin,Ctrl+J\nQuay,Ctrl+J\nPier,Ctrl+P\n")
    assert ask("app", "import", "Duskboard", "--from", "twice.csv", "--yes").status == 0
    assert "duplicates" not in (desk / "apps/duskboard/app.toml").read_text()
    found = ask("check", "duskboard", "--json").json["findings"]
    (same,) = [each["says"] for each in found if each["id"] == "same-press"]
    assert same.endswith("Duskboard is taken to start the last (guessed).")
    pressed = ask("press", "duskboard", "Ctrl+J").out
    assert "guessed     that it starts Quay, not Join" in pressed
    (way_out,) = re.findall(r"to confirm: olive-compass (.*)", pressed)
    assert ask(*shlex.split(way_out)).status == 0
    for words in (("press", "duskboard", "Ctrl+J"), ("check", "duskboard")):
        assert "guessed" not in ask(*words).out


def test_a_scheme_counts_what_it_shows(there: Ask) -> None:
    for scheme in ("quillmap/mine", "quillmap/house", "foldpress/mine"):
        head, _, table = there("scheme", "show", scheme).out.partition("What differs from")
        rows = there("scheme", "show", scheme, "--json").json["decisions"]
        (number,) = re.findall(r"decisions +(\d+)\n", head)
        assert int(number) == len(rows) == len(table.strip().splitlines()) - 2, scheme


def test_both_sides_of_a_conflict_stand_in_its_json(ask: Ask, desk: Path) -> None:
    head = 'format = "olive-compass-scheme/1"\napp = "quillmap"\nlayer = "personal"\n\n[assign]\n'
    for name, key in (("base", "Alt+F10"), ("ours", "Alt+F11"), ("theirs", "Alt+F12")):
        (desk / f"{name}.toml").write_text(f'{head}"point.cairn" = ["{key}"]\n')
    merged = ask("merge", "base.toml", "ours.toml", "theirs.toml", "--dry-run", "--json")
    (unsettled,) = merged.json["unsettled"]
    assert "Alt+F11" in str(unsettled["ours"])
    assert "Alt+F12" in str(unsettled["theirs"])
