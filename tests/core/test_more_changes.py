"""The actions on macros, new versions and schemes taken over, as a second front end would drive them."""

from typing import Any

import pytest

from olive_compass.core.apps.app import Catalogue, Command
from olive_compass.core.changes.change import Answers, Change, MacroEdit
from olive_compass.core.changes.edit_macro import (
    NO_INPUT,
    NO_MACRO,
    NO_VALUE,
    PLAYS_ITSELF,
    STEP,
    WRONG_VALUE,
    Ask,
    DropSteps,
    EditMacro,
    FixInput,
    HeldBy,
    Insert,
    Join,
    MoveStep,
    NewStep,
    Note,
    PlayedBy,
    Remove,
    SplitMacro,
    Tidy,
    edit_macro,
)
from olive_compass.core.changes.take_over import TakeOver, take_over
from olive_compass.core.changes.upgrade import PutBack, TakeVersion, take_version, version_of
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.macros.macro import Macro, Step
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.core.schemes.layers import HOUSE, PERSONAL
from olive_compass.structs import replace
from tests.core.test_changes import BOARD, COMMANDS, Studio

PLACE = Command(id="place", title="Place", kind="part", inputs="at:point size:number")
LIGHT = Macro(
    app="app",
    name="light",
    title="Light",
    steps=(
        Step(command="place", inputs={"at": "1,2", "size": "3"}),
        Step(command="place", inputs={"at": "{step 1 at}", "size": "4"}),
        Step(command="save"),
    ),
)
OTHER = Macro(
    app="app",
    name="other",
    title="Other",
    steps=(Step(command="macro.light"), Step(command="proof")),
)


def on(*macros: Macro, scheme: Scheme | None = None) -> AppView:
    studio = Studio(mine=scheme or Scheme(app="app", name="mine", layer=PERSONAL))
    view = studio.view
    own = (PLACE, *(macro.command for macro in macros))
    app = replace(view.app, catalogue=Catalogue((*COMMANDS, *own)))
    stack = replace(view.stack, app=app)
    return AppView(stack, BOARD, macros={macro.name: macro for macro in macros})


def done(edit: Any, macro: Macro = LIGHT, *others: Macro) -> Change:
    return edit_macro(on(macro, *others), EditMacro(macro, edit))


def steps(change: Change, n: int = 0) -> list[tuple[str, dict[str, str], dict[str, str]]]:
    after = change.macros[n].after
    assert after is not None
    return [(each.command, dict(each.inputs), dict(each.ask)) for each in after.steps]


def test_steps_are_asked_fixed_moved_noted_and_put_in() -> None:
    asked = done(Ask(1, "size", "How large?"))
    assert steps(asked)[0] == ("place", {"at": "1,2"}, {"size": "How large?"})
    assert [(e.number, e.step.ask) for e in asked.effects if isinstance(e, NewStep)] == [
        (1, {"size": "How large?"})
    ]
    assert steps(done(FixInput(2, "at", "5,6")))[1][1] == {"at": "5,6", "size": "4"}
    meant = done(FixInput(1, "size")).macros[0].after
    assert meant is not None
    assert meant.steps[0].keep == ("size",)
    assert [step[0] for step in steps(done(MoveStep(3, 1)))] == ["save", "place", "place"]
    assert steps(done(DropSteps((1,))))[0] == ("place", {"at": "1,2", "size": "4"}, {})
    noted = done(Note(3, "as always")).macros[0].after
    assert noted is not None
    assert noted.steps[2].note == "as always"
    put = done(Insert(1, Step(command="place", inputs={"at": " 7, 8"}, ask={"size": ""})))
    assert steps(put)[0] == ("place", {"at": "7,8"}, {"size": ""})
    assert steps(put)[2][1]["at"] == "{step 2 at}", "what later steps take moves along"


@pytest.mark.parametrize(
    ("edit", "what"),
    [
        (Ask(9, "at"), STEP),
        (MoveStep(1, 3), STEP),
        (Ask(1, "colour"), NO_INPUT),
        (FixInput(1, "size", "large"), WRONG_VALUE),
        (FixInput(1, "nothing"), NO_VALUE),
        (Insert(1, Step(command="macro.none")), NO_MACRO),
        (Insert(1, Step(command="macro.light")), PLAYS_ITSELF),
        (Insert(1, Step(command="macro.other")), PLAYS_ITSELF),
        (SplitMacro(1, "tail", "Tail"), STEP),
    ],
)
def test_what_cannot_be_is_refused(edit: Any, what: str) -> None:
    change = done(edit, LIGHT, OTHER)
    assert [refusal.what for refusal in change.refusals] == [what]
    assert change.macros == ()


