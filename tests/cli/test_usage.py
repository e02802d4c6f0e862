"""Usage, savings, suggestions and practice as a user meets them, and whole logs on a cluster."""

import shlex
from pathlib import Path

import pytest

from olive_compass.desk.formats import tally_file
from tests.conftest import PICTURES, Ask, ask_in, become, contents, prepared

SEATS = ("ivo", "klara", "runa")


@pytest.fixture(scope="module")
def with_counts(laid_out: Path, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A desk on which six weeks of one seat are counted."""
    taken = ("usage", "take", "logs/studio/klara", "--seat", "Klara")
    return prepared(laid_out, tmp_path_factory.mktemp("counted"), taken)


@pytest.fixture
def counted(with_counts: Path, ask: Ask, desk: Path) -> Ask:
    """Runs the program on a copy of that desk."""
    become(desk, with_counts)
    return ask


def test_the_same_logs_count_once_and_can_be_taken_back(counted: Ask, desk: Path) -> None:
    def times() -> int:
        apps = counted("usage", "--json").json["apps"]
        return sum(each["times"] for each in apps)

    once = times()
    before = contents(desk)
    again = counted("usage", "take", "logs/studio/klara", "--seat", "Klara")
    assert "nothing was changed" in again.out
    assert contents(desk) == before
    counted("usage", "take", "logs/studio/ivo", "--seat", "Ivo")
    assert times() > once
    assert counted("undo").status == 0
    assert times() == once
    # What is counted holds no inputs and no documents.
    tallies = "".join(file.read_text() for file in (desk / "tallies").iterdir())
    assert "inputs" not in tallies
    assert counted("usage", "quillmap", "--since", "2027-01-01").status == 1


def test_sums_of_weeks_are_kept_and_say_what_the_tallies_say(
    counted: Ask, desk: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    cache = str(tmp_path / "cache")
    asked = (("check", "quillmap", "--json"), ("usage", "--json"), ("savings", "--json"))
    read: list[str] = []
    of_file = tally_file.read_what_can_be

    def reads(data: bytes, path: str, follows: bool = True) -> object:
        read.append(Path(path).stem)
        return of_file(data, path, follows)

    monkeypatch.setattr(tally_file, "read_what_can_be", reads)

    def same() -> list[str]:
        """The files that were read where the sums of earlier runs are kept."""
        plain = [counted(*words).out for words in asked]
        read.clear()
        assert [counted(*words, OLIVE_COMPASS_CACHE=cache).out for words in asked] == plain
        return list(read)

    counted("usage", "take", "logs/studio/ivo", "--seat", "Ivo")
    assert len(same()) == 12
    assert same() == []
    week = desk / "tallies/klara-2026-W38.csv"
    first = week.read_text()
    week.write_text(first.replace(",menu,", ",toolbar,"))
    assert same() == ["ivo-2026-W38", "klara-2026-W38"]
    # A line that is no count is told of each time.
    week.write_text(f"{first}nothing\n")
    assert same()
    assert "This line is no count" in counted("usage", OLIVE_COMPASS_CACHE=cache).err
    # A copy of a file is no work that was done twice.
    week.write_text(first)
    assert same()
    once = counted("usage", "--json").json
    (desk / "tallies/copy-of-klara.csv").write_text(first)
    assert same()
    assert counted("usage", "--json", OLIVE_COMPASS_CACHE=cache).json == once


def test_what_usage_shows(counted: Ask) -> None:
    most = counted("usage", "quillmap", "--json").json["commands"]
    assert [e["times"] for e in most] == sorted((e["times"] for e in most), reverse=True)
    keyed = counted("usage", "quillmap", "--by-menu", "--json").json["commands"]
    assert all(each["keys"] for each in keyed)
    assert not any(
        e["keys"] for e in counted("usage", "quillmap", "--without-key", "--json").json["commands"]
    )
    slips = counted("usage", "reliefkiln", "--slips")
    assert "F6" in slips.out
    advice = slips.out.partition("To make it harmless: ")[2].splitlines()[0]
    counted("scheme", "new", "reliefkiln/mine")
    assert counted(*shlex.split(advice)[1:]).status == 0
    never = counted("usage", "quillmap", "--never", "--json").json["never"]
    assert "Ctrl+S" not in {each["key"] for each in never}
    assert len(counted("usage", "--trend", "--json").json["weeks"]) == 6
    # In spring it had no key, then it had one, and the hand went on to the menu for a while.
    checked = counted("check", "reliefkiln", "--json").json["findings"]
    assert "mostly-undone" not in {f["id"] for f in checked}


def test_where_nothing_was_counted_it_is_said(ask: Ask) -> None:
    for words in (("usage",), ("savings",), ("savings", "quillmap"), ("practise", "quillmap")):
        answer = ask(*words)
        assert (answer.status, answer.out) == (2, "")
        assert "Nothing has been counted on this desk yet. Count logs: " in answer.err


def test_a_list_without_logs_and_what_is_none(ask: Ask, desk: Path) -> None:
    (desk / "week.csv").write_text("Command,Times a week\nWreck,40\nSave sheet,90\n")
    assert "Set it: --app APP" in ask("usage", "take", "week.csv").err
    taken = ask("usage", "take", "week.csv", "--app", "quillmap")
    assert taken.status == 0, taken.err
    most = ask("usage", "quillmap", "--json").json["commands"]
    assert [(e["title"], e["times"]) for e in most] == [("Save sheet", 90), ("Wreck", 40)]
    # Nobody saw how: it is taken for the menu, and said so.
    savings = ask("savings", "quillmap", "--json").json
    assert set(savings["from-lists"]) == {"sheet.save", "point.wreck"}
    assert (
        "2 commands of them are taken to be chosen from the menu" in ask("savings", "quillmap").out
    )
    assert {e["from-menu"] for e in savings["commands"] if e["command"] == "sheet.save"} != {0}
    (desk / "odd.csv").write_text("Command,Times a week\nNothing like it,40\n")
    odd = ask("usage", "take", "odd.csv", "--app", "quillmap")
    assert (odd.status, "odd.csv:2" in odd.err) == (2, True)
    (desk / "broken.jsonl").write_text(
        '{"format": "olive-compass-log/1", "app": "quillmap"}\nnot json\n'
        '{"time": "2026-10-05T09:00:00", "app": "quillmap", "command": "sheet.save", "how": "key"}\n'
    )
    broken = ask("usage", "take", "broken.jsonl")
    assert "1 line is no event and was passed over" in broken.out
    assert ask("usage", "take", "nowhere.jsonl").status == 2


def test_savings_name_its_figures_and_take_others(counted: Ask, desk: Path) -> None:
    plain = counted("savings", "quillmap", "--json").json
    assert plain["seconds"]["now"] < plain["seconds"]["menus"]
    slow = counted("savings", "quillmap", "--model", "P=2.2", "--json").json
    assert slow["seconds"]["menus"] > plain["seconds"]["menus"]
    (desk / "desk.toml").write_text((desk / "desk.toml").read_text() + "\n[model]\nP = 2.2\n")
    assert counted("savings", "quillmap", "--json").json["seconds"] == slow["seconds"]
    told = counted("savings", "quillmap", "--explain").out
    assert "M 1.35 + " in told
    assert "P 2.2 s" in told
    assert "no figure of the model" in counted("savings", "quillmap", "--model", "X=1").err
    assert "Quillmap" in counted("savings").out


def test_suggestions_are_given_as_one_change_and_nothing_stands_against_them(counted: Ask) -> None:
    plan = counted("suggest", "quillmap", "--most", "5", "--json").json
    assert len(plan["suggestions"]) == 5
    assert plan["bound"] <= plan["cost"] < plan["now"]
    errors = [f for f in counted("check", "--json").json["findings"] if f["severity"] == "error"]
    dry = counted("suggest", "quillmap", "--most", "5", "--dry-run")
    assert "nothing was written" in dry.out
    gave = counted("suggest", "quillmap", "--most", "5", "--yes")
    assert gave.status == 0, gave.err
    for each in plan["suggestions"]:
        decided = counted("find", each["command"], "--app", "quillmap", "--json").json["hits"]
        keys = {
            k["key"] for hit in decided if hit["command"] == each["command"] for k in hit["keys"]
        }
        assert each["key"] in keys
    after = [f for f in counted("check", "--json").json["findings"] if f["severity"] == "error"]
    assert after == errors
    assert counted("undo").status == 0
    named = counted("suggest", "quillmap", "Wreck", "Railway", "--hand", "left", "--json").json
    assert {e["command"] for e in named["suggestions"]} == {"point.wreck", "line.railway"}


def test_what_a_change_of_scheme_saves(counted: Ask) -> None:
    before = counted("compare", "quillmap/factory", "quillmap/mine").out
    assert counted("keyless", "quillmap", "Path", "--why", "to see what it costs").status == 0
    after = counted("compare", "quillmap/factory", "quillmap/mine").out
    assert "it costs" in after
    assert "it costs" not in before


def test_practice_goes_by_boxes_that_stay_on_the_seat(counted: Ask, desk: Path) -> None:
    cards = counted("practise", "quillmap", "--json").json["cards"]
    assert "by menu" in counted("practise", "quillmap", "--sheet").out
    history = sorted((desk / ".history").iterdir())
    answers = [cards[0]["keys"][0], "Ctrl+Alt+F12"]
    typed = _practise(desk, answers)
    assert "right." in typed
    assert "does nothing; it is" in typed
    seat = (desk / "seat.toml").read_text()
    assert f'"{cards[0]["command"]}" = "2 ' in seat
    assert sorted((desk / ".history").iterdir()) == history
    later = counted("practise", "quillmap", "--json").json["cards"]
    assert cards[0]["command"] not in {card["command"] for card in later}


def _practise(desk: Path, answers: list[str]) -> str:
    import io

    from olive_compass.cli.main import main
    from olive_compass.cli.surroundings import Surroundings

    out = io.StringIO()
    inp = io.StringIO("\n".join(answers) + "\n")
    context = Surroundings(out, out, inp, environ={}, folder=str(desk), interactive=False)
    assert main(["practise", "quillmap"], context) == 0
    return out.getvalue()


@pytest.mark.parametrize("form", PICTURES)
def test_a_chart_is_drawn_in_each_form(counted: Ask, desk: Path, form: str) -> None:
    name = f"chart.{form}"
    drawn = counted("usage", "quillmap", "--as", form, "--out", name)
    assert drawn.status == 0, drawn.err
    data = (desk / name).read_bytes()
    assert data.startswith({"png": b"\x89PNG", "svg": b"<?xml", "pdf": b"%PDF"}[form])
    assert counted("usage", "quillmap", "--as", form, "--out", name).status == 2


def test_a_table_of_other_headings_is_counted_by_naming_them(ask: Ask, desk: Path) -> None:
    text = "Was;Zuletzt;Wann\nWreck;42;2026-11-20T10:00:00\nSteps;7;2026-11-21T10:00:00\n"
    (desk / "fremd.csv").write_text(text)
    take = ("usage", "take", "fremd.csv", "--app", "quillmap")
    refused = ask(*take)
    assert refused.status == 2
    assert "--column command=HEADING" in refused.err
    assert ask(*take, "--column", "command=Was", "--column", "time=Wann").status == 0
    used = ask("usage", "quillmap", "--json").json["commands"]
    assert {(each["command"], each["times"]) for each in used} == {
        ("point.wreck", 1),
        ("line.steps", 1),
    }
    ask("undo")
    assert ask(*take, "--column", "command=1", "--column", "times=Zuletzt").status == 0
    used = ask("usage", "quillmap", "--json").json["commands"]
    assert {(each["command"], each["times"]) for each in used} == {
        ("point.wreck", 42),
        ("line.steps", 7),
    }
    for odd in ("command=Nix", "who=Was", "times"):
        assert ask(*take, "--column", odd).status == 2


def test_a_scheme_says_what_it_saves(counted: Ask) -> None:
    show = ("scheme", "show", "quillmap/mine")
    assert "neither saves nor costs time as hands go now" in counted(*show).out
    assert counted(*show, "--json").json["saves"] == 0
    # A key for what hands go to the menu for saves nothing yet, and would.
    assert counted("assign", "quillmap", "Spot height", "Q", "--why", "by menu so far").status == 0
    shown = counted(*show)
    assert "saves" in shown.out.partition("could be")[2].splitlines()[0]
    # A worse key for what hands press costs.
    assert (
        counted("assign", "quillmap", "Place name", "Ctrl+Alt+Shift+F12", "--instead").status == 0
    )
    assert counted(*show, "--json").json["saves"] < 0
    assert "costs" in counted(*show).out.partition("savings")[2].splitlines()[0]


def test_a_finding_of_usage_can_be_followed(counted: Ask, desk: Path) -> None:
    ids = {"used-without-key", "menu-despite-key"}
    found = [f for f in counted("check", "quillmap", "--json").json["findings"] if f["id"] in ids]
    assert found
    for finding in found:
        answer = ask_in(desk, *shlex.split(finding["to-do"])[1:])
        assert answer.status == 0, answer.err
        left = ask_in(desk, "check", "quillmap", "--json").json["findings"]
        assert finding["says"] not in [f["says"] for f in left if f["accepted"] is None]


def test_what_keys_save_is_drawn_as_it_is_said(
    counted: Ask, desk: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    from olive_compass.drawing import charts

    drawn: list[list[charts.Bar]] = []

    def bars(title: str, subtitle: str, rows: list[charts.Bar], unit: str, form: str) -> bytes:
        assert unit == "seconds a week"
        drawn.append(rows)
        return form.encode()

    monkeypatch.setattr(charts, "bars", bars)
    said = counted("savings", "quillmap", "--json").json["commands"]
    assert counted("savings", "quillmap", "--out", "w.png").status == 0
    savings = {each["title"]: each for each in said}
    for row in drawn[0]:
        each = savings[row.title]
        assert row.note == (each["key"] or "no key")
        if each["key"]:
            assert row.ways["saved by keys"] == pytest.approx(max(each["saves"], 0), abs=0.01)
        else:
            assert row.ways == {"with a key": pytest.approx(max(each["would-save"], 0), abs=0.01)}
    sums = [sum(row.ways.values()) for row in drawn[0]]
    assert sums == sorted(sums, reverse=True)
    assert counted("savings", "quillmap", "--out", "few.svg", "--limit", "2").status == 0
    assert len(drawn[1]) == 2
    assert counted("savings", "--out", "all.pdf").status == 0
    titles = [row.title for row in drawn[2]]
    assert titles == [
        each["app"].capitalize() for each in counted("savings", "--json").json["apps"]
    ]
    refused = counted("savings", "quillmap", "--as", "png")
    assert (refused.status, "goes into a file" in refused.err) == (2, True)
