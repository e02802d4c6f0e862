"""``purpose guess``: proposes which commands of several applications do the same job, and links the accepted ones."""

from collections.abc import Iterable, Sequence

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import writing_of
from olive_compass.cli.options import WriteOptions
from olive_compass.cli.sharing.purposes import save_purposes
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.command_lines import line
from olive_compass.cli.terminal.layout import BOLD, DIM, OFF
from olive_compass.cli.terminal.tables import most_rows, print_table
from olive_compass.core.sharing.guessing import proposals
from olive_compass.core.sharing.proposals import SURE, Guess, Proposal, accepted, called, members
from olive_compass.core.sharing.purposes import Purposes
from olive_compass.core.wording import by_number, counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import desk_file, purposes_file
from olive_compass.desk.paths import DESK_FILE
from olive_compass.desk.reported.proposals import proposal_report
from olive_compass.desk.storage.records import FileChange
from olive_compass.errors import UserError
from olive_compass.structs import replace

_ANSWERS = "[y: yes, n: no, e: another name, a: all of this kind, Enter: not now, q: enough]"


class PurposeGuessOptions(WriteOptions, kw_only=True):
    """The options of ``purpose guess``."""

    app: str | None
    above: float | None
    refused: bool
    limit: int | None
    yes: bool


def guess(args: PurposeGuessOptions, context: Surroundings) -> int:
    """Runs ``purpose guess``."""
    desk = pick.desk(args, context)
    _check_score(args.above)
    app = ""
    if args.app:
        app = desk.app_name(args.app)
    refused = desk.settings.refused
    if args.refused:
        refused = ()
    purposes = purposes_file.load(desk.root)
    found = find(desk, purposes, context, app, refused)
    if not found:
        return _nothing(args, context, desk, app)
    taken = _from(found, SURE if args.above is None else args.above)
    if args.yes and args.json:
        return _save(args, context, desk, purposes, taken, [])
    least = args.above or 0
    shown = _from(found, least)
    if args.json:
        context.json({"proposals": [proposal_report(each) for each in shown]})
        return 0
    if not shown:
        return _none_so_sure(context, found, least)
    return _take_or_show(args, context, desk, purposes, shown, taken)


def _take_or_show(
    args: PurposeGuessOptions,
    context: Surroundings,
    desk: Desk,
    purposes: Purposes,
    shown: list[Proposal],
    taken: list[Proposal],
) -> int:
    """Asks about each proposal at a terminal; else shows them, and saves the sure ones with ``--yes``."""
    if context.interactive and not args.yes:
        return _save(args, context, desk, purposes, *_asked(context, shown))
    if not context.quiet:
        _print(context, shown, taken, args.limit)
    if args.yes:
        return _save(args, context, desk, purposes, taken, [])
    context.say(_how_to_take(args.above, desk.app_name(args.app) if args.app else ""))
    return 0


def _none_so_sure(context: Surroundings, found: Iterable[Proposal], least: float) -> int:
    best = max(guess.score for each in found for guess in each.guesses)
    context.say(f"No proposal is as sure as {least:g}; the surest is {best:.2f}.")
    return 1


def _check_score(least: float | None) -> None:
    if least is not None and not 0 <= least <= 1:
        raise UserError(f"A score is from 0 to 1, not {least:g}.")


def _how_to_take(least: float | None, app: str) -> str:
    """The sentence on how the proposals that are shown are taken."""
    words = ["purpose", "guess", *([app] if app else [])]
    if least is None:
        return f"To take those marked +: {line(*words, '--yes')}"
    return f"To take them: {line(*words, '--above', f'{least:g}', '--yes')}"


def find(
    desk: Desk, purposes: Purposes, context: Surroundings, app: str, refused: Sequence[str]
) -> list[Proposal]:
    """What is proposed on this desk, or for one application of it."""
    from olive_compass.cli.terminal.progress import along

    apps = [desk.app(name) for name in along(context, "Reading applications", desk.app_names())]
    found = proposals(apps, purposes, [_places(text) for text in refused])
    if not app:
        return found
    mine = []
    for each in found:
        own = tuple(g for g in each.guesses if g.app == app)
        if own:
            # A purpose that is known is for the others to be asked about; a new one is made by all.
            mine.append(each if each.is_new else replace(each, guesses=own))
    return mine


def sure_of(found: Iterable[Proposal]) -> list[Proposal]:
    """What is taken where nobody is asked."""
    return _from(found, SURE)


def _from(found: Iterable[Proposal], least: float) -> list[Proposal]:
    return [sure for each in found if (sure := each.above(least))]


