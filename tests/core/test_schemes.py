"""The smaller questions about a scheme: free keys, boards, sheets, resets, visitors, ranking."""

import pytest

from olive_compass.core.apps.access import keyboard_route, marked, unmarked
from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.marks import read_marks
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.keys.devices import Device
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.schemes.board import beside, board_keys, typed_label
from olive_compass.core.schemes.claims import Stack, in_layer_order
from olive_compass.core.schemes.consequences import holders, losses, shifts
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.core.schemes.editing import (
    clear_trigger,
    give,
    make_keyless,
    make_mute,
    set_modes,
    take,
    unmute,
)
from olive_compass.core.schemes.familiarity import NOTHING, OTHER, WORST, familiarity
from olive_compass.core.schemes.free import free_map, is_free
from olive_compass.core.schemes.guards import broken_guards
from olive_compass.core.schemes.holdings import holdings, letter_route, live_triggers
from olive_compass.core.schemes.offers import offers, rank
from olive_compass.core.schemes.pressing import phrase_of, press_changes
from olive_compass.core.schemes.resetting import Part, reset
from olive_compass.core.schemes.roses import copied, places
from olive_compass.core.schemes.sheet import sheet_groups
from olive_compass.core.schemes.traits import broken_rules, not_assignable, not_assignable_says
from olive_compass.core.schemes.view import View
from olive_compass.desk.keyboards import load
from olive_compass.drawing.board_text import board_lines
from olive_compass.structs import replace

TREE = ModeTree({"draw": "everywhere", "vertex": "draw", "label": "everywhere"})
COMMANDS = (
    Command(
        id="save", title="Save", menu=("File",), keys=(key("Ctrl+S"),), marks=read_marks({"often"})
    ),
    Command(
        id="split",
        title="Split line",
        menu=("Lines",),
        keys=(key("S P"), key("F6")),
        modes=("draw",),
    ),
    Command(id="join", title="Join lines", menu=("Lines",), keys=(key("J"),), modes=("draw",)),
    Command(id="spline", title="Spline", menu=("Lines",), keys=(key("S"),), modes=("draw",)),
    Command(
        id="erase", title="Erase", menu=(), keys=(key("swipe:N"), key("Delete")), modes=("draw",)
    ),
    Command(id="burn", title="Burn", menu=("Plates",), keys=(), marks=read_marks({"irreversible"})),
)
RULES = Rules(
    duplicates="replace", longest_sequence=4, typed_sequences=True, swipes={"draw": 4, "label": 3}
)
APP = App(
    name="app", title="App", version="1", modes=TREE, rules=RULES, catalogue=Catalogue(COMMANDS)
)
BOARD = load("", "pc", "ansi-104", "us")


def scheme(**tables: object) -> Scheme:
    return Scheme(app="app", name="mine", **tables)  # type: ignore[arg-type]


def view_of(*schemes: Scheme, rules: Rules = RULES) -> View:
    return View(Stack(replace(APP, rules=rules), schemes), BOARD)


def on(*keys: str, modes: tuple[str, ...] = ("everywhere",)) -> tuple[Assignment, ...]:
    return (Assignment(keys=tuple(map(key, keys)), modes=modes),)


def keymap(*schemes: Scheme) -> Keymap:
    return Keymap(Stack(APP, schemes), BOARD)


def test_modes_are_said_as_a_person_would() -> None:
    assert TREE.phrase(TREE.names) == "everywhere"
    assert TREE.phrase(["draw", "vertex"]) == "in draw"
    assert TREE.phrase(["draw"]) == "in draw without vertex"
    assert TREE.phrase(["everywhere", "draw", "vertex"]) == "everywhere but in label"
    assert TREE.phrase(["vertex", "label"]) == "in vertex and label"
    assert TREE.outermost(["vertex", "draw"]) == ("draw",)
    assert TREE.inside(["draw"]) == ("draw", "vertex")
    for parents in ({"a": "b"}, {"a": "b", "b": "a"}, {"a": "a"}):
        with pytest.raises(ValueError):
            ModeTree(parents)


