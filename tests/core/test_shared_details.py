"""The smaller questions of sharing and of paper: rows, holders, upgrades, steps by hand, sheets, boards."""

import os
import stat
from pathlib import Path

import pytest

from olive_compass.core.actions import ClearKeys
from olive_compass.core.apps.app import Catalogue
from olive_compass.core.apps.rules import Rules
from olive_compass.core.apps.trays import PARTING, Group, Tray, TrayKind
from olive_compass.core.changes.view import AppView
from olive_compass.core.findings.advice import better_key
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.schemes.board import (
    FREE,
    KEYLESS,
    SHARED,
    USED,
    BoardKey,
    keyless_presses,
    typed_label,
)
from olive_compass.core.schemes.claims import Claim, Does, Stack
from olive_compass.core.schemes.consequences import shifts
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.core.schemes.editing import take_from_others
from olive_compass.core.schemes.free import free_map, free_strokes, is_free
from olive_compass.core.schemes.layers import FACTORY, PERSONAL, RESERVED
from olive_compass.core.schemes.objections.unreached import KIND
from olive_compass.core.schemes.offers import NEAR
from olive_compass.core.schemes.roses import differing, places
from olive_compass.core.schemes.sheet import sheet_groups
from olive_compass.core.schemes.verdicts import verdict
from olive_compass.core.schemes.view import View
from olive_compass.core.sharing.guessing import proposals
from olive_compass.core.sharing.keysets import has_any, holder_of, reaches
from olive_compass.core.sharing.learning import learn
from olive_compass.core.sharing.manual_steps import Limits, Step
from olive_compass.core.sharing.ordering import work_list
from olive_compass.core.sharing.purposes import Purpose, Purposes
from olive_compass.core.sharing.rows import DecisionRow, rows_of, scheme_of
from olive_compass.core.sharing.trays import carried
from olive_compass.core.sharing.upgrading import put_back, upgrade
from olive_compass.core.sharing.working import differences, for_app, had_of, modes_of_step
from olive_compass.desk.keyboards import load
from olive_compass.desk.storage.locking import locked
from olive_compass.structs import replace
from tests.core.test_schemes import APP, BOARD, on, scheme
from tests.core.test_schemes import keymap as drawn
from tests.core.test_sharing import BOARD as PLAIN
from tests.core.test_sharing import ONE, PURPOSES, app, command, keymap, mine
from tests.core.test_sharing import on as given_keys


def test_a_row_says_what_a_guard_keeps_and_how_a_mute_is_done() -> None:
    full = mine(
        guard={key("F2"): Decision(why="x", keeps="save")},
        mute={
            key("F3"): Decision(why="x", never="split"),
            key("F4"): Decision(why="x", away=key("Ctrl+F4")),
            key("F5"): Decision(why="x"),
        },
    )
    rows = rows_of(full)
    assert {row.how for row in rows} == {"keeps save", "never split", "away Ctrl+F4", ""}
    assert scheme_of(mine(), rows, 0) == full
    assert full.mute[key("F4")].away == key("Ctrl+F4")


def test_a_cell_of_keys_in_anothers_spelling_is_read_or_refused() -> None:
    (row,) = rows_of(mine(assign={"save": given_keys("Ctrl+B")}))
    for text, keys in (("⌃B", ["Ctrl+B"]), ("Ctrl+B or F2", ["Ctrl+B", "F2"]), ("GD", ["G D"])):
        made = scheme_of(mine(), [replace(row, keys=text)], 4)
        assert [str(run) for each in made.assign["save"] for run in each.keys] == keys
    with pytest.raises(ValueError, match="row 1: cannot read the key"):
        scheme_of(mine(), [replace(row, keys="Ctrl+Qwertz")], 0)
    assert isinstance(row, DecisionRow)


