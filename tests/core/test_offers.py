"""Why a free key is offered, and what each reason is worth: the order in which a person reads them."""

import pytest

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import Rules
from olive_compass.core.changes.view import AppView
from olive_compass.core.effort.reach import run_effort
from olive_compass.core.effort.weights import Weights
from olive_compass.core.keys.codes import CODES
from olive_compass.core.keys.devices import Device
from olive_compass.core.keys.names import NAMED_CODES
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.offers import (
    FIRST_LETTER,
    INITIAL,
    KIN_OF_SIBLING,
    LETTER,
    NEXT_TO_SIBLING,
    RUN_OF_TITLE,
    UNLIKE_SIBLINGS,
    Offer,
    offers,
    quick_offer,
    rank,
    scored,
    title_runs,
)
from olive_compass.core.schemes.reaches import REFLEX, TAKES_BOTH_HANDS
from olive_compass.core.schemes.traits import hard
from olive_compass.desk.keyboards import load
from olive_compass.structs import replace

PEDAL = Device(name="pedal", title="Pedal", rows=(("left",),), hand="foot", reach=1.0)


def key(text: str) -> Run:
    return read_trigger(text, typed=4)


def view(commands: tuple[Command, ...], hand: str = "left", rules: Rules | None = None) -> AppView:
    app = App(
        name="chart",
        title="Chart",
        version="1",
        modes=ModeTree({}),
        rules=rules or Rules(),
        catalogue=Catalogue(commands),
    )
    keyboard = load("", "pc", "ansi-104", "us", {"pedal": PEDAL})
    return AppView(Stack(app), keyboard, hand=hand)


BUOY = Command(id="buoy", title="Mark a red Buoy", menu=("Draw",))


def offer(seen: AppView, text: str, command: Command | None = BUOY) -> Offer:
    (found,) = scored(seen, [key(text)], command)
    return found


def worth(seen: AppView, text: str, command: Command = BUOY) -> float:
    """What a trigger is worth beside its effort: what speaks for it, less what does not."""
    cost = run_effort(seen.keyboard, key(text), seen.weights)
    assert cost is not None
    both = 0.0 if cost.one_hand(seen.hand) else TAKES_BOTH_HANDS
    return round(cost.strokes + both - offer(seen, text, command).score, 2)


@pytest.mark.parametrize(
    ("text", "amount", "reason"),
    [
        ("M", FIRST_LETTER, "first letter of Mark"),
        ("Ctrl+M", FIRST_LETTER, "first letter of Mark"),
        ("A", INITIAL, "initial of a"),
        ("R", INITIAL, "initial of red"),
        ("B", INITIAL, "initial of Buoy"),
        ("K", LETTER, "a letter of the title"),
        ("Z", 0.0, ""),
        ("7", 0.0, ""),
        ("F6", 0.0, ""),
    ],
)
def test_a_letter_of_the_title_speaks_for_a_key(text: str, amount: float, reason: str) -> None:
    seen = view((BUOY,))
    assert worth(seen, text) == amount
    said = offer(seen, text).reasons
    assert (reason in said) is bool(reason)
    assert len([each for each in said if "hand" not in each]) == bool(reason)


def test_words_joined_by_a_hyphen_are_words() -> None:
    command = Command(id="tide", title="Half-Tide level", menu=("Draw",))
    seen = view((command,))
    assert "initial of Tide" in offer(seen, "T", command).reasons
    assert "first letter of Half-Tide" in offer(seen, "H", command).reasons
    assert "initial of level" in offer(seen, "L", command).reasons


def test_what_a_sibling_has_speaks_for_its_kin_and_for_the_key_beside() -> None:
    sibling = Command(id="wreck", title="Wreck", menu=("Draw",), keys=(key("Ctrl+W"),))
    stranger = Command(id="copy", title="Copy", menu=("Edit",), keys=(key("Ctrl+P"),))
    seen = view((BUOY, sibling, stranger))
    assert "kin of Ctrl+W, Wreck" in offer(seen, "Ctrl+Shift+W").reasons
    assert worth(seen, "Ctrl+Shift+W") == KIN_OF_SIBLING
    assert "next to Ctrl+W, Wreck" in offer(seen, "Ctrl+Q").reasons
    assert worth(seen, "Ctrl+Q") == NEXT_TO_SIBLING
    # Not two keys away, not with other modifiers, and not beside the key of another menu.
    assert worth(seen, "Ctrl+Shift+Q") == 0
    assert worth(seen, "Ctrl+T") == 0
    assert worth(seen, "Ctrl+L") == 0
    # Where all siblings have modifiers, a plain key is unlike them.
    assert worth(seen, "Q") == -UNLIKE_SIBLINGS
    plain = view(
        (BUOY, sibling, Command(id="fence", title="Fence", menu=("Draw",), keys=(key("F"),)))
    )
    assert worth(plain, "Q") == 0


