"""Writes the pages of the reference that follow from the program: commands, options, findings and the schemas of files.

Usage: python tools/write_reference.py
"""

import argparse
import json
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

from olive_compass.cli.parsing import COMMON, command_parser
from olive_compass.cli.registry import GROUPS, command_module, command_names
from olive_compass.cli.terminal.action_lines import general_advice
from olive_compass.core.findings import SEVERITIES, kinds
from olive_compass.core.wording import capital
from olive_compass.desk.formats.app_file import AppTable
from olive_compass.desk.formats.desk_file import DeskTable
from olive_compass.desk.formats.device_file import DeviceTable
from olive_compass.desk.formats.document_file import DocumentTable
from olive_compass.desk.formats.keyboard_files import FormTable, LayoutTable
from olive_compass.desk.formats.keyset_file import KeySetTable
from olive_compass.desk.formats.log_file import EventLine, HeadLine
from olive_compass.desk.formats.macro_file import MacroTable
from olive_compass.desk.formats.manifest_file import ManifestTable
from olive_compass.desk.formats.scheme_file import SchemeTable
from olive_compass.desk.formats.seat_file import SeatFile
from olive_compass.desk.formats.system_file import SystemTable
from olive_compass.desk.formats.tray_file import TraysTable
from olive_compass.desk.shortcuts.file_format import FileFormatTable
from olive_compass.desk.texts.schemas import published

DOCS = Path(__file__).parents[1] / "docs"

WRITTEN = "This page is written by `python tools/write_reference.py`."

#: The most meanings of one option that are listed beside it.
MOST_MEANINGS = 4


def main() -> None:
    for name, text in pages().items():
        (DOCS / name).write_text(text, encoding="utf-8")


def pages() -> dict[str, str]:
    """The pages by their file names."""
    written = {"commands.md": commands(), "options.md": options(), "findings.md": findings()}
    return written | {f"formats/{name}.schema.json": text for name, text in schemas()}


#: The formats of files: what each is called, and what says it.
FORMATS: dict[str, tuple[str, tuple[type, ...]]] = {
    "app": ("an application", (AppTable,)),
    "bundle": ("the manifest of a bundle", (ManifestTable,)),
    "desk": ("a desk", (DeskTable,)),
    "device": ("a device", (DeviceTable,)),
    "document": ("a document of the simulator", (DocumentTable,)),
    "fileformat": ("a file format", (FileFormatTable,)),
    "form": ("the form of a keyboard", (FormTable,)),
    "keyset": ("a key set", (KeySetTable,)),
    "layout": ("the layout of a keyboard", (LayoutTable,)),
    "log": ("a line of a log", (HeadLine, EventLine)),
    "macro": ("a macro", (MacroTable,)),
    "scheme": ("a scheme", (SchemeTable,)),
    "seat": ("a seat", (SeatFile,)),
    "system": ("the keys of operating systems", (SystemTable,)),
    "trays": ("the trays of an application", (TraysTable,)),
}


def schemas() -> Iterator[tuple[str, str]]:
    """The JSON Schema of each format, made from the record as which its files are read."""
    for name, (title, kinds_of_lines) in FORMATS.items():
        schema = published(f"Olive Compass: {title}", *kinds_of_lines)
        yield name, json.dumps(schema, ensure_ascii=False, indent=2) + "\n"


def commands() -> str:
    """All commands, in the groups and the order of ``help --all``."""
    modules = {name: command_module(name) for name in command_names()}
    parts = [
        f"# Commands\n\n`olive-compass help COMMAND` shows the same at a terminal. {WRITTEN}\n"
    ]
    for group in GROUPS:
        parts.append(f"## {capital(group)}\n")
        inside = [name for name in modules if group == modules[name].GROUP]
        for name in sorted(inside, key=lambda name: modules[name].ORDER):
            parser = command_parser(name, modules[name])
            parts.append(_section(3, name, parser))
            for verb, inner in verbs(parser).items():
                parts.append(_section(4, f"{name} {verb}", inner))
    return "\n".join(parts)


def verbs(parser: argparse.ArgumentParser) -> dict[str, argparse.ArgumentParser]:
    """The verbs of a command that help lists, each with its parser."""
    for action in parser._actions:
        if isinstance(action, argparse._SubParsersAction):
            return {each.dest: action.choices[each.dest] for each in action._choices_actions}
    return {}


