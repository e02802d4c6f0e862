"""docs/conventions.md holds: one meaning for each option and each field, and what each takes."""

import pytest

from olive_compass.cli.parsing import command_parser
from olive_compass.cli.registry import command_module, command_names
from tests.cli.conventions import options, table

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


@pytest.mark.parametrize("name", sorted(command_names()))
def test_every_option_is_in_the_table_and_takes_what_it_says(name: str) -> None:
    page = table("Options")
    for whose, option, takes in options(name, command_parser(name, command_module(name))):
        assert option in page, f"{whose} {option}"
        assert {each.replace("|", "/") for each in takes} <= page[option], f"{whose} {option}"


def test_the_table_has_no_option_that_nothing_takes() -> None:
    taken = {
        (option, each.replace("|", "/"))
        for name in command_names()
        for _, option, takes in options(name, command_parser(name, command_module(name)))
        for each in takes
    }
    listed = {(option, each) for option, takes in table("Options").items() for each in takes}
    assert listed == taken


def test_the_names_of_our_things_are_always_the_same_kind_of_value() -> None:
    page = table("Fields of the JSON")
    assert {name: kinds for name, kinds in page.items() if name in ALWAYS} == ALWAYS
