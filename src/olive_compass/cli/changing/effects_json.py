"""What a change does, as JSON (docs/json.md)."""

from functools import partial
from typing import Any

from msgspec.structs import asdict

from olive_compass.cli.changing import objections
from olive_compass.cli.output.plain_values import plain
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.core.changes.change import Effect
from olive_compass.core.changes.view import AppView
from olive_compass.core.schemes.objections.kind import Objection
from olive_compass.core.schemes.verdicts import Verdict
from olive_compass.desk.desk import Desk
from olive_compass.desk.reported.verdict import VerdictReport, verdict_report


def effect_json(desk: Desk, view: AppView, effect: Effect) -> VerdictReport | dict[str, Any]:
    """An effect as JSON: what it is, and its parts (docs/json.md)."""
    if isinstance(effect, Verdict):
        return verdict_report(effect, partial(_uncoloured, desk, view, effect))
    kind = type(effect).__name__.lower()
    fields: dict[str, Any] = {"effect": kind}
    for name, value in asdict(effect).items():
        # Everywhere in our JSON a trigger is called key.
        fields["key" if name == "trigger" else name.replace("_", "-")] = plain(value)
    return fields


def _uncoloured(desk: Desk, view: AppView, found: Verdict, objection: Objection) -> str:
    text = objections.objection_text(desk, view, found, objection)
    return text.replace(BOLD, "").replace(OFF, "")
