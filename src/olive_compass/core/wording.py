"""Small turns of phrase that sentences share."""

import re
from functools import cache


def counted(number: int, thing: str) -> str:
    """A number of things, in the singular where there is one.

    >>> counted(1, "step"), counted(3, "step")
    ('1 step', '3 steps')
    """
    if number == 1:
        return f"{number} {thing}"
    return f"{number} {thing}s"


def by_number(number: int, one: str, more: str) -> str:
    """The words of a sentence about one thing, or about none or several.

    >>> by_number(1, "is", "are"), by_number(3, "is", "are")
    ('is', 'are')
    """
    if number == 1:
        return one
    return more


def clause(pattern: str, about: object) -> str:
    """A part of a sentence, left out where there is nothing to put in it.

    >>> clause(", in {}", "draw"), clause(", in {}", "")
    (', in draw', '')
    """
    if about:
        return pattern.format(about)
    return ""


def yes_or_no(value: object) -> str:
    """``yes`` where it is so."""
    if value:
        return "yes"
    return "no"


def sequences_of(longest: int) -> str:
    """Which sequences are taken where the longest has so many strokes.

    >>> sequences_of(1), sequences_of(3)
    ('no sequences', 'sequences of at most 3 strokes')
    """
    return by_number(longest, "no sequences", f"sequences of at most {longest} strokes")


def capital(text: object) -> str:
    """A text, such as that of an error, with a capital at its beginning.

    >>> capital(ValueError("answer yes or no")), capital("")
    ('Answer yes or no', '')
    """
    plain = str(text)
    return plain[:1].upper() + plain[1:]


#: Verbs of the sentences that tell a change, and what they are in the conditional. Those that begin a sentence come
#: first: a title in it may have a word of the others.
_BEGINNING = {
    "accepted": "accept",
    "added": "add",
    "assigned": "assign",
    "changed": "change",
    "cleared": "clear",
    "copied": "copy",
    "counted": "count",
    "created": "create",
    "fixed": "fix",
    "forgot": "forget",
    "imported": "import",
    "linked": "link",
    "merged": "merge",
    "moved": "move",
    "played": "play",
    "pulled": "pull",
    "recorded": "record",
    "redid": "redo",
    "removed": "remove",
    "renamed": "rename",
    "repaired": "repair",
    "rewrote": "rewrite",
    "reset": "reset",
    "set": "set",
    "split off": "split off",
    "tidied": "tidy",
    "took over": "take over",
    "turned": "turn",
    "undid": "undo",
    "unpacked": "unpack",
    "updated": "update",
    "upgraded": "upgrade",
    "wrote": "write",
}
_WITHIN = {
    "got": "get",
    "is": "be",
    "are": "be",
    "was": "be",
    "applies": "apply",
    "apply": "apply",
    "asks": "ask",
    "offers": "offer",
    "has": "have",
    "serves": "serve",
    "shows": "show",
    "takes": "take",
}


@cache
def _in_the_conditional() -> "tuple[tuple[re.Pattern[str], str], ...]":
    """Patterns of sentences that tell a change, each with what takes its place."""
    after_a_name = [(rf"^([^:“]+: ){past}\b", verb) for past, verb in _BEGINNING.items()]
    at_first = [(rf"^()(?:{past}|{capital(past)})\b", verb) for past, verb in _BEGINNING.items()]
    within = [(rf"^([^“]*? ){past}\b", verb) for past, verb in _WITHIN.items()]
    found = [
        (re.compile(pattern), rf"\1would {verb}")
        for pattern, verb in (*after_a_name, *at_first, *within)
    ]
    return tuple(found)


def conditional(what: str) -> str:
    """A sentence about a change, as it reads where nothing is changed.

    >>> conditional("Quillmap: Join got F9 in draw")
    'Quillmap: Join would get F9 in draw'
    >>> conditional("Quillmap: accepted unassigned line.railway"), conditional("Created key set larkspur")
    ('Quillmap: would accept unassigned line.railway', 'Would create key set larkspur')

    A title may begin with such a verb:

    >>> conditional("Quillmap: Reset view got F9"), conditional("Set scale: tidied, 2 changes")
    ('Quillmap: Reset view would get F9', 'Set scale: would tidy, 2 changes')
    """
    for pattern, would in _in_the_conditional():
        told, count = pattern.subn(would, what, count=1)
        if count:
            return capital(told)
    return what
