"""Holds the guards of a desk against changes that come as whole files: merged, unpacked, upgraded."""

from collections.abc import Iterable

from olive_compass.core.changes.change import Answers, Question, guard_questions
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.guards import Guarded
from olive_compass.core.schemes.objections.guards import guard_says
from olive_compass.desk.desk import Desk, scheme_path
from olive_compass.desk.storage.records import FileChange
from olive_compass.errors import UserError


def refuse_broken_guards(at: Desk, files: list[FileChange], despite: Iterable[str]) -> None:
    """Raises ``UserError`` where ``files`` change what a guarded key of this desk does."""
    answers = Answers(despite=frozenset(despite))
    before, after = at, at.with_files(files)
    touched = {
        each.path.split("/")[1] for each in files if each.path.startswith(("schemes/", "apps/"))
    }
    for app in sorted(touched & set(before.app_names()) & set(after.app_names())):
        keymaps = [Keymap(desk.stack(app), at.keyboard) for desk in (before, after)]
        for question in guard_questions(keymaps[0], keymaps[1], answers):
            refuse_guard(before, app, question)


def refuse_guard(at: Desk, app: str, question: Question) -> None:
    """Raises ``UserError`` for a guard that would break, with the file and the line of it."""
    guard: Guarded = question.about[0]  # type: ignore[index]
    path = scheme_path(app, guard.scheme.name)
    raise UserError(
        f"{guard_says(guard)}; nothing was changed.",
        file=path,
        line=at.line(path, "guard", str(guard.trigger)),
        hint="To do it all the same: --despite guard",
    )
