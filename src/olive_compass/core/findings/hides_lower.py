"""Keys of schemes that hide what lower layers have on them."""

from collections.abc import Iterator

from olive_compass.core.findings.finding import Finding, View, place
from olive_compass.core.schemes.claims import Does

ID = "hides-lower"
SEVERITY = "note"
SAYS = "Keys of a scheme hide other commands that a lower layer has on them."
ADVICE = "Nothing, if it is meant; a colleague who knows only those layers will press them wrongly."


def find(view: View) -> Iterator[Finding]:
    pairs: dict[tuple[str, Does, Does], None] = {}
    places = []
    for bucket in view.keymap.buckets.values():
        if len(bucket) < 2:
            continue
        for claim in bucket:
            if not claim.origin or claim.mutes:
                continue
            within = set(view.app.modes.within(claim.mode))
            for other in bucket:
                covered = other.mode in within or claim.mode in view.app.modes.within(other.mode)
                if (
                    other.rank > claim.rank
                    and other.does != claim.does
                    and covered
                    and not other.mutes
                ):
                    pairs[str(claim.trigger), claim.does, other.does] = None
                    places.append(place(claim))
    if not pairs:
        return
    texts = [
        f"{key} “{view.meaning(mine)}” over “{view.meaning(other)}”" for key, mine, other in pairs
    ]
    some = ", ".join(texts[:5]) + (f" and {len(texts) - 5} more" if texts[5:] else "")
    yield Finding(
        ID,
        SEVERITY,
        view.app.name,
        f"{len(texts)} {'key hides' if len(texts) == 1 else 'keys hide'} what lower layers have: {some}.",
        f"olive-compass show {view.app.name} --visitor",
        tuple(dict.fromkeys(places))[:5],
        tuple(mine.command for _, mine, _ in pairs),
        tuple(key for key, _, _ in pairs),
    )
