"""A trigger with which a longer run begins: the application must wait before it starts it."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import ShowPress
from olive_compass.core.apps.modes import joined
from olive_compass.core.findings.advice import accepting, better_key
from olive_compass.core.findings.finding import Finding, View, place
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.layers import FACTORY
from olive_compass.core.wording import by_number

ID = "waits-for-sequence"
SEVERITY: Final = "warning"
SAYS = "A longer sequence begins with this key, so its command starts only after a wait."
ADVICE = (
    "Use another letter for one of them, or make the shorter one longer. It is a note if the "
    "application ships like this."
)


def find(view: View) -> Iterator[Finding]:
    of_factory: list[str] = []
    for (short, longer), modes in _waiting(view):
        if all(claim.layer == FACTORY for claim in (*short, *longer)):
            of_factory.append(str(short[0].trigger))
        elif short[0].origin:
            yield _finding(view, short, longer, modes)
        else:
            # What can be changed is each of the longer ones, one by one.
            changeable = (claim for claim in longer if claim.origin)
            yield from (_finding(view, short, (claim,), modes) for claim in changeable)
    if of_factory:
        keys = sorted(dict.fromkeys(of_factory))
        yield Finding(
            id=ID,
            severity="note",
            app=view.app.name,
            says=f"The factory itself begins longer sequences with {', '.join(keys)}; each starts its own "
            "command only after a wait.",
            advice=accepting(view, ID, keys[0], "the factory has it so"),
            keys=tuple(keys),
            look=ShowPress(app=view.app.name, key=keys[0]),
        )


#: The claims of a press, and those of longer sequences that begin with it.
_Pair = tuple[tuple[Claim, ...], tuple[Claim, ...]]


def _waiting(view: View) -> Iterator[tuple[_Pair, list[str]]]:
    """What starts only after a wait, and for which sequences, with the modes in which it does."""
    keymap = view.keymap
    for press in keymap.beginnings:
        if press not in keymap.buckets:
            continue
        together: dict[_Pair, list[str]] = {}
        for mode in view.app.modes.names:
            outcome = keymap.decide_press(press, mode)
            if outcome.winners and not outcome.winners[0].mutes and outcome.longer:
                together.setdefault((outcome.winners, outcome.longer), []).append(mode)
        yield from together.items()


def _finding(
    view: View, short: tuple[Claim, ...], longer: tuple[Claim, ...], modes: list[str]
) -> Finding:
    key = str(short[0].trigger)
    # Decisions of schemes first: they are what can be changed.
    longer = tuple(sorted(longer, key=lambda claim: (claim.layer == FACTORY, claim.rank)))
    names = [f"{claim.trigger} (“{view.meaning(claim.does)}”)" for claim in longer]
    claims = (*short, *longer)
    changeable = [claim for claim in claims if claim.origin]
    return Finding(
        id=ID,
        severity=SEVERITY,
        app=view.app.name,
        says=f"{key} starts “{view.meaning(short[0].does)}” {view.app.modes.phrase(modes)} only "
        f"after a wait, because {joined(names, 3)} {by_number(len(names), 'begins', 'begin')} with it.",
        advice=better_key(view, changeable[0]),
        places=tuple(dict.fromkeys(map(place, changeable))),
        commands=tuple(claim.command for claim in claims),
        keys=(key, *(str(claim.trigger) for claim in longer)),
        modes=tuple(modes),
    )