def test_access_letters() -> None:
    assert unmarked("E&xport…") == ("Export…", "X")
    assert unmarked("Cut && paste") == ("Cut & paste", "")
    for step, letter in (("Export", "X"), ("R&D", ""), ("R&D", "D"), ("A&A", "A")):
        assert unmarked(marked(step, letter)) == (step, letter)
    assert keyboard_route(("V", "G", "L")) == "Alt V G L"
    assert keyboard_route(("V", "", "L")) == ""


def test_free_keys_are_those_that_do_nothing_at_all() -> None:
    view = view_of(scheme(mute={key("F9"): Decision(why="x")}))
    slots = {str(s.stroke): s.state for s in free_map(view, ("draw",))[()]["letters"]}
    assert (slots["S"], slots["Q"], slots["J"]) == ("taken", "free", "taken")
    assert is_free(view.keymap, key("J"), ("label",))
    assert not is_free(view.keymap, key("F9"), ("label",))
    by_bank = free_map(view, ("label",))[()]
    assert [s.stroke.key for s in by_bank["function keys"] if not s.free] == ["F9"]


def test_holdings_say_where_a_key_works_and_who_hides_it() -> None:
    both = keymap(scheme(assign={"save": on("F6")}))
    (hidden,) = [h for h in holdings(both, "split") if str(h.trigger) == "F6"]
    assert hidden.live == ()
    assert hidden.hidden_by is not None
    assert hidden.hidden_by.command == "save"
    assert [str(run) for run in live_triggers(both, "save")] == ["F6", "Ctrl+S"]
    assert live_triggers(both, "split", "label") == ()


def test_consequences_name_holders_losses_and_shifts() -> None:
    before = keymap(scheme())
    found = holders(before, key("F6"), ("draw",), "save")
    assert [(h.claim.command, h.modes) for h in found] == [("split", ("draw", "vertex"))]
    after = keymap(give(scheme(), "save", key("F6"), ("draw",)))
    (loss,) = losses(before, after, key("F6"))
    assert (loss.command, loss.modes) == ("split", ("draw", "vertex"))
    assert [str(run) for run in loss.left] == ["S P"]
    (shift,) = shifts(before, after, [key("F6"), key("F7")])
    assert shift.modes == ("draw", "vertex")
    assert shifts(before, before, [key("F6")]) == []


def test_edits_touch_what_was_named_and_no_more() -> None:
    start = scheme(assign={"save": on("F6", "F7", modes=("draw", "label"))})
    taken = take(start, "save", key("F6"), ["draw"], BOARD)
    assert taken.assign["save"] == (
        Assignment(keys=(key("F7"),), modes=("draw", "label")),
        Assignment(keys=(key("F6"),), modes=("label",)),
    )
    assert take(start, "save", key("F8"), ["draw"], BOARD) == start
    assert (
        "save" not in clear_trigger(clear_trigger(start, key("F6"), BOARD), key("f7"), BOARD).assign
    )
    keyless = make_keyless(start, "save", "no")
    assert (keyless.assign, keyless.keyless) == ({}, {"save": Decision(why="no")})
    assert give(keyless, "save", key("F9"), ("draw",)).keyless == {}
    mute = make_mute(start, key("F9"), ("draw", "label"), "x")
    assert unmute(mute, key("F9"), ("draw",)).mute[key("F9")].modes == ("label",)
    assert unmute(mute, key("F9"), ("draw", "label")).mute == {}
    moved = set_modes(start, "save", ("vertex",), key("F7"))
    assert {a.keys: a.modes for a in moved.assign["save"]} == {
        (key("F6"),): ("draw", "label"),
        (key("F7"),): ("vertex",),
    }
    # The press counts, not the spelling: these two are made by the same keys.
    plus = scheme(assign={"save": on("Ctrl++")})
    assert clear_trigger(plus, key("Ctrl+Shift+="), BOARD).assign == {}


