"""What a verdict says and does not say, edits of a scheme to the letter, and reflexes from elsewhere."""

from typing import Any

import pytest

from olive_compass.core.apps.app import Catalogue
from olive_compass.core.apps.marks import read_marks
from olive_compass.core.apps.rules import Rules
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.schemes import traits
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.deciding import Keymap, twins_of
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.core.schemes.editing import give, take, take_from_others
from olive_compass.core.schemes.layers import FACTORY, MENUS, PERSONAL, RESERVED, UNLISTED
from olive_compass.core.schemes.verdicts import Verdict, edited, in_itself, verdict
from olive_compass.core.schemes.view import View
from olive_compass.core.sharing.cross_app import Across
from olive_compass.core.sharing.purposes import Purpose, Purposes
from olive_compass.desk.keyboards import load
from olive_compass.structs import replace
from tests.core.test_schemes import APP, BOARD, RULES, on, scheme, view_of


def judged(
    command: str,
    trigger: str,
    *schemes: Scheme,
    modes: tuple[str, ...] = ("everywhere",),
    rules: Rules = RULES,
    view: View | None = None,
    **how: object,
) -> Verdict:
    seen = view or view_of(*schemes, rules=rules)
    return verdict(seen, seen.app.catalogue.by_id[command], key(trigger), modes, **how)  # type: ignore[arg-type]


def about(found: Verdict, id_: str) -> tuple[Any, ...]:
    """What an objection is based on, nothing where there is none of that kind."""
    return next((each.evidence for each in found.objections if each.id == id_), ())


def ids(claims: tuple[object, ...]) -> list[str]:
    return [getattr(each, "claim", each).command for each in claims]  # type: ignore[attr-defined]


def test_who_holds_a_press_is_told_by_where_it_comes_from() -> None:
    rules = replace(
        RULES,
        unlisted={key("F9"): "the slow panel"},
        reserved={key("F10"): "kept"},
        letters_open_menus=True,
    )
    app = replace(
        APP,
        rules=rules,
        catalogue=Catalogue(
            tuple(
                replace(c, access=("F", "")) if c.id == "save" else c
                for c in APP.catalogue.commands
            )
        ),
    )
    view = View(Stack(app, (scheme(),)), BOARD)
    wired = judged("burn", "F9", view=view)
    assert [h.claim.layer for h in about(wired, "unlisted")] == [UNLISTED]
    assert (about(wired, "holders"), about(wired, "menus"), about(wired, "locked")) == ((), (), ())
    locked = judged("burn", "F10", view=view)
    assert [each.claim.layer for each in about(locked, "locked")] == [RESERVED]
    assert (about(locked, "holders"), about(locked, "unlisted")) == ((), ())
    letter = judged("burn", "Alt+F", view=view)
    assert [h.claim.layer for h in about(letter, "menus")] == [MENUS]
    assert (about(letter, "holders"), about(letter, "unlisted")) == ((), ())
    held = judged("burn", "Ctrl+S", view=view)
    assert [h.claim.layer for h in about(held, "holders")] == [FACTORY]


def test_only_what_lasts_is_warned_of_a_reflex() -> None:
    assert about(judged("burn", "Ctrl+C", scheme()), "habit-key")
    assert not about(judged("burn", "Ctrl+Shift+F9", scheme()), "habit-key")
    assert not about(judged("join", "Ctrl+C", scheme()), "habit-key")


def test_asked_without_a_scheme_it_is_the_nearest_one() -> None:
    # What follows from the edit is worked out there: somebody loses the press.
    assert [each.claim.command for each in about(judged("burn", "J", scheme()), "holders")] == [
        "join"
    ]
    assert judged("burn", "J", scheme()).lost
    assert not judged("burn", "J").lost
    assert not judged("burn", "J", scheme(), effects=False).lost


def test_a_command_may_have_so_many_keys_counted_from_its_layer_up() -> None:
    two = replace(RULES, most_keys=2)
    near = Scheme(app="app", name="near", layer=PERSONAL, assign={"burn": on("F2")})
    far = Scheme(app="app", name="far", assign={"burn": on("F3")})
    full = judged("burn", "F4", near, far, rules=two, scheme=far)
    assert about(full, "too-many")
    assert [str(run) for run, _ in about(full, "too-many")[0].have] == ["F2", "F3"]
    # In the nearer one the lower key makes room; the same press again is no further key.
    assert about(judged("burn", "F4", near, far, rules=two, scheme=near), "too-many") == ()
    assert about(judged("burn", "F3", near, far, rules=two, scheme=far), "too-many") == ()
    assert about(judged("burn", "F4", near, far, rules=RULES, scheme=far), "too-many") == ()
    # A scheme that does not count stands below all that do.
    spare = Scheme(app="app", name="spare", assign={"burn": on("F5")})
    assert about(judged("burn", "F4", near, far, rules=two, scheme=spare), "too-many")
    assert about(judged("burn", "F4", near, rules=two, scheme=spare), "too-many")
    assert about(judged("burn", "F4", scheme(), rules=two, scheme=spare), "too-many") == ()


