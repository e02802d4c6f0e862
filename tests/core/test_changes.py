"""Every action as a second front end would drive it: a request and a view in, a change out."""

from dataclasses import dataclass, field

import pytest

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.marks import read_marks
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.changes.accept import NONE, NOT_ACCEPTED, SEVERAL, Accept, accept
from olive_compass.core.changes.apply_set import ApplySet, apply_set
from olive_compass.core.changes.assign import NO_SHARING, Assign, assign
from olive_compass.core.changes.change import Answers, Change, Loss, Shift, StillHas, Without
from olive_compass.core.changes.choice import STRANGER, Choice, Offers, choice
from olive_compass.core.changes.clear import BOTH, FROM_BELOW, NOTHING, Clear, clear
from olive_compass.core.changes.copy_rose import NO_BEARING, Copied, CopyRose, copy_rose
from olive_compass.core.changes.fix import Fix
from olive_compass.core.changes.guard import Guard, guard
from olive_compass.core.changes.keyless import Keyless, keyless
from olive_compass.core.changes.modes import NO_SUCH_KEY, OTHER_WAY, Counts, Modes, modes
from olive_compass.core.changes.mute import CANNOT, FIRM, Mute, ShowsThrough, mute
from olive_compass.core.changes.repair import Repair, repair
from olive_compass.core.changes.reset import ITSELF, Reset, reset
from olive_compass.core.changes.view import AppView
from olive_compass.core.findings import all_findings
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.core.schemes.layers import HOUSE, PERSONAL
from olive_compass.core.schemes.resetting import Part
from olive_compass.core.schemes.verdicts import Verdict
from olive_compass.core.sharing.keysets import Entry, KeySet
from olive_compass.core.sharing.planned import ADOPTED, Planned
from olive_compass.core.sharing.purposes import Purpose, Purposes
from olive_compass.desk.keyboards import load
from olive_compass.structs import replace

BOARD = load("", "pc", "ansi-104", "us")
ROOT, DRAW, LABEL = "everywhere", "draw", "label"
HOUSE_SCHEME, MY_SCHEME = (
    Scheme(app="app", name="house", layer=HOUSE),
    Scheme(app="app", name="mine", layer=PERSONAL),
)
UNASKED = Answers()
SURE = Answers("replace", frozenset({"guard", "keyless", "typing", "keyboard"}), True)

COMMANDS = (
    Command(id="save", title="Save", menu=("File",), keys=(key("Ctrl+S"),)),
    Command(id="path", title="Path", menu=("Draw",), keys=(key("P"),), modes=(DRAW,)),
    Command(id="proof", title="Proof", menu=("File",), keys=(key("F9"),)),
    Command(
        id="burn",
        title="Burn plates",
        menu=(),
        keys=(key("F8"),),
        modes=(),
        marks=read_marks(["irreversible"]),
    ),
    Command(
        id="turn", title="Turn", menu=("Edit",), keys=(key("R"), key("swipe:N")), modes=(DRAW,)
    ),
    Command(id="spare", title="Spare", menu=(), keys=(), modes=(), marks=read_marks(["never"])),
    Command(id="erase", title="Erase", menu=("Edit",)),
)


@dataclass
class Studio:
    """A desk with one application, and the schemes that are changed on it."""

    rules: Rules = field(default_factory=lambda: Rules(duplicates="choice", swipes={DRAW: 4}))
    house: Scheme = HOUSE_SCHEME
    mine: Scheme = MY_SCHEME

    @property
    def view(self) -> AppView:
        tree = ModeTree({DRAW: ROOT, LABEL: ROOT, "vertex": DRAW})
        app = App(
            name="app",
            title="App",
            version="1",
            modes=tree,
            rules=self.rules,
            catalogue=Catalogue(COMMANDS),
        )
        return AppView(Stack(app, (self.mine, self.house)), BOARD)

    def command(self, id_: str) -> Command:
        return self.view.app.catalogue.by_id[id_]

    def assign(self, id_: str, text: str, *where: str, answers: Answers = UNASKED) -> Change:
        request = Assign(
            command=self.command(id_),
            trigger=key(text),
            modes=where or (ROOT,),
            scheme=self.mine,
            answers=answers,
        )
        return assign(self.view, request)

    def does(self, change: Change, text: str, mode: str = ROOT) -> list[str]:
        """What a press starts once a change is made."""
        stack = self.view.stack
        for edit in change.edits:
            stack = stack.with_scheme(edit.after)
        outcome = AppView(stack, BOARD).keymap.decide(key(text), mode)
        return [claim.command for claim in outcome.winners]


