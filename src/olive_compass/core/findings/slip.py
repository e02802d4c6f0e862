"""A key right beside a much-used one, which starts something lasting or interrupting."""

from collections.abc import Iterator

from olive_compass.core.effort.reach import distance
from olive_compass.core.findings.finding import Finding, View, place
from olive_compass.core.keys.keyboards import Physical
from olive_compass.core.schemes.claims import Claim

ID = "slip"
SEVERITY = "warning"
SAYS = "A slip of the finger from a much-used key starts something lasting or interrupting."
ADVICE = "Mute it, give it the meaning of its neighbour, or move the lasting command elsewhere."

#: Keys whose middles lie no further apart than this (key units) are neighbours.
BESIDE = 1.2


def find(view: View) -> Iterator[Finding]:
    known = view.app.catalogue.by_id
    form = view.keymap.keyboard.form
    if form is None:
        return
    lasting: dict[Physical, Claim] = {}
    often: dict[tuple[str, ...], list[tuple[str, Claim]]] = {}
    for press, bucket in view.keymap.buckets.items():
        for claim in bucket if len(press) == 1 else ():
            command = known.get(claim.command)
            if command is None or claim not in view.keymap.winners(press, claim.mode):
                continue
            if command.marks.lasting:
                lasting[press[0]] = claim
            if command.marks.often:
                often.setdefault(press[0][0], []).append((press[0][1], claim))
    for (held, code), claim in lasting.items():
        beside = [
            other
            for near, other in often.get(held, ())
            if near != code and distance(form, code, near) <= BESIDE
        ]
        if beside:
            names = " and ".join(f"{c.trigger} (“{view.title(c.command)}”)" for c in beside[:2])
            yield Finding(
                ID,
                SEVERITY,
                view.app.name,
                f"{claim.trigger} starts “{view.title(claim.command)}”, which lasts, right beside {names}.",
                f"olive-compass mute {view.app.name} '{claim.trigger}' --why 'beside {beside[0].trigger}'",
                (place(claim), place(beside[0])),
                (claim.command,),
                (str(claim.trigger),),
            )
