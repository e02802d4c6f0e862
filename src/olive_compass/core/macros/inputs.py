"""What a command asks for before it can do its work, and how an answer is read."""

import re
from functools import cache

from msgspec import Struct

from olive_compass.core.apps.app import INPUT_KINDS, Command
from olive_compass.core.macros.acts import Act, act_of

#: The question of an input for which nobody wrote one.
PLAIN_QUESTIONS = {
    "point": "Where?",
    "text": "Which text?",
    "number": "How much?",
    "choice": "Which one?",
    "selection": "Which things?",
    "yes": "Yes or no?",
}

_HINTS = {
    "point": "a point is two numbers, such as 120,80",
    "number": "this is no number",
    "yes": "answer yes or no",
}

#: What a command asks for whose row of the catalogue declares nothing, by what it does.
_BY_ACT = {
    "place": "at:point",
    "move": "what:selection to:point",
    "set": "value:text",
    "remove": "what:selection",
    "copy": "what:selection",
    "style": "what:selection",
}


class Input(Struct, frozen=True):
    """One input of a command: its name, its kind and, for a choice, what there is to choose."""

    name: str
    kind: str
    choices: tuple[str, ...] = ()

    @property
    def question(self) -> str:
        """The question for it where nobody wrote one."""
        if self.kind == "choice":
            return f"Which {self.name}: {', '.join(self.choices)}?"
        if self.kind in ("text", "number") and self.name not in ("text", "value"):
            return f"{self.name.replace('-', ' ').capitalize()}?"
        if self.kind == "point" and self.name in ("from", "to"):
            return f"{self.name.capitalize()} where?"
        return PLAIN_QUESTIONS[self.kind]


def declared(command: Command) -> tuple[Input, ...]:
    """The inputs that a command asks for: those of its row, or those that its doing needs."""
    act: Act = act_of(command)
    try:
        return read_inputs(command.inputs or _BY_ACT.get(act.verb, ""))
    except ValueError:
        # The finding unreadable-inputs reports it.
        return ()


@cache
def read_inputs(cell: str) -> tuple[Input, ...]:
    """The inputs in a cell of the catalogue; raises ``ValueError`` where it cannot be read.

    >>> [str(i.kind) for i in read_inputs("at:point buoy:choice=port/starboard")]
    ['point', 'choice']
    """
    found: dict[str, Input] = {}
    for word in cell.split():
        name, _, kind = word.partition(":")
        kind, _, rest = (kind or "text").partition("=")
        choices = tuple(filter(None, rest.split("/")))
        if not re.fullmatch(r"\w[\w-]*", name) or kind not in INPUT_KINDS:
            raise ValueError(f"“{word}” is not a name, a colon and one of {', '.join(INPUT_KINDS)}")
        if (kind == "choice") != bool(choices):
            raise ValueError(f"“{word}” must name what there is to choose: choice=one/other")
        if name in found:
            raise ValueError(f"the input “{name}” appears twice")
        found[name] = Input(name, kind, choices)
    return tuple(found.values())


def accepted(asked: Input, text: str) -> str:
    """``text`` as an answer, written one way; raises ``ValueError`` where it is none.

    >>> accepted(Input("at", "point"), " 12.0 , 7"), accepted(Input("again", "yes"), "Y")
    ('12,7', 'yes')
    """
    text = " ".join(text.split())
    if asked.kind == "text":
        return text
    if not text:
        raise ValueError("an answer is needed")
    if asked.kind == "choice":
        return _chosen(asked.choices, text)
    if asked.kind == "selection":
        return " ".join(re.split(r"[\s,]+", text))
    if asked.kind == "yes":
        word = text.casefold()
        if word not in ("y", "yes", "true", "n", "no", "false"):
            raise ValueError(_HINTS["yes"])
        if word in ("y", "yes", "true"):
            return "yes"
        return "no"
    return _numbers(asked.kind, text)


def _chosen(choices: tuple[str, ...], text: str) -> str:
    near = [each for each in choices if each.casefold().startswith(text.casefold())]
    exact = [each for each in choices if each.casefold() == text.casefold()]
    if len(exact or near) != 1:
        raise ValueError(f"“{text}” is none of {', '.join(choices)}")
    return (exact or near)[0]


def _numbers(kind: str, text: str) -> str:
    """A number, or the two of a point."""
    if kind == "point":
        numbers = text.split(",")
    else:
        numbers = [text]
    try:
        values = [float(number) for number in numbers]
    except ValueError:
        raise ValueError(_HINTS[kind]) from None
    right = len(values) == (2 if kind == "point" else 1)
    if not right or not all(abs(value) < 1e9 for value in values):
        raise ValueError(_HINTS[kind])
    return ",".join(plain_number(value) for value in values)


def plain_number(value: float) -> str:
    """A number as people write it: no needless point, no minus before nothing."""
    return f"{round(value, 6) + 0.0:.12g}"


def point_of(text: str) -> tuple[float, float]:
    """The point that an accepted answer means."""
    x, _, y = text.partition(",")
    return float(x), float(y)
