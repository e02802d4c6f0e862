"""Sharing without files or terminal: purposes, key sets, false friends, comparing, merging, upgrading."""

import csv
from collections.abc import Mapping
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.answers.drift import drift
from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.marks import read_marks
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Claim, Stack
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.core.schemes.layers import PROJECT
from olive_compass.core.sharing.applying import plan
from olive_compass.core.sharing.comparing import compare_catalogues, compare_keysets
from olive_compass.core.sharing.comparing_schemes import compare_schemes
from olive_compass.core.sharing.cross_app import Across
from olive_compass.core.sharing.guessing import proposals
from olive_compass.core.sharing.keysets import Entry, KeySet, cells, consistency, pair_consistency
from olive_compass.core.sharing.learning import learn
from olive_compass.core.sharing.merging import merge, merge_lines
from olive_compass.core.sharing.proposals import SURE, Guess
from olive_compass.core.sharing.purposes import Purpose, Purposes
from olive_compass.core.sharing.recognising import match
from olive_compass.core.sharing.rows import as_it_counts, rows_of, scheme_of
from olive_compass.core.sharing.upgrading import put_back, upgrade
from olive_compass.desk.formats.purposes_file import base, read, write
from olive_compass.structs import replace

BOARD = Keyboard("pc")


def command(id_: str, keys: str = "", title: str = "", **more: object) -> Command:
    runs = tuple(key(text) for text in keys.split(" or ") if text)
    return Command(id=id_, title=title or id_.title(), menu=(), keys=runs, **more)  # type: ignore[arg-type]


def app(name: str, *commands: Command, rules: Rules = Rules()) -> App:  # noqa: B008
    modes = ModeTree({"draw": "everywhere", "label": "everywhere"})
    return App(
        name=name,
        title=name.title(),
        version="1",
        modes=modes,
        rules=rules,
        catalogue=Catalogue(commands),
    )


def on(
    *keys: str, modes: tuple[str, ...] = ("everywhere",), why: str = ""
) -> tuple[Assignment, ...]:
    return (Assignment(keys=tuple(map(key, keys)), modes=modes, why=why),)


def mine(app_name: str = "one", **tables: object) -> Scheme:
    return Scheme(app=app_name, name="mine", **tables)  # type: ignore[arg-type]


def keymap(about: App, *schemes: Scheme) -> Keymap:
    return Keymap(Stack(about, schemes), BOARD)


def guesses(apps: list[App], purposes: Purposes) -> list[Guess]:
    return [guess for each in proposals(apps, purposes) for guess in each.guesses]


ONE = app(
    "one",
    command("save", "Ctrl+S"),
    command("trim", "F6"),
    command("split", "S P", modes=("draw",)),
    command("layers", "F7", marks=read_marks({"often"})),
    rules=Rules(duplicates="choice", longest_sequence=4, typed_sequences=True),
)
TWO = app(
    "two",
    command("keep", "Ctrl+S", "Save"),
    command("render", "F6", marks=read_marks({"irreversible"})),
    command("cut-off", "F9", "Trim"),
    command("panel", "", "Layers"),
    rules=Rules(duplicates="replace", most_keys=1, reserved={key("F10"): "menu"}),
)
PURPOSES = Purposes(
    [
        Purpose(
            id="save", title="Save", names=("keep",), links={"one": ("save",), "two": ("keep",)}
        ),
        Purpose(
            id="trim",
            title="Trim",
            risk="changes work",
            links={"one": ("trim",), "two": ("cut-off",)},
        ),
        Purpose(id="layers", title="Layers", links={"one": ("layers",), "two": ("panel",)}),
        Purpose(id="split", title="Split", links={"one": ("split",)}),
        Purpose(id="stop", title="Stop", names=("abandon", "drop the line")),
    ]
)