def _section(level: int, name: str, parser: argparse.ArgumentParser) -> str:
    """What help says of a command or a verb."""
    lines = [f"{'#' * level} {name}\n", f"{parser.description}\n"]
    rows = [f"| `{_cell(_named(each))}` | {_cell(each.help)} |" for each in _shown(parser)]
    if rows:
        lines += ["| argument | meaning |\n| --- | --- |", *rows, ""]
    # Those of a command with verbs stand below each verb.
    examples = [] if verbs(parser) else _examples(parser)
    if examples:
        lines += ["```", *examples, "```\n"]
    return "\n".join(lines)


def _shown(parser: argparse.ArgumentParser) -> list[argparse.Action]:
    hidden = (argparse._HelpAction, argparse._SubParsersAction)
    return [
        each
        for each in parser._actions
        if each.help != argparse.SUPPRESS and not isinstance(each, hidden)
    ]


def _named(action: argparse.Action) -> str:
    """An argument as it is typed."""
    value = _value(action)
    if not action.option_strings:
        return value
    return ", ".join(f"{option} {value}".strip() for option in action.option_strings)


def _value(action: argparse.Action) -> str:
    """What stands for the value of an argument, ``""``: it takes none."""
    if action.nargs == 0:
        return ""
    if isinstance(action.metavar, tuple):
        return " ".join(action.metavar)
    choices = "|".join(map(str, action.choices or ()))
    return action.metavar or choices or action.dest.upper()


def _cell(text: str | None) -> str:
    return (text or "").replace("|", "\\|").replace("\n", " ").replace("%%", "%")


def _examples(parser: argparse.ArgumentParser) -> list[str]:
    """The examples of a command or a verb, as they stand in its help."""
    _, _, below = (parser.epilog or "").partition("examples:\n")
    return [line.strip() for line in below.partition("\n\n")[0].splitlines()]


def options() -> str:
    """Every option with what it takes and what it means."""
    meanings: dict[str, Counter[str]] = {}
    takes: dict[str, set[str]] = {}
    for parser in every_parser():
        for action in _shown(parser):
            for option in action.option_strings[-1:]:
                meanings.setdefault(option, Counter())[_cell(action.help)] += 1
                takes.setdefault(option, set()).update(taken(action))
    parts = [f"# Options\n\nAn option means the same wherever it stands. {WRITTEN}\n"]
    parts.append("## Options for every command\n\n| option | meaning |\n| --- | --- |")
    parts += [f"| `{_cell(option)}` | {says} |" for option, says in COMMON.items()]
    parts.append("\n## Options of commands\n\n| option | takes | meaning |\n| --- | --- | --- |")
    for option in sorted(meanings):
        values = ", ".join(f"`{_cell(each)}`" for each in sorted(takes[option])) or "nothing"
        says = [text for text, _ in meanings[option].most_common()]
        more = "; and more" if len(says) > MOST_MEANINGS else ""
        parts.append(f"| `{option}` | {values} | {'; '.join(says[:MOST_MEANINGS])}{more} |")
    return "\n".join(parts) + "\n"


def every_parser() -> Iterator[argparse.ArgumentParser]:
    """The parsers of all commands and verbs."""
    for name in command_names():
        parser = command_parser(name, command_module(name))
        yield parser
        yield from verbs(parser).values()


def taken(action: argparse.Action) -> set[str]:
    """What an option takes: words to choose from, or what stands for its value."""
    if action.choices:
        return set(map(str, action.choices))
    return {_value(action)} - {""}


def findings() -> str:
    """All that ``check`` finds."""
    modules = sorted(kinds().values(), key=lambda m: (SEVERITIES.index(m.SEVERITY), m.ID))
    parts = [
        "# What `check` finds\n\nEach finding has an id, a severity, the place in a file, a sentence on what is wrong, "
        "and what to do. `olive-compass explain ID` shows the same texts.\n" + WRITTEN + "\n"
    ]
    for module in modules:
        parts.append(
            f"## {module.ID}\n\nSeverity: {module.SEVERITY}.\n\n{module.SAYS}\n\n{general_advice(module)}\n"
        )
    return "\n".join(parts)


if __name__ == "__main__":
    main()
