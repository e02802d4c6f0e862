"""Proposes purposes: which commands of several applications are for the same thing, each with its reasons.

What a command is for shows in its title first (the forms of ``titles``), against the names of the purposes that
are known and against the titles of the other applications; ``judging`` has what speaks for it and against it beside
that.
"""

from collections.abc import Iterable, Iterator, Sequence
from typing import TypeVar

from olive_compass.core.apps.app import App
from olive_compass.core.sharing.candidates import Candidate, candidates
from olive_compass.core.sharing.choosing import editions, new_purpose, of_one_kind, one_each
from olive_compass.core.sharing.found_purposes import Found, FoundName
from olive_compass.core.sharing.judging import Keys, by_distance, by_likeness, judged, keys_of
from olive_compass.core.sharing.proposals import LEAST, Guess, Proposal, members
from olive_compass.core.sharing.purposes import Purposes
from olive_compass.core.sharing.titles import Form, essential, forms, turned
from olive_compass.structs import replace

T = TypeVar("T")

#: Beginnings of titles that more commands share than this say nothing: “Line style 1” to “Line style 999”.
MOST_ALIKE = 40


def proposals(
    apps: Iterable[App], purposes: Purposes, refused: Sequence[frozenset[tuple[str, str]]] = ()
) -> list[Proposal]:
    """What the commands without a purpose of ``apps`` are for, known purposes first, the surest first.

    No command is proposed twice, none for a purpose that its application serves already, and no two commands of
    one application for one purpose but where one stands for the other. ``refused`` are commands (by application
    and id) that a person has said are not for the same thing.
    """
    finder = _Finder(list(apps), purposes)
    finder.by_known_names()
    finder.by_titles()
    finder.by_likeness()
    found = [each for each in finder.proposals() if not any(members(each) <= no for no in refused)]
    order = {purpose.id: n for n, purpose in enumerate(purposes.all)}
    return sorted(
        found, key=lambda p: (p.is_new, order.get(p.purpose.id, 0), -p.score, p.purpose.id)
    )


