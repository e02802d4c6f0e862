"""Each finding has an example that triggers it, and one beside it that does not."""

from pathlib import Path
from typing import Any

import pytest
from hypothesis import given

from olive_compass.core.actions import AcceptFinding, Action, AskInput, ClearKeys, LimitModes
from olive_compass.core.apps.app import App, Catalogue, Command, UnreadableKey
from olive_compass.core.apps.marks import read_marks
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.changes.view import AppView
from olive_compass.core.findings import SEVERITIES, View, all_findings, kinds
from olive_compass.core.findings.advice import modes_of
from olive_compass.core.findings.finding import Finding, step_place
from olive_compass.core.keys.devices import Device
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.reading import read_trigger as key
from olive_compass.core.macros.macro import Macro, Step
from olive_compass.core.schemes.claims import Claim, Does, Stack
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme, Unreadable
from olive_compass.core.schemes.layers import HOUSE, PERSONAL, PROJECT
from olive_compass.core.sharing.cross_app import Across
from olive_compass.core.sharing.purposes import Purpose, Purposes
from olive_compass.desk.keyboards import load
from olive_compass.structs import replace
from tests.core.worlds import views

TRIM = Command(id="sheet.trim", title="Trim", menu=("Sheet",), keys=(key("F6"),))
SPLIT = Command(
    id="lines.split", title="Split", menu=("Lines",), keys=(key("S P"),), modes=("draw",)
)
SPLINE = Command(id="line.spline", title="Spline", menu=(), keys=(key("Q"),), modes=("draw",))
BURN = Command(id="plate.burn", title="Burn", menu=("Plates",))


def found(
    scheme: Scheme, *, duplicates: str = "replace", catalogue: Catalogue | None = None
) -> set[str]:
    catalogue = catalogue or Catalogue((TRIM, SPLIT, SPLINE, BURN))
    modes = ModeTree({"draw": "everywhere"})
    app = App(
        name="app",
        title="App",
        version="1",
        modes=modes,
        rules=Rules(duplicates=duplicates, longest_sequence=4, typed_sequences=True),
        catalogue=catalogue,
    )
    return {
        f"{f.id} {f.severity}" for f in all_findings(View(Stack(app, (scheme,)), Keyboard("pc")))
    }


def mine(**tables: object) -> Scheme:
    return Scheme(app="app", name="mine", **tables)  # type: ignore[arg-type]


def on(*keys: str, modes: tuple[str, ...] = ("everywhere",)) -> tuple[Assignment, ...]:
    return (Assignment(keys=tuple(map(key, keys)), modes=modes),)


def test_a_key_is_limited_to_modes_in_which_its_scheme_has_it_for_nothing_else() -> None:
    app = App(
        name="app",
        title="App",
        version="1",
        modes=ModeTree({"draw": "everywhere"}),
        rules=Rules(),
        catalogue=Catalogue((SPLINE, BURN)),
    )

    def advice(assign: dict[str, tuple[Assignment, ...]]) -> Action:
        every = all_findings(View(Stack(app, (mine(assign=assign),)), Keyboard("pc")))
        return next(each.advice for each in every if each.id == "wider-than-needed")

    wide = {"line.spline": on("F9")}
    limited = advice(wide)
    assert isinstance(limited, LimitModes)
    assert limited.modes == ("draw",)
    assert not isinstance(advice(wide | {"plate.burn": on("F9", modes=("draw",))}), LimitModes)


BARE_BURN = {"plate.burn": Decision(why="costs money")}


@pytest.mark.parametrize(
    ("finding", "bad", "good"),
    [
        (
            "same-press error",
            mine(assign={"sheet.trim": on("F9"), "lines.split": on("f9")}),
            mine(assign={"sheet.trim": on("F9"), "lines.split": on("F9", modes=("draw",))}),
        ),
        (
            "waits-for-sequence warning",
            mine(assign={"plate.burn": on("S")}),
            mine(assign={"plate.burn": on("B")}),
        ),
        (
            "unknown-command error",
            mine(assign={"sheet.trimm": on("F9")}),
            mine(assign={"sheet.trim": on("F9")}),
        ),
        (
            "lost-last-key warning",
            mine(assign={"plate.burn": on("F6")}),
            mine(assign={"plate.burn": on("F6"), "sheet.trim": on("F7")}),
        ),
        (
            "lost-last-key error",
            mine(assign={"plate.burn": on("Q")}),
            mine(mute={key("Q"): Decision(why="a mute is meant")}),
        ),
        (
            "unreadable-key error",
            mine(
                unreadable=(
                    Unreadable(table="assign", key="sheet.trim", text="Crtl+B", reason="no key"),
                )
            ),
            mine(),
        ),
        ("unassigned note", mine(), mine(keyless=BARE_BURN)),
    ],
)
def test_found_where_it_is_and_not_beside(finding: str, bad: Scheme, good: Scheme) -> None:
    assert finding in found(bad)
    assert finding not in found(good)


