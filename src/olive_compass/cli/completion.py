"""What the shell may complete: applications, commands, modes, keys and so on, of the desk at hand."""

import argparse
from collections.abc import Callable
from typing import TYPE_CHECKING

from olive_compass.core.keys.names import MODIFIERS, NAMED_KEYS

if TYPE_CHECKING:
    from olive_compass.desk.desk import Desk

#: Gives what may stand in a place, from what is typed of it and of the line.
Completer = Callable[..., list[str]]


def complete_with(action: "argparse.Action", completer: object) -> None:
    """Lets the shell offer what ``completer`` gives for this argument (a function, or one of ``argcomplete``)."""
    vars(action)["completer"] = completer


def app_names(prefix: str, parsed_args: argparse.Namespace, **_: object) -> list[str]:
    desk = _desk(parsed_args)
    if desk:
        return desk.app_names()
    return []


def command_ids(prefix: str, parsed_args: argparse.Namespace, **_: object) -> list[str]:
    """Ids and titles of the application's commands; after a command that is to get a key, keys."""
    desk = _desk(parsed_args)
    app = getattr(parsed_args, "app", None)
    if desk is None or app not in desk.app_names():
        return []
    if getattr(parsed_args, "words", None):
        return keys(prefix)
    commands = desk.app(app).catalogue.commands
    return [*(each.id for each in commands), *dict.fromkeys(each.title for each in commands)]


def keys(prefix: str, *_: object, **__: object) -> list[str]:
    """Modifiers, and once one is typed, keys with it.

    >>> keys("Ctrl+")[:2], "Ctrl+Alt+A" in keys("Ctrl+Alt+"), "F5" in keys("F")
    (['Ctrl+Alt+', 'Ctrl+AltGr+'], True, True)
    """
    held, plus, _rest = prefix.rpartition("+")
    typed = []
    if held:
        typed = held.split("+")
    modifiers = [name for name in MODIFIERS if name not in typed and name != "Main"]
    letters = [
        chr(code) for code in (*range(ord("A"), ord("Z") + 1), *range(ord("0"), ord("9") + 1))
    ]
    return [held + plus + each for each in (*(f"{m}+" for m in modifiers), *letters, *NAMED_KEYS)]


def mode_names(prefix: str, parsed_args: argparse.Namespace, **_: object) -> list[str]:
    """The modes of the application, or of all where none is named."""
    desk = _desk(parsed_args)
    if desk is None:
        return []
    named = getattr(parsed_args, "app", None)
    apps = [each for each in desk.app_names() if named in (None, each)]
    return sorted({mode for app in apps for mode in desk.app(app).modes.names})


def forms(prefix: str, parsed_args: argparse.Namespace, **_: object) -> list[str]:
    return _of_keyboards(parsed_args, "forms")


def layouts(prefix: str, parsed_args: argparse.Namespace, **_: object) -> list[str]:
    return _of_keyboards(parsed_args, "layouts")


def keyboards(prefix: str, parsed_args: argparse.Namespace, **_: object) -> list[str]:
    """``form/layout`` for each pair of them."""
    of_form = _of_keyboards(parsed_args, "layouts")
    return [f"{form}/{each}" for form in _of_keyboards(parsed_args, "forms") for each in of_form]


def _of_keyboards(parsed_args: argparse.Namespace, kind: str) -> list[str]:
    from olive_compass.desk.keyboards import names

    desk = _desk(parsed_args)
    return names(desk.root if desk else "", kind)


def rules(*_: object, **__: object) -> list[str]:
    from olive_compass.core.apps.rules import RULE_TYPES

    return [f"{name}=" for name in RULE_TYPES]


def findings(*_: object, **__: object) -> list[str]:
    from olive_compass.core.findings import kinds

    return sorted(kinds())


def marks(*_: object, **__: object) -> list[str]:
    from olive_compass.core.apps.marks import WORDS

    return list(WORDS)


def layers(*_: object, **__: object) -> list[str]:
    from olive_compass.core.schemes.layers import FACTORY, SCHEME_LAYERS

    return [*SCHEME_LAYERS, FACTORY]


def scheme_names(prefix: str, parsed_args: argparse.Namespace, **_: object) -> list[str]:
    """The schemes of the application that is named, or of all where none is; and the factory's keys."""
    from olive_compass.core.schemes.layers import FACTORY

    desk = _desk(parsed_args)
    if desk is None:
        return []
    named = getattr(parsed_args, "app", None)
    apps = [each for each in desk.app_names() if named in (None, each)]
    return [*sorted({name for app in apps for name in desk.scheme_names(app)}), FACTORY]


