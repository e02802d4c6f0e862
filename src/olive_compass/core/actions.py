"""What a person can do next, as values.

Findings, refusals and offers name what helps; a front end makes of it what its user can carry out. The command
line writes a line to paste (``cli/terminal/command_lines.py``), and the JSON has the values themselves: ``do`` is the name
of the record with hyphens, and what is left at its default is left out.
"""

import re

from msgspec import Struct


def _tag(name: str) -> str:
    return re.sub(r"(?<=[a-z])(?=[A-Z])", "-", name).lower()


class Action(
    Struct, frozen=True, kw_only=True, omit_defaults=True, rename="kebab", tag_field="do", tag=_tag
):
    """Something that a person can do, and every word that it takes."""


class KeyAction(Action, frozen=True, kw_only=True):
    """An action that changes what keys do in an application: a guard may be in its way."""

    app: str
    #: The scheme that it writes into; ``""``: the one that a decision goes into anyway.
    scheme: str = ""


class AssignKey(KeyAction, frozen=True, kw_only=True):
    """To assign a key to a command; ``instead`` of the keys that it has, or ``replacing`` whoever has the key."""

    command: str
    key: str
    modes: tuple[str, ...] = ()
    instead: bool = False
    replacing: bool = False
    why: str = ""


class ClearKeys(KeyAction, frozen=True, kw_only=True):
    """To take a scheme's decision out: on a command, on one of its keys, or on a key whatever it does."""

    command: str = ""
    key: str = ""


class LeaveKeyless(KeyAction, frozen=True, kw_only=True):
    """To leave a command without a key on purpose."""

    command: str
    why: str


class MuteKey(KeyAction, frozen=True, kw_only=True):
    """To let a key do nothing."""

    key: str
    why: str
    modes: tuple[str, ...] = ()


class OrderChoice(KeyAction, frozen=True, kw_only=True):
    """To put the commands in order among which the application offers a choice."""

    key: str
    commands: tuple[str, ...]


class LimitModes(KeyAction, frozen=True, kw_only=True):
    """To let a key of a command count in these modes only."""

    command: str
    key: str
    modes: tuple[str, ...] = ()


class AcceptFinding(Action, frozen=True, kw_only=True):
    """To accept a finding, by what it is about; ``about`` is its first command or key."""

    app: str
    finding: str
    about: str = ""
    why: str


class NewScheme(Action, frozen=True, kw_only=True):
    """To begin a scheme."""

    app: str
    scheme: str


class CutStep(Action, frozen=True, kw_only=True):
    """To take a step out of a macro; steps are counted from 1."""

    app: str
    macro: str
    step: int


class AskInput(Action, frozen=True, kw_only=True):
    """To let a macro ask for an input of a step."""

    app: str
    macro: str
    step: int
    input: str


class RemoveMacro(Action, frozen=True, kw_only=True):
    """To remove a macro."""

    app: str
    macro: str


class TrayAction(Action, frozen=True, kw_only=True):
    """An action on the tray of one layer."""

    app: str
    tray: str
    layer: str = ""


class AddItems(TrayAction, frozen=True, kw_only=True):
    """To add items to a tray."""

    items: tuple[str, ...]


class RemoveItems(TrayAction, frozen=True, kw_only=True):
    """To remove items from a tray."""

    items: tuple[str, ...]


class MoveItem(TrayAction, frozen=True, kw_only=True):
    """To move an item of a tray, into a group or to the end."""

    item: str
    group: str = ""


class SetLetter(TrayAction, frozen=True, kw_only=True):
    """To give a tray another access letter; ``""``: none."""

    letter: str


class TurnOffTray(TrayAction, frozen=True, kw_only=True):
    """To switch a tray off."""


class ShowThrough(Action, frozen=True, kw_only=True):
    """To record which command shows a thing that can have no key."""

    app: str
    thing: str
    through: str


class ForgetThing(Action, frozen=True, kw_only=True):
    """To record no longer what shows a thing that can have no key."""

    app: str
    thing: str


class NoteSlot(Action, frozen=True, kw_only=True):
    """To note what a slot holds."""

    app: str
    slot: str
    holds: str


class CorrectFile(Action, frozen=True, kw_only=True):
    """To correct what stands in the file, in an editor: it, or several things in one cell."""

    several: bool = False


class CorrectColumn(Action, frozen=True, kw_only=True):
    """To correct a column of the application's catalogue, in an editor."""

    app: str
    column: str


class ShowPress(Action, frozen=True, kw_only=True):
    """To see what a key does in an application, and why."""

    app: str
    key: str


class ShowKey(Action, frozen=True, kw_only=True):
    """To see which physical keys make a key."""

    key: str


class FindCommands(Action, frozen=True, kw_only=True):
    """To find commands by words, by menu, or those without a key."""

    words: str = ""
    app: str = ""
    menu: str = ""
    unassigned: bool = False


class ShowFree(Action, frozen=True, kw_only=True):
    """To see which keys are free for a command."""

    app: str
    command: str


class ShowRules(Action, frozen=True, kw_only=True):
    """To see which keys an application takes; ``licence``: to say which licences this computer has."""

    app: str
    licence: bool = False


class ShowModes(Action, frozen=True, kw_only=True):
    """To let a key apply in ``only`` some modes, or in others ``also``."""

    app: str = ""
    command: str = ""
    only: str = ""
    also: bool = False


class ShowSwipes(Action, frozen=True, kw_only=True):
    """To see which directions are taken."""

    app: str


class ShowSurprises(Action, frozen=True, kw_only=True):
    """To see what a colleague would press by mistake."""

    app: str


class ShowUsage(Action, frozen=True, kw_only=True):
    """To see how commands are used: all, keys ``never`` pressed, or ``slips``."""

    app: str
    part: str = ""


class SuggestKeys(Action, frozen=True, kw_only=True):
    """To have keys suggested, ``move``: for commands that have one as well."""

    app: str
    move: bool = False


class Practise(Action, frozen=True, kw_only=True):
    """To practise keys."""

    app: str


class ShowMacro(Action, frozen=True, kw_only=True):
    """To see the steps of a macro."""

    app: str
    macro: str


class ShowTray(Action, frozen=True, kw_only=True):
    """To see what stands on a tray."""

    app: str
    tray: str


class ShowTrayKinds(Action, frozen=True, kw_only=True):
    """To see which kinds of trays an application has, and what each takes."""

    app: str


class SetGlance(Action, frozen=True, kw_only=True):
    """To set how many items of a kind of trays can be seen at a glance."""

    app: str
    kind: str
    items: str


class ListKeySets(Action, frozen=True, kw_only=True):
    """To see the key sets."""


class LearnKeySet(Action, frozen=True, kw_only=True):
    """To learn a key set from the schemes that there are."""


class ShowSystemKeys(Action, frozen=True, kw_only=True):
    """To see which keys the operating system keeps."""


class SetKeyboard(Action, frozen=True, kw_only=True):
    """To set the keyboard of the desk."""


class CheckKeyboard(Action, frozen=True, kw_only=True):
    """To check how the keys would be on another keyboard."""

    keyboard: str
