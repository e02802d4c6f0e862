"""Two commands have the same press, but their triggers are written in different ways."""

from collections.abc import Iterator, Sequence
from typing import Final

from olive_compass.core.actions import ShowKey
from olive_compass.core.apps.modes import joined
from olive_compass.core.findings.finding import MOST_NAMED, Finding, View, place
from olive_compass.core.findings.same_press import advice, alike, contenders, known_choices
from olive_compass.core.keys.presses import physical_text
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.layers import FACTORY

ID = "same-keys"
SEVERITY: Final = "error"
SAYS = (
    "Two keys of one scheme layer are written differently, but are the same press on this keyboard."
)
ADVICE = (
    "Remove one of them, or limit it to another mode. To see which physical keys make a key: {key}."
)
ACTIONS = {"key": ShowKey(key="KEY")}


def find(view: View) -> Iterator[Finding]:
    seen: set[tuple[Claim, ...]] = set()
    ordered = known_choices(view)
    for press, bucket in view.keymap.buckets.items():
        for mode, claims in _one_press(bucket):
            wants = contenders(claims)
            if len(wants) < 2 or alike(wants) or wants in seen:
                continue
            seen.add(wants)
            names = joined((_named(view, claim) for claim in wants), MOST_NAMED)
            keys = " ".join(map(physical_text, press))
            where = view.app.modes.phrase(view.app.modes.inside([mode]))
            factory = wants[0].layer == FACTORY
            # Who put the candidates in order has seen that they share the press.
            if {claim.command for claim in wants} <= ordered.get(press, set()):
                continue
            yield Finding(
                id=ID,
                severity="note" if factory else SEVERITY,
                app=view.app.name,
                says=f"{names} are the same press {where} on this keyboard: {keys}.",
                advice=advice(view, ID, wants),
                places=tuple(dict.fromkeys(place(claim) for claim in reversed(wants))),
                commands=tuple(claim.command for claim in wants),
                keys=tuple(str(claim.trigger) for claim in wants),
                modes=(mode,),
                look=ShowKey(key=str(wants[0].trigger)),
            )


def _one_press(bucket: Sequence[Claim]) -> Iterator[tuple[str, list[Claim]]]:
    """The claims to one press by modes, a layer at a time, where they are written differently."""
    # The same trigger written twice is another finding: here two that look unlike are one press.
    if len(bucket) < 2 or len({claim.trigger for claim in bucket}) < 2:
        return
    by_place: dict[tuple[int, str], list[Claim]] = {}
    for claim in bucket:
        by_place.setdefault((claim.rank, claim.mode), []).append(claim)
    for (_, mode), claims in by_place.items():
        yield mode, claims


def _named(view: View, claim: Claim) -> str:
    name = "muted"
    if not claim.mutes:
        name = f"“{view.meaning(claim.does)}”"
    return f"{claim.trigger} ({name})"