def test_a_shared_key_is_a_note_where_the_application_offers_a_choice() -> None:
    both = mine(assign={"sheet.trim": on("F9"), "lines.split": on("F9")})
    assert "same-press note" in found(both, duplicates="choice")
    assert "same-press error" in found(both, duplicates="refuse")


def test_unreadable_factory_keys_are_found() -> None:
    broken = Catalogue(
        (TRIM,), (UnreadableKey(command="sheet.trim", text="Crtl+B", reason="no key", line=3),)
    )
    assert "unreadable-key error" in found(mine(), catalogue=broken)


@pytest.mark.parametrize(("other", "action"), [("L", AcceptFinding), ("M", ClearKeys)])
def test_a_key_is_not_taken_out_where_sequences_of_the_command_would_make_others_wait(
    other: str, action: type
) -> None:
    gone = Command(
        id="gone", title="Gone", menu=(), keys=(key("L P"),), marks=read_marks({"withdrawn"})
    )
    beside = Command(id="beside", title="Beside", menu=(), keys=(key(other),))
    (found,) = (
        each
        for each in findings(one("gone", "F9"), commands=(gone, beside))
        if each.id == "not-available"
    )
    assert isinstance(found.advice, action)


def test_every_finding_explains_itself() -> None:
    for id_, module in kinds().items():
        assert id_ == module.ID == module.__name__.rpartition(".")[2].replace("_", "-")
        assert module.SEVERITY in SEVERITIES
        assert module.SAYS.endswith(".")
        assert module.ADVICE.endswith(".")


LASTING = read_marks({"irreversible"})
OFTEN = read_marks({"often"})
MODES = ModeTree({"draw": "everywhere", "label": "everywhere"})
LIST = (
    Command(id="save", title="Save", menu=("File",), keys=(key("F5"),), marks=OFTEN),
    Command(id="line", title="Line", menu=("Draw",), keys=(key("L"),), modes=("draw",)),
    Command(id="caps", title="Capitals", menu=("Text",), keys=(key("Ctrl+K"),), modes=("label",)),
    Command(id="burn", title="Burn", menu=("Plates",), keys=(), marks=LASTING),
    Command(id="old", title="Old", menu=("Help",), keys=(), marks=read_marks({"withdrawn"})),
    Command(id="sky", title="Sky", menu=("Help",), keys=(), marks=read_marks({"needs:sky"})),
    Command(id="view", title="View 1", menu=("View",), keys=(), modes=(), kind="slot"),
)
RULES = Rules(
    duplicates="replace",
    longest_sequence=3,
    typed_sequences=True,
    swipes={"draw": 4},
    most_keys=2,
    modifiers=("Ctrl", "Alt", "Shift"),
    text_modes=("label",),
    reserved={key("F10"): "menu"},
    slots={"view": "Harbour"},
    takes=("hold", "mouse", "device"),
)
GUARD = Scheme(
    app="app", name="house", layer=HOUSE, guard={key("F5"): Decision(why="all expect it")}
)
PAD = Device(name="pad", title="Pad", rows=(("K1", "K2"),))
GERMAN = load("", "pc", "iso-laptop", "german", {"pad": PAD})


def findings(
    *schemes: Scheme,
    commands: tuple[Command, ...] = LIST,
    rules: Rules = RULES,
    keyboard: Keyboard = GERMAN,
) -> list[Finding]:
    app = App(
        name="app",
        title="App",
        version="1",
        modes=MODES,
        rules=rules,
        catalogue=Catalogue(commands),
    )
    stack = Stack(app, schemes, {key("Alt+Tab"): "next window"})
    return list(all_findings(View(stack, keyboard)))


def ids(*schemes: Scheme, **about: Any) -> set[str]:
    return {finding.id for finding in findings(*schemes, **about)}


def one(command: str, *keys: str, modes: tuple[str, ...] = ("everywhere",)) -> Scheme:
    return mine(assign={command: on(*keys, modes=modes)})


