"""Trays, slots and vias as a user meets them: made, edited, undone, carried, opened."""

import json
import random
import shlex
from pathlib import Path

import pytest

from tests.conftest import Ask, ask_in, contents

TRAYS = "trays/quillmap.toml"


@pytest.fixture
def day(ask: Ask) -> Ask:
    """A desk with a tab of the harbour in three groups."""
    ask("scheme", "new", "quillmap/mine")
    made = ask("tray", "new", "quillmap/Harbour day", "--kind", "tab", "--place", "first")
    assert made.status == 0, made.err
    for group, *items in (
        ("Depths", "Sounding", "Depth contour", "Shoreline"),
        ("Lights", "Buoy", "Light with sectors", "-", "Wreck"),
        ("On paper", "Measure", "Halo", "Preview plates"),
    ):
        assert ask("tray", "add", "harbour-day", *items, "--group", group).status == 0
    return ask


def items(ask: Ask, name: str = "harbour-day") -> list[str]:
    return list(ask("tray", "show", name, "--json").json["items"])


def test_nine_commands_from_five_menus_on_one_tray(day: Ask, desk: Path) -> None:
    shown = day("tray", "show", "harbour-day")
    assert "Harbour day, tab of Quillmap, in first place" in shown.out
    assert shown.out.index("Depths") < shown.out.index("Lights") < shown.out.index("On paper")
    assert len(items(day)) == 9
    listed = day("tray", "list", "--json").json["trays"]
    assert [(t["name"], t["kind"], t["place"]) for t in listed] == [("harbour-day", "tab", "first")]
    text = (desk / TRAYS).read_text()
    assert 'Depths = ["point.sounding", "line.depth-contour", "line.shoreline"]' in text
    # What is taken from a key is left with the tray as well.
    left = day("assign", "quillmap", "Cairn", "F9", "--mode", "draw", "--if-taken", "replace").out
    assert "it still has F9" in left
    assert "the tab Harbour day, in Lights" in day("press", "quillmap", "B Y").out
    assert "Buoy" in day("sheet", "quillmap").out.partition("Harbour day, Lights (tab)")[2]


def test_a_tray_goes_on_a_key_like_any_command(day: Ask) -> None:
    assert "Harbour day got F11" in day("assign", "quillmap", "Harbour day", "F11").out
    pressed = day("press", "quillmap", "F11").out
    assert "starts Harbour day" in pressed
    assert "holds" in pressed
    found = day("find", "--kind", "tray", "harbour", "--json").json["hits"]
    assert [hit["command"] for hit in found] == ["tray.harbour-day"]
    assert day("check", "quillmap").status in (0, 1)
    off = day("tray", "off", "harbour-day")
    assert "Keys still name it: F11" in off.out
    assert "never enabled" in day("try", "quillmap", "--script", _script(day, "F11")).out
    assert "harbour-day" in day("tray", "list").out


def _script(ask: Ask, *lines: str) -> str:
    """A script for the simulator beside the desk's own."""
    folder = Path(ask("desk", "show", "--json").json["folder"])
    (folder / "scripts/mine.txt").write_text("\n".join(lines) + "\n")
    return "scripts/mine.txt"


def test_each_verb_edits_and_says_so(day: Ask, desk: Path) -> None:
    day("tray", "move", "harbour-day", "Wreck", "--before", "Buoy")
    assert items(day)[3:6] == ["point.wreck", "point.buoy", "point.light"]
    day("tray", "remove", "harbour-day", "light")
    assert "point.light" not in items(day)
    day("tray", "group", "harbour-day", "On paper", "--before", "Depths")
    day("tray", "group", "harbour-day", "Depths", "--title", "Water")
    shown = day("tray", "show", "harbour-day", "--json").json
    assert [group["title"] for group in shown["groups"]] == ["On paper", "Water", "Lights"]
    assert day("tray", "group", "harbour-day", "Lights", "--off").status == 0
    assert day("tray", "rename", "harbour-day", "Harbour days").status == 0
    assert day("tray", "place", "harbour-day", "before", "edit").status == 0
    assert day("tray", "letter", "harbour-day", "h").status == 0
    shown = day("tray", "show", "quillmap/harbour days", "--json").json
    assert (shown["place"], shown["letter"], shown["name"]) == ("before Edit", "H", "harbour-day")
    refused = day("tray", "place", "harbour-day", "before", "Nothing")
    assert (refused.status, "has no menu “Nothing”" in refused.err) == (2, True)
    assert (
        "Sounding is on it already, in Water" in day("tray", "add", "harbour-day", "Sounding").out
    )
    for words in (("rename", "harbour-day", " "), ("group", "harbour-day", "")):
        assert "is no title" in day("tray", *words).err
    dry = day("tray", "remove", "harbour-day", "Sounding", "--dry-run")
    assert "Quillmap: would remove Sounding from" in dry.out
    assert "point.sounding" in items(day)


