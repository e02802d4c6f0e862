"""Bundles: one zip with a manifest, to carry schemes, sets or a whole desk.

A bundle from elsewhere is not trusted: nothing is written before all of it is checked.
"""

import hashlib
import io
import json
import os
import re
import tempfile
import zipfile
from collections.abc import Iterable, Mapping
from typing import Any, NamedTuple

from olive_compass.desk.desk import DESK_FILE, Desk
from olive_compass.desk.desk_file import DeskFile
from olive_compass.desk.desk_file import new_text as new_desk_text
from olive_compass.errors import Refused

FORMAT = "olive-compass-bundle/1"
MANIFEST = "manifest.json"

#: What a bundle may hold: files, and bytes of all of them and of one.
MOST_FILES = 5_000
MOST_BYTES = 200_000_000
LARGEST = 50_000_000

#: What may lie in a bundle, by its beginning. The history and hidden files never do.
FOLDERS = (
    "apps/",
    "schemes/",
    "macros/",
    "trays/",
    "keysets/",
    "forms/",
    "layouts/",
    "logs/",
    "documents/",
)
FILES = (DESK_FILE, "system.toml", "purposes.csv")

#: The same date for every file, so that the same desk gives the same bundle.
_DATE = (1980, 1, 1, 0, 0, 0)


class Bundle(NamedTuple):
    """What a bundle holds: what it is of, who made it when, and its files."""

    scope: str
    name: str
    made: str
    files: Mapping[str, bytes]


def files_of(root: str, beginnings: Iterable[str]) -> dict[str, bytes]:
    """The files of a desk that begin with one of ``beginnings``, by path."""
    found = {}
    for folder, folders, names in os.walk(root):
        folders[:] = sorted(each for each in folders if not each.startswith("."))
        for name in sorted(names):
            whole = os.path.join(folder, name)
            path = os.path.relpath(whole, root).replace(os.sep, "/")
            if name.startswith(".") or os.path.islink(whole) or not is_of_desk(path):
                continue
            if any(path.startswith(each) for each in beginnings):
                with open(whole, "rb") as file:
                    found[path] = file.read()
    return found


def pack(bundle: Bundle) -> bytes:
    """The zip of a bundle: the same files give the same bytes."""
    manifest = {
        "format": FORMAT,
        "scope": bundle.scope,
        "name": bundle.name,
        "made": bundle.made,
        "files": {
            path: {"sha256": hashlib.sha256(data).hexdigest(), "size": len(data)}
            for path, data in sorted(bundle.files.items())
        },
    }
    text = json.dumps(manifest, ensure_ascii=False, indent=2) + "\n"
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for path, data in ((MANIFEST, text.encode()), *sorted(bundle.files.items())):
            archive.writestr(zipfile.ZipInfo(path, _DATE), data, zipfile.ZIP_DEFLATED)
    return out.getvalue()


def unpack(data: bytes, file: str) -> Bundle:
    """The bundle in a zip; raises ``Refused`` where anything in it is not as it should be."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            return _read(archive, file)
    except Refused:
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
        raise Refused(f"This is no bundle: {error or 'it is broken'}.", file=file) from error
    except Exception as error:
        # The decompressors have errors of their own, which no common class holds together.
        if type(error).__module__ in ("zlib", "lzma", "_lzma", "bz2", "_bz2", "struct", "_struct"):
            raise Refused(f"This is no bundle: {error}.", file=file) from error
        raise


def opened(path: str, shown: str) -> Desk:
    """The desk that a bundle holds, in a temporary folder that goes with the process."""
    try:
        with open(path, "rb") as file:
            bundle = unpack(file.read(), shown)
    except OSError as error:
        raise Refused(f"This file cannot be read: {error.strerror}.", file=shown) from error
    folder = tempfile.TemporaryDirectory(prefix="olive-compass-")
    for name, data in bundle.files.items():
        whole = os.path.join(folder.name, *name.split("/"))
        os.makedirs(os.path.dirname(whole), exist_ok=True)
        with open(whole, "wb") as out:
            out.write(data)
    if DESK_FILE not in bundle.files:
        with open(os.path.join(folder.name, DESK_FILE), "wb") as out:
            out.write(new_desk_text(DeskFile(bundle.name)))
    desk = Desk(folder.name)
    # The folder is removed when the desk is no longer used.
    desk.__dict__["_kept"] = folder
    return desk


def is_of_desk(path: str) -> bool:
    """Whether a path may be that of a desk's file: relative, plain, below a folder of a desk."""
    if path in FILES:
        return True
    parts = path.split("/")
    plain = all(
        part and not part.startswith(".") and part == part.strip() and _is_plain(part)
        for part in parts
    )
    return plain and len(parts) > 1 and path.startswith(FOLDERS)


