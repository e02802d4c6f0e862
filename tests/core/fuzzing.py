"""Broken files: what accidents and strangers make of the files that every reader must stand.

``broken(draw, seeds)`` makes one input for one reader. All of it comes from a ``random.Random``, so
that a seed tells which input it was.
"""

import io
import random
import re
import tempfile
import zipfile
from collections.abc import Callable, Mapping
from importlib.resources import files
from typing import NamedTuple

from olive_compass.desk import bundles, log_counting, merging
from olive_compass.desk.formats import (
    app_file,
    catalogue_file,
    desk_file,
    device_file,
    document_file,
    file_format_file,
    keyset_file,
    log_file,
    macro_file,
    purposes_file,
    scheme_file,
    seat_file,
    system_file,
    tally_file,
    tray_file,
)
from olive_compass.desk.importing import read_rows
from olive_compass.desk.shortcuts import delivery, shortcuts_file
from olive_compass.desk.storage import records
from olive_compass.desk.texts.toml_editor import TomlEditor
from olive_compass.errors import UserError

MODES = frozenset(["everywhere", "draw", "canvas", "vertex", "label"])

#: What stands in the place of a value, or anywhere.
VALUES = (
    "[]",
    "{}",
    "[1, 2]",
    "{ a = 1 }",
    "true",
    "1e400",
    "-0.0",
    "nan",
    "12:30:00",
    "1979-05-27",
    '""',
    '"²"',
    '"٣"',
    "'\\u0000'",
    '"\\u202e"',
    '"\\u2028"',
    "9" * 5_000,
    '"' + "x" * 20_000 + '"',
    "[" * 3_000,
    "{ a = " * 2_000,
    ".".join(["a"] * 3_000) + " = 1",
)
BYTES = (
    b"\r",
    b"\n",
    b"\x00",
    b"\x1b[2J",
    b"\xff\xfe",
    b"\xed\xa0\x80",
    b"\xc2\xb2",
    b"\xe2\x80\xa8",
    b"\xe2\x80\xae",
    b'"',
    b"'''",
    b'"""',
    b"[",
    b"]]",
    b"{",
    b"=",
    b",",
    b";",
    b"#",
    b"\\",
    b"\\ud800",
    b"<table>",
    b"<<<<<<< ours\n",
    b"=+1",
    b"9" * 400,
)


class Reader(NamedTuple):
    """Something that reads files: its name, sound files to begin with, and how it is called."""

    name: str
    seeds: tuple[bytes, ...]
    read: Callable[[bytes], object]


def readers() -> tuple[Reader, ...]:
    """Every reader of files, with sound files of its own."""
    demo = _demo()

    def of(*endings: str) -> tuple[bytes, ...]:
        return tuple(data for path, data in demo.items() if path.endswith(endings))

    listings = of("keys.csv", "-5.csv")
    return (
        Reader("desk", of("desk.toml"), lambda d: desk_file.read(d, "f")),
        Reader("system", of("system.toml"), lambda d: system_file.read(d, "f")),
        Reader("app", of("app.toml"), lambda d: app_file.read(d, "f", "quillmap")),
        Reader("catalogue", of("commands.csv"), lambda d: catalogue_file.read(d, "f", 4, "mac")),
        Reader("scheme", of("house.toml"), lambda d: scheme_file.read(d, "f", "mine", MODES, 4)),
        Reader("macro", (_MACRO,), lambda d: macro_file.read(d, "f", "quillmap", "m")),
        Reader("key set", (_KEYSET,), lambda d: keyset_file.read(d, "f", "k")),
        Reader("purposes", of("purposes.csv"), lambda d: purposes_file.read(d, "f")),
        Reader("document", of("hartmoor.json"), lambda d: document_file.read(d, "f")),
        Reader("log", of(".jsonl"), lambda d: log_file.read(d, "f.jsonl")),
        Reader("listing, CSV", listings, lambda d: _listing("f.csv", d)),
        Reader("listing, JSON", (_JSON,), lambda d: _listing("f.json", d)),
        Reader("listing, page", (_PAGE,), lambda d: _listing("f.html", d)),
        Reader("listing, text", listings, lambda d: read_rows("f.txt", d, r"(?P<title>\S+)\s")),
        Reader("listing, columns", (_COLUMNS, _MARKDOWN), lambda d: _listing("f.txt", d)),
        Reader("listing, workbook", (_workbook(),), lambda d: _listing("f.xlsx", d)),
        Reader("device", (_DEVICE,), lambda d: device_file.read(d, "f", "pad")),
        Reader("file format", of("kiln.toml"), lambda d: file_format_file.read(d, "f", "kiln")),
        Reader("seat", (_SEAT,), lambda d: seat_file.read(d, "f")),
        Reader("trays", of("trays/quillmap.toml") or (_TRAYS,), _trays),
        Reader("tally", (_TALLY,), lambda d: tally_file.read(d, "f")),
        Reader("counting", of(".jsonl"), _counted),
        Reader("counting, table", (_LOG,), _counted),
        Reader("own file of an application", of("keys.kiln"), _own_file(of("kiln.toml")[0])),
        Reader("record of the history", (_RECORD, _STEP), _record),
        Reader("edited TOML", of("house.toml", "app.toml"), TomlEditor),
        Reader(
            "house in a desk", of("desk.toml"), lambda d: desk_file.with_house(d, {"from": "x"})
        ),
        Reader("bundle", (_bundle(demo),), lambda d: bundles.unpack(d, "f")),
        Reader("merge", of("house.toml", "purposes.csv"), _merged),
    )


