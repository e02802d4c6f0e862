"""``assign APP --one-by-one``: goes through commands at the terminal, and asks for a key for each."""

from collections.abc import Callable

from msgspec import Struct

from olive_compass.cli import pick
from olive_compass.cli.options import Common
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, OFF
from olive_compass.cli.trays.common import tray_named
from olive_compass.core.answers.search import SearchQuery, filtered
from olive_compass.core.apps.app import App, Command, CommandKind
from olive_compass.core.apps.search import search
from olive_compass.core.schemes.offers import Offer, offers
from olive_compass.core.schemes.traits import not_assignable
from olive_compass.core.usage.looking import Used, used
from olive_compass.core.usage.summing import NOTHING
from olive_compass.core.wording import counted
from olive_compass.counts import parse_count
from olive_compass.desk.desk import Desk
from olive_compass.desk.storage import sitting
from olive_compass.desk.tallies import usage_by_app
from olive_compass.desk.views import app_view, judging_view
from olive_compass.errors import UserError

HELP = "1-3 takes a key that is offered; or type a key, ? presses one; k keyless, s skip, b back, q quit"

#: Runs a line of the program, as if it were typed, and returns its exit status.
Runner = Callable[[list[str]], int]


class _Seen(Struct):
    """A command that was shown: the changes that were made for it, by number."""

    command: Command
    changes: list[int]


class OneByOneOptions(Common, kw_only=True):
    """The options of ``assign --one-by-one``: the application, and which commands are gone through."""

    app: str
    words: list[str]
    mode: list[str] | None
    used: bool
    assigned: bool
    menu: str | None
    kind: CommandKind | None
    mark: str | None
    tray: str | None


def one_by_one(args: OneByOneOptions, context: Surroundings, runs: Runner) -> int:
    """Runs ``assign APP --one-by-one``. Raises ``UserError`` where nobody can be asked."""
    if not context.interactive:
        raise UserError(
            "--one-by-one asks at a terminal, and this is none.",
            hint="To assign keys in a script: olive-compass assign APP --plan FILE",
        )
    desk = pick.desk(args, context)
    app = desk.app(desk.app_name(args.app))
    counts = {each.command: each for each in used(usage_by_app(desk).get(app.name, NOTHING).tally)}
    commands = _chosen(args, context, desk, app, counts)
    if not commands:
        context.say(f"No command of {app.title} fits.")
        return 1
    first = _first(context, desk, app, commands)
    count = counted(len(commands) - first, "command")
    context.say(f"{BOLD}{app.title}{OFF}: {count} to go. {DIM}{HELP}.{OFF}")
    done = _Conversation(args, context, app, counts, runs).go(commands, first)
    _keep(desk, app, done.stopped, done.changes)
    context.say(done.summary)
    if done.changes:
        context.say("To undo all of it: olive-compass undo --session")
    return 0


def _takes_key(app: App, command: Command) -> bool:
    """Whether a command of the application itself can have a key."""
    return not command.is_own and not not_assignable(app, command)


def _chosen(
    args: OneByOneOptions, context: Surroundings, desk: Desk, app: App, counts: dict[str, Used]
) -> list[Command]:
    """The commands to go through, the most used first."""
    keymap = app_view(desk, app.name).keymap
    query = SearchQuery(
        words=" ".join(args.words),
        app=app.name,
        key=None,
        mode=pick.mode(app, args.mode[0]) if args.mode else None,
        menu=args.menu,
        kind=args.kind,
        mark=args.mark,
        assigned=False,
        unassigned=not args.assigned,
        keyless=False,
    )
    found = [command for command in filtered(keymap, query) if _takes_key(app, command)]
    if args.used:
        found = [command for command in found if command.id in counts]
    if args.tray:
        _, tray = tray_named(desk, f"{app.name}/{args.tray}", context)
        found = [command for command in found if command.id in tray.items]
    found = list(search(found, query.words, app.rules.slots))
    return sorted(found, key=lambda command: -_times(counts.get(command.id)))


def _times(used: Used | None) -> int:
    """How often a command was used."""
    if used is None:
        return 0
    return used.times


def _first(context: Surroundings, desk: Desk, app: App, commands: list[Command]) -> int:
    """Where to begin: at the first, or where the last sitting stopped."""
    stopped = sitting.read(desk).stopped.get(app.name, "")
    place = next((n for n, command in enumerate(commands) if command.id == stopped), 0)
    if not place:
        return 0
    answer = context.ask(f"Last time you stopped at {commands[place].title}. Go on there? [Y/n]")
    if answer.lower() in ("n", "no"):
        return 0
    return place


