"""How much room the labels about a compass rose need."""

import math
from itertools import pairwise

from olive_compass.core.keys.roses import bearings


def gap(size: int) -> float:
    """How far two labels of one side are apart in height at the least, in parts of the radius, 2: one label."""
    heights = sorted(-math.cos(math.radians(each)) for each in bearings(size) if 0 < each < 180)
    return min((below - above for above, below in pairwise(heights)), default=2.0)


def beside_upright(size: int) -> float:
    """How far from the middle the labels beside the one straight up begin, in parts of the radius."""
    return min(math.sin(math.radians(each)) for each in bearings(size) if 0 < each < 180)
