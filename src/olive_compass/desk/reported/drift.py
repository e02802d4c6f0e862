"""What has moved away from a key set, as it is reported by ``keyset drift``: where, and since when."""

from olive_compass.core.answers.drift import Drifted
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.sharing.keysets import SAME, cell
from olive_compass.desk.desk import Desk
from olive_compass.desk.paths import DESK_FILE, SYSTEM_FILE
from olive_compass.desk.reported.report import Report
from olive_compass.desk.source_lines import file_and_line_text
from olive_compass.errors import UserError


class DriftReport(Report, frozen=True, kw_only=True):
    """A purpose that has not the key of the set in an application, what is in its way, and the change that did it."""

    app: str
    purpose: str
    title: str
    command: str
    state: str
    set: list[str]
    keys: list[str]
    holder: str | None
    where: str | None
    since: str | None


def drift_report(desk: Desk, each: Drifted) -> DriftReport:
    """What has moved away from the set, with the newest change after which it had the key no more."""
    now, where = each.now, None
    if each.claim is not None:
        where = file_and_line_text(desk, each.view.keymap, each.claim)
    return DriftReport(
        app=now.app,
        purpose=each.purpose.id,
        title=each.purpose.title,
        command=now.command,
        state=now.state,
        set=list(map(str, each.entry.triggers)),
        keys=list(map(str, now.triggers)),
        holder=now.holder or None,
        where=where,
        since=_since(desk, each),
    )


def _since(desk: Desk, each: Drifted) -> str | None:
    """The change before which the application still had the key of the set; None: none is known.

    The desk is read as each change found it, from the newest back.
    """
    keymap = each.view.keymap
    name = keymap.app.name
    files: dict[str, bytes | None] = {}
    for record in desk.history.records():
        try:
            files.update({file.path: file.before for file in desk.history.files(record)})
        except UserError:
            # What it was before is known no more.
            return None
        if not any(_bears_on(name, path) for path in record.paths):
            continue
        try:
            then = Desk(desk.root, files)
            before = Keymap(then.stack(name), keymap.keyboard)
        except UserError:
            # Before this change the application was not on the desk, or not as it can be read.
            return None
        if cell(before, each.purpose, each.entry).state == SAME:
            return f"{record.when[:10]} by {record.who}, change {record.number}: {record.what}"
    return None


def _bears_on(app: str, path: str) -> bool:
    """Whether a file has a say in what the keys of an application do."""
    return path in (DESK_FILE, SYSTEM_FILE) or path.startswith((f"schemes/{app}/", f"apps/{app}/"))
