"""A command with other marks, and with another access letter."""

from typing import Any

from olive_compass.core.apps.app import Command
from olive_compass.core.apps.marks import WHOLE, read_marks
from olive_compass.structs import replace


def marked_with(command: Command, added: list[str], dropped: list[str]) -> Command:
    """The command with other marks; of those with a value, a new one takes the place of the old."""
    gone = {*dropped, *(each.partition(":")[0] + ":" for each in added if ":" in each)}
    words = [
        word
        for word in command.marks.words
        if word not in gone and word.partition(":")[0] + ":" not in gone
    ]
    # Its own access letter stands among the marks, and is none of them.
    words += [each for each in added if not letter_of_mark(each)]
    return replace(command, marks=read_marks(words))


def lettered(command: Command, added: list[str], dropped: list[str]) -> Command:
    """The command with the access letter that was added, or without one that was dropped."""
    own = ""
    if command.access:
        own = command.access[-1]
    if own and own in map(letter_of_mark, dropped):
        command = _with_letter(command, "")
    letter = next(filter(None, map(letter_of_mark, added)), "")
    if letter:
        return _with_letter(command, letter)
    return command


def letter_of_mark(mark: str) -> str:
    """The access letter that ``letter:H`` gives, ``""``: it is another mark."""
    name, _, letter = mark.partition(":")
    if name == "letter" and len(letter) == 1:
        return letter.upper()
    return ""


def _with_letter(command: Command, letter: str) -> Command:
    """The command with its own access letter, ``""``: with none."""
    access = (*command.menu_letters, letter)
    return replace(command, access=access if any(access) else ())


def with_fields(command: Command, said: dict[str, Any]) -> Command:
    """The command with other fields, and a note that a person said so: a later listing does not undo it."""
    marks = command.marks
    if marks.said != WHOLE:
        marks = replace(marks, said=joined_fields(marks.said, *said))
    # Letters of menus belong to the steps that it had.
    access = () if "menu" in said else command.access
    return replace(command, **said, marks=marks, access=access)


def joined_fields(before: str, *fields: str) -> str:
    return "+".join(sorted({*filter(None, before.split("+")), *fields}))