class _Finder:
    """Looks through the commands without a purpose in three passes, each for what the one before left."""

    def __init__(self, apps: list[App], purposes: Purposes) -> None:
        self.editions = editions(apps)
        self.open: list[Candidate] = []
        by_place: dict[tuple[str, str], Candidate] = {}
        for app in apps:
            for each in candidates(app):
                by_place[each.place] = each
                if each.place not in purposes.by_command:
                    self.open.append(each)
        self.known = [
            Found(purpose, (by_place[p] for p in purpose.places if p in by_place))
            for purpose in purposes.all
        ]
        self.found: list[Found] = []
        self._forget()

    def _forget(self) -> None:
        """Takes all guesses back."""
        for group in self.known:
            group.guessed.clear()
        #: The group of each command that has one by now.
        self.group_of = {each.place: group for group in self.known for each in group.served}

    def _left(self) -> list[Candidate]:
        return [each for each in self.open if each.place not in self.group_of]

    # 1: by the names of the purposes that are known.

    def by_known_names(self) -> None:
        """Commands that are called as a purpose is called, or as another command that serves it."""
        self._name({})
        # What was found by names tells which keys the purposes have: those decide where two want the same.
        keys = {id(group): keys_of(group.members()) for group in self.known}
        self._forget()
        self._name(keys)
        # And once more by the titles of those that were found.
        self._name(keys)

    def _name(self, keys: dict[int, Keys]) -> None:
        index: dict[Form, list[FoundName]] = {}
        for group in self.known:
            for name in group.names():
                for form, far in forms(name).items():
                    index.setdefault(form, []).append(FoundName(far, name, group))
        order = {id(group): n for n, group in enumerate(self.known)}
        found: list[tuple[float, int, int, Found, Guess]] = []
        for number, each in enumerate(self._left()):
            # What a part is called is the name of a thing that is drawn, not of what somebody wants.
            if each.kind == "part":
                continue
            for named in _nearest(each, index):
                group = named.group
                if named.far == 0:
                    because = f"it is called “{named.name}”"
                else:
                    because = f"its title says “{named.name}”"
                guess = judged(
                    each,
                    group.members(),
                    score=by_distance(named.far),
                    because=because,
                    kind="known name",
                    keys=keys.get(id(group)),
                    group=group.words,
                )
                if guess.score >= LEAST:
                    found.append((-guess.score, order[id(group)], number, group, guess))
        # From the surest down: a sure guess takes purpose and command from a doubtful one.
        for *_, group, guess in sorted(found, key=lambda entry: entry[:3]):
            self._take(group, guess)

    # 2: by titles that say the same.

    def by_titles(self) -> None:
        """Commands of several applications whose titles say the same."""
        index: dict[Form, list[tuple[int, Candidate]]] = {}
        for each in self._left():
            for form, far in each.forms.items():
                index.setdefault(form, []).append((far, each))
        shared = []
        for form, entries in index.items():
            distances = sorted(far for far, _ in entries)
            if len(distances) > 1:
                shared.append((distances[0] + distances[1], -len(distances), form))
        for *_, form in sorted(shared):
            self._gather(one_each(index[form]))

    def _gather(self, chosen: list[tuple[int, Candidate]]) -> None:
        """Makes a group of commands that share a form, or puts them to the group that one of them is in."""
        group = next((g for _, c in chosen if (g := self.group_of.get(c.place))), None)
        fresh = [(far, c) for far, c in chosen if c.place not in self.group_of]
        if group is None:
            fresh = of_one_kind(fresh)
            if len({self.editions[c.app.name] for _, c in fresh}) < 2:
                return
            group = Found(None)
            self.found.append(group)
        # All of them are judged beside all others, before any of them is in the group.
        beside = [*(c for _, c in fresh), *group.members()]
        for guess in [_by_title(far, each, chosen, beside) for far, each in fresh]:
            self._take(group, guess)

    # 3: by titles that are alike.

    def by_likeness(self) -> None:
        """Commands whose titles differ in one word from a name or a title, where more speaks for it."""
        left = self._left()
        named = self._by_parts_of_names()
        alone: dict[Form, list[Candidate]] = {}
        for each in left:
            for part in _parts(each.essential):
                alone.setdefault(part, []).append(each)
        found: list[tuple[float, int, Found | Candidate, Guess]] = []
        for number, each in enumerate(left):
            for part in _parts(each.essential):
                near = _if_few(named.get(part, []))
                pairs: list[tuple[Found | Candidate, Guess]] = [*self._like_names(each, near)]
                pairs += self._like_others(each, _if_few(alone[part]))
                found += [(-guess.score, number, target, guess) for target, guess in pairs]
        for score, _, target, guess in sorted(found, key=lambda entry: entry[:2]):
            if -score < LEAST:
                break
            if isinstance(target, Found):
                self._take(target, guess)
            elif not {guess.candidate.place, target.place} & self.group_of.keys():
                self._take_both(guess, target)

    def _by_parts_of_names(self) -> dict[Form, list[tuple[Form, str, Found]]]:
        """The names of all groups, by the words that are left where one is taken out."""
        named: dict[Form, list[tuple[Form, str, Found]]] = {}
        for group in (*self.known, *self.found):
            for name in group.names():
                words = essential(forms(name))
                for part in _parts(words):
                    named.setdefault(part, []).append((words, name, group))
        return named

    def _like_names(
        self, each: Candidate, near: Iterable[tuple[Form, str, Found]]
    ) -> Iterator[tuple[Found, Guess]]:
        """The groups with a name that a command's title is like."""
        for words, name, group in near:
            score = by_likeness(each.essential, words)
            is_for_parts = each.kind != "part" or not group.purpose
            if score and is_for_parts and not group.has(each.app):
                yield group, self._alike(each, group.members(), score, name, group.words)

    def _like_others(
        self, each: Candidate, near: Iterable[Candidate]
    ) -> Iterator[tuple[Candidate, Guess]]:
        """The other commands whose titles a command's is like."""
        for other in near:
            score = by_likeness(each.essential, other.essential)
            if score and self._may_meet(each, other):
                yield other, self._alike(each, [other], score, other.command.title)

    def _take_both(self, guess: Guess, target: Candidate) -> None:
        """Makes a group of two commands that are alike."""
        group = Found(None)
        self.found.append(group)
        self._take(group, guess)
        title = guess.candidate.command.title
        back = self._alike(target, [guess.candidate], guess.score, title)
        self._take(group, replace(back, score=guess.score))

    def _alike(
        self, each: Candidate, beside: list[Candidate], score: float, name: str, words: Form = ()
    ) -> Guess:
        about = {id(g) for other in beside for g in self._groups_about(other)}
        return judged(
            each,
            beside,
            score=score,
            because=f"its title is like “{name}”",
            kind="alike",
            group=words,
            has_neighbours=bool(about & {id(g) for g in self._groups_about(each)}),
        )

    def _groups_about(self, each: Candidate) -> Iterator[Found]:
        for place in each.neighbours:
            if group := self.group_of.get(place):
                yield group

    def _may_meet(self, one: Candidate, other: Candidate) -> bool:
        """Whether two commands may be for one thing: of two applications, and of one kind."""
        if self.editions[one.app.name] == self.editions[other.app.name] or one.kind != other.kind:
            return False
        orders = turned(one.command.title), turned(other.command.title)
        return not all(orders) or orders[0] == orders[1]

    # What comes of it.

    def _take(self, group: Found, guess: Guess) -> None:
        """Puts a guess into a group, unless the command or the group's place for it is taken."""
        each = guess.candidate
        if each.place in self.group_of or group.has(each.app):
            return
        twins = tuple(other for other in each.twins if other.place not in self.group_of)
        group.guessed.append(replace(guess, alternates=twins))
        for one in (each, *twins):
            self.group_of[one.place] = group

    def proposals(self) -> Iterator[Proposal]:
        """What was found, purpose by purpose."""
        taken = {group.purpose.id for group in self.known if group.purpose}
        for group in (*self.known, *self.found):
            if not group.guessed:
                continue
            purpose = group.purpose or new_purpose(group.members(), taken)
            taken.add(purpose.id)
            guesses = sorted(group.guessed, key=lambda g: (-g.score, g.app))
            yield Proposal(
                purpose=purpose,
                is_new=group.purpose is None,
                guesses=tuple(replace(each, purpose=purpose) for each in guesses),
            )


