"""What a press does: the quick way of deciding agrees with a slow and obvious one."""

from itertools import combinations, permutations

from hypothesis import example, given
from hypothesis import strategies as st

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import DUPLICATES, Rules
from olive_compass.core.findings import View, all_findings
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Claim, Stack, claims, silenced
from olive_compass.core.schemes.consequences import losses
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.core.schemes.editing import clear_command, give, take, take_from_others
from olive_compass.core.schemes.holdings import holdings
from olive_compass.core.schemes.layers import HOUSE, PERSONAL
from olive_compass.structs import replace

BOARD = Keyboard("pc")
MODES = {"draw": "everywhere", "vertex": "draw", "label": "everywhere"}
NAMES = ("everywhere", *MODES)
TRIGGERS = tuple(map(read_trigger, ("A", "A B", "A B C", "B", "Ctrl+A", "Main+A", "F6")))
COMMANDS = ("one", "two", "three", "four")

triggers = st.sampled_from(TRIGGERS)
some_modes = st.sampled_from([each for n in (1, 2) for each in permutations(NAMES, n)])
assignments = st.builds(
    Assignment,
    keys=st.lists(triggers, min_size=1, max_size=2, unique=True).map(tuple),
    modes=some_modes,
)


@st.composite
def schemes(draw: st.DrawFn, name: str, layer: str) -> Scheme:
    entries = st.lists(assignments, min_size=1, max_size=2).map(tuple)
    return Scheme(
        app="app",
        name=name,
        layer=layer,
        assign=draw(st.dictionaries(st.sampled_from(COMMANDS), entries, max_size=3)),
        keyless=draw(
            st.dictionaries(st.sampled_from(COMMANDS), st.just(Decision(why="x")), max_size=1)
        ),
        mute=draw(
            st.dictionaries(
                triggers, some_modes.map(lambda modes: Decision(why="x", modes=modes)), max_size=1
            )
        ),
    )


@st.composite
def stacks(draw: st.DrawFn) -> Stack:
    commands = tuple(
        Command(
            id=name,
            title=name,
            menu=("Menu",),
            keys=draw(st.lists(triggers, max_size=2, unique=True).map(tuple)),
            modes=draw(st.one_of(st.just(()), some_modes)),
        )
        for name in COMMANDS
    )
    wired = st.dictionaries(triggers, st.just("wired"), max_size=1)
    rules = Rules(
        duplicates=draw(st.sampled_from(DUPLICATES)),
        longest_sequence=4,
        typed_sequences=True,
        reserved=draw(wired),
        unlisted=draw(wired),
    )
    app = App(
        name="app",
        title="App",
        version="1",
        modes=ModeTree(MODES),
        rules=rules,
        catalogue=Catalogue(commands),
    )
    order = draw(st.permutations(COMMANDS))
    mine = draw(schemes("mine", PERSONAL))
    mine = replace(mine, order={TRIGGERS[0]: tuple(order)})
    return Stack(app, (mine, draw(schemes("house", HOUSE))), draw(wired))


def slow_winners(stack: Stack, trigger: Run, mode: str) -> tuple[str, ...]:
    """The commands that decide a press, by walking layers and modes one after another."""
    duplicates = stack.app.rules.duplicates
    press = BOARD.press_of(trigger)
    locked = {BOARD.press_of(c.trigger) for c in claims(stack) if c.layer.locked}
    system = {BOARD.press_of(run) for run in stack.system}
    if any(
        press[:length] in locked or press[length : length + 1] in system
        for length in range(1, len(press))
    ):
        return ()
    for rank in range(-2, len(stack.schemes) + 2):
        where = mode
        while True:
            here = [
                claim
                for claim in claims(stack)
                if claim.rank == rank
                and claim.mode == where
                and BOARD.press_of(claim.trigger) == BOARD.press_of(trigger)
                and not any(
                    above < claim.rank and mode in modes
                    for above, modes in silenced(stack).get(claim.command, ())
                )
            ]
            if any(claim.mutes for claim in here):
                return ("",)
            wanted = tuple(dict.fromkeys(claim.command or claim.wired for claim in here))
            if wanted:
                if duplicates == "choice" and len(wanted) > 1:
                    if BOARD.press_of(trigger) == BOARD.press_of(TRIGGERS[0]):
                        order = stack.schemes[0].order[TRIGGERS[0]]
                        return tuple(sorted(wanted, key=order.index))
                    return wanted
                return wanted[-1:] if duplicates in ("replace", "last-wins") else wanted[:1]
            if where == "everywhere":
                break
            where = MODES[where]
    return ()


@given(stacks(), st.sampled_from(NAMES), triggers)
def test_the_quick_way_agrees_with_the_slow_one(stack: Stack, mode: str, trigger: Run) -> None:
    outcome = Keymap(stack, BOARD).decide(trigger, mode)
    slow = slow_winners(stack, trigger, mode)
    assert tuple(claim.command or claim.wired for claim in outcome.winners) == slow
    locked = {BOARD.press_of(c.trigger) for c in claims(stack) if c.layer.locked}
    goes_on = BOARD.press_of(trigger) not in locked and any(
        len(other.strokes) > len(trigger.strokes)
        and BOARD.press_of(other)[: len(trigger.strokes)] == BOARD.press_of(trigger)
        and any(slow_winners(stack, other, mode))
        for other in TRIGGERS
    )
    assert (outcome.what == "waits") == goes_on
    assert (outcome.what == "nothing") == (not slow and not goes_on)


