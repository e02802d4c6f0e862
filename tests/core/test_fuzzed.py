"""Whatever a file holds, its reader reads it or refuses it with a sentence."""

import random

import pytest
from hypothesis import settings

from tests.core.fuzzing import Reader, broken, readers, stands


@pytest.mark.parametrize("reader", readers(), ids=lambda reader: reader.name)
def test_a_broken_file_is_read_or_refused(reader: Reader) -> None:
    for seed in reader.seeds:
        assert stands(reader, seed) == ""
    draw = random.Random(reader.name)
    # In the long run more than on every day, as of every property.
    for n in range(4 * settings().max_examples):
        data = broken(draw, reader.seeds)
        assert stands(reader, data) == "", (n, data[:200])