def test_who_holds_a_key_is_called_by_title_by_what_is_wired_in_or_a_mute() -> None:
    wired = replace(ONE, rules=replace(ONE.rules, unlisted={key("F9"): "the slow panel"}))
    here = Keymap(Stack(wired, (mine(mute={key("F8"): Decision(why="x")}),)), PLAIN)
    assert holder_of(here, "save", [key("F9")]) == "the slow panel"
    assert holder_of(here, "save", [key("F8")]) == "a mute"
    assert holder_of(here, "save", [key("F7"), key("F9")]) == "Layers"
    assert holder_of(here, "layers", [key("F7")]) == holder_of(here, "save", [key("F1")]) == ""
    # What holds it where the command cannot be used is no holder.
    draw = Keymap(Stack(ONE, (mine(assign={"save": given_keys("F2", modes=("label",))}),)), PLAIN)
    assert holder_of(draw, "split", [key("F2")]) == ""
    assert holder_of(draw, "trim", [key("F2")]) == "Save"
    assert reaches(draw, "save", key("F2"), ("label",))
    assert not reaches(draw, "save", key("F2"), ("label", "draw"))
    assert not has_any(draw, "save", [key("F2")])
    assert has_any(draw, "split", [key("F2"), key("S P")])


def test_an_upgrade_names_what_comes_in_the_way() -> None:
    old = app(
        "one",
        command("save", "F2"),
        command("trim", "F3"),
        rules=Rules(duplicates="choice", longest_sequence=4, typed_sequences=True),
    )
    longer = Catalogue(
        (
            command("save", "F2"),
            command("trim", "F3"),
            *(command(f"x{n}", f"F4 F{n}") for n in (5, 6, 7)),
        )
    )
    scheme = mine(assign={"save": given_keys("F4"), "trim": given_keys("F3", modes=("gone",))})
    found = upgrade(Stack(old, (scheme,)), longer, "2", PLAIN)
    says = {each.subject: each.says for each in found.verdicts}
    # Two of them are named, however many there are.
    assert says["save"] == "“X5” or “X6” comes in the way in everywhere now"
    assert says["trim"] == "the new version has no mode gone"


def test_the_modes_of_a_step_are_those_in_which_its_key_counts() -> None:
    now = keymap(ONE, mine(assign={"save": given_keys("F2", modes=("draw", "label"))}))
    assert modes_of_step(now, Step(command="save", gets=key("F2"), loses=None)) == ("draw", "label")
    assert modes_of_step(now, Step(command="save", gets=None, loses=key("Ctrl+S"))) == (
        "everywhere",
    )
    # A key that counts nowhere: then where the command can be used, or everywhere.
    assert modes_of_step(now, Step(command="split", gets=key("F9"), loses=None)) == ("draw",)
    assert modes_of_step(now, Step(command="save", gets=key("F9"), loses=None)) == ("everywhere",)
    assert modes_of_step(now, Step(command="gone", gets=None, loses=None)) == ("everywhere",)
    runs = frozenset
    both = {"a": runs([key("F2")]), "b": runs([key("F3")])}
    assert differences(both, both) == []
    assert len(differences(both, {**both, "b": runs([key("F4")])})) == 1


def test_purposes_are_found_by_the_beginnings_of_words_of_one_name() -> None:
    assert PURPOSES.by_id["stop"].commands("one") == ()
    assert [(p.id, name) for p, name in PURPOSES.named("drop li")] == [("stop", "drop the line")]
    assert [(p.id, name) for p, name in PURPOSES.named("aband")] == [("stop", "abandon")]
    assert [p.id for p, _ in PURPOSES.named("s")] == ["save", "split", "stop"]
    # Not in the middle of a word, nor of two names together.
    assert PURPOSES.named("op") == PURPOSES.named("abandon line") == PURPOSES.named("") == []


def test_what_has_a_purpose_already_is_not_guessed_again() -> None:
    here = app(
        "one", command("keep", title="Save"), command("save"), command("other", title="Trim")
    )
    purposes = Purposes(
        [
            Purpose(id="save", title="Save", links={"one": ("save",), "two": ("other",)}),
            Purpose(id="again", title="Save"),
            Purpose(id="trim", title="Trim"),
        ]
    )
    found = {each.purpose.id: each.guesses[0].commands[0] for each in proposals([here], purposes)}
    assert found == {"again": "keep", "trim": "other"}