def _keep(desk: Desk, app: App, stopped: str, changes: list[int]) -> None:
    known = sitting.read(desk)
    known.stopped[app.name] = stopped
    if changes:
        known.changes = changes
    sitting.write(desk, known)


class _Done(Struct):
    """What came of a sitting."""

    summary: str
    stopped: str
    changes: list[int]


class _Conversation:
    """The questions and answers, command by command."""

    def __init__(
        self,
        args: OneByOneOptions,
        context: Surroundings,
        app: App,
        counts: dict[str, Used],
        runs: Runner,
    ) -> None:
        self.args = args
        self.context = context
        self.app = app
        self.counts = counts
        self.runs = runs
        self.seen: dict[str, _Seen] = {}

    def go(self, commands: list[Command], first: int) -> _Done:
        n = first
        while n < len(commands):
            command = commands[n]
            seen = self.seen.setdefault(command.id, _Seen(command, []))
            where = f"{n - first + 1} of {len(commands) - first}"
            answer = self._asked(command, where)
            if answer == "q":
                break
            if answer == "b":
                n = max(first, n - 1)
                self._take_back(self.seen[commands[n].id])
                continue
            if answer != "s":
                before = self.context.saved
                if self._decide(command, answer) != 0 or self.context.saved == before:
                    # It was refused, or another key was wanted: the same command once more.
                    continue
                seen.changes.append(self.context.saved)
            n += 1
        stopped = ""
        if n < len(commands):
            stopped = commands[n].id
        return self._done(len(commands) - first, stopped)

    def _done(self, shown: int, stopped: str) -> _Done:
        """What was decided about the commands that were to be gone through."""
        changes = [number for each in self.seen.values() for number in each.changes]
        decided = sum(bool(each.changes) for each in self.seen.values())
        summary = f"{counted(decided, 'command')} decided, {shown - decided} left."
        return _Done(summary, stopped, sorted(changes))

    def _asked(self, command: Command, where: str) -> str:
        """What is to be done: one of the letters, or a key in words."""
        context = self.context
        # Read anew: what was decided a moment ago is no longer free.
        view = judging_view(pick.desk(self.args, context), self.app.name)
        found = offers(view, view.app.catalogue.by_id[command.id])
        self._show(command, where, found)
        while True:
            if len(found) > 1:
                numbers = f"1-{len(found)}, "
            elif found:
                numbers = "1, "
            else:
                numbers = ""
            answer = context.ask(
                f"Key for {command.title}? [{numbers}a key, ?, k, s, b, q]"
            ).strip()
            if answer.casefold() in ("", "s", "skip"):
                return "s"
            if answer.casefold() in ("b", "back", "q", "quit", "k", "keyless"):
                return answer[0].casefold()
            if answer.isdigit() and 1 <= parse_count(answer) <= len(found):
                return str(found[parse_count(answer) - 1].trigger)
            if answer.casefold() in ("h", "help"):
                context.say(f"{HELP}.")
                continue
            return answer

    def _show(self, command: Command, where: str, found: list[Offer]) -> None:
        context = self.context
        count = self.counts.get(command.id)
        times = ""
        if count:
            times = f"used {counted(count.times, 'time')}, {count.by_menu} by menu"
        about = "; ".join(filter(None, (" > ".join(command.menu), times)))
        context.say(f"\n{DIM}{where}{OFF}  {BOLD}{command.title}{OFF}  {about}")
        if command.does:
            context.say(f"  {command.does}")
        for n, each in enumerate(found, 1):
            reasons = ""
            if each.reasons:
                reasons = f": {', '.join(each.reasons)}"
            context.say(
                f"  {n}  {each.trigger}  {DIM}{each.strokes:.1f} home strokes{reasons}{OFF}"
            )
        if not found:
            context.say("  No free key is good for it; type one, and you see what has it now.")

    def _decide(self, command: Command, answer: str) -> int:
        app, id_ = self.app.name, command.id
        if answer == "k":
            why = self.context.ask(f"Why is {command.title} to have no key?")
            if why:
                return self.runs(["keyless", app, id_, "--why", why])
            return 1
        modes = [word for mode in self.args.mode or () for word in ("--mode", mode)]
        status = self.runs(["assign", app, id_, answer, *modes])
        self.context.pressed = False
        return status

    def _take_back(self, seen: _Seen) -> None:
        """Undoes what was decided of a command, unless somebody has changed the desk since."""
        while seen.changes:
            newest = pick.desk(self.args, self.context).history.to_undo()
            if newest is None or newest.number != seen.changes[-1]:
                self.context.say("The desk was changed since; what was decided here stays.")
                return
            self.runs(["undo"])
            seen.changes.pop()
