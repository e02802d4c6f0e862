"""Triggers: every spelling is read, one is written, and mistakes are pointed at."""

from itertools import combinations

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from olive_compass.core.keys.any_spelling import Reader
from olive_compass.core.keys.cells import read_cell
from olive_compass.core.keys.codes import CODES
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.names import MODIFIERS, NAMED_KEYS
from olive_compass.core.keys.reading import canonical, read_trigger
from olive_compass.core.keys.roses import SIZES, bearings, nearest, read_bearing
from olive_compass.core.keys.spellings import KEY_SPELLINGS
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Run, stroke
from olive_compass.core.keys.written_cells import read_written_cell, write_cell

SIGNS = "+-=[];'\\,./`~!@#$%^&*()_{}|:\"<>?éñ€"
keys = st.one_of(
    st.sampled_from("ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789"),
    st.sampled_from([sign.upper() for sign in SIGNS]),
    st.sampled_from(sorted(NAMED_KEYS)),
)
others = st.sampled_from(
    [
        "swipe:NE",
        "tap:Alt",
        "tap:Shift*2",
        "hold:Space",
        "hold:Q",
        "mouse:main*2",
        "mouse:4",
        "wheel:left",
        "pen:barrel-2",
        "pedal:left",
        "deck:K12",
        "console:D1-up",
    ]
)
#: Every set of modifiers is one draw: drawn one by one they would be half of what a test does.
held = st.sampled_from(
    [frozenset(each) for n in range(len(MODIFIERS) + 1) for each in combinations(MODIFIERS, n)]
)
strokes = st.one_of(
    st.builds(lambda key, mods: stroke(key, *mods), keys, held),
    st.builds(lambda key, mods: stroke(key, *mods), others, held),
    st.builds(
        lambda code, mods: stroke(code, *mods, by_place=True),
        st.sampled_from(sorted(CODES.values())),
        held,
    ),
)
runs = st.builds(lambda many: Run(tuple(many)), st.lists(strokes, min_size=1, max_size=4))


@given(runs)
@example(Run((stroke("_"), stroke("Up"))))
@example(Run((stroke("Num+"), stroke("3"))))
@example(Run((stroke("+", "Ctrl"), stroke("+"))))
def test_what_is_written_is_read_again(run: Run) -> None:
    assert read_trigger(str(run)) == run
    assert read_trigger(str(run), typed=4) == run
    assert canonical(str(run)) in (None, run)
    assert Reader(str(run), 0, read_trigger).run() == run


PARTS = [
    "Ctrl",
    "main",
    "Shift",
    "Main",
    "+",
    "+",
    "-",
    " ",
    "Num",
    "Num+",
    "3",
    "B",
    "F6",
    "Up",
    "swipe:",
]
PARTS += ["N", "045", "060", "hold:", "Space", "mouse:", "4", "main*2", "@", "KeyC", "deck:", "K3"]


@given(st.lists(st.sampled_from(PARTS), min_size=1, max_size=6).map("".join))
@example("Ctrl+Num+")
@example("+B")
def test_the_quick_way_reads_nothing_otherwise_than_the_long_one(text: str) -> None:
    quick = canonical(text)
    if quick is not None:
        assert Reader(text, 0, read_trigger).run() == quick
        assert str(quick) == text


@given(runs, st.sampled_from(["upper", "lower", "title"]), st.sampled_from(["+", " + ", "-"]))
def test_case_and_joiner_do_not_matter(run: Run, case: str, joiner: str) -> None:
    if any(each.by_place or each.key in "+-" or "Num" in each.key for each in run.strokes):
        return
    written = " ".join(joiner.join((*each.modifiers, each.key)) for each in run.strokes)
    assert read_trigger(getattr(written, case)()) == run


@given(runs, st.sampled_from(["[]", "<>", "{}", "【】"]), st.sampled_from(["+", " + ", "", "-"]))
def test_keycaps_in_brackets_are_read_as_what_they_are(run: Run, cap: str, joiner: str) -> None:
    """``[Ctrl]+[C]``, and the accelerator ``<Control>c``."""
    if any(each.by_place or each.key in cap or ":" in each.key for each in run.strokes):
        return
    opens, closes = cap
    written = [
        joiner.join(f"{opens}{part}{closes}" for part in (*each.modifiers, each.key))
        for each in run.strokes
    ]
    assert read_trigger(" ".join(written)) == run
    # Of a sign right after a modifier nobody could tell whether it is the key.
    if any(each.key in "+-" for each in run.strokes):
        return
    held = ["".join(f"{opens}{name}{closes}" for name in each.modifiers) for each in run.strokes]
    accelerators = (f"{names}{each.key}" for names, each in zip(held, run.strokes, strict=True))
    assert read_trigger(" ".join(accelerators)) == run


@given(st.text(max_size=30))
def test_any_text_is_read_or_refused_with_its_place(text: str) -> None:
    for typed in (0, 4):
        try:
            run = read_trigger(text, typed)
        except TriggerError as error:
            assert 0 <= error.start <= error.end <= len(text)
            assert error.reason
            if error.nearest:
                read_trigger(error.nearest, typed)
        else:
            assert read_trigger(str(run)) == run