_DEVICE = b"""format = "olive-compass-device/1"
title = "Pad"
controls = ["K1", "K2"]
"""
_SEAT = b"""format = "olive-compass-seat/1"
platform = "pc"
keyboards = ["ansi-104/us", "iso-laptop/german"]
hand = "left"
[licences.foldpress]
varnish = true
[files]
reliefkiln = "kiln/keys.kiln"
[practice.quillmap]
"line.spline" = "2 2026-11-02"
"""
_TRAYS = b"""format = "olive-compass-trays/1"
app = "quillmap"
[day]
title = "Day"
kind = "tab"
items = ["sheet.trim"]
"""
_TALLY = b"""# olive-compass-tally/1
log,seat,day,app,mode,command,how,key,after,times,undone,first,last
a1,Klara,2026-11-02,quillmap,draw,line.spline,key,S,,12,1,2026-11-02T09:00:00,2026-11-02T17:00:00
a1,Klara,2026-11-02,quillmap,,line.spline,follows,,line.split,3,0,,
"""
_LOG = b"""Command;Time;Key
Spline;02.11.2026 09:00;S
Split;13.11.2026 09:01;
"""
_RECORD = b"""{"format": "olive-compass-change/1", "number": 3, "when": "2026-11-02T09:00:00", "who": "Klara",
"what": "x", "why": "", "command": "undo", "undoes": 0,
"files": [{"path": "schemes/quillmap/mine.toml", "before": null, "after-digest": "00", "after": "x"}]}
"""
_STEP = b"""{"format": "olive-compass-change/2", "number": 3, "when": "2026-11-02T09:00:00", "who": "Klara",
"what": "x", "why": "", "command": "undo", "undoes": 0,
"files": [{"path": "schemes/quillmap/mine.toml", "before": {"change": 2, "steps": 1}, "after-digest": "00",
"after": {"lines": [0, 1], "become": "x"}}]}
"""


def damaged(draw: random.Random, data: bytes) -> bytes:
    """A file with one accident, most often another kind of value."""
    return (_value if draw.random() < 0.4 else draw.choice(_ACCIDENTS))(draw, data)


def broken(draw: random.Random, seeds: tuple[bytes, ...]) -> bytes:
    """One input: a sound file with one to three things done to it."""
    data = draw.choice(seeds)
    if data.startswith(b"PK") and draw.random() < 0.7:
        return _inside(draw, data)
    if len(data) > 3_000 and draw.random() < 0.9:
        # A short file leaves time for more of them.
        data = data[: draw.randrange(200, 3_000)]
    for _ in range(draw.choice((1, 1, 2, 3))):
        data = draw.choice(_ACCIDENTS)(draw, data)
    return data


