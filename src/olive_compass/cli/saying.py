"""Turns what the core decided about a change into sentences, refusals, questions and JSON."""

from collections.abc import Iterable, Iterator
from typing import Any

from olive_compass.cli import words
from olive_compass.cli.surroundings import BOLD, OFF
from olive_compass.core.apps.modes import joined
from olive_compass.core.changes.change import (
    DESPITE,
    GUARD,
    SURE,
    TAKEN,
    Change,
    Question,
    Refusal,
    StillHas,
    Without,
    after_edits,
    shifted,
    touched,
)
from olive_compass.core.changes.copy_rose import Copied
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.roses import bearing_name
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.consequences import Holder, Loss, Shift
from olive_compass.core.schemes.deciding import NOTHING, Keymap
from olive_compass.core.schemes.guards import Guarded
from olive_compass.core.schemes.layers import SYSTEM
from olive_compass.core.schemes.standing import not_assignable_says
from olive_compass.core.schemes.verdicts import SAID, WEIGHTS, Verdict, routes_by
from olive_compass.core.sharing.applying import BEATEN, BREAKS, GIVEN, LASTS, MUTED, Obstacle
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk, app_path, scheme_path
from olive_compass.errors import Refused


def part_text(at: Desk, view: AppView, found: Verdict, part: str) -> str:
    """One part of a verdict as a sentence without its full stop."""
    texts = {
        "firm": lambda: _firm(view, found),
        "unavailable": lambda: (
            f"{found.command.title} can have no key: "
            f"{not_assignable_says(found.command, found.unavailable)}"
        ),
        "rules": lambda: f"The rules of {view.app.title} do not allow this: {found.rules[0].why}",
        "too_many": lambda: _too_many(view, found),
        "guards": lambda: guard_text(found.guards[0]),
        "bare": lambda: (
            f"{found.bare[0].scheme.name} leaves {found.command.title} without a key on purpose: "
            f"{found.bare[0].why or 'no reason given'}"
        ),
        "holders": lambda: "; ".join(holder_text(at, view, found, h) for h in found.holders),
        "hidden": lambda: "; ".join(holder_text(at, view, found, h) for h in found.hidden),
        "lacking": lambda: "; ".join(
            f"{stroke} cannot be made on this keyboard: {text}" for stroke, text in found.lacking
        ),
        "typing": lambda: (
            f"{found.trigger} would swallow what is typed {view.app.modes.phrase(found.typing)}"
        ),
        "outside": lambda: (
            f"It counts {view.app.modes.phrase(found.outside)}, where {found.command.title} cannot be "
            "used"
        ),
        "untypable": lambda: "; ".join(
            f"It makes “{t}” untypable here" for _, t in found.untypable
        ),
        "altgr": lambda: "; ".join(f"“{stroke.key}” {text} here" for stroke, text in found.altgr),
        "waits": lambda: f"It starts only after a wait, because {_begin(found.waits)} with it",
        "delays": lambda: (
            f"{joined(dict.fromkeys(str(c.trigger) for c in found.delays))} "
            f"({_titles(view, found.delays)}) will start only after a wait, because {found.trigger} "
            "begins with it"
        ),
        "menus": lambda: (
            f"{found.trigger} no longer {found.menus[0].claim.wired}: "
            f"{_routes(view, found.trigger)} are lost"
        ),
        "reflex": lambda: (
            f"{found.trigger} is a reflex, and {found.command.title} lasts and cannot be taken back"
        ),
        "slips": lambda: (
            f"A slip from {found.slips[0].often.trigger} "
            f"(“{view.title(found.slips[0].often.command)}”) starts "
            f"“{view.title(found.slips[0].lasting.command)}”, which lasts"
        ),
        "friends": lambda: f"A false friend: {found.friends[0].says}",
        "hard": lambda: (
            f"It costs {found.hard.strokes if found.hard else 0:.1f} home strokes; "
            f"{view.weights.hard:g} and more are hard to press"
        ),
        "unreached": lambda: (
            f"It does not count {view.app.modes.phrase(found.unreached)}: a nearer scheme leaves "
            f"{found.command.title} bare there, or gives it a key instead"
        ),
        "first": lambda: "; ".join(_first(at, view, holder) for holder in found.first),
    }
    return texts[part]()


def said_lines(at: Desk, view: AppView, found: Verdict) -> list[str]:
    """What is only to be said of a verdict, a sentence each, the gravest first."""
    return [f"{part_text(at, view, found, part)}." for part in found.against(SAID)]