def given(**keys: str) -> dict[str, tuple[Assignment, ...]]:
    return {id_: (Assignment(keys=(key(text),)),) for id_, text in keys.items()}


def kinds(change: Change) -> list[str]:
    return [type(effect).__name__ for effect in change.effects]


@pytest.fixture
def studio() -> Studio:
    return Studio()


def test_a_free_key_is_given_without_a_question(studio: Studio) -> None:
    change = studio.assign("erase", "F7")
    assert (change.refusals, change.questions, change.already) == ((), (), False)
    assert studio.does(change, "F7") == ["erase"]
    (found,) = change.effects
    assert isinstance(found, Verdict)
    assert found.clean
    (edit,) = change.edits
    studio.mine = edit.after
    assert studio.assign("erase", "F7").already


def test_a_key_that_is_held_is_asked_about_and_shared_only_where_there_is_a_choice(
    studio: Studio,
) -> None:
    asked = studio.assign("erase", "F9")
    assert [(q.what, q.options) for q in asked.questions] == [("taken", ("replace", "share"))]
    replaced = studio.assign("erase", "F9", answers=Answers("replace"))
    assert studio.does(replaced, "F9") == ["erase"]
    (found,) = replaced.effects
    assert isinstance(found, Verdict)
    assert [(loss.command, loss.left) for loss in found.lost] == [("proof", ())]
    shared = studio.assign("erase", "F9", answers=Answers("share"))
    assert sorted(studio.does(shared, "F9")) == ["erase", "proof"]
    studio.rules = replace(studio.rules, duplicates="replace")
    refused = studio.assign("erase", "F9", answers=Answers("share"))
    assert [r.what for r in refused.refusals] == [NO_SHARING]


def test_what_the_rules_forbid_is_refused_and_what_is_meant_is_asked(studio: Studio) -> None:
    studio.rules = Rules(modifiers=("Ctrl",), plain_keys="named", text_modes=(LABEL,))
    assert [r.what for r in studio.assign("erase", "Alt+E", answers=SURE).refusals] == ["rules"]
    assert [r.what for r in studio.assign("erase", "E", answers=SURE).refusals] == ["rules"]
    studio.rules = Rules(text_modes=(LABEL,), reserved={key("F10"): "opens the menu bar"})
    assert [r.what for r in studio.assign("erase", "F10", answers=SURE).refusals] == ["locked"]
    assert [q.what for q in studio.assign("erase", "E").questions] == ["typing"]
    assert studio.assign("erase", "E", DRAW).questions == ()
    studio.mine = replace(studio.mine, keyless={"erase": Decision(why="too easy")})
    assert [q.what for q in studio.assign("erase", "F7").questions] == ["keyless"]
    lifted = studio.assign("erase", "F7", answers=Answers(despite=frozenset({"keyless"})))
    assert "erase" not in lifted.edits[0].after.keyless


def test_an_assignment_instead_takes_the_keys_elsewhere_along(studio: Studio) -> None:
    request = Assign(
        command=studio.command("proof"),
        trigger=key("F7"),
        modes=(ROOT,),
        scheme=studio.mine,
        instead=True,
    )
    change = assign(studio.view, request)
    assert (studio.does(change, "F7"), studio.does(change, "F9")) == (["proof"], [])
    studio.rules = replace(studio.rules, most_keys=1)
    studio.mine = replace(studio.mine, assign=given(proof="F6"))
    assert [r.what for r in studio.assign("proof", "F7").refusals] == ["too-many"]
    other = assign(studio.view, replace(request, scheme=studio.mine))
    assert (studio.does(other, "F7"), studio.does(other, "F6")) == (["proof"], [])


def test_clearing_says_what_shows_through_and_who_is_left_without(studio: Studio) -> None:
    studio.mine = replace(studio.mine, assign=given(erase="F9"))
    change = clear(studio.view, Clear(scheme=studio.mine, command="erase"))
    assert studio.does(change, "F9") == ["proof"]
    assert kinds(change) == ["Shift", "Without"]
    assert change.effects[1] == Without("erase", "Edit > Erase")
    by_key = clear(studio.view, Clear(scheme=studio.mine, trigger=key("F9")))
    assert by_key.edits == change.edits
    below = clear(studio.view, Clear(scheme=studio.mine, command="proof"))
    assert [r.what for r in below.refusals] == [FROM_BELOW]
    assert [
        r.what for r in clear(studio.view, Clear(scheme=studio.mine, command="spare")).refusals
    ] == [NOTHING]
    studio.mine = replace(studio.mine, assign=given(erase="F9", save="F7"))
    unclear = clear(studio.view, Clear(scheme=studio.mine, command="save", trigger=key("F9")))
    assert [r.what for r in unclear.refusals] == [BOTH]
    nothing = clear(
        studio.view, Clear(scheme=studio.mine, command="save", trigger=key("F9"), both=True)
    )
    assert [r.what for r in nothing.refusals] == [NOTHING]