def _nearest(each: Candidate, index: dict[Form, list[FoundName]]) -> list[FoundName]:
    """For each group that a command may belong to by its name, that name which is nearest."""
    best: dict[int, FoundName] = {}
    for form, far in each.forms.items():
        for named in index.get(form, ()):
            have = best.get(id(named.group))
            if (have is None or far + named.far < have.far) and not named.group.has(each.app):
                best[id(named.group)] = FoundName(far + named.far, named.name, named.group)
    return list(best.values())


def _parts(words: Form) -> list[Form]:
    """``words`` and what is left without each one of them, if anything is, in a fixed order: of two that are alike
    the first is taken."""
    shorter = (words[:n] + words[n + 1 :] for n in range(len(words)))
    return list(dict.fromkeys((words, *filter(None, shorter))))


def _if_few(entries: list[T]) -> list[T]:
    """What is in a list, unless so many are that they have nothing in common."""
    if len(entries) <= MOST_ALIKE:
        return entries
    return []


def _by_title(
    far: int, each: Candidate, chosen: Iterable[tuple[int, Candidate]], beside: Iterable[Candidate]
) -> Guess:
    """How sure it is that a command is what others of the same form are, by how far their titles lie apart."""
    apart = far + min(other for other, command in chosen if command is not each)
    because = "its title says the same"
    if apart == 0:
        because = "the same title"
    return judged(
        each,
        [other for other in beside if other.app is not each.app],
        score=by_distance(apart),
        because=because,
        kind="same title",
    )