def _firm(view: AppView, found: Verdict) -> str:
    firm = found.firm[0]
    who = "The operating system" if firm.claim.layer == SYSTEM else view.app.title
    if firm.begins:
        return (
            f"{found.trigger} never arrives: {who} keeps {firm.claim.trigger}, with which it begins "
            f"({firm.claim.wired})"
        )
    return f"{who} keeps {found.trigger} for itself ({firm.claim.wired})"


def _too_many(view: AppView, found: Verdict) -> str:
    assert found.too_many
    keys = joined(f"{run} ({scheme})" for run, scheme in found.too_many.have)
    return (
        f"{view.app.title} lets a command have {counted(found.too_many.most, 'key')}, and "
        f"{found.command.title} has {keys}"
    )


def _begin(claims: tuple[Claim, ...]) -> str:
    names = list(dict.fromkeys(str(claim.trigger) for claim in claims))
    some = [*names[:4], *([f"{len(names) - 4} more"] if names[4:] else [])]
    return f"{joined(some)} {'begin' if len(names) > 1 else 'begins'}"


def _titles(view: AppView, claims: Iterable[Claim]) -> str:
    return joined(dict.fromkeys(view.meaning(claim.does) for claim in claims))


def _routes(view: AppView, trigger: Run) -> str:
    """The keyboard routes that begin with a trigger, the first few by name."""
    titles = routes_by(view, trigger)
    some = ", ".join(titles[:3]) + (f" and {len(titles) - 3} more" if titles[3:] else "")
    return f"{counted(len(titles), 'keyboard route')} ({some})"


def _first(at: Desk, view: AppView, holder: Holder) -> str:
    claim = holder.claim
    name = view.meaning(claim.does) or "a mute"
    return (
        f"But {view.app.modes.phrase(holder.modes)} {name} still comes first: "
        f"{words.source(claim)}, {words.where(at, view.keymap, claim)}"
    )


def obstacle_text(at: Desk, view: AppView, obstacle: Obstacle) -> str:
    """What stood in the way of a trigger of a key set: the trigger, and why."""
    found, about = obstacle.verdict, obstacle.about
    if obstacle.part == GIVEN:
        why = f"the set gives it to {about}"
    elif obstacle.part == LASTS:
        why = f"{found.command.title} lasts and cannot be taken back: give it a key by hand, if any"
    elif obstacle.part == MUTED and isinstance(about, Claim):
        why = f"muted by {about.origin}, {about.why or 'no reason given'}"
    elif obstacle.part == BEATEN:
        first = (view.meaning(about.does) or "a mute") if isinstance(about, Claim) else ""
        why = f"{first} comes first there" if first else "it would not reach the command"
    elif obstacle.part == BREAKS and isinstance(about, Guarded):
        why = guard_text(about)
    elif obstacle.part == "rules":
        why = found.rules[0].why
    elif obstacle.part == "unavailable":
        why = not_assignable_says(found.command, found.unavailable)
    else:
        why = part_text(at, view, found, obstacle.part)
    return f"{obstacle.trigger}: {why}".replace(BOLD, "").replace(OFF, "")


def holder_text(at: Desk, view: AppView, found: Verdict, holder: Holder) -> str:
    """Who holds a trigger, where, and by which decision."""
    claim = holder.claim
    if claim.wired:
        name = f"its hidden meaning, which no list shows, is {claim.wired}"
    elif claim.mutes:
        name = "it is muted" + (f" ({claim.why})" if claim.why else "")
    else:
        name = f"{BOLD}{view.title(claim.command)}{OFF} ({claim.command}) has it"
    return (
        f"{found.trigger} is taken {view.app.modes.phrase(holder.modes)}: {name}; "
        f"{words.source(claim)}, {words.where(at, view.keymap, claim)}"
    )


def guard_text(guard: Guarded) -> str:
    """That a press is guarded, by whom and why."""
    why = guard.decision.why or "no reason given"
    return f"{guard.trigger} is guarded by {guard.scheme.name}: {why}"


def loss_text(view: AppView, after: Keymap, loss: Loss) -> str:
    """That a command lost a trigger, and what it is left with."""
    return (
        f"{view.title(loss.command)} lost it {view.app.modes.phrase(loss.modes)}; "
        f"it is left with {words.left_with(after, loss)}."
    )