def test_the_base_list_has_what_design_and_production_share() -> None:
    purposes = read(base(), "purposes.csv")
    assert len(purposes.all) >= 300
    groups = {p.group for p in purposes.all}
    assert {"files", "editing", "selecting", "arranging", "viewing", "measuring"} <= groups
    assert {
        "layers",
        "playing and recording",
        "drawing",
        "time lines",
        "pages",
        "text",
        "output",
    } <= groups
    assert all(p.names for p in purposes.all)
    assert len({p.id for p in purposes.all}) == len(purposes.all)
    again = read(write(purposes), "x").all
    assert [replace(p, line=0) for p in again] == [replace(p, line=0) for p in purposes.all]
    assert [p.id for p, _ in purposes.named("abandon")] == ["stop"]


def test_a_command_has_one_purpose() -> None:
    moved = PURPOSES.linked("stop", "one", ("trim",))
    assert moved.by_id["trim"].commands("one") == ()
    assert moved.by_command["one", "trim"].id == "stop"
    assert moved.linked("stop", "one", ()).by_id["stop"].links == {}


def test_guesses_tell_their_reasons() -> None:
    three = app(
        "three",
        command("a", "Ctrl+S", "Keep"),
        command("b", "", "Save under another name"),
        command("c", "", "Trim the frame"),
    )
    found = guesses([three, ONE, TWO], PURPOSES)
    assert [(g.purpose.id, g.commands) for g in found] == [("save", ("a",)), ("trim", ("c",))]
    assert (found[0].score, found[1].score < 0.9) == (1, True)
    assert found[0].reasons == ("it is called “keep”", "Ctrl+S from the factory, as elsewhere")
    linked = PURPOSES.linked("save", "three", ("a",))
    assert [g.commands for g in guesses([three, ONE], linked)] == [("c",)]


def test_a_menu_speaks_for_a_purpose_of_its_group_and_for_no_other() -> None:
    def score(group: str, *menu: str) -> tuple[float, tuple[str, ...]]:
        purposes = Purposes([Purpose(id="trim", title="Trim", group=group)])
        about = app("new", Command(id="t", title="Trim away", menu=menu))
        (found,) = guesses([about], purposes)
        return found.score, found.reasons[1:]

    plain, none = score("lines", "Help")
    assert none == ()
    assert score("lines", "Edit lines") == (round(plain + 0.05, 2), ("menu Edit lines",))
    assert score("work on lines", "Lines") == (round(plain + 0.05, 2), ("menu Lines",))
    # A purpose without a group has nothing in common with any menu.
    assert score("", "Help") == score("lines") == (plain, ())


def test_one_application_alone_is_learnt_from() -> None:
    learnt = learn("all", [keymap(ONE)], PURPOSES)
    assert {id_: [str(r) for r in e.triggers] for id_, e in learnt.keyset.keys.items()}["save"] == [
        "Main+S"
    ]


def test_what_is_guessed_surely_is_right() -> None:
    """A hundred titles of no program in particular, with the purpose that each of them serves."""
    text = (Path(__file__).parent / "data" / "titles.csv").read_text()
    for rows in (
        list(csv.reader(text.splitlines()))[1:],
        list(csv.reader(text.splitlines()))[:0:-1],
    ):
        truth = {f"c{n:03}": purpose for n, (_, purpose) in enumerate(rows)}
        commands = [command(f"c{n:03}", "", title) for n, (title, _) in enumerate(rows)]
        purposes = read(base(), "purposes.csv")
        sure = [g for g in guesses([app("new", *commands)], purposes) if g.score >= SURE]
        right = [g for g in sure if truth[g.commands[0]] == g.purpose.id]
        assert len(truth) == 100
        assert len(right) / len(sure) >= 0.97
        assert len(right) >= 0.9 * sum(map(bool, truth.values()))