def test_what_an_application_does_not_take(day: Ask) -> None:
    assert day("tray", "new", "foldpress/Everyday", "--kind", "bar").status == 0
    for item, why in (("Make plates", "in the menus only"), ("Turn over", "has an icon")):
        refused = day("tray", "add", "everyday", "Proof", item)
        assert (refused.status, why in refused.err) == (2, True)
    assert items(day, "everyday") == []
    hint = day("tray", "add", "everyday", "Turn over").err.partition("If it has one: ")[2]
    assert day(*shlex.split(hint)[1:]).status == 0
    assert "also has a key" in day("tray", "add", "everyday", "Turn over", "Proof").out
    assert "no groups" in day("tray", "add", "everyday", "Map fold", "--group", "X").err
    lacking = day("tray", "new", "tagwright/Mine", "--kind", "tab")
    assert (lacking.status, "It has none yet" in lacking.err) == (2, True)
    assert day("app", "trays", "tagwright", "tab", "--items", "3").status == 0
    assert day("tray", "new", "tagwright/Mine", "--kind", "tab").status == 0
    assert day("app", "trays", "tagwright", "tab", "--off").status == 2


def test_any_order_of_edits_undone_gives_back_every_byte(day: Ask, desk: Path) -> None:
    draw = random.Random(3)
    names = ["Sounding", "Buoy", "Wreck", "Cairn", "Ford", "Measure", "Join"]
    states = [contents(desk)]
    tries = 0
    while len(states) < 25 and tries < 120:
        tries += 1
        one, two = draw.sample(names, 2)
        words = draw.choice(
            [
                ("tray", "add", "harbour-day", one, "--group", draw.choice(["Lights", "New"])),
                ("tray", "remove", "harbour-day", one),
                ("tray", "move", "harbour-day", one, "--after", two),
                ("tray", "group", "harbour-day", "New", "--before", "Lights"),
                ("tray", "group", "harbour-day", "New", "--off"),
                ("tray", draw.choice(["off", "on"]), "harbour-day"),
                ("tray", "place", "harbour-day", draw.choice(["first", "last", "after View"])),
                ("tray", "reset", "harbour-day", "--as-in", "factory", "--group", "Lights"),
                ("assign", "quillmap", one, "F11", "--if-taken", "replace"),
            ]
        )
        status = ask_in(desk, *words).status
        assert status in (0, 2), words
        after = contents(desk)
        if _files(after) != _files(states[-1]):
            states.append(after)
    for state in reversed(states[:-1]):
        assert ask_in(desk, "undo").status == 0
        assert _files(contents(desk)) == _files(state)


def _files(found: dict[str, bytes]) -> dict[str, bytes]:
    return {name: data for name, data in found.items() if not name.startswith(".history")}


def test_resets_of_keys_and_of_trays_leave_each_other_alone(day: Ask, desk: Path) -> None:
    mine = desk / "schemes/quillmap/mine.toml"
    day("assign", "quillmap", "Cairn", "F11", "--why", "x")
    before = (desk / TRAYS).read_bytes()
    assert day("reset", "quillmap", "--all", "--yes").status == 0
    assert (desk / TRAYS).read_bytes() == before
    day("undo")
    keys = mine.read_bytes()
    day("tray", "new", "quillmap/Evening", "--kind", "tab")
    assert day("tray", "reset", "harbour-day", "--as-in", "factory").status == 0
    assert mine.read_bytes() == keys
    assert [t["name"] for t in day("tray", "list", "--json").json["trays"]] == ["evening"]


