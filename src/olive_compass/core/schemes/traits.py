"""The objections to a trigger in itself, whoever holds it: the parts of a verdict.

Each function answers one question about a trigger, a command or modes. The verdict before a decision
and the findings after it ask these same functions, so that they cannot differ.
"""

from collections.abc import Callable, Iterable, Iterator
from functools import lru_cache

from msgspec import Struct

from olive_compass.core.apps.app import LICENCE, WITHDRAWN, App, Command
from olive_compass.core.effort.reach import Effort, distance, run_effort
from olive_compass.core.effort.weights import Weights
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.kinds import Broken, StrokeQuery, kind_of
from olive_compass.core.keys.presses import Press, begins_with
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.triggers import Run, Stroke
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import Keymap, twins_of
from olive_compass.core.wording import sequences_of

#: Keys that mean something harmless in most programs, so that hands press them unasked.
REFLEXES = (
    "Escape",
    "Enter",
    "Space",
    "Tab",
    "Delete",
    "Backspace",
    "Main+S",
    "Main+Z",
    "Main+Y",
    "Main+X",
    "Main+C",
    "Main+V",
    "Main+A",
    "Main+F",
    "Main+D",
    "Main+N",
    "Main+O",
    "F1",
    "F2",
    "F5",
)

#: Triggers that hardly a hand presses, those that no keyboard of today has first.
_FAR = tuple(
    f"{held}F{n}"
    for n in (24, 23, 22, 21, 20, 19, 18, 17, 16, 15, 14, 13, 12, 11, 10, 9)
    for held in (
        "Ctrl+Alt+Shift+",
        "Ctrl+Shift+",
        "Ctrl+Alt+",
        "Alt+Shift+",
        "Ctrl+",
        "Alt+",
        "Shift+",
        "",
    )
)

#: What hands do with the mouse without thinking: the wheel rolls a page, the second button opens
#: a menu.
_POINTING = ("wheel:up", "wheel:down", "mouse:second", "mouse:middle")

#: Keys whose middles lie no further apart than this (key units) are neighbours.
BESIDE = 1.2

#: Why no key can be given to a command.
FIXED = "fixed"


class Locked(Struct, frozen=True):
    """A layer above all schemes takes the press, or (``begins``) the beginning of the run, or (``inside``) a
    stroke later in it."""

    claim: Claim
    begins: bool = False
    inside: bool = False

    @property
    def part(self) -> str:
        """Which part of the run it takes, after the key."""
        return (
            f"{self.claim.trigger}, {'with which it begins' if self.begins else 'which is in it'}"
        )


class Trait(Struct, frozen=True):
    """Something about one stroke of a trigger: which, and what in words or as a character."""

    stroke: Stroke
    text: str


class Slip(Struct, frozen=True):
    """A command that costs much by mistake, right beside a much-used one."""

    disruptive: Claim
    often: Claim


def firm_on(keymap: Keymap, trigger: Run) -> list[Locked]:
    """What the system or the application keeps of a trigger, also of a part of it."""
    found = []
    for press in keymap.keyboard.presses_of(trigger):
        # A run never gets past a locked key: its parts count as well.
        for part in keymap.stops(press):
            begins = part != press and begins_with(press, part)
            found += [
                Locked(claim, begins, part != press and not begins)
                for claim in keymap.buckets.get(part, ())
                if claim.layer.locked
            ]
    return found


def broken_rules(
    app: App, keyboard: Keyboard, trigger: Run, modes: tuple[str, ...] = ()
) -> Iterator[Broken]:
    """The rules of the application that ``trigger`` breaks by itself in ``modes``."""
    rules = app.rules
    count = len(trigger.strokes)
    if count > rules.longest_sequence:
        takes = sequences_of(rules.longest_sequence)
        yield Broken(rule="longest-sequence", why=f"it takes {takes}, and {trigger} has {count}")
    for stroke in trigger.strokes:
        asked = StrokeQuery(
            stroke=stroke,
            alone=count == 1,
            modes=modes,
            rose=app.rose,
            allows=rules,
            keyboard=keyboard,
        )
        yield from kind_of(stroke).broken(asked)


def not_assignable(app: App, command: Command) -> str:
    """Why no key can be given to ``command``: it is not there (``App.why_absent``), or is ``fixed``; ``""``:
    one can."""
    return app.why_absent(command) or (FIXED if command.marks.fixed else "")


def not_assignable_says(command: Command, why: str) -> str:
    """Why no key can be given to a command, as half a sentence."""
    return {
        WITHDRAWN: "the application has withdrawn it",
        FIXED: "the application lets no key be given to it",
        LICENCE: f"it needs “{command.marks.needs}”, which this computer does not have",
    }.get(why, "")


def _on_each(keyboard: Keyboard, stroke: Stroke, trait: Callable[[Keyboard, Stroke], str]) -> str:
    """What ``trait`` says of a stroke on the keyboard, or else on another one of the seat."""
    if text := trait(keyboard, stroke):
        return text
    for other in keyboard.others:
        if text := trait(other, stroke):
            return f"{text} ({other.name})"
    return ""


def lacking(keyboard: Keyboard, stroke: Stroke) -> str:
    """Why a keyboard of the seat cannot make a stroke, ``""``: all can."""
    return _on_each(keyboard, stroke, lambda board, each: board.made(each).missing)


def behind_altgr(keyboard: Keyboard, stroke: Stroke) -> str:
    """Whether a label stands behind AltGr or on a dead key: says which, ``""``: neither."""
    return _on_each(keyboard, stroke, _behind_altgr)


