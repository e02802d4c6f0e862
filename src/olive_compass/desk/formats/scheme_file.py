"""A scheme as TOML, read into a value: every mistake at once, each with its line."""

from typing import Any

from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.reading import canonical, read_trigger
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme, Unreadable
from olive_compass.core.schemes.layers import PERSONAL, SCHEME_LAYERS, scheme_layer
from olive_compass.desk.texts.toml_text import check_fields, load, refuse_all

FORMAT = "olive-compass-scheme/1"

TABLES = ("assign", "keyless", "mute", "guard", "accept", "order")

_TOP: dict[str, type | tuple[type, ...]] = {
    "format": str,
    "app": str,
    "layer": str,
    "based-on": str,
    "assign": dict,
    "keyless": dict,
    "mute": dict,
    "guard": dict,
    "accept": dict,
    "order": dict,
    "project": str,
}
_ENTRY: dict[str, type | tuple[type, ...]] = {
    "keys": (list, str),
    "modes": (list, str),
    "why": str,
    "slot": str,
    "instead": bool,
}
_DECISION: dict[str, type | tuple[type, ...]] = {"modes": (list, str), "why": str}
_GUARD = {**_DECISION, "keeps": str}
_MUTE = {**_DECISION, "never": str, "away": str}
_FIELDS = {"guard": _GUARD, "mute": _MUTE}


def read(data: bytes, file: str, name: str, modes: frozenset[str], typed: int = 0) -> Scheme:
    """The scheme in a file of an application with these ``modes``.

    Triggers and modes that cannot be read are in the scheme's ``unreadable``; raises
    ``UserError`` with every other mistake and its line.
    """
    content = load(data, file, FORMAT)
    return _Reader(content, data, file, modes, typed).scheme(name)


