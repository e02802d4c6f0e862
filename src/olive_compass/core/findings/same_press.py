"""Two commands want the same press in the same mode, and both from the same layer."""

from collections.abc import Iterator, Sequence
from typing import Final

from olive_compass.core.actions import Action, OrderChoice, ShowPress
from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import joined
from olive_compass.core.findings.advice import accepting, better_key
from olive_compass.core.findings.finding import MOST_NAMED, Finding, View, place
from olive_compass.core.keys.presses import Press
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.layers import FACTORY
from olive_compass.structs import replace

ID = "same-press"
SEVERITY: Final = "error"
SAYS = "Two commands have the same key in the same mode of one scheme layer."
ADVICE = (
    "Remove one of them, or limit it to another mode. It is a note if the application offers "
    "a choice, or if it ships like this."
)


def find(view: View) -> Iterator[Finding]:
    ordered = known_choices(view)
    for press, bucket in view.keymap.buckets.items():
        if len(bucket) < 2:
            continue
        for wants, modes in _together(view, press, bucket).items():
            # Who has put them in order has seen them.
            if {claim.command for claim in wants} <= ordered.get(press, set()):
                continue
            yield _finding(view, wants, modes)


def _together(
    view: View, press: Press, bucket: Sequence[Claim]
) -> dict[tuple[Claim, ...], list[str]]:
    """The claims that want a press at one place, with the modes in which they do."""
    by_place: dict[tuple[int, str], list[Claim]] = {}
    for claim in bucket:
        by_place.setdefault((claim.rank, claim.mode), []).append(claim)
    found: dict[tuple[Claim, ...], list[str]] = {}
    for (_, mode), claims in by_place.items():
        # Without the mode, so that one quarrel in five modes is one finding.
        wants = tuple(replace(claim, mode="") for claim in contenders(claims))
        if len(wants) < 2 or not alike(wants):
            continue
        # A choice that a nearer layer hides is never shown to anybody.
        if _is_choice(view, wants) and not _offered(view, press, wants, mode):
            continue
        found.setdefault(wants, []).append(mode)
    return found


def contenders(claims: list[Claim]) -> tuple[Claim, ...]:
    """One claim of each command, or mute, that wants a press at one place.

    A command may have the press in several spellings. Where all have one spelling in common it is
    the one that each is shown with, so that the order of a command's keys decides nothing.
    """
    spellings: dict[object, dict[Run, Claim]] = {}
    for claim in claims:
        spellings.setdefault(claim.does, {})[claim.trigger] = claim
    first, *others = spellings.values()
    common = next((run for run in first if all(run in other for other in others)), None)
    return tuple(each[common or next(reversed(each))] for each in spellings.values())


def alike(claims: tuple[Claim, ...]) -> bool:
    """Whether all are written in the same way."""
    return len({claim.trigger for claim in claims}) == 1


def known_choices(view: View) -> dict[object, set[str]]:
    """The presses whose candidates a person put in order, with the commands named there.

    Where the application offers no choice, an order means nothing.
    """
    if view.app.rules.duplicates != "choice":
        return {}
    found: dict[object, set[str]] = {}
    for scheme in view.stack.schemes:
        for run, commands in scheme.order.items():
            found.setdefault(view.keymap.keyboard.press_of(run), set()).update(commands)
    return found


def _is_choice(view: View, claims: tuple[Claim, ...]) -> bool:
    return view.app.rules.duplicates == "choice" and not any(claim.mutes for claim in claims)


def _offered(view: View, press: Press, claims: tuple[Claim, ...], inside: str) -> bool:
    """Whether the application ever offers them: something nearer may hide the whole choice."""
    commands = {claim.command for claim in claims}
    return any(
        commands <= {winner.command for winner in view.keymap.winners(press, mode)}
        for mode in view.app.modes.within(inside)
    )


def _follows(app: App) -> str:
    """What an application does with a key that two commands have."""
    rule = app.rules.duplicates
    if rule == "choice":
        text = f"{app.title} offers a choice in this order"
    elif rule in ("replace", "last-wins"):
        text = f"{app.title} starts the last"
    else:
        text = f"{app.title} starts the first"
    if "duplicates" not in app.rules.guessed:
        return text
    # Nobody has said what the application does: its keys tell, or it is the commonest rule.
    return text.replace("starts", "is taken to start") + " (guessed)"


def _finding(view: View, claims: tuple[Claim, ...], modes: list[str]) -> Finding:
    key = str(claims[0].trigger)
    titles = [f"“{view.meaning(c.does)}”" if not c.mutes else "a mute" for c in claims]
    factory = claims[0].layer == FACTORY
    # What happens now is said with it: whether the double matters is for a person to judge.
    follows = "the mute comes first"
    if not any(claim.mutes for claim in claims):
        follows = _follows(view.app)
    where = view.app.modes.phrase(view.app.modes.inside(modes))
    return Finding(
        id=ID,
        severity="note" if factory or _is_choice(view, claims) else SEVERITY,
        app=view.app.name,
        says=f"{key} is given to {joined(titles, MOST_NAMED)} {where}; {follows}.",
        advice=advice(view, ID, claims),
        places=tuple(dict.fromkeys(place(claim) for claim in reversed(claims))),
        commands=tuple(claim.command for claim in claims),
        keys=(key,),
        modes=tuple(modes),
        look=ShowPress(app=view.app.name, key=key) if factory else None,
    )


def advice(view: View, id_: str, claims: tuple[Claim, ...]) -> Action:
    """What settles a press that several want: an order of the choice, or taking it from the beaten."""
    commands = [claim for claim in claims if claim.command]
    if claims[0].layer == FACTORY:
        return accepting(view, id_, claims[0].command, "the factory has it so")
    if view.app.rules.duplicates == "choice" and len(commands) == len(claims):
        return OrderChoice(
            app=view.app.name,
            key=str(claims[0].trigger),
            commands=tuple(claim.command for claim in claims),
            scheme=claims[0].origin,
        )
    # The one that never starts gives way: nothing changes for the hand.
    if view.app.rules.duplicates in ("replace", "last-wins"):
        beaten = commands[0]
    else:
        beaten = commands[-1]
    return better_key(view, beaten)
