"""The properties of the one judge on many random desks.

Usage: python -m benchmarks.one_judge [EXAMPLES] [SEED]

Holds each property of ``tests/core/test_one_judge.py`` against EXAMPLES (10,000) random desks, and
follows every advice of ``check`` on a twentieth as many. Exits 1 where one does not hold.
"""

import sys
import time

from hypothesis import HealthCheck, Phase, given, seed, settings
from hypothesis import strategies as st

from tests.cli.test_advice import follow_every_advice
from tests.core import test_one_judge as judge
from tests.core.worlds import COMMANDS, NAMES, some_modes, triggers, views

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
