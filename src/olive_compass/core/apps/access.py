"""Access letters: the underlined letters of menus, and the way to a command by them.

In files and listings the letter follows an ampersand, ``&Lines``; two are an ampersand itself.
"""

import re

from olive_compass.core.keys.triggers import Run, stroke

#: As text: it is compiled where there is a mark, not at every start.
_MARKED = r"&(?P<letter>\w)|&&"


def unmarked(text: str) -> tuple[str, str]:
    """A menu step without its mark, and its access letter in upper case (``""``: none).

    >>> unmarked("E&xport"), unmarked("Cut && paste")
    (('Export', 'X'), ('Cut & paste', ''))
    """
    if "&" not in text:
        return text, ""
    letter = ""

    def plain(match: re.Match[str]) -> str:
        nonlocal letter
        letter = letter or (match["letter"] or "").upper()
        return match["letter"] or "&"

    return re.sub(_MARKED, plain, text), letter


def marked(step: str, letter: str) -> str:
    """A menu step with its access letter marked again, and every other ampersand doubled.

    >>> marked("Export", "X")
    'E&xport'
    """
    at = -1
    if letter:
        at = step.upper().find(letter)
    if at < 0:
        return step.replace("&", "&&")
    return step[:at].replace("&", "&&") + "&" + step[at] + step[at + 1 :].replace("&", "&&")


def keyboard_route(letters: tuple[str, ...]) -> str:
    """How menus are walked by access letters: ``Alt V G L``; ``""`` where one is missing."""
    if letters and all(letters):
        return " ".join(("Alt", *letters))
    return ""


def bar_openers(taps: bool) -> dict[Run, str]:
    """What opens the bar of menus by itself, where an application knows taps: Alt, released alone."""
    if taps:
        return {Run((stroke("tap:Alt"),)): "opens the bar of menus"}
    return {}