def test_resets_of_a_command_a_key_a_mode_and_all() -> None:
    mine = scheme(
        assign={"save": on("F6", "F7"), "join": on("F8", modes=("draw", "label"))},
        keyless={"burn": Decision(why="x")},
        mute={key("F9"): Decision(why="m", modes=("draw", "label"))},
        guard={key("F9"): Decision(why="g")},
    )
    other = scheme(
        assign={"save": on("F1"), "split": on("F6")}, keyless={"join": Decision(why="y")}
    )
    assert reset(mine, Part(command="save"), None, BOARD).assign.keys() == {"join"}
    assert reset(mine, Part(command="save"), other, BOARD).assign["save"] == on("F1")
    assert reset(mine, Part(command="burn"), None, BOARD).keyless == {}
    by_key = reset(mine, Part(trigger=key("F6")), other, BOARD)
    assert by_key.assign == {"save": on("F7"), "join": mine.assign["join"], "split": on("F6")}
    assert reset(mine, Part(trigger=key("F9")), None, BOARD).guard == {}
    by_mode = reset(mine, Part(mode="label"), None, BOARD)
    assert by_mode.assign["join"] == on("F8", modes=("draw",))
    assert by_mode.mute[key("F9")].modes == ("draw",)
    assert by_mode.assign["save"] == mine.assign["save"]
    whole = reset(mine, Part(), None, BOARD)
    assert whole.decisions == 0
    assert reset(mine, Part(), other, BOARD).assign == other.assign


def test_visitors_meet_the_worst_first() -> None:
    mine = scheme(
        assign={"burn": on("Ctrl+S"), "join": on("F6", modes=("draw",))},
        mute={key("Delete"): Decision(why="x")},
    )
    stack = Stack(APP, (mine,))
    found = familiarity(stack, Stack(APP), Keymap(stack, BOARD))
    assert [(str(s.trigger), s.weight) for s in found.surprises] == [
        ("Ctrl+S", WORST),
        ("F6", OTHER),
        ("Delete", NOTHING),
    ]
    # Ctrl+S is known in 4 modes, the six other presses in draw and vertex each.
    assert found.figure == pytest.approx(1 - (4 * 3 + 2 * 2 + 2 * 1) / (3 * (4 + 6 * 2)))
    assert familiarity(Stack(APP), Stack(APP), keymap()).figure == 1


def test_rules_judge_the_press_and_not_its_spelling() -> None:
    def broken(text: str, rules: Rules) -> list[str]:
        app = replace(APP, rules=rules)
        return [each.rule for each in broken_rules(app, BOARD, key(text), ("label",))]

    rules = Rules(longest_sequence=2, modifiers=("Ctrl",), plain_keys="named")
    texts = ("Ctrl+A", "F6", "A", "Alt+A", "A B", "A B C", "swipe:N", "Ctrl+#", "Ctrl+Shift+3")
    assert {text: broken(text, rules) for text in texts} == {
        "Ctrl+A": [],
        "F6": [],
        "A": ["plain-keys"],
        "Alt+A": ["modifiers"],
        "A B": [],
        "A B C": ["longest-sequence"],
        "swipe:N": ["swipes"],
        "Ctrl+#": ["modifiers"],
        "Ctrl+Shift+3": ["modifiers"],
    }
    assert broken("Main+A", rules) == broken("Ctrl+A", Rules(modifiers=("Main",))) == []
    for text in ("F6", "A", "Shift+3", "#"):
        assert broken(text, Rules(plain_keys="none")) == ["plain-keys"], text
    assert broken("Shift+F6", Rules(plain_keys="none")) == []
    # A key is the same one by its place, and one of the pad is a digit where it is taken for it.
    told = {text: broken(text, rules) for text in ("@ArrowUp", "Num5", "@Numpad5", "@KeyA")}
    assert told == {"@ArrowUp": [], "Num5": [], "@Numpad5": [], "@KeyA": ["plain-keys"]}
    folded = BOARD.folded()
    for text in ("Num5", "@Numpad5"):
        (told_,) = broken_rules(replace(APP, rules=rules), folded, key(text), ("label",))
        assert told_.rule == "plain-keys", text