def _is_plain(part: str) -> bool:
    # Names that some system takes for a device, or signs that one of them does not allow.
    if re.fullmatch(r"(?i)(con|prn|aux|nul|com\d|lpt\d)(\..*)?", part):
        return False
    return part.isprintable() and not set(part) & set('\\:*?"<>|') and not part.endswith(".")


def _read(archive: zipfile.ZipFile, file: str) -> Bundle:
    infos = archive.infolist()
    if len(infos) > MOST_FILES + 1:
        raise Refused(f"The bundle holds more than {MOST_FILES} files.", file=file)
    total = 0
    names: set[str] = set()
    for info in infos:
        name = info.filename
        if name != MANIFEST and not is_of_desk(name):
            shown = name if name.isprintable() else ascii(name)
            raise Refused(f"The bundle has “{shown}”, which is no file of a desk.", file=file)
        if (info.external_attr >> 16) & 0o170000 not in (0, 0o100000):
            raise Refused(f"The bundle has “{name}”, which is a link or no plain file.", file=file)
        folded = name.casefold()
        if folded in names:
            raise Refused(f"The bundle has “{name}” twice.", file=file)
        names.add(folded)
        total += info.file_size
        if info.file_size > LARGEST or total > MOST_BYTES:
            raise Refused(
                f"The bundle unpacks to more than {MOST_BYTES // 1_000_000} MB, or has a file of "
                f"more than {LARGEST // 1_000_000} MB.",
                file=file,
            )
    if MANIFEST not in archive.namelist():
        raise Refused("The bundle has no manifest.", file=file)
    manifest = _manifest(_content(archive, MANIFEST, file), file)
    files = {
        info.filename: _content(archive, info.filename, file)
        for info in infos
        if info.filename != MANIFEST
    }
    listed = manifest["files"]
    if odd := sorted(set(listed) ^ set(files)):
        where = "bundle" if odd[0] in listed else "manifest"
        raise Refused(f"“{odd[0]}” is missing in the {where}.", file=file)
    for path, data in files.items():
        about = listed[path]
        if not isinstance(about, dict) or about.get("sha256") != hashlib.sha256(data).hexdigest():
            raise Refused(f"The sum of “{path}” is not that of the manifest.", file=file)
    scope, name, made = (str(manifest.get(key, "")) for key in ("scope", "name", "made"))
    return Bundle(scope, name, made, files)


def _content(archive: zipfile.ZipFile, name: str, file: str) -> bytes:
    """The content of one file, and no more than it says it has."""
    info = archive.getinfo(name)
    with archive.open(info) as part:
        data = part.read(info.file_size + 1)
    if len(data) != info.file_size:
        raise Refused(f"“{name}” is not as long as it says.", file=file)
    return data


def _manifest(data: bytes, file: str) -> dict[str, Any]:
    try:
        manifest = json.loads(data)
    except (ValueError, RecursionError) as error:
        raise Refused("The manifest is not JSON.", file=file) from error
    stated = manifest.get("format") if isinstance(manifest, dict) else None
    if stated != FORMAT:
        if isinstance(stated, str) and stated.startswith("olive-compass-bundle/"):
            says = f"The bundle is of the format {stated}; this program reads {FORMAT}."
        else:
            says = f'The manifest does not have "format": "{FORMAT}".'
        raise Refused(says, file=file)
    if not isinstance(manifest.get("files"), dict):
        raise Refused("The manifest lists no files.", file=file)
    return dict(manifest)