def refused(at: Desk, view: AppView, refusal: Refusal) -> Refused:
    """What cannot be, as an error: what, where, and the way out."""
    found = refusal.about
    if refusal.what not in WEIGHTS or not isinstance(found, Verdict):
        raise AssertionError(f"no words for the refusal {refusal.what}")
    says = f"{part_text(at, view, found, refusal.what)}; nothing was changed."
    app = view.app
    if refusal.what == "firm":
        return Refused(says, file=words.where(at, view.keymap, found.firm[0].claim))
    if refusal.what == "rules":
        broken = found.rules[0]
        hint = f"The rule is {broken.rule}."
        if broken.nearest:
            hint = f"The nearest are {' or '.join(broken.nearest)}."
        elif broken.rule == "roses":
            some = [each for each in app.modes.names if app.rose(each)]
            hint = f"It does in {joined(some)}: add --mode." if some else hint
        return Refused(says, file=app_path(app.name), hint=hint)
    if refusal.what == "too_many" and found.too_many:
        first = found.too_many.have[0]
        hint = (
            f"Take one first: olive-compass clear {app.name} '{first[0]}' --scheme {first[1]}; "
            "or say --instead."
        )
        return Refused(says, file=app_path(app.name), hint=hint)
    return Refused(says)


def question_lines(at: Desk, view: AppView, question: Question) -> list[str]:
    """What is to be known before a question is answered."""
    if question.what == TAKEN and isinstance(question.about, tuple):
        return [_copied_text(view, each) for each in question.about if isinstance(each, Copied)]
    return []


def _copied_text(view: AppView, each: Copied) -> str:
    return (
        f"{bearing_name(each.place.bearing)} is {view.title(each.had)}; it would be "
        f"{view.title(each.place.command)}."
    )


def _about(at: Desk, view: AppView, question: Question) -> str:
    """What a question is about, as a sentence without its full stop."""
    if isinstance(question.about, Verdict):
        part = {"guard": "guards", "bare": "bare", "typing": "typing", "keyboard": "lacking"}
        return part_text(at, view, question.about, part[question.what])
    if question.what == GUARD:
        return guard_text(_guards(question)[0])
    return ""


def _guards(question: Question) -> list[Guarded]:
    about = question.about
    return [each for each in about if isinstance(each, Guarded)] if isinstance(about, tuple) else []


def question_text(view: AppView, question: Question) -> tuple[str, str]:
    """The question as it is asked, and the option that answers it in a script."""
    if question.what in DESPITE:
        return "Do it all the same?", f"To do it all the same: --despite {question.what}"
    if question.what == TAKEN:
        return "Replace them?", "Say --if-taken replace."
    return "Do it?", "Say --yes to do it."


def unanswered(at: Desk, view: AppView, question: Question, way_out: str) -> Refused:
    """The error of a question that nobody can answer."""
    if question.what == TAKEN:
        return Refused("Places are taken; nothing was changed.", hint=way_out)
    if question.what == SURE:
        return Refused("This asks first; nothing was changed.", hint=way_out)
    says = f"{_about(at, view, question)}; nothing was changed."
    guards = _guards(question)
    if isinstance(question.about, Verdict):
        guards = list(question.about.guards) if question.what == GUARD else []
    if guards:
        path = scheme_path(view.app.name, guards[0].scheme.name)
        line = at.line(path, "guard", str(guards[0].trigger))
        return Refused(says, file=path, line=line, hint=way_out)
    return Refused(says, hint=way_out)


def asked_lines(at: Desk, view: AppView, question: Question) -> list[str]:
    """The sentence that a yes-or-no question is about."""
    text = _about(at, view, question)
    return [f"{text}."] if text else []


def shift_lines(view: AppView, after: Keymap, shifts: Iterable[Shift]) -> list[str]:
    """What presses do differently."""
    return [words.shift_text(view.keymap, after, each) for each in shifts]


def plain_effects(view: AppView, change: Change) -> list[str]:
    """The sentences of the effects that every action may have, in their order."""
    after = after_edits(view, change.edits)
    return [line for each in change.effects for line in _effect_lines(view, after, each)]