def test_what_can_have_no_key() -> None:
    for marks, why in (
        ("withdrawn", "withdrawn"),
        ("fixed", "lets no key"),
        ("needs:pro", "“pro”"),
    ):
        command = Command(id="a", title="A", marks=read_marks({marks}))
        assert why in not_assignable_says(command, not_assignable(_app(Rules()), command))
    licensed = _app(Rules(licences={"pro": True}))
    assert not not_assignable(licensed, Command(id="a", title="A", marks=read_marks({"needs:pro"})))


def _app(rules: Rules) -> App:
    return replace(APP, rules=rules)


def test_a_guard_breaks_where_its_press_changes_in_its_modes_only() -> None:
    guard = {key("Ctrl+Shift+="): Decision(why="x", modes=("draw",))}
    before = keymap(scheme(guard=guard))

    def broken(text: str, *modes: str) -> list[str]:
        each = scheme(guard=guard, assign={"trim": (Assignment(keys=(key(text),), modes=modes),)})
        return [found.mode for found in broken_guards(before, keymap(each))]

    assert broken("Ctrl++", "draw") == ["draw", "vertex"]
    assert broken("Ctrl++", "label") == []
    assert broken("Ctrl++ A", "vertex") == ["vertex"]
    assert broken("Ctrl+=", "draw") == []


def test_a_guard_that_is_broken_already_is_broken_further_or_not_at_all() -> None:
    house = Scheme(
        app="app", name="house", guard={key("Ctrl+Shift+="): Decision(why="x", modes=("label",))}
    )

    def edited(**given: str) -> Keymap:
        assign = {
            name: (Assignment(keys=(key(text),), modes=("label",)),) for name, text in given.items()
        }
        return keymap(scheme(assign=assign), house)

    def broken(before: Keymap, after: Keymap) -> list[str]:
        return [found.mode for found in broken_guards(before, after)]

    once = edited(trim="Ctrl++")
    assert broken(edited(), once) == ["label"]
    # What was broken before stops no edit that leaves it as it was, or better.
    assert broken(once, edited(trim="Ctrl++", save="F6")) == []
    assert broken(once, edited()) == []
    # Another command, or a wait besides, is worse.
    assert broken(once, edited(save="Ctrl++")) == ["label"]
    waits = edited(trim="Ctrl++", save="Ctrl++ A")
    assert broken(once, waits) == ["label"]
    assert broken(waits, once) == []


def test_roses_are_read_and_copied() -> None:
    here = keymap()
    assert [(p.bearing, p.command) for p in places(here, "vertex")] == [
        (0, "erase"),
        (90, ""),
        (180, ""),
        (270, ""),
    ]
    possible, impossible = copied(here, "draw", "label", None)
    assert [(place.bearing, there) for place, there in possible] == [(0, "")]
    assert impossible == []
    assert places(here, "everywhere") == []


def test_sheets_hold_what_works() -> None:
    mine = keymap(scheme(assign={"save": on("F6")}, mute={key("Delete"): Decision(why="x")}))
    groups = {group.name: group.lines for group in sheet_groups(mine, None, False)}
    assert [line.title for line in groups["Lines"]] == ["Split line", "Join lines", "Spline"]
    assert groups["Lines"][0].texts == ("S P",)
    assert groups["Without a menu"][0].texts == ("swipe:N",)
    assert groups["File"][0].where == ""
    assert groups["Lines"][0].where == "draw"
    two = keymap(scheme(assign={"save": on("F7", modes=("vertex",))}))
    (saved,) = [g.lines[0] for g in sheet_groups(two, None, False) if g.name == "File"]
    assert saved.texts == ("F7 (vertex)", "Ctrl+S")
    keyless = keymap(scheme(keyless={"save": Decision(why="by hand")}))
    (saved,) = [g.lines[0] for g in sheet_groups(keyless, None, True) if g.name == "File"]
    assert (saved.texts, saved.note) == ((), "by hand")
    assert "Plates" in {group.name for group in sheet_groups(mine, None, True)}
    assert [g.name for g in sheet_groups(mine, "label", False)] == ["File"]


