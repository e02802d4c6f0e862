"""What a press means in every application at once: where it is the same, and where a false friend."""

from collections.abc import Iterable, Iterator
from typing import NamedTuple

from olive_compass.core.keys.keyboards import Press
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.sharing.purposes import RISKS, Purpose, Purposes


class Meaning(NamedTuple):
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


class Friends(NamedTuple):
    """A press with two purposes: where a reflex is learnt, and where it meets something else.

    ``weight`` orders them: how much worse the one is than the other, twice that where the reflex
    is of a much-used command.
    """

    press: Press
    reflex: Meaning
    meets: Meaning

    @property
    def weight(self) -> int:
        worse = self.meets.risk - self.reflex.risk
        return worse * (2 if self.reflex.often else 1)


class Across:
    """The meanings of every press in all applications, where a purpose or a lasting command has it."""

    def __init__(self, keymaps: Iterable[Keymap], purposes: Purposes) -> None:
        self.meanings: dict[Press, list[Meaning]] = {}
        self.purposes = purposes
        for keymap in keymaps:
            for press, meaning in _meanings(keymap, purposes):
                self.meanings.setdefault(press, []).append(meaning)

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


def _meanings(keymap: Keymap, purposes: Purposes) -> Iterator[tuple[Press, Meaning]]:
    app = keymap.app
    known = app.catalogue.by_id
    for command, claims in keymap.by_command.items():
        about = known.get(command)
        if about is None:
            continue
        purpose = purposes.by_command.get((app.name, command))
        lasting = about.marks.lasting
        if purpose is None and not lasting:
            continue
        risk = max(RISKS.index(purpose.risk) if purpose else 0, 2 if lasting else 0)
        seen: set[Press] = set()
        for claim in claims:
            press = keymap.keyboard.press_of(claim.trigger)
            if press in seen or claim not in keymap.winners(press, claim.mode):
                continue
            seen.add(press)
            often = about.marks.often
            yield press, Meaning(app.name, app.title, claim, about.title, purpose, risk, often)