def _nothing(args: PurposeGuessOptions, context: Surroundings, desk: Desk, app: str) -> int:
    if args.json:
        context.json({"proposals": []})
    elif app:
        context.say(
            f"No command of {desk.app(app).title} looks like a purpose that it does not serve yet."
        )
    else:
        context.say("No commands without a purpose do the same job, as far as their titles tell.")
    return 1


def _save(
    args: PurposeGuessOptions,
    context: Surroundings,
    desk: Desk,
    purposes: Purposes,
    taken: list[Proposal],
    refused: list[Proposal],
) -> int:
    """Links what was taken, and remembers what was refused, as one change."""
    after = accepted(purposes, taken)
    commands = sum(len(each.guesses) for each in taken)
    new = sum(each.is_new for each in taken)
    what = f"Linked {counted(commands, 'command')} to {counted(len(taken), 'purpose')}"
    if new:
        what += f", of which {new} {by_number(new, 'is', 'are')} new"
    more = []
    if refused:
        before = desk.bytes(DESK_FILE)
        no = [_text(each) for each in refused]
        more = [FileChange(DESK_FILE, before, desk_file.with_refused(before, no))]
        what += f"; {counted(len(refused), 'proposal')} refused"
    lines = []
    if taken:
        lines = ["Go on with: olive-compass keyset learn NAME"]
    return save_purposes(writing_of(args), context, desk, purposes, after, what, lines, more)


def _places(text: str) -> frozenset[tuple[str, str]]:
    """The commands that a line of ``desk.toml`` names: ``quillmap:edit.copy tagwright:tags.copy``."""
    parts = (part.partition(":") for part in text.split())
    return frozenset((app, command) for app, _, command in parts)


def _text(proposal: Proposal) -> str:
    """The same the other way round."""
    return " ".join(f"{app}:{command}" for app, command in sorted(members(proposal)))


def _asked(context: Surroundings, found: list[Proposal]) -> tuple[list[Proposal], list[Proposal]]:
    """What a person accepts and refuses, one by one."""
    taken: list[Proposal] = []
    refused: list[Proposal] = []
    kinds: set[str] = set()
    for n, each in enumerate(found, 1):
        if each.kind in kinds:
            taken.append(each)
            continue
        _show(context, each, f"{n} of {len(found)}")
        answer = context.ask(_ANSWERS).strip().casefold()
        if answer == "q":
            break
        if answer == "a":
            kinds.add(each.kind)
        if answer == "e":
            title = " ".join(context.ask("What is it called?").split())
            if title:
                each = called(each, title)
        if answer in ("y", "yes", "e", "a"):
            taken.append(each)
        elif answer in ("n", "no"):
            refused.append(each)
    return taken, refused


def _show(context: Surroundings, each: Proposal, where: str) -> None:
    """A proposal with who would serve it, and why."""
    new = " (new)" if each.is_new else ""
    context.say(
        f"{DIM}{where}{OFF}  {BOLD}{each.purpose.title}{OFF}{new}  {DIM}{each.kind}, {each.score:.2f}{OFF}"
    )
    linked = [f"{app}: {' '.join(ids)}" for app, ids in each.purpose.links.items()]
    if linked:
        context.say(f"  {DIM}served by {', '.join(linked)}{OFF}")
    rows = [
        (
            f"  {g.candidate.app.title}",
            g.candidate.command.route or g.candidate.command.title,
            "; ".join(g.reasons),
        )
        for g in each.guesses
    ]
    print_table(context, ("  application", "command", "reasons"), rows)


def _print(
    context: Surroundings, found: list[Proposal], taken: list[Proposal], limit: int | None
) -> None:
    """All proposals, a line for each command; those that ``--yes`` takes are marked."""
    sure = {(each.purpose.id, g.app) for each in taken for g in each.guesses}
    most = most_rows(context, limit)
    rows = []
    for each in found[:most]:
        for n, g in enumerate(each.guesses):
            rows.append(_row(each, g, n == 0, (each.purpose.id, g.app) in sure))
    print_table(context, ("", "score", "purpose", "application", "command", "reasons"), rows)
    new = sum(each.is_new for each in found)
    context.say(
        f"{counted(len(found), 'purpose')}, {new} of them new; "
        f"{counted(sum(len(each.guesses) for each in taken), 'command')} marked +"
        + (f"; --limit {len(found)} shows all." if most < len(found) else ".")
    )


def _row(each: Proposal, guess: Guess, is_first: bool, is_sure: bool) -> tuple[str, ...]:
    title = f"{each.purpose.title}{' (new)' if each.is_new else ''}"
    return (
        "+" if is_sure else "",
        f"{guess.score:.2f}",
        title if is_first else "",
        guess.candidate.app.title,
        " and ".join(dict.fromkeys(c.command.title for c in (guess.candidate, *guess.alternates))),
        "; ".join(guess.reasons),
    )