def app_and_scheme(prefix: str, parsed_args: argparse.Namespace, **_: object) -> list[str]:
    """``app/scheme`` for each scheme, and ``app/`` for each application."""
    desk = _desk(parsed_args)
    if desk is None:
        return []
    schemes = [f"{app}/{name}" for app in desk.app_names() for name in desk.scheme_names(app)]
    return [*schemes, *(f"{app}/" for app in desk.app_names())]


def purpose_ids(prefix: str, parsed_args: argparse.Namespace, **_: object) -> list[str]:
    from olive_compass.desk.formats.purposes_file import load

    desk = _desk(parsed_args)
    if desk:
        return list(load(desk.root).by_id)
    return []


def keyset_names(prefix: str, parsed_args: argparse.Namespace, **_: object) -> list[str]:
    desk = _desk(parsed_args)
    if desk:
        return desk.keyset_names()
    return []


def file_formats(prefix: str, parsed_args: argparse.Namespace, **_: object) -> list[str]:
    desk = _desk(parsed_args)
    if desk:
        return desk.file_format_names()
    return []


def device_names(prefix: str, parsed_args: argparse.Namespace, **_: object) -> list[str]:
    desk = _desk(parsed_args)
    if desk:
        return list(desk.devices)
    return []


def macro_names(prefix: str, parsed_args: argparse.Namespace, **_: object) -> list[str]:
    """``app/macro`` for each macro, and ``app/`` for each application."""
    desk = _desk(parsed_args)
    if desk is None:
        return []
    macros = [f"{app}/{name}" for app in desk.app_names() for name in desk.macros(app)]
    return [*macros, *(f"{app}/" for app in desk.app_names())]


def tray_names(prefix: str, parsed_args: argparse.Namespace, **_: object) -> list[str]:
    """``app/tray`` for each tray, and ``app/`` for each application."""
    desk = _desk(parsed_args)
    if desk is None:
        return []
    trays = [f"{app}/{tray.name}" for app in desk.app_names() for tray in desk.app(app).trays]
    return [*trays, *(f"{app}/" for app in desk.app_names())]


def sides(prefix: str, parsed_args: argparse.Namespace, **options: object) -> list[str]:
    """What can be compared: applications, schemes, key sets, and files."""
    from argcomplete.completers import FilesCompleter

    desk = _desk(parsed_args)
    named = []
    if desk:
        named = [*desk.app_names(), *(f"keyset:{name}" for name in desk.keyset_names())]
        named += app_and_scheme(prefix, parsed_args)
    return [*named, *FilesCompleter()(prefix)]


#: What completes an argument, by the word that stands for it.
_ARGUMENTS: dict[str, Completer] = {
    "AFTER": sides,
    "APP": app_names,
    "APP/MACRO": macro_names,
    "APP/NAME": app_and_scheme,
    "APP/TRAY": tray_names,
    "BEFORE": sides,
    "COMMAND": command_ids,
    "DEVICE": device_names,
    "FINDING": findings,
    "FORM": forms,
    "FORM/LAYOUT": keyboards,
    "FORMAT": file_formats,
    "KEY": keys,
    "KEYS": keys,
    "LAYER": layers,
    "LAYOUT": layouts,
    "MARK": marks,
    "MODE": mode_names,
    "PURPOSE": purpose_ids,
    "RULE=VALUE": rules,
    "SCHEME": scheme_names,
    "SET": keyset_names,
}

#: Arguments that are files, beside those whose word says so.
_FILES = ("FILE", "FOLDER", "LISTING", "BASE", "OURS", "THEIRS")


def complete_values(parser: argparse.ArgumentParser) -> None:
    """Gives each argument that has no completer the one for its name, and files only where one is meant."""
    for action in parser._actions:
        if _takes_any_word(action):
            complete_with(action, _completer_of(action))


def _takes_any_word(action: argparse.Action) -> bool:
    return action.choices is None and not hasattr(action, "completer") and action.nargs != 0


def _completer_of(action: argparse.Action) -> object:
    """What completes an argument, by the word that stands for it."""
    from argcomplete.completers import FilesCompleter, SuppressCompleter

    name = str(action.metavar or action.dest.upper())
    if name in _ARGUMENTS:
        return _ARGUMENTS[name]
    if any(word in name for word in _FILES):
        return FilesCompleter()
    return SuppressCompleter()


def _desk(parsed_args: argparse.Namespace) -> "Desk | None":
    import os

    from olive_compass.desk.desk import Desk
    from olive_compass.desk.paths import find_root
    from olive_compass.errors import UserError

    folder = getattr(parsed_args, "desk", None) or os.environ.get("OLIVE_COMPASS_DESK")
    try:
        return Desk(find_root(folder or os.curdir))
    except UserError:
        return None
