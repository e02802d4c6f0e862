"""What somebody who knows other keys meets, as it is reported by ``surprises``."""

from olive_compass.core.apps.app import App
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.familiarity import Familiarity, Surprise
from olive_compass.core.schemes.meanings import meaning_of, title_of
from olive_compass.desk.reported.report import Report


class SurpriseReport(Report, frozen=True, kw_only=True):
    """A press that does something else than somebody expects (None: nothing), and what to know before it is started."""

    key: str
    where: str
    expects: str
    gets: str | None
    warning: str | None


class FamiliarityReport(Report, frozen=True, kw_only=True):
    """The share of presses that do as somebody expects, and those that do not."""

    app: str
    knows: str
    familiarity: float
    surprises: list[SurpriseReport]


def familiarity_report(keymap: Keymap, knows: str, found: Familiarity) -> FamiliarityReport:
    """What somebody meets here who knows the keys that are called ``knows``."""
    return FamiliarityReport(
        app=keymap.app.name,
        knows=knows,
        familiarity=round(found.figure, 4),
        surprises=[_surprise(keymap, each) for each in found.surprises],
    )


def _surprise(keymap: Keymap, each: Surprise) -> SurpriseReport:
    return SurpriseReport(
        key=str(each.trigger),
        where=keymap.app.modes.phrase(each.modes),
        expects=title_of(keymap, each.expected),
        gets=meaning_of(keymap, each.does) or None,
        warning=_warning(keymap.app, each),
    )


def _warning(app: App, surprise: Surprise) -> str | None:
    """What a person is to know before it is started, None: nothing."""
    command = app.catalogue.by_id.get(surprise.does.command)
    if command:
        return command.marks.warning or None
    return None
