"""Logs of whatever programs wrote: what is taken can be read back, and what cannot is named."""

import json
from datetime import datetime
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.conftest import Ask, answer_in, ask_in

AFTERWARDS = (
    "check",
    "usage quillmap",
    "savings quillmap",
    "suggest quillmap Marsh",
    "usage --trend",
)


def taken(ask: Ask, desk: Path, times: list[str], *more: str) -> tuple[int, str]:
    rows = "".join(f'Wreck;"{time}"\n' for time in times)
    (desk / "list.csv").write_text(f"Command;Time\n{rows}")
    answer = ask("usage", "take", "list.csv", "--app", "quillmap", *more)
    return answer.status, answer.out + answer.err


def days(ask: Ask) -> tuple[str, str]:
    (used,) = ask("usage", "quillmap", "--json").json["commands"]
    return used["first"][:10], used["last"][:10]


@pytest.mark.parametrize(
    ("times", "first", "last"),
    [
        (["02.11.2026 09:00", "03.11.2026 10:00"], "2026-11-02", "2026-11-03"),
        (["2026/11/02", "2026/11/03"], "2026-11-02", "2026-11-03"),
        (["11/02/2026", "11/13/2026 1:00 PM"], "2026-11-02", "2026-11-13"),
        (["02/11/2026", "13/11/2026"], "2026-11-02", "2026-11-13"),
        (["1793610000", "1793610001.5"], "2026-11-02", "2026-11-02"),
        (["1793610000000"], "2026-11-02", "2026-11-02"),
        (["2 Nov 2026 09:00", "Nov 3, 2026"], "2026-11-02", "2026-11-03"),
        (["2026-11-02T09:00:00.123Z", "20261102T0901"], "2026-11-02", "2026-11-02"),
    ],
)
def test_times_are_read_as_they_were_meant(
    times: list[str], first: str, last: str, ask: Ask, desk: Path
) -> None:
    assert taken(ask, desk, times)[0] == 0
    assert days(ask) == (first, last)
    # Weeks are counted by days.
    assert ask("usage", "--trend").status == 0


def test_what_is_no_time_or_may_be_two_is_refused_by_line(ask: Ask, desk: Path) -> None:
    status, said = taken(ask, desk, ["03/04/2026", "05/06/2026"])
    assert (status, "list.csv:2" in said, "--dates day-first" in said) == (2, True, True)
    assert taken(ask, desk, ["03/04/2026"], "--dates", "month-first")[0] == 0
    assert days(ask)[0] == "2026-03-04"
    ask("undo")
    status, said = taken(ask, desk, ["09:00", "10:00"])
    assert (status, "“09:00” says no day" in said) == (2, True)
    status, said = taken(ask, desk, ["2026-11-02T09:00", "soon", "1762-01-01"])
    assert (status, "2 lines are no events and were passed over; line 3" in said) == (0, True)


def test_what_is_too_long_or_too_much_is_named(ask: Ask, desk: Path) -> None:
    def take(text: str, name: str) -> tuple[int, str]:
        (desk / name).write_text(text)
        answer = ask("usage", "take", name, "--app", "quillmap")
        return answer.status, answer.out + answer.err

    head = '{"format": "olive-compass-log/1", "app": "quillmap"}\n'
    event = {"time": "2026-11-02T09:00:00", "app": "quillmap", "command": "point.wreck"}
    long = json.dumps(event | {"command": "x" * 30_000})
    wrong = json.dumps(event | {"time": "02.11.2026"})
    status, said = take(f"{head}{json.dumps(event)}\n{long}\n{wrong}\n", "own.jsonl")
    assert (status, "2 lines are no events" in said, "line 3: a field is too long" in said) == (
        0,
        True,
        True,
    )
    for times in ("9" * 4_500, "9" * 4_000, "²", "-1", "100001"):
        status, said = take(f"Command;Times a week\nWreck;{times}\n", "list.csv")
        assert (status, "list.csv:2" in said) == (2, True), times


