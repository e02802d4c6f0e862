"""What is proposed to a person: purposes, and the commands that would serve them."""

from collections.abc import Iterable
from typing import Literal, get_args

from msgspec import Struct

from olive_compass.core.apps.command_ids import slug
from olive_compass.core.sharing.candidates import Candidate
from olive_compass.core.sharing.purposes import Purpose, Purposes
from olive_compass.structs import replace

#: From this score on a guess is worth a look, and from this on it is taken where nobody is asked.
LEAST, SURE = 0.6, 0.8

#: By what a guess was found, the surest first.
Kind = Literal["known name", "same title", "alike"]


#: Stands where it is not settled yet for which purpose a guess is.
NO_PURPOSE = Purpose(id="", title="")


class Guess(Struct, frozen=True, kw_only=True):
    """A proposed link: the purpose, who would serve it, a score from 0 to 1, and the reasons.

    ``alternates`` are commands of the same application that stand for the first one.
    """

    purpose: Purpose
    candidate: Candidate
    alternates: tuple[Candidate, ...] = ()
    score: float
    reasons: tuple[str, ...]
    kind: Kind

    @property
    def app(self) -> str:
        """The name of the application."""
        return self.candidate.app.name

    @property
    def commands(self) -> tuple[str, ...]:
        """The ids of the commands that would serve it."""
        return tuple(each.command.id for each in (self.candidate, *self.alternates))


class Proposal(Struct, frozen=True, kw_only=True):
    """Guesses for one purpose, which is new where ``is_new``; ``kind`` and ``score`` are those of the weakest."""

    purpose: Purpose
    is_new: bool
    guesses: tuple[Guess, ...]

    @property
    def kind(self) -> Kind:
        """How sure it is by its kind."""
        return max((each.kind for each in self.guesses), key=get_args(Kind).index)

    @property
    def score(self) -> float:
        """The score of its weakest guess."""
        return min(each.score for each in self.guesses)

    def above(self, least: float) -> "Proposal | None":
        """What is left of it from a score on, None: nothing that joins two applications."""
        sure = tuple(each for each in self.guesses if each.score >= least)
        if self.is_new:
            enough = len(sure) > 1
        else:
            enough = bool(sure)
        if enough:
            return replace(self, guesses=sure)
        return None


def members(proposal: Proposal) -> frozenset[tuple[str, str]]:
    """The commands that would serve the purpose of a proposal, by application and id, with those that do."""
    own = {each.candidate.place for each in proposal.guesses}
    return frozenset(own.union(proposal.purpose.places))


def called(proposal: Proposal, title: str) -> Proposal:
    """The same proposal under another title; the title that was proposed becomes a name of the purpose."""
    old = proposal.purpose
    names = tuple(dict.fromkeys((*old.names, old.title)))
    if proposal.is_new:
        id_ = slug(title) or old.id
    else:
        id_ = old.id
    return replace(proposal, purpose=replace(old, id=id_, title=title, names=names))


def accepted(purposes: Purposes, taken: Iterable[Proposal]) -> Purposes:
    """The purposes with what was taken: new ones at the end, and their links."""
    by_id = dict(purposes.by_id)
    for each in taken:
        purpose = by_id.get(each.purpose.id, each.purpose)
        links = dict(purpose.links)
        for guess in each.guesses:
            links[guess.app] = guess.commands
        # A name that a person gave counts; so does a new purpose that was called as one that is there.
        if each.is_new:
            title = purpose.title
        else:
            title = each.purpose.title
        names = tuple(dict.fromkeys((*purpose.names, *each.purpose.names)))
        by_id[purpose.id] = replace(purpose, links=links, title=title, names=names)
    return Purposes(by_id.values())
