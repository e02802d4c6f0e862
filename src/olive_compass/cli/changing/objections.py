"""Objections to a key as sentences at a terminal: what they are, who holds it, what is left."""

from olive_compass.cli import words
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.core.changes.view import AppView
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.consequences import Holder, Loss
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.meanings import source_of
from olive_compass.core.schemes.objections.holders import holder_says
from olive_compass.core.schemes.objections.kind import Objection
from olive_compass.core.schemes.verdicts import SAID, Verdict
from olive_compass.desk.desk import Desk
from olive_compass.desk.source_lines import file_and_line_text


class Telling:
    """What the sentence of an objection is written with: decisions are named by file and line."""

    def __init__(self, desk: Desk, view: AppView, found: Verdict) -> None:
        self.at = desk
        self.view = view
        self.command = found.command
        self.trigger = found.trigger

    def where(self, claim: Claim) -> str:
        return file_and_line_text(self.at, self.view.keymap, claim)

    def source(self, claim: Claim) -> str:
        return source_of(claim)

    def strong(self, text: str) -> str:
        return f"{BOLD}{text}{OFF}"


def objection_text(desk: Desk, view: AppView, found: Verdict, objection: Objection) -> str:
    """An objection as a sentence without its full stop."""
    return objection.kind.says(Telling(desk, view, found), objection.evidence)


def said_lines(desk: Desk, view: AppView, found: Verdict) -> list[str]:
    """What is only to be said of a verdict, a sentence each, the gravest first."""
    return [f"{objection_text(desk, view, found, each)}." for each in found.against(SAID)]


def holder_text(desk: Desk, view: AppView, found: Verdict, holder: Holder) -> str:
    """Who holds a trigger, where, and by which decision."""
    return holder_says(Telling(desk, view, found), holder)


def loss_text(view: AppView, after: Keymap, loss: Loss) -> str:
    """That a command lost a trigger, and how it can still be reached."""
    where = view.app.modes.phrase(loss.modes)
    return f"{view.title(loss.command)} loses it {where}; {words.left_with(after, loss)}."
