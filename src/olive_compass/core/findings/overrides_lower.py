"""Keys of schemes that hide what lower layers have on them."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import ShowSurprises
from olive_compass.core.apps.modes import joined
from olive_compass.core.findings.advice import accepting
from olive_compass.core.findings.finding import Finding, View, place
from olive_compass.core.keys.presses import Press
from olive_compass.core.schemes.claims import Claim, Does
from olive_compass.core.wording import by_number

ID = "overrides-lower"
SEVERITY: Final = "note"
SAYS = "Keys of a scheme override keys of a lower scheme layer."
ADVICE = (
    "Nothing, if that is intended; but a colleague who knows only those layers will press "
    "them by mistake."
)


def find(view: View) -> Iterator[Finding]:
    pairs: dict[tuple[str, Does, Does], None] = {}
    places = []
    ordered = {view.keymap.keyboard.press_of(run) for s in view.stack.schemes for run in s.order}
    for press, bucket in view.keymap.buckets.items():
        # Where the candidates of a choice were put in order, what stands beside it is known.
        if len(bucket) < 2 or press in ordered or not any(c.origin for c in bucket):
            continue
        for claim, other in _hidden(view, press, bucket):
            pairs[str(claim.trigger), claim.does, other.does] = None
            places.append(place(claim))
    if not pairs:
        return
    texts = [
        f"{key} “{view.meaning(mine)}” over “{view.meaning(other)}”" for key, mine, other in pairs
    ]
    commands = tuple(mine.command for _, mine, _ in pairs)
    yield Finding(
        id=ID,
        severity=SEVERITY,
        app=view.app.name,
        says=f"{len(texts)} {by_number(len(texts), 'key overrides', 'keys override')} what lower layers have: {joined(texts, 5)}.",
        advice=accepting(view, ID, commands[0]),
        places=tuple(dict.fromkeys(places))[:5],
        commands=commands,
        keys=tuple(key for key, _, _ in pairs),
        look=ShowSurprises(app=view.app.name),
    )


def _hidden(view: View, press: Press, bucket: list[Claim]) -> Iterator[tuple[Claim, Claim]]:
    """What a scheme's claim hides in some mode, each command of a lower layer once.

    It is read off what each mode decides, so that a crowded key costs no more than its claims.
    """
    seen: set[tuple[Does, Does]] = set()
    for mode in dict.fromkeys(claim.mode for claim in bucket):
        outcome = view.keymap.decide_press(press, mode)
        first = None
        if outcome.winners:
            first = outcome.winners[0]
        if first is None or not first.origin or first.mutes:
            continue
        for other in outcome.overridden:
            pair = (first.does, other.does)
            if pair not in seen and _is_hidden(first, other):
                seen.add(pair)
                yield first, other


def _is_hidden(first: Claim, other: Claim) -> bool:
    """Whether a claim of a lower layer would do something else, were it not for the first."""
    return other.rank > first.rank and other.does != first.does and not other.mutes