def test_it_waits_for_longer_runs_and_delays_shorter_ones() -> None:
    waits = judged("burn", "S", scheme(), modes=("draw",))
    assert ids(about(waits, "waits")) == ["split"]
    assert about(waits, "delays") == ()
    delays = judged("burn", "J Q R", scheme(), modes=("draw",))
    assert ids(about(delays, "delays")) == ["join"]
    assert about(delays, "waits") == ()
    # What is muted there waits for nothing.
    muted = scheme(mute={key("J"): Decision(why="x")})
    assert about(judged("burn", "J Q", muted, modes=("draw",)), "delays") == ()
    assert about(judged("burn", "Q", scheme(), modes=("draw",)), "waits") == ()


def test_a_slip_is_between_what_lasts_and_what_is_used_all_day() -> None:
    beside = scheme(assign={"burn": on("Ctrl+D")})
    slips = about(judged("save", "Ctrl+F", beside, modes=("draw",)), "slips")
    assert [(s.disruptive.command, s.often.command) for s in slips] == [("burn", "save")]
    # Save has Ctrl+S; burn would come beside it.
    slips = about(judged("burn", "Ctrl+A", scheme()), "slips")
    assert [(s.disruptive.command, s.often.command) for s in slips] == [("burn", "save")]
    assert about(judged("join", "Ctrl+A", scheme()), "slips") == ()
    assert about(judged("burn", "Ctrl+J", scheme()), "slips") == ()


def test_a_shared_press_stands_beside_its_holders_in_the_order_of_the_choice() -> None:
    view = view_of(scheme(), rules=replace(RULES, duplicates="choice"))
    found = judged("burn", "J", view=view, modes=("draw",))
    mine = edited(view, view.stack.schemes[0], found, share=True)
    assert {id_: [str(k) for a in each for k in a.keys] for id_, each in mine.assign.items()} == {
        "burn": ["J"],
        "join": ["J"],
    }
    assert mine.order == {key("J"): ("join", "burn")}
    # Where the holder has it in another mode only, or is no command, nothing is given to it.
    found = judged("burn", "J", view=view, modes=("label",))
    assert edited(view, view.stack.schemes[0], found, share=True).assign.keys() == {"burn"}
    muted = view_of(scheme(mute={key("F7"): Decision(why="x")}), rules=view.app.rules)
    found = judged("burn", "F7", view=muted)
    assert edited(muted, muted.stack.schemes[0], found, share=True).order == {key("F7"): ("burn",)}


def test_below_a_nearer_scheme_it_is_said_what_comes_first_and_where_it_never_counts() -> None:
    near = Scheme(
        app="app", name="near", layer=PERSONAL, assign={"save": on("F2", modes=("draw",))}
    )
    far = Scheme(app="app", name="far")
    found = judged("burn", "F2", near, far, scheme=far)
    assert ids(about(found, "first")) == ["save"]
    assert about(found, "unreached") == ()
    keyless = Scheme(app="app", name="near", keyless={"burn": Decision(why="x", modes=("draw",))})
    found = judged("burn", "F2", keyless, far, scheme=far)
    assert about(found, "unreached") == ("draw", "vertex")
    assert about(judged("burn", "F2", near, modes=("draw",), scheme=near), "first") == ()


def test_parts_are_told_gravest_first_and_by_whose_sake_they_are() -> None:
    none = replace(RULES, plain_keys="none")
    found = judged("burn", "J", scheme(keyless={"burn": Decision(why="x")}), rules=none)
    assert found.objections[0].id == "rules"
    assert [each.id for each in found.own] == ["keyless"]
    assert found.hopeless
    assert not found.of_trigger
    assert not found.clean
    assert judged("burn", "Alt+Q", scheme()).clean
    assert judged("burn", "Ctrl+Shift+Alt+Meta+F12", scheme()).of_trigger