def test_a_reflex_and_a_hand_off_the_mouse_cost() -> None:
    seen = view((BUOY,))
    assert worth(seen, "Ctrl+C") == -REFLEX
    assert worth(seen, "Ctrl+J") == 0
    assert "left hand alone" in offer(seen, "Z").reasons
    assert "left hand alone" not in offer(seen, "P").reasons
    right = view((BUOY,), hand="right")
    assert "right hand alone" in offer(right, "P").reasons
    both = view((BUOY,), hand="both")
    assert "one hand" in offer(both, "P").reasons
    assert offer(both, "P").score == offer(both, "P").strokes
    cost = run_effort(seen.keyboard, key("P"), seen.weights)
    assert cost is not None
    assert offer(seen, "P").score == pytest.approx(cost.strokes + TAKES_BOTH_HANDS)


def test_runs_of_the_titles_letters_are_offered_where_runs_are_typed() -> None:
    rules = Rules(longest_sequence=3, typed_sequences=True)
    seen = view((BUOY,), rules=rules)
    runs = [str(run) for run in title_runs(seen, BUOY)]
    # Its initials and the beginning of its first word come first.
    assert runs[:2] == ["M A", "M A R"] or runs[:2] == ["M A", "M R"]
    assert "M A R" in runs
    assert all(run.startswith("M") for run in runs)
    assert {len(run.split()) for run in runs} == {2, 3}
    assert len(runs) <= 40
    assert "letters of Mark a red Buoy" in offer(seen, "MB").reasons
    assert worth(seen, "MB") == RUN_OF_TITLE
    assert list(title_runs(view((BUOY,), rules=Rules(longest_sequence=1)), BUOY)) == []
    assert list(title_runs(seen, Command(id="x", title="42", menu=("Draw",)))) == []


def test_the_best_comes_first_and_nothing_is_offered_that_is_taken() -> None:
    held = Command(id="other", title="Other", menu=("Edit",), keys=(key("M"), key("Alt+M")))
    seen = view((BUOY, held))
    found = offers(seen, BUOY, most=6)
    assert [each.score for each in found] == sorted(each.score for each in found)
    assert len(found) == 6
    assert not {"M", "Alt+M"} & {str(each.trigger) for each in found}
    ranked = rank(seen, [key("Z"), key("B"), key("Ctrl+Alt+Shift+P")], BUOY)
    names = [str(each.trigger) for each in ranked]
    assert (names[0], names[-1]) == ("B", "Ctrl+Alt+Shift+P")
    # Alike in all else, keys come as a person counts.
    pads = [str(each.trigger) for each in rank(seen, [key("F12"), key("F2")], None)]
    assert set(pads) == {"F2", "F12"}


def test_codes_are_those_of_the_standard_and_no_others() -> None:
    codes = set(CODES.values())
    assert (NAMED_CODES["F35"], NAMED_CODES["Num9"]) == ("F35", "Numpad9")
    assert "F36" not in NAMED_CODES
    assert {"Digit0", "Digit9", "Numpad0", "Numpad9", "KeyA", "KeyZ", "F1", "F24"} <= codes
    assert not {"Digit10", "Numpad10", "Key[", "F0"} & codes


def test_advice_names_a_letter_before_anything_rarer() -> None:
    command = Command(id="xx", title="!!", menu=("Draw",))
    scheme = Scheme(app="chart", name="mine")
    app = view((command,), rules=Rules(takes=("device",))).app
    seen = AppView(Stack(app, (scheme,)), view(()).keyboard)
    best = offers(seen, command, most=1, scheme=scheme)[0].trigger
    quick = quick_offer(seen, command, ("everywhere",), scheme)
    assert str(best) == "pedal:left"
    assert quick is not None
    assert len(quick.strokes[0].key) == 1 or quick.strokes[0].key.startswith("F")
    # What was offered once is not offered again by the same view.
    assert quick_offer(seen, command, ("everywhere",), scheme) not in (None, quick)


def test_a_key_is_hard_from_the_very_effort_on() -> None:
    board, run = load("", "pc", "ansi-104", "us"), read_trigger("Ctrl+Alt+Shift+P")
    effort = run_effort(board, run, Weights())
    assert effort is not None
    assert hard(board, run, replace(Weights(), hard=effort.strokes)) == effort
    assert hard(board, run, replace(Weights(), hard=effort.strokes + 0.01)) is None
