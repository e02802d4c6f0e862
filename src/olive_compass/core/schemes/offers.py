"""Which free triggers suit a command: by reach, by its words, by the keys of its siblings.

What is offered has a clean verdict: nothing at all stands against it.
"""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from functools import lru_cache
from itertools import combinations

from msgspec import Struct

from olive_compass.core.apps.app import Command
from olive_compass.core.apps.rules import Rules
from olive_compass.core.effort.reach import distance
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.presses import Physical
from olive_compass.core.keys.triggers import Run, Stroke, stroke
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme, to_write
from olive_compass.core.schemes.free import free_strokes, is_free
from olive_compass.core.schemes.objections import too_many
from olive_compass.core.schemes.verdicts import Verdict, verdict, without_full
from olive_compass.core.schemes.view import View

#: What a good letter is worth, in home strokes of effort.
FIRST_LETTER, INITIAL, LETTER = 3.0, 2.0, 0.5
#: What lying next to the key of a sibling with the same modifiers is worth.
NEXT_TO_SIBLING = 1.5
#: What being a sibling's key with one modifier more is worth.
KIN_OF_SIBLING = 3.0
#: What it costs to have no modifier where the siblings' keys have some.
UNLIKE_SIBLINGS = 2.0
#: What the letters of the title in their order are worth as a run.
RUN_OF_TITLE = 4.0

#: The modifiers and banks that are looked at first for a piece of advice.
NEAR: tuple[tuple[tuple[str, ...], ...], tuple[str, ...]] = (
    ((), ("Ctrl",), ("Alt",), ("Meta",)),
    ("letters", "function keys"),
)

#: How many runs of the title's letters are tried.
MOST_RUNS = 40


class Offer(Struct, frozen=True, kw_only=True):
    """A free trigger for a command: its effort, its score (less is better), and why.

    ``liking`` is the part of the score that is no work of the hand: what letters, siblings and habits are
    worth (below 0) or cost, in home strokes. Each of them is among the reasons. ``order`` is the place of the
    trigger as a person counts, for those with one score.
    """

    trigger: Run
    strokes: float
    score: float
    reasons: tuple[str, ...]
    liking: float = 0.0
    order: tuple[object, ...] = ()


class _Sibling(Struct, frozen=True):
    """A command of the same menu: its title, its stroke, and how that is pressed."""

    title: str
    stroke: Stroke
    press: Physical


def offers(
    view: View,
    command: Command,
    modes: tuple[str, ...] = (),
    most: int = 3,
    scheme: Scheme | None = None,
    instead: bool = False,
) -> list[Offer]:
    """At most ``most`` triggers for ``command`` in ``modes`` (its own), the best first.

    With ``instead`` they are to take the place of the keys that it has.
    """
    modes = modes or command.usable_in
    found: list[Offer] = []
    for offer in rank(view, _open_runs(view, command, modes), command):
        if len(found) == most:
            break
        judged = verdict(view, command, offer.trigger, modes, scheme, effects=False)
        if instead:
            judged = without_full(judged, scheme or to_write(view.stack.schemes))
        # It is the command that stands in the way: no other trigger is better.
        if judged.hopeless:
            break
        if judged.clean and _has_no_effects(view, command, offer.trigger, modes, scheme, instead):
            found.append(offer)
    return found


def _has_no_effects(
    view: View,
    command: Command,
    trigger: Run,
    modes: tuple[str, ...],
    scheme: Scheme | None,
    instead: bool = False,
) -> bool:
    """Whether nothing stands against a trigger for what giving it does to others; asked last, for it takes longest."""
    found = verdict(view, command, trigger, modes, scheme)
    # That it would be one key too many is answered where it takes the place of others.
    return all(instead and each.kind is too_many.KIND for each in found.objections)


def hopeless(view: View, command: Command, modes: tuple[str, ...] = ()) -> Verdict | None:
    """The verdict that says why no trigger can be offered for ``command``; None: one may be."""
    modes = modes or command.usable_in
    for run in _open_runs(view, command, modes):
        judged = verdict(view, command, run, modes)
        if judged.hopeless:
            return judged
        return None
    return None


def _open_runs(view: View, command: Command, modes: tuple[str, ...]) -> list[Run]:
    """The triggers that do nothing in ``modes``, runs of the letters of the title among them."""
    inside = view.app.modes.inside(modes)
    runs = [Run((each,)) for each in free_strokes(view, inside)]
    return runs + [run for run in title_runs(view, command) if is_free(view.keymap, run, inside)]


def quick_offer(view: View, command: Command, modes: tuple[str, ...], scheme: Scheme) -> Run | None:
    """A good free trigger for ``command`` that was not offered by this view before, None: none.

    It is for the advice of many findings at once, which must not all name the same key.
    """
    inside = view.app.modes.inside(modes)
    # Letters and function keys do for most commands, and all of the map takes longer.
    for wide in (False, True):
        free = _free_runs(view, inside, wide)
        open_ = [run for run in free if run not in view.offered]
        for offer in rank(view, open_, command):
            judged = verdict(view, command, offer.trigger, modes, scheme, effects=False)
            if judged.hopeless:
                return None
            if judged.of_trigger:
                # The key is bad for every command: the offers after this one need not try it.
                free.remove(offer.trigger)
            if judged.clean and _has_no_effects(view, command, offer.trigger, modes, scheme):
                view.offered.add(offer.trigger)
                return offer.trigger
    return None


def _free_runs(view: View, modes: tuple[str, ...], wide: bool) -> list[Run]:
    """The strokes that are free in all of ``modes``: letters with one modifier and function keys,
    or (``wide``) all of the map."""
    key = (*modes, "all" if wide else "near")
    if key not in view.kept:
        near = None if wide else NEAR
        view.kept[key] = [Run((each,)) for each in free_strokes(view, modes, near)]
    return view.kept[key]