@pytest.mark.parametrize(
    ("spelling", "written"),
    [
        ("Ctrl-Shift-B", "Ctrl+Shift+B"),
        ("⌘⇧B", "Shift+Meta+B"),
        ("CTRL+SHIFT+b", "Ctrl+Shift+B"),
        ("Control+Shift+B", "Ctrl+Shift+B"),
        ("shift-ctrl-b", "Ctrl+Shift+B"),
        ("Cmd+Option+Esc", "Alt+Meta+Escape"),
        ("⌃⌥⌘←", "Ctrl+Alt+Meta+Left"),
        ("Win + E", "Meta+E"),
        ("Alt Gr+E", "AltGr+E"),
        ("main+s", "Main+S"),
        ("Ctrl++", "Ctrl++"),
        ("Ctrl+-", "Ctrl+-"),
        ("Ctrl -", "Ctrl+-"),
        ("⌘+", "Meta++"),
        ("Ctrl+Num +", "Ctrl+Num+"),
        ("Ctrl+Wheel Up", "Ctrl+wheel:up"),
        ("Strg+Mausrad hoch", "Ctrl+wheel:up"),
        ("Shift-Scroll Down", "Shift+wheel:down"),
        ("MMB", "mouse:middle"),
        ("Ctrl+Left click", "Ctrl+mouse:main"),
        ("Double-click", "mouse:main*2"),
        ("Doppelklick", "mouse:main*2"),
        ("Button 4", "mouse:4"),
        ("alt+mouse:SECOND*2", "Alt+mouse:second*2"),
        ("Hold Space", "hold:Space"),
        ("hold:space", "hold:Space"),
        ("hold:q", "hold:Q"),
        ("hold:ß", "hold:ß"),
        ("tap option", "tap:Alt"),
        ("Double tap Shift", "tap:Shift*2"),
        ("Pen button", "pen:barrel"),
        ("Pedal:LEFT", "pedal:left"),
        ("deck:k3", "deck:K3"),
        ("Num3", "Num3"),
        ("KP_3", "Num3"),
        ("Numpad3", "Num3"),
        ("f24", "F24"),
        ("pgdn", "PageDown"),
        ("Page Down", "PageDown"),
        ("Page_Down", "PageDown"),
        ("Return", "Enter"),
        ("␣", "Space"),
        ("⌫", "Backspace"),
        ("Meta+Plus", "Meta++"),
        ("LOGO+Return", "Meta+Enter"),
        ("CTRL+plus", "Ctrl++"),
        ("Ctrl+@keyc", "Ctrl+@KeyC"),
        ("g d", "G D"),
        ("G then D", "G D"),
        ("Ctrl+K Ctrl+S", "Ctrl+K Ctrl+S"),
        ("U P", "U P"),
    ],
)
def test_spellings(spelling: str, written: str) -> None:
    assert str(read_trigger(spelling)) == written


def test_typed_runs_only_where_the_application_has_them() -> None:
    assert str(read_trigger("sp", typed=4)) == "S P"
    assert str(read_trigger("UP", typed=4)) == "Up"
    with pytest.raises(TriggerError) as refused:
        read_trigger("sp")
    assert refused.value.nearest == "S P"
    with pytest.raises(TriggerError):
        read_trigger("smooth", typed=4)


@pytest.mark.parametrize(
    ("text", "piece", "nearest"),
    [
        ("Crtl+B", "Crtl+B", "Ctrl+B"),
        ("Ctrl+PgUpp", "PgUpp", "Ctrl+PageUp"),
        ("Ctlr+Shft+Delte", "Ctlr+Shft+Delte", "Ctrl+Shift+Delete"),
        ("Ctrl+", "Ctrl+", ""),
        ("@KeyCC", "@KeyCC", "@KeyC"),
        ("@Hom", "@Hom", "@Home"),
        ("Ctrl+Ctrl+B", "Ctrl+Ctrl+", ""),
        ("G \x1b", "\x1b", ""),
    ],
)
def test_mistakes_are_pointed_at(text: str, piece: str, nearest: str) -> None:
    with pytest.raises(TriggerError) as refused:
        read_trigger(text)
    error = refused.value
    assert (error.text[error.start : error.end], error.nearest) == (piece, nearest)


def test_every_listed_spelling_is_read_as_its_key() -> None:
    for spelling, key in KEY_SPELLINGS.items():
        assert read_trigger(f"Ctrl+{spelling}") == Run((stroke(key, "Ctrl"),))


def test_main_is_the_modifier_of_the_platform() -> None:
    main, ctrl, meta = map(read_trigger, ("Main+S", "Ctrl+S", "Cmd+S"))
    pc, mac = Keyboard("pc"), Keyboard("mac")
    assert pc.press_of(main) == pc.press_of(ctrl) != pc.press_of(meta)
    assert mac.press_of(main) == mac.press_of(meta)


