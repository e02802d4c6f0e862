"""``purpose``: what people want, whatever each application calls it, and which command serves it."""

import argparse
from collections.abc import Sequence
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.completion import purpose_ids
from olive_compass.cli.keeping import Writing, keep, writing_of
from olive_compass.cli.parsing import app_argument, command_argument, dry_run_option, json_option
from olive_compass.cli.saving import until_saved
from olive_compass.cli.sharing.keysets import keyset_named
from olive_compass.cli.sharing.naming import purpose_named
from olive_compass.cli.surroundings import BOLD, DIM, OFF, Surroundings
from olive_compass.cli.tables import print_table
from olive_compass.core.apps.listing import slug
from olive_compass.core.sharing.guessing import Guess, guesses
from olive_compass.core.sharing.purposes import RISKS, Purpose, Purposes
from olive_compass.core.wording import counted
from olive_compass.desk import purposes_file
from olive_compass.desk.desk import Desk
from olive_compass.desk.records import FileChange
from olive_compass.errors import Refused
from olive_compass.structs import replace

GROUP = "share"
ORDER = 10
SUMMARY = "Say which command of each application serves which purpose"
EXAMPLES = """olive-compass purpose list
olive-compass purpose list --app quillmap --unlinked
olive-compass purpose guess tagwright
olive-compass purpose guess tagwright --above 0.9
olive-compass purpose link stop quillmap "Drop the line"
olive-compass purpose unlink stop quillmap
olive-compass purpose new "Measure a slope" --group measuring --name "Gradient"
olive-compass purpose rename stop "Stop what runs now"
olive-compass purpose remove stop --dry-run"""

#: From this score on --above takes a guess without being told a figure.
SURE = 0.8


def add_arguments(parser: argparse.ArgumentParser) -> None:
    verbs = parser.add_subparsers(
        dest="verb", metavar="list|guess|link|unlink|new|rename|remove", required=True
    )
    listing = verbs.add_parser("list", help="the purposes, and who serves them")
    listing.add_argument("words", nargs="*", metavar="WORDS", help="only these, by any name")
    listing.add_argument("--app", metavar="APP", help="only what this application serves")
    listing.add_argument("--unlinked", action="store_true", help="with --app: what it does not")
    json_option(listing)
    guess = verbs.add_parser("guess", help="propose links for an application")
    app_argument(guess)
    guess.add_argument(
        "--above", type=float, metavar="SCORE", help=f"take all from this score on (0 to 1; {SURE})"
    )
    dry_run_option(guess)
    json_option(guess)
    for name, does in (("link", "let a command serve a purpose"), ("unlink", "take it away")):
        verb = verbs.add_parser(name, help=does)
        purpose = verb.add_argument("purpose", metavar="PURPOSE")
        purpose.completer = purpose_ids  # type: ignore[attr-defined]
        app_argument(verb)
        if name == "link":
            command_argument(verb, "command", metavar="COMMAND")
            verb.add_argument("--beside", action="store_true", help="beside the one that serves it")
        dry_run_option(verb)
        json_option(verb)
    _own_arguments(verbs)


def _own_arguments(verbs: Any) -> None:
    """The verbs that make purposes, name them, and get rid of them."""
    new = verbs.add_parser("new", help="make a purpose that no list has")
    new.add_argument("title", metavar="TITLE", help="what a person wants, in words")
    new.add_argument("--group", default="", metavar="GROUP", help="where it stands in the list")
    new.add_argument(
        "--risk",
        choices=RISKS,
        default=RISKS[0],
        help=f"what a mistake costs (default: {RISKS[0]})",
    )
    rename = verbs.add_parser(
        "rename", help="give a purpose another title; the old one is a name of it"
    )
    remove = verbs.add_parser("remove", help="get rid of a purpose, with its links")
    for verb in (rename, remove):
        purpose = verb.add_argument("purpose", metavar="PURPOSE")
        purpose.completer = purpose_ids
    rename.add_argument("title", metavar="TITLE", help="its title from now on")
    for verb in (new, rename):
        verb.add_argument(
            "--name",
            dest="names",
            action="append",
            default=[],
            metavar="NAME",
            help="another name of it",
        )
    for verb in (new, rename, remove):
        dry_run_option(verb)
        json_option(verb)


