"""Writes docs/findings.md from the findings themselves.

Usage: python tools/write_findings_page.py
"""

from pathlib import Path

from olive_compass.core.findings import SEVERITIES, kinds

PAGE = Path(__file__).parents[1] / "docs" / "findings.md"

HEAD = """# What `check` finds

Each finding has an id, a severity, the place in a file, a sentence on what is wrong, and what to
do. The same texts are shown by `olive-compass explain ID`. This page is written by
`python tools/write_findings_page.py`.
"""


def main() -> None:
    modules = sorted(kinds().values(), key=lambda m: (SEVERITIES.index(m.SEVERITY), m.ID))
    parts = [HEAD]
    for module in modules:
        parts.append(
            f"## {module.ID}\n\nSeverity: {module.SEVERITY}.\n\n{module.SAYS}\n\n{module.ADVICE}\n"
        )
    PAGE.write_text("\n".join(parts), encoding="utf-8")


if __name__ == "__main__":
    main()
