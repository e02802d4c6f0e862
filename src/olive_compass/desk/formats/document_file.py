"""A document of the stand-in as JSON."""

import json
from typing import Any

from olive_compass.core.macros.document import Document, Thing
from olive_compass.desk.texts.json_text import load
from olive_compass.errors import UserError

FORMAT = "olive-compass-document/1"

_KINDS: dict[str, type] = {
    "format": str,
    "name": str,
    "mode": str,
    "things": list,
    "selection": list,
    "settings": dict,
    "deeds": list,
    "panels": list,
    "shown": list,
    "zoom": int,
    "saved": bool,
}


def read(data: bytes, file: str) -> Document:
    """The document in a file; raises ``UserError`` where it is none."""
    content = load(data, file)
    if not isinstance(content, dict) or content.get("format") != FORMAT:
        raise UserError(f'The document does not have "format": "{FORMAT}".', file=file)
    for name, value in content.items():
        if name not in _KINDS:
            raise UserError(f"“{name}” is no key of a document.", file=file)
        if not isinstance(value, _KINDS[name]):
            raise UserError(f"“{name}” has a value of the wrong kind.", file=file)
    things = tuple(
        _thing(each, number, file) for number, each in enumerate(content.get("things", []), 1)
    )
    # Macros name things by id: of two with one name nobody could say which is meant.
    ids = {thing.id for thing in things}
    if len(ids) < len(things):
        raise UserError("Two things have the same id.", file=file)
    texts = {
        name: _texts(content, name, file) for name in ("selection", "deeds", "panels", "shown")
    }
    if missing := [id_ for id_ in texts["selection"] if id_ not in ids]:
        raise UserError(f"The selection names “{missing[0]}”, which is not there.", file=file)
    blank = Document()
    return Document(
        name=content.get("name", blank.name),
        mode=content.get("mode", blank.mode),
        things=things,
        selection=texts["selection"],
        settings={name: str(value) for name, value in content.get("settings", {}).items()},
        deeds=texts["deeds"],
        panels=texts["panels"],
        shown=texts["shown"] or blank.shown,
        zoom=content.get("zoom", 0),
        saved=content.get("saved", False),
    )


def as_json(document: Document) -> dict[str, Any]:
    """The document as JSON: what the file holds."""
    return {
        "format": FORMAT,
        "name": document.name,
        "mode": document.mode,
        "things": [
            {
                "id": thing.id,
                "what": thing.what,
                # Whole numbers as a person writes them: 120, not 120.0.
                **({"at": [int(n) if n == int(n) else n for n in thing.at]} if thing.at else {}),
                **({"values": dict(thing.values)} if thing.values else {}),
            }
            for thing in document.things
        ],
        "selection": list(document.selection),
        "settings": dict(document.settings),
        "deeds": list(document.deeds),
        "panels": list(document.panels),
        "shown": list(document.shown),
        "zoom": document.zoom,
        "saved": document.saved,
    }


def text(document: Document) -> bytes:
    """The file of a document."""
    return (json.dumps(as_json(document), ensure_ascii=False, indent=2) + "\n").encode()


def _thing(value: Any, number: int, file: str) -> Thing:
    if not isinstance(value, dict) or not isinstance(value.get("id"), str):
        raise UserError(f"Thing {number} needs an id.", file=file)
    at = value.get("at")
    if at is not None and not (
        isinstance(at, list)
        and len(at) == 2
        and all(isinstance(n, (int, float)) and abs(n) < 1e9 for n in at)
    ):
        raise UserError(f"“at” of {value['id']} is two numbers.", file=file)
    values = value.get("values", {})
    if not isinstance(values, dict):
        raise UserError(f"“values” of {value['id']} is a table.", file=file)
    point = (float(at[0]), float(at[1])) if at is not None else None
    texts = {str(name): str(each) for name, each in values.items()}
    return Thing(id=value["id"], what=str(value.get("what", "Thing")), at=point, values=texts)


def _texts(content: dict[str, Any], name: str, file: str) -> tuple[str, ...]:
    values = content.get(name, [])
    if not all(isinstance(value, str) for value in values):
        raise UserError(f"“{name}” is a list of texts.", file=file)
    return tuple(values)