def test_cells_of_a_set_and_its_figures() -> None:
    keyset = KeySet(
        "k",
        "",
        {
            "save": Entry((key("Ctrl+S"),)),
            "trim": Entry((key("F6"),)),
            "layers": Entry((key("F10"),)),
            "split": Entry((key("F3"),)),
            "nobody": Entry((key("F1"),)),
        },
    )
    found = cells(keyset, PURPOSES, [keymap(ONE), keymap(TWO)])
    assert [(c.purpose, c.app, c.state) for c in found] == [
        ("save", "one", "same"),
        ("save", "two", "same"),
        ("trim", "one", "same"),
        ("trim", "two", "taken"),
        ("layers", "one", "other"),
        ("layers", "two", "reserved"),
        ("split", "one", "other"),
        ("split", "two", "no such command"),
        ("nobody", "one", "no such command"),
        ("nobody", "two", "no such command"),
    ]
    assert found[3].holder == "Render"
    assert consistency(found) == 3 / 7
    assert pair_consistency(PURPOSES, keymap(ONE), keymap(TWO)) == (1, 2)


def test_a_plan_goes_by_the_rules_and_says_who_loses_what() -> None:
    keyset = KeySet(
        "k",
        "",
        {
            "trim": Entry((key("F6"),), "the same everywhere"),
            "layers": Entry((key("F10"), key("F6"), key("F7"))),
            "save": Entry((key("Ctrl+S"),)),
            "split": Entry((key("F6"),)),
        },
    )
    scheme = mine("two")
    found = plan(Stack(TWO, (scheme,)), scheme, keyset, PURPOSES, keymap(TWO, scheme))
    told = {p.purpose: (p.what, str(p.trigger)) for p in found.planned}
    assert told == {
        "trim": ("adopted", "F6"),
        "layers": ("adopted", "F7"),
        "save": ("already so", "Ctrl+S"),
        "split": ("absent", "None"),
    }
    trim, layers = found.planned[:2]
    assert [loss.command for loss in trim.lost] == ["render"]
    assert [str(run) for run in trim.dropped] == ["F9"]
    assert [(str(each.trigger), each.part) for each in layers.why] == [
        ("F10", "locked"),
        ("F6", "given"),
    ]
    assert layers.why[1].about == "trim"
    assert found.after.assign["cut-off"][0].why == "the same everywhere"


def test_a_plan_says_what_no_list_shows() -> None:
    rules = Rules(duplicates="replace", unlisted={key("F3"): "prints a proof"})
    about = app("one", command("save"), command("trim", "F3"), command("split", "F4"), rules=rules)
    keyset = KeySet("k", "", {"save": Entry((key("F3"),)), "trim": Entry((key("F8"),))})
    scheme = mine()
    found = plan(Stack(about, (scheme,)), scheme, keyset, PURPOSES, keymap(about, scheme))
    told = {p.purpose: (str(p.trigger), p.unlisted) for p in found.planned}
    assert told == {"save": ("F3", ("prints a proof",)), "trim": ("F8", ())}


@pytest.mark.parametrize(
    ("rules", "scheme", "text", "why"),
    [
        (Rules(), mine(), "A B", "rules"),
        (Rules(modifiers=("Ctrl",)), mine(), "Alt+A", "rules"),
        (Rules(text_modes=("label",)), mine(), "A", "typing"),
        (Rules(), mine(), "swipe:N", "rules"),
        (Rules(swipes={"everywhere": 4}), mine(), "swipe:NE", "rules"),
        (Rules(), mine(guard={key("F6"): Decision(why="sacred")}), "F6", "breaks"),
        (Rules(most_keys=1), mine(assign={"save": on("F2")}), "F3", "too-many"),
        (Rules(licences={"pro": False}), mine(), "F3", "unavailable"),
    ],
)
def test_what_blocks_a_key(rules: Rules, scheme: Scheme, text: str, why: str) -> None:
    needs = read_marks({"needs:pro"} if why == "unavailable" else ())
    about = app("one", command("save", marks=needs), command("trim", "F6"), rules=rules)
    keyset = KeySet("k", "", {"save": Entry((key(text),))})
    found = plan(Stack(about, (scheme,)), scheme, keyset, PURPOSES, keymap(about, scheme))
    (save,) = found.planned
    assert (save.what, save.why[0].part) == ("blocked", why), save
    assert found.after == scheme


