"""``keyset``: one set of keys for every application, learnt, applied and watched."""

import argparse

from olive_compass.cli.changing.saving import retry_on_conflict
from olive_compass.cli.completion import app_names, complete_with, keyset_names, purpose_ids
from olive_compass.cli.options import (
    Verbs,
    dry_run_option,
    json_option,
    keys_as_option,
    yes_option,
)
from olive_compass.cli.registry import verb
from olive_compass.cli.surroundings import Surroundings

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

_VERBS = {
    "list": ("keysets", "list_sets"),
    "new": ("keysets", "new_set"),
    "set": ("keysets", "set_key"),
    "clear": ("keysets", "clear_key"),
    "show": ("keyset_tables", "show_set"),
    "learn": ("learning", "learn_set"),
    "apply": ("applying", "apply_set"),
    "drift": ("drifting", "drift"),
}


def add_arguments(parser: argparse.ArgumentParser) -> None:
    verbs = parser.add_subparsers(dest="verb", metavar="VERB", required=True)
    json_option(verbs.add_parser("list", help="list the key sets on this desk"))
    new = _named(verbs, "new", "create an empty key set", existing=False)
    new.add_argument("--title", metavar="TEXT", help="its title")
    dry_run_option(new)
    json_option(new)
    put = _named(verbs, "set", "set the keys of a purpose, the preferred one first")
    _purpose(put)
    put.add_argument(
        "keys", nargs="+", metavar="KEY", help="the preferred key, then others to fall back on"
    )
    put.add_argument("--why", default="", metavar="TEXT", help="the reason")
    dry_run_option(put)
    json_option(put)
    clear = _named(verbs, "clear", "remove a purpose from the set")
    _purpose(clear)
    dry_run_option(clear)
    json_option(clear)
    show = _only(
        verbs, "show", "show a key set: a row for each purpose, a column for each application"
    )
    _apps(show, "--app")
    show.add_argument(
        "--differ", action="store_true", help="only purposes that differ in some application"
    )
    show.add_argument("--limit", type=int, metavar="N", help="at most N purposes")
    keys_as_option(show)
    json_option(show)
    learn = _named(
        verbs, "learn", "create a key set from what most applications agree on", existing=False
    )
    _apps(learn, "--app")
    learn.add_argument("--title", metavar="TEXT", help="its title")
    learn.add_argument(
        "--find-purposes",
        action="store_true",
        help="first find commands that do the same job, and link the certain ones",
    )
    dry_run_option(learn)
    json_option(learn)
    apply = _only(verbs, "apply", "apply the set to all applications, within the rules of each")
    _apps(apply, "--app")
    apply.add_argument(
        "--scheme",
        metavar="NAME",
        help="write to schemes of this name (default: the personal ones)",
    )
    apply.add_argument(
        "--all",
        action="store_true",
        help="also show keys that are set already, and purposes without a command",
    )
    yes_option(apply)
    dry_run_option(apply)
    json_option(apply)
    json_option(
        _only(verbs, "drift", "show what has moved away from the set, where and since when")
    )


def _named(verbs: Verbs, name: str, does: str, existing: bool = True) -> argparse.ArgumentParser:
    parser: argparse.ArgumentParser = verbs.add_parser(name, help=does)
    argument = parser.add_argument("name", metavar="SET")
    if existing:
        complete_with(argument, keyset_names)
    return parser


def _only(verbs: Verbs, name: str, does: str) -> argparse.ArgumentParser:
    """A verb whose set need not be named where the desk has one only."""
    parser: argparse.ArgumentParser = verbs.add_parser(name, help=does)
    argument = parser.add_argument(
        "name", nargs="?", metavar="SET", help="the key set (default: the only one)"
    )
    complete_with(argument, keyset_names)
    return parser


def _purpose(parser: argparse.ArgumentParser) -> None:
    argument = parser.add_argument("purpose", metavar="PURPOSE")
    complete_with(argument, purpose_ids)


def _apps(parser: argparse.ArgumentParser, option: str) -> None:
    argument = parser.add_argument(
        option, dest="apps", nargs="+", metavar="APP", help="only these applications"
    )
    complete_with(argument, app_names)


def run(args: argparse.Namespace, context: Surroundings) -> int:
    module, function = _VERBS[args.verb]
    work = verb(f"sharing.{module}", function)
    return retry_on_conflict(lambda: work(args, context), context)