def twice_spelt(*keys: str) -> Stack:
    """A choice that a nearer layer hides, one of its commands having the press in two spellings."""

    def scheme(name: str, layer: str, given_to: dict[str, tuple[str, ...]]) -> Scheme:
        return Scheme(
            app="app",
            name=name,
            layer=layer,
            assign={
                command: (Assignment(keys=tuple(map(read_trigger, runs)), modes=("everywhere",)),)
                for command, runs in given_to.items()
            },
        )

    catalogue = Catalogue(
        tuple(Command(id=name, title=name, menu=("Menu",), keys=(), modes=()) for name in COMMANDS)
    )
    app = App(
        name="app",
        title="App",
        version="1",
        modes=ModeTree(MODES),
        rules=Rules(duplicates="choice", longest_sequence=4, typed_sequences=True),
        catalogue=catalogue,
    )
    mine = replace(
        scheme("mine", PERSONAL, {"one": ("A", "Ctrl+A")}), order={TRIGGERS[0]: COMMANDS}
    )
    house = scheme("house", HOUSE, {"one": ("A", "Main+A"), "two": keys})
    return Stack(app, (mine, house), {})


@given(stacks())
@example(twice_spelt("Ctrl+A", "Main+A"))
@example(twice_spelt("Main+A", "Ctrl+A"))
def test_the_same_press_found_by_bucket_and_by_comparing_all_pairs(stack: Stack) -> None:
    def place(claim: Claim) -> object:
        return BOARD.press_of(claim.trigger), claim.rank, claim.mode

    def clash(a: Claim, b: Claim) -> bool:
        return place(a) == place(b) and a.does != b.does

    # What stands in an order of the choice is known, and no finding.
    ordered, stack = (
        stack,
        replace(stack, schemes=tuple(replace(s, order={}) for s in stack.schemes)),
    )
    every = list(claims(stack))

    def offered(one: Claim) -> bool:
        """Whether the choice is ever offered: something nearer may hide all of it."""
        here = [c for c in every if place(c) == place(one)]
        spellings = [{c.trigger for c in here if c.does == does} for does in {c.does for c in here}]
        spelt_alike = bool(set.intersection(*spellings))
        if stack.app.rules.duplicates != "choice" or any(c.mutes for c in here) or not spelt_alike:
            return True
        inside = [m for m in NAMES if one.mode in stack.app.modes.path(m)]
        wanted = {c.command for c in here}
        return any(wanted <= set(slow_winners(ordered, one.trigger, mode)) for mode in inside)

    pairs = {place(a) for a, b in combinations(every, 2) if clash(a, b) and offered(a)}
    found = [f for f in all_findings(View(stack, BOARD)) if f.id in ("same-press", "same-keys")]
    assert sum(len(f.modes) for f in found) == len(pairs)


@given(stacks())
def test_a_key_that_is_said_to_work_does(stack: Stack) -> None:
    keymap = Keymap(stack, BOARD)
    for command in COMMANDS:
        for holding in holdings(keymap, command):
            for mode in NAMES:
                wins = command in slow_winners(stack, holding.trigger, mode)
                path = keymap.app.modes.path(mode)
                assert (mode in holding.live) == (wins and bool(set(holding.modes) & set(path)))


@given(stacks(), st.sampled_from(COMMANDS), triggers, some_modes)
def test_giving_a_key_makes_it_work_and_says_who_lost(
    stack: Stack, command: str, trigger: Run, modes: tuple[str, ...]
) -> None:
    mine = stack.schemes[0]
    before = Keymap(stack, BOARD)
    edited = give(take_from_others(mine, before, command, trigger, modes), command, trigger, modes)
    after = Keymap(stack.with_scheme(edited), BOARD)
    locked = {BOARD.press_of(run) for run in (*stack.system, *stack.app.rules.reserved)}
    for mode in modes:
        winners = [c.command for c in after.winners(BOARD.press_of(trigger), mode)]
        press = BOARD.press_of(trigger)
        system = {BOARD.press_of(run) for run in stack.system}
        taken = any(press[:length] in locked for length in range(1, len(press) + 1))
        taken = taken or any(press[n : n + 1] in system for n in range(1, len(press)))
        assert (winners == [command]) != taken
    lost = {(loss.command, mode) for loss in losses(before, after, trigger) for mode in loss.modes}
    slow = {
        (each, mode)
        for mode in NAMES
        for each in slow_winners(stack, trigger, mode)
        if each in COMMANDS and each not in slow_winners(stack.with_scheme(edited), trigger, mode)
    }
    assert lost == slow
    gone = take(edited, command, trigger, NAMES, BOARD)
    press = BOARD.press_of(trigger)
    kept = [key for a in gone.assign.get(command, ()) for key in a.keys]
    assert all(BOARD.press_of(key) != press for key in kept)
    assert command not in clear_command(edited, command).assign
