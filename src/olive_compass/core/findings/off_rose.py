"""A swipe in a direction that the rose of its mode does not have."""

from collections.abc import Iterator

from olive_compass.core.findings.finding import Finding, View, place
from olive_compass.core.keys.roses import bearing_name, bearings, nearest

ID = "off-rose"
SEVERITY = "error"
SAYS = "A swipe has a bearing that the rose of its mode does not have."
ADVICE = "Use one of the nearest bearings. The roses are under [roses] in app.toml."


def find(view: View) -> Iterator[Finding]:
    for claim in view.decisions:
        for stroke in claim.trigger.strokes:
            if stroke.bearing is None:
                continue
            size = view.app.rose(claim.mode)
            if size and stroke.bearing in bearings(size):
                continue
            near = " or ".join(map(bearing_name, nearest(stroke.bearing, size))) if size else ""
            yield Finding(
                ID,
                SEVERITY,
                view.app.name,
                f"{claim.trigger} of “{view.title(claim.command)}” is on no rose in {claim.mode}"
                + (
                    f": it has {size} bearings, the nearest {near}."
                    if size
                    else ", which has none."
                ),
                f"olive-compass rose {view.app.name}",
                (place(claim),),
                (claim.command,),
                (str(claim.trigger),),
                (claim.mode,),
            )
