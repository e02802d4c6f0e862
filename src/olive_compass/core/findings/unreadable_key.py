"""A trigger in a scheme that cannot be read, or a mode in it that the application lacks."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import CorrectFile
from olive_compass.core.findings.finding import Finding, Place, View, catalogue_place

ID = "unreadable-key"
SEVERITY: Final = "error"
SAYS = "A key or a mode in a scheme cannot be read, so the decision has no effect."
ADVICE = (
    "Correct it in the scheme's file; the nearest spelling that can be read is shown if there "
    "is one."
)


def find(view: View) -> Iterator[Finding]:
    for cell in view.app.catalogue.unreadable:
        yield Finding(
            id=ID,
            severity=SEVERITY,
            app=view.app.name,
            says=f"The factory keys “{cell.text}” of “{view.title(cell.command)}” cannot be read: "
            f"{cell.reason}.",
            advice=CorrectFile(several=True),
            places=(catalogue_place(cell.command),),
            commands=(cell.command,),
            keys=(cell.text,),
        )
    for scheme in view.stack.schemes:
        for each in scheme.unreadable:
            yield Finding(
                id=ID,
                severity=SEVERITY,
                app=view.app.name,
                says=f"“{each.text}” under [{each.table}] cannot be read: {each.reason}.",
                advice=CorrectFile(),
                places=(Place(scheme.name, each.table, each.key),),
                commands=(each.key,) if each.table in ("assign", "keyless") else (),
                keys=(each.text,),
            )
