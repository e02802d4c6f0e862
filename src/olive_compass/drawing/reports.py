"""The findings of a check as SARIF 2.1.0 and as JUnit XML."""

from collections.abc import Mapping, Sequence
from typing import Any
from xml.sax.saxutils import escape, quoteattr

from olive_compass import __version__
from olive_compass.core.findings import kinds
from olive_compass.desk.reported.finding import FindingReport
from olive_compass.desk.source_lines import FilePlace
from olive_compass.desk.texts import json_text

_LEVELS = {"error": "error", "warning": "warning", "note": "note"}


def as_sarif(findings: Sequence[FindingReport], helps: Mapping[str, str]) -> str:
    """A SARIF 2.1.0 log (OASIS Standard) of findings; ``helps`` is the general advice of each kind, by id."""
    rules = [
        {
            "id": module.ID,
            "shortDescription": {"text": module.SAYS},
            "help": {"text": helps[module.ID]},
            "defaultConfiguration": {"level": _LEVELS[module.SEVERITY]},
        }
        for module in _modules()
    ]
    index = {rule["id"]: n for n, rule in enumerate(rules)}
    results = []
    for finding in findings:
        result: dict[str, Any] = {
            "ruleId": finding.id,
            "ruleIndex": index[finding.id],
            "level": _LEVELS[finding.severity],
            "message": {"text": f"{finding.says} To do: {finding.to_do}"},
            "locations": [_location(place) for place in finding.places[:1]],
            "relatedLocations": [_location(place) for place in finding.places[1:]],
        }
        if finding.is_accepted:
            result["suppressions"] = [{"kind": "inSource", "justification": finding.accepted}]
        results.append(result)
    driver = {"name": "olive-compass", "version": __version__, "rules": rules}
    log = {
        "$schema": "https://json.schemastore.org/sarif-2.1.0.json",
        "version": "2.1.0",
        "runs": [
            {"tool": {"driver": driver}, "columnKind": "unicodeCodePoints", "results": results}
        ],
    }
    return json_text.text(log, within_ascii=True)


def as_junit(findings: Sequence[FindingReport]) -> str:
    """JUnit XML: a suite an application, a case a finding; errors and warnings are failures."""
    apps: dict[str, list[FindingReport]] = {}
    for finding in findings:
        apps.setdefault(finding.app, []).append(finding)
    suites = []
    for app, each in apps.items():
        failures = sum(_fails(finding) for finding in each)
        cases = "".join(_case(finding) for finding in each)
        suites.append(
            f'<testsuite name={quoteattr(app)} tests="{len(each)}" failures="{failures}">\n{cases}'
            "</testsuite>\n"
        )
    return f'<?xml version="1.0" encoding="UTF-8"?>\n<testsuites>\n{"".join(suites)}</testsuites>\n'


def _modules() -> list[Any]:
    return [module for _, module in sorted(kinds().items())]


def _location(place: FilePlace) -> dict[str, Any]:
    physical: dict[str, Any] = {"artifactLocation": {"uri": place.file}}
    if place.line:
        physical["region"] = {"startLine": place.line}
    return {"physicalLocation": physical}


def _fails(finding: FindingReport) -> bool:
    return not finding.is_note and not finding.is_accepted


def _case(finding: FindingReport) -> str:
    subject = (*finding.commands, *finding.keys, "")[0]
    head = f"<testcase classname={quoteattr(finding.id)} name={quoteattr(_plain(subject))}"
    where = "; ".join(map(str, finding.places))
    text = escape(_plain(f"{finding.says} {where} To do: {finding.to_do}"))
    if _fails(finding):
        kind = quoteattr(finding.severity)
        return f"{head}>\n<failure type={kind}>{text}</failure>\n</testcase>\n"
    if finding.accepted is not None:
        return f"{head}>\n<skipped message={quoteattr(_plain(finding.accepted))}/>\n</testcase>\n"
    return f"{head}>\n<system-out>{text}</system-out>\n</testcase>\n"


def _plain(text: str) -> str:
    """Text without the characters that XML cannot hold."""
    return "".join(char if char.isprintable() else " " for char in text)
