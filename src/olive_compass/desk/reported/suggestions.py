"""The keys that ``suggest`` plans."""

from collections.abc import Sequence

from olive_compass.core.apps.app import App
from olive_compass.core.savings.suggesting import Plan
from olive_compass.desk.reported.report import Report


class SuggestionReport(Report, frozen=True, kw_only=True):
    """A key for a command, what it saves a week, and why it was chosen."""

    command: str
    title: str
    key: str
    a_week: float
    saves: float
    effort: float
    reasons: Sequence[str]


class LeftOutReport(Report, frozen=True, kw_only=True):
    """A command for which no key is suggested, and why."""

    command: str
    why: str


class PlanReport(Report, frozen=True, kw_only=True):
    """Keys for commands that have none: what they cost together, and what no plan could be below."""

    app: str
    suggestions: list[SuggestionReport]
    left_out: list[LeftOutReport]
    cost: float
    now: float
    bound: float
    gap: float


def plan_report(app: App, plan: Plan) -> PlanReport:
    """A plan of keys for commands; all costs are in seconds a week."""
    return PlanReport(
        app=app.name,
        suggestions=[
            SuggestionReport(
                command=each.command.id,
                title=app.shown(each.command.id),
                key=str(each.trigger),
                a_week=round(each.a_week, 2),
                saves=round(each.saves, 2),
                effort=each.offer.strokes,
                reasons=each.offer.reasons,
            )
            for each in plan.suggestions
        ],
        left_out=[LeftOutReport(command=e.command.id, why=e.why) for e in plan.left],
        cost=round(plan.cost, 2),
        now=round(plan.now, 2),
        bound=round(plan.bound, 2),
        gap=round(plan.gap, 4),
    )
