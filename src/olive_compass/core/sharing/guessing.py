"""Guesses which command of an application serves which purpose, each guess with its reasons."""

from collections import Counter
from collections.abc import Iterable

from msgspec import Struct

from olive_compass.core.apps.app import App, Command
from olive_compass.core.apps.naming import plain_title
from olive_compass.core.apps.search import fold
from olive_compass.core.keys.triggers import Run
from olive_compass.core.sharing.purposes import Purpose, Purposes

#: From this score on a guess is worth a look.
LEAST = 0.55

#: What the same title is worth by itself: only a second column of evidence makes it certain.
SAME_TITLE = 0.9

#: What the same factory key as in other applications adds, and the same word in the menu.
FOR_KEY, FOR_MENU = 0.1, 0.1


class Guess(Struct, frozen=True):
    """A proposed link: the purpose, the command, a score from 0 to 1, and the reasons."""

    purpose: Purpose
    command: Command
    score: float
    reasons: tuple[str, ...]
    #: Which of the purpose's names it was, the commonest first.
    name: int = 0


def guesses(app: App, purposes: Purposes, others: Iterable[App]) -> list[Guess]:
    """Links for the commands of ``app`` that have no purpose yet, the surest first.

    ``others`` are the applications whose links tell which keys a purpose usually has. Each command
    is proposed for one purpose, and each purpose that the application does not serve yet once.
    """
    usual = _usual_keys(purposes, others)
    taken = {command for name, command in purposes.by_command if name == app.name}
    open_ = [purpose for purpose in purposes.all if not purpose.commands(app.name)]
    found = []
    for command in app.catalogue.commands:
        # Macros are a person's own words for their work; nobody else's purpose has their names.
        if command.id in taken or command.kind == "macro" or command.marks.withdrawn:
            continue
        for purpose in open_:
            guess = _guess(purpose, command, usual.get(purpose.id, Counter()))
            if guess.score >= LEAST:
                found.append(guess)
    found.sort(key=lambda g: (-g.score, g.purpose.id, g.name, g.command.id))
    seen: set[str] = set()
    best = []
    # From the surest down: a sure guess takes purpose and command from a doubtful one.
    for guess in found:
        if guess.purpose.id not in seen and guess.command.id not in seen:
            seen |= {guess.purpose.id, guess.command.id}
            best.append(guess)
    return best


def _guess(purpose: Purpose, command: Command, usual: Counter[Run]) -> Guess:
    title = plain_title(fold(command.title))
    reasons = []
    names = (purpose.title, *purpose.names)
    likenesses = [_likeness(title, plain_title(fold(each))) for each in names]
    score = max(likenesses)
    at = likenesses.index(score)
    if score == SAME_TITLE:
        reasons.append(f"it is called “{names[at]}”")
    elif score:
        reasons.append(f"its title is like “{names[at]}”")
    same = [key for key in command.keys if usual[key]]
    if same:
        score += FOR_KEY
        reasons.append(f"{same[0]} from the factory, as elsewhere")
    group = fold(purpose.group)
    # A purpose without a group has nothing in common with any menu.
    if group and any(fold(step) in group or group in fold(step) for step in command.menu):
        score += FOR_MENU
        reasons.append(f"menu {command.menu[0]}")
    return Guess(purpose, command, round(min(score, 1.0), 2), tuple(reasons), at)


def _likeness(title: str, name: str) -> float:
    """How alike two names are: the same, or less for words that only one has.

    >>> _likeness("save sheet", "save sheet"), _likeness("zoom in", "zoom out") < 0.6
    (0.9, True)
    """
    if title == name:
        return SAME_TITLE
    one, other = set(_words(title)), set(_words(name))
    common = one & other
    if not common:
        return 0.0
    # Twice the common words over all words (Dice 1945), so that a longer title counts less.
    return round(0.85 * 2 * len(common) / (len(one) + len(other)), 3)


def _words(text: str) -> list[str]:
    # Words that tell no two commands apart; “as” and “to” do.
    small = {"the", "a", "an"}
    words = "".join(char if char.isalnum() else " " for char in text).split()
    return [word for word in words if word not in small] or words


def _usual_keys(purposes: Purposes, others: Iterable[App]) -> dict[str, Counter[Run]]:
    """The factory keys that linked commands of other applications have, by purpose."""
    found: dict[str, Counter[Run]] = {}
    for app in others:
        for command in app.catalogue.commands:
            purpose = purposes.by_command.get((app.name, command.id))
            if purpose:
                found.setdefault(purpose.id, Counter()).update(command.keys)
    return found
