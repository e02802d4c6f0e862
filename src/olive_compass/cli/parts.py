"""The parts of a verdict as sentences: what stands against a key, who holds it, what is left."""

from collections.abc import Iterable

from olive_compass.cli import words
from olive_compass.cli.surroundings import BOLD, OFF
from olive_compass.core.apps.guesses import guessed
from olive_compass.core.apps.modes import joined
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.consequences import Holder, Loss
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.guards import Guarded
from olive_compass.core.schemes.layers import SYSTEM
from olive_compass.core.schemes.objections import not_assignable_says
from olive_compass.core.schemes.verdicts import SAID, Verdict, routes_by
from olive_compass.core.wording import capital, counted
from olive_compass.desk.desk import Desk


def part_text(at: Desk, view: AppView, found: Verdict, part: str) -> str:
    """One part of a verdict as a sentence without its full stop."""
    # Sentences are put together only when they are asked for: most name files, and look up their lines.
    texts = {
        "locked": lambda: _firm(view, found),
        "unavailable": lambda: (
            f"{found.command.title} can have no key: "
            f"{not_assignable_says(found.command, found.unavailable)}"
        ),
        "rules": lambda: (
            f"The rules of {view.app.title} do not allow this: {found.rules[0].why}"
            f"{guessed(view.app, found.rules[0].rule)}"
        ),
        "too_many": lambda: _too_many(view, found),
        "guards": lambda: guard_text(found.guards[0]),
        "keyless": lambda: (
            f"{found.keyless[0].scheme.name} leaves {found.command.title} without a key on purpose: "
            f"{found.keyless[0].why or 'no reason given'}"
        ),
        "holders": lambda: "; ".join(holder_text(at, view, found, h) for h in found.holders),
        "unlisted": lambda: "; ".join(holder_text(at, view, found, h) for h in found.unlisted),
        "lacking": lambda: "; ".join(
            f"{each.stroke} cannot be made on this keyboard: {each.text}" for each in found.lacking
        ),
        "typing": lambda: (
            f"{found.trigger} would no longer type its character {view.app.modes.phrase(found.typing)}"
            f"{guessed(view.app, 'text-modes')}"
        ),
        "outside": lambda: (
            f"It applies {view.app.modes.phrase(found.outside)}, where {found.command.title} cannot be "
            "used"
        ),
        "untypable": lambda: "; ".join(
            f"It makes “{each.text}” untypable here" for each in found.untypable
        ),
        "altgr": lambda: "; ".join(f"“{each.stroke.key}” {each.text} here" for each in found.altgr),
        "waits": lambda: f"It starts only after a wait, because {_begin(found.waits)} with it",
        "delays": lambda: (
            f"{joined(dict.fromkeys(str(c.trigger) for c in found.delays))} "
            f"({titles(view, found.delays)}) will start only after a wait, because {found.trigger} "
            "begins with it"
        ),
        "twins": lambda: (
            f"The same finger starts {titles(view, found.twins)} with "
            f"{joined(dict.fromkeys(str(c.trigger) for c in found.twins))}; which of them is meant "
            "shows only after a moment"
        ),
        "menus": lambda: (
            f"{found.trigger} no longer {found.menus[0].claim.wired}{_routes(view, found.trigger)}"
        ),
        "habit_key": lambda: (
            f"People press {found.trigger} without thinking, and {found.command.title} "
            f"{found.command.marks.warning}"
        ),
        "slips": lambda: (
            f"A slip from {found.slips[0].often.trigger} "
            f"(“{view.title(found.slips[0].often.command)}”) starts "
            f"“{view.title(found.slips[0].disruptive.command)}”, which "
            f"{view.app.catalogue.by_id[found.slips[0].disruptive.command].marks.warning}"
        ),
        "false_friends": lambda: f"A false friend: {found.false_friends[0].says}",
        "hard": lambda: (
            f"It costs {found.hard.strokes if found.hard else 0:.1f} home strokes; "
            f"{view.weights.hard:g} and more are hard to press"
        ),
        "unreached": lambda: (
            f"It does not apply {view.app.modes.phrase(found.unreached)}: a nearer scheme leaves "
            f"{found.command.title} keyless there, or gives it a key instead"
        ),
        "first": lambda: "; ".join(_first(at, view, holder) for holder in found.first),
    }
    return texts[part]()


