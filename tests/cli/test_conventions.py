"""The reference holds: what is generated is up to date, and a field means one thing."""

import runpy
from pathlib import Path

from tests.cli.conventions import table

#: What names one of our things is one text (or null: there is none), and a place is a file and a line.
ALWAYS = {
    "app": {"text", "null"},
    "command": {"text", "null"},
    "title": {"text", "null"},
    "key": {"text", "null"},
    "mode": {"text", "null"},
    "modes": {"list"},
    "layer": {"text"},
    "scheme": {"text", "null"},
    "file": {"text", "null"},
    "line": {"number"},
}


def test_the_reference_is_as_the_program_has_it() -> None:
    root = Path(__file__).parents[2]
    pages = runpy.run_path(str(root / "tools" / "write_reference.py"))["pages"]()
    for name, text in pages.items():
        assert (root / "docs" / name).read_text(encoding="utf-8") == text, (
            "run python tools/write_reference.py"
        )


def test_the_names_of_our_things_are_always_the_same_kind_of_value() -> None:
    page = table("Fields of the JSON")
    assert {name: kinds for name, kinds in page.items() if name in ALWAYS} == ALWAYS