def rank(view: View, runs: Iterable[Run], command: Command | None) -> list[Offer]:
    """The triggers that the keyboard can make, the best first."""
    return sorted(scored(view, runs, command), key=lambda offer: (offer.score, offer.order))


def scored(view: View, runs: Iterable[Run], command: Command | None) -> Iterator[Offer]:
    """The triggers that the keyboard can make, as they come.

    The score is the effort in home strokes, less what the letter and the siblings are worth,
    plus what it costs to take the hand off the mouse.
    """
    siblings = []
    if command:
        siblings = _siblings(view, command)
    held = bool(siblings) and all(each.stroke.modifiers for each in siblings)
    for run in runs:
        reach = view.reach(run)
        if reach is None:
            continue
        liking = reach.habit
        reasons = []
        if command:
            for worth, reason in _fits(view.keymap, run, command, siblings):
                liking -= worth
                reasons.append(reason)
        # A plain letter among siblings with Ctrl is learnt apart from them.
        if held and not run.strokes[0].modifiers:
            liking += UNLIKE_SIBLINGS
            reasons.append("no modifier, unlike the rest of its menu")
        yield Offer(
            trigger=run,
            strokes=reach.strokes,
            score=round(reach.strokes + liking + reach.both, 2),
            reasons=(*reasons, *reach.reasons),
            liking=liking,
            order=reach.order,
        )


def title_runs(view: View, command: Command) -> Iterator[Run]:
    """Typed runs of a title's letters: its initials, and the beginnings of its words."""
    rules = view.app.rules
    words = [word for word in _words(command.title) if _is_letter(word[0])]
    if _has_no_sequences(rules, words):
        return
    texts: dict[str, None] = {}
    for length in range(2, rules.longest_sequence + 1):
        for text, must_be_tried in _texts_of(words, length):
            if len(texts) >= MOST_RUNS and not must_be_tried:
                break
            texts[text] = None
    for text in texts:
        yield Run(tuple(map(stroke, text)))


def _has_no_sequences(rules: Rules, words: list[str]) -> bool:
    return not rules.typed_sequences or rules.longest_sequence < 2 or not words


def _texts_of(words: Sequence[str], length: int) -> Iterator[tuple[str, bool]]:
    """So many letters of a title: its initials and the beginning of its first word, which must be tried, and then all
    others that begin with its first letter, as one would say the title."""
    initials = "".join(word[0] for word in words)
    letters = "".join(filter(_is_letter, words[0]))
    for beginning in (initials, letters):
        if len(beginning) >= length:
            yield beginning[:length], True
    for rest in combinations("".join(words)[1:], length - 1):
        if all(map(_is_letter, rest)):
            yield letters[:1] + "".join(rest), False


def _is_letter(char: str) -> bool:
    return char.isascii() and char.isalpha()


@lru_cache(maxsize=4096)
def _words(title: str) -> tuple[str, ...]:
    return tuple(word for word in title.upper().replace("-", " ").split() if word[0].isalnum())


def _fits(
    keymap: Keymap, run: Run, command: Command, siblings: Sequence[_Sibling]
) -> Iterator[tuple[float, str]]:
    """The reasons for a trigger, each with its weight in home strokes."""
    if len(run.strokes) > 1:
        yield RUN_OF_TITLE, f"letters of {command.title}"
        return
    only = run.strokes[0]
    if fit := _letters(command.title).get(only.key):
        yield fit
    if sibling := _kin(only, siblings):
        yield KIN_OF_SIBLING, sibling
    elif sibling := _beside(keymap.keyboard, only, siblings):
        yield NEXT_TO_SIBLING, sibling


@lru_cache(maxsize=4096)
def _letters(title: str) -> Mapping[str, tuple[float, str]]:
    """What each letter of a title is worth as its key, and why."""
    words = _words(title)
    if not words:
        return {}
    found = dict.fromkeys(title.upper(), (LETTER, "a letter of the title"))
    shown = title.replace("-", " ").split()
    for n in range(len(words) - 1, 0, -1):
        found[words[n][0]] = (INITIAL, f"initial of {shown[n]}")
    found[words[0][0]] = (FIRST_LETTER, f"first letter of {title.split()[0]}")
    return {char: fit for char, fit in found.items() if char.isalpha()}


def _siblings(view: View, command: Command) -> list[_Sibling]:
    """The single strokes of the other commands in the same menu."""
    if not command.menu:
        return []
    return [
        _Sibling(other.title, stroke, view.keyboard.made(stroke).presses[0])
        for other, stroke in view.strokes_in(command.menu)
        if other.id != command.id
    ]


def _kin(each: Stroke, siblings: Sequence[_Sibling]) -> str:
    """The sibling whose key this is with a modifier more."""
    for sibling in siblings:
        other = sibling.stroke
        if _takes_fewer_modifiers(other, each):
            return f"kin of {other}, {sibling.title}"
    return ""


def _takes_fewer_modifiers(other: Stroke, each: Stroke) -> bool:
    return bool(
        other.key == each.key and other.modifiers and set(other.modifiers) < set(each.modifiers)
    )


def _beside(keyboard: Keyboard, each: Stroke, siblings: Sequence[_Sibling]) -> str:
    """The sibling whose key lies next to this one, with the same modifiers."""
    if keyboard.form is None or not siblings:
        return ""
    held, code = keyboard.made(each).presses[0]
    for sibling in siblings:
        other_held, other_code = sibling.press
        if other_held == held and distance(keyboard.form, code, other_code) <= 1.2:
            return f"next to {sibling.stroke}, {sibling.title}"
    return ""