def _effect_lines(view: AppView, after: Keymap, effect: object) -> Iterator[str]:
    if isinstance(effect, Shift):
        yield words.shift_text(view.keymap, after, effect)
    elif isinstance(effect, Loss):
        yield f"{view.title(effect.command)} is left with {words.left_with(after, effect)}."
    elif isinstance(effect, Without):
        rest = f"; the menu {effect.route} remains" if effect.route else ""
        yield f"{view.title(effect.command)} has no key now{rest}."
    elif isinstance(effect, StillHas):
        yield f"A nearer layer still gives it {joined(map(str, effect.triggers))}."


def effect_json(at: Desk, view: AppView, effect: object) -> dict[str, Any]:
    """An effect as JSON: what it is, and its parts (docs/json.md)."""
    if isinstance(effect, Verdict):
        return verdict_json(at, view, effect)
    kind = type(effect).__name__.lower()
    fields: dict[str, Any] = {"effect": kind}
    for name, value in getattr(effect, "_asdict", dict)().items():
        # Everywhere in our JSON a trigger is called key.
        fields["key" if name == "trigger" else name.replace("_", "-")] = _plain(value)
    return fields


def _plain(value: object) -> Any:
    if value is None or isinstance(value, (str, int, float, bool)):
        return value
    if isinstance(value, Run):
        return str(value)
    if isinstance(value, Claim):
        return {
            "key": str(value.trigger),
            "command": value.command or None,
            "does": value.wired or None,
            "mode": value.mode,
            "layer": value.layer,
            "scheme": value.origin or None,
        }
    if hasattr(value, "_asdict"):
        return {name.replace("_", "-"): _plain(each) for name, each in value._asdict().items()}
    if isinstance(value, (tuple, list, frozenset)):
        return [_plain(each) for each in value]
    return str(value)


def verdict_json(at: Desk, view: AppView, found: Verdict) -> dict[str, Any]:
    """A verdict as JSON: what stands against it, each part with its weight and its sentence."""
    return {
        "effect": "verdict",
        "command": found.command.id,
        "key": str(found.trigger),
        "modes": list(found.modes),
        "effort": found.effort.strokes if found.effort else None,
        "against": [
            {"part": part, "weight": WEIGHTS[part], "says": _uncoloured(at, view, found, part)}
            for part in found.against()
        ],
        "lost": [
            {
                "command": loss.command,
                "modes": list(loss.modes),
                "left-with": [str(run) for run in loss.left],
            }
            for loss in found.lost
        ],
    }


def _uncoloured(at: Desk, view: AppView, found: Verdict, part: str) -> str:
    return part_text(at, view, found, part).replace(BOLD, "").replace(OFF, "")


def explained(at: Desk, view: AppView, change: Change) -> list[str]:
    """With ``--explain``: the application's rules, and what the keys do in the others."""
    rules = view.app.rules
    lines = []
    if not any(isinstance(each, Shift) for each in change.effects):
        lines = shift_lines(view, after_edits(view, change.edits), shifted(view, change.edits))
    lines += [
        f"Rules of {view.app.title}: a key given twice: {rules.duplicates}; "
        f"keys for a command: {rules.most_keys or 'any number'}; longest run: {rules.longest_run}; "
        f"switching a key off: {'it can' if rules.can_mute else 'it cannot'}.",
        "In the other applications:",
    ]
    others = [name for name in at.app_names() if name != view.app.name]
    for edit in change.edits:
        for trigger in touched(view, edit.before, edit.after):
            for name in others:
                lines += [f"  {trigger} in {line}" for line in elsewhere(at, trigger, name)]
    return lines


def elsewhere(at: Desk, trigger: Run, name: str) -> list[str]:
    """What a trigger does in another application, with a warning where it starts what lasts."""
    keymap = Keymap(at.stack(name), at.keyboard)
    together: dict[str, list[str]] = {}
    for mode in keymap.app.modes.names:
        outcome = keymap.decide(trigger, mode)
        if outcome.what != NOTHING:
            together.setdefault(words.outcome_text(keymap, outcome), []).append(mode)
    return [
        f"{keymap.app.title}: {text} {keymap.app.modes.phrase(modes)}{_lasting(keymap, trigger)}"
        for text, modes in together.items()
    ] or [f"{keymap.app.title}: nothing"]


def _lasting(keymap: Keymap, trigger: Run) -> str:
    known = keymap.app.catalogue.by_id
    for claim in keymap.buckets.get(keymap.keyboard.press_of(trigger), ()):
        command = known.get(claim.command)
        if command and command.marks.lasting:
            return f" - beware: {command.title} lasts and cannot be taken back"
    return ""
