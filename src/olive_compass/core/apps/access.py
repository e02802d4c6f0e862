"""Access letters: the underlined letters of menus, and the way to a command by them.

In files and listings the letter follows an ampersand, ``&Lines``; two are an ampersand itself.
"""

import re

_MARKED = re.compile(r"&(?P<letter>\w)|&&")


def unmarked(text: str) -> tuple[str, str]:
    """A menu step without its mark, and its access letter in upper case (``""``: none).

    >>> unmarked("E&xport"), unmarked("Cut && paste")
    (('Export', 'X'), ('Cut & paste', ''))
    """
    letter = ""

    def plain(match: re.Match[str]) -> str:
        nonlocal letter
        letter = letter or (match["letter"] or "").upper()
        return match["letter"] or "&"

    return _MARKED.sub(plain, text), letter


def marked(step: str, letter: str) -> str:
    """A menu step with its access letter marked again, and every other ampersand doubled.

    >>> marked("Export", "X")
    'E&xport'
    """
    at = step.upper().find(letter) if letter else -1
    if at < 0:
        return step.replace("&", "&&")
    return step[:at].replace("&", "&&") + "&" + step[at] + step[at + 1 :].replace("&", "&&")


def keyboard_route(letters: tuple[str, ...]) -> str:
    """How menus are walked by access letters: ``Alt V G L``; ``""`` where one is missing."""
    return " ".join(("Alt", *letters)) if letters and all(letters) else ""