@pytest.mark.parametrize(
    ("kind", "groups"),
    [
        (TrayKind(name="tab"), [("Lights", ("save", PARTING, "trim")), ("", ("layers",))]),
        (TrayKind(name="tab", groups=False), [("", ("save", PARTING, "trim", "layers"))]),
        (None, [("Lights", ("save", PARTING, "trim")), ("", ("layers",))]),
    ],
)
def test_a_tray_is_carried_with_its_groups_where_they_are_known(
    kind: TrayKind | None, groups: list[tuple[str, tuple[str, ...]]]
) -> None:
    there = replace(ONE, rules=replace(ONE.rules, trays={"tab": kind} if kind else {}))
    tray = Tray(
        app="two",
        name="day",
        title="Day",
        layer="personal",
        kind="tab",
        groups=(
            Group("Lights", ("keep", PARTING, "cut-off", "render")),
            Group("", ("panel", PARTING)),
        ),
    )
    found = carried(tray, PURPOSES, keymap(there), "tab")
    assert sorted((g.title, g.items) for g in found.tray.groups) == sorted(groups)
    assert [(each.item, found.tray.app) for each in found.left] == [("render", "one")]


def test_a_sheet_has_what_stands_on_a_tray_though_no_key_reaches_it() -> None:
    tray = Tray(
        app="app",
        name="day",
        title="Day",
        layer="personal",
        kind="tab",
        groups=(Group("", ("burn", "save")),),
    )
    for off, titles in ((False, {"Burn", "Save"}), (True, {"Save"})):
        with_tray = replace(APP, trays=(replace(tray, off=off),))
        groups = sheet_groups(Keymap(Stack(with_tray), BOARD), "label", False)
        assert {line.title for group in groups for line in group.lines} == titles


def test_a_key_of_a_board_is_drawn_by_what_it_is() -> None:
    assert BoardKey(state=USED, shared=True).drawn == SHARED
    assert (
        BoardKey(state=USED).drawn,
        BoardKey(state=FREE).drawn,
        BoardKey(state=FREE, shared=True).drawn,
    ) == (
        USED,
        FREE,
        FREE,
    )
    assert BoardKey(state=FREE, keyless=(("burn", "x"),)).drawn == KEYLESS
    assert BoardKey(state=USED, keyless=(("burn", "x"),)).drawn == USED
    here = drawn(
        scheme(keyless={"save": Decision(why="mine"), "gone": Decision(why="x")}),
        Scheme(app="app", name="far", keyless={"save": Decision(why="far")}),
    )
    assert keyless_presses(here) == {BOARD.press_of(key("Ctrl+S")): (("save", "mine"),)}
    none = Keymap(Stack(APP), PLAIN)
    assert (typed_label(none, "KeyA"), typed_label(none, "?x:y"), typed_label(none, "pad:K1")) == (
        "",
        "",
        "K1",
    )


def test_a_claim_knows_where_it_stands() -> None:
    by = Claim(
        trigger=key("F2"), does=Does("save"), mode="draw", layer=PERSONAL, rank=0, origin="mine"
    )
    assert (by.table, by.key, by.mutes) == ("assign", "save", False)
    mute = replace(by, does=Does())
    assert (mute.table, mute.key, mute.mutes) == ("mute", "F2", True)
    away = replace(by, does=Does(away=True))
    assert (away.table, away.mutes, away.does.mutes) == ("mute", True, True)
    wired = replace(by, does=Does(wired="menu"), layer=RESERVED, origin="")
    assert (wired.table, wired.key, wired.mutes, wired.does.mutes) == (
        "reserved",
        "F2",
        False,
        False,
    )
    assert replace(by, layer=FACTORY, origin="").table == "commands"
    view = View(Stack(APP), BOARD)
    assert [view.meaning(each.does) for each in (by, wired, mute)] == ["Save", "menu", ""]
    assert view.title("gone") == "gone"


def test_the_keys_of_lower_layers_make_room_where_a_command_may_have_so_many() -> None:
    two = replace(APP, rules=replace(APP.rules, most_keys=2))
    far = Scheme(app="app", name="far", assign={"save": on("F3")})

    def keys(*schemes: Scheme) -> list[str]:
        return [str(c.trigger) for c in Keymap(Stack(two, schemes), BOARD).by_command["save"]]

    assert keys() == ["Ctrl+S"]
    assert keys(scheme(assign={"save": on("F2")})) == ["F2", "Ctrl+S"]
    assert keys(scheme(assign={"save": on("F2")}), far) == ["F2", "F3"]
    # The same press once more takes no room; too many in one layer are a person's mistake and stay.
    assert keys(scheme(assign={"save": on("Ctrl+S", "F2")}), far) == ["Ctrl+S", "F2", "Ctrl+S"]
    assert keys(scheme(assign={"save": on("F2", "F4", "F5")}), far) == ["F2", "F4", "F5"]


