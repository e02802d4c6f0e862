"""What a press means in every application at once: where it is the same, and where a false friend."""

from collections.abc import Iterable, Iterator, Mapping
from functools import cached_property

from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.presses import Press
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Claim, Does
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.layers import PERSONAL
from olive_compass.core.sharing.purposes import RISKS, Purpose, Purposes
from olive_compass.values import Value

#: The risk of what lasts.
WORST = len(RISKS) - 1


class Meaning(Value):
    """What a trigger starts in one application: the command, its purpose, how harmful, how used."""

    app: str
    app_title: str
    claim: Claim
    title: str
    purpose: Purpose | None
    risk: int
    often: bool

    @property
    def trigger(self) -> Run:
        return self.claim.trigger


class Friends(Value):
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
        often = " all day" if self.reflex.often else ""
        return (
            f"{self.meets.trigger} is “{self.reflex.title}” in {self.reflex.app_title}{often}, and "
            f"“{self.meets.title}” in {self.meets.app_title}, which lasts"
        )

    @property
    def weight(self) -> int:
        worse = self.meets.risk - self.reflex.risk
        return worse * (2 if self.reflex.often else 1)


class Across:
    """The meanings of every press in all applications, where a purpose or a lasting command has it.

    The keymaps are taken from where they come when they are first asked for: most commands of an
    application mean nothing to another, and then those are not even read.
    """

    def __init__(self, keymaps: Iterable[Keymap], purposes: Purposes) -> None:
        self.purposes = purposes
        self._keymaps = iter(keymaps)

    @cached_property
    def keymaps(self) -> dict[str, Keymap]:
        """The keymaps by the names of the applications."""
        return {keymap.app.name: keymap for keymap in self._keymaps}

    @cached_property
    def meanings(self) -> dict[Press, list[Meaning]]:
        """What each press starts that has a meaning to other applications."""
        found: dict[Press, list[Meaning]] = {}
        for keymap in self.keymaps.values():
            for press, meaning in _meanings(keymap, self.purposes, keymap.by_command):
                found.setdefault(press, []).append(meaning)
        return found

    def false_friends(self, app: str) -> list[Friends]:
        """What reflexes from other applications meet in ``app``, the worst first."""
        found = []
        for press, meanings in self.meanings.items():
            here = [each for each in meanings if each.app == app]
            for meets in here:
                reflexes = [
                    Friends(press, each, meets)
                    for each in meanings
                    if each.app != app and each.purpose and each.purpose != meets.purpose
                ]
                worst = max(reflexes, key=lambda f: (f.weight, f.reflex.app), default=None)
                if worst and worst.weight > 0:
                    found.append(worst)
        found.sort(key=lambda f: (-f.weight, str(f.meets.trigger), f.meets.claim.command))
        return found

    def worse_with(self, keymap: Keymap, command: str, trigger: Run) -> tuple[Friends, ...]:
        """The lasting false friends that giving ``trigger`` to ``command`` in ``keymap`` makes.

        Either a reflex from elsewhere would meet it, or its own reflex would meet what lasts there.
        """
        claim = Claim(trigger, Does(command), ROOT, PERSONAL, 0)
        own = _meaning(keymap, self.purposes, command, claim)
        if own is None:
            return ()
        press = keymap.keyboard.press_of(trigger)
        others = [
            meaning
            for name, other in self.keymaps.items()
            if name != keymap.app.name
            for meaning in self._on(other, press)
        ]
        found = [
            Friends(press, reflex, meets)
            for each in others
            for reflex, meets in ((each, own), (own, each))
            if reflex.purpose and reflex.purpose != meets.purpose and meets.risk == WORST
        ]
        return tuple(each for each in found if each.weight > 0)

    def _on(self, keymap: Keymap, press: Press) -> Iterator[Meaning]:
        """The meanings of one press in an application."""
        app, linked = keymap.app, self.purposes.by_command
        telling = {
            each.id
            for each in app.catalogue.commands
            if each.marks.lasting or (app.name, each.id) in linked
        }
        claims: dict[str, list[Claim]] = {}
        # Few commands mean anything to others: their keys are looked at before all are put in buckets.
        for claim in keymap.claims:
            if claim.command in telling and keymap.keyboard.press_of(claim.trigger) == press:
                claims.setdefault(claim.command, []).append(claim)
        return (meaning for _, meaning in _meanings(keymap, self.purposes, claims))

    def elsewhere(self, app: str) -> list[tuple[Purpose, Meaning, Meaning]]:
        """Purposes that have no key here that any other application has for them.

        Each with what it has here, and with an application that has another key for it.
        """
        by_purpose: dict[str, dict[str, dict[Press, Meaning]]] = {}
        for press, meanings in self.meanings.items():
            for each in meanings:
                if each.purpose:
                    apps = by_purpose.setdefault(each.purpose.id, {})
                    apps.setdefault(each.app, {})[press] = each
        found = []
        for apps in by_purpose.values():
            own = apps.get(app, {})
            others = {p: m for name, have in apps.items() if name != app for p, m in have.items()}
            if own and others and not own.keys() & others.keys():
                mine = next(iter(own.values()))
                assert mine.purpose
                found.append((mine.purpose, mine, next(iter(others.values()))))
        return found


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
    if about is None or (purpose is None and not about.marks.lasting):
        return None
    risk = max(RISKS.index(purpose.risk) if purpose else 0, WORST if about.marks.lasting else 0)
    return Meaning(app.name, app.title, claim, about.title, purpose, risk, about.marks.often)
