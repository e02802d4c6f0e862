"""Command lines that nobody thought of: any options of any command together, with values of the right kind or not."""

import argparse
import random

from olive_compass.cli.registry import command_names
from tests.conftest import parser_of

#: What does not come back by itself, or asks a person or another machine.
LEFT_OUT = ("demo", "try", "--watch", "--live", "--cluster", "--script", "--desk")

#: What is typed for a word of the help; the first fits the demo desk.
VALUES = {
    "APP/MACRO": ("quillmap/light-with-name", "quillmap/x"),
    "APP/NAME": ("quillmap/mine", "quillmap/studio", "mine", "a/b"),
    "APP": ("quillmap", "tagwright", "nowhere", "quill"),
    "COMMAND": ("sheet.save", "Spot height", "Zoom*", "xx"),
    "KEY": ("F10", "Ctrl+S", "Alt+1..Alt+3", "Ctrl+Foo", "S P"),
    "MODE": ("draw", "everywhere", "drw"),
    "FILE": ("listings/tagwright-keys.csv", "nofile", "out.csv"),
    "SET": ("larkspur", "none"),
    "SCHEME": ("mine", "house", "factory"),
    "NAME": ("mine", "new-one", "x/y"),
    "PURPOSE": ("save", "zoom-all", "nope"),
    "DAY": ("2026-10-01", "yesterday"),
    "TEXT": ("a reason", ""),
}
NUMBERS = ("1", "2", "0", "30")
WORDS = ("x", "quillmap", "draw", "F10", "1", "a=b", "save")


def odd_line(draw: random.Random) -> list[str]:
    """A command with some of its options, in no order that makes sense."""
    names = [name for name in command_names() if name not in LEFT_OUT]
    name = draw.choice(names)
    return [name, *_words(draw, parser_of(name))]


def _words(draw: random.Random, parser: argparse.ArgumentParser) -> list[str]:
    words: list[str] = []
    for action in parser._actions:
        if isinstance(action, argparse._SubParsersAction):
            verbs = [verb for verb in action.choices if verb != "record"]
            verb = draw.choice(verbs)
            return [*words, verb, *_words(draw, action.choices[verb])]
        if isinstance(action, argparse._HelpAction) or set(action.option_strings) & {*LEFT_OUT}:
            continue
        if action.option_strings:
            if not action.required and draw.random() > 0.22:
                continue
            words.append(action.option_strings[-1])
        words += [_value(draw, action) for _ in range(_how_many(draw, action))]
    return words


def _how_many(draw: random.Random, action: argparse.Action) -> int:
    if isinstance(action.nargs, int):
        return action.nargs
    most = {"?": 1, "*": 3, "+": 3}.get(str(action.nargs))
    if most is None:
        return 1
    return draw.randint(1 if action.nargs == "+" else 0, most)


def _value(draw: random.Random, action: argparse.Action) -> str:
    if action.choices:
        return str(draw.choice(list(action.choices)))
    if action.type in (int, float):
        return draw.choice(NUMBERS)
    word = str(action.metavar or action.dest).upper()
    for name, values in VALUES.items():
        if name in word:
            return values[0] if draw.random() < 0.6 else draw.choice(values)
    return draw.choice(WORDS)
