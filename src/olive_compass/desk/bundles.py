"""Bundles: one zip with a manifest, to carry schemes, sets or a whole desk.

A bundle from elsewhere is not trusted: nothing is written before all of it is checked.
"""

import io
import os
import tempfile
import zipfile
from collections.abc import Iterable, Mapping
from hashlib import sha256
from itertools import accumulate
from types import MappingProxyType

from msgspec import Struct

from olive_compass.core.keys.keyboards import Platform
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import manifest_file
from olive_compass.desk.formats.desk_file import DeskFile
from olive_compass.desk.formats.desk_file import new_text as new_desk_text
from olive_compass.desk.formats.manifest_file import FORMAT, FileTable, ManifestTable
from olive_compass.desk.paths import DESK_FILE
from olive_compass.desk.storage.file_names import as_stored, is_storable
from olive_compass.desk.storage.plain_file import read_whole
from olive_compass.errors import UserError

MANIFEST = "manifest.json"

#: What a bundle may hold: files, and bytes of all of them and of one.
MOST_FILES = 5_000
DEEPEST = 20
MOST_BYTES = 200_000_000
LARGEST = 50_000_000

#: What may lie in a bundle, by its beginning. The history and hidden files never do.
FOLDERS = (
    "apps/",
    "schemes/",
    "macros/",
    "trays/",
    "keysets/",
    "keyboards/",
    "devices/",
    "fileformats/",
    "logs/",
    "tallies/",
    "documents/",
)
FILES = (DESK_FILE, "system.toml", "purposes.csv")

#: The same date for every file, so that the same desk gives the same bundle.
_DATE = (1980, 1, 1, 0, 0, 0)


class Bundle(Struct, frozen=True, kw_only=True):
    """What a bundle holds: what it is of, who made it when, and its files."""

    scope: str
    name: str
    made: str
    files: Mapping[str, bytes]
    #: The schemes that count for each application of the bundle, the nearest first.
    stacks: Mapping[str, tuple[str, ...]] = MappingProxyType({})


class Found(Struct, frozen=True):
    """The files of a desk, by path, and those that no bundle can hold, each with the reason."""

    files: Mapping[str, bytes]
    left_out: Mapping[str, str]


def _content_or_reason(whole: str, path: str) -> bytes | str:
    """What a file of a desk holds, or why it is left out."""
    if os.path.islink(whole):
        return "a link"
    if not is_of_desk(path):
        return "a name that not every system can store"
    try:
        return read_whole(whole, path)
    except UserError as refused:
        return refused.what.rstrip(".").removeprefix("This is ")


def files_of(root: str, beginnings: Iterable[str]) -> Found:
    """The files of a desk that begin with one of ``beginnings``."""
    beginnings = tuple(beginnings)
    found: dict[str, bytes] = {}
    left_out: dict[str, str] = {}
    for folder, folders, names in os.walk(root):
        # Links of folders are not walked into, and are said to be left out like those of files.
        linked = [each for each in folders if os.path.islink(os.path.join(folder, each))]
        folders[:] = sorted(each for each in folders if not each.startswith("."))
        for name in sorted([*names, *linked]):
            whole = os.path.join(folder, name)
            path = os.path.relpath(whole, root).replace(os.sep, "/")
            if name.startswith(".") or not path.startswith(beginnings):
                continue
            content = _content_or_reason(whole, path)
            if isinstance(content, str):
                left_out[path] = content
            else:
                found[path] = content
    return Found(found, left_out)


def pack(bundle: Bundle) -> bytes:
    """The zip of a bundle: the same files give the same bytes."""
    manifest = ManifestTable(
        format=FORMAT,
        scope=bundle.scope,
        name=bundle.name,
        made=bundle.made,
        stacks=dict(sorted(bundle.stacks.items())),
        files={
            path: FileTable(sha256=sha256(data).hexdigest(), size=len(data))
            for path, data in sorted(bundle.files.items())
        },
    )
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for path, data in ((MANIFEST, manifest_file.text(manifest)), *sorted(bundle.files.items())):
            archive.writestr(zipfile.ZipInfo(path, _DATE), data, zipfile.ZIP_DEFLATED)
    return out.getvalue()


