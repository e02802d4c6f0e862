"""The answer of a plan for a key set: what is done for each purpose, and why not more."""

from typing import Final, Literal

from msgspec import Struct

from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.consequences import Loss
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.verdicts import Verdict

#: What a plan does with a purpose.
PlanState = Literal["adopted", "already so", "blocked", "absent"]


ADOPTED: Final = "adopted"


ALREADY: Final = "already so"


BLOCKED: Final = "blocked"


ABSENT: Final = "absent"


#: What stands in the way of a trigger beyond the parts of a verdict: the set gives it to another
#: purpose; a scheme mutes it; its command costs much by mistake; something nearer comes first; a guard would break.
GIVEN, MUTED, LASTS, BEATEN, BREAKS = "given", "muted", "lasts", "beaten", "breaks"


#: The parts of a verdict for which a set stays away from a trigger.
BLOCKING = ("locked", "unavailable", "rules", "too-many", "keyless", "lacking", "typing", "guards")


class Obstacle(Struct, frozen=True, kw_only=True):
    """What stands in the way of a trigger: a part of its verdict or a word of the above, and whom
    it is about (a purpose, a claim, a guard)."""

    trigger: Run
    part: str
    verdict: Verdict
    about: object = None


class Planned(Struct, frozen=True, kw_only=True):
    """What a plan does for one purpose.

    ``trigger`` is the one that the command gets or has; ``why`` says what stood in the way of the
    triggers that come before it, or of all; ``lost`` are the commands that lose the trigger,
    ``dropped`` the keys that the command gives up, ``unlisted`` what had it without any list's word.
    """

    purpose: str
    command: str
    what: PlanState
    trigger: Run | None = None
    why: tuple[Obstacle, ...] = ()
    lost: tuple[Loss, ...] = ()
    dropped: tuple[Run, ...] = ()
    unlisted: tuple[str, ...] = ()


class Plan(Struct, frozen=True, kw_only=True):
    """What taking a set on means for an application: the scheme after it, purpose by purpose."""

    stack: Stack
    before: Scheme
    after: Scheme
    planned: tuple[Planned, ...]
