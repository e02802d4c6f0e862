"""Keys of schemes that hide what lower layers have on them."""

from collections.abc import Iterator

from olive_compass.core.schemes.findings.finding import Finding, View, place

ID = "hides-lower"
SEVERITY = "note"
SAYS = "Keys of a scheme hide other commands that a lower layer has on them."
ADVICE = "Nothing, if it is meant; a colleague who knows only those layers will press them wrongly."


def find(view: View) -> Iterator[Finding]:
    pairs: dict[tuple[str, str, str], None] = {}
    places = []
    for bucket in view.keymap.buckets.values():
        if len(bucket) < 2:
            continue
        for claim in bucket:
            if not claim.origin or not claim.command:
                continue
            within = set(view.app.modes.within(claim.mode))
            for other in bucket:
                covered = other.mode in within or claim.mode in view.app.modes.within(other.mode)
                if (
                    other.rank > claim.rank
                    and other.command != claim.command
                    and covered
                    and other.command
                ):
                    pairs[str(claim.trigger), claim.command, other.command] = None
                    places.append(place(claim))
    if not pairs:
        return
    texts = [f"{key} “{view.title(mine)}” over “{view.title(other)}”" for key, mine, other in pairs]
    some = ", ".join(texts[:5]) + (f" and {len(texts) - 5} more" if texts[5:] else "")
    yield Finding(
        ID,
        SEVERITY,
        view.app.name,
        f"{len(texts)} {'key hides' if len(texts) == 1 else 'keys hide'} what lower layers have: {some}.",
        f"olive-compass show {view.app.name} --visitor",
        tuple(dict.fromkeys(places))[:5],
        tuple(mine for _, mine, _ in pairs),
        tuple(key for key, _, _ in pairs),
    )
