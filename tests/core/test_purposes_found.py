"""Purposes that are found in the applications themselves: what is one purpose, and what is none."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.marks import read_marks
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.sharing.guessing import proposals
from olive_compass.core.sharing.learning import learn
from olive_compass.core.sharing.planned import Planned
from olive_compass.core.sharing.proposals import SURE, Proposal, accepted, called, members
from olive_compass.core.sharing.purposes import Purpose, Purposes
from olive_compass.core.sharing.sameness import Practice, habits, practice, sameness
from olive_compass.core.usage.tally import Count, Use
from olive_compass.desk.formats.purposes_file import base, read
from olive_compass.structs import replace

NONE = Purposes()
LISTED = read(base(), "purposes.csv")
#: A few of them, for what is tried often.
SOME = Purposes(
    each
    for each in LISTED.all
    if each.id in ("save", "save-as", "zoom-in", "zoom-out", "grid", "cut")
)


def command(text: str, **more: object) -> Command:
    """A command from ``Menu > Title | Keys``."""
    path, _, keys = text.partition(" | ")
    *menu, title = path.split(" > ")
    runs = tuple(map(read_trigger, keys.split(" or "))) if keys else ()
    return Command(id=text.replace(" ", "-"), title=title, menu=tuple(menu), keys=runs, **more)  # type: ignore[arg-type]


def app(name: str, *commands: str | Command, rules: Rules | None = None) -> App:
    made = tuple(each if isinstance(each, Command) else command(each) for each in commands)
    return App(
        name=name,
        title=name.title(),
        version="1",
        modes=ModeTree({}),
        rules=rules or Rules(),
        catalogue=Catalogue(made),
    )


def titles(found: list[Proposal], least: float = SURE) -> list[set[str]]:
    """The titles that are for one purpose, for each that is sure."""
    sure = [each for proposal in found if (each := proposal.above(least))]
    return [{guess.candidate.command.title for guess in each.guesses} for each in sure]


@pytest.mark.parametrize(
    ("one", "other"),
    [
        ("Weave warp", "weave  Warp…"),
        ("Weaves the warp", "Weave warp"),
        ("Thin out contours", "Contour: thin out"),
        ("Pick colour", "Pick color"),
        ("Prev. stitch", "Previous stitch"),
        ("Flip horiz.", "Flip horizontally"),
        ("Toggle hatching", "Hatching on/off"),
        ("Go to next stitch", "Next stitch"),
        ("Show loom view", "Loom"),
        ("Exit application", "Leave Two"),
        ("Warp (only in the draft). It does not work elsewhere.", "Warp"),
        ("Cut the selection", "Cut"),
        ("Ψ", "Ψ"),
        ("Einschlag prüfen", "einschlag PRÜFEN"),
    ],
)
def test_titles_that_say_the_same(one: str, other: str) -> None:
    found = proposals([app("one", one), app("two", other)], NONE)
    assert titles(found) == [{one, other}]
    (proposal,) = found
    assert (proposal.is_new, proposal.purpose.risk) == (True, "harmless")
    # It is called by the shorter, and the other is a name of it.
    shorter = min((one, other), key=len).rstrip("….")
    assert len(proposal.purpose.title) <= len(shorter)


@pytest.mark.parametrize(
    ("one", "other"),
    [
        ("Zoom in", "Zoom out"),
        ("Bring forward", "Bring to front"),
        ("Next layer", "Previous layer"),
        ("Nudge left", "Nudge right"),
        ("Export", "Export selection"),
        ("Print", "Print selection"),
        ("Path to selection", "Selection to path"),
        ("Line style 1", "Line style 2"),
        ("Eraser", "Erase"),
        ("Group", "Ungroup"),
        ("Undo", "Redo"),
        ("Select all", "Select none"),
        ("Go to end of line", "End the line"),
        ("Move to layer", "Layers"),
        ("Paste", "Paste special"),
        ("Save", "Save all"),
        ("Show all", "All"),
    ],
)
def test_opposites_and_siblings_are_told_apart(one: str, other: str) -> None:
    for purposes in (NONE, SOME):
        for first, second in ((one, other), (other, one)):
            found = proposals([app("one", first), app("two", second)], purposes)
            assert {one, other} not in titles(found)


def test_the_same_title_of_something_else_is_not_taken() -> None:
    drawn = command("Draw > Areas > Wood", does="Fills an area with trees", kind="part")
    style = command(
        "Styles > Ground > Wood | Ctrl+7", does="Style for names of forests", kind="style"
    )
    assert titles(proposals([app("one", drawn), app("two", style)], NONE), 0) == []
    sends = command("File > Send to press", does="Hands the tags over to Foldpress")
    starts = command("Press > Send to press | Ctrl+Enter", does="Starts a run of paper")
    assert titles(proposals([app("one", sends), app("two", starts)], NONE)) == []


def test_keys_menus_descriptions_and_neighbours_speak_for_a_proposal() -> None:
    plain = proposals([app("one", "Edit > Weft repair"), app("two", "Loom > Weft repair")], NONE)
    same = proposals(
        [
            app("one", command("Edit > Weft repair | Ctrl+R", does="Mends a broken thread")),
            app("two", command("Edit > Weft repair | Ctrl+R", does="Mends the broken thread")),
        ],
        NONE,
    )
    assert plain[0].score < same[0].score
    assert same[0].guesses[0].reasons == (
        "the same title",
        "Ctrl+R from the factory, as elsewhere",
        "menu Edit",
        "described alike",
    )
    # A title that is only alike needs them: alone it is a guess, with the same key it is taken.
    for keys, sure in (("", False), (" | Ctrl+R", True)):
        apps = [app("one", f"Weft repair{keys}"), app("two", f"Weft repair again{keys}")]
        (found,) = proposals(apps, NONE)
        assert (found.kind, found.above(SURE) is not None) == ("alike", sure)
    beside = [
        app("one", "Thread loom", "Weft repair", "Tie heddle"),
        app("two", "Thread loom", "Weft repair again", "Tie heddle"),
    ]
    alike = next(each for each in proposals(beside, NONE) if each.kind == "alike")
    assert "beside it are the same commands" in alike.guesses[0].reasons


def test_one_command_alone_is_no_purpose_of_its_own_and_serves_one_that_is_known() -> None:
    (found,) = proposals([app("one", "Weft repair"), app("two", "Weft repair again")], NONE)
    low, high = found.score, max(guess.score for guess in found.guesses) + 0.01
    assert found.above(low) == found
    one = replace(found, guesses=(replace(found.guesses[0], score=high), *found.guesses[1:]))
    assert one.above(high) is None
    kept = replace(one, is_new=False).above(high)
    assert kept is not None
    assert [guess.score for guess in kept.guesses] == [high]


def test_of_one_application_one_command_but_for_alternates() -> None:
    one = app("one", "Weave | Ctrl+W", "Loom > Weave", "Weaves", "Thread")
    two = app("two", "Weave", "Thread")
    found = proposals([one, two], NONE)
    for proposal in found:
        apps = [guess.app for guess in proposal.guesses]
        assert len(apps) == len(set(apps))
    # Listed twice with one key, it is one command; so is what appears in the place of another.
    twice = app("one", command("Weave | Ctrl+W"), command("Draft > Weave | Ctrl+W"))
    (guess, _) = sorted(proposals([twice, two], NONE)[0].guesses, key=lambda g: g.app)
    assert len(guess.commands) == 2
    instead = command("Weave | Alt+W", marks=read_marks([f"alternate:{command('Weave').id}"]))
    both = app("one", command("Weave"), instead)
    (guess, _) = sorted(proposals([both, two], NONE)[0].guesses, key=lambda g: g.app)
    assert set(guess.commands) == {"Weave", "Weave-|-Alt+W"}


def test_two_versions_of_an_application_are_not_linked_to_each_other() -> None:
    old = app("loom-4", "Weave", "Thread")
    new = app("loom-5", "Weave", "Thread", "Tie heddle")
    assert proposals([old, new], NONE) == []
    # With a third application both versions have the purpose.
    (found,) = proposals([old, new, app("kiln", "Weave")], NONE)
    assert {guess.app for guess in found.guesses} == {"loom-4", "loom-5", "kiln"}


def test_known_purposes_come_first_and_a_later_application_only_adds_what_is_new() -> None:
    apps = [
        app("one", "Save", "Weave"),
        app("two", "Keep", "Weave"),
        app("drei", "Speichern unter…"),
    ]
    found = proposals(apps, LISTED)
    assert [(each.purpose.id, each.is_new) for each in found] == [
        ("save", False),
        ("save-as", False),
        ("weave", True),
    ]
    after = accepted(LISTED, found)
    assert after.by_command["two", "Keep"].id == "save"
    assert after.by_id["weave"].links == {"one": ("Weave",), "two": ("Weave",)}
    assert proposals(apps, after) == []
    later = proposals([*apps, app("four", "Weaves", "Save")], after)
    assert [(each.purpose.id, each.is_new, [g.app for g in each.guesses]) for each in later] == [
        ("save", False, ["four"]),
        ("weave", False, ["four"]),
    ]


def test_what_was_refused_is_proposed_again_only_with_more_commands() -> None:
    apps = [app("one", "Weave"), app("two", "Weave")]
    (found,) = proposals(apps, NONE)
    assert proposals(apps, NONE, [members(found)]) == []
    assert len(proposals([*apps, app("three", "Weave")], NONE, [members(found)])) == 1


def test_a_proposal_can_be_called_otherwise() -> None:
    (found,) = proposals([app("one", "Weave"), app("two", "Weave")], NONE)
    named = called(found, "Weave the cloth")
    made = accepted(NONE, [named]).by_id["weave-the-cloth"]
    assert (made.title, made.names, len(made.links)) == ("Weave the cloth", ("Weave",), 2)
    # Of two that are called alike one purpose is made.
    both = accepted(NONE, [named, called(found, "Weave the cloth")])
    assert len(both.all) == 1


TITLES = st.lists(
    st.sampled_from(
        [
            "Save",
            "Save as…",
            "Zoom in",
            "Zoom out",
            "Weave 1",
            "Weave 2",
            "Weave",
            "Weave all",
            "Next",
            "Previous",
            "+",
            "…",
            "Open job",
            "New job",
            "Cut selection",
            "Cut",
            "Line 1.5",
            "Toggle grid",
            "Grid",
            "Move to layer",
            "Layer",
            "(Weave)",
            "Weave (now)",
        ]
    ),
    max_size=12,
)


@given(TITLES, TITLES, TITLES, st.booleans())
def test_whatever_they_are_called_no_command_has_two_purposes(
    one: list[str], two: list[str], three: list[str], listed: bool
) -> None:
    apps = [
        App(
            name=name,
            title=name,
            version="1",
            modes=ModeTree({}),
            rules=Rules(),
            catalogue=Catalogue(tuple(made)),
        )
        for name, some in (("one", one), ("two", two), ("three", three))
        for made in [[Command(id=f"c{n}", title=title) for n, title in enumerate(some)]]
    ]
    purposes = SOME if listed else NONE
    found = proposals(apps, purposes)
    places = [(g.app, id_) for each in found for g in each.guesses for id_ in g.commands]
    assert len(places) == len(set(places))
    for each in found:
        assert len({g.app for g in each.guesses}) == len(each.guesses) >= (2 if each.is_new else 1)
        assert all(0 <= g.score <= 1 and g.reasons for g in each.guesses)
    after = accepted(purposes, found)
    assert proposals(apps, after) == [] or len(places) > 0
    # In another order of applications the same commands have found each other.
    assert len(proposals(apps[::-1], purposes)) == len(found)


# What is learnt, and what it is worth.

BOARD = Keyboard("pc")


def keymap(about: App) -> Keymap:
    return Keymap(Stack(about, ()), BOARD)


def test_a_key_that_the_others_cannot_have_gives_way_and_it_is_said() -> None:
    strict = Rules(modifiers=frozenset({"Ctrl"}), plain_keys="none")
    apps = [
        app("one", "Weave | Alt+W"),
        app("two", "Weave | Ctrl+W", rules=strict),
        app("three", "Weave | Alt+W"),
        app("four", "Weave | Ctrl+W", rules=strict),
        app("five", "Weave", rules=strict),
    ]
    purposes = accepted(NONE, proposals(apps, NONE))
    learnt = learn("all", map(keymap, apps), purposes)
    assert [str(run) for run in learnt.keyset.keys["weave"].triggers] == ["Main+W", "Alt+W"]
    assert [(c.purpose, str(c.first), str(c.second)) for c in learnt.close] == [
        ("weave", "Ctrl+W", "Alt+W")
    ]
    assert learnt.close[0].why == "60% of the applications cannot have Alt+W"


def test_presses_that_do_the_same_everywhere_are_counted_again_by_hand() -> None:
    apps = [
        app("one", "Weave | F6", "Thread | F7"),
        app("two", "Weave | F6", "Thread | F8"),
        app("three", "Tie | F9"),
    ]
    purposes = accepted(NONE, proposals(apps, NONE))
    use = {
        Use(
            log="l", seat="s", day=day, app=name, mode="", command=command_id, how="key", key=key
        ): Count(times=times, undone=0, first="", last="")
        for day, name, command_id, key, times in (
            ("2026-10-09", "one", "Weave-|-F6", "F6", 5),
            ("2026-10-01", "two", "Thread-|-F8", "F8", 3),
            ("2026-10-02", "three", "Tie-|-F9", "F9", 7),
            ("2026-09-01", "one", "Weave-|-F6", "F6", 100),
        )
    }
    done = practice(use)
    assert (done.last, done.total) == ("2026-10-09", 15)
    found = sameness(purposes, map(keymap, apps), done)
    assert (found.same, found.of) == (5, 8)
    assert practice({}) == Practice()
    gives_up = Planned(
        purpose="thread", command="Thread-|-F8", what="adopted", dropped=(read_trigger("F8"),)
    )
    assert habits(keymap(apps[1]), gives_up, done) == 3


def test_purposes_put_together_lose_nothing() -> None:
    from olive_compass.core.sharing.purposes import joined_purposes

    one = Purpose(id="a", title="A", names=("b",), links={"x": ("p",)})
    two = Purpose(
        id="b", title="B", risk="irreversible", names=("c", "A"), links={"x": ("q",), "y": ("r",)}
    )
    made = joined_purposes(one, [two])
    assert (made.names, made.risk) == (("b", "B", "c"), "irreversible")
    assert made.links == {"x": ("p", "q"), "y": ("r",)}
    assert made.places == (("x", "p"), ("x", "q"), ("y", "r"))