def unpack(data: bytes, file: str) -> Bundle:
    """The bundle in a zip; raises ``UserError`` where anything in it is not as it should be."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            return _read(archive, file)
    except UserError:
        raise
    except (
        zipfile.BadZipFile,
        zipfile.LargeZipFile,
        EOFError,
        OSError,
        ValueError,
        NotImplementedError,
        RuntimeError,
        UnicodeError,
        IndexError,
        KeyError,
    ) as error:
        raise UserError(f"This is no bundle: {error or 'it is broken'}.", file=file) from error
    except Exception as error:
        # The decompressors have errors of their own, which no common class holds together.
        if type(error).__module__ in ("zlib", "lzma", "_lzma", "bz2", "_bz2", "struct", "_struct"):
            raise UserError(f"This is no bundle: {error}.", file=file) from error
        raise


def opened(path: str, shown: str, platform: Platform) -> Desk:
    """The desk that a bundle holds as on a platform, in a temporary folder that goes with the process."""
    try:
        bundle = unpack(read_whole(path, shown), shown)
    except OSError as error:
        raise UserError(f"This file cannot be read: {error.strerror}.", file=shown) from error
    folder = tempfile.TemporaryDirectory(prefix="olive-compass-")
    for name, data in bundle.files.items():
        whole = os.path.join(folder.name, *name.split("/"))
        os.makedirs(os.path.dirname(whole), exist_ok=True)
        with open(whole, "wb") as out:
            out.write(data)
    if DESK_FILE not in bundle.files:
        with open(os.path.join(folder.name, DESK_FILE), "wb") as out:
            out.write(new_desk_text(DeskFile(name=bundle.name)))
    desk = Desk(folder.name, platform=platform)
    # The folder is removed when the desk is no longer used.
    desk.__dict__["_kept"] = folder
    return desk


def is_of_desk(path: str) -> bool:
    """Whether a path may be that of a desk's file: relative, plain, below a folder of a desk."""
    if path in FILES:
        return True
    parts = path.split("/")
    deep = 1 < len(parts) <= DEEPEST
    return deep and path.startswith(FOLDERS) and all(map(is_storable, parts))


def _read(archive: zipfile.ZipFile, file: str) -> Bundle:
    infos = archive.infolist()
    _refuse_names([info.filename for info in infos], file)
    _refuse_sizes(infos, file)
    manifest = manifest_file.read(_content(archive, MANIFEST, file), file)
    files = {
        info.filename: _content(archive, info.filename, file)
        for info in infos
        if info.filename != MANIFEST
    }
    _refuse_other_files(files, manifest.files, file)
    return Bundle(
        scope=manifest.scope,
        name=manifest.name,
        made=manifest.made,
        files=files,
        stacks=manifest.stacks,
    )


def _refuse_names(names: list[str], file: str) -> None:
    """Raises ``UserError`` where a name is not that of a desk's file, or two would be one somewhere."""
    if len(names) > MOST_FILES + 1:
        raise UserError(f"The bundle holds more than {MOST_FILES} files.", file=file)
    stored: set[str] = set()
    for name in names:
        if name != MANIFEST and not is_of_desk(name):
            shown = (name if name.isprintable() else ascii(name))[:120]
            raise UserError(f"The bundle has “{shown}”, which is no file of a desk.", file=file)
        # Two names that are one where capitals do not count would overwrite each other there.
        if as_stored(name) in stored:
            raise UserError(f"The bundle has “{name}” twice.", file=file)
        stored.add(as_stored(name))
    for name in stored:
        for folder in accumulate(name.split("/")[:-1], "{}/{}".format):
            if folder in stored:
                raise UserError(f"The bundle has “{folder}” as a file and as a folder.", file=file)
    if MANIFEST not in names:
        raise UserError("The bundle has no manifest.", file=file)


def _refuse_sizes(infos: list[zipfile.ZipInfo], file: str) -> None:
    """Raises ``UserError`` where something is no plain file, or unpacks to too much."""
    total = 0
    for info in infos:
        if (info.external_attr >> 16) & 0o170000 not in (0, 0o100000):
            says = f"The bundle has “{info.filename}”, which is a link or no plain file."
            raise UserError(says, file=file)
        total += info.file_size
        if info.file_size > LARGEST or total > MOST_BYTES:
            raise UserError(
                f"The bundle unpacks to more than {MOST_BYTES // 1_000_000} MB, or has a file of "
                f"more than {LARGEST // 1_000_000} MB.",
                file=file,
            )


def _refuse_other_files(
    files: Mapping[str, bytes], listed: Mapping[str, FileTable], file: str
) -> None:
    """Raises ``UserError`` where the files are not those that the manifest lists."""
    if odd := sorted(set(listed) ^ set(files)):
        where = "manifest"
        if odd[0] in listed:
            where = "bundle"
        raise UserError(f"“{odd[0]}” is missing in the {where}.", file=file)
    for path, data in files.items():
        if listed[path].sha256 != sha256(data).hexdigest():
            raise UserError(f"The sum of “{path}” is not that of the manifest.", file=file)


def _content(archive: zipfile.ZipFile, name: str, file: str) -> bytes:
    """The content of one file, and no more than it says it has."""
    info = archive.getinfo(name)
    with archive.open(info) as part:
        data = part.read(info.file_size + 1)
    if len(data) != info.file_size:
        raise UserError(f"“{name}” is not as long as it says.", file=file)
    return data


def packed_stacks(desk: Desk, files: Mapping[str, bytes]) -> dict[str, tuple[str, ...]]:
    """The schemes of the bundle that count here, by application."""
    packed = {tuple(path[:-5].split("/")[1:]) for path in files if path.startswith("schemes/")}
    return {
        app: tuple(name for name in desk.stack_names(app) if (app, name) in packed)
        for app in sorted({each[0] for each in packed})
    }
