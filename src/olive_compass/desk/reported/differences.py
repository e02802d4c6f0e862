"""The differences of two sides, as ``compare``, ``unpack`` and ``house pull`` report them."""

from olive_compass.desk.comparing import Section
from olive_compass.desk.reported.report import Report


class DifferenceReport(Report, frozen=True, kw_only=True):
    """A difference of two sides: in which file, of what, before and after."""

    file: str | None
    app: str | None
    what: str
    table: str
    subject: str
    before: str | None
    after: str | None
    why: str


def difference_reports(sections: list[Section]) -> list[DifferenceReport]:
    """The differences of all sections, one after another."""
    return [
        DifferenceReport(
            file=section.name or None,
            app=section.app or None,
            what=each.what,
            table=each.table,
            subject=each.subject,
            before=each.before or None,
            after=each.after or None,
            why=each.why,
        )
        for section in sections
        for each in section.differences
    ]
