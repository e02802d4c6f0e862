"""What ``app.toml`` says of the kinds of trays that an application has, and of its proxies."""

from collections.abc import Iterator, Mapping
from typing import Any

from olive_compass.core.apps.app import Proxy
from olive_compass.core.apps.trays import OPENS, SCAN, TrayKind
from olive_compass.desk.texts.toml_text import check_fields

_KIND: dict[str, type | tuple[type, ...]] = {
    "most": int,
    "items": int,
    "groups": bool,
    "icons": bool,
    "opens": str,
    "refuses": dict,
    "scan": int,
}
_PROXY: dict[str, type | tuple[type, ...]] = {"through": str, "held": str}


def wrong_kinds(tables: Mapping[str, Any]) -> Iterator[tuple[str, str, str]]:
    """What is wrong in ``[trays.KIND]``: the table, the key in it, and the sentence."""
    for name, table in tables.items():
        where = f"trays.{name}"
        if not isinstance(table, dict):
            yield "trays", name, f"“{name}” is no table of a kind of tray."
            continue
        yield from ((where, *each) for each in check_fields(table, _KIND, "a kind of tray"))
        if table.get("opens", "click") not in OPENS:
            yield where, "opens", f"“opens” is one of {', '.join(OPENS)}."


def kinds(tables: Mapping[str, Any]) -> dict[str, TrayKind]:
    """The kinds of trays, by name; the tables have been checked."""
    return {
        name: TrayKind(
            name=name,
            most=table.get("most", 0),
            items=table.get("items", 0),
            groups=table.get("groups", True),
            icons=table.get("icons", False),
            opens=table.get("opens", "click"),
            refuses={command: str(why) for command, why in table.get("refuses", {}).items()},
            scan=table.get("scan", SCAN),
        )
        for name, table in tables.items()
    }


def wrong_proxies(tables: Mapping[str, Any]) -> Iterator[tuple[str, str, str]]:
    """What is wrong in ``[via]``: the table, the key in it, and the sentence."""
    for name, table in tables.items():
        if not isinstance(table, dict) or not table.get("through"):
            yield "via", name, f"“{name}” says through which command it is shown: through = ID."
            continue
        for _, says in check_fields(table, _PROXY, "[via]"):
            yield "via", name, says


def proxies(tables: Mapping[str, Any]) -> dict[str, Proxy]:
    """The proxies, by what they stand for; the tables have been checked."""
    return {name: Proxy(table["through"], table.get("held", "")) for name, table in tables.items()}
