"""What a press means in every application at once: where it is the same, and where a false friend."""

from collections.abc import Callable, Iterable, Iterator, Mapping
from functools import cache, cached_property
from typing import TYPE_CHECKING

from msgspec import Struct

from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.presses import Press
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Claim, Does
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.layers import PERSONAL
from olive_compass.core.sharing.purposes import RISKS, Purpose, Purposes

#: The risk of what cannot be undone, or takes a long time.
WORST = len(RISKS) - 1


class Meaning(Struct, frozen=True, kw_only=True):
    """What a trigger starts in one application: the command, its purpose, how harmful, how used."""

    app: str
    app_title: str
    claim: Claim
    title: str
    purpose: Purpose | None
    risk: int
    often: bool
    warning: str

    @property
    def trigger(self) -> Run:
        return self.claim.trigger


#: A press, and what it starts.
AppReport = tuple[Press, Meaning]


class FalseFriends(Struct, frozen=True):
    """A press with two purposes: where a reflex is learnt, and where it meets something else.

    ``weight`` orders them: how much worse the one is than the other, twice that where the reflex
    is of a much-used command.
    """

    press: Press
    reflex: Meaning
    meets: Meaning

    @property
    def says(self) -> str:
        """What meets what, and where."""
        often = ""
        if self.reflex.often:
            often = " all day"
        return (
            f"{self.meets.trigger} is “{self.reflex.title}” in {self.reflex.app_title}{often}, and "
            f"“{self.meets.title}” in {self.meets.app_title}, which {self.meets.warning}"
        )

    @property
    def weight(self) -> int:
        worse = self.meets.risk - self.reflex.risk
        return worse * (2 if self.reflex.often else 1)


if TYPE_CHECKING:
    from typing import Protocol

    class Memory(Protocol):
        """What applications told at an earlier time, where it cannot have changed since."""

        def find(self, app: str, purposes: Purposes) -> "list[AppReport] | None": ...

        def keep(self, app: str, told: "list[AppReport]") -> None: ...


class Keymaps(Mapping[str, Keymap]):
    """The keymaps of applications by their names, each made when it is first asked for."""

    def __init__(self, names: Iterable[str], make: Callable[[str], Keymap]) -> None:
        self._names = tuple(names)
        self._make = cache(make)

    def __getitem__(self, name: str) -> Keymap:
        return self._make(name)

    def __iter__(self) -> Iterator[str]:
        return iter(self._names)

    def __len__(self) -> int:
        return len(self._names)


