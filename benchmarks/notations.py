"""Reads 10,000 random texts in every notation, and writes and reads as many random triggers.

Usage: python -m benchmarks.notations      (from the repository's root, test extras installed)
"""

from hypothesis import HealthCheck, settings

from tests.core import test_keyboards, test_triggers

PROPERTIES = (
    test_triggers.test_what_is_written_is_read_again,
    test_triggers.test_any_text_is_read_or_refused_with_its_place,
    test_triggers.test_a_cell_that_we_write_reads_back,
    test_keyboards.test_each_notation_reads_back,
    test_keyboards.test_no_text_breaks_a_notation,
    test_keyboards.test_every_run_has_a_press_on_every_keyboard,
)


def main() -> int:
    for property_ in PROPERTIES:
        many = settings(max_examples=10_000, deadline=None, suppress_health_check=list(HealthCheck))
        many(property_)()
        print(f"{property_.__name__}: 10,000 examples hold")
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