def test_the_house_is_left_alone_and_comes_back(ask: Ask, desk: Path) -> None:
    ask("tray", "new", "quillmap/Harbour", "--kind", "tab", "--layer", "house")
    ask("tray", "add", "harbour", "Buoy", "Wreck", "--group", "Lights", "--layer", "house")
    own = ask("tray", "add", "harbour", "Cairn", "--group", "Lights")
    assert "the one of the house stays as it is" in own.out
    assert items(ask, "harbour") == ["point.buoy", "point.wreck", "point.cairn"]
    assert ask("tray", "reset", "harbour", "--group", "Lights").status == 0
    assert items(ask, "harbour") == ["point.buoy", "point.wreck"]
    assert ask("tray", "reset", "harbour").status == 0
    assert "[personal" not in (desk / TRAYS).read_text()
    refused = ask("tray", "reset", "harbour")
    assert refused.status in (0, 2)


def test_a_tray_is_carried_by_purposes(day: Ask) -> None:
    day("purpose", "guess", "quillmap", "--above", "0.7", "--yes")
    day("purpose", "guess", "foldpress", "--above", "0.7", "--yes")
    day("tray", "add", "harbour-day", "Undo", "Zoom in", "--group", "Always")
    copied = day("tray", "copy", "harbour-day", "foldpress", "--kind", "menu")
    assert copied.status == 0, copied.err
    assert "Sounding stays behind" in copied.out
    assert {"edit.undo", "view.zoom-in"} <= set(items(day, "foldpress/harbour-day"))
    assert day("undo").status == 0
    assert day("tray", "show", "foldpress/harbour-day").status == 2


def test_on_the_simulator_a_tray_opens_and_follows_the_session(day: Ask, desk: Path) -> None:
    day("tray", "new", "reliefkiln/Lately", "--kind", "list", "--fill", "recent", "3")
    day("assign", "reliefkiln", "tray.lately", "F9")
    script = _script(day, "F9", "Down", "Enter", "F9", "1", "F9", "G", "F9", "Escape")
    ran = day("try", "reliefkiln", "--script", script, "--log", "logs/here.jsonl")
    assert "Save relief, from Lately" in ran.out
    events = [json.loads(line) for line in (desk / "logs/here.jsonl").read_text().splitlines()]
    chosen = [e["command"] for e in events if e.get("how") == "tray"]
    # What was chosen comes first the next time.
    assert chosen[:2] == ["relief.save-relief", "relief.save-relief"]
    shown = day("tray", "show", "lately", "--json").json["filled"]
    assert len(shown) == 3
    assert shown[0]["last"] >= shown[1]["last"]


def test_what_check_advises_for_trays_removes_the_finding(day: Ask, desk: Path) -> None:
    day("tray", "new", "quillmap/Round", "--kind", "ring")
    day("assign", "quillmap", "Wreck", "F11", "--mode", "draw", "--mode", "vertex")
    file = desk / TRAYS
    text = file.read_text().replace(
        '"point.sounding",', '"point.sounding", "point.sounding", "no.such",'
    )
    file.write_text(text.replace('title = "Harbour day"', 'title = "Harbour day"\nletter = "D"'))
    ids = {"tray-item-gone", "tray-duplicate", "tray-unreachable", "tray-item-has-key"}

    def found() -> list[dict[str, object]]:
        every = ask_in(desk, "check", "quillmap", "--json").json["findings"]
        return [f for f in every if str(f["id"]).startswith("tray")]

    assert ids <= {str(f["id"]) for f in found()}
    for _ in range(9):
        if not (left := found()):
            break
        before = [f["says"] for f in left]
        answer = ask_in(desk, *shlex.split(str(left[0]["to-do"]))[1:])
        assert answer.status == 0, (left[0]["to-do"], answer.err)
        assert before[0] not in [f["says"] for f in found()]
    assert found() == []


def test_the_steps_by_hand_come_in_order(day: Ask) -> None:
    day("assign", "quillmap", "tray.harbour-day", "F11")
    out = day("worklist", "quillmap").out
    steps = [
        "Make the tab Harbour day, in first place",
        "Make the group Depths",
        "Put Sounding on",
        "Give F11",
    ]
    places = [out.index(step) for step in steps]
    assert places == sorted(places)
    found = day("worklist", "quillmap", "--json").json["trays"]
    assert [each["what"] for each in found[:3]] == ["make", "group", "put"]
    assert "Put Buoy on Harbour day" in day("worklist", "quillmap", "--as", "markdown").out


