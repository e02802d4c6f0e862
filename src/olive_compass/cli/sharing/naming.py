"""From what a person typed to a purpose of the desk."""

from olive_compass.core.sharing.purposes import Purpose, Purposes
from olive_compass.errors import UserError
from olive_compass.near import did_you_mean


def purpose_named(purposes: Purposes, given: str) -> Purpose:
    """The purpose that a word means: by id, title or another name."""
    if given in purposes.by_id:
        return purposes.by_id[given]
    wanted = given.casefold()
    exact = [p for p in purposes.all if wanted in map(str.casefold, (p.title, *p.names))]
    found = exact or [purpose for purpose, _ in purposes.named(given)]
    if len(found) == 1:
        return found[0]
    if found:
        names = ", ".join(purpose.id for purpose in found[:6])
        raise UserError(f"“{given}” could be {names}.", hint="Name one by its id.")
    hint = did_you_mean(given, purposes.by_id) or "See them: olive-compass purpose list"
    raise UserError(f"There is no purpose “{given}”.", hint=hint)
