"""One key or button that does two things: pressed and held, pressed once and twice."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.findings.advice import better_key
from olive_compass.core.findings.finding import Finding, View, place
from olive_compass.core.keys.presses import Press
from olive_compass.core.schemes.claims import Claim

ID = "press-and-hold"
SEVERITY: Final = "note"
SAYS = "One key or button does something else when you hold it or press it twice."
ADVICE = (
    "Keep it if the pause is worth it: the application can tell them apart only after a "
    "moment. Otherwise assign another key to one of them."
)


def find(view: View) -> Iterator[Finding]:
    seen: set[frozenset[Claim]] = set()
    for press, others in view.keymap.twins.items():
        for other in others:
            for pair, modes in _together(view, press, other).items():
                if frozenset(pair) in seen or not any(claim.origin for claim in pair):
                    continue
                seen.add(frozenset(pair))
                yield _finding(view, pair, modes)


def _together(view: View, press: Press, other: Press) -> dict[tuple[Claim, Claim], list[str]]:
    """The claims that decide the two presses in the same mode, and in which modes they do."""
    found: dict[tuple[Claim, Claim], list[str]] = {}
    for mode in view.app.modes.names:
        for one in view.keymap.winners(press, mode):
            for two in view.keymap.winners(other, mode):
                if not (one.mutes or two.mutes) and one.does != two.does:
                    found.setdefault((one, two), []).append(mode)
    return found


def _finding(view: View, pair: tuple[Claim, Claim], modes: list[str]) -> Finding:
    # The nearer decision first: it is the one that can be changed most easily.
    one, two = sorted(pair, key=lambda claim: (not claim.origin, claim.rank))
    where = view.app.modes.phrase(modes)
    return Finding(
        id=ID,
        severity=SEVERITY,
        app=view.app.name,
        says=f"{one.trigger} starts “{view.meaning(one.does)}” and {two.trigger} “"
        f"{view.meaning(two.does)}” {where}: the application can tell them apart only after a moment.",
        advice=better_key(view, one),
        places=tuple(place(claim) for claim in (one, two) if claim.origin),
        commands=tuple(claim.command for claim in (one, two)),
        keys=(str(one.trigger), str(two.trigger)),
        modes=tuple(modes),
    )