def stands(reader: Reader, data: bytes) -> str:
    """What is wrong with how ``reader`` takes ``data``: ``""``, or the error that got out."""
    try:
        reader.read(data)
    except UserError as refused:
        return "" if str(refused).strip() else "it refuses without a word"
    except Exception as error:
        return f"{type(error).__name__}: {str(error)[:200]}"
    return ""


def _inside(draw: random.Random, data: bytes) -> bytes:
    """A packed file with one of the files in it broken."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as archive, zipfile.ZipFile(out, "w") as broken_one:
        names = archive.namelist()
        chosen = draw.choice(names)
        for name in names:
            content = archive.read(name)
            if name == chosen:
                content = draw.choice(_ACCIDENTS)(draw, content)
            broken_one.writestr(name, content)
    return out.getvalue()


def _cut(draw: random.Random, data: bytes) -> bytes:
    return data[: draw.randrange(len(data) + 1)]


def _put_in(draw: random.Random, data: bytes) -> bytes:
    at = draw.randrange(len(data) + 1)
    return data[:at] + draw.choice(BYTES) * draw.choice((1, 1, 1, 50)) + data[at:]


def _take_out(draw: random.Random, data: bytes) -> bytes:
    at = draw.randrange(len(data) + 1)
    return data[:at] + data[at + draw.randrange(1, 40) :]


def _bits(draw: random.Random, data: bytes) -> bytes:
    out = bytearray(data)
    for _ in range(draw.randrange(1, 6)):
        if out:
            out[draw.randrange(len(out))] = draw.randrange(256)
    return bytes(out)


def _lines(draw: random.Random, data: bytes) -> bytes:
    lines = data.split(b"\n")
    one, other = draw.randrange(len(lines)), draw.randrange(len(lines))
    if draw.random() < 0.5:
        lines[one], lines[other] = lines[other], lines[one]
    else:
        lines.insert(one, lines[other])
    return b"\n".join(lines)


def _value(draw: random.Random, data: bytes) -> bytes:
    """Another kind of value behind a ``=``, a ``:`` or a comma, or a line of its own."""
    places = [found.end() for found in re.finditer(rb"[=:,]", data)] or [0]
    at = draw.choice(places)
    end = data.find(b"\n", at)
    end = len(data) if end < 0 else end
    text = draw.choice(VALUES).encode()
    return data[:at] + b" " + text + data[end if draw.random() < 0.7 else at :]


def _ends(draw: random.Random, data: bytes) -> bytes:
    return data.replace(b"\n", draw.choice((b"\r", b"\r\n", b"\n\r", b"")))


_ACCIDENTS = (_cut, _put_in, _put_in, _take_out, _bits, _lines, _value, _value, _value, _ends)


def _listing(path: str, data: bytes) -> object:
    from olive_compass.core.apps.listing import read_listing
    from olive_compass.core.apps.listing_result import ListingRequest

    rows = read_rows(path, data)[1].rows
    try:
        return read_listing(
            rows, ListingRequest(columns={}, groups=False, typed=None, platform="pc")
        )
    except LookupError as error:
        # The command says which column could not be told.
        raise UserError(str(error.args[0])) from error


def _trays(data: bytes) -> object:
    return tray_file.read(data, "f", "quillmap")


def _counted(data: bytes) -> object:
    """What is counted can be written and read back."""
    tally = log_counting.count_log(io.BytesIO(data), "f.csv", "a1", "Klara").tally
    assert tally_file.read(tally_file.write(tally), "f") == tally
    return tally


def _own_file(form: bytes) -> Callable[[bytes], object]:
    known = file_format_file.read(form, "f", "kiln")
    return lambda data: shortcuts_file.read(known, delivery.opened(data).text)


def _record(data: bytes) -> object:
    with tempfile.NamedTemporaryFile() as file:
        file.write(data)
        file.flush()
        record = records.read_record(file.name)
        # What it names is itself: there is no end to that.
        return records.changes_of(record, lambda number: record)


def _merged(data: bytes) -> object:
    name = "purposes.csv" if b"," in data[:40] else "schemes/quillmap/mine.toml"
    return merging.merge_file(name, data, data + b"\n", data)


def _demo() -> Mapping[str, bytes]:
    found: dict[str, bytes] = {}
    folders = [("", files("olive_compass.data") / "demo")]
    for where, folder in folders:
        for each in sorted(folder.iterdir(), key=lambda part: part.name):
            if each.is_dir():
                folders.append((f"{where}{each.name}/", each))
            else:
                found[where + each.name] = each.read_bytes()
    return found


def _bundle(demo: Mapping[str, bytes]) -> bytes:
    own = {path: data for path, data in demo.items() if bundles.is_of_desk(path)}
    return bundles.pack(bundles.Bundle(scope="desk", name="Larkspur", made="2026-11-26", files=own))


def _workbook() -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr("[Content_Types].xml", _TYPES)
        archive.writestr("_rels/.rels", _RELS.format("officeDocument", "xl/workbook.xml"))
        archive.writestr("xl/workbook.xml", _BOOK)
        archive.writestr(
            "xl/_rels/workbook.xml.rels", _RELS.format("worksheet", "worksheets/sheet1.xml")
        )
        archive.writestr("xl/worksheets/sheet1.xml", _SHEET)
    return out.getvalue()


_MACRO = b"""format = "olive-compass-macro/1"
app = "quillmap"
title = "Buoy row"

