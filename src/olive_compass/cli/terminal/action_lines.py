"""What the core proposes to do as command lines of ours: the only place that makes them."""

from collections.abc import Iterable, Mapping
from functools import singledispatch
from typing import TYPE_CHECKING

from olive_compass.cli.terminal.command_lines import line
from olive_compass.core import actions
from olive_compass.core.actions import Action
from olive_compass.core.apps.modes import ROOT

if TYPE_CHECKING:
    from olive_compass.core.findings.finding import Finder


def line_of(action: Action) -> str:
    """The command line that carries an action out; of what is done in an editor, a sentence.

    >>> line_of(actions.ClearKeys(app="quillmap", command="draw.buoy", scheme="mine"))
    'olive-compass clear quillmap draw.buoy --scheme mine'
    """
    if isinstance(action, actions.CorrectFile):
        return f"correct {'them' if action.several else 'it'} in the file"
    if isinstance(action, actions.CorrectColumn):
        return f"correct the column {action.column} of apps/{action.app}/commands.csv"
    return line(*words_of(action))


def general_advice(kind: "Finder") -> str:
    """The advice of a kind of findings, with the command lines of the actions that it names in braces."""
    named: Mapping[str, Action] = getattr(kind, "ACTIONS", {})
    return kind.ADVICE.format(**{name: line_of(action) for name, action in named.items()})


def _option(name: str, *values: str) -> list[str]:
    """An option, as often as there are values for it; none where the only one is empty."""
    return [word for value in values if value for word in (f"--{name}", value)]


def _flag(name: str, wanted: bool) -> list[str]:
    if wanted:
        return [f"--{name}"]
    return []


def _modes(modes: Iterable[str]) -> list[str]:
    """The options that name modes; none where it is everywhere and nothing besides."""
    modes = tuple(modes)
    if modes == (ROOT,):
        return []
    return _option("mode", *modes)


@singledispatch
def words_of(action: Action) -> list[str]:
    """The words of the command line that carries an action out, the program's name left out."""
    raise TypeError(f"no command does {action!r}")


@words_of.register(actions.AssignKey)
def _(do: actions.AssignKey) -> list[str]:
    return [
        "assign",
        do.app,
        do.command,
        do.key,
        *_modes(do.modes),
        *_flag("instead", do.instead),
        *_option("if-taken", "replace" if do.replacing else ""),
        *_option("why", do.why),
        *_option("scheme", do.scheme),
    ]


@words_of.register(actions.ClearKeys)
def _(do: actions.ClearKeys) -> list[str]:
    which = [word for word in (do.command, do.key) if word]
    return ["clear", do.app, *which, *_option("scheme", do.scheme)]


@words_of.register(actions.LeaveKeyless)
def _(do: actions.LeaveKeyless) -> list[str]:
    return ["keyless", do.app, do.command, "--why", do.why, *_option("scheme", do.scheme)]


@words_of.register(actions.MuteKey)
def _(do: actions.MuteKey) -> list[str]:
    which = ["mute", do.app, do.key, *_modes(do.modes)]
    return [*which, "--why", do.why, *_option("scheme", do.scheme)]


@words_of.register(actions.OrderChoice)
def _(do: actions.OrderChoice) -> list[str]:
    return ["choice", do.app, do.key, *do.commands, *_option("scheme", do.scheme)]


@words_of.register(actions.LimitModes)
def _(do: actions.LimitModes) -> list[str]:
    only = _option("only", *do.modes)
    return ["modes", do.app, do.command, do.key, *only, *_option("scheme", do.scheme)]


@words_of.register(actions.AcceptFinding)
def _(do: actions.AcceptFinding) -> list[str]:
    return ["accept", do.app, do.finding, *([do.about] if do.about else []), "--why", do.why]


@words_of.register(actions.NewScheme)
def _(do: actions.NewScheme) -> list[str]:
    return ["scheme", "new", f"{do.app}/{do.scheme}"]


@words_of.register(actions.CutStep)
def _(do: actions.CutStep) -> list[str]:
    return ["macro", "cut", f"{do.app}/{do.macro}", str(do.step)]


@words_of.register(actions.AskInput)
def _(do: actions.AskInput) -> list[str]:
    return ["macro", "ask", f"{do.app}/{do.macro}", str(do.step), do.input]


@words_of.register(actions.RemoveMacro)
def _(do: actions.RemoveMacro) -> list[str]:
    return ["macro", "remove", f"{do.app}/{do.macro}"]


