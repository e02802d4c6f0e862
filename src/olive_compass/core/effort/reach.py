"""The effort of a press, in home strokes: what the strongest finger spends on its home key.

Each key that is pressed, modifiers included, costs the weight of its finger times one plus the
difficulty of reaching it, log2(1 + D) bits for a key D key units from where that finger rests.

The figures are those of ``weights``. Source: the difficulty is the Shannon form of Fitts' law, I. S.
MacKenzie, *Fitts' law as a research and design tool in human-computer interaction*
(Human-Computer Interaction 7, 1992).
"""

from collections.abc import Iterable, Iterator
from itertools import product
from math import dist, log2

from msgspec import Struct

from olive_compass.core.effort.weights import Weights
from olive_compass.core.keys.forms import FINGER_OF, HOME, Form, Seat
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.kinds import kind_of
from olive_compass.core.keys.presses import Physical
from olive_compass.core.keys.triggers import Run, Stroke
from olive_compass.structs import replace

#: The row of what lies beside the keyboard.
BESIDE = -1


class Effort(Struct, frozen=True, kw_only=True):
    """What a press costs by its easiest way: home strokes, the key's row, hand and finger.

    What is no key has the row ``BESIDE``, and the device in the place of hand and finger.
    ``alone`` are the hands that can do it by themselves, in this way or another.
    """

    strokes: float
    alone: frozenset[str]
    row: int
    finger: str

    def one_hand(self, hand: str) -> bool:
        """Whether ``hand`` can do it alone, the other staying on the mouse (``both``: any)."""
        if hand == "both":
            return bool(self.alone)
        return hand in self.alone


#: The keys that give each modifier.
HOLDERS = {
    "Ctrl": ("ControlLeft", "ControlRight"),
    "Alt": ("AltLeft", "AltRight"),
    "AltGr": ("AltRight",),
    "Shift": ("ShiftLeft", "ShiftRight"),
    "Meta": ("MetaLeft", "MetaRight"),
}

#: A key this far to the right (key units, from the middle of G) is still the left hand's.
_MIDDLE = 1.5


def effort(form: Form, physical: Physical, weights: Weights) -> Effort | None:
    """The effort of one press, by the easiest choice of left and right modifiers.

    None where the form lacks a key that it takes, and for what no key makes.
    """
    held, code = physical
    seat = form.seats.get(code)
    if seat is None:
        return None
    ways = [_way(form, seat, modifiers, weights) for modifiers in _holders(form, held)]
    if not ways:
        return None
    easiest = min(ways, key=lambda way: (way.strokes, way.finger))
    return replace(easiest, alone=frozenset(hand for way in ways for hand in way.alone))


def _holders(form: Form, held: Iterable[str]) -> Iterator[list[Seat]]:
    """The keys with which these modifiers can be held, one way after another; none where the form lacks such a key."""
    seats = form.seats
    choices = [[seats[code] for code in HOLDERS.get(name, ()) if code in seats] for name in held]
    return map(list, product(*choices))


def run_effort(keyboard: Keyboard, run: Run, weights: Weights) -> Effort | None:
    """The effort of a whole run: its strokes added up, the hands that can do all of them alone."""
    if keyboard.form is None:
        return None
    each = [press_effort(keyboard, physical, weights) for physical in keyboard.press_of(run)]
    known = [way for way in each if way is not None]
    if len(known) < len(each):
        return None
    alone = frozenset.intersection(*(way.alone for way in known))
    total = round(sum(way.strokes for way in known), 2)
    return Effort(strokes=total, alone=alone, row=known[-1].row, finger=known[-1].finger)


def press_effort(keyboard: Keyboard, physical: Physical, weights: Weights) -> Effort | None:
    """The effort of one press of a key or of anything else, worked out once for a keyboard.

    None where nobody can say it: without a form, and for a swipe.
    """
    if keyboard.form is None:
        return None
    key = (physical, id(weights))
    if key not in keyboard.efforts:
        way = _elsewhere if ":" in physical[1] else _on_keys
        keyboard.efforts[key] = way(keyboard, keyboard.form, physical, weights)
    known = keyboard.efforts[key]
    assert known is None or isinstance(known, Effort)
    return known


def _on_keys(
    _keyboard: Keyboard, form: Form, physical: Physical, weights: Weights
) -> Effort | None:
    return effort(form, physical, weights)


