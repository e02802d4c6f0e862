"""The findings of ``check``: one module each in this folder, in ``of_macros``, ``of_trays`` and ``of_usage``, found by its being here.

A module holds ``ID``, ``SEVERITY`` (one of ``SEVERITIES``), ``SAYS`` (one sentence on what it
means), ``ADVICE`` (what to do about it in general;
``ACTIONS`` are those that it names in braces, where it names any) and ``find(view)``, which yields findings.
"""

from collections.abc import Iterable, Iterator, Mapping
from functools import cache
from importlib import import_module
from types import MappingProxyType
from typing import TYPE_CHECKING, cast

from olive_compass.core.actions import KeyAction, LeaveKeyless
from olive_compass.core.findings.finding import Finding, View
from olive_compass.core.severities import SEVERITIES, Setting
from olive_compass.modules import module_names
from olive_compass.structs import replace

if TYPE_CHECKING:
    from olive_compass.core.findings.finding import Finder

__all__ = ["Finding", "View", "all_findings", "kinds"]

#: What stands in the folder and is no finding.
_OTHERS = ("finding", "advice")


@cache
def kinds() -> "dict[str, Finder]":
    """The modules of all findings, by id."""
    return _always() | _of("macros") | _of("trays") | _of("usage")


@cache
def _always() -> "dict[str, Finder]":
    return _modules(__name__, __path__)


@cache
def _of(what: str) -> "dict[str, Finder]":
    package = import_module(f"{__name__}.of_{what}")
    return _modules(package.__name__, package.__path__)


def _wanted(view: View) -> "dict[str, Finder]":
    """The modules to ask. Most applications have no macro and no tray: those are not even loaded then."""
    found = _always()
    if view.macros:
        found = found | _of("macros")
    if view.app.trays or view.app.vias:
        found = found | _of("trays")
    if view.usage.tally:
        found = found | _of("usage")
    return found


def _modules(package: str, path: Iterable[str]) -> "dict[str, Finder]":
    names = [name for name in module_names(path) if name not in _OTHERS]
    modules = [cast("Finder", import_module(f"{package}.{name}")) for name in names]
    return {module.ID: module for module in modules}


def all_findings(
    view: View, severities: Mapping[str, Setting] = MappingProxyType({})
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
    guards = view.stack.has_guards
    found = []
    for module in _wanted(view).values():
        wanted = severities.get(module.ID)
        if wanted == "off":
            continue
        for finding in module.find(view):
            if wanted and finding.severity == module.SEVERITY:
                finding = replace(finding, severity=wanted)
            if finding.subject in accepted:
                finding = replace(finding, accepted=accepted[finding.subject])
            found.append(_where_guards_let(view, finding) if guards else finding)
    yield from sorted(found, key=lambda f: (SEVERITIES.index(f.severity), f.id, f.order))


def _where_guards_let(view: View, finding: Finding) -> Finding:
    """The finding with an advice that no guard stops: what a guard keeps is meant, and can be accepted."""
    from olive_compass.core.findings.advice import accepting, kept_by_guard

    edits = [each for each in (finding.advice, *finding.instead) if isinstance(each, KeyAction)]
    if not edits:
        return finding
    own = ""
    if finding.id == "guarded-key" and finding.places:
        own = finding.places[-1].scheme
    wide = any(isinstance(each, LeaveKeyless) for each in edits)
    why = kept_by_guard(view, finding.keys, finding.commands, own, wide)
    if not why:
        return finding
    about = finding.subject.removeprefix(finding.id).strip()
    return replace(
        finding,
        says=f"{finding.says.removesuffix('.')} ({why}).",
        advice=accepting(view, finding.id, about, why),
        instead=(),
        fix=None,
    )
