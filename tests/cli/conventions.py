"""docs/json.md, read: what every field of the JSON is."""

import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

PAGE = Path(__file__).parents[2] / "docs" / "json.md"


def table(heading: str) -> dict[str, set[str]]:
    """Of each row of the table under a heading: what its second column lists."""
    text = PAGE.read_text(encoding="utf-8").split(f"\n## {heading}\n", 1)[1].split("\n## ", 1)[0]
    rows = re.findall(r"^\| `([^`]*)` \| (.+?) \| (.+) \|$", text, re.MULTILINE)
    assert all(meaning.strip() for _, _, meaning in rows)
    return {name: set(takes.replace("`", "").split(", ")) for name, takes, _ in rows}


def kind_of(value: Any) -> str:
    """What a value is, in the words of the page."""
    if value is None:
        return "null"
    if isinstance(value, bool):
        return "true/false"
    if isinstance(value, (int, float)):
        return "number"
    if isinstance(value, list):
        return "list"
    return "text" if isinstance(value, str) else "object"


def fields(value: Any, maps: frozenset[str]) -> Iterator[tuple[str, str]]:
    """Every field anywhere in a JSON value with what it is; the keys of a map are no fields."""
    if isinstance(value, list):
        for each in value:
            yield from fields(each, maps)
    elif isinstance(value, dict):
        for name, inner in value.items():
            is_map = name in maps and isinstance(inner, dict)
            yield name, "map" if is_map else kind_of(inner)
            for each in inner.values() if is_map else (inner,):
                yield from fields(each, maps)


def breaches(value: Any) -> set[tuple[str, str]]:
    """The fields of a JSON value that the page does not have, or has as something else."""
    page = table("Fields of the JSON")
    maps = frozenset(name for name, kinds in page.items() if "map" in kinds)
    return {(name, kind) for name, kind in fields(value, maps) if kind not in page.get(name, ())}
