"""Roses: the bearings in which a mode takes swipes, as on a compass."""

#: How many directions a mode can have: a hand tells no more than 16 apart.
SIZES = range(2, 17)

#: Compass names by bearing in degrees.
NAMES = {
    0: "N",
    45: "NE",
    90: "E",
    135: "SE",
    180: "S",
    225: "SW",
    270: "W",
    315: "NW",
}

_DEGREES = {
    **{name: degrees for degrees, name in NAMES.items()},
    "NORTH": 0,
    "EAST": 90,
    "SOUTH": 180,
    "WEST": 270,
    "NORTHEAST": 45,
    "SOUTHEAST": 135,
    "SOUTHWEST": 225,
    "NORTHWEST": 315,
}


def bearings(size: int) -> tuple[int, ...]:
    """The bearings of a rose of ``size``, in degrees clockwise from north.

    A rose of two has east and west; the others begin in the north.

    >>> bearings(3)
    (0, 120, 240)
    """
    first = 90 if size == 2 else 0
    return tuple(sorted((first + n * 360 // size) % 360 for n in range(size)))


def read_bearing(text: str) -> int | None:
    """The bearing in degrees that a compass name or a number gives, None where it is neither.

    >>> read_bearing("ne"), read_bearing("030"), read_bearing("360"), read_bearing("up")
    (45, 30, 0, None)
    """
    plain = text.strip().upper().rstrip("°")
    if plain.isascii() and plain.isdigit() and len(plain) < 10 and int(plain) <= 360:
        return int(plain) % 360
    return _DEGREES.get(plain.replace("-", ""))


def bearing_name(degrees: int) -> str:
    """How a bearing is written: its compass name, or three digits.

    >>> bearing_name(45), bearing_name(30)
    ('NE', '030')
    """
    return NAMES.get(degrees, f"{degrees:03}")


def nearest(degrees: int, size: int) -> tuple[int, int]:
    """The two bearings of a rose of ``size`` that lie nearest, the nearer first."""
    ranked = sorted(bearings(size), key=lambda each: (_apart(each, degrees), each))
    return ranked[0], ranked[1]


def _apart(a: int, b: int) -> int:
    return min((a - b) % 360, (b - a) % 360)