def _elsewhere(
    keyboard: Keyboard, form: Form, physical: Physical, weights: Weights
) -> Effort | None:
    """The effort of a press beside the keyboard, or of a key that is tapped or held.

    The hand at the mouse does what the mouse does, and a foot does no harm to either hand: what is
    left for the free one are the modifiers.
    """
    held, code = physical
    sits = kind_of(Stroke((), code)).sits(code, keyboard)
    if sits is None:
        return None
    if sits.code:
        pressed = effort(form, (held, sits.code), weights)
        return pressed and replace(pressed, strokes=round(pressed.strokes + sits.strokes, 2))
    device = keyboard.devices.get(code.partition(":")[0])
    hand = ""
    if device and device.hand in ("left", "right"):
        hand = device.hand
    ways = [_held_only(form, modifiers, weights, hand) for modifiers in _holders(form, held)]
    if not ways:
        return None
    easiest = min(ways, key=lambda way: way.strokes)
    return Effort(
        strokes=round(easiest.strokes + sits.strokes, 2),
        alone=frozenset(each for way in ways for each in way.alone),
        row=BESIDE,
        finger=sits.part,
    )


def _held_only(form: Form, modifiers: list[Seat], weights: Weights, hand: str) -> Effort:
    """What holding these modifiers costs while ``hand`` (``""``: none) works a device."""
    total = 0.0
    hands = {hand} if hand else set()
    for seat in modifiers:
        own_hand, own_finger = FINGER_OF.get(seat.code, ("left", "index"))
        name = f"{own_hand}-{own_finger}"
        total += weights.fingers.get(name, 1.0) * _difficulty(form, seat, own_hand, own_finger)
        hands.add(_hand(seat))
    if len(hands) < 2:
        alone = frozenset(hands or ("left", "right"))
    else:
        alone = frozenset[str]()
    return Effort(strokes=total, alone=alone, row=0, finger="")


def distance(form: Form, a: str, b: str) -> float:
    """How far the middles of two keys lie apart, in key units; infinite where one is missing."""
    if a not in form.seats or b not in form.seats:
        return float("inf")
    return dist(form.seats[a].centre, form.seats[b].centre)


def _way(form: Form, key: Seat, modifiers: list[Seat], weights: Weights) -> Effort:
    """The effort with these very modifier keys; a hand that takes them takes the key as well."""
    hand, finger = FINGER_OF.get(key.code, ("right", "index"))
    hands = {_hand(seat) for seat in modifiers}
    if len(hands) == 1 and _within(form, key, modifiers, weights, next(iter(hands))):
        # One hand holds the modifiers and strikes the key with what is left of it.
        hand = next(iter(hands))
    hands.add(hand)
    total = 0.0
    taken = set()
    for seat in (*modifiers, key):
        own_hand, own_finger = FINGER_OF.get(seat.code, (hand, "index"))
        if seat is key and own_hand != hand:
            own_hand, own_finger = hand, "index"
        name = f"{own_hand}-{own_finger}"
        total += weights.fingers.get(name, 1.0) * _difficulty(form, seat, own_hand, own_finger)
        if name in taken:
            total += weights.same_finger
        taken.add(name)
    for seat in modifiers:
        if _hand(seat) == hand:
            total += log2(1 + max(0.0, dist(seat.centre, key.centre) - weights.span))
    if len(hands) == 1:
        alone = frozenset(hands)
    else:
        alone = frozenset()
    return Effort(strokes=round(total, 2), alone=alone, row=key.row, finger=f"{hand} {finger}")


def _difficulty(form: Form, seat: Seat, hand: str, finger: str) -> float:
    """One plus the difficulty of reaching a key with a finger, from where that finger rests."""
    known = form.difficulties.get((seat.code, hand, finger))
    if known is None:
        home = form.seats.get(HOME.get((hand, finger), "KeyF"))
        away = dist(home.centre, seat.centre) if home else 0.0
        known = form.difficulties[seat.code, hand, finger] = 1 + log2(1 + away)
    return known


def _within(form: Form, key: Seat, modifiers: list[Seat], weights: Weights, hand: str) -> bool:
    """Whether ``hand`` can hold the modifiers and reach the key at once."""
    if any(dist(seat.centre, key.centre) > weights.reach for seat in modifiers):
        return False
    middle = 0.0
    if "KeyG" in form.seats:
        middle = form.seats["KeyG"].centre[0]
    if hand == "left":
        return key.centre[0] <= middle + _MIDDLE
    return key.centre[0] >= middle


def _hand(seat: Seat) -> str:
    if seat.code != "AltRight":
        return FINGER_OF.get(seat.code, ("left", ""))[0]
    return "right"