@pytest.mark.parametrize("most", [0, 2])
def test_a_key_that_keeps_another_out_is_not_only_taken_out(most: int) -> None:
    studio = replace(APP, rules=replace(APP.rules, most_keys=most))
    view = AppView(Stack(studio, (scheme(assign={"save": on("F2", "F4")}),)), BOARD)
    (claim,) = (c for c in view.keymap.by_command["save"] if str(c.trigger) == "F2")
    # F4 would still start it; but where it may have two keys only, Ctrl+S would come back.
    assert isinstance(better_key(view, claim), ClearKeys) == (most == 0)


def test_what_shifts_is_what_somebody_would_feel() -> None:
    before = drawn(scheme(assign={"burn": on("F2")}))
    assert shifts(before, before, [key("F2")]) == []
    muted = drawn(
        scheme(mute={key("F2"): Decision(why="x", modes=("draw",))}, assign={"burn": on("F2")})
    )
    (shift,) = shifts(before, muted, [key("F2"), key("F3")])
    assert (str(shift.trigger), shift.modes) == ("F2", ("draw", "vertex"))
    # Who is hidden below may change: the press does what it did.
    below = drawn(
        scheme(assign={"burn": on("F2")}), Scheme(app="app", name="far", assign={"join": on("F2")})
    )
    assert shifts(before, below, [key("F2")]) == []
    waits = drawn(scheme(assign={"burn": on("F2"), "join": on("F2 F3")}))
    (shift,) = shifts(before, waits, [key("F2")])
    assert (shift.before.what, shift.after.what) == ("starts", "waits")


def test_nothing_hides_what_comes_after_it() -> None:
    # What cannot be used, has no key, is no command any more or is of another scheme ends no search.
    apps = app(
        "one", command("gone-by", "F1", modes=("label",)), command("none"), command("last", "F9")
    )
    groups = sheet_groups(keymap(apps), "draw", False)
    assert [line.title for group in groups for line in group.lines] == ["Last"]
    mine_ = scheme(assign={"save": on("F2"), "burn": on("F2")})
    near = Scheme(app="app", name="near", assign={"join": on("F2")})
    both = Keymap(Stack(APP, (near, mine_)), BOARD)
    assert take_from_others(mine_, both, "burn", key("F2"), ("everywhere",)).assign.keys() == {
        "burn"
    }
    one = app("one", command("trim", "F6"), command("save", "Ctrl+S"))
    purposes = Purposes([Purpose(id="save", title="Save", links={"one": ("gone", "save")})])
    (entry,) = learn("all", [keymap(one)], purposes).keyset.keys.values()
    assert [str(run) for run in entry.triggers] == ["Main+S"]


def test_keys_that_moved_are_given_back_but_for_those_decided_since() -> None:
    old = app("one", command("save", "F2 or F3 or F4"), command("trim", "F5"))
    listed = Catalogue((command("save", "F3"), command("trim", "F6"), command("new", "F7")))
    since = mine(assign={"trim": given_keys("F2")})
    found = upgrade(Stack(old, (since,)), listed, "2", PLAIN)
    now = Keymap(Stack(found.app, (since,)), PLAIN)
    kept = put_back(since, found, old, now)
    given = {
        id_: [str(run) for each in has for run in each.keys] for id_, has in kept.assign.items()
    }
    # F3 is still there, F2 was given to another since; F4 and F5 come back.
    assert given == {"trim": ["F2", "F5"], "save": ["F4"]}