@pytest.mark.parametrize(
    "line",
    [
        "a,s,02.11.2026,quillmap,,point.wreck,menu,,,1,0,,",
        "a,s,1762-11-02,quillmap,,point.wreck,menu,,,1,0,,",
        f"a,s,2026-11-02,quillmap,,{'x' * 30_000},menu,,,1,0,,",
        f"a,s,2026-11-02,quillmap,,point.wreck,menu,,,{'9' * 5_000},0,,",
        "a,s,2026-11-02,quillmap,,point.wreck,menu,,,1,2,,",
        "a,s,2026-11-02,quillmap,,point.wreck,menu,,,1,0,soon,",
        "a,s,2026-11-02",
    ],
)
def test_a_line_of_a_tally_that_is_none_is_named_and_left_out(
    line: str, ask: Ask, desk: Path
) -> None:
    log = "logs/quillmap-2026-10-12.jsonl"
    assert ask("usage", "take", log).status == 0
    counted = ask("usage", "quillmap", "--json").json
    (path,) = (desk / "tallies").glob("*.csv")
    whole = path.read_text()
    path.write_text(whole + line + "\n")
    number = whole.count("\n") + 1
    # Every command reads them by the same reader.
    for words in AFTERWARDS if line.endswith("soon,") else AFTERWARDS[:1]:
        answer = ask(*words.split())
        assert answer.status in (0, 1), answer.err
        place = f"tallies/{path.name}:{number}" if len(line) < 20_000 else f"tallies/{path.name}"
        assert place in answer.err, words
    if len(line) < 20_000:
        assert ask("usage", "quillmap", "--json").json == counted
    # It is not lost either: who would write the file anew is told first.
    refused = ask("usage", "take", "logs/quillmap-2026-10-19.jsonl", log, "--seat", "other")
    assert refused.status in (0, 2)
    assert path.read_text() == whole + line + "\n"
    # And no bundle brings it in.
    assert ask("pack", "desk.zip", "--with", "tallies").status == 0
    path.unlink()
    brought = ask("unpack", "desk.zip", "--yes", "--if-taken", "keep")
    assert (brought.status, path.name in brought.err) == (2, True)


#: What programs and people write into a column of times.
written = st.one_of(
    st.datetimes(datetime(1990, 1, 1), datetime(2060, 1, 1)).flatmap(
        lambda time: st.sampled_from(
            [
                time.isoformat(),
                f"{time:%d.%m.%Y %H:%M}",
                f"{time:%m/%d/%Y}",
                f"{time:%d/%m/%y %I:%M %p}",
                f"{time:%Y/%m/%d %H:%M:%S}",
                f"{time:%d %B %Y}",
                f"{time.timestamp():.0f}",
                f"{time.timestamp() * 1000:.0f}",
                f"{time:%H:%M}",
            ]
        )
    ),
    st.text("0123456789/.-: TZapm", max_size=20),
    st.text(max_size=8).filter(lambda text: not set('"\r\n\0') & set(text)),
)


@given(st.lists(written, min_size=1, max_size=6), st.sampled_from(["", "Key;F9"]))
@settings(suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_whatever_is_taken_can_be_read_back(desk: Path, times: list[str], extra: str) -> None:
    def ask(*words: str):  # type: ignore[no-untyped-def]
        return ask_in(desk, *words)

    status, said = taken(ask, desk, times)
    assert status in (0, 2), said
    if status == 2:
        return
    for words in ("check quillmap", "usage quillmap", "savings quillmap"):
        answer = ask(*words.split())
        assert answer.status in (0, 1), answer.err
        assert "left out" not in answer.err
    assert ask("undo").status == 0


def test_a_log_that_lost_its_beginning_or_grew_counts_once(ask: Ask, desk: Path) -> None:
    log = desk / "logs/quillmap-2026-10-12.jsonl"
    lines = log.read_text().splitlines(keepends=True)
    (desk / "logs/start.jsonl").write_text("".join(lines[: len(lines) // 2]))
    assert ask("usage", "take", "logs/start.jsonl").status == 0
    grown = ask("usage", "take", "logs/quillmap-2026-10-12.jsonl")
    assert "had been counted before; " in grown.out
    whole = ask("usage", "quillmap", "--json").json["commands"]
    (desk / "logs/cut.jsonl").write_text("".join(lines[9:]))
    (desk / "logs/copy.jsonl").write_text("".join(lines))
    again = ask("usage", "take", "logs/cut.jsonl", "logs/copy.jsonl", "--app", "quillmap")
    assert "counted 0 events of 0 logs" in again.out
    assert again.out.count("had been counted before.") == 2
    assert ask("usage", "quillmap", "--json").json["commands"] == whole


def test_at_a_terminal_it_is_asked_whether_the_day_comes_first(ask: Ask, desk: Path) -> None:
    (desk / "list.csv").write_text("Command;Time\nWreck;03/04/2026\n")
    for answer, day in (("y", "2026-04-03"), ("n", "2026-03-04")):
        words = ("usage", "take", "list.csv", "--app", "quillmap")
        status, shown = answer_in(desk, [answer], *words)
        assert status == 0, shown
        assert "list.csv:2: “03/04/2026”" in shown
        assert days(ask)[0] == day
        assert ask("undo").status == 0