def _behind_altgr(keyboard: Keyboard, stroke: Stroke) -> str:
    made = keyboard.made(stroke)
    # It waits for a letter: as a shortcut it would have to be pressed twice, or not at all.
    if made.dead:
        return "is a dead key"
    if made.level >= 2:
        return "is typed only with AltGr"
    return ""


def makes_untypable(keyboard: Keyboard, stroke: Stroke) -> str:
    """The character that no other way types once the stroke is a shortcut, ``""``: none."""
    return _on_each(keyboard, stroke, lambda board, each: board.swallows(each))


def far_triggers(app: App, keyboard: Keyboard) -> list[Run]:
    """The triggers to which a command can be moved that is to have no key where the application takes none
    away: those that the rules allow, the ones that the keyboard lacks first."""
    allowed = [
        run
        for run in map(read_trigger, _FAR)
        if not any(True for _ in broken_rules(app, keyboard, run))
    ]
    return sorted(allowed, key=lambda run: not lacking(keyboard, run.strokes[0]))


def traits(
    keyboard: Keyboard, trigger: Run, trait: Callable[[Keyboard, Stroke], str]
) -> tuple[Trait, ...]:
    """The strokes of a trigger for which ``trait`` gives a text."""
    strokes = dict.fromkeys(trigger.strokes)
    return tuple(Trait(each, text) for each in strokes if (text := trait(keyboard, each)))


def types_text(keyboard: Keyboard, trigger: Run) -> bool:
    """Whether the first stroke of a trigger writes text by itself: a letter, digit, sign or blank."""
    first = trigger.strokes[0]
    return kind_of(first).types(first, keyboard)


def typing_modes(app: App, modes: Iterable[str]) -> tuple[str, ...]:
    """Those of ``modes``, and of what lies inside them, in which typing writes text."""
    texts = set(app.modes.inside(app.rules.text_modes))
    return tuple(mode for mode in app.modes.inside(modes) if mode in texts)


def where_it_can_count(
    app: App, keyboard: Keyboard, command: Command | None, trigger: Run, modes: Iterable[str]
) -> tuple[str, ...]:
    """Those of ``modes``, and of what lies inside them, in which a key of ``command`` does what it is for and
    swallows nothing that is typed; as few names as say it, none: it can count nowhere."""
    inside = app.modes.inside(modes)
    if command:
        usable = app.modes.inside(command.usable_in)
    else:
        usable = app.modes.names
    open_ = [mode for mode in inside if mode in usable]
    if types_text(keyboard, trigger):
        texts = set(app.modes.inside(app.rules.text_modes))
        open_ = [mode for mode in open_ if not texts & set(app.modes.within(mode))]
    # A name stands for all that lies inside it, so it is no answer where only part of that is.
    whole = [mode for mode in open_ if set(app.modes.within(mode)) <= set(open_)]
    return app.modes.outermost(whole)


def outside(app: App, command: Command, modes: Iterable[str]) -> tuple[str, ...]:
    """Those of ``modes``, and of what lies inside them, in which ``command`` cannot be used."""
    if not command.modes:
        return ()
    usable = set(app.modes.inside(command.modes))
    return tuple(mode for mode in app.modes.inside(modes) if mode not in usable)


def is_reflex(keyboard: Keyboard, trigger: Run) -> bool:
    """Whether hands press a trigger without thinking."""
    return keyboard.press_of(trigger) in reflex_presses(keyboard)


@lru_cache(maxsize=8)
def reflex_presses(keyboard: Keyboard) -> dict[Press, None]:
    """The presses that hands make without thinking, in a fixed order."""
    keys = [keyboard.press_of(read_trigger(text)) for text in REFLEXES]
    return dict.fromkeys([*keys, *((((), code),) for code in _POINTING)])


def hard(keyboard: Keyboard, trigger: Run, weights: Weights) -> Effort | None:
    """The effort of a trigger where it is hard to press, else None."""
    found = run_effort(keyboard, trigger, weights)
    if found and found.strokes >= weights.hard:
        return found
    return None


def beside(keymap: Keymap, press: Press) -> Iterator[Press]:
    """The presses that something decides, with the same modifiers on the keys right beside."""
    form = keymap.keyboard.form
    # In a run the finger is on its way to the next key: a slip there starts nothing by itself.
    if form is None or len(press) != 1:
        return
    ((held, code),) = press
    if code not in form.seats:
        return
    for near in form.seats:
        other = ((held, near),)
        if near != code and other in keymap.buckets and distance(form, code, near) <= BESIDE:
            yield other


def twins(keymap: Keymap, press: Press, modes: Iterable[str], command: str) -> tuple[Claim, ...]:
    """What the same finger starts with the same part in one of ``modes``: by holding it longer, or
    pressing it twice. What does so for ``command`` itself is left out."""
    others = dict.fromkeys((*twins_of(press), *keymap.twins.get(press, ())))
    # Most presses have no twin: nothing is decided for them.
    modes = tuple(modes) if others else ()
    return tuple(
        dict.fromkeys(
            claim
            for other in others
            for mode in modes
            for claim in keymap.winners(other, mode)
            if not claim.mutes and claim.command != command
        )
    )


def neighbours(keymap: Keymap, press: Press, modes: Iterable[str], mark: str) -> list[Claim]:
    """What starts a command with ``mark`` right beside a press, in one of the very ``modes``."""
    known = keymap.app.catalogue.by_id
    found: dict[Claim, None] = {}
    for near in beside(keymap, press):
        for mode in modes:
            for claim in keymap.winners(near, mode):
                command = known.get(claim.command)
                if command and getattr(command.marks, mark):
                    found[claim] = None
    return list(found)