def test_bare_takes_what_lies_below_and_tells_what_does_not_go(studio: Studio) -> None:
    change = keyless(
        studio.view,
        Keyless(command=studio.command("proof"), scheme=studio.mine, why="by hand only"),
    )
    assert studio.does(change, "F9") == []
    assert change.edits[0].after.keyless["proof"].why == "by hand only"
    only = keyless(
        studio.view,
        Keyless(command=studio.command("proof"), scheme=studio.mine, why="x", modes=(LABEL,)),
    )
    assert (studio.does(only, "F9", LABEL), studio.does(only, "F9", DRAW)) == ([], ["proof"])
    studio.mine = replace(studio.mine, assign=given(proof="F7"))
    still = keyless(
        studio.view, Keyless(command=studio.command("proof"), scheme=studio.house, why="x")
    )
    assert StillHas("proof", (key("F7"),)) in still.effects


def test_a_mute_silences_the_key_or_says_which_tricks_there_are(studio: Studio) -> None:
    change = mute(
        studio.view,
        Mute(trigger=key("F8"), modes=(ROOT,), scheme=studio.mine, why="it costs a plate"),
    )
    assert studio.does(change, "F8") == [""]
    assert any(isinstance(e, Loss) and e.command == "burn" for e in change.effects)
    studio.rules = replace(studio.rules, can_mute=False)
    request = Mute(trigger=key("F8"), modes=(ROOT,), scheme=studio.mine, why="x")
    (refusal,) = mute(studio.view, request).refusals
    assert refusal.what == CANNOT
    never = mute(studio.view, replace(request, by="never"))
    assert never.edits[0].after.mute[key("F8")].never == "spare"
    away = mute(studio.view, replace(request, by="away"))
    far = away.edits[0].after.mute[key("F8")].away
    assert far is not None
    assert studio.does(away, str(far)) == []
    studio.rules = Rules(reserved={key("F8"): "x"}, unlisted={key("F7"): "opens a log"})
    assert [r.what for r in mute(studio.view, request).refusals] == [FIRM]
    studio.rules = replace(studio.rules, can_mute=False)
    studio.mine = replace(studio.mine, assign=given(erase="F7"))
    shown = mute(
        studio.view, Mute(trigger=key("F7"), modes=(ROOT,), scheme=studio.mine, why="x", by="away")
    )
    assert any(isinstance(effect, ShowsThrough) for effect in shown.effects)


def test_a_guard_is_asked_about_by_every_action_that_breaks_it(studio: Studio) -> None:
    kept = guard(
        studio.view,
        Guard(trigger=key("F9"), modes=(ROOT,), scheme=studio.house, why="all expect it"),
    )
    studio.house = kept.edits[0].after
    assert studio.house.guard[key("F9")].keeps == "proof"
    view, mine = studio.view, studio.mine
    keyset = KeySet("set", "Set", {"wipe": Entry((key("F9"),))})
    purposes = Purposes([Purpose(id="wipe", title="Wipe", links={"app": ("erase",)})])
    broken = [
        studio.assign("erase", "F9", answers=Answers("replace")),
        keyless(view, Keyless(command=studio.command("proof"), scheme=mine, why="x")),
        mute(view, Mute(trigger=key("F9"), modes=(ROOT,), scheme=mine, why="x")),
    ]
    assert [[q.what for q in change.questions] for change in broken] == [["guard"]] * 3
    # A set does not ask: it leaves the purpose as it is, and says why.
    applied = apply_set(
        view, ApplySet(keyset=keyset, purposes=purposes, scheme=mine, answers=Answers(sure=True))
    )
    assert (applied.already, studio.does(applied, "F9")) == (True, ["proof"])
    studio.mine = replace(
        mine,
        assign={"proof": (Assignment(keys=(key("F9"),), modes=(ROOT,)),)},
        keyless={"save": Decision(why="x")},
    )
    studio.house = replace(studio.house, keyless={"proof": Decision(why="x")})
    assert studio.does(Change(), "F9") == ["proof"]
    cleared = clear(studio.view, Clear(scheme=studio.mine, command="proof"))
    assert [q.what for q in cleared.questions] == ["guard"]
    whole = reset(studio.view, Reset(part=Part(), scheme=studio.mine))
    assert [q.what for q in whole.questions] == ["guard", "sure"]
    meant = clear(studio.view, Clear(scheme=studio.mine, command="proof", answers=SURE))
    assert meant.questions == ()