def said_lines(at: Desk, view: AppView, found: Verdict) -> list[str]:
    """What is only to be said of a verdict, a sentence each, the gravest first."""
    return [f"{part_text(at, view, found, part)}." for part in found.against(SAID)]


def _firm(view: AppView, found: Verdict) -> str:
    locked = found.locked[0]
    who = "The operating system" if locked.claim.layer == SYSTEM else view.app.title
    if locked.begins or locked.inside:
        return f"{found.trigger} never arrives: {who} keeps {locked.part} ({locked.claim.wired})"
    return f"{who} keeps {found.trigger} for itself ({locked.claim.wired})"


def _too_many(view: AppView, found: Verdict) -> str:
    assert found.too_many
    keys = joined(f"{run} ({scheme})" for run, scheme in found.too_many.have)
    return (
        f"{view.app.title} allows a command {counted(found.too_many.most, 'key')}, and "
        f"{found.command.title} has {keys}{guessed(view.app, 'most-keys')}"
    )


def _begin(claims: tuple[Claim, ...]) -> str:
    names = list(dict.fromkeys(str(claim.trigger) for claim in claims))
    some = [*names[:4], *([f"{len(names) - 4} more"] if names[4:] else [])]
    return f"{joined(some)} {'begin' if len(names) > 1 else 'begins'}"


def titles(view: AppView, claims: Iterable[Claim]) -> str:
    return joined(dict.fromkeys(view.meaning(claim.does) for claim in claims))


def _routes(view: AppView, trigger: Run) -> str:
    """The keyboard routes that begin with a trigger, the first few by name."""
    titles = routes_by(view, trigger)
    if not titles:
        return ""
    some = ", ".join(titles[:3]) + (f" and {len(titles) - 3} more" if titles[3:] else "")
    return f": {counted(len(titles), 'keyboard route')} ({some}) are lost"


def _first(at: Desk, view: AppView, holder: Holder) -> str:
    claim = holder.claim
    name = view.meaning(claim.does) or "a mute"
    return (
        f"But {view.app.modes.phrase(holder.modes)} {name} still comes first: "
        f"{words.source(claim)}, {words.where(at, view.keymap, claim)}"
    )


def holder_text(at: Desk, view: AppView, found: Verdict, holder: Holder) -> str:
    """Who holds a trigger, where, and by which decision."""
    claim = holder.claim
    place = words.where(at, view.keymap, claim)
    where = capital(view.app.modes.phrase(holder.modes))
    if claim.wired:
        return (
            f"{where}, {found.trigger} is taken: {view.app.title} {claim.wired}. Its own list does not "
            f"show this ({place})"
        )
    if claim.mutes:
        why = f": {claim.why}" if claim.why else ""
        return f"{where}, {found.trigger} is muted{why} ({words.source(claim)}; {place})"
    title = f"{BOLD}{view.title(claim.command)}{OFF}"
    return f"{where}, {found.trigger} already starts {title} ({words.source(claim)}; {place})"


def guard_text(guard: Guarded) -> str:
    """That a press is guarded, by whom and why."""
    why = guard.decision.why or "no reason given"
    return f"{guard.trigger} is guarded by {guard.scheme.name}: {why}"


def loss_text(view: AppView, after: Keymap, loss: Loss) -> str:
    """That a command lost a trigger, and how it can still be reached."""
    where = view.app.modes.phrase(loss.modes)
    return f"{view.title(loss.command)} loses it {where}; {words.left_with(after, loss)}."
