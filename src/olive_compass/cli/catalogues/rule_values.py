"""The value of a rule, out of what was typed for it."""

from typing import Any

from olive_compass.core.apps.rules import RULE_TYPES
from olive_compass.core.keys.names import MODIFIERS
from olive_compass.errors import UserError

#: The tables of keys that no scheme decides.
KEY_TABLES = ("reserved", "unlisted")

#: The kinds of the values of tables in which all have the same.
KINDS: dict[str, type] = {"swipes": int, "licences": bool}


def name_and_value(pair: str) -> tuple[str, str]:
    """``NAME=VALUE`` in two; the name may be the key ``=``."""
    if "==" in pair:
        return "=", pair[2:].strip()
    name, sign, text = pair.partition("=")
    if not sign:
        raise UserError(
            f"“{pair}” has no “=”.", hint="Write NAME=VALUE; an empty value removes it."
        )
    return name.strip(), text.strip()


def value_of(table: str, name: str, text: str) -> Any:
    """What a rule is set to, as its kind of value; None: nothing, so that it goes."""
    if not text:
        return None
    if table in KEY_TABLES:
        return text
    if table in KINDS:
        kind = KINDS[table]
    else:
        kind = _kind_of_rule(name)
    if kind is bool:
        return _yes_or_no(name, text)
    if kind is list:
        return _names(name, text)
    try:
        return kind(text)
    except ValueError as error:
        raise UserError(f"{name} is a number, not “{text}”.") from error


def _kind_of_rule(name: str) -> type:
    if name in RULE_TYPES:
        return RULE_TYPES[name]
    from olive_compass.near import did_you_mean

    known = f"There are {', '.join(RULE_TYPES)}."
    raise UserError(f"There is no rule “{name}”.", hint=did_you_mean(name, RULE_TYPES) or known)


def _yes_or_no(name: str, text: str) -> bool:
    if text.lower() not in ("yes", "no", "true", "false"):
        raise UserError(f"{name} is yes or no, not “{text}”.")
    return text.lower() in ("yes", "true")


def _names(name: str, text: str) -> list[str]:
    if text.lower() == "none":
        return []
    if name == "modifiers" and text.lower() == "all":
        return list(MODIFIERS[1:])
    return [part.strip() for part in text.split(",")]