def test_a_guard_that_is_broken_already_may_not_be_broken_further(studio: Studio) -> None:
    studio.house = replace(
        studio.house,
        guard={key("F9"): Decision(why="x", modes=(ROOT,), keeps="proof")},
        mute={key("F9"): Decision(why="y")},
    )
    assert [q.what for q in studio.assign("erase", "F9").questions] == ["guard", "taken"]
    back = studio.assign("proof", "F9", answers=Answers("replace"))
    assert back.questions == ()


def test_keys_count_in_fewer_modes_or_in_more(studio: Studio) -> None:
    studio.mine = replace(studio.mine, assign=given(path="F7"))
    narrow = modes(
        studio.view, Modes(command=studio.command("path"), scheme=studio.mine, wider=False)
    )
    assert Counts((key("F7"),), (DRAW,)) in narrow.effects
    assert (studio.does(narrow, "F7", DRAW), studio.does(narrow, "F7", LABEL)) == (["path"], [])
    studio.mine = narrow.edits[0].after
    wide = modes(
        studio.view,
        Modes(command=studio.command("path"), scheme=studio.mine, wider=True, modes=(LABEL,)),
    )
    assert studio.does(wide, "F7", LABEL) == ["path"]
    wrong = modes(
        studio.view,
        Modes(command=studio.command("path"), scheme=studio.mine, wider=False, modes=(LABEL,)),
    )
    assert [r.what for r in wrong.refusals] == [OTHER_WAY]
    none = modes(
        studio.view,
        Modes(command=studio.command("erase"), scheme=studio.mine, wider=False, modes=(DRAW,)),
    )
    assert [r.what for r in none.refusals] == [NO_SUCH_KEY]
    studio.rules = replace(studio.rules, text_modes=(LABEL,))
    studio.mine = replace(
        studio.mine, assign={"path": (Assignment(keys=(key("G"),), modes=(DRAW,)),)}
    )
    typed = modes(
        studio.view,
        Modes(command=studio.command("path"), scheme=studio.mine, wider=True, modes=(LABEL,)),
    )
    assert [q.what for q in typed.questions] == ["typing"]


def test_a_choice_is_put_in_order_and_a_finding_accepted(studio: Studio) -> None:
    studio.mine = replace(studio.mine, assign=given(erase="F9", save="F9"))
    change = choice(studio.view, Choice(trigger=key("F9"), commands=("save",), scheme=studio.mine))
    assert change.effects == (Offers(key("F9"), ("save", "erase")),)
    assert studio.does(change, "F9") == ["save", "erase"]
    strange = choice(studio.view, Choice(trigger=key("F9"), commands=("path",), scheme=studio.mine))
    assert [r.what for r in strange.refusals] == [STRANGER]
    one = accept(
        studio.view, Accept(subjects=("slip F8",), named="slip", scheme=studio.mine, why="we know")
    )
    studio.mine = one.edits[0].after
    assert studio.mine.accept["slip F8"].why == "we know"
    several = accept(
        studio.view,
        Accept(subjects=("slip F8", "slip F7"), named="slip", scheme=studio.mine, why="x"),
    )
    none = accept(studio.view, Accept(subjects=(), named="slip", scheme=studio.mine, why="x"))
    assert [c.refusals[0].what for c in (several, none)] == [SEVERAL, NONE]
    no_more = accept(
        studio.view, Accept(subjects=("slip F8",), named="slip F8", scheme=studio.mine)
    )
    assert no_more.edits[0].after.accept == {}
    again = accept(studio.view, Accept(subjects=(), named="other", scheme=studio.mine))
    assert [r.what for r in again.refusals] == [NOT_ACCEPTED]