def test_what_is_not_allowed_or_writes_text_is_not_free() -> None:
    rules = replace(RULES, modifiers=("Ctrl",), text_modes=("label",))
    found = free_map(view_of(rules=rules), ("label",))
    assert {slot.state for slot in found[("Alt",)]["letters"]} == {"barred"}
    assert {slot.state for slot in found[()]["digits"]} == {"typed"}
    assert next(s.state for s in found[()]["others"] if s.stroke.key == "Space") == "typed"
    assert {slot.state for slot in found[()]["function keys"]} == {"free"}
    assert {slot.state for slot in free_map(view_of(rules=rules), ("draw",))[()]["digits"]} == {
        "free"
    }


def test_ranking_weighs_reach_letters_and_siblings() -> None:
    free = [key(text) for text in ("L", "K", "Q", "P", "Ctrl+Alt+Shift+L")]
    ranked = rank(view_of(), free, COMMANDS[1])
    assert ranked[-1].trigger == key("Ctrl+Alt+Shift+L")
    assert [each.score for each in ranked] == sorted(each.score for each in ranked)
    reasons = {str(each.trigger): each.reasons for each in ranked}
    assert "initial of line" in reasons["L"]
    assert "next to J, Join lines" in reasons["K"]
    assert "left hand alone" in reasons["Q"]
    assert "left hand alone" not in reasons["P"]
    assert rank(View(Stack(APP), Keyboard()), free, None) == []
    assert rank(view_of(), [key("Ж")], None) == []


def test_offers_follow_the_siblings_and_never_a_reflex_for_what_lasts() -> None:
    copy = Command(id="copy", title="Save a copy", menu=("File",))
    app = replace(APP, catalogue=Catalogue((*COMMANDS, copy)))
    view = View(Stack(app, (scheme(),)), BOARD)
    best = offers(view, copy, most=8)
    kin = [str(each.trigger) for each in best if "kin of Ctrl+S, Save" in each.reasons]
    assert "Ctrl+Alt+S" in kin
    # A plain letter is offered as well, with what speaks against it.
    plain = [each for each in best if not each.trigger.strokes[0].modifiers]
    assert plain
    assert all("no modifier, unlike the rest of its menu" in each.reasons for each in plain)
    runs = [str(each.trigger) for each in offers(view, COMMANDS[2], most=60)]
    assert "J L" not in runs, "J alone would have to wait"
    burn = COMMANDS[5]
    for each in offers(view, burn, most=400):
        assert str(each.trigger) not in ("Escape", "Space", "F1", "F2", "F5", "Ctrl+Z")


def test_runs_of_the_titles_letters_are_offered_where_letters_are_typed() -> None:
    gate = Command(id="gate", title="Gate house", menu=("Buildings",), keys=(), modes=("draw",))
    app = replace(APP, catalogue=Catalogue((*COMMANDS, gate)))
    view = View(Stack(app, (scheme(),)), BOARD)
    assert "G H" in [str(each.trigger) for each in offers(view, gate, most=40)]
    typed = replace(RULES, typed_sequences=False)
    view = View(Stack(replace(app, rules=typed), (scheme(),)), BOARD)
    assert all(len(each.trigger.strokes) == 1 for each in offers(view, gate, most=40))


def test_boards_show_states_and_draw_every_key() -> None:
    mine = keymap(
        scheme(mute={key("F9"): Decision(why="x")}, guard={key("Ctrl+S"): Decision(why="y")})
    )
    plain = board_keys(mine, (), ("draw",))
    states = {code: plain[code].state for code in ("KeyS", "KeyQ", "F9", "KeyJ")}
    assert states == {"KeyS": "used", "KeyQ": "free", "F9": "muted", "KeyJ": "used"}
    assert board_keys(mine, ("Ctrl",), ("draw",))["KeyS"].state == "guarded"
    for form in ("ansi-104", "iso-105", "jis-109", "abnt2-107", "ansi-laptop", "iso-88"):
        keyboard = load("", "pc", form, "us")
        assert keyboard.form is not None
        lines = board_lines(keyboard.form, {}, {"KeyA": "*"}, 100, plain=True)
        assert max(map(len, lines)) <= 100
        assert all(line.isascii() for line in lines)
        assert any("KeyA"[: 3 - 1] + "*" in line for line in lines)
        wide = board_lines(keyboard.form, {}, {}, 200, plain=False)
        assert max(map(len, wide)) <= 200