class Across:
    """The meanings of every press in all applications, where a purpose has it, or a command that costs much by mistake.

    Most commands of an application mean nothing to another: then nobody is asked for a keymap. Where
    ``memory`` has what an application told before, it is not asked either.
    """

    def __init__(
        self, keymaps: Mapping[str, Keymap], purposes: Purposes, memory: "Memory | None" = None
    ) -> None:
        self.keymaps = keymaps
        self.purposes = purposes
        self._memory = memory
        self._told: dict[str, list[AppReport]] = {}

    def told(self, app: str) -> list[AppReport]:
        """What an application tells the others: its presses that mean something to them."""
        if app not in self._told:
            found = None
            if self._memory:
                found = self._memory.find(app, self.purposes)
            if found is None:
                keymap = self.keymaps[app]
                found = list(_meanings(keymap, self.purposes, keymap.by_command))
                if self._memory:
                    self._memory.keep(app, found)
            self._told[app] = found
        return self._told[app]

    @cached_property
    def meanings(self) -> dict[Press, list[Meaning]]:
        """What each press starts that has a meaning to other applications."""
        found: dict[Press, list[Meaning]] = {}
        for app in self.keymaps:
            for press, meaning in self.told(app):
                found.setdefault(press, []).append(meaning)
        return found

    def false_friends(self, app: str) -> list[FalseFriends]:
        """What reflexes from other applications meet in ``app``, the worst first."""
        found = []
        for press, meanings in self.meanings.items():
            here = [each for each in meanings if each.app == app]
            for meets in here:
                reflexes = [
                    FalseFriends(press, each, meets)
                    for each in meanings
                    if _means_another(each, app, meets)
                ]
                worst = max(reflexes, key=lambda f: (f.weight, f.reflex.app), default=None)
                if worst and worst.weight > 0:
                    found.append(worst)
        found.sort(key=lambda f: (-f.weight, str(f.meets.trigger), f.meets.claim.command))
        return found

    def _elsewhere(self, press: Press, app: str) -> list[Meaning]:
        """What a press means in the applications other than ``app``."""
        found = []
        for name in self.keymaps:
            if name != app:
                found += [meaning for there, meaning in self.told(name) if there == press]
        return found

    def worse_with(self, keymap: Keymap, command: str, trigger: Run) -> tuple[FalseFriends, ...]:
        """The worst false friends that giving ``trigger`` to ``command`` in ``keymap`` makes.

        Either a reflex from elsewhere would meet it, or its own reflex would meet what costs much there.
        """
        claim = Claim(trigger=trigger, does=Does(command), mode=ROOT, layer=PERSONAL, rank=0)
        own = _meaning(keymap, self.purposes, command, claim)
        if own is None:
            return ()
        press = keymap.keyboard.press_of(trigger)
        others = self._elsewhere(press, keymap.app.name)
        found = [
            FalseFriends(press, reflex, meets)
            for each in others
            for reflex, meets in ((each, own), (own, each))
            if _becomes_harmful(reflex, meets)
        ]
        return tuple(each for each in found if each.weight > 0)

    def _by_purpose(self) -> dict[str, dict[str, dict[Press, Meaning]]]:
        """The presses of each purpose, by application."""
        found: dict[str, dict[str, dict[Press, Meaning]]] = {}
        for press, meanings in self.meanings.items():
            for each in meanings:
                if each.purpose:
                    apps = found.setdefault(each.purpose.id, {})
                    apps.setdefault(each.app, {})[press] = each
        return found

    def elsewhere(self, app: str) -> list[tuple[Purpose, Meaning, Meaning]]:
        """Purposes that have no key here that any other application has for them.

        Each with what it has here, and with an application that has another key for it.
        """
        found = []
        for apps in self._by_purpose().values():
            own = apps.get(app, {})
            others = {p: m for name, have in apps.items() if name != app for p, m in have.items()}
            if _has_other_keys(own, others):
                mine = next(iter(own.values()))
                assert mine.purpose
                found.append((mine.purpose, mine, next(iter(others.values()))))
        return found


def _has_other_keys(own: Mapping[Press, Meaning], others: Mapping[Press, Meaning]) -> bool:
    return bool(own and others and not own.keys() & others.keys())


def _becomes_harmful(reflex: Meaning, meets: Meaning) -> bool:
    return bool(reflex.purpose and reflex.purpose != meets.purpose and meets.risk == WORST)


def _means_another(each: Meaning, app: str, meets: Meaning) -> bool:
    return bool(each.app != app and each.purpose and each.purpose != meets.purpose)


def _meanings(
    keymap: Keymap, purposes: Purposes, by_command: Mapping[str, list[Claim]]
) -> Iterator[tuple[Press, Meaning]]:
    """The presses among the claims of some commands that start them, each press once a command."""
    for command, claims in by_command.items():
        if _meaning(keymap, purposes, command, claims[0]) is None:
            continue
        seen: set[Press] = set()
        for claim in claims:
            press = keymap.keyboard.press_of(claim.trigger)
            if press in seen or claim not in keymap.winners(press, claim.mode):
                continue
            seen.add(press)
            meaning = _meaning(keymap, purposes, command, claim)
            assert meaning is not None
            yield press, meaning


def _meaning(keymap: Keymap, purposes: Purposes, command: str, claim: Claim) -> Meaning | None:
    """What a command on a trigger means to other applications, None where it means nothing."""
    app = keymap.app
    about = app.catalogue.by_id.get(command)
    purpose = purposes.by_command.get((app.name, command))
    if about is None or (purpose is None and not about.marks.disruptive):
        return None
    risk = max(RISKS.index(purpose.risk) if purpose else 0, WORST if about.marks.disruptive else 0)
    warning = about.marks.warning or "cannot be undone"
    often = about.marks.often
    return Meaning(
        app=app.name,
        app_title=app.title,
        claim=claim,
        title=about.title,
        purpose=purpose,
        risk=risk,
        often=often,
        warning=warning,
    )
