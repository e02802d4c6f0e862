"""A scheme as TOML, read into a value: every mistake at once, each with its line."""

from collections.abc import Mapping
from typing import Annotated, Literal

from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.reading import canonical, read_trigger
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme, Unreadable
from olive_compass.core.schemes.layers import PERSONAL, SCHEME_LAYERS, scheme_layer
from olive_compass.core.wording import clause
from olive_compass.desk.texts.schemas import Format, fitted, saying
from olive_compass.desk.texts.toml_text import load, refuse
from olive_compass.structs import replace

FORMAT = "olive-compass-scheme/1"

TABLES = ("assign", "keyless", "mute", "guard", "accept", "order")

_NO_TEXT = saying("“{key}” has something that is no text.")

#: One text, or a list of them.
Texts = Annotated[str | tuple[Annotated[str, _NO_TEXT], ...], _NO_TEXT]

_LAYER = saying(f"“{{value}}” is no layer of a scheme; it is one of {', '.join(SCHEME_LAYERS)}.")
_KEYS = saying(
    "“{key}” needs keys: a text, a list of texts, or {{ keys = [...] }}.",
    lacks="“{key}” has no keys; if the dot is part of an id, write it in quotation marks.",
)
_REASON = saying("“{key}” needs a reason in quotation marks.")


class AssignmentTable(Format, frozen=True, kw_only=True):
    """Keys of a command, and the modes in which they apply."""

    keys: Texts
    modes: Texts = ROOT
    why: str = ""
    slot: str = ""
    instead: bool = False


class DecisionTable(Format, frozen=True, kw_only=True):
    """A decision and its reason."""

    why: str = ""
    modes: Texts = ROOT


class GuardTable(DecisionTable, frozen=True, kw_only=True):
    """A key that must keep what it does."""

    keeps: str = ""


class MuteTable(DecisionTable, frozen=True, kw_only=True):
    """A key that does nothing, and how it is turned off where an application has no way to do so."""

    never: str = ""
    away: str = ""


Assigned = Annotated[str | tuple[str, ...] | AssignmentTable, _KEYS]
Decided = Annotated[str | DecisionTable, _REASON]
Guarded = Annotated[str | GuardTable, _REASON]
Muted = Annotated[str | MuteTable, _REASON]


class SchemeTable(Format, frozen=True, kw_only=True):
    """The decisions for one application."""

    format: Literal["olive-compass-scheme/1"]
    app: str = ""
    layer: Annotated[Literal["project", "personal", "house"], _LAYER] = "personal"
    based_on: str = ""
    assign: Mapping[str, Annotated[str | AssignmentTable | list[Assigned], _KEYS]] = {}
    keyless: Mapping[str, Decided] = {}
    mute: Mapping[str, Muted] = {}
    guard: Mapping[str, Guarded] = {}
    accept: Mapping[str, Decided] = {}
    order: Mapping[str, Texts] = {}
    project: str = ""


def read(data: bytes, file: str, name: str, modes: frozenset[str], typed: int = 0) -> Scheme:
    """The scheme in a file of an application with these ``modes``.

    Triggers and modes that cannot be read are in the scheme's ``unreadable``; raises
    ``UserError`` with every other mistake and its line.
    """
    said, mistakes = fitted(load(data, file, FORMAT), SchemeTable, "a scheme")
    refuse(mistakes, data, file)
    return _SchemeReader(modes, typed).scheme(name, said)


