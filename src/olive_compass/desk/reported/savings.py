"""What keys save, as it is reported by ``savings``."""

from collections.abc import Sequence

from msgspec.structs import asdict

from olive_compass.core.answers.savings import SavingsAnswer
from olive_compass.core.savings.model import LETTERS, Times
from olive_compass.core.savings.savings_of_keys import Whole
from olive_compass.desk.reported.report import Report


class CommandSavingsReport(Report, frozen=True, kw_only=True):
    """A command: the seconds that it takes a week by hand and now, and what its key saves or would save."""

    command: str
    title: str
    a_week: float
    from_menu: float
    now: float
    saves: float
    would_save: float
    key: str | None
    press: str
    by_menu: str


class BestReport(Report, frozen=True, kw_only=True):
    """A command whose key would save most, and after how many days it would have paid."""

    command: str
    would_save: float
    pays_after: float


class SavingsReport(Report, frozen=True, kw_only=True):
    """What the commands of an application take a week, and which keys would pay."""

    app: str
    seconds: dict[str, float]
    model: dict[str, float]
    commands: list[CommandSavingsReport]
    best: list[BestReport]
    from_lists: Sequence[str]


def savings_report(answer: SavingsAnswer, times: Times) -> SavingsReport:
    """What keys save in an application by the figures of ``times``, in seconds a week."""
    app = answer.view.app
    return SavingsReport(
        app=app.name,
        seconds=seconds_report(answer.whole),
        model={letter: getattr(times, name) for letter, name in LETTERS.items()},
        commands=[
            CommandSavingsReport(
                command=e.command,
                title=app.shown(e.command),
                a_week=round(e.a_week, 2),
                from_menu=round(e.by_hand, 2),
                now=round(e.now, 2),
                saves=round(e.saves, 2),
                would_save=round(e.would_save, 2),
                key=e.key or None,
                press=e.press.text,
                by_menu=e.menu.text,
            )
            for e in answer.commands
        ],
        best=[
            BestReport(
                command=e.savings.command,
                would_save=round(e.seconds, 2),
                pays_after=round(e.pays_after, 1),
            )
            for e in answer.best
        ],
        from_lists=answer.from_lists,
    )


def seconds_report(sums: Whole) -> dict[str, float]:
    """The sums of an application, in seconds a week."""
    return {name: round(value, 2) for name, value in asdict(sums).items()}
