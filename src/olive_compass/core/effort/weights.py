"""The figures behind an effort, each of which a desk can change.

Sources. The weight of a finger is the best tapping rate of all fingers divided by its own, after
R. E. Hoke, *The Improvement of Speed and Accuracy in Typewriting* (Johns Hopkins Studies in
Education 7, 1922): 48, 57, 63 and 66 taps for the left hand from the little finger inwards, 56,
62, 69 and 70 for the right. The thumb, which he did not measure, counts as the index finger of
its hand. The other figures of ``Weights`` are our own choice.
"""

from collections.abc import Mapping
from types import MappingProxyType

from msgspec import Struct

_TAPS = {
    "left-little": 48,
    "left-ring": 57,
    "left-middle": 63,
    "left-index": 66,
    "left-thumb": 66,
    "right-little": 56,
    "right-ring": 62,
    "right-middle": 69,
    "right-index": 70,
    "right-thumb": 70,
}

#: Weight of each finger, after Hoke (1922).
FINGER_WEIGHTS: Mapping[str, float] = MappingProxyType(
    {name: round(70 / taps, 2) for name, taps in _TAPS.items()}
)


class Weights(Struct, frozen=True, kw_only=True):
    """The figures behind an effort.

    ``fingers`` are weights by hand and finger; ``span`` is how far apart (key units) two keys
    may lie under one hand without stretching it, ``reach`` how far at most; ``same_finger`` is
    added where one finger must hold two keys; from ``hard`` home strokes on a press is hard.
    """

    fingers: Mapping[str, float] = FINGER_WEIGHTS
    span: float = 4.0
    reach: float = 7.5
    same_finger: float = 2.0
    hard: float = 13.0
