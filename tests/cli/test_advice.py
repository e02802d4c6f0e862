"""An advice that the program gives works when it is followed to the letter."""

import csv
import io
import shlex
import shutil
import tempfile
from pathlib import Path
from typing import Any

from hypothesis import Phase, given, settings

from olive_compass.core.changes.view import AppView
from tests.cli.desks import lay_out
from tests.conftest import Ask, ask_in
from tests.core.test_one_judge import FEW
from tests.core.worlds import views

#: What can be mended only in the file, and says so.
BY_HAND = ("unreadable-key", "unreadable-inputs")


@given(views())
@settings(
    FEW,
    # Nearly the same desks each time (what is drawn depends on the modules that are loaded):
    # benchmarks/one_judge.py looks at ever new ones.
    derandomize=True,
    database=None,
    phases=[Phase.explicit, Phase.generate],
)
def test_the_fix_that_a_finding_proposes_removes_it(view: AppView) -> None:
    follow_every_advice(view)


def follow_every_advice(view: AppView, most: int = 6) -> None:
    """Runs each piece of advice of ``check`` on a copy of the desk: the finding is gone, no other has come, and
    no guard was in the way."""
    with tempfile.TemporaryDirectory() as name:
        desk = Path(name) / "desk"
        lay_out(desk, view)
        checked = ask_in(desk, "check", "--json")
        assert checked.status in (0, 1), checked.err
        found = checked.json["findings"]
        there = {_place(each) for each in found}
        keyed = {(each["id"], key) for each in found for key in each["keys"]}
        for n, finding in enumerate(found[:most]):
            if finding["id"] in BY_HAND:
                continue
            for line in (finding["to-do"], *finding["or"]):
                copy = Path(name) / f"copy{n}"
                shutil.copytree(desk, copy)
                program, *words = shlex.split(line)
                assert program == "olive-compass"
                answer = ask_in(copy, *words)
                assert answer.status == 0, (finding, line, answer.out + answer.err)
                left = ask_in(copy, "check", "--json").json["findings"]
                same = [f for f in left if _same(f, finding) and f["accepted"] is None]
                assert same == [], (line, finding["says"], [f["says"] for f in same])
                new = [
                    f
                    for f in left
                    if f["severity"] != "note"
                    and _place(f) not in there
                    # The same complaint of the same key, told of whoever has it now, is no other finding;
                    # and what lay below the key, laid keyless, was there before.
                    and not any((f["id"], key) in keyed for key in f["keys"])
                    and not (
                        ({*f["keys"][:1]} & {*finding["keys"]} or words[0] == "keyless")
                        and f["commands"][:1] != finding["commands"][:1]
                    )
                ]
                assert new == [], (line, finding["says"], [f["says"] for f in new])
                shutil.rmtree(copy)


def _place(finding: Any) -> tuple[str, ...]:
    """What a finding is about: told in other words it is no other finding."""
    return finding["id"], *finding["commands"][:1], *finding["keys"][:1]


def _same(one: dict[str, object], other: dict[str, object]) -> bool:
    return all(one[part] == other[part] for part in ("id", "says", "places"))


def test_findings_are_passed_on_in_every_form(ask: Ask, desk: Path) -> None:
    """As a table for people, and as programs read them; into a file, too."""
    listed = ask("check", "--json").json["findings"]
    worse = [each for each in listed if each["severity"] != "note"]
    rows = list(csv.DictReader(io.StringIO(ask("check", "--as", "csv").out)))
    assert [(row["finding"], row["what"]) for row in rows] == [(f["id"], f["says"]) for f in worse]
    assert all(row["to do"].startswith("olive-compass ") for row in rows)
    assert rows[0]["where"].startswith(worse[0]["places"][0]["file"])
    whole = list(csv.DictReader(io.StringIO(ask("check", "--notes", "--as", "csv").out)))
    assert len(whole) == len(listed)
    assert ask("check", "--out", "findings.html").out == "Written: findings.html.\n"
    assert "To list them: --notes" in (desk / "findings.html").read_text()
    ask("check", "--as", "sarif", "--out", "check.sarif")
    assert (desk / "check.sarif").read_text() == ask("check", "--as", "sarif").out
    for words, says in (
        (("--watch", "--out", "x.csv"), "--watch is for the terminal"),
        (("--fix", "--out", "x.json"), "--fix cannot be used with --out"),
        (("--as", "pdf"), "This goes into a file"),
    ):
        refused = ask("check", *words)
        assert (refused.status, refused.out) == (2, "")
        assert says in refused.err