class _SchemeReader:
    """Reads the keys and modes of a scheme; what cannot be read is kept in ``unreadable``."""

    def __init__(self, modes: frozenset[str], typed: int) -> None:
        self.modes = modes
        self.typed = typed
        self.unreadable: list[Unreadable] = []

    def scheme(self, name: str, said: SchemeTable) -> Scheme:
        assign = {
            command: self._assignments(command, each) for command, each in said.assign.items()
        }
        return Scheme(
            app=said.app,
            name=name,
            layer=scheme_layer(said.layer) or PERSONAL,
            based_on=said.based_on,
            assign={command: found for command, found in assign.items() if found},
            keyless=self._decisions("keyless", said.keyless),
            mute=self._by_trigger("mute", said.mute),
            guard=self._by_trigger("guard", said.guard),
            accept=self._decisions("accept", said.accept),
            order=self._order(said.order),
            project=said.project,
            unreadable=tuple(self.unreadable),
        )

    def _assignments(
        self, command: str, said: "str | AssignmentTable | list[Assigned]"
    ) -> tuple[Assignment, ...]:
        tables: list[Assigned] = [said] if isinstance(said, str | AssignmentTable) else said
        if tables and all(isinstance(each, str) for each in tables):
            # Texts alone are the keys of one assignment.
            tables = [tuple(map(str, tables))]
        found = [self._assignment(command, each) for each in tables]
        return tuple(each for each in found if each.keys and each.modes)

    def _assignment(self, command: str, said: "Assigned") -> Assignment:
        if not isinstance(said, AssignmentTable):
            return Assignment(keys=self._keys(command, said))
        return Assignment(
            keys=self._keys(command, said.keys),
            modes=self._modes("assign", command, said.modes),
            why=said.why,
            slot=said.slot,
            instead=said.instead,
        )

    def _keys(self, command: str, texts: str | tuple[str, ...]) -> tuple[Run, ...]:
        found = []
        for text in _texts(texts):
            trigger = self._trigger("assign", command, text)
            if trigger:
                found.append(trigger)
        return tuple(found)

    def _order(self, said: Mapping[str, str | tuple[str, ...]]) -> dict[Run, tuple[str, ...]]:
        found = {}
        for text, commands in said.items():
            trigger = self._trigger("order", text, text)
            if trigger:
                found[trigger] = _texts(commands)
        return found

    def _decisions(
        self, table: str, said: Mapping[str, str | DecisionTable]
    ) -> dict[str, Decision]:
        return {key: self._decision(table, key, each) for key, each in said.items()}

    def _by_trigger(
        self, table: str, said: Mapping[str, str | DecisionTable]
    ) -> dict[Run, Decision]:
        found = {}
        for text, decision in self._decisions(table, said).items():
            trigger = self._trigger(table, text, text)
            if trigger and decision.modes:
                found[trigger] = decision
        return found

    def _decision(self, table: str, key: str, said: str | DecisionTable) -> Decision:
        if isinstance(said, str):
            return Decision(why=said)
        decision = Decision(why=said.why, modes=self._modes(table, key, said.modes))
        match said:
            case GuardTable():
                return replace(decision, keeps=said.keeps)
            case MuteTable():
                away = None
                if said.away:
                    away = self._trigger(table, key, said.away)
                return replace(decision, never=said.never, away=away)
        return decision

    def _trigger(self, table: str, key: str, text: str) -> Run | None:
        try:
            return canonical(text) or read_trigger(text, self.typed)
        except TriggerError as error:
            hint = clause("; did you mean {}?", error.nearest)
            self._set_aside(table, key, text, error.reason + hint)
            return None

    def _modes(self, table: str, key: str, said: str | tuple[str, ...]) -> tuple[str, ...]:
        known = []
        for name in dict.fromkeys(_texts(said)):
            if name == ROOT or name in self.modes:
                known.append(name)
            else:
                has = ", ".join((ROOT, *sorted(self.modes)))
                self._set_aside(table, key, name, f"the application has no such mode; it has {has}")
        return tuple(known)

    def _set_aside(self, table: str, key: str, text: str, reason: str) -> None:
        self.unreadable.append(Unreadable(table=table, key=key, text=text, reason=reason))


def _texts(said: str | tuple[str, ...]) -> tuple[str, ...]:
    if isinstance(said, str):
        return (said,)
    return said
