"""``keyset drift``: what has moved away from a set, where, and since when."""

from typing import Any

from olive_compass.cli import exit_status, pick
from olive_compass.cli.options import Common
from olive_compass.cli.sharing.keysets import keyset_named, percent
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.answers.drift import Drifted
from olive_compass.core.answers.drift import drift as drift_of
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.sharing.keysets import SAME, cell
from olive_compass.desk.desk import Desk
from olive_compass.desk.paths import DESK_FILE, SYSTEM_FILE
from olive_compass.desk.source_lines import file_and_line_text
from olive_compass.desk.views import app_view
from olive_compass.errors import UserError


class KeysetDriftOptions(Common, kw_only=True):
    """The options of ``keyset drift``."""

    name: str | None
    json: bool


def drift(args: KeysetDriftOptions, context: Surroundings) -> int:
    """Runs ``keyset drift``."""
    desk = pick.desk(args, context)
    keyset = keyset_named(desk, args.name)
    answer = drift_of(keyset, desk.purposes, (app_view(desk, name) for name in desk.app_names()))
    share = answer.consistency
    rows = [_as_json(desk, each) for each in answer.drifted]
    if args.json:
        context.json({"name": keyset.name, "consistency": share, "drifted": rows})
    elif not rows:
        context.say(f"Every application uses {keyset.title}; consistency {percent(share)}.")
    else:
        head = ("app", "purpose", "set", "now", "who has it", "where", "since")
        print_table(context, head, [_row(row) for row in rows])
        context.say(
            f"Consistency {percent(share)}. To bring it back: olive-compass keyset apply {keyset.name}"
        )
    return exit_status.failed(rows)


def _as_json(desk: Desk, each: Drifted) -> dict[str, Any]:
    """What has drifted, as JSON (docs/json.md)."""
    now = each.now
    return {
        "app": now.app,
        "purpose": each.purpose.id,
        "title": each.purpose.title,
        "command": now.command,
        "state": now.state,
        "set": list(map(str, each.entry.triggers)),
        "keys": list(map(str, now.triggers)),
        "holder": now.holder or None,
        "where": _where(desk, each),
        "since": _since(desk, each),
    }


def _row(row: dict[str, Any]) -> tuple[str, ...]:
    return (
        row["app"],
        row["title"],
        ", ".join(row["set"]),
        ", ".join(row["keys"]) or "none",
        row["holder"] or "",
        row["where"] or "",
        row["since"] or "before the history",
    )


def _where(desk: Desk, each: Drifted) -> str | None:
    """Where that stands which is in the way of the set."""
    if each.claim is None:
        return None
    return file_and_line_text(desk, each.view.keymap, each.claim)


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
