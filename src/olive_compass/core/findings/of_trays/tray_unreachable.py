"""A tray that nothing opens."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import TurnOffTray
from olive_compass.core.apps.trays import Tray
from olive_compass.core.findings.advice import new_key
from olive_compass.core.findings.finding import Finding, View, tray_place
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.trays.verdicts import kind_of_tray

ID = "tray-unreachable"
SEVERITY: Final = "warning"
SAYS = (
    "A tray that is not always in view has no key, no access letter and no other tray that "
    "leads to it."
)
ADVICE = "Assign a key to it, or turn it off."


def _is_opened(view: View, tray: Tray) -> bool:
    """Whether a tray is in view, or has a key or an access letter."""
    letter = tray.letter and view.app.rules.letters_open_menus
    seen = kind_of_tray(view.app, tray).opens != "key"
    return bool(letter) or seen or bool(live_triggers(view.keymap, tray.id))


def find(view: View) -> Iterator[Finding]:
    led_to = {item for tray in view.app.active_trays for item in tray.items}
    for tray in view.app.active_trays:
        if tray.id in led_to or _is_opened(view, tray):
            continue
        yield Finding(
            id=ID,
            severity=SEVERITY,
            app=view.app.name,
            says=f"Nothing opens the {tray.kind} “{tray.title}”.",
            advice=new_key(view, tray.id),
            places=(tray_place(tray),),
            commands=(tray.id,),
            instead=(TurnOffTray(app=view.app.name, tray=tray.name, layer=tray.layer),),
        )
