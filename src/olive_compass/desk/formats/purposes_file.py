"""Purposes as ``purposes.csv``: a row a purpose, a column for the commands of each application."""

import csv
import io
import os
from collections.abc import Container
from operator import itemgetter
from typing import Any

from olive_compass.core.plain import one_line
from olive_compass.core.sharing.purposes import RISKS, Purpose, Purposes
from olive_compass.desk.older import OLD_RISK, RISK
from olive_compass.desk.storage.plain_file import read_whole
from olive_compass.desk.texts.cells import restored, shielded
from olive_compass.desk.texts.csv_text import columns_of, rows_of, text_of, too_long
from olive_compass.errors import UserError
from olive_compass.structs import replace

FORMAT = "olive-compass-purposes/1"
FIELDS = ("id", "title", "group", "risk", "names")
PURPOSES_FILE = "purposes.csv"


def load(root: str) -> Purposes:
    """The purposes of the desk in ``root``, or the base list where it has none of its own."""
    try:
        return read(read_whole(os.path.join(root, PURPOSES_FILE), PURPOSES_FILE), PURPOSES_FILE)
    except FileNotFoundError:
        return read(base(), PURPOSES_FILE)


def exists(root: str) -> bool:
    """Whether the desk has purposes of its own."""
    return os.path.exists(os.path.join(root, PURPOSES_FILE))


def base() -> bytes:
    """The file of the base list."""
    # Loaded here: a desk that has purposes of its own has no use for it.
    from importlib.resources import files

    return (files("olive_compass.data") / PURPOSES_FILE).read_bytes()


def read(data: bytes, file: str) -> Purposes:
    """The purposes in a file, also after a spreadsheet has saved it; raises ``UserError``."""
    head, reader = rows_of(text_of(data, file, FORMAT), file)
    try:
        return _read(head, reader, file)
    except csv.Error as error:
        raise too_long(file, reader) from error


def _read(head: list[str], reader: Any, file: str) -> Purposes:
    columns = columns_of(head, FIELDS, file)
    apps = [(n, name) for n, name in enumerate(head) if name and name not in FIELDS]
    # A column that is missing is the empty cell that is put at the end of each row.
    pick, widest = itemgetter(*columns), len(head)
    found: dict[str, Purpose] = {}
    line = reader.line_num
    for row in reader:
        first, line = line + 1, reader.line_num
        cells = _cells(row, widest)
        id_, title, group, risk, names = pick(cells)
        if not id_ and not title:
            continue
        _check_id(id_, found, file, first)
        found[id_] = Purpose(
            id=id_,
            title=title or id_,
            group=group,
            risk=_risk(risk, file, first),
            names=tuple(filter(None, map(str.strip, names.split(";")))),
            links={app: tuple(cells[n].split()) for n, app in apps if cells[n]},
            line=first,
        )
    return Purposes(found.values())


def _check_id(id_: str, found: Container[str], file: str, line: int) -> None:
    """Raises ``UserError`` for a purpose without an id, or with that of another."""
    if id_ and id_ not in found:
        return
    says = "A purpose has no id"
    if id_:
        says = f"The id “{id_}” appears twice"
    raise UserError(f"{says}; every purpose needs one of its own.", file=file, line=line)


def _cells(row: list[str], width: int) -> list[str]:
    """The cells of a row without what a spreadsheet put around them: ``width`` of them, and an empty one that
    stands for the columns that are missing."""
    whole = "".join(row)
    # Asked of the row as a whole: of most there is nothing to put right.
    if "'" in whole or not whole.isprintable():
        row = [one_line(restored(cell)) for cell in row]
    cells = list(map(str.strip, row[:width]))
    return cells + [""] * (width + 1 - len(cells))


def _risk(text: str, file: str, line: int) -> str:
    """The risk that a cell names, also as it was called once; an empty one has the least."""
    if text == OLD_RISK:
        risk = RISK
    else:
        risk = text or RISKS[0]
    if risk not in RISKS:
        raise UserError(f"A risk is one of {', '.join(RISKS)}.", file=file, line=line)
    return risk


def write(purposes: Purposes) -> bytes:
    """The file of ``purposes``."""
    apps = sorted({app for purpose in purposes.all for app in purpose.links})
    text = io.StringIO()
    text.write(f"# {FORMAT}\n")
    writer = csv.writer(text, lineterminator="\n")
    writer.writerow((*FIELDS, *apps))
    for each in purposes.all:
        links = (" ".join(each.links.get(app, ())) for app in apps)
        cells = (each.id, each.title, each.group, each.risk, "; ".join(each.names), *links)
        writer.writerow(map(shielded, cells))
    return text.getvalue().encode()


def with_app(data: bytes, file: str, old: str, new: str) -> bytes:
    """The file in which the column of an application is called otherwise; ``new`` ``""``: it goes."""
    purposes = read(data, file)
    if all(old not in each.links for each in purposes.all):
        return data
    after = []
    for each in purposes.all:
        links = {(new if app == old else app): ids for app, ids in each.links.items()}
        links.pop("", None)
        after.append(replace(each, links=links))
    return write(Purposes(after))
