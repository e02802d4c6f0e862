"""A document of the simulator as JSON."""

from collections.abc import Iterator, Mapping
from typing import Annotated, Any, Literal

from olive_compass.core.macros.document import Document, Thing
from olive_compass.desk.texts import json_text
from olive_compass.desk.texts.schemas import Format, Mistake, Texts, fitted, refuse_together, saying
from olive_compass.errors import UserError

FORMAT = "olive-compass-document/1"

_ID = saying("A thing needs an id.", lacks="A thing needs an id.")
_NUMBER = Annotated[float, saying("“at” is two numbers.", gt=-1e9, lt=1e9)]


class ThingTable(Format, frozen=True, kw_only=True):
    """Something that was placed: what it is, where, and its values."""

    id: Annotated[str, _ID]
    what: str = "Thing"
    at: Annotated[tuple[_NUMBER, _NUMBER], saying("“at” is two numbers.")] | None = None
    values: Mapping[str, str] = {}


class DocumentTable(Format, frozen=True, kw_only=True):
    """What the simulator holds."""

    format: Literal["olive-compass-document/1"]
    name: str = Document().name
    mode: str = Document().mode
    things: tuple[Annotated[ThingTable, _ID], ...] = ()
    selection: Texts = ()
    settings: Mapping[str, str] = {}
    deeds: Texts = ()
    panels: Texts = ()
    shown: Texts = Document().shown
    zoom: int = 0
    saved: bool = False


def read(data: bytes, file: str) -> Document:
    """The document in a file; raises ``UserError`` with all its mistakes."""
    content = json_text.load(data, file)
    if not isinstance(content, dict) or content.get("format") != FORMAT:
        raise UserError(f'The document does not have "format": "{FORMAT}".', file=file)
    said, mistakes = fitted(content, DocumentTable, "a document")
    refuse_together([*mistakes, *_wrong(said)], file)
    return Document(
        name=said.name,
        mode=said.mode,
        things=tuple(
            Thing(id=each.id, what=each.what, at=each.at, values=each.values)
            for each in said.things
        ),
        selection=said.selection,
        settings=said.settings,
        deeds=said.deeds,
        panels=said.panels,
        shown=said.shown or Document().shown,
        zoom=said.zoom,
        saved=said.saved,
    )


def _wrong(said: DocumentTable) -> Iterator[Mistake]:
    # Macros name things by id: of two with one name nobody could say which is meant.
    ids = {thing.id for thing in said.things}
    if len(ids) < len(said.things):
        yield Mistake(("things",), "Two things have the same id.")
    for id_ in said.selection:
        if id_ not in ids:
            yield Mistake(("selection",), f"The selection names “{id_}”, which is not there.")


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
    return json_text.text(as_json(document)).encode()
