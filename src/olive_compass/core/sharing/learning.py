"""Learns a key set from the schemes at hand: what most applications agree on."""

from collections.abc import Iterable, Mapping
from types import MappingProxyType

from msgspec import Struct

from olive_compass.core.apps.app import Command
from olive_compass.core.effort.reach import run_effort
from olive_compass.core.keys.keyboards import MAIN
from olive_compass.core.keys.kinds import kind_of
from olive_compass.core.keys.presses import Press
from olive_compass.core.keys.triggers import Run, stroke
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.verdicts import in_itself
from olive_compass.core.schemes.view import View
from olive_compass.core.sharing.keysets import Entry, KeySet
from olive_compass.core.sharing.purposes import Purpose, Purposes

#: From this share of the weight of the first key on, the second was close.
CLOSE = 0.8


class Unsettled(Struct, frozen=True):
    """A purpose for which no trigger was settled, and why."""

    purpose: str
    why: str


class Close(Struct, frozen=True, kw_only=True):
    """A purpose for which another trigger had nearly as much for it, and what decided."""

    purpose: str
    first: Run
    second: Run
    why: str


class Learnt(Struct, frozen=True):
    """A set that was learnt, what could not be settled, and where it was close."""

    keyset: KeySet
    unsettled: tuple[Unsettled, ...]
    close: tuple[Close, ...] = ()


class _Vote(Struct, kw_only=True):
    """What speaks for one press of a purpose."""

    run: Run
    press: Press
    apps: list[str]
    weight: float = 0.0
    #: The share of the applications with the purpose whose rules would let them follow.
    follow: float = 1.0
    #: The effort of the hand, None where nobody can say it.
    effort: float | None = None

    @property
    def score(self) -> float:
        """The weight, as far as the others can follow."""
        return round(self.weight * self.follow, 6)

    @property
    def place(self) -> tuple[bool, int, str]:
        """Its place among equals: keys before swipes, short runs before long ones."""
        swipe = not kind_of(self.run.strokes[-1]).on_form
        return swipe, len(self.run.strokes), str(self.run)

    @property
    def order(self) -> tuple[float, float, tuple[bool, int, str]]:
        """What is sorted by: the most weight, then the easiest."""
        return -self.score, self.effort or 0.0, self.place


def _voted(
    purposes: Purposes, views: list[View], uses: Mapping[tuple[str, str], int]
) -> tuple[dict[str, list[_Vote]], list[Unsettled]]:
    """The keys that each purpose has votes for, and the purposes that stay undecided."""
    wanted: dict[str, list[_Vote]] = {}
    unsettled: list[Unsettled] = []
    for purpose in purposes.all:
        ranked = _votes(purpose, views, uses)
        if why := _undecided(purpose, ranked):
            unsettled.append(Unsettled(purpose.id, why))
        elif ranked:
            wanted[purpose.id] = ranked
    return wanted, unsettled


def learn(
    name: str,
    keymaps: Iterable[Keymap],
    purposes: Purposes,
    uses: Mapping[tuple[str, str], int] = MappingProxyType({}),
) -> Learnt:
    """The set that the applications of ``keymaps`` agree on most.

    Each application votes for the keys that its command has; a vote weighs 1 and one more for each
    time that the command was used (``uses``, by application and command), and counts in so far as the
    rules of the other applications let them follow. The press with the most wins, of equals the one
    that is easier for the hand; the others follow as alternatives. Nothing is settled where two are
    equal in all of that, where a weightier purpose has the key, or where what it does cannot be undone.
    """
    views = [_view(keymap) for keymap in keymaps]
    platform = "pc"
    if views:
        platform = views[0].keyboard.platform
    wanted, unsettled = _voted(purposes, views, uses)
    keys, left = _shared_out(wanted, platform)
    ordered = {p.id: keys[p.id] for p in purposes.all if p.id in keys}
    order = {p.id: n for n, p in enumerate(purposes.all)}
    settled = (_close(id_, wanted[id_]) for id_ in ordered)
    return Learnt(
        KeySet(name, name, ordered),
        tuple(sorted((*unsettled, *left), key=lambda each: order[each.purpose])),
        tuple(each for each in settled if each),
    )


def _second(ranked: list[_Vote]) -> _Vote | None:
    """The next key of others: two keys of the very same applications are no disagreement, both are in the set."""
    return next((each for each in ranked[1:] if each.apps != ranked[0].apps), None)


