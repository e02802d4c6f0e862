"""Takes a delivery back out of an application's own file that was changed since.

Undoing a change puts a file back as it was, which would lose what the application wrote meanwhile. So our
keys are taken back as they were delivered: record by record, and everything else stays.
"""

from collections.abc import Iterator, Mapping

from olive_compass.core.keys.triggers import Run
from olive_compass.desk.desk import Desk
from olive_compass.desk.shortcuts.delivery import DELIVERED, opened
from olive_compass.desk.shortcuts.file_format import FileFormat
from olive_compass.desk.shortcuts.shortcuts_content import Entry, Wanted
from olive_compass.desk.shortcuts.shortcuts_file import read
from olive_compass.desk.shortcuts.shortcuts_writing import written
from olive_compass.desk.storage.records import FileChange, Record
from olive_compass.errors import UserError
from olive_compass.structs import replace

#: A command in a mode, as the parts of its record name it.
_Subject = tuple[str, str, str, str]


def taken_back(
    desk: Desk, record: Record, file: FileChange, now: bytes | None
) -> FileChange | None:
    """What takes ``file`` of a delivery back as it is now; None: it is no delivery, or it cannot be."""
    app = _app_of(record)
    if not app or app not in desk.app_names():
        return None
    if file.path.startswith(DELIVERED):
        # What is kept of a delivery says what was there last, and that is what was before it.
        return FileChange(file.path, now, file.before)
    if now is None:
        # The file is gone, and our keys with it.
        return FileChange(file.path, None, None)
    name = desk.reading(app).file_format
    if not name or file.before is None or file.after is None:
        return None
    data = _without_ours(desk, app, name, (file.before, file.after, now))
    if data is None:
        return None
    return FileChange(file.path, now, data)


def _without_ours(
    desk: Desk, app: str, file_format: str, contents: tuple[bytes, bytes, bytes]
) -> bytes | None:
    """The file without what a delivery did to it; None: that cannot be. ``contents`` are those before it, after it,
    and now."""
    found = desk.app(app)
    try:
        form = desk.file_format(file_format)
        form = replace(form, spelling=form.spelling or found.spelling)
        return _without(form, *contents, found.rules.typed)
    except (UserError, UnicodeError):
        return None


def _app_of(record: Record) -> str:
    """The application that a change delivered to, ``""``: it was no delivery."""
    for path in record.paths:
        if path.startswith(DELIVERED):
            return path.removeprefix(DELIVERED).removesuffix(".json")
    return ""


def _without(form: FileFormat, before: bytes, after: bytes, now: bytes, typed: int) -> bytes | None:
    """The file as it is now with the keys that it had before; None: they cannot be written there, or later
    work went on from what was delivered."""
    here = opened(now)
    old, delivered, present = (
        dict(_keys(read(form, each.text, typed).entries))
        for each in (opened(before), opened(after), here)
    )
    wanted = []
    for subject in {**old, **delivered}:
        was, is_now = old.get(subject), present.get(subject)
        if was == delivered.get(subject) or is_now in (was, None):
            continue
        if is_now != delivered.get(subject):
            return None
        wanted.append(Wanted(_parts(subject), subject[0], was))
    made = written(form, here.text, wanted, typed)
    there = dict(_keys(read(form, made.text, typed).entries))
    held = all(there.get(_subject(each.parts, each.mode)) == each.keys for each in wanted)
    if held and not made.unwritten:
        return here.encode(made.text)
    return None


def _keys(entries: tuple[Entry, ...]) -> Iterator[tuple[_Subject, tuple[Run, ...]]]:
    found: dict[_Subject, list[Run]] = {}
    for entry in entries:
        found.setdefault(_subject(entry.parts, entry.mode), []).extend(entry.keys)
    return ((subject, tuple(dict.fromkeys(keys))) for subject, keys in found.items())


def _subject(parts: Mapping[str, str], mode: str) -> _Subject:
    return mode, parts.get("id", ""), parts.get("title", ""), parts.get("menu", "")


def _parts(subject: _Subject) -> dict[str, str]:
    _, id_, title, menu = subject
    return {"id": id_, "title": title, "menu": menu}
