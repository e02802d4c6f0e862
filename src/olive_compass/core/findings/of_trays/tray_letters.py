"""Two access letters alike: of two trays, or of a tray and a menu of the application."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import SetLetter
from olive_compass.core.apps.menu_letters import menu_openers
from olive_compass.core.findings.finding import Finding, View, tray_place
from olive_compass.core.keys.triggers import Run, stroke

ID = "tray-letters"
SEVERITY: Final = "warning"
SAYS = (
    "A tray has the access letter of a menu or of another tray, so the letter alone opens neither."
)
ADVICE = "Set another letter, or none."


def find(view: View) -> Iterator[Finding]:
    if not view.app.rules.letters_open_menus:
        return
    menus = menu_openers(view.app.catalogue.commands)
    # What is proposed must be free among the menus and among the trays before this one.
    taken = {run.strokes[0].key for run in menus}
    seen: dict[str, str] = {}
    for tray in view.app.active_trays:
        if not tray.letter:
            continue
        run = Run((stroke(tray.letter, "Alt"),))
        other = menus.get(run, "") or seen.get(tray.letter, "")
        seen.setdefault(tray.letter, f"opens the {tray.kind} “{tray.title}”")
        taken.add(tray.letter)
        if not other:
            continue
        letters = [c for c in tray.title.upper() if c.isalpha() and c not in taken]
        yield Finding(
            id=ID,
            severity=SEVERITY,
            app=view.app.name,
            says=f"Alt {tray.letter} opens the {tray.kind} “{tray.title}”, but it also {other}.",
            advice=SetLetter(
                app=view.app.name, tray=tray.name, letter="".join(letters[:1]), layer=tray.layer
            ),
            places=(tray_place(tray),),
            commands=(tray.id,),
            keys=(str(run),),
        )