[[steps]]
command = "chart.buoy"
inputs = { at = "1,2" }
ask = { at = "Where?" }

[[steps]]
command = "edit.join"
"""
_KEYSET = b"""format = "olive-compass-keyset/1"
title = "Studio"

[keys]
save = ["Main+S"]
undo = ["Main+Z"]
"""
_JSON = b"""{"Edit": [{"title": "Join", "keys": ["Ctrl+J"], "mode": "draw"}, {"title": "Split"}],
"File": [{"title": "Save", "keys": "Ctrl+S"}, {"title": "Print\\u2026", "keys": "Ctrl+P"}]}
"""
_COLUMNS = b"""File
  Save the sheet ......... Ctrl+S
  Close .................. Ctrl+W
Edit
  Undo ................... Ctrl+Z
  Collect parts
"""
_MARKDOWN = b"""# File
| Command | Shortcut |
|---|---|
| Save | `Ctrl+S` |
| Save as | `Ctrl+Shift+S` or `F12` |
"""
_PAGE = b"""<html><body><h2>Edit</h2><table><tr><th>Command</th><th>Shortcut</th></tr>
<tr><td>Join</td><td><kbd>Ctrl</kbd> <kbd>J</kbd></td></tr>
<tr><td>Split<br>at a point</td><td>Ctrl+Shift+J</td></tr>
<tr><td colspan="2">Files</td></tr><tr><td>Save</td><td>&nbsp;</td></tr></table></body></html>
"""
_SPACE = "http://schemas.openxmlformats.org/spreadsheetml/2006/main"
_OFFICE = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
_PARTS = "application/vnd.openxmlformats-officedocument.spreadsheetml"
_TYPES = (
    '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">'
    '<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.'
    'relationships+xml"/><Default Extension="xml" ContentType="application/xml"/>'
    f'<Override PartName="/xl/workbook.xml" ContentType="{_PARTS}.sheet.main+xml"/>'
    f'<Override PartName="/xl/worksheets/sheet1.xml" ContentType="{_PARTS}.worksheet+xml"/>'
    "</Types>"
)
_RELS = (
    '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">'
    f'<Relationship Id="rId1" Type="{_OFFICE}/{{}}" Target="{{}}"/></Relationships>'
)
_BOOK = (
    f'<workbook xmlns="{_SPACE}" xmlns:r="{_OFFICE}"><sheets>'
    '<sheet name="Keys" sheetId="1" r:id="rId1"/></sheets></workbook>'
)
_SHEET = (
    f'<worksheet xmlns="{_SPACE}"><dimension ref="A1:B3"/><sheetData>'
    + "".join(
        f'<row r="{n}"><c r="A{n}" t="inlineStr"><is><t>{one}</t></is></c>'
        f'<c r="B{n}" t="inlineStr"><is><t>{two}</t></is></c></row>'
        for n, (one, two) in enumerate(
            [("Command", "Shortcut"), ("Join", "Ctrl+J"), ("Save", "Ctrl+S")], 1
        )
    )
    + "</sheetData></worksheet>"
)