def test_what_is_without_a_key_or_silent_on_purpose_stays_so() -> None:
    scheme = mine(
        keyless={"save": Decision(why="from the menu")}, mute={key("F3"): Decision(why="slips")}
    )
    keyset = KeySet("k", "", {"save": Entry((key("F2"),)), "trim": Entry((key("F3"),))})
    found = plan(Stack(ONE, (scheme,)), scheme, keyset, PURPOSES, keymap(ONE, scheme))
    assert [p.why[0].part for p in found.planned] == [
        "keyless",
        "muted",
    ]
    assert found.after == scheme


def test_what_a_nearer_scheme_has_comes_first() -> None:
    near = Scheme(app="one", name="near", layer=PROJECT, assign={"trim": on("F2")})
    scheme = mine()
    stack = Stack(ONE, (near, scheme))
    keyset = KeySet("k", "", {"save": Entry((key("F2"), key("F3")))})
    (save,) = plan(stack, scheme, keyset, PURPOSES, Keymap(stack, BOARD)).planned
    assert (str(save.trigger), [each.part for each in save.why]) == ("F3", ["beaten"])
    assert isinstance(save.why[0].about, Claim)
    assert save.why[0].about.command == "trim"


def test_a_purpose_that_is_absent_hides_none_of_those_after_it() -> None:
    near = Scheme(
        app="one", name="near", layer=PROJECT, assign={"trim": on("F2"), "layers": on("F4")}
    )
    scheme = mine()
    stack = Stack(ONE, (near, scheme))
    keys = {
        "stop": Entry((key("F9"),)),
        "save": Entry((key("F2"), key("F3"))),
        "none": Entry((key("F8"),)),
        "split": Entry((key("F4"), key("F5"))),
    }
    found = plan(stack, scheme, KeySet("k", "", keys), PURPOSES, Keymap(stack, BOARD))
    told = {p.purpose: (p.what, str(p.trigger), [w.part for w in p.why]) for p in found.planned}
    assert told == {
        "stop": ("absent", "None", []),
        "save": ("adopted", "F3", ["beaten"]),
        "none": ("absent", "None", []),
        "split": ("adopted", "F5", ["beaten"]),
    }
    assert set(found.after.assign) == {"save", "split"}


def test_a_key_that_would_break_a_guard_says_which_and_in_what_modes() -> None:
    scheme = mine(guard={key("F6"): Decision(why="sacred", modes=("everywhere",))})
    keys = {
        "stop": Entry((key("F9"),)),
        "save": Entry((key("F6"),)),
        "split": Entry((key("F6"), key("F5"))),
    }
    found = plan(
        Stack(ONE, (scheme,)), scheme, KeySet("k", "", keys), PURPOSES, keymap(ONE, scheme)
    )
    _, save, split = found.planned
    assert (save.what, [w.part for w in save.why]) == ("blocked", ["breaks"])
    assert save.why[0].verdict.modes == ("everywhere",)
    assert save.why[0].about.trigger == key("F6")  # type: ignore[attr-defined]
    assert (split.what, str(split.trigger)) == ("adopted", "F5")
    assert [(w.part, w.verdict.modes) for w in split.why] == [("breaks", ("draw",))]


