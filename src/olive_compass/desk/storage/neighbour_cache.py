"""Keeps what applications tell each other about their presses (``core/sharing/cross_app.py``).

What one tells depends on it alone and on what all share: so a change in one application does not make
anybody read the others again.
"""

from collections.abc import Container
from typing import Any

from msgspec.structs import asdict

from olive_compass.core.keys.presses import Press
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.schemes.claims import Claim, Does
from olive_compass.core.schemes.layers import LAYERS
from olive_compass.core.sharing.cross_app import AppReport, Meaning
from olive_compass.core.sharing.purposes import Purposes
from olive_compass.desk.storage.kept import Kept, files_of

KIND = "told"


class Memory:
    """What applications told, as ``Across`` asks for it; of ``altered`` ones nothing is known or kept."""

    def __init__(self, kept: Kept, altered: Container[str]) -> None:
        self._kept = kept
        self._altered = altered

    def find(self, app: str, purposes: Purposes) -> list[AppReport] | None:
        """What the application told, None where that is not kept or may have changed."""
        if app in self._altered:
            return None
        try:
            rows = self._kept.find(KIND, app, files_of([app]), list[dict[str, Any]])
            if rows is None:
                return None
            return [_told(row, purposes) for row in rows]
        except (KeyError, TypeError, ValueError, TriggerError):
            return None

    def keep(self, app: str, told: list[AppReport]) -> None:
        if app not in self._altered:
            self._kept.note(KIND, app, files_of([app]), [_row(*each) for each in told])


def _row(press: Press, meaning: Meaning) -> dict[str, Any]:
    claim = meaning.claim
    return {
        **asdict(meaning),
        "press": press,
        "purpose": meaning.purpose and meaning.purpose.id,
        "claim": {
            **asdict(claim),
            "trigger": str(claim.trigger),
            "does": asdict(claim.does),
            "layer": str(claim.layer),
        },
    }


def _told(row: dict[str, Any], purposes: Purposes) -> AppReport:
    about = dict(row)
    press = tuple((tuple(held), code) for held, code in about.pop("press"))
    claim = dict(about["claim"])
    claim["trigger"] = read_trigger(claim["trigger"])
    claim["does"] = Does(**claim["does"])
    claim["layer"] = next(layer for layer in LAYERS if layer == claim["layer"])
    about["claim"] = Claim(**claim)
    if about["purpose"]:
        about["purpose"] = purposes.by_id[about["purpose"]]
    else:
        about["purpose"] = None
    return press, Meaning(**about)