def test_giving_joins_what_stands_alike_and_touches_nothing_else() -> None:
    one = give(scheme(), "burn", key("F2"), ("draw",), "x")
    assert one.assign["burn"] == (Assignment(keys=(key("F2"),), modes=("draw",), why="x"),)
    both = give(one, "burn", key("F3"), ("draw",), "x")
    assert both.assign["burn"] == (
        Assignment(keys=(key("F2"), key("F3")), modes=("draw",), why="x"),
    )
    # Another reason, mode, slot or way is an assignment of its own.
    for modes, why, slot, instead in (
        (("draw",), "y", "", False),
        (("label",), "x", "", False),
        (("draw",), "x", "view 3", False),
    ):
        other = give(one, "burn", key("F3"), modes, why, slot, instead)
        assert other.assign["burn"] == (
            *one.assign["burn"],
            Assignment(keys=(key("F3"),), modes=modes, why=why, slot=slot, instead=instead),
        )
    # Of two that it could join it joins the first; the very same one is replaced.
    twice = replace(
        one,
        assign={
            "burn": (
                *one.assign["burn"],
                Assignment(keys=(key("F4"), key("F5")), modes=("draw",), why="x"),
            )
        },
    )
    assert [
        len(each.keys) for each in give(twice, "burn", key("F3"), ("draw",), "x").assign["burn"]
    ] == [2, 2]
    again = give(one, "burn", key("F2"), ("draw",), "z")
    assert again.assign["burn"] == (Assignment(keys=(key("F2"),), modes=("draw",), why="z"),)
    wide = give(one, "burn", key("F2"), ("label",), "x")
    assert len(wide.assign["burn"]) == 2


def test_giving_instead_takes_the_others_of_its_modes() -> None:
    before = scheme(
        assign={
            "burn": (
                Assignment(keys=(key("F2"),), modes=("draw", "label")),
                Assignment(keys=(key("F3"),), modes=("draw",)),
                Assignment(keys=(key("F4"),), modes=("label",), why="x"),
            )
        },
        keyless={"burn": Decision(why="x"), "save": Decision(why="y")},
    )
    after = give(before, "burn", key("F4"), ("draw",), "z", instead=True)
    assert after.assign["burn"] == (
        Assignment(keys=(key("F2"),), modes=("label",)),
        Assignment(keys=(key("F4"),), modes=("label",), why="x"),
        Assignment(keys=(key("F4"),), modes=("draw",), why="z", slot="", instead=True),
    )
    assert after.keyless == {"save": Decision(why="y")}


def test_taking_leaves_what_was_not_named() -> None:
    before = scheme(
        assign={
            "burn": (Assignment(keys=(key("F2"), key("Ctrl++")), modes=("draw", "label"), why="x"),)
        }
    )
    after = take(before, "burn", key("Ctrl+Shift+="), ("draw",), BOARD)
    assert after.assign["burn"] == (
        Assignment(keys=(key("F2"),), modes=("draw", "label"), why="x"),
        Assignment(keys=(key("Ctrl++"),), modes=("label",), why="x"),
    )
    assert take(before, "burn", key("F2"), ("vertex",), BOARD) == before
    gone = take(
        take(before, "burn", key("F2"), ("draw", "label"), BOARD),
        "burn",
        key("Ctrl++"),
        ("draw", "label"),
        BOARD,
    )
    assert gone.assign == {}


def test_only_doubles_of_the_very_scheme_and_mode_are_taken_from_others() -> None:
    mine = scheme(
        assign={
            "save": on("F2", modes=("draw",)),
            "join": on("F2", modes=("label",)),
            "burn": on("F2", modes=("draw",)),
        },
        mute={key("F2"): Decision(why="x", modes=("vertex",))},
    )
    other = Scheme(app="app", name="other", assign={"split": on("F2", modes=("draw",))})
    keymap = Keymap(Stack(APP, (mine, other)), BOARD)
    after = take_from_others(mine, keymap, "burn", key("F2"), ("draw", "vertex"))
    assert after.assign.keys() == {"join", "burn"}
    assert after.mute == {}
    assert take_from_others(mine, keymap, "burn", key("F2"), ("everywhere",)) == mine


def test_twins_are_other_presses_of_the_same_part() -> None:
    press = BOARD.press_of(key("hold:Space"))
    assert twins_of(press) == (BOARD.press_of(key("Space")),)
    run = BOARD.press_of(key("G mouse:main"))
    assert twins_of(run) == (BOARD.press_of(key("G mouse:main*2")),)
    takes = replace(RULES, takes=("hold",))
    mine = scheme(assign={"save": on("hold:F9"), "join": on("F9")})
    keymap = Keymap(Stack(replace(APP, rules=takes), (mine,)), BOARD)
    assert ids(traits.twins(keymap, BOARD.press_of(key("F9")), ("draw",), "join")) == ["save"]
    assert traits.twins(keymap, BOARD.press_of(key("F9")), ("draw",), "save") == ()
    assert ids(traits.twins(keymap, BOARD.press_of(key("hold:F9")), ("draw",), "x")) == ["join"]
    muted = Keymap(
        Stack(
            replace(APP, rules=takes),
            (replace(mine, assign={"save": on("hold:F9")}, mute={key("F9"): Decision(why="x")}),),
        ),
        BOARD,
    )
    assert traits.twins(muted, BOARD.press_of(key("hold:F9")), ("draw",), "save") == ()


