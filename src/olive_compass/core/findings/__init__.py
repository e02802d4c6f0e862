"""The findings of ``check``: one module each in this folder and in ``of_macros``, found by its being here.

A module holds ``ID``, ``SEVERITY`` (one of ``SEVERITIES``), ``SAYS`` (one sentence on what it
means), ``ADVICE`` (what to do about it in general) and ``find(view)``, which yields findings.
"""

from collections.abc import Iterable, Iterator, Mapping
from functools import cache
from importlib import import_module
from types import MappingProxyType
from typing import TYPE_CHECKING, cast

from olive_compass.core.findings.finding import SEVERITIES, Finding, View
from olive_compass.siblings import module_names

if TYPE_CHECKING:
    from olive_compass.core.findings.finding import Finder

__all__ = ["SEVERITIES", "Finding", "View", "all_findings", "kinds"]

#: What stands in the folder and is no finding.
_OTHERS = ("finding", "advice")


@cache
def kinds() -> "dict[str, Finder]":
    """The modules of all findings, by id."""
    return _always() | _of_macros()


@cache
def _always() -> "dict[str, Finder]":
    return _modules(__name__, __path__)


@cache
def _of_macros() -> "dict[str, Finder]":
    package = import_module(f"{__name__}.of_macros")
    return _modules(package.__name__, package.__path__)


def _modules(package: str, path: Iterable[str]) -> "dict[str, Finder]":
    names = [name for name in module_names(path) if name not in _OTHERS]
    modules = [cast("Finder", import_module(f"{package}.{name}")) for name in names]
    return {module.ID: module for module in modules}


def all_findings(
    view: View, severities: Mapping[str, str] = MappingProxyType({})
) -> Iterator[Finding]:
    """What every module finds in ``view``, errors first, in a fixed order.

    ``severities`` are those that a desk sets by id, ``off`` among them. A finding that a scheme
    accepts carries the reason.
    """
    accepted = {
        subject: decision.why
        for scheme in reversed(view.stack.schemes)
        for subject, decision in scheme.accept.items()
    }
    found = []
    # Most applications have no macro: their findings are not even loaded then.
    for module in (kinds() if view.macros else _always()).values():
        wanted = severities.get(module.ID, "")
        if wanted == "off":
            continue
        for finding in module.find(view):
            if wanted and finding.severity == module.SEVERITY:
                finding = finding._replace(severity=wanted)
            if finding.subject in accepted:
                finding = finding._replace(accepted=accepted[finding.subject])
            found.append(finding)
    yield from sorted(found, key=lambda f: (SEVERITIES.index(f.severity), f.id, f.order))