@pytest.mark.parametrize(
    ("finding", "bad", "good"),
    [
        ("reserved-key", one("save", "F10"), one("save", "F9")),
        ("press-and-hold", one("save", "hold:L"), one("save", "hold:M")),
        ("not-on-keyboard", one("save", "pad:K9"), one("save", "pad:K1")),
        ("against-rules", one("save", "tap:Alt"), one("save", "mouse:4")),
        ("reserved-key", one("save", "Alt+Tab"), one("save", "Alt+Shift+Tab")),
        ("wider-than-needed", one("line", "Q"), one("line", "Q", modes=("draw",))),
        (
            "blocks-typing",
            one("caps", "Q", modes=("label",)),
            one("caps", "Ctrl+Q", modes=("label",)),
        ),
        ("not-available", one("old", "F9"), one("view", "F9")),
        ("not-available", one("sky", "F9"), one("burn", "F9")),
        ("against-rules", one("save", "Meta+K"), one("save", "Ctrl+J")),
        ("against-rules", one("save", "F7", "F8", "F9"), one("save", "F7")),
        ("overrides-lower", one("save", "Ctrl+K"), one("save", "Ctrl+J")),
        ("slip", one("burn", "F6"), one("burn", "F9")),
        ("irreversible-on-habit-key", one("burn", "Escape"), one("burn", "F9")),
        (
            "slot-moved",
            mine(assign={"view": (Assignment(keys=(key("F9"),), slot="Quay"),)}),
            mine(assign={"view": (Assignment(keys=(key("F9"),), slot="Harbour"),)}),
        ),
        (
            "modes-differ",
            mine(assign={"save": on("F7", modes=("draw",)) + on("F8", modes=("label",))}),
            mine(assign={"save": on("F7", modes=("draw",)) + on("F7", "F8", modes=("label",))}),
        ),
        ("not-on-keyboard", one("save", "Num5"), one("save", "F7")),
        ("behind-altgr", one("save", "Ctrl+["), one("save", "Ctrl+ü")),
        ("blocks-character", one("save", "Ctrl+Alt+Q"), one("save", "Ctrl+Shift+A")),
        ("hard-to-press", one("save", "Ctrl+Alt+Shift+P"), one("save", "Ctrl+P")),
        (
            "no-such-direction",
            one("line", "swipe:NE", modes=("draw",)),
            one("line", "swipe:N", modes=("draw",)),
        ),
        (
            "sequence-too-long",
            one("line", "A B C D", modes=("draw",)),
            one("line", "A B C", modes=("draw",)),
        ),
        (
            "same-keys",
            mine(assign={"save": on("Ctrl+="), "burn": on("Ctrl+Shift+0")}),
            mine(assign={"save": on("Ctrl+="), "burn": on("Ctrl+0")}),
        ),
    ],
)
def test_findings_of_rules_and_keyboards(finding: str, bad: Scheme, good: Scheme) -> None:
    assert finding in ids(bad)
    assert finding not in ids(good)


def test_keys_that_are_one_press_are_no_news_to_who_put_them_in_order() -> None:
    shared = {"save": on("Ctrl+="), "burn": on("Ctrl+Shift+0")}
    order = {key("Ctrl+="): ("save", "burn")}
    offered = replace(RULES, duplicates="choice")
    assert "same-keys" in ids(mine(assign=shared), rules=offered)
    assert "same-keys" not in ids(mine(assign=shared, order=order), rules=offered)
    assert "same-keys" in ids(mine(assign=shared, order=order))


def test_a_guard_is_broken_by_a_nearer_scheme_only() -> None:
    assert "guarded-key" in ids(one("burn", "F5"), GUARD)
    assert "guarded-key" not in ids(one("burn", "F6"), GUARD)
    assert "guarded-key" not in ids(one("save", "F5"), GUARD)
    assert "guarded-key" not in ids(GUARD)


@given(views())
def test_what_is_accepted_is_named_by_the_first_thing_that_a_finding_is_about(
    view: AppView,
) -> None:
    for finding in all_findings(view):
        if isinstance(finding.advice, AcceptFinding):
            about = next(filter(None, (*finding.commands, *finding.keys)))
            assert finding.advice.about == about


def test_of_commands_with_one_title_the_first_stands_for_all() -> None:
    twins = tuple(Command(id=id_, title="Zoom", menu=("View",)) for id_ in ("first", "second"))
    (found_,) = (each for each in findings(mine(), commands=twins) if each.id == "same-title")
    assert isinstance(found_.advice, AcceptFinding)
    assert (found_.advice.about, found_.commands) == ("first", ("first", "second"))


def test_twins_and_access_letters() -> None:
    zoom = Command(id="a", title="Zoom", menu=("View",), access=("V", "Z"))
    assert "same-title" in ids(commands=(zoom, Command(id="b", title="Zoom")))
    assert "same-title" not in ids(commands=(zoom, Command(id="b", title="Zoom out")))
    assert "access-letters" in ids(
        commands=(zoom, Command(id="b", title="Zap", menu=("View",), access=("V", "Z")))
    )
    other_menu = Command(id="b", title="Zap", menu=("Edit",), access=("E", "Z"))
    assert "access-letters" not in ids(commands=(zoom, other_menu))


