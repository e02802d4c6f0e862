"""What a bundle says of its files: ``manifest.json``."""

from collections.abc import Mapping
from typing import Annotated, Final, Literal

from msgspec import Meta, Struct, json

from olive_compass.desk.texts.json_text import loads
from olive_compass.desk.texts.schemas import fitted, refuse_together, saying
from olive_compass.errors import UserError
from olive_compass.structs import uninterrupted

FORMAT: Final = "olive-compass-bundle/1"

_FILES = saying("The manifest lists no files.")
_STACKS = saying("The manifest's “stacks” is no table of lists of names.")
_SUM = saying("The sum of “{key}” is not that of the manifest.")


class FileTable(Struct, frozen=True, kw_only=True):
    """A file of the bundle: its sum, and its size in bytes."""

    sha256: Annotated[str, saying("“{value}” is no SHA-256 sum.", pattern="^[0-9a-f]{64}$")]
    size: Annotated[int, Meta(ge=0)] = 0


class ManifestTable(Struct, frozen=True, kw_only=True):
    """What a bundle holds. ``stacks`` are its schemes that are active, by application, the nearest first."""

    format: Literal["olive-compass-bundle/1"]
    scope: str = ""
    name: str = ""
    made: str = ""
    stacks: Annotated[
        Mapping[str, Annotated[tuple[Annotated[str, _STACKS], ...], _STACKS]], _STACKS
    ] = {}
    files: Annotated[Mapping[str, Annotated[FileTable, _SUM]], _FILES]


def read(data: bytes, file: str) -> ManifestTable:
    """What the manifest of the bundle ``file`` says; raises ``UserError`` with its mistakes."""
    try:
        content = loads(data.decode())
    except ValueError as error:
        raise UserError("The manifest is not JSON.", file=file) from error
    stated = None
    if isinstance(content, dict):
        stated = content.get("format")
    if stated != FORMAT:
        if isinstance(stated, str) and stated.startswith("olive-compass-bundle/"):
            says = f"The bundle is of the format {stated}; this program reads {FORMAT}."
        else:
            says = f'The manifest does not have "format": "{FORMAT}".'
        raise UserError(says, file=file)
    said, mistakes = fitted(content, ManifestTable, "a manifest")
    refuse_together(mistakes, file)
    return said


def text(manifest: ManifestTable) -> bytes:
    """The file of a manifest."""
    with uninterrupted():
        return json.format(json.encode(manifest), indent=2) + b"\n"