class _Reader:
    def __init__(
        self, content: dict[str, Any], data: bytes, file: str, modes: frozenset[str], typed: int
    ) -> None:
        self.content = content
        self.data = data
        self.file = file
        self.modes = modes
        self.typed = typed
        self.problems: list[tuple[str, str, str]] = []
        self.unreadable: list[Unreadable] = []

    def scheme(self, name: str) -> Scheme:
        top = self.content
        self.problems += [("", key, text) for key, text in check_fields(top, _TOP, "a scheme")]
        named = top.get("layer", PERSONAL)
        layer = scheme_layer(named)
        if layer is None:
            says = f"“{named}” is no layer of a scheme; it is one of {', '.join(SCHEME_LAYERS)}."
            self.problems.append(("", "layer", says))
        # Tables of the wrong kind cannot be read any further.
        refuse_all(self.problems, self.data, self.file)
        assign = {
            command: entries
            for command, value in top.get("assign", {}).items()
            if (entries := self._entries(command, value))
        }
        keyless = {
            command: self._decision("keyless", command, value)
            for command, value in top.get("keyless", {}).items()
        }
        mute = self._by_trigger("mute")
        guard = self._by_trigger("guard")
        accept = {
            subject: self._decision("accept", subject, value)
            for subject, value in top.get("accept", {}).items()
        }
        order = {
            run: tuple(self._texts("order", text, commands))
            for text, commands in top.get("order", {}).items()
            if (run := self._trigger("order", text, text))
        }
        refuse_all(self.problems, self.data, self.file)
        return Scheme(
            app=str(top.get("app", "")),
            name=name,
            layer=layer or PERSONAL,
            based_on=str(top.get("based-on", "")),
            assign=assign,
            keyless=keyless,
            mute=mute,
            guard=guard,
            accept=accept,
            order=order,
            project=str(top.get("project", "")),
            unreadable=tuple(self.unreadable),
        )

    def _entries(self, command: str, value: Any) -> tuple[Assignment, ...]:
        # A scheme that we wrote has thousands of lines alike; a closer look takes four times as long.
        quick = self._quick_entry(value)
        if quick is not None:
            return (quick,)
        if (
            isinstance(value, dict)
            or not isinstance(value, list)
            or all(isinstance(item, str) for item in value)
        ):
            value = [value]
        entries = []
        for item in value:
            if isinstance(item, (str, list)):
                item = {"keys": item}
            if not isinstance(item, dict) or "keys" not in item:
                says = f"“{command}” needs keys: a text, a list of texts, or {{ keys = [...] }}."
                if isinstance(item, dict):
                    says = (
                        f"“{command}” has no keys; if the dot is part of an id, write it in "
                        "quotation marks."
                    )
                self.problems.append(("assign", command, says))
                continue
            for _, text in check_fields(item, _ENTRY, f"“{command}”"):
                self.problems.append(("assign", command, text))
            keys = tuple(
                run
                for text in self._texts("assign", command, item["keys"])
                if (run := self._trigger("assign", command, text))
            )
            modes = self._modes("assign", command, item.get("modes", [ROOT]))
            if keys and modes:
                slot, instead = str(item.get("slot", "")), item.get("instead") is True
                entries.append(
                    Assignment(
                        keys=keys,
                        modes=modes,
                        why=str(item.get("why", "")),
                        slot=slot,
                        instead=instead,
                    )
                )
        return tuple(entries)

    def _quick_entry(self, value: Any) -> Assignment | None:
        """An entry in the form in which we write it; None where it needs a closer look."""
        if isinstance(value, str):
            value = {"keys": [value]}
        if type(value) is not dict or not value.keys() <= _ENTRY.keys():
            return None
        keys, modes = value.get("keys"), value.get("modes")
        if type(keys) is not list or not keys:
            return None
        runs = []
        for text in keys:
            # What is not in our own writing may be a mistake, and that is said below with its line.
            run = canonical(text) if type(text) is str else None
            if run is None:
                return None
            runs.append(run)
        known = (ROOT,)
        if modes is not None:
            if type(modes) is not list or not modes or not self.modes.issuperset(modes):
                return None
            known = tuple(dict.fromkeys(modes))
        why, slot = value.get("why", ""), value.get("slot", "")
        instead = value.get("instead", False)
        if type(why) is not str or type(slot) is not str or type(instead) is not bool:
            return None
        return Assignment(keys=tuple(runs), modes=known, why=why, slot=slot, instead=instead)

    def _by_trigger(self, table: str) -> dict[Run, Decision]:
        found = {}
        for text, value in self.content.get(table, {}).items():
            decision = self._decision(table, text, value)
            run = self._trigger(table, text, text)
            if run is not None and decision.modes:
                found[run] = decision
        return found

    def _decision(self, table: str, key: str, value: Any) -> Decision:
        if isinstance(value, str):
            return Decision(why=value)
        if not isinstance(value, dict):
            self.problems.append((table, key, f"“{key}” needs a reason in quotation marks."))
            return Decision()
        for _, text in check_fields(value, _FIELDS.get(table, _DECISION), f"“{key}”"):
            self.problems.append((table, key, text))
        away = str(value.get("away", ""))
        return Decision(
            why=str(value.get("why", "")),
            modes=self._modes(table, key, value.get("modes", [ROOT])),
            keeps=str(value.get("keeps", "")),
            never=str(value.get("never", "")),
            away=self._trigger(table, key, away) if away else None,
        )

    def _trigger(self, table: str, key: str, text: str) -> Run | None:
        try:
            return read_trigger(text, self.typed)
        except TriggerError as error:
            hint = f"; did you mean {error.nearest}?" if error.nearest else ""
            self.unreadable.append(
                Unreadable(table=table, key=key, text=text, reason=error.reason + hint)
            )
            return None

    def _modes(self, table: str, key: str, value: Any) -> tuple[str, ...]:
        known = []
        for name in self._texts(table, key, value):
            if name == ROOT or name in self.modes:
                known.append(name)
            else:
                reason = "the application has no such mode; it has " + ", ".join(
                    (ROOT, *sorted(self.modes))
                )
                self.unreadable.append(Unreadable(table=table, key=key, text=name, reason=reason))
        return tuple(dict.fromkeys(known))

    def _texts(self, table: str, key: str, value: Any) -> list[str]:
        texts = [value] if isinstance(value, str) else value
        if isinstance(texts, list) and all(isinstance(text, str) for text in texts):
            return texts
        self.problems.append((table, key, f"“{key}” has something that is no text."))
        return []
