"""A guarded key that does not mean what its guard keeps."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import Action, AssignKey, ClearKeys
from olive_compass.core.findings.advice import accepting, clearing, guards_broken_by, scheme_named
from olive_compass.core.findings.finding import Finding, Place, View, place
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import Keymap, Outcome
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.editing import clear_trigger, take, without
from olive_compass.core.schemes.guards import Guarded, standing_breaks
from olive_compass.structs import replace

ID = "guarded-key"
SEVERITY: Final = "error"
SAYS = "A guarded key no longer does what its guard protects, or now waits for a sequence."
ADVICE = "Undo that decision, or remove the guard if its reason no longer applies."


def find(view: View) -> Iterator[Finding]:
    if not view.stack.has_guards:
        return
    seen: set[tuple[str, str]] = set()
    for broken in standing_breaks(view.keymap):
        key = (broken.scheme.name, str(broken.trigger))
        if key not in seen:
            seen.add(key)
            yield _finding(view, broken)


def _does_now(view: View, now: Outcome) -> str:
    names = [f"“{view.meaning(claim.does)}”" for claim in now.winners if not claim.mutes]
    return f"does {' or '.join(names) or 'nothing'}"


def _finding(view: View, broken: Guarded) -> Finding:
    run, now = broken.trigger, broken.now
    why = broken.decision.why or "no reason given"
    was = " or ".join(f"“{view.meaning(does)}”" for does in broken.kept) or "nothing"
    # Where the same commands win, what begins with the key is what keeps it from them.
    waits = tuple(claim.does for claim in now.winners) == broken.kept
    culprits = [*now.winners]
    if waits:
        culprits = [*now.longer, *now.winners]
    does = _does_now(view, now)
    if waits and now.longer:
        does = f"waits, for {now.longer[0].trigger} begins with it"
    return Finding(
        id=ID,
        severity=SEVERITY,
        app=view.app.name,
        says=f"{run} is guarded by {broken.scheme.name} ({why}) and keeps {was}, but {does} "
        f"{view.app.modes.phrase(view.app.modes.inside([broken.mode]))}.",
        advice=_advice(view, broken),
        places=(
            *(place(claim) for claim in culprits[:1]),
            Place(broken.scheme.name, "guard", str(run)),
        ),
        commands=tuple(claim.command for claim in now.winners),
        keys=(str(run),),
        modes=(broken.mode,),
    )


def _advice(view: View, broken: Guarded) -> Action:
    """What mends it, unless that broke a guard in some other mode: it is said to be meant then."""
    about = next((c.command for c in broken.now.winners if c.command), str(broken.trigger))
    return _mending(view, broken) or accepting(view, ID, about, "it holds in the other modes")


def _mending(view: View, broken: Guarded) -> Action | None:
    """To take out what came between: a nearer decision, a longer run, a keyless command; None: another guard
    would not hold then."""
    now = broken.now
    same = tuple(claim.does for claim in now.winners) == broken.kept
    # A longer run makes the key wait, whatever it starts: the very command that is kept as well.
    between = [claim for claim in now.winners if claim.does not in broken.kept]
    for claim in (*(now.longer if same else ()), *between):
        if claim.origin:
            if _breaks_none(view, claim):
                return clearing(view, claim)
            return None
    for does in broken.kept:
        for scheme in view.stack.schemes:
            if does.command in scheme.keyless:
                return _unbaring(view, scheme, does.command)
    return _giving_back(view, broken) or ClearKeys(
        app=view.app.name, key=str(broken.trigger), scheme=broken.scheme.name
    )


def _giving_back(view: View, broken: Guarded) -> Action | None:
    """To assign the key to the command that had it when it was guarded; None: it cannot be, or the guard would not
    hold then."""
    # Loaded here: most guards hold.
    from olive_compass.core.changes.assign import Assign, assign
    from olive_compass.core.changes.change import REPLACE, Answers

    kept = None
    if broken.kept:
        kept = view.app.catalogue.by_id.get(broken.kept[0].command)
    if kept is None:
        return None
    request = Assign(
        command=kept,
        trigger=broken.trigger,
        modes=(broken.mode,),
        scheme=broken.scheme,
        answers=Answers(REPLACE),
    )
    change = assign(view, request)
    if not change.edits or change.refusals or change.questions:
        return None
    if not _holds_then(view, change.edits[0].after, broken):
        return None
    return AssignKey(
        app=view.app.name,
        command=kept.id,
        key=str(broken.trigger),
        modes=(broken.mode,),
        replacing=True,
        scheme=broken.scheme.name,
    )


def _unbaring(view: View, scheme: Scheme, command: str) -> Action | None:
    """To let a command have keys again; None: other keys that schemes give it would come back as well, or a guard
    would not hold."""
    rest = without(scheme.keyless, command)
    given = any(command in each.assign for each in view.stack.schemes)
    if given or guards_broken_by(view, replace(scheme, keyless=rest)):
        return None
    return ClearKeys(app=view.app.name, command=command, scheme=scheme.name)


def _holds_then(view: View, after: Scheme, broken: Guarded) -> bool:
    """Whether a guard holds in its mode once its scheme is another."""
    then = standing_breaks(Keymap(view.stack.with_scheme(after), view.keyboard))
    same = (broken.scheme.name, broken.trigger, broken.mode)
    return same not in [(each.scheme.name, each.trigger, each.mode) for each in then]


def _breaks_none(view: View, claim: Claim) -> bool:
    """Whether every guard lets the decision of a claim be taken out."""
    scheme = scheme_named(view, claim.origin)
    if scheme is None:
        return True
    board = view.keymap.keyboard
    if claim.command:
        after = take(scheme, claim.command, claim.trigger, view.app.modes.names, board)
    else:
        after = clear_trigger(scheme, claim.trigger, board)
    return not guards_broken_by(view, after)