def of_macros(*macros: Macro, pressed: str = "") -> set[str]:
    """The findings on macros, by their ids: ``macro.a`` has a key where ``pressed`` names one."""
    return {finding.id for finding in found_in_macros(*macros, pressed=pressed)}


def found_in_macros(*macros: Macro, pressed: str = "") -> list[Finding]:
    commands = (*LIST, PART, *(each.command for each in macros))
    app = App(
        name="app",
        title="App",
        version="1",
        modes=MODES,
        rules=RULES,
        catalogue=Catalogue(commands),
    )
    scheme = mine(assign={"macro.a": on(pressed)} if pressed else {})
    stack = Stack(app, (scheme,))
    view = View(stack, GERMAN, macros={each.name: each for each in macros})
    return list(all_findings(view))


PART = Command(id="part", title="Part", kind="part", inputs="at:point height:number")


def steps(*each: Step, name: str = "a") -> Macro:
    return Macro(app="app", name=name, title=name, steps=each)


AT = Step(command="part", inputs={"height": "3"}, ask={"at": ""})


@pytest.mark.parametrize(
    ("finding", "bad", "good"),
    [
        ("fixed-value", steps(replace(AT, inputs={"at": "1,1", "height": "3"}, ask={})), steps(AT)),
        (
            "later-step",
            steps(Step(command="part", inputs={"at": "{step 2}", "height": "3"}), AT),
            steps(AT),
        ),
        ("input-never-asked", steps(replace(AT, ask={})), steps(AT)),
        ("macro-command", steps(Step(command="old")), steps(Step(command="save"))),
        ("macro-command", steps(Step(command="gone")), steps(Step(command="save"))),
        ("macro-command", steps(Step(command="gone")), steps(Step(command="", press="F8"))),
        ("macro-input", steps(replace(AT, inputs={"depth": "3"})), steps(AT)),
        ("macro-input", steps(replace(AT, inputs={"height": "high"})), steps(AT)),
        ("macro-loop", steps(Step(command="macro.a")), steps(Step(command="save"))),
        ("macro-loop", steps(Step(command="", press="F9")), steps(Step(command="", press="F8"))),
        ("irreversible-in-macro", steps(Step(command="burn")), steps(AT, Step(command="burn"))),
    ],
)
def test_findings_of_macros(finding: str, bad: Macro, good: Macro) -> None:
    assert finding in of_macros(bad, pressed="F9")
    assert finding not in of_macros(good, pressed="F9")


def test_a_finding_on_a_macro_names_its_step_in_words_place_and_advice() -> None:
    bad = steps(AT, replace(AT, inputs={"height": "high"}))
    (found,) = (each for each in found_in_macros(bad) if each.id == "macro-input")
    assert ", step 2: " in found.says
    assert isinstance(found.advice, AskInput)
    assert (found.advice.step, found.advice.input) == (2, "height")
    assert found.places == (step_place("a", 2),)


def test_macros_that_nobody_uses_or_that_are_alike() -> None:
    assert "unused-macro" in of_macros(steps(AT))
    assert "unused-macro" not in of_macros(steps(AT), pressed="F9")
    both = of_macros(steps(AT), steps(Step(command="macro.a"), name="b"), pressed="")
    assert "unused-macro" in both
    other = steps(replace(AT, inputs={"height": "4"}), name="b")
    assert "same-steps" in of_macros(steps(AT), other)
    assert "same-steps" not in of_macros(steps(AT), steps(AT, AT, name="b"))


def test_what_a_key_means_in_other_applications() -> None:
    here = App(
        name="app", title="App", version="1", modes=MODES, rules=RULES, catalogue=Catalogue(LIST)
    )
    other = App(
        name="b",
        title="B",
        version="1",
        modes=MODES,
        rules=RULES,
        catalogue=Catalogue((Command(id="look", title="Look", menu=(), keys=(key("F9"),)),)),
    )
    purposes = Purposes(
        [
            Purpose(id="look", title="Look", links={"b": ("look",), "app": ("view",)}),
            Purpose(id="burn", title="Burn", risk="irreversible", links={"app": ("burn",)}),
        ]
    )

    def of(scheme: Scheme) -> set[str]:
        stack = Stack(here, (scheme,))
        keymaps = [Keymap(stack, GERMAN), Keymap(Stack(other), GERMAN)]
        view = View(
            stack, GERMAN, across=Across({each.app.name: each for each in keymaps}, purposes)
        )
        return {f.id for f in all_findings(view)}

    assert "false-friend" in of(one("burn", "F9"))
    assert "false-friend" not in of(one("burn", "F8"))
    assert "purpose-on-other-key" in of(one("view", "F8"))
    assert "purpose-on-other-key" not in of(one("view", "F9"))