def test_layers_stand_in_their_order() -> None:
    stack = [
        Scheme(app="app", name=name, layer=layer)
        for name, layer in (("h", "house"), ("p", "personal"), ("x", "project"), ("q", "personal"))
    ]
    assert [each.name for each in in_layer_order(stack)] == ["x", "p", "q", "h"]


def test_a_scheme_counts_its_decisions() -> None:
    every = scheme(
        assign={"save": on("F6")},
        keyless={"copy": Decision(why="x")},
        mute={key("Delete"): Decision(why="x"), key("F1"): Decision(why="y")},
        guard={key("Ctrl+Z"): Decision(why="x")},
    )
    assert every.decisions == 5
    assert scheme(guard={key("Ctrl+Z"): Decision(why="x")}).decisions == 1


def test_a_board_names_its_keys_as_they_are_printed() -> None:
    here = keymap()
    assert [typed_label(here, code) for code in ("KeyA", "Digit1", "F6", "Numpad1", "pad:K1")] == [
        "A",
        "1",
        "",
        "",
        "K1",
    ]
    german = Keymap(Stack(APP), load("", "pc", "iso-105", "german"))
    assert typed_label(german, "Minus") == "ß"
    assert typed_label(german, "KeyY") == "Z"


def test_devices_stand_beside_a_board_where_the_application_takes_them() -> None:
    pedal = Device(name="pedal", title="Pedal", rows=(("left", "right"),))
    board = load("", "pc", "ansi-104", "us", {"pedal": pedal})

    def names(*takes: str) -> list[str]:
        app = replace(APP, rules=replace(RULES, takes=takes))
        return [each.name for each in beside(Keymap(Stack(app), board))]

    assert names() == []
    assert names("device") == ["pedal"]
    assert names("wheel", "device", "tap", "hold") == ["pedal", "wheel"] or names(
        "wheel", "device", "tap", "hold"
    ) == ["wheel", "pedal"]


def test_a_route_by_letters_is_one_while_its_first_letter_opens_the_menu() -> None:
    commands = (
        Command(id="open", title="Open", menu=("File",), access=("F", "O")),
        Command(id="shut", title="Shut", menu=("File",), access=("F", "S")),
        Command(id="show", title="Show", menu=("File",), access=("F", "S")),
        Command(id="plain", title="Plain", menu=("File",)),
    )
    rules = Rules(letters_open_menus=True)
    app = replace(APP, rules=rules, catalogue=Catalogue(commands))

    def route(id_: str, *schemes: Scheme, rules: Rules = rules) -> str:
        stack = Stack(replace(app, rules=rules), schemes)
        return letter_route(Keymap(stack, BOARD), id_)

    assert route("open") == "Alt F O"
    # Two items with one letter, none at all, an unknown command, menus without letters.
    assert (route("shut"), route("plain"), route("none")) == ("", "", "")
    assert route("open", rules=Rules(letters_open_menus=False)) == ""
    taken = scheme(assign={"plain": on("Alt+F", modes=("draw",))})
    assert route("open", taken) == ""


def test_a_press_that_changed_is_new_gone_or_other() -> None:
    factory = keymap()
    mine = keymap(scheme(assign={"burn": on("F9")}, mute={key("J"): Decision(why="x")}))

    def what(one: Keymap, other: Keymap) -> dict[str, str]:
        found = press_changes(one, other)
        return {str(each.trigger): each.what for each in found if "draw" in each.modes}

    assert what(factory, mine) == {"F9": "new", "J": "other"}
    assert what(mine, factory) == {"F9": "gone", "J": "other"}
    assert phrase_of(TREE, ModeTree({}), ("draw", "vertex")) == "in draw"
    assert phrase_of(ModeTree({}), TREE, ("draw", "label")) == "in draw without vertex and label"
    assert press_changes(mine, mine) == []
