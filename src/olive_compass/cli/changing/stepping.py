"""What ``undo`` and ``redo`` share: one step after another, each saved by itself."""

import argparse
from collections.abc import Callable
from typing import Any

from msgspec import Struct

from olive_compass.cli import pick
from olive_compass.cli.changing.saving import retry_on_conflict, save
from olive_compass.cli.options import WriteOptions, write_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.desk.desk import Desk
from olive_compass.desk.storage.history import History
from olive_compass.desk.storage.records import Record, changing
from olive_compass.errors import UserError


def add_step_arguments(parser: argparse.ArgumentParser) -> None:
    """The options of both commands."""
    parser.add_argument(
        "steps",
        type=int,
        nargs="?",
        default=1,
        metavar="N",
        help="the number of changes (default: 1)",
    )
    write_options(parser)


def skip_option(parser: argparse.ArgumentParser) -> None:
    """``--skip``: what cannot be taken back is left as it is."""
    parser.add_argument(
        "--skip",
        action="store_true",
        help="skip the last change, so that you can undo older ones",
    )


class Stepping(Struct, frozen=True, kw_only=True):
    """What sets the two commands apart.

    ``find`` gives the record to take back; ``verb`` names the command, ``deed`` is what it did,
    in the past tense; ``told`` says what a record was about. ``back`` is the command that takes
    it back in its turn.
    """

    find: Callable[[History], Record | None]
    verb: str
    deed: str
    told: Callable[[Record], str]
    back: str


class StepOptions(WriteOptions, kw_only=True):
    """The options of ``undo`` and ``redo``."""

    steps: int
    skip: bool = False


def _take_each(
    args: StepOptions, context: Surroundings, how: Stepping, taken: list[dict[str, Any]]
) -> int:
    """Takes back as many records as are asked for, until there is no other; a dry run looks at the first."""
    status = 0
    for _ in range(max(args.steps, 0)):
        status = retry_on_conflict(
            lambda: _step(args.desk, args.dry_run, args.skip, context, how, taken), context
        )
        if status or args.dry_run:
            break
    return status


def take_steps(args: StepOptions, context: Surroundings, how: Stepping) -> int:
    """Takes back the record that ``how`` finds, N times."""
    taken: list[dict[str, Any]] = []
    status, refused = 0, None
    try:
        status = _take_each(args, context, how, taken)
    except UserError as error:
        # What was done until then holds, and is said before the reason why it ends there.
        refused = error
    done = sum(each["change"] is not None for each in taken)
    is_short = args.steps > done and bool(taken) and not args.dry_run
    if is_short:
        context.report(f"{how.deed.split()[0].capitalize()} {done} of {args.steps} changes.")
    if args.json and (taken or not refused):
        context.json({"changed": done > 0, "dry-run": args.dry_run, "taken-back": taken})
    elif done:
        _say_way_back(context, how, done)
    if refused is not None:
        raise refused
    return status or int(is_short)


def _say_way_back(context: Surroundings, how: Stepping, done: int) -> None:
    """Says how to take the same number of steps the other way."""
    how_many = ""
    if done > 1:
        how_many = f" {done}"
    context.report(f"To {how.back}: olive-compass {how.back}{how_many}")


def _step(
    folder: str | None,
    dry_run: bool,
    skip: bool,
    context: Surroundings,
    how: Stepping,
    taken: list[dict[str, Any]],
) -> int:
    at = pick.open_desk(folder, context)
    if context.recovered and not context.recovered.holds:
        # Whoever asks for it means that change: an older one must not go in its place.
        context.recovered = None
        context.report("Nothing else was changed.")
        return 0
    record = how.find(at.history)
    if record is None:
        context.say(f"There is nothing to {how.verb}.")
        return 1
    told = how.told(record)
    if skip:
        return _skipped(at, context, record, told, dry_run, taken)
    # Loaded here: where no file was changed since, there is no need of it.
    from olive_compass.desk.shortcuts.undelivering import taken_back

    changes = at.history.undo_changes(record, lambda file, now: taken_back(at, record, file, now))
    paths = [change.path for change in changing(changes)]
    files = ", ".join(paths)
    if dry_run:
        taken.append({"change": None, "what": told, "files": paths})
        context.say(f"Would {how.verb} {told} ({files}).\nDry run: nothing was written.")
        return 0
    number = save(at, context, changes, f"{how.deed} {told}", undoes=record.number)
    taken.append({"change": number, "what": told, "files": paths})
    context.report(f"{how.deed.capitalize()} {told} ({files}).")
    return 0


def _skipped(
    desk: Desk,
    context: Surroundings,
    record: Record,
    told: str,
    dry_run: bool,
    taken: list[dict[str, Any]],
) -> int:
    """Leaves a change as it is, and lets the history go on before it."""
    if dry_run:
        context.say(f"Would leave {told} as it is.\nDry run: nothing was written.")
        taken.append({"change": None, "what": told, "files": []})
        return 0
    number = save(desk, context, [], f"passed over {told}", undoes=record.number)
    taken.append({"change": number, "what": told, "files": []})
    context.report(f"Left {told} as it is; undo goes on with the changes before it.")
    return 0