FKEYS = [key(f"F{n}") for n in range(1, 6)]
ENTRIES = st.lists(st.sampled_from(FKEYS), min_size=1, max_size=3, unique=True).map(
    lambda runs: Entry(tuple(runs))
)
RANDOM_APPS = st.builds(
    lambda keys, rule, most, texts: app(
        "one",
        *(
            Command(id=f"c{n}", title=f"C{n}", menu=(), keys=tuple(runs), modes=modes)
            for n, (runs, modes) in enumerate(keys)
        ),
        rules=Rules(duplicates=rule, most_keys=most, text_modes=texts),
    ),
    st.lists(
        st.tuples(
            st.lists(st.sampled_from(FKEYS), max_size=2, unique=True),
            st.sampled_from([(), ("draw",), ("label",)]),
        ),
        min_size=1,
        max_size=6,
    ),
    st.sampled_from(["replace", "refuse", "choice", "first-wins", "last-wins"]),
    st.sampled_from([0, 1, 2]),
    st.sampled_from([(), ("label",)]),
)
SCHEMES = st.dictionaries(
    st.sampled_from([f"c{n}" for n in range(6)]),
    st.lists(st.sampled_from(FKEYS), min_size=1, max_size=2, unique=True).map(
        lambda runs: (Assignment(keys=tuple(runs)),)
    ),
    max_size=3,
)


@given(RANDOM_APPS, SCHEMES, st.dictionaries(st.sampled_from([f"p{n}" for n in range(6)]), ENTRIES))
def test_applying_twice_changes_nothing_the_second_time(
    about: App, assign: Mapping[str, tuple[Assignment, ...]], wanted: Mapping[str, Entry]
) -> None:
    purposes = Purposes(
        Purpose(id=f"p{n}", title=f"P{n}", links={"one": (f"c{n}",)}) for n in range(6)
    )
    keyset, scheme = KeySet("k", "", wanted), mine(assign=assign)
    first = plan(Stack(about, (scheme,)), scheme, keyset, purposes, keymap(about, scheme))
    again = plan(
        Stack(about, (first.after,)), first.after, keyset, purposes, keymap(about, first.after)
    )
    assert again.after == first.after
    found = {p.purpose: p.trigger for p in again.planned}
    assert found == {p.purpose: p.trigger for p in first.planned}


def test_a_set_is_learnt_from_what_most_agree_on() -> None:
    three = app("three", command("s", "Ctrl+S"), command("t", "F9 or F8"), command("l", "F6"))
    links = {"save": "s", "trim": "t", "layers": "l"}
    purposes = PURPOSES
    for id_, command_id in links.items():
        purposes = purposes.linked(id_, "three", (command_id,))
    maps = [keymap(ONE), keymap(TWO), keymap(three)]
    learnt = learn("all", maps, purposes)
    assert {id_: [str(r) for r in e.triggers] for id_, e in learnt.keyset.keys.items()} == {
        "save": ["Main+S"],
        "trim": ["F9", "F6", "F8"],
        "split": ["S P"],
    }
    assert [(u.purpose, "F7 (one)" in u.why) for u in learnt.unsettled] == [("layers", True)]
    lasting = Purposes([replace(p, risk="irreversible") for p in purposes.all])
    assert not learn("all", maps, lasting).keyset.keys
    weighted = learn("all", maps, purposes, {("one", "trim"): 9})
    assert str(weighted.keyset.keys["trim"].triggers[0]) == "F6"


def test_a_purpose_whose_first_key_is_taken_is_left_to_a_person() -> None:
    one = app("one", command("z", "F9"), command("t", "F6 or F7"))
    two, three = app("two", command("s", "F6")), app("three", command("s", "F6"))
    purposes = Purposes(
        (
            Purpose(id="z", title="Zap", risk="irreversible", links={"one": ("z",)}),
            Purpose(id="t", title="Trim", links={"one": ("t",)}),
            Purpose(id="s", title="Save", links={"two": ("s",), "three": ("s",)}),
        )
    )
    learnt = learn("all", [keymap(one), keymap(two), keymap(three)], purposes)
    assert {id_: str(e.triggers[0]) for id_, e in learnt.keyset.keys.items()} == {"s": "F6"}
    assert [(u.purpose, u.why) for u in learnt.unsettled] == [
        ("z", "it cannot be undone: give it a key by hand, if any"),
        ("t", "F6 goes to s, which has more votes for it"),
    ]