def test_a_cell_of_ours_is_read_as_we_write_it() -> None:
    def keys(text: str) -> list[str]:
        return [str(run) for run in read_written_cell(text).triggers]

    assert (keys("-"), keys("minus"), keys("")) == ([], ["-"], [])
    # A lone sign is a key of a run that we wrote; in a listing it parts two keys.
    assert keys("A / B or Ctrl+,") == ["A / B", "Ctrl+,"]
    assert [str(run) for run in read_cell("A / B").triggers] == ["A", "B"]


@given(st.lists(runs, max_size=4, unique=True))
def test_a_cell_that_we_write_reads_back(triggers: list[Run]) -> None:
    assert read_written_cell(write_cell(tuple(triggers))).triggers == tuple(triggers)


@pytest.mark.parametrize(
    ("cell", "keys"),
    [
        ("Ctrl+B, F6", "Ctrl+B|F6"),
        ("Ctrl+,, Ctrl+.", "Ctrl+,|Ctrl+."),
        ("/", "/"),
        (",", ","),
        ("Ctrl+/ / Ctrl+-", "Ctrl+/|Ctrl+-"),
        ("Ctrl+A/Ctrl+B", "Ctrl+A|Ctrl+B"),
        (";", ";"),
        ("Ctrl+;;Ctrl+B", "Ctrl+;|Ctrl+B"),
        ("a or B", "A|B"),
        ("⌘B\n⌃⌘K", "Meta+B|Ctrl+Meta+K"),
        ("+ / -", "+|-"),
        ("Ctrl+K Ctrl+S", "Ctrl+K Ctrl+S"),
        ("-", ""),
        ("n/a", ""),
        ("(none)", ""),
        ("None", ""),
        ("", ""),
        ("–", ""),
    ],
)
def test_cells_of_listings(cell: str, keys: str) -> None:
    read = read_cell(cell)
    assert "|".join(map(str, read.triggers)) == keys
    assert not read.problem


def test_an_unclear_cell_is_not_guessed_at() -> None:
    for cell in ("Ctrl+PgUp/PgDn", "Ctrl+1,2,3"):
        assert read_cell(cell).triggers == ()
        assert "not clear whether Ctrl" in read_cell(cell).problem


def test_a_rose_has_so_many_bearings_and_no_others() -> None:
    assert (min(SIZES), max(SIZES)) == (2, 16)
    assert bearings(2) == (90, 270)
    assert bearings(3) == (0, 120, 240)
    assert bearings(8) == (0, 45, 90, 135, 180, 225, 270, 315)
    for size in SIZES:
        assert len(set(bearings(size))) == size


@pytest.mark.parametrize(
    ("text", "degrees"),
    [
        ("n", 0),
        ("North", 0),
        ("east", 90),
        ("south", 180),
        ("west", 270),
        ("north-east", 45),
        ("SouthEast", 135),
        ("south-west", 225),
        ("northwest", 315),
        ("se", 135),
        ("sw", 225),
        ("nw", 315),
        ("360", 0),
        ("359°", 359),
        ("361", None),
        ("0000000360", None),
        ("-1", None),
        ("0-30", None),
        ("²", None),
        ("up", None),
    ],
)
def test_a_bearing_is_read_as_a_name_or_as_degrees(text: str, degrees: int | None) -> None:
    assert read_bearing(text) == degrees


def test_the_nearest_bearings_of_a_rose_come_with_the_nearer_first() -> None:
    assert nearest(350, 8) == (0, 315)
    assert nearest(340, 8) == (0, 315)
    assert nearest(330, 8) == (315, 0)
    assert nearest(100, 4) == (90, 180)
    # As near to either: the smaller number first.
    assert nearest(45, 4) == (0, 90)


@pytest.mark.parametrize(
    ("text", "trigger"),
    [
        ("^A", "Ctrl+A"),
        ("^", "^"),
        ("^ A", "^ A"),
        ("Ctrl -", "Ctrl+-"),
        ("Ctrl--", "Ctrl+-"),
        ("Ctrl  +  A", "Ctrl+A"),
        ("⌘ A", "Meta+A"),
        ("⌘+ ⌘A", "Meta++ Meta+A"),
        ("⌃⌥A", "Ctrl+Alt+A"),
        ("Alt Gr+Q", "AltGr+Q"),
        ("Alt-Gr-Q", "AltGr+Q"),
        ("Alt Gr Q", "AltGr+Q"),
        ("Num  Lock", "NumLock"),
        ("Wheel up A", "wheel:up A"),
        # A letter whose capital is of another letter, or of two, is itself.
        ("ſ", "ſ"),
        ("ß", "ß"),
    ],
)
def test_joiners_carets_and_odd_letters(text: str, trigger: str) -> None:
    assert str(read_trigger(text)) == trigger
    assert read_trigger(trigger) == read_trigger(text)


@pytest.mark.parametrize("text", ["Ctrl", "Ctrl ", "Ctrl+", "Shift-", "⌘", "Ctrl+Shift"])
def test_modifiers_alone_are_no_trigger(text: str) -> None:
    with pytest.raises(TriggerError, match="no key follows the modifiers"):
        read_trigger(text)
    with pytest.raises(TriggerError, match="Ctrl is named twice"):
        read_trigger("Ctrl+Control+A")
