"""Writes a macro as TOML, and edits one so that a person's comments and order stay.

A step's block in the file, with the comments right above it, moves as a whole; only the fields
that differ are touched.
"""

import re
from collections.abc import Mapping

from olive_compass.core.macros.macro import Macro, Step
from olive_compass.desk.formats.macro_file import FORMAT
from olive_compass.desk.texts.toml_editor import TomlEditor, as_written
from olive_compass.desk.texts.toml_text import line_end, quoted

_HEAD = ("app", "title", "does", "modes", "version", "recorded")


def new_text(macro: Macro) -> bytes:
    """The file of a macro that has none yet."""
    lines = [f'format = "{FORMAT}"']
    lines += [f"{name} = {text}" for name, text in _head(macro).items()]
    text = "\n".join(lines) + "\n" + "".join(f"\n{step_text(step)}" for step in macro.steps)
    return text.encode()


def edited(data: bytes, before: Macro, after: Macro) -> bytes:
    """The file of ``before`` with what ``after`` has otherwise put in."""
    text = data.decode("utf-8-sig")
    newline = line_end(text)
    head, blocks = _blocks(text.replace("\r\n", "\n"))
    old_head, new_head = _head(before), _head(after)
    if old_head != new_head:
        editor = TomlEditor(head)
        for name in _HEAD:
            if name not in new_head:
                editor.remove(name)
            elif new_head[name] != old_head.get(name):
                editor.put((name,), as_written(new_head[name]))
        head = editor.data.decode()
    parts = [head.rstrip("\n") + "\n"]
    for step in after.steps:
        # A step is known by the block that it was read from, so that what a person wrote there goes with
        # it.
        if step.origin < 0 or step.origin >= len(blocks):
            parts.append(step_text(step))
        elif step.meaning == before.steps[step.origin].meaning:
            parts.append(blocks[step.origin])
        else:
            parts.append(_edited_block(blocks[step.origin], before.steps[step.origin], step))
    return "\n".join(part.strip("\n") + "\n" for part in parts).replace("\n", newline).encode()


def step_text(step: Step) -> str:
    """The block of a step."""
    lines = [f"{name} = {text}" for name, text in _fields(step).items()]
    return "\n".join(["[[steps]]", *lines]) + "\n"


def _head(macro: Macro) -> dict[str, str]:
    fields = {
        "app": quoted(macro.app),
        "title": quoted(macro.title),
        "does": quoted(macro.does) if macro.does else "",
        "modes": f"[{', '.join(map(quoted, macro.modes))}]" if macro.modes else "",
        "version": quoted(macro.version) if macro.version else "",
        "recorded": quoted(macro.recorded) if macro.recorded else "",
    }
    return {name: text for name, text in fields.items() if text}


def _fields(step: Step) -> dict[str, str]:
    fields = {
        "command": quoted(step.command) if not step.press else "",
        "press": quoted(step.press) if step.press else "",
        "inputs": _table(step.inputs),
        "ask": _table(step.ask),
        "keep": f"[{', '.join(map(quoted, step.keep))}]" if step.keep else "",
        "note": quoted(step.note) if step.note else "",
        "ended": quoted(step.ended) if step.ended else "",
    }
    return {name: text for name, text in fields.items() if text}


def _table(values: Mapping[str, str]) -> str:
    if not values:
        return ""
    return (
        "{ " + ", ".join(f"{_key(name)} = {quoted(value)}" for name, value in values.items()) + " }"
    )


def _key(name: str) -> str:
    if re.fullmatch(r"[A-Za-z0-9_-]+", name):
        return name
    return quoted(name)


def _blocks(text: str) -> tuple[str, list[str]]:
    """What stands before the first step, and the block of each with the comments above it."""
    lines = text.split("\n")
    starts = [n for n, line in enumerate(lines) if re.match(r"\s*\[\[\s*steps\s*\]\]", line)]
    begins = []
    for start in starts:
        while start > 0 and lines[start - 1].lstrip().startswith("#"):
            start -= 1
        begins.append(start)
    ends = [*begins[1:], len(lines)][: len(begins)]
    blocks = ["\n".join(lines[a:b]) for a, b in zip(begins, ends, strict=True)]
    return "\n".join(lines[: begins[0]] if begins else lines), blocks


def _edited_block(block: str, before: Step, after: Step) -> str:
    head, _, body = block.partition("]]")
    editor = TomlEditor(body)
    old, new = _fields(before), _fields(after)
    for name in old.keys() - new.keys():
        editor.remove(name)
    # A note of the writer at the end of a line stays where only the value changes.
    for name, text in new.items():
        if old.get(name) == text:
            continue
        if name in old:
            editor.put((name,), as_written(text))
        else:
            body = editor.data.decode().rstrip("\n") + f"\n{name} = {text}\n"
            editor = TomlEditor(body)
    return f"{head}]]{editor.data.decode()}"
