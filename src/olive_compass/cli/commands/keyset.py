"""``keyset``: one set of keys for every application, learnt, applied and watched."""

import argparse

from olive_compass.cli.options import (
    json_option,
    keys_as_option,
    limit_option,
    reason_option,
    write_options,
    yes_option,
)
from olive_compass.cli.verbs import Verb

GROUP = "share"
ORDER = 20
SUMMARY = "Define one set of keys for all applications, and apply it"
EXAMPLES = """olive-compass keyset learn studio --app quillmap tagwright
olive-compass keyset learn evening --find-purposes
olive-compass keyset show larkspur
olive-compass keyset show larkspur --differ
olive-compass keyset set larkspur zoom-all Home Main+0 --why "Home is where all is seen"
olive-compass keyset clear larkspur zoom-all
olive-compass keyset apply larkspur --dry-run
olive-compass keyset apply larkspur --scheme mine --yes
olive-compass keyset drift larkspur
olive-compass keyset new night --title "Keys for the night shift"
olive-compass keyset list"""


def _new(parser: argparse.ArgumentParser) -> None:
    _name(parser)
    _title(parser)
    write_options(parser)


def _set(parser: argparse.ArgumentParser) -> None:
    _name(parser)
    _purpose(parser)
    parser.add_argument(
        "keys", nargs="+", metavar="KEY", help="the preferred key, then others to fall back on"
    )
    reason_option(parser, "the reason")
    write_options(parser)


def _clear(parser: argparse.ArgumentParser) -> None:
    _name(parser)
    _purpose(parser)
    write_options(parser)


def _show(parser: argparse.ArgumentParser) -> None:
    _only_name(parser)
    _apps(parser)
    parser.add_argument(
        "--differ", action="store_true", help="only purposes that differ in some application"
    )
    limit_option(parser, "at most N purposes")
    keys_as_option(parser)
    json_option(parser)


def _learn(parser: argparse.ArgumentParser) -> None:
    _name(parser)
    _apps(parser)
    _title(parser)
    parser.add_argument(
        "--find-purposes",
        action="store_true",
        help="first find commands that do the same job, and link the certain ones",
    )
    write_options(parser)


def _apply(parser: argparse.ArgumentParser) -> None:
    _only_name(parser)
    _apps(parser)
    parser.add_argument(
        "--scheme",
        metavar="SCHEME",
        help="write to schemes of this name (default: the personal ones)",
    )
    parser.add_argument(
        "--all",
        action="store_true",
        help="also show keys that are set already, and purposes without a command",
    )
    yes_option(parser)
    write_options(parser)


def _drift(parser: argparse.ArgumentParser) -> None:
    _only_name(parser)
    json_option(parser)


def _name(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("name", metavar="SET")


def _title(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--title", metavar="TEXT", help="its title")


def _only_name(parser: argparse.ArgumentParser) -> None:
    """A set that need not be named where the desk has one only."""
    parser.add_argument(
        "name", nargs="?", metavar="SET", help="the key set (default: the only one)"
    )


def _purpose(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("purpose", metavar="PURPOSE")


def _apps(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "--app", dest="apps", nargs="+", metavar="APP", help="only these applications"
    )


VERBS = (
    Verb(
        name="list",
        help="list the key sets on this desk",
        options=json_option,
        work="sharing.keysets.list_sets",
    ),
    Verb(name="new", help="create an empty key set", options=_new, work="sharing.keysets.new_set"),
    Verb(
        name="set",
        help="set the keys of a purpose, the preferred one first",
        options=_set,
        work="sharing.keysets.set_key",
    ),
    Verb(
        name="clear",
        help="remove a purpose from the set",
        options=_clear,
        work="sharing.keysets.clear_key",
    ),
    Verb(
        name="show",
        help="show a key set: a row for each purpose, a column for each application",
        options=_show,
        work="sharing.keyset_tables.show_set",
    ),
    Verb(
        name="learn",
        help="create a key set from what most applications agree on",
        options=_learn,
        work="sharing.learning.learn_set",
    ),
    Verb(
        name="apply",
        help="apply the set to all applications, within the rules of each",
        options=_apply,
        work="sharing.applying.apply_set",
    ),
    Verb(
        name="drift",
        help="show what has moved away from the set, where and since when",
        options=_drift,
        work="sharing.drifting.drift",
    ),
)
