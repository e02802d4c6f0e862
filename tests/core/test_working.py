"""From a scheme to a work list and back by the application's own listing, on random applications."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import DUPLICATES, Rules
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.core.sharing.manual_steps import Held, illegal
from olive_compass.core.sharing.working import differences, for_app, had_of, limits_of, wanted_of

BOARD = Keyboard("pc")
KEYS = [key(f"Ctrl+{letter}") for letter in "ABCDE"]
MODES = ModeTree({"draw": "everywhere", "label": "everywhere"})


def app(rules: Rules, *commands: Command) -> App:
    return App(
        name="app",
        title="App",
        version="1",
        modes=MODES,
        rules=rules,
        catalogue=Catalogue(commands),
    )


def command(id_: str, *keys: str, modes: tuple[str, ...] = ()) -> Command:
    return Command(id=id_, title=id_.title(), menu=(), keys=tuple(map(key, keys)), modes=modes)


def steps(keymap: Keymap) -> list[str]:
    found = for_app(keymap, had_of(keymap.app.catalogue))
    return [f"{s.command}: {s.loses or '-'} > {s.gets or '-'}" for s in found.steps]


@st.composite
def keymaps(draw: st.DrawFn) -> Keymap:
    rules = Rules(
        duplicates=draw(st.sampled_from(DUPLICATES)),
        most_keys=draw(st.sampled_from([0, 1, 2])),
        can_mute=draw(st.booleans()),
    )
    free = list(KEYS)
    commands = []
    for n in range(draw(st.integers(1, 5))):
        own = draw(st.lists(st.sampled_from(KEYS), max_size=rules.most_keys or 2, unique=True))
        own = [run for run in own if run in free]
        free = [run for run in free if run not in own]
        modes = draw(st.sampled_from([(), ("draw",), ("label",)]))
        commands.append(Command(id=f"c{n}", title=f"C{n}", menu=(), keys=tuple(own), modes=modes))
    about = app(rules, *commands)
    assign = draw(
        st.dictionaries(
            st.sampled_from([c.id for c in commands]), st.sampled_from(KEYS), max_size=4
        )
    )
    mute = draw(st.lists(st.sampled_from(KEYS), max_size=1))
    scheme = Scheme(
        app="app",
        name="mine",
        assign={
            id_: (
                Assignment(keys=(run,), modes=about.catalogue.by_id[id_].modes or ("everywhere",)),
            )
            for id_, run in assign.items()
        },
        mute={run: Decision(why="x") for run in mute if rules.can_mute},
    )
    return Keymap(Stack(about, (scheme,)), BOARD)


@given(keymaps())
def test_working_a_list_off_gives_what_is_wanted(keymap: Keymap) -> None:
    had = had_of(keymap.app.catalogue)
    found = for_app(keymap, had)
    limits = limits_of(keymap.app)
    state = Held(had)
    for step in found.steps:
        assert not illegal(state, step, limits), step
        state.do(step, limits)
    assert dict(state) == found.reached
    excused = {each.command for each in found.left}
    for wrong in differences(wanted_of(keymap), state):
        assert wrong.command in excused, (wrong, found)
    # What an application then has is, read back, nothing to do.
    assert not for_app(keymap, state).steps


def test_a_trigger_that_the_rules_do_not_allow_is_left_out() -> None:
    about = app(Rules(modifiers=("Ctrl",)), command("a", "Ctrl+A"), command("b"))
    scheme = Scheme(app="app", name="mine", assign={"b": (Assignment(keys=(key("Alt+B"),)),)})
    found = for_app(Keymap(Stack(about, (scheme,)), BOARD), had_of(about.catalogue))
    assert (found.steps, [each.why for each in found.left]) == ((), ["it takes no Alt in a key"])


def test_commands_of_modes_that_do_not_meet_may_have_the_same_key() -> None:
    about = app(
        Rules(duplicates="refuse"),
        command("a", "F1", modes=("draw",)),
        command("b", modes=("label",)),
    )
    scheme = Scheme(
        app="app", name="mine", assign={"b": (Assignment(keys=(key("F1"),), modes=("label",)),)}
    )
    assert steps(Keymap(Stack(about, (scheme,)), BOARD)) == ["b: - > F1"]
    limits = limits_of(about)
    assert not limits.meet("a", "b")
    assert limits.meet("a", "a")


@pytest.mark.parametrize(
    ("duplicates", "wanted"),
    [
        ("replace", ["b: - > F1"]),
        ("refuse", ["a: F1 > -", "b: - > F1"]),
        ("first-wins", ["a: F1 > -", "b: - > F1"]),
        ("last-wins", ["b: - > F1", "a: F1 > -"]),
    ],
)
def test_a_key_that_goes_from_one_to_another(duplicates: str, wanted: list[str]) -> None:
    about = app(Rules(duplicates=duplicates), command("a", "F1"), command("b"))
    scheme = Scheme(app="app", name="mine", assign={"b": (Assignment(keys=(key("F1"),)),)})
    assert steps(Keymap(Stack(about, (scheme,)), BOARD)) == wanted


def test_what_was_parked_once_is_left_where_it_is() -> None:
    about = app(
        Rules(duplicates="first-wins", most_keys=1, can_mute=False),
        command("a", "F1"),
        command("b"),
    )
    scheme = Scheme(app="app", name="mine", assign={"b": (Assignment(keys=(key("F1"),)),)})
    keymap = Keymap(Stack(about, (scheme,)), BOARD)
    found = for_app(keymap, had_of(about.catalogue))
    assert [str(s.gets) for s in found.steps] == ["Ctrl+Alt+Shift+F24", "F1"]
    assert not for_app(keymap, found.reached).steps


def test_a_spare_is_a_key_that_neither_is_wanted_nor_had() -> None:
    about = app(
        Rules(duplicates="refuse", most_keys=1, can_mute=False),
        command("a", "F1"),
        command("b", "F2"),
        command("c", "Ctrl+Shift+F12"),
        command("d"),
    )
    swap = {
        "a": (Assignment(keys=(key("F2"),), instead=True),),
        "b": (Assignment(keys=(key("F1"),), instead=True),),
    }
    other = {"d": (Assignment(keys=(key("Ctrl+Shift+F11"),)),)}
    keymap = Keymap(
        Stack(about, (Scheme(app="app", name="mine", assign={**swap, **other}),)), BOARD
    )
    had = had_of(about.catalogue)
    spares = [str(s.gets) for s in for_app(keymap, had).steps if s.spare]
    assert spares == ["Ctrl+Shift+F10"]
    # What it has by its own listing counts too, though no layer of ours gives it.
    had["c"] = frozenset([key("Ctrl+Shift+F10")])
    spares = [str(s.gets) for s in for_app(keymap, had).steps if s.spare]
    assert spares == ["Ctrl+Shift+F9"]


def test_what_is_wired_in_goes_on_unless_a_command_that_never_starts_has_its_key() -> None:
    rules = Rules(unlisted={key("Ctrl+D"): "doubles the page"}, can_mute=False)
    about = app(rules, command("a"), command("dull"))

    def left(**mute: str) -> list[str]:
        scheme = Scheme(app="app", name="mine", mute={key("Ctrl+D"): Decision(why="x", **mute)})  # type: ignore[arg-type]
        keymap = Keymap(Stack(about, (scheme,)), BOARD)
        return [each.why for each in for_app(keymap, had_of(about.catalogue)).left]

    assert left() == ["the application itself still doubles the page"]
    assert left(never="dull") == []


def test_a_swap_goes_by_a_spare_key_that_the_rules_allow() -> None:
    def swap(**rules: object) -> list[str]:
        about = app(
            Rules(duplicates="refuse", most_keys=1, **rules),  # type: ignore[arg-type]
            command("a", "Ctrl+A"),
            command("b", "Ctrl+B"),
        )
        keys = {"a": "Ctrl+B", "b": "Ctrl+A"}
        assign = {
            id_: (Assignment(keys=(key(run),), modes=("everywhere",)),) for id_, run in keys.items()
        }
        return steps(Keymap(Stack(about, (Scheme(app="app", name="mine", assign=assign),)), BOARD))

    free = swap(can_mute=False)
    assert free[0].startswith("a: Ctrl+A > ")
    plain = swap(can_mute=False, modifiers=("Ctrl",), plain_keys="none")
    # No other modifier, and not both: the first spare key would have been another.
    assert plain == ["a: Ctrl+A > Ctrl+F12", "b: Ctrl+B > Ctrl+A", "a: Ctrl+F12 > Ctrl+B"]
    assert free[0] != plain[0]


def test_a_mute_that_moves_the_command_away_wants_the_far_key_for_it() -> None:
    about = app(
        Rules(can_mute=False), command("a", "Ctrl+A"), command("b", "Ctrl+B"), command("dull")
    )

    def wanted(*mutes: tuple[str, Decision]) -> dict[str, list[str]]:
        scheme = Scheme(
            app="app", name="mine", mute={key(text): decision for text, decision in mutes}
        )
        found = wanted_of(Keymap(Stack(about, (scheme,)), BOARD))
        return {id_: sorted(map(str, runs)) for id_, runs in found.items()}

    far = key("Ctrl+Shift+F9")
    assert wanted(("Ctrl+A", Decision(why="x", away=far))) == {
        "a": ["Ctrl+Shift+F9"],
        "b": ["Ctrl+B"],
        "dull": [],
    }
    # Where nothing has the press, nothing is moved; a plain mute wants no key at all.
    assert wanted(("Ctrl+D", Decision(why="x", away=far)))["a"] == ["Ctrl+A"]
    assert wanted(("Ctrl+A", Decision(why="x")))["a"] == []
    assert wanted(("Ctrl+B", Decision(why="x", never="dull")))["dull"] == ["Ctrl+B"]