def _tray(verb: str, do: actions.TrayAction, *words: str) -> list[str]:
    return ["tray", verb, f"{do.app}/{do.tray}", *words, *_option("layer", do.layer)]


@words_of.register(actions.AddItems)
def _(do: actions.AddItems) -> list[str]:
    return _tray("add", do, *do.items)


@words_of.register(actions.RemoveItems)
def _(do: actions.RemoveItems) -> list[str]:
    return _tray("remove", do, *do.items)


@words_of.register(actions.MoveItem)
def _(do: actions.MoveItem) -> list[str]:
    return _tray("move", do, do.item, *_option("group", do.group))


@words_of.register(actions.SetLetter)
def _(do: actions.SetLetter) -> list[str]:
    return _tray("letter", do, do.letter or "none")


@words_of.register(actions.TurnOffTray)
def _(do: actions.TurnOffTray) -> list[str]:
    return _tray("off", do)


@words_of.register(actions.ShowThrough)
def _(do: actions.ShowThrough) -> list[str]:
    return ["via", do.app, do.thing, "--through", do.through]


@words_of.register(actions.ForgetThing)
def _(do: actions.ForgetThing) -> list[str]:
    return ["via", do.app, do.thing, "--off"]


@words_of.register(actions.NoteSlot)
def _(do: actions.NoteSlot) -> list[str]:
    return ["app", "slot", do.app, do.slot, do.holds]


@words_of.register(actions.ShowPress)
def _(do: actions.ShowPress) -> list[str]:
    return ["press", do.app, do.key]


@words_of.register(actions.ShowKey)
def _(do: actions.ShowKey) -> list[str]:
    return ["key", do.key]


@words_of.register(actions.FindCommands)
def _(do: actions.FindCommands) -> list[str]:
    which = [*_option("app", do.app), *_option("menu", do.menu)]
    words = [do.words] if do.words else []
    return ["find", *words, *which, *_flag("unassigned", do.unassigned)]


@words_of.register(actions.ShowFree)
def _(do: actions.ShowFree) -> list[str]:
    return ["free", do.app, "--for", do.command]


@words_of.register(actions.ShowRules)
def _(do: actions.ShowRules) -> list[str]:
    return ["app", "rules", do.app, *_flag("licence", do.licence)]


@words_of.register(actions.ShowModes)
def _(do: actions.ShowModes) -> list[str]:
    which = [word for word in (do.app, do.command) if word]
    return ["modes", *which, *_option("only", do.only), *_flag("also", do.also)]


@words_of.register(actions.ShowSwipes)
def _(do: actions.ShowSwipes) -> list[str]:
    return ["swipes", do.app]


@words_of.register(actions.ShowSurprises)
def _(do: actions.ShowSurprises) -> list[str]:
    return ["surprises", do.app]


@words_of.register(actions.ShowUsage)
def _(do: actions.ShowUsage) -> list[str]:
    return ["usage", do.app, *_flag(do.part, bool(do.part))]


@words_of.register(actions.SuggestKeys)
def _(do: actions.SuggestKeys) -> list[str]:
    return ["suggest", do.app, *_flag("move", do.move)]


@words_of.register(actions.Practise)
def _(do: actions.Practise) -> list[str]:
    return ["practise", do.app]


@words_of.register(actions.ShowMacro)
def _(do: actions.ShowMacro) -> list[str]:
    return ["macro", "show", f"{do.app}/{do.macro}"]


@words_of.register(actions.ShowTray)
def _(do: actions.ShowTray) -> list[str]:
    return ["tray", "show", f"{do.app}/{do.tray}"]


@words_of.register(actions.ShowTrayKinds)
def _(do: actions.ShowTrayKinds) -> list[str]:
    return ["app", "trays", do.app]


@words_of.register(actions.SetGlance)
def _(do: actions.SetGlance) -> list[str]:
    return ["app", "trays", do.app, do.kind, "--scan", do.items]


@words_of.register(actions.ListKeySets)
def _(do: actions.ListKeySets) -> list[str]:
    return ["keyset", "list"]


@words_of.register(actions.LearnKeySet)
def _(do: actions.LearnKeySet) -> list[str]:
    return ["keyset", "learn"]


@words_of.register(actions.ShowSystemKeys)
def _(do: actions.ShowSystemKeys) -> list[str]:
    return ["desk", "system"]


@words_of.register(actions.SetKeyboard)
def _(do: actions.SetKeyboard) -> list[str]:
    return ["desk", "keyboard"]


@words_of.register(actions.CheckKeyboard)
def _(do: actions.CheckKeyboard) -> list[str]:
    return ["check", "--keyboard", do.keyboard]