def test_a_part_is_put_back_and_all_of_it_only_when_it_is_meant(studio: Studio) -> None:
    studio.mine = replace(
        studio.mine, assign=given(erase="F9", save="F7"), mute={key("F8"): Decision(why="x")}
    )
    one = reset(studio.view, Reset(part=Part(command="erase"), scheme=studio.mine))
    assert (one.questions, studio.does(one, "F9")) == ((), ["proof"])
    by_key = reset(studio.view, Reset(part=Part(trigger=key("F8")), scheme=studio.mine))
    assert studio.does(by_key, "F8") == ["burn"]
    whole = reset(studio.view, Reset(part=Part(), scheme=studio.mine))
    assert [(q.what, q.about) for q in whole.questions] == [("sure", 3)]
    sure = reset(studio.view, Reset(part=Part(), scheme=studio.mine, answers=Answers(sure=True)))
    assert sure.edits[0].after.decisions == 0
    assert any(isinstance(effect, Shift) for effect in sure.effects)
    itself = reset(studio.view, Reset(part=Part(), scheme=studio.mine, to=studio.mine))
    assert [r.what for r in itself.refusals] == [ITSELF]


def test_a_rose_is_copied_and_what_is_taken_is_asked_about(studio: Studio) -> None:
    studio.rules = replace(studio.rules, swipes={DRAW: 4, LABEL: 4})
    plain = copy_rose(studio.view, CopyRose(origin=DRAW, goal=LABEL, scheme=studio.mine))
    assert (plain.questions, studio.does(plain, "swipe:N", LABEL)) == ((), ["turn"])
    assert [e.had for e in plain.effects if isinstance(e, Copied)] == [""]
    studio.mine = replace(
        studio.mine, assign={"erase": (Assignment(keys=(key("swipe:N"),), modes=(LABEL,)),)}
    )
    asked = copy_rose(studio.view, CopyRose(origin=DRAW, goal=LABEL, scheme=studio.mine))
    assert [q.what for q in asked.questions] == ["taken"]
    request = CopyRose(origin=DRAW, goal=LABEL, scheme=studio.mine, answers=Answers("replace"))
    assert studio.does(copy_rose(studio.view, request), "swipe:N", LABEL) == ["turn"]
    studio.rules = replace(studio.rules, swipes={DRAW: 8, LABEL: 4})
    studio.mine = Scheme(
        app="app",
        name="mine",
        layer=PERSONAL,
        assign={"erase": (Assignment(keys=(key("swipe:NE"),), modes=(DRAW,)),)},
    )
    no_place = copy_rose(
        studio.view, CopyRose(origin=DRAW, goal=LABEL, scheme=studio.mine, bearing=45)
    )
    assert [r.what for r in no_place.refusals] == [NO_BEARING]


def test_a_set_is_applied_when_it_is_meant(studio: Studio) -> None:
    keyset = KeySet(
        "set", "Set", {"wipe": Entry((key("Main+E"),)), "keep": Entry((key("Main+S"),))}
    )
    purposes = Purposes(
        [
            Purpose(id="wipe", title="Wipe", links={"app": ("erase",)}),
            Purpose(id="keep", title="Keep", links={"app": ("save",)}),
        ]
    )
    asked = apply_set(studio.view, ApplySet(keyset=keyset, purposes=purposes, scheme=studio.mine))
    assert [q.what for q in asked.questions] == ["sure"]
    change = apply_set(
        studio.view,
        ApplySet(keyset=keyset, purposes=purposes, scheme=studio.mine, answers=Answers(sure=True)),
    )
    assert studio.does(change, "Ctrl+E") == ["erase"]
    adopted = [e for e in change.effects if isinstance(e, Planned) and e.what == ADOPTED]
    assert [each.command for each in adopted] == ["erase"]
    studio.mine = change.edits[0].after
    assert apply_set(
        studio.view, ApplySet(keyset=keyset, purposes=purposes, scheme=studio.mine)
    ).already


def test_the_safe_repairs_are_made_when_they_are_meant(studio: Studio) -> None:
    studio.mine = replace(studio.mine, assign=given(path="F7"))
    fixes = tuple(f.fix for f in all_findings(studio.view) if f.fix is not None)
    assert fixes == (Fix(scheme="mine", command="path", key="F7", modes=(DRAW,)),)
    assert [q.what for q in repair(studio.view, Repair(fixes)).questions] == ["sure"]
    change = repair(studio.view, Repair(fixes, Answers(sure=True)))
    studio.mine = change.edits[0].after
    assert not [f for f in all_findings(studio.view) if f.fix is not None]
    # Where nothing is to be repaired, nothing is asked.
    assert repair(studio.view, Repair(())).questions == ()
