"""What an application writes is read, and what is written in its way comes back the same."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.apps.listing import read_listing
from olive_compass.core.apps.listing_result import ListingRequest
from olive_compass.core.apps.listing_row import Row
from olive_compass.core.keys.cells import read_cell
from olive_compass.core.keys.key_words import KEY_WORDS
from olive_compass.core.keys.new_words import Unknown, checked, in_order, unknown_words
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.spelling import Spelling, is_kept_so
from olive_compass.core.keys.triggers import Run, Stroke, stroke
from olive_compass.core.keys.words import MODIFIER_WORDS

KEYS = ["A", "Z", "1", "F5", "F12", "Enter", "PageDown", "Delete", "Left", "-", "+", ",", "Num3"]
HELD = st.lists(st.sampled_from(["Ctrl", "Alt", "Shift", "Meta"]), unique=True, max_size=3)
STROKES: st.SearchStrategy[Stroke] = st.builds(
    lambda key, held: stroke(key, *held), st.sampled_from(KEYS), HELD
)
RUNS = st.lists(STROKES, min_size=1, max_size=3).map(lambda each: Run(tuple(each)))
WORDS = st.dictionaries(
    st.sampled_from(
        ["C-", "M-", "S-", "Strg", "Sft", "Ctl", "Umsch-", "Ent", "PgD", "Lösch", "KP3"]
    ),
    st.sampled_from(["Ctrl", "Alt", "Shift", "Meta", "Enter", "PageDown", "Delete", "Num3"]),
).map(
    lambda words: dict(
        checked(word, ours if word[-1].isalnum() or ours in MODIFIER_WORDS else "Ctrl")
        for word, ours in words.items()
    )
)


@given(WORDS, st.booleans(), RUNS)
def test_what_is_written_in_its_way_is_read_the_same(
    words: dict[str, str], lower: bool, run: Run
) -> None:
    spelling = Spelling({**words, **({"a": "A"} if lower else {})})
    assert read_trigger(spelling.read(spelling.write(run))) == run, spelling.write(run)


def test_unknown_words_are_gathered_with_what_they_may_be() -> None:
    cells = ["C-a", "C-S-b", "Sft+Q", "Sft+F36", "Ctrl+Bld"]
    assert unknown_words(cells)[:4] == (
        Unknown(word="C-", times=2, sample="C-a", proposal="Ctrl+"),
        Unknown(word="Sft", times=2, sample="Sft+Q", proposal="Shift"),
        Unknown(word="S-", times=1, sample="C-S-b", proposal="Shift+"),
        Unknown(word="F36", times=1, sample="Sft+F36", proposal=""),
    )
    assert [each.word for each in unknown_words(cells, {"C-", "Sft", "S-"})] == ["F36", "Bld"]


@pytest.mark.parametrize(
    ("word", "ours"), [("", "Ctrl"), ("C", "Ctrl"), ("Sft", "Nope"), ("x", "Enter")]
)
def test_what_is_no_spelling_is_refused(word: str, ours: str) -> None:
    with pytest.raises(ValueError, match=r"is|spelling|stand"):
        checked(word, ours)


def test_a_listing_is_read_whole_once_its_spelling_is_told() -> None:
    cells = [
        ("Command", "Key"),
        ("Save", "C-s"),
        ("Find", "C-f, M-f"),
        ("Drop", "Entf"),
        ("Odd", "F36"),
    ]
    rows = [Row(line=n, cells=row) for n, row in enumerate(cells, 1)]
    first = read_listing(rows, ListingRequest())
    assert [(each.word, each.proposal) for each in first.unknown] == [
        ("C-", "Ctrl+"),
        ("M-", "Alt+"),
        ("F36", ""),
    ]
    words = {each.word: each.proposal for each in first.unknown if each.proposal}
    listing = read_listing(rows, ListingRequest(spelling=words))
    keys = {c.title: [str(k) for k in c.keys] for c in listing.catalogue.commands}
    assert keys == {"Save": ["Ctrl+S"], "Find": ["Ctrl+F", "Alt+F"], "Drop": ["Delete"], "Odd": []}
    assert [(a.what, a.text) for a in listing.set_aside] == [("keys", "F36")]


def test_names_of_keys_in_other_languages_are_keys() -> None:
    for name, by_language in (*KEY_WORDS.items(), *MODIFIER_WORDS.items()):
        for text in by_language.values():
            for word in text.split():
                plain = word.replace("_", " ")
                cell = f"{plain}+F2" if name in MODIFIER_WORDS else f"Ctrl+{plain}"
                wanted = f"{name}+F2" if name in MODIFIER_WORDS else f"Ctrl+{name}"
                assert [str(run) for run in read_cell(cell).triggers] == [wanted], word
    assert [str(run) for run in read_cell("Strg+K oder Umschalt+Bild auf").triggers] == [
        "Ctrl+K",
        "Shift+PageUp",
    ]
    assert read_cell("nicht belegt").triggers == ()
    assert read_cell("Bild auf", typed=4).triggers[0].strokes[0].key == "PageUp"
    assert str(read_cell("Strg+K dann S").triggers[0]) == "Ctrl+K S"


@pytest.mark.parametrize(
    ("words", "trigger", "written"),
    [
        ({"C-": "Ctrl+", "a": "A"}, "Ctrl+B", "C-b"),
        ({"C-": "Ctrl+"}, "Ctrl+B", "C-B"),
        ({"a": "A"}, "Shift+F6", "Shift+F6"),
        ({"C-": "Ctrl+", "Ent": "Enter"}, "Ctrl+Enter Ctrl+B", "C-Ent C-B"),
        ({"Strg": "Ctrl", "Umsch": "Shift"}, "Ctrl+Shift+Q", "Strg+Umsch+Q"),
        # The word that was told first is the one that is written.
        ({"Ent": "Enter", "Ret": "Enter"}, "Enter", "Ent"),
    ],
)
def test_an_applications_own_words_are_written(
    words: dict[str, str], trigger: str, written: str
) -> None:
    assert Spelling(words).write(read_trigger(trigger)) == written
    assert Spelling({}).read("C-M") == "C-M"
    assert Spelling({"a": "A"}).read("C-M") == "C-M"


TYPED = st.sampled_from(["C-", "c", "Ctl", "a", "Ent", "S+", " x", "kp", "^^"])
OURS = st.sampled_from(
    ["Ctrl+", "Ctrl", "A", "Enter", "Num+", "Num3", "F6", "Shift+", "b", "", "Main"]
)


@given(TYPED, OURS)
def test_what_is_kept_plainly_is_what_would_be_kept(word: str, ours: str) -> None:
    if is_kept_so(word, ours):
        assert checked(word, ours) == (word, ours)


def test_a_word_that_is_also_a_key_of_ours_is_written_without_doubt() -> None:
    same = Spelling({"C-": "Ctrl+", "F1": "F1", "End": "PageDown"})
    assert same.write(read_trigger("Ctrl+F1")) == "C-F1"
    assert same.write(read_trigger("Ctrl+PageDown")) == "C-End"
    # “End” is taken by another key there: ours is written as we write it.
    assert same.write(read_trigger("Ctrl+End")) == "Ctrl+End"


def test_what_is_kept_as_it_is_needs_no_look() -> None:
    assert [
        is_kept_so(*each) for each in (("C-", "Ctrl+"), ("Sft", "Shift"), ("PgD", "PageDown"))
    ] == [True] * 3
    assert [is_kept_so(*each) for each in (("C", "Ctrl+"), ("C-", "Ctrl"), ("P-", "PageDown"))] == [
        False
    ] * 3


def test_a_word_stands_for_a_modifier_or_a_key_of_any_kind() -> None:
    assert checked("wu", "wheel:up") == ("wu", "wheel:up")
    assert checked("kk", "q") == ("kk", "Q")
    assert checked("C.", "ctrl") == ("C.", "Ctrl+")
    for word, ours in (("xy", "@KeyC"), ("xy", "ab"), ("xy", "")):
        with pytest.raises(ValueError, match="is no modifier and no key of ours"):
            checked(word, ours)
    for word in ("k", "k-"):
        with pytest.raises(ValueError, match="cannot stand for a key"):
            checked(word, "F6")
    with pytest.raises(ValueError, match="alone is a key"):
        checked("C", "ctrl")


def test_words_are_kept_with_the_modifiers_first() -> None:
    words = {"zz": "F6", "S-": "Shift+", "aa": "Delete", "C-": "Ctrl+"}
    assert list(in_order(words)) == ["C-", "S-", "aa", "zz"]