def test_below_a_scheme_that_gives_another_key_instead_it_never_counts() -> None:
    near = Scheme(app="app", name="near", layer=PERSONAL, assign={"burn": on("F3")})
    instead = replace(
        near, assign={"burn": (Assignment(keys=(key("F3"),), modes=("everywhere",), instead=True),)}
    )
    far = Scheme(app="app", name="far")
    for above, unreached in ((near, ()), (instead, APP.modes.names)):
        view = View(Stack(APP, (above, far)), BOARD)
        found = verdict(view, APP.catalogue.by_id["burn"], key("F2"), ("everywhere",), far)
        assert sorted(found.evidence(KIND)) == sorted(unreached)


def test_advice_looks_at_letters_and_function_keys_first_and_then_at_all() -> None:
    view = View(Stack(APP, (scheme(),)), BOARD)
    near = free_strokes(view, ("draw",), NEAR)
    assert {each.modifiers for each in near} <= set(NEAR[0])
    every = free_strokes(view, ("draw",))
    assert set(near) < set(every)
    # What a longer run begins with is not free in the modes of the run, and free elsewhere.
    states = {
        mode: {str(s.stroke): s.state for s in free_map(view, (mode,))[()]["letters"]}
        for mode in ("draw", "label")
    }
    muted = View(Stack(APP, (scheme(mute={key("S"): Decision(why="x", modes=("label",))}),)), BOARD)
    assert (states["draw"]["S"], states["label"]["S"], states["draw"]["Q"]) == (
        "taken",
        "free",
        "free",
    )
    assert not is_free(muted.keymap, key("S"), ("label",))
    runs = View(Stack(APP, (scheme(assign={"burn": on("Q R", modes=("draw",))}),)), BOARD)
    found = {
        mode: {str(s.stroke): s.state for s in free_map(runs, (mode,))[()]["letters"]}["Q"]
        for mode in ("draw", "label")
    }
    assert found["label"] == "free"
    assert found["draw"] not in ("free", "taken")


def test_bearings_that_mean_two_things_in_two_modes_are_told() -> None:
    mine_ = scheme(
        assign={"save": on("swipe:N", modes=("label",)), "join": on("swipe:E", modes=("draw",))}
    )
    roses = {mode: places(drawn(mine_), mode) for mode in ("draw", "vertex", "label")}
    assert differing(roses) == {0}
    assert differing({"draw": roses["draw"]}) == set()
    # What lies inside a mode has its swipes: that is one meaning, not two.
    assert differing({mode: roses[mode] for mode in ("draw", "vertex")}) == set()


def test_what_others_wait_for_is_let_go_first() -> None:
    now = {
        "a": frozenset([key("A"), key("B")]),
        "b": frozenset[object](),
        "c": frozenset([key("C")]),
    }
    wanted = {"a": frozenset([key("C")]), "b": frozenset([key("B")]), "c": frozenset[object]()}
    spares = tuple(key(f"F{n}") for n in range(1, 5))
    found = work_list(now, wanted, Limits(duplicates="refuse", most=0, can_take=False), spares)  # type: ignore[arg-type]
    said = [f"{s.command}:{s.loses or ''}>{s.gets or ''}" for s in found.steps]
    assert "b:>B" in said
    assert said.index("b:>B") > next(n for n, each in enumerate(said) if each.startswith("a:B>"))


def test_one_press_in_two_spellings_is_one_key_by_hand_unless_the_application_tells_them_apart() -> (
    None
):
    board = load("", "pc", "ansi-104", "us")
    one = app("one", command("zoom", "Ctrl+Shift+="), command("save", "Ctrl+S"))
    had = had_of(one.catalogue)
    same = Keymap(Stack(one, (mine(assign={"zoom": given_keys("Ctrl++")}),)), board)
    assert for_app(same, had).steps == ()
    moved = Keymap(Stack(one, (mine(assign={"save": given_keys("Ctrl++")}),)), board)
    assert {str(step.gets) for step in for_app(moved, had).steps if step.gets} <= {"Ctrl+Shift+="}


def test_a_lock_file_is_shared_as_the_folder_is(tmp_path: Path) -> None:
    # Colleagues who share a folder, and with it a mask, lock it in turn.
    before = os.umask(0o002)
    try:
        with locked(str(tmp_path)):
            assert stat.S_IMODE((tmp_path / ".history/lock").stat().st_mode) == 0o664
    finally:
        os.umask(before)
