"""What the simulator says: lines, what each is about, and the reasons in them."""

from collections.abc import Callable

from msgspec import Struct

from olive_compass.core.apps.modes import joined
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import Outcome
from olive_compass.core.wording import clause

#: What a line is about: a command that fired, the reason, a question, trouble, or a remark.
FIRED, WHY, ASKS, TROUBLE, REMARK = "fired", "why", "asks", "trouble", "remark"


class Line(Struct, frozen=True):
    """A line to show, and what it is about."""

    what: str
    text: str


def reason(outcome: Outcome, title: Callable[[str], str], where: Callable[[Claim], str]) -> str:
    """The reason for a press's meaning: layer, mode, file and line, and what it overrides.

    ``title`` gives that of a command; ``where`` says in words where a claim stands.
    """
    claim = outcome.winners[0]
    if claim.origin:
        layer = f"{claim.origin} ({claim.layer})"
    else:
        layer = claim.layer
    why = f"{layer}, {claim.mode}; {where(claim)}"
    if claim.why:
        why += f": {claim.why}"
    titles = [title(each.command) for each in outcome.overridden if not each.wired]
    hidden = joined(dict.fromkeys(each or "a mute" for each in titles))
    return why + clause(" (overrides {})", hidden)


def waiting(run: Run, outcome: Outcome) -> Line:
    """That a run waits, and what may follow."""
    names = (str(claim.trigger) for claim in outcome.longer)
    return Line(REMARK, f"{run} waits: {joined(names, 4)} may follow.")


def offered(choices: tuple[Claim, ...], title: Callable[[str], str]) -> list[Line]:
    """The candidates of a shared key by number, the likeliest first."""
    names = [f"  {n}  {title(claim.command)}" for n, claim in enumerate(choices, 1)]
    text = f"{choices[0].trigger} is shared. Which one? Its number; Enter: the first"
    return [Line(ASKS, text), *(Line(ASKS, name) for name in names)]
