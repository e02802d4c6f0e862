"""The properties of the one judge on many random desks.

Usage: python -m benchmarks.one_judge [EXAMPLES] [SEED]

Holds each property of ``tests/core/test_one_judge.py``, of plans and of merged files against EXAMPLES (10,000)
random desks, the laws of deliveries against a tenth as many files of each kind, and those that run commands on desks
of files, every advice of ``check`` among them, against a twentieth as many. Exits 1 where one does not hold.
"""

import atexit
import shutil
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from hypothesis import HealthCheck, Phase, given, seed, settings
from hypothesis import strategies as st

from tests.cli import test_meant as meant
from tests.cli import test_shortcuts_files as shortcuts
from tests.cli.test_advice import follow_every_advice
from tests.core import test_merged_files as merged
from tests.core import test_one_judge as judge
from tests.core import test_plans as plans
from tests.core.worlds import COMMANDS, NAMES, some_modes, triggers, views


def with_desk(test: Callable[..., None]) -> Callable[..., None]:
    """A property that runs commands on a desk, with a desk of its own to run them on."""
    inner = test.hypothesis.inner_test  # type: ignore[attr-defined]
    folder = tempfile.mkdtemp()
    desk = meant.new_mini(Path(folder))
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    return lambda *values: inner(desk, *values)


PROPERTIES = {
    "what is offered is taken without a word": (
        judge.test_what_is_offered_is_taken_without_a_word,
        (views(), st.sampled_from(COMMANDS)),
        1,
    ),
    "a key that is shown free does nothing": (
        judge.test_a_key_that_is_shown_free_does_nothing,
        (views(), st.sampled_from(NAMES)),
        1,
    ),
    "a line of a sheet is true": (
        judge.test_a_line_of_a_sheet_is_true,
        (views(), st.sampled_from([None, *NAMES])),
        1,
    ),
    "whatever check finds, assign said": (
        judge.test_whatever_check_finds_assign_said,
        (views(), st.sampled_from(COMMANDS), triggers, some_modes),
        1,
    ),
    "a comparison is empty exactly where every press does the same": (
        judge.test_a_comparison_is_empty_exactly_where_every_press_does_the_same,
        (views(), views()),
        1,
    ),
    "what is not there starts nothing": (
        judge.test_what_is_not_there_starts_nothing,
        (views(), st.sampled_from(COMMANDS)),
        1,
    ),
    "hands and file end where press says": (
        judge.test_hands_and_file_end_where_press_says,
        (views(),),
        1,
    ),
    "a promise is kept": (plans.test_a_promise_is_kept, (views(), plans.counts, st.booleans()), 1),
    "nothing that assign takes is below the bound": (
        plans.test_nothing_that_assign_takes_is_below_the_bound,
        (views(), plans.some_demands),
        1,
    ),
    "what is shown can be counted again": (
        plans.test_what_is_shown_can_be_counted_again,
        (views(), plans.some_events),
        1,
    ),
    "a row is settled as a whole": (
        merged.test_what_one_side_takes_out_and_the_other_changes_is_settled_as_a_whole,
        (merged.deeds, merged.deeds),
        1,
    ),
    "a decision is settled as a whole": (
        merged.test_a_decision_is_settled_as_a_whole,
        (merged.deeds, merged.deeds, merged.some_rows, merged.some_rows),
        1,
    ),
    "a key of a command is cleared and nothing else": (
        with_desk(meant.test_a_key_of_a_command_is_cleared_and_nothing_else),
        (meant.some_keys_of_words, st.data()),
        20,
    ),
    "the same listing twice changes nothing": (
        with_desk(meant.test_the_same_listing_twice_changes_nothing),
        (meant.LISTED, st.sampled_from(["csv", "tsv", "md"]), st.booleans()),
        20,
    ),
    **{
        f"a delivery into a file of {name} holds its laws": (
            shortcuts.test_the_laws_hold_on_random_files,
            (shortcuts.random_files(kind),),
            10,
        )
        for name, kind in shortcuts.KINDS.items()
    },
    "the fix that a finding proposes removes it": (follow_every_advice, (views(),), 20),
}


def main() -> int:
    examples = int(sys.argv[1]) if len(sys.argv) > 1 else 10_000
    number = int(sys.argv[2]) if len(sys.argv) > 2 else 1
    failed = 0
    for name, (test, strategies, part) in PROPERTIES.items():
        inner = getattr(getattr(test, "hypothesis", None), "inner_test", test)
        count = max(1, examples // part)

        def held(values: tuple[object, ...]) -> None:
            inner(*values)  # noqa: B023 (it is run before the loop goes on)

        wanted = settings(
            max_examples=count,
            phases=[Phase.generate],
            deadline=None,
            database=None,
            suppress_health_check=list(HealthCheck),
        )
        begun = time.perf_counter()
        try:
            seed(number)(wanted(given(st.tuples(*strategies))(held)))()
        except Exception as error:
            failed += 1
            print(f"does not hold: {name}: {str(error)[:600]}", flush=True)
        else:
            seconds = time.perf_counter() - begun
            print(f"holds on {count} desks: {name} ({seconds:.0f} s)", flush=True)
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