def _undecided(purpose: Purpose, ranked: list[_Vote]) -> str:
    """Why no key of a purpose comes first, ``""``: one does, or it has none."""
    if not ranked:
        return ""
    if purpose.risk == "irreversible":
        return "it cannot be undone: give it a key by hand, if any"
    first, second = ranked[0], _second(ranked)
    if second is None or first.order[:2] != second.order[:2]:
        return ""
    sides = " or ".join(f"{each.run} ({', '.join(each.apps)})" for each in (first, second))
    return f"as much speaks for {sides}"


def _close(id_: str, ranked: list[_Vote]) -> Close | None:
    """Where the second key of a purpose had nearly as many votes as the first."""
    first, second = ranked[0], _second(ranked)
    if second is None or second.weight < CLOSE * first.weight:
        return None
    return Close(purpose=id_, first=first.run, second=second.run, why=_decided_by(first, second))


def _shared_out(
    wanted: Mapping[str, list[_Vote]], platform: str
) -> tuple[dict[str, Entry], list[Unsettled]]:
    """The keys of each purpose, the weightier choosing first: a set gives no key twice."""
    taken: dict[Press, str] = {}
    keys: dict[str, Entry] = {}
    left: list[Unsettled] = []
    for id_ in sorted(wanted, key=lambda id_: -wanted[id_][0].score):
        first, *_ = ranked = wanted[id_]
        # Its second choice would be a guess: two purposes that both want a key are for a person to part.
        if first.press in taken:
            why = f"{first.run} goes to {taken[first.press]}, which has more votes for it"
            left.append(Unsettled(id_, why))
            continue
        free = [each for each in ranked if each.press not in taken and each.follow]
        taken[first.press] = id_
        keys[id_] = Entry(tuple(with_main(each.run, platform) for each in free or [first]))
    return keys, left


def _view(keymap: Keymap) -> View:
    view = View(keymap.stack, keymap.keyboard)
    view.keymap = keymap
    return view


def _decided_by(first: _Vote, second: _Vote) -> str:
    """What the first of two keys has that the second has less of."""
    if first.follow > second.follow:
        return f"{1 - second.follow:.0%} of the applications cannot have {second.run}"
    if first.weight > second.weight:
        more = len(first.apps) > len(second.apps)
        if more:
            return "more applications have it"
        return "it is used more"
    return "it is easier for the hand"


def with_main(run: Run, platform: str) -> Run:
    """The trigger with the platform's main modifier as ``Main``, as a set for all platforms has it.

    >>> from olive_compass.core.keys.reading import read_trigger
    >>> str(with_main(read_trigger("Shift+Meta+S"), "mac"))
    'Main+Shift+S'
    """
    strokes = []
    for each in run.strokes:
        held = ["Main" if name == MAIN[platform] else name for name in each.modifiers]
        strokes.append(stroke(each.key, *held, by_place=each.by_place))
    return Run(tuple(strokes))


def _votes(purpose: Purpose, views: list[View], uses: Mapping[tuple[str, str], int]) -> list[_Vote]:
    """The presses that commands for a purpose have, the one for which most speaks first."""
    votes: dict[Press, _Vote] = {}
    serving: list[tuple[View, Command]] = []
    for view in views:
        app = view.app
        for id_ in purpose.commands(app.name):
            if id_ not in app.catalogue.by_id:
                continue
            serving.append((view, app.catalogue.by_id[id_]))
            for run in live_triggers(view.keymap, id_):
                press = view.keymap.keyboard.press_of(run)
                vote = votes.setdefault(press, _Vote(run=run, press=press, apps=[]))
                vote.weight += 1 + uses.get((app.name, id_), 0)
                vote.apps.append(app.name)
    # Where all have one key there is nothing to choose.
    if len(votes) > 1:
        for vote in votes.values():
            can = sum(_can_follow(vote, *each) for each in serving)
            vote.follow = can / len(serving)
            effort = run_effort(views[0].keyboard, vote.run, views[0].weights)
            if effort:
                vote.effort = effort.strokes
            else:
                vote.effort = None
    return sorted(votes.values(), key=lambda vote: vote.order)


def _can_follow(vote: _Vote, view: View, command: Command) -> bool:
    """Whether an application has a key, or its rules would let it have it."""
    if view.app.name in vote.apps:
        return True
    return not in_itself(view, command, vote.run, command.usable_in).is_ruled_out
