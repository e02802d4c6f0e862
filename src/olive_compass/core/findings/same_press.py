"""Two commands want the same press in the same mode, and both from the same layer."""

from collections.abc import Iterator

from olive_compass.core.apps.modes import joined
from olive_compass.core.findings.finding import Finding, View, place
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.layers import FACTORY

ID = "same-press"
SEVERITY = "error"
SAYS = "Two commands have the same trigger in the same mode of one layer."
ADVICE = (
    "Take the trigger from one of them, or let it count in another mode. Where the application "
    "offers a choice, or where it is the factory that gives the trigger twice, it is a note."
)


def find(view: View) -> Iterator[Finding]:
    for bucket in view.keymap.buckets.values():
        if len(bucket) < 2:
            continue
        by_place: dict[tuple[int, str], list[Claim]] = {}
        for claim in bucket:
            by_place.setdefault((claim.rank, claim.mode), []).append(claim)
        together: dict[tuple[Claim, ...], list[str]] = {}
        for (_, mode), claims in by_place.items():
            wants = tuple({claim.does: claim._replace(mode="") for claim in claims}.values())
            if len(wants) > 1 and len({claim.trigger for claim in wants}) == 1:
                together.setdefault(wants, []).append(mode)
        for wants, modes in together.items():
            yield _finding(view, wants, modes)


def _finding(view: View, claims: tuple[Claim, ...], modes: list[str]) -> Finding:
    key = str(claims[0].trigger)
    titles = [f"“{view.meaning(c.does)}”" if not c.mutes else "a mute" for c in claims]
    rule = view.app.rules.duplicates
    factory = claims[0].layer == FACTORY
    if rule == "choice":
        follows = f"{view.app.title} offers a choice in this order"
    elif rule in ("replace", "last-wins"):
        follows = f"{view.app.title} starts the last"
    else:
        follows = f"{view.app.title} starts the first"
    where = view.app.modes.phrase(view.app.modes.inside(modes))
    advice = f"olive-compass clear {view.app.name} {claims[-1].command or key!r}"
    if factory:
        advice = f"nothing, or take it over: olive-compass assign {view.app.name} COMMAND {key!r}"
    return Finding(
        ID,
        "note" if factory or rule == "choice" else SEVERITY,
        view.app.name,
        f"{key} is given to {joined(titles)} {where}; {follows}.",
        advice,
        tuple(dict.fromkeys(place(claim) for claim in reversed(claims))),
        tuple(claim.command for claim in claims),
        (key,),
        tuple(modes),
    )