def neighbours(purposes: Purposes, *keymaps: Keymap) -> Across:
    return Across({each.app.name: each for each in keymaps}, purposes)


def test_false_friends_are_the_worst_first() -> None:
    across = neighbours(PURPOSES, keymap(ONE), keymap(TWO))
    (worst,) = across.false_friends("two")
    assert (worst.reflex.title, worst.meets.title, worst.weight) == ("Trim", "Render", 1)
    reflex = app("three", command("x", "F6", marks=read_marks({"often"})))
    purposes = PURPOSES.linked("stop", "three", ("x",))
    across = neighbours(purposes, keymap(ONE), keymap(TWO), keymap(reflex))
    (worst,) = across.false_friends("two")
    assert (worst.reflex.app, worst.weight) == ("three", 4)
    assert [f.meets.title for f in across.false_friends("one")] == ["Trim"]
    assert across.false_friends("three") == []
    muted = mine("two", mute={key("F6"): Decision(why="x")})
    assert not neighbours(PURPOSES, keymap(ONE), keymap(TWO, muted)).false_friends("two")
    assert [p.id for p, _, _ in across.elsewhere("one")] == ["trim"]


def test_decisions_are_compared_not_lines() -> None:
    old = mine(
        assign={"save": on("F1"), "trim": on("F2"), "split": on("F3"), "layers": on("F4", why="x")},
        mute={key("F9"): Decision(why="x")},
        keyless={"gone": Decision(why="y")},
    )
    new = mine(
        assign={
            "save": on("F2"),
            "trim": on("F1"),
            "split": on("F3", modes=("draw",)),
            "layers": on("F4", why="better"),
            "fresh": on("F5"),
        },
        mute={key("F9"): Decision(why="better")},
        layer="house",
    )
    assert {(d.what, d.table, d.subject) for d in compare_schemes(old, new)} == {
        ("swapped", "assign", "save"),
        ("swapped", "assign", "trim"),
        ("mode changed", "assign", "split"),
        ("reason changed", "assign", "layers"),
        ("new", "assign", "fresh"),
        ("gone", "keyless", "gone"),
        ("reason changed", "mute", "F9"),
        ("changed", "head", "layer"),
    }
    assert compare_schemes(old, old) == []
    moved = compare_schemes(mine(assign={"save": on("F1")}), mine(assign={"save": on("F8")}))
    assert [(d.what, d.before, d.after) for d in moved] == [("moved", "F1", "F8")]
    sets = KeySet("a", "", {"save": Entry((key("F1"),))}), KeySet("b")
    assert [d.what for d in compare_keysets(*sets)] == ["gone"]
    newer = Catalogue((command("save", "F2", "Keep"), command("more")))
    found = compare_catalogues(Catalogue((command("save", "F1"),)), newer)
    assert [(d.what, d.table) for d in found] == [
        ("moved", "factory keys"),
        ("changed", "title"),
        ("new", "commands"),
    ]


TABLES = st.dictionaries(st.sampled_from("abcde"), st.integers(0, 3))


@given(TABLES, TABLES, TABLES)
def test_merging_takes_what_only_one_side_changed(
    base_: dict[str, int], ours: dict[str, int], theirs: dict[str, int]
) -> None:
    assert merge(base_, base_, theirs).values == theirs
    assert merge(base_, ours, base_).values == ours
    assert merge(base_, ours, ours).values == ours
    merged = merge(base_, ours, theirs)
    conflicts = {conflict.key for conflict in merged.conflicts}
    for name in {*base_, *ours, *theirs}:
        sides = {base_.get(name), ours.get(name), theirs.get(name)}
        assert (name in conflicts) == (ours.get(name) != theirs.get(name) and len(sides) == 3)
        assert merged.values.get(name) in sides
    resolved = merge(base_, ours, theirs, lambda conflict: "theirs")
    assert not resolved.conflicts
    assert all(resolved.values.get(name) == theirs.get(name) for name in conflicts)