def test_a_mute_ends_what_waits_and_firm_keys_end_runs() -> None:
    reserved = replace(RULES, reserved={key("Q"): "kept"})
    mine = scheme(assign={"burn": on("Q R", "R Q")})
    keymap = Keymap(Stack(replace(APP, rules=reserved), (mine,)), BOARD)
    assert keymap.winners(BOARD.press_of(key("Q R")), "draw") == ()
    assert ids(keymap.winners(BOARD.press_of(key("R Q")), "draw")) == ["burn"]
    assert not keymap.goes_on(BOARD.press_of(key("Q")), "draw")
    assert keymap.goes_on(BOARD.press_of(key("R")), "draw")
    (of_run,) = keymap.by_command["burn"][:1]
    assert not keymap.is_alone(of_run)
    assert keymap.is_alone(keymap.by_command["burn"][1])
    muted = Keymap(Stack(APP, (scheme(mute={key("R S"): Decision(why="x")}),)), BOARD)
    assert not muted.goes_on(BOARD.press_of(key("R")), "draw")


@pytest.mark.parametrize(
    ("rule", "winners", "hidden"),
    [
        ("replace", ["c"], ["b", "a"]),
        ("last-wins", ["c"], ["b", "a"]),
        ("first-wins", ["a"], ["b", "c"]),
        ("refuse", ["a"], ["b", "c"]),
        ("choice", ["a", "b", "c"], []),
    ],
)
def test_three_on_one_press_are_settled_by_the_rule(
    rule: str, winners: list[str], hidden: list[str]
) -> None:
    three = dict(zip(("save", "split", "join"), "abc", strict=True))
    mine = scheme(assign={id_: on("F2") for id_ in three})
    keymap = Keymap(Stack(replace(APP, rules=replace(RULES, duplicates=rule)), (mine,)), BOARD)
    outcome = keymap.decide(key("F2"), "everywhere")
    assert sorted(three[c.command] for c in outcome.winners) == sorted(winners)
    assert [three[c.command] for c in outcome.overridden] == hidden


ONE = replace(APP, name="one", title="One")


def neighbours(*purposes: Purpose, keys: dict[str, str]) -> tuple[Keymap, Across]:
    """This application, and what another tells: which of its commands have which keys."""
    other = Scheme(app="one", name="x", assign={id_: on(text) for id_, text in keys.items()})
    here, there = Keymap(Stack(APP), BOARD), Keymap(Stack(ONE, (other,)), BOARD)
    return here, Across({"app": here, "one": there}, Purposes(purposes))


def test_a_reflex_from_elsewhere_meets_what_lasts_and_the_other_way_round() -> None:
    look = Purpose(id="look", title="Look", links={"one": ("join",), "app": ("spline",)})
    burn = Purpose(id="burn", title="Burn", risk="irreversible", links={"app": ("burn",)})
    here, across = neighbours(look, burn, keys={"join": "F9", "burn": "F8"})
    (worse,) = across.worse_with(here, "burn", key("F9"))
    assert (worse.reflex.title, worse.reflex.app, worse.meets.app) == ("Join lines", "one", "app")
    assert worse.says == "F9 is “Join lines” in One, and “Burn” in App, which cannot be undone"
    # Its own reflex would meet what lasts there.
    (worse,) = across.worse_with(here, "spline", key("F8"))
    assert (worse.reflex.app, worse.meets.app) == ("app", "one")
    # Another press, the same purpose, or a command that means nothing to others: nothing.
    assert across.worse_with(here, "burn", key("F7")) == ()
    assert across.worse_with(here, "save", key("F8")) == ()
    assert across.worse_with(here, "spline", key("F9")) == ()
    same = Purpose(
        id="burn", title="Burn", risk="irreversible", links={"app": ("burn",), "one": ("burn",)}
    )
    here, across = neighbours(same, keys={"burn": "F8"})
    assert across.worse_with(here, "burn", key("F8")) == ()