def test_macros_are_parted_joined_tidied_and_taken_away() -> None:
    parted = done(SplitMacro(2, "tail", "Tail"))
    assert [(m.before, m.after and m.after.name) for m in parted.macros] == [
        (LIGHT, "light"),
        (None, "tail"),
    ]
    assert steps(parted, 1)[0] == ("place", {"at": "1,2", "size": "4"}, {})
    joined = done(Join(Macro(app="app", name="more", title="More", steps=(Step(command="proof"),))))
    assert [step[0] for step in steps(joined)] == ["place", "place", "save", "proof"]
    tidied = done(Tidy())
    assert [question.what for question in tidied.questions] == ["sure"]
    assert "at" in steps(tidied)[0][2], "a point of one document is asked for"
    sure = edit_macro(on(LIGHT), EditMacro(LIGHT, Tidy(), Answers(sure=True)))
    assert (sure.questions, sure.macros) == ((), tidied.macros)
    assert done(
        Tidy(), Macro(app="app", name="plain", title="Plain", steps=(Step(command="save"),))
    ).already
    mine = Scheme(
        app="app",
        name="mine",
        layer=PERSONAL,
        assign={"macro.light": (Assignment(keys=(key("F2"),)),)},
    )
    gone = edit_macro(on(LIGHT, OTHER, scheme=mine), EditMacro(LIGHT, Remove()))
    assert gone.effects == (PlayedBy("Other"), HeldBy("mine", (key("F2"),)))
    assert gone.macros == (MacroEdit(LIGHT, None),)


def newer(**keys: str) -> Catalogue:
    return Catalogue(
        tuple(
            replace(c, keys=(key(keys[c.id]),) if keys.get(c.id) else c.keys, modes=())
            for c in COMMANDS
        )
    )


def test_a_new_version_is_taken_with_what_stands_on_it() -> None:
    studio = Studio(mine=Scheme(app="app", name="mine", layer=PERSONAL, based_on="factory 1"))
    change = take_version(studio.view, TakeVersion(listed=newer(proof="F7"), version="2"))
    assert [question.what for question in change.questions] == ["sure"]
    old, new = change.apps[0].before, change.apps[0].after
    assert (old.version, new.version) == ("1", "2")
    assert new.catalogue.by_id["path"].modes == ("draw",), "what the listing leaves out stays"
    assert [(e.before.based_on, e.after.based_on) for e in change.edits if e.before != e.after] == [
        ("factory 1", "factory 2")
    ]
    assert [m.what for m in version_of(change).matches if m.what] == [("keys moved",)]
    forgot = take_version(studio.view, TakeVersion(listed=newer(), version="2", forget=("modes",)))
    assert forgot.apps[0].after.catalogue.by_id["path"].modes == ()
    same = TakeVersion(listed=Catalogue(COMMANDS), answers=Answers(sure=True))
    assert take_version(studio.view, same).already


def test_old_keys_are_put_back_and_guards_are_asked_about() -> None:
    studio = Studio()
    request = TakeVersion(listed=newer(proof="F7"), version="2", keep_in=studio.mine)
    change = take_version(studio.view, request)
    assert [e for e in change.effects if isinstance(e, PutBack)] == [PutBack("mine", 1)]
    (kept,) = (e.after for e in change.edits if e.after.name == "mine")
    assert [str(k) for k in kept.assign["proof"][0].keys] == ["F9"]
    guarded = Studio(
        house=Scheme(app="app", name="house", layer=HOUSE, guard={key("F9"): Decision(why="ours")})
    )
    taken = newer(proof="F7", burn="F9")
    change = take_version(
        guarded.view, TakeVersion(listed=taken, version="2", keep_in=guarded.mine)
    )
    assert [question.what for question in change.questions] == ["guard", "sure"]
    despite = Answers(despite=frozenset(["guard"]), sure=True)
    request = TakeVersion(listed=taken, version="2", keep_in=guarded.mine, answers=despite)
    assert take_version(guarded.view, request).questions == ()


def test_schemes_that_are_taken_over_count_as_they_did_but_never_twice() -> None:
    mine, yours, spare = (
        Scheme(app="app", name=name, layer=PERSONAL) for name in ("mine", "yours", "spare")
    )
    house = Scheme(app="app", name="house", layer=HOUSE)

    def order(here: tuple[str, ...], there: tuple[str, ...], *new: str) -> tuple[str, ...]:
        request = TakeOver(
            app="app", schemes=(house, mine, spare, yours), here=here, there=there, new=new
        )
        (stack,) = take_over(request).stacks
        assert stack.app == "app"
        return stack.names

    assert order((), ("house", "yours"), "house", "yours", "spare") == ("yours", "house")
    assert order(("mine",), ("yours", "house"), "yours", "house") == ("mine", "house")
    assert order(("mine", "house"), ("yours",), "yours") == ("mine", "house")
    assert order(("gone", "mine"), ("mine",), "spare") == ("mine",)
    assert isinstance(on(LIGHT).stack, Stack)
