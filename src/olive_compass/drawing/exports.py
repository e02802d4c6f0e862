"""A scheme in the forms that other programs read: CSV, JSON, HTML, and any text by a template."""

import csv
import io
from collections.abc import Callable, Mapping, Sequence
from typing import Any

from markupsafe import Markup
from msgspec.structs import asdict

from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.notations import show_or_plain
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.sharing.rows import DecisionRow, rows_of
from olive_compass.core.wording import clause
from olive_compass.desk.texts import json_text
from olive_compass.desk.texts.cells import shielded
from olive_compass.drawing.sandbox import render
from olive_compass.drawing.web_pages import caps, filled, heading, joined, page, strokes, table

FORMAT = "olive-compass-export/1"
COLUMNS = ("decision", "subject", "title", "keys", "modes", "why", "slot", "how")

#: The templates that ship with us, to start from.
STARTERS = ("lines", "xml", "json")


def as_csv(app: App, scheme: Scheme) -> str:
    """A row a decision; cells that a spreadsheet would run are shielded."""
    text = io.StringIO()
    writer = csv.writer(text, lineterminator="\n")
    writer.writerow(COLUMNS)
    for row in rows_of(scheme):
        title = _title(app, row)
        modes = " ".join(row.modes)
        cells = (row.decision, row.subject, title, row.keys, modes, row.why, row.slot, row.how)
        writer.writerow(map(shielded, cells))
    return text.getvalue()


def as_json(app: App, scheme: Scheme) -> str:
    """The decisions and what they are of, as JSON."""
    value = {
        "format": FORMAT,
        "app": scheme.app,
        "version": app.version,
        "scheme": scheme.name,
        "layer": scheme.layer,
        "based-on": scheme.based_on,
        "decisions": [
            {
                "decision": row.decision,
                "subject": row.subject,
                "title": _title(app, row),
                "keys": row.keys,
                "modes": list(row.modes),
                "why": row.why,
                "slot": row.slot,
                "how": row.how,
            }
            for row in rows_of(scheme)
        ],
        "trays": [
            {
                "name": tray.name,
                "title": tray.title,
                "kind": tray.kind,
                "layer": tray.layer,
                "place": tray.place,
                "off": tray.off,
                "fill": tray.fill or None,
                "most": tray.most,
                "groups": [{"title": g.title, "items": list(g.items)} for g in tray.groups],
                "why": tray.why,
            }
            for tray in app.trays
        ],
    }
    return json_text.text(value)


def as_html(app: App, scheme: Scheme, key: Callable[[Run], str], board: Keyboard) -> str:
    """A page that a person and a screen reader can read: ``kbd`` and ``aria-keyshortcuts``."""
    seen = template_data(app, scheme, key, board)
    name = app.heading
    based = clause(" · based on {}", scheme.based_on)
    body = heading(name, f"{scheme.name} · {scheme.layer}{based}")
    body += table(("command", "keys", "where", "why"), map(_row, filter(_keyed, seen["commands"])))
    return page(f"{name}: {scheme.name}", body)


def _keyed(command: Mapping[str, Any]) -> bool:
    return bool(command["keys"])


def _row(command: Mapping[str, Any]) -> Markup:
    keys = command["keys"]
    return filled(
        _ROW,
        aria=" ".join(each["aria"] for each in keys),
        title=command["title"],
        keys=joined((_run(each["key"]) for each in keys), "or "),
        modes=" ".join(keys[0]["modes"]),
        why="; ".join(dict.fromkeys(each["why"] for each in keys)),
    )


def _run(key: str) -> Markup:
    return joined(caps(stroke) + " " for stroke in strokes(key))


_ROW = """\
  <tr aria-keyshortcuts="{aria}">
    <td>{title}</td>
    <td>{keys}</td>
    <td class="soft">{modes}</td>
    <td class="soft">{why}</td>
  </tr>
"""


def by_template(
    source: str, app: App, scheme: Scheme, key: Callable[[Run], str], board: Keyboard
) -> str:
    """The text that a template makes, in a sandbox; raises ``RenderError``."""
    return render(source, template_data(app, scheme, key, board))


def starter(name: str) -> str:
    """The text of a template that ships with us."""
    from importlib.resources import files

    return (files("olive_compass.drawing") / "templates" / "starters" / f"{name}.txt").read_text(
        encoding="utf-8"
    )


def template_data(
    app: App, scheme: Scheme, key: Callable[[Run], str], board: Keyboard
) -> Mapping[str, Any]:
    """What a template sees (docs/export.md): plain texts, lists and tables, and nothing else."""
    known = app.catalogue.by_id
    keys: dict[str, list[dict[str, Any]]] = {}
    for command, assignments in scheme.assign.items():
        keys[command] = [
            {
                "key": key(run),
                "plain": str(run),
                "aria": show_or_plain(run, "aria", board),
                "modes": list(each.modes),
                "why": each.why,
            }
            for each in assignments
            for run in each.keys
        ]
    commands = [
        {
            "id": c.id,
            "title": c.title,
            "menu": list(c.menu),
            "kind": c.kind,
            "does": c.does,
            "modes": list(c.modes),
            "keys": keys.get(c.id, []),
        }
        for c in app.catalogue.commands
    ]
    commands += [
        {"id": id_, "title": id_, "menu": [], "kind": "", "does": "", "modes": [], "keys": each}
        for id_, each in keys.items()
        if id_ not in known
    ]
    return {
        "app": {"name": app.name, "title": app.title, "version": app.version},
        "scheme": {"name": scheme.name, "layer": scheme.layer, "based_on": scheme.based_on},
        "commands": commands,
        "decisions": [
            {**asdict(row), "modes": list(row.modes), "title": _title(app, row)}
            for row in rows_of(scheme)
        ],
    }


def _title(app: App, row: DecisionRow) -> str:
    known = app.catalogue.by_id.get(row.subject)
    if known:
        return known.title
    return ""


def read_json(value: object) -> tuple[Mapping[str, str], Sequence[DecisionRow]]:
    """What an export in JSON says of its scheme, and its rows; raises ``ValueError``."""
    if not isinstance(value, dict) or value.get("format") != FORMAT:
        raise ValueError(f'it does not have "format": "{FORMAT}"')
    listed = value.get("decisions", [])
    if not isinstance(listed, list) or not all(isinstance(each, dict) for each in listed):
        raise ValueError("“decisions” is no list of tables")
    head = {name: str(value.get(name, "")) for name in ("app", "scheme", "layer", "based-on")}
    rows = [
        DecisionRow(
            decision=str(each.get("decision", "")),
            subject=str(each.get("subject", "")),
            keys=str(each.get("keys", "")),
            modes=_modes(each.get("modes", [])),
            why=str(each.get("why", "")),
            slot=str(each.get("slot", "")),
            how=str(each.get("how", "")),
        )
        for each in listed
    ]
    return head, rows


def _modes(value: object) -> tuple[str, ...]:
    modes = tuple(map(str, value)) if isinstance(value, list) else ()
    return modes or (ROOT,)