def test_an_application_tells_each_of_its_presses_once_and_only_where_it_decides() -> None:
    look = Purpose(id="look", title="Look", links={"one": ("join", "save")})
    other = Scheme(
        app="one",
        name="x",
        assign={"join": on("F9", "Ctrl+Shift+=", "Ctrl++"), "split": on("F9", modes=("draw",))},
    )
    over = Scheme(app="one", name="near", layer=PERSONAL, assign={"split": on("Ctrl+S")})
    there = Keymap(Stack(ONE, (over, other)), BOARD)
    across = Across({"one": there}, Purposes([look]))
    told = [(meaning.claim.command, str(meaning.trigger)) for _, meaning in across.told("one")]
    # Ctrl+S of save is hidden; two spellings are one press; a mode of its own hides nothing here.
    assert told == [("join", "F9"), ("join", "Ctrl+Shift+="), ("join", "J")]
    assert across.false_friends("one") == []
    assert across.elsewhere("one") == []


def test_what_is_worse_weighs_twice_where_the_reflex_is_of_every_day() -> None:
    daily = replace(
        ONE,
        catalogue=Catalogue(
            tuple(
                replace(c, marks=read_marks({"often"})) if c.id == "join" else c
                for c in ONE.catalogue.commands
            )
        ),
    )
    other = Scheme(app="one", name="x", assign={"join": on("F9"), "spline": on("F8")})
    mine = scheme(assign={"burn": on("F9", "F8"), "save": on("F7")})
    purposes = Purposes(
        [
            Purpose(id="look", title="Look", links={"one": ("join", "spline")}),
            Purpose(id="burn", title="Burn", risk="irreversible", links={"app": ("burn",)}),
            Purpose(id="keep", title="Keep", risk="changes work", links={"app": ("save",)}),
        ]
    )
    here = Keymap(Stack(APP, (mine,)), BOARD)
    across = Across({"app": here, "one": Keymap(Stack(daily, (other,)), BOARD)}, purposes)
    found = across.false_friends("app")
    assert [(str(f.meets.trigger), f.weight, f.reflex.often) for f in found] == [
        ("F9", 4, True),
        ("F8", 2, False),
    ]
    assert (
        found[0].says
        == "F9 is “Join lines” in One all day, and “Burn” in App, which cannot be undone"
    )


def test_what_one_application_has_twice_on_a_press_is_no_false_friend() -> None:
    mine = scheme(assign={"burn": on("F9"), "spline": on("F9")})
    choice = replace(APP, rules=replace(RULES, duplicates="choice"))
    purposes = Purposes(
        [
            Purpose(id="look", title="Look", links={"app": ("spline",)}),
            Purpose(id="burn", title="Burn", risk="irreversible", links={"app": ("burn",)}),
        ]
    )
    alone = Across({"app": Keymap(Stack(choice, (mine,)), BOARD)}, purposes)
    assert len(alone.told("app")) == 3
    assert alone.false_friends("app") == []


def test_a_keyboard_that_lacks_a_key_hides_its_neighbours() -> None:
    laptop = load("", "pc", "ansi-laptop", "us")
    here = Keymap(Stack(APP, (scheme(assign={"save": on("Num1", "Ctrl+A")}),)), laptop)
    assert list(traits.beside(here, laptop.press_of(key("Num2")))) == []
    near = list(traits.beside(here, laptop.press_of(key("Ctrl+Q"))))
    assert near == [laptop.press_of(key("Ctrl+A"))]
    assert list(traits.beside(here, laptop.press_of(key("Ctrl+A")))) == [
        laptop.press_of(key("Ctrl+S"))
    ]
    assert list(traits.beside(here, laptop.press_of(key("G Q")))) == []


ALONE = [
    ("untypable", "Ctrl+Alt+Q"),
    ("altgr", "Ctrl+@"),
    ("hard", "Ctrl+Alt+Shift+F12"),
    ("typing", "Ö"),
    ("lacking", "F24"),
    ("locked", "Ctrl+Q"),
    ("rules", "G D"),
]


@pytest.mark.parametrize(("kind", "text"), ALONE)
def test_what_stands_against_a_key_by_itself_is_known_without_asking_who_else_has_it(
    kind: str, text: str
) -> None:
    """Where nobody else has any key, nothing else stands against one."""
    rules = Rules(reserved={key("Ctrl+Q"): "quits"}, text_modes=("label",))
    commands = tuple(replace(each, keys=()) for each in APP.catalogue.commands)
    app = replace(APP, rules=rules, catalogue=Catalogue(commands))
    view = View(Stack(app, ()), load("", "pc", "iso-105", "german"))
    command = view.app.catalogue.commands[0]
    modes = ("label",) if "label" in app.modes else command.usable_in
    alone = in_itself(view, command, key(text), modes)
    assert kind in {each.id for each in alone.objections}
    assert alone.objections == verdict(view, command, key(text), modes, None).objections