def test_logs_are_merged_line_by_line() -> None:
    assert merge_lines("a\nb\n", "a\nb\nc\n", "b\nd\n") == "b\nc\nd\n"


def test_an_upgrade_says_what_holds() -> None:
    old = app(
        "one",
        command("save", "Ctrl+S"),
        command("trim", "F6", "Trim to line", does="Cuts"),
        command("split", "F3"),
        command("hatch", "F8"),
        command("layers", "F7"),
        command("join", "F4"),
    )
    listed = Catalogue(
        (
            command("x1", "Ctrl+S", "Save"),
            command("x2", "F6", "Trim to frame", does="Cuts"),
            command("x3", "F2", "Split"),
            command("x4", "F9", "Layers"),
            command("x5", "F5", "Flow"),
            command("x6", "F4", "Join"),
        )
    )
    scheme = mine(
        assign={
            "split": on("F2"),
            "save": on("F5"),
            "hatch": on("F1"),
            "trim": on("F1"),
            "join": on("F3"),
        },
        keyless={"layers": Decision(why="x")},
        mute={key("F8"): Decision(why="x"), key("F9"): Decision(why="x")},
        guard={key("F4"): Decision(why="x"), key("F7"): Decision(why="x")},
    )
    found = upgrade(Stack(old, (scheme,)), listed, "2", BOARD)
    what = {(m.old or m.new).id: m.what for m in found.matches if m.what}  # type: ignore[union-attr]
    assert what == {
        "trim": ("renamed",),
        "split": ("keys moved",),
        "layers": ("keys moved",),
        "x5": ("new",),
        "hatch": ("withdrawn",),
    }
    verdicts = {(v.table, v.subject): v.what for v in found.verdicts}
    assert verdicts == {
        ("assign", "split"): "redundant",
        ("assign", "save"): "hides something new",
        ("assign", "hatch"): "command gone",
        ("assign", "trim"): "holds",
        ("assign", "join"): "holds",
        ("keyless", "layers"): "holds",
        ("mute", "F8"): "redundant",
        ("mute", "F9"): "hides something new",
        ("guard", "F4"): "holds",
        ("guard", "F7"): "holds",
    }
    known = found.app.catalogue.by_id
    assert known["hatch"].marks.withdrawn
    assert (known["trim"].title, found.app.version) == ("Trim to frame", "2")
    kept = put_back(scheme, found, old, Keymap(Stack(found.app, (scheme,)), BOARD))
    assert [str(k) for each in kept.assign["layers"] for k in each.keys] == ["F7"]
    guarded = mine(guard={key("F3"): Decision(why="x")})
    moved = upgrade(Stack(old, (guarded,)), listed, "2", BOARD)
    assert [v.what for v in moved.verdicts] == ["conflicts"]


@given(st.permutations(range(6)))
def test_the_same_version_matches_whatever_its_order(order: list[int]) -> None:
    old = Catalogue(tuple(command(f"c{n}", f"F{n + 1}", f"Title {n}") for n in range(6)))
    new = Catalogue(tuple(replace(old.commands[n], id=f"x{n}") for n in order))
    found = match(old, new)
    assert all(m.old and m.new and m.old.title == m.new.title and not m.what for m in found)