def run(args: Any, around: Surroundings) -> int:
    verbs = {
        "list": _list,
        "guess": _guess,
        "link": _link,
        "unlink": _unlink,
        "new": _new,
        "rename": _rename,
        "remove": _remove,
    }
    return until_saved(lambda: verbs[args.verb](args, around), around)


def change_of(at: Desk, after: Purposes) -> FileChange:
    """The file change that writes ``after``."""
    has = purposes_file.exists(at.root)
    before = at.bytes(purposes_file.PURPOSES_FILE) if has else None
    return FileChange(purposes_file.PURPOSES_FILE, before, purposes_file.write(after))


def _list(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    purposes = purposes_file.load(at.root)
    apps = [at.app_name(args.app)] if args.app else at.app_names()
    shown = [p for p, _ in purposes.named(" ".join(args.words))] if args.words else purposes.all
    if args.app:
        shown = [p for p in shown if bool(p.commands(apps[0])) is not args.unlinked]
    if args.json:
        around.json({"purposes": [_as_json(each, apps) for each in shown]})
    elif not shown:
        around.say("No purpose fits.")
    else:
        _print(around, shown, purposes, apps)
    return 0 if shown else 1


def _as_json(purpose: Purpose, apps: list[str]) -> dict[str, Any]:
    """A purpose as JSON (docs/json.md)."""
    return {
        "purpose": purpose.id,
        "title": purpose.title,
        "group": purpose.group,
        "risk": purpose.risk,
        "names": list(purpose.names),
        "links": {a: list(purpose.commands(a)) for a in apps if purpose.commands(a)},
    }


def _print(
    around: Surroundings, shown: Sequence[Purpose], purposes: Purposes, apps: list[str]
) -> None:
    """The purposes by group, with the commands that serve them."""
    group = ""
    for purpose in shown:
        if purpose.group != group:
            group = purpose.group
            around.say(f"{BOLD}{group.capitalize()}{OFF}")
        links = ", ".join(
            f"{app}: {' '.join(purpose.commands(app))}" for app in apps if purpose.commands(app)
        )
        risk = f" [{purpose.risk}]" if purpose.risk != "harmless" else ""
        around.say(f"  {purpose.id:<18} {purpose.title}{risk} {DIM}{links}{OFF}".rstrip())
    parts = [f"{app} {sum(bool(p.commands(app)) for p in purposes.all)}" for app in apps]
    served = ", ".join(parts) or "no application yet"
    around.say(f"{counted(len(purposes.all), 'purpose')}; served by {served}.")


def _guess(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    app = at.app(at.app_name(args.app))
    purposes = purposes_file.load(at.root)
    others = [at.app(name) for name in at.app_names() if name != app.name]
    found = guesses(app, purposes, others)
    if args.json:
        around.json(
            {
                "guesses": [
                    {
                        "purpose": g.purpose.id,
                        "command": g.command.id,
                        "score": g.score,
                        "reasons": list(g.reasons),
                    }
                    for g in found
                ]
            }
        )
        return 0 if found else 1
    if not found:
        around.say(f"No command of {app.title} looks like a purpose that it does not serve yet.")
        return 1
    # In a script a guess is never taken unasked: the score has to be said.
    if args.above is None and around.interactive:
        chosen = _asked(around, found)
    else:
        least = SURE if args.above is None else args.above
        chosen = [guess for guess in found if guess.score >= least]
        rows = [
            (
                "+" if guess in chosen else "",
                f"{guess.score:.2f}",
                guess.purpose.id,
                guess.command.title,
                "; ".join(guess.reasons),
                guess.command.id,
            )
            for guess in found
        ]
        if not around.quiet:
            print_table(around, ("", "score", "purpose", "title", "reasons", "command"), rows)
        if args.above is None:
            around.say(f"To take those from {SURE} on (marked +): --above {SURE}")
            return 0
    after = purposes
    for guess in chosen:
        after = after.linked(guess.purpose.id, app.name, (guess.command.id,))
    what = f"{app.title}: {counted(len(chosen), 'command')} linked to purposes"
    return _save(writing_of(args), around, at, purposes, after, what)


def _asked(around: Surroundings, found: list[Guess]) -> list[Guess]:
    """The guesses that a person accepts, one by one."""
    chosen: list[Guess] = []
    for n, guess in enumerate(found, 1):
        around.say(
            f"{n} of {len(found)}  {BOLD}{guess.command.title}{OFF} ({guess.command.id}) for "
            f"{BOLD}{guess.purpose.title}{OFF}? {guess.score:.2f}: {'; '.join(guess.reasons)}"
        )
        answer = around.ask("[y: yes, Enter: no, a: all from here, q: enough]").lower()
        if answer == "a":
            return [*chosen, *found[n - 1 :]]
        if answer == "q":
            break
        if answer in ("y", "yes"):
            chosen.append(guess)
    return chosen


def _link(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    purposes = purposes_file.load(at.root)
    purpose = purpose_named(purposes, args.purpose)
    app = at.app(at.app_name(args.app))
    command = pick.command(app, args.command, around)
    had = purpose.commands(app.name)
    commands = (*had, command.id) if args.beside and command.id not in had else (command.id,)
    after = purposes.linked(purpose.id, app.name, commands)
    what = f"{app.title}: {command.title} serves “{purpose.title}”"
    # A command serves one purpose, so a new link takes it from the old one; that must not go unsaid.
    old = purposes.by_command.get((app.name, command.id))
    lines = [f"It no longer serves “{old.title}”."] if old and old.id != purpose.id else []
    if had and not args.beside and had != commands:
        lines.append(f"{', '.join(had)} no longer serves it; to keep both: --beside")
    return _save(writing_of(args), around, at, purposes, after, what, lines)


def _unlink(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    purposes = purposes_file.load(at.root)
    purpose = purpose_named(purposes, args.purpose)
    app = at.app_name(args.app)
    after = purposes.linked(purpose.id, app, ())
    what = f"{app}: no command serves “{purpose.title}”"
    return _save(writing_of(args), around, at, purposes, after, what)


def _new(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    purposes = purposes_file.load(at.root)
    title = " ".join(args.title.split())
    id_ = slug(title)
    if not id_:
        raise Refused(
            f"“{args.title}” is no title.", hint="Say what a person wants: Measure a slope"
        )
    taken = {name.casefold() for each in purposes.all for name in (each.id, each.title)}
    if {id_, title.casefold()} & taken:
        raise Refused(
            f"There is a purpose “{title}” already; nothing was changed.",
            hint=f"See it: olive-compass purpose list {id_}",
        )
    purpose = Purpose(id_, title, args.group, args.risk, tuple(args.names))
    after = Purposes((*purposes.all, purpose))
    lines = [f"Link commands to it: olive-compass purpose link {id_} APP COMMAND"]
    return _save(writing_of(args), around, at, purposes, after, f"New purpose “{title}”", lines)


def _rename(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    purposes = purposes_file.load(at.root)
    purpose = purpose_named(purposes, args.purpose)
    title = " ".join(args.title.split())
    if not title:
        raise Refused("A purpose needs a title; nothing was changed.")
    other = next(
        (each for each in purposes.all if each.title.casefold() == title.casefold()), purpose
    )
    if other.id != purpose.id:
        raise Refused(f"“{title}” is what {other.id} is called; nothing was changed.")
    old = [purpose.title] if purpose.title != title else []
    names = tuple(
        name for name in dict.fromkeys((*purpose.names, *old, *args.names)) if name != title
    )
    renamed = replace(purpose, title=title, names=names)
    after = Purposes(renamed if each.id == purpose.id else each for each in purposes.all)
    what = f"“{purpose.title}” is called “{title}” now; its id stays {purpose.id}"
    return _save(writing_of(args), around, at, purposes, after, what)


def _remove(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    purposes = purposes_file.load(at.root)
    purpose = purpose_named(purposes, args.purpose)
    after = Purposes(each for each in purposes.all if each.id != purpose.id)
    served = ", ".join(f"{app}: {' '.join(ids)}" for app, ids in purpose.links.items())
    lines = [f"It was served by {served}."] if served else []
    lines += [
        f"Key set {name} still has keys for it: olive-compass keyset clear {name} {purpose.id}"
        for name in at.keyset_names()
        if purpose.id in keyset_named(at, name).keys
    ]
    what = f"Purpose “{purpose.title}” removed"
    return _save(writing_of(args), around, at, purposes, after, what, lines)


def _save(
    how: Writing,
    around: Surroundings,
    at: Desk,
    before: Purposes,
    after: Purposes,
    what: str,
    lines: list[str] | None = None,
) -> int:
    files = [] if before.all == after.all else [change_of(at, after)]
    return keep(how, around, at, files, what, tuple(lines or ()))