def test_inputs_that_cannot_be_read() -> None:
    assert "unreadable-inputs" in ids(commands=(Command(id="a", title="A", inputs="at:nowhere"),))
    assert "unreadable-inputs" not in ids(commands=(Command(id="a", title="A", inputs="at:point"),))


def test_every_finding_has_its_examples_here() -> None:
    files = [Path(__file__).with_name(f"test_{n}.py") for n in ("findings", "trays", "usage")]
    text = "".join(file.read_text(encoding="utf-8") for file in files)
    assert [id_ for id_ in kinds() if f'"{id_}' not in text] == []


def test_severities_and_acceptance() -> None:
    app = App(
        name="app", title="App", version="1", modes=MODES, rules=RULES, catalogue=Catalogue(LIST)
    )
    accepted = replace(one("burn", "F6"), accept={"slip burn": Decision(why="I know")})
    view = View(Stack(app, (accepted,)), GERMAN)
    (slip,) = [f for f in all_findings(view, {"slip": "error"}) if f.id == "slip"]
    assert (slip.severity, slip.accepted) == ("error", "I know")
    assert "slip" not in {f.id for f in all_findings(view, {"slip": "off"})}


BARE = {"save": Decision(why="x")}


@pytest.mark.parametrize(
    ("nearer", "does", "advice"),
    [
        (
            one("burn", "F5"),
            "“Burn”",
            ClearKeys(app="app", command="burn", key="F5", scheme="mine"),
        ),
        (
            one("burn", "F5 F6"),
            "waits",
            ClearKeys(app="app", command="burn", key="F5 F6", scheme="mine"),
        ),
        (
            mine(mute={key("F5"): Decision(why="x")}),
            "nothing",
            ClearKeys(app="app", key="F5", scheme="mine"),
        ),
        (mine(keyless=BARE), "nothing", ClearKeys(app="app", command="save", scheme="mine")),
        # With the command freed, its other key would come back as well.
        (
            mine(keyless=BARE, assign={"save": on("F9")}),
            "nothing",
            AcceptFinding(
                app="app", finding="guarded-key", about="F5", why="it holds in the other modes"
            ),
        ),
        # What lies nearer has another key in its place: the guard keeps what is no longer so.
        (
            mine(assign={"save": (Assignment(keys=(key("F9"),), instead=True),)}),
            "nothing",
            ClearKeys(app="app", key="F5", scheme="house"),
        ),
    ],
)
def test_a_guard_that_does_not_hold_is_mended_where_it_was_broken(
    nearer: Scheme, does: str, advice: Action
) -> None:
    (found,) = (each for each in findings(nearer, GUARD) if each.id == "guarded-key")
    assert does in found.says
    assert found.advice == advice


def test_a_guarded_key_that_waits_for_its_own_command_is_mended_where_the_longer_run_is() -> None:
    guard = mine(guard={key("S P"): Decision(why="x", modes=("draw",))})
    nearer = Scheme(
        app="app", name="here", layer=PROJECT, assign={"lines.split": on("S P Q", modes=("draw",))}
    )
    modes = ModeTree({"draw": "everywhere"})
    app = App(
        name="app",
        title="App",
        version="1",
        modes=modes,
        rules=Rules(duplicates="replace", longest_sequence=4, typed_sequences=True),
        catalogue=Catalogue((SPLIT,)),
    )
    view = View(Stack(app, (nearer, guard)), Keyboard("pc"))
    (finding,) = (each for each in all_findings(view) if each.id == "guarded-key")
    assert "waits, for S P Q begins with it" in finding.says
    assert finding.advice == ClearKeys(app="app", command="lines.split", key="S P Q", scheme="here")


def test_the_modes_of_a_claim_are_those_of_every_line_that_gives_its_key() -> None:
    scheme = mine(assign={"a": (*on("F9", modes=("draw", "label")), *on("F9", modes=("vertex",)))})
    trigger = scheme.assign["a"][0].keys[0]
    claim = Claim(trigger=trigger, does=Does("a"), mode="draw", layer=PERSONAL, rank=0)
    assert modes_of(scheme, claim) == ("draw", "label", "vertex")
    assert modes_of(mine(), claim) == ("draw",)