MODES = st.lists(
    st.sampled_from(["everywhere", "draw", "label"]), min_size=1, max_size=2, unique=True
)
REASONS = st.text(
    st.characters(exclude_categories=("C", "Z"), include_characters=" "), max_size=12
).map(lambda text: " ".join(text.split()))
RUNS = st.sampled_from(
    [key(k) for k in ("F1", "Ctrl+,", "S P", "swipe:NE", "-", ";", "Ctrl++", "Num-")]
)
DECISIONS = st.builds(lambda why, modes: Decision(why=why, modes=tuple(modes)), REASONS, MODES)
IDS = st.sampled_from(["save", "trim", "x.y", "=sum"])
WHOLE = st.builds(
    lambda assign, keyless, mute, guard, accept, order: mine(
        assign=assign, keyless=keyless, mute=mute, guard=guard, accept=accept, order=order
    ),
    st.dictionaries(
        IDS,
        st.lists(
            st.builds(
                lambda keys, modes, why, slot: Assignment(
                    keys=tuple(keys), modes=tuple(modes), why=why, slot=slot
                ),
                st.lists(RUNS, min_size=1, max_size=2, unique=True),
                MODES,
                REASONS,
                REASONS,
            ),
            min_size=1,
            max_size=2,
        ).map(tuple),
        max_size=3,
    ),
    st.dictionaries(IDS, DECISIONS, max_size=2),
    st.dictionaries(RUNS, DECISIONS, max_size=2),
    st.dictionaries(RUNS, DECISIONS, max_size=2),
    st.dictionaries(st.sampled_from(["slip save", "same-press F1"]), DECISIONS, max_size=2),
    st.dictionaries(RUNS, st.just(("save", "trim")), max_size=1),
)


@given(WHOLE)
def test_rows_give_the_scheme_back(scheme: Scheme) -> None:
    assert scheme_of(mine(), rows_of(scheme), 0) == scheme


def test_all_layers_as_one_scheme() -> None:
    near = mine(
        assign={"trim": on("F2")}, mute={key("F7"): Decision(why="x")}, keyless={"save": Decision()}
    )
    now = as_it_counts(keymap(ONE, near))
    keys: dict[str, list[str]] = {
        id_: [str(k) for a in each for k in a.keys] for id_, each in now.assign.items()
    }
    assert keys == {"trim": ["F2", "F6"], "split": ["S P"]}
    assert [str(run) for run in now.mute] == ["F7"]
    again: Run = key("F2")
    assert keymap(ONE, now).decide(again, "draw").winners[0].command == "trim"


def test_a_mute_holds_hides_or_has_become_needless_in_a_new_version() -> None:
    old = app(
        "one", command("save", "F2"), command("trim", "F3"), rules=Rules(duplicates="replace")
    )
    listed = Catalogue((command("save", "F2 or F5"), command("trim")))
    mute = {key(text): Decision(why="slips") for text in ("F2", "F3", "F4", "F5")}
    found = upgrade(Stack(old, (mine(mute=mute),)), listed, "2", BOARD)
    assert {each.subject: (each.what, each.says) for each in found.verdicts} == {
        "F2": ("holds", ""),
        "F3": ("redundant", "the new version does nothing with it"),
        "F4": ("holds", ""),
        "F5": ("hides something new", "the new version starts “Save” with it"),
    }


def test_what_has_drifted_names_who_has_the_key_or_what_it_has_instead() -> None:
    keyset = KeySet(
        name="all",
        keys={
            # As it is in both.
            "save": Entry(triggers=(key("Ctrl+S"),)),
            # One has it; in two it starts another command.
            "trim": Entry(triggers=(key("F6"),)),
            # One has another key for it; two has none, and may have but one, which is reserved.
            "layers": Entry(triggers=(key("F10"),)),
        },
    )
    views = [AppView(Stack(each, ()), BOARD) for each in (ONE, TWO)]
    answer = drift(keyset, PURPOSES, views)
    found = [
        (
            each.view.app.name,
            each.purpose.id,
            each.claim and (each.claim.command, str(each.claim.trigger)),
        )
        for each in answer.drifted
    ]
    # What the application's own rules forbid is no drift.
    assert found == [("one", "layers", ("layers", "F7")), ("two", "trim", ("render", "F6"))]
    assert answer.consistency == pytest.approx(3 / 6)
    alone = KeySet(name="all", keys={"trim": Entry(triggers=(key("F8"), key("F6")))})
    (only,) = drift(alone, PURPOSES, views[1:]).drifted
    # Nobody has the first of its keys there: what it has instead is shown.
    assert only.claim
    assert (only.claim.command, str(only.claim.trigger)) == ("cut-off", "F9")
