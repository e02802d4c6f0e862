"""The items of lists in a text, by the signs and numbers before them."""

import re

#: The sign or the number before an item, with the blanks after it.
BULLET = re.compile(r"^\s*(?:[-*•·‣▪◦]|\d+[.)])\s+(?=\S)")


def bulleted_lines(raw_lines: list[str]) -> frozenset[int]:
    """The lines with bullets, where most have one: a dash before a single line may be the minus key."""
    full = sum(bool(raw.strip()) for raw in raw_lines)
    found = frozenset(n for n, raw in enumerate(raw_lines, 1) if BULLET.match(raw))
    if len(found) > 2 and len(found) * 2 > full:
        return found
    return frozenset()


def listed_items(raw_lines: list[str]) -> frozenset[int]:
    """The lines of lists in a mixed text: at least three in a row with the same sign, or two with numbers that count
    on."""
    found: list[int] = []
    run: list[int] = []
    last = ""
    for number, raw in enumerate((*raw_lines, ""), 1):
        sign = _sign_of(raw)
        if not _goes_on(last, sign):
            least = 2 if last.isdigit() else 3
            if len(run) >= least:
                found += run
            run = []
        if sign:
            run.append(number)
        last = sign
    return frozenset(found)


def _sign_of(raw: str) -> str:
    """The sign or the number that a line begins with as the item of a list, ``""``: it is none."""
    found = BULLET.match(raw)
    if found is None:
        return ""
    return found[0].strip().rstrip(".)")


def _goes_on(sign: str, below: str) -> bool:
    """Whether a line goes on with the list of the line above it."""
    if sign.isdigit() and below.isdigit():
        return int(below) == int(sign) + 1
    return bool(sign) and sign == below
