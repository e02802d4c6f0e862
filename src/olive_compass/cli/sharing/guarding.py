"""Holds the guards of a desk against changes that come as whole files: merged, unpacked, upgraded."""

from collections.abc import Iterable

from olive_compass.core.changes.change import Answers, Question, guard_questions
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.guards import Guarded
from olive_compass.core.schemes.objections.guards import guard_says
from olive_compass.desk.desk import Desk
from olive_compass.desk.paths import scheme_path
from olive_compass.desk.storage.records import FileChange
from olive_compass.errors import UserError


def refuse_broken_guards(desk: Desk, files: list[FileChange], despite: Iterable[str]) -> None:
    """Raises ``UserError`` where ``files`` change what a guarded key of this desk does."""
    answers = Answers(despite=frozenset(despite))
    before, after = desk, desk.with_files(files)
    touched = {
        file.path.split("/")[1] for file in files if file.path.startswith(("schemes/", "apps/"))
    }
    for app in sorted(touched & set(before.app_names()) & set(after.app_names())):
        keymaps = [Keymap(each.stack(app), desk.keyboard) for each in (before, after)]
        for question in guard_questions(keymaps[0], keymaps[1], answers):
            refuse_guard(before, app, question)


def refuse_guard(desk: Desk, app: str, question: Question) -> None:
    """Raises ``UserError`` for a guard that would break, with the file and the line of it."""
    guard: Guarded = question.about[0]  # type: ignore[index]
    path = scheme_path(app, guard.scheme.name)
    raise UserError(
        f"{guard_says(guard)}; nothing was changed.",
        file=path,
        line=desk.line(path, "guard", str(guard.trigger)),
        hint="To do it all the same: --despite guard",
    )
