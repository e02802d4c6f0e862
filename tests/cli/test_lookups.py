"""Look-ups that people try: patterns of keys, what a key does held, runs after a press, lists as CSV."""

import csv
import io
import json
from pathlib import Path

import pytest

from tests.conftest import Ask


def ids(ask: Ask, *words: str) -> set[str]:
    return {hit["command"] for hit in ask("find", *words, "--json").json["hits"]}


@pytest.mark.parametrize(
    ("asked", "means"),
    [
        ("Ctrl+*", lambda key: key.startswith("Ctrl+") and key.count("+") == 1 and " " not in key),
        ("*+C", lambda key: key.endswith("+C") and " " not in key),
        ("S *", lambda key: key.startswith("S ")),
    ],
)
def test_find_takes_patterns_of_keys(ask: Ask, asked: str, means: object) -> None:
    found = ask("find", "quillmap", "--key", asked, "--json").json["hits"]
    assert found
    assert all(any(means(key["key"]) for key in hit["keys"]) for hit in found)  # type: ignore[operator]
    every = ask("find", "quillmap", "--assigned", "--json").json["hits"]
    fitting = {
        hit["command"]
        for hit in every
        if any(means(key["key"]) for key in hit["keys"])  # type: ignore[operator]
    }
    assert fitting <= {hit["command"] for hit in found}


def test_find_by_kind_and_mark_in_groups(ask: Ask) -> None:
    marked = ask("find", "quillmap", "--mark", "often", "--by", "menu").out
    headings = [line for line in marked.splitlines() if line.endswith(")") and "  " not in line]
    assert len(headings) >= 2
    kinds = {hit["kind"] for hit in ask("find", "--kind", "macro", "--json").json["hits"]}
    assert kinds <= {"macro"}
    assert ids(ask, "quillmap", "--mark", "often") <= ids(ask, "quillmap")


def test_find_as_csv_is_a_table_and_nothing_else(ask: Ask) -> None:
    out = ask("find", "quillmap", "contour", "--as", "csv").out
    rows = list(csv.DictReader(io.StringIO(out)))
    assert {row["command"] for row in rows} == ids(ask, "quillmap", "contour")
    assert {row["app"] for row in rows} == {"Quillmap"}
    none = list(csv.reader(io.StringIO(ask("find", "zzzzqq", "--as", "csv").out)))
    assert len(none) == 1


def test_what_was_found_is_given_out_in_every_form(ask: Ask, desk: Path) -> None:
    from openpyxl import load_workbook

    said = ask("find", "quillmap", "--unassigned", "--out", "undecided.xlsx")
    assert (said.status, said.out) == (0, "Written: undecided.xlsx.\n")
    rows = [[cell.value for cell in row] for row in load_workbook(desk / "undecided.xlsx").active]
    hits = ask("find", "quillmap", "--unassigned", "--json").json["hits"]
    assert {row[-1] for row in rows} >= {hit["command"] for hit in hits}
    page = ask("find", "quillmap", "contur", "--as", "markdown").out
    assert page.startswith("# Commands spelt nearly like “contur”\n")
    assert ask("find", "contour", "--out", "found.json").status == 0
    assert json.loads((desk / "found.json").read_text())["total"] > 5
    assert ask("find", "zzzzqq", "--out", "none.csv").out == (
        "No command matches “zzzzqq”. Nothing was written.\n"
    )
    assert not (desk / "none.csv").exists()
    refused = ask("find", "contour", "--by", "menu", "--as", "markdown")
    assert (refused.status, refused.out) == (2, "")
    assert "--by is for text" in refused.err


def test_only_the_factory_is_the_application_as_it_came(ask: Ask) -> None:
    ask("assign", "quillmap", "Cairn", "Ctrl+Alt+1", "--mode", "draw")
    assert "Cairn" in ask("press", "quillmap", "Ctrl+Alt+1", "--mode", "draw").out
    came = ask("press", "quillmap", "Ctrl+Alt+1", "--mode", "draw", "--factory")
    assert "Cairn" not in came.out
    hits = ask("find", "quillmap", "--assigned", "--factory", "--json").json["hits"]
    layers = {key["layer"] for hit in hits for key in hit["keys"]}
    assert layers <= {"factory", "device", "access", "system"}
    # With a command named, the other applications are looked at too.
    free = ("free", "quillmap", "--for", "Ford", "--factory", "--limit", "400", "--json")
    assert "Ctrl+Alt+1" in {row["key"] for row in ask(*free).json["ranked"]}


def test_a_key_held_says_every_modifier(ask: Ask) -> None:
    held = ask("key", "C", "--held", "--json").json
    assert held["key"] == "C"
    assert len(held["held"]) >= 4
    assert "Ctrl+C" in ask("key", "C", "--held").out


def test_what_is_free_after_a_press(ask: Ask) -> None:
    after = ask("free", "quillmap", "--after", "S", "--json").json
    assert after["after"] == "S"
    taken = {row["key"] for row in after["taken"]}
    free = {row if isinstance(row, str) else row["key"] for row in after["free"]}
    assert taken
    assert free
    assert not taken & free


def test_a_key_that_two_layers_give_alike_is_said_once(ask: Ask) -> None:
    assert "S (factory)" in ask("find", "--app", "quillmap", "line.spline").out
    assert ask("assign", "quillmap", "line.spline", "S", "--why", "mine for good").status == 0
    said = ask("find", "--app", "quillmap", "line.spline").out
    assert "S (mine over factory)" in said
    assert said.count("S (") == 1