def test_trays_are_compared_merged_packed_and_pulled(day: Ask, desk: Path, tmp_path: Path) -> None:
    there = tmp_path / "there"
    ask_in(tmp_path, "demo", "there", "--quiet")
    compared = day("compare", str(there), ".", "--decisions")
    assert "harbour-day" in compared.out
    assert day("pack", "all.zip").status == 0
    taken = ask_in(there, "unpack", str(desk / "all.zip"), "--if-taken", "replace", "--yes")
    assert taken.status == 0, taken.err
    assert ask_in(there, "tray", "show", "harbour-day").status == 0
    # Two people at two trays: both are kept.
    base = (desk / TRAYS).read_text()
    ours, theirs = (
        base + f'\n[personal.{name}]\ntitle = "{name}"\nkind = "tab"\n' for name in ("dawn", "dusk")
    )
    for name, text in (("base", base), ("ours", ours), ("theirs", theirs)):
        (tmp_path / f"{name}.toml").write_text(text)
    paths = [str(tmp_path / f"{name}.toml") for name in ("base", "ours", "theirs")]
    merged = day("merge", *paths)
    assert merged.status == 0, merged.out
    assert "[personal.dawn]" in merged.out
    assert "dusk" in merged.out
    # The house's trays come with the house's keys; one's own stay.
    ask_in(there, "tray", "new", "quillmap/Studio", "--kind", "tab", "--layer", "house")
    day("house", "from", str(there))
    pulled = day("house", "pull", "--yes")
    assert pulled.status == 0, pulled.err
    names = {t["name"] for t in day("tray", "list", "--json").json["trays"]}
    assert {"studio", "harbour-day"} <= names
    exported = day("export", "quillmap", "--as", "json").json["trays"]
    assert {t["name"] for t in exported} == names


def test_an_upgrade_keeps_what_trays_name(day: Ask) -> None:
    before = items(day)
    listing = (
        "upgrade",
        "quillmap",
        "--from",
        "listings/quillmap-5.csv",
        "--version",
        "5",
        "--yes",
    )
    assert day(*listing).status == 0
    assert items(day) == before
    gone = [
        f
        for f in day("check", "quillmap", "--json").json["findings"]
        if f["id"] == "tray-item-gone"
    ]
    assert all("has no such command" not in f["says"] for f in gone)
    assert day("app", "rename", "quillmap", "Quillmap Pro").status == 0
    assert day("tray", "show", "quillmap-pro/harbour-day").status == 0


def test_a_slot_moves_and_a_proxy_notices(ask: Ask) -> None:
    ask("scheme", "new", "reliefkiln/mine")
    given = ask("via", "reliefkiln", "Tide gauge", "--through", "Harbour side")
    assert "Press Ctrl+H" in given.out
    found = ask("find", "gauge", "--json").json["hits"]
    assert [(hit["command"], hit["shows"]) for hit in found] == [("view.saved-3", ["Tide gauge"])]
    assert "Tide gauge" in ask("press", "reliefkiln", "Ctrl+H").out
    assert "shows Tide gauge" in ask("sheet", "reliefkiln").out
    moved = ask("app", "slot", "reliefkiln", "View 2", "South face", "--inserted")
    assert "Ctrl+4 reaches View 4: Harbour side now." in moved.out
    (finding,) = [
        f for f in ask("check", "reliefkiln", "--json").json["findings"] if f["id"] == "via-moved"
    ]
    assert ask(*shlex.split(finding["to-do"])[1:]).status == 0
    rows = ask("via", "reliefkiln", "--json").json["via"]
    assert [(r["command"], r["content"]) for r in rows] == [("view.saved-4", "Harbour side")]
    assert "takes no key: View 4" in ask("assign", "reliefkiln", "tide gauge", "F11", "-n").out
    back = ask("app", "slot", "reliefkiln", "View 2", "--removed")
    assert "reach View 2: North face now" in back.out or "reaches View 2: North face" in back.out
    assert ask("via", "reliefkiln", "Tide gauge", "--off").status == 0
    assert ask("via", "reliefkiln").status == 1
