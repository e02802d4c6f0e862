"""``keyset learn``: a set of what most applications agree on, weighted by use."""

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import writing_of
from olive_compass.cli.options import WriteOptions
from olive_compass.cli.sharing.keyset_tables import tell_cells
from olive_compass.cli.sharing.keysets import new_set_name, save_set
from olive_compass.cli.sharing.using import same_text, tally_of
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.tables import most_rows
from olive_compass.core.sharing.learning import Learnt, learn
from olive_compass.core.sharing.purposes import Purposes
from olive_compass.core.sharing.sameness import practice
from olive_compass.core.usage.looking import times_of_all
from olive_compass.core.wording import clause, counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import purposes_file
from olive_compass.desk.reported.learning import learnt_report
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.views import keymaps_of_apps
from olive_compass.errors import UserError
from olive_compass.structs import replace, to_builtins


class KeysetLearnOptions(WriteOptions, kw_only=True):
    """The options of ``keyset learn``."""

    name: str
    apps: list[str] | None
    title: str | None
    find_purposes: bool


def learn_set(args: KeysetLearnOptions, context: Surroundings) -> int:
    """Runs ``keyset learn``."""
    desk = pick.desk(args, context)
    name = new_set_name(desk, args.name)
    maps = keymaps_of_apps(desk, args.apps)
    purposes = desk.purposes
    more: list[FileChange] = []
    if args.find_purposes:
        purposes, more = _found(args, context, desk, purposes_file.load(desk.root))
    tally = tally_of(desk, context)
    uses = times_of_all(tally)
    learnt = learn(name, maps, purposes, uses)
    if not learnt.keyset.keys:
        raise UserError(
            "There is nothing to learn from: no command with a key serves a purpose.",
            hint="Find purposes as well: olive-compass keyset learn NAME --find-purposes",
        )
    keyset = replace(learnt.keyset, title=args.title or name)
    if not args.json:
        weighted = clause(", weighted by {} uses that were counted", sum(uses.values()))
        apps = ", ".join(keymap.app.title for keymap in maps)
        context.report(f"Learnt from {apps}{weighted}: {counted(len(keyset.keys), 'purpose')}.")
    if not context.quiet and not args.json:
        _say_doubts(context, name, learnt, purposes)
        if args.find_purposes:
            tell_cells(context, keyset, purposes, maps, limit=most_rows(context))
            if text := same_text(purposes, maps, practice(tally)):
                context.say(text)
    what = f"Created key set {name}"
    fields = to_builtins(learnt_report(learnt))
    return save_set(writing_of(args), context, desk, None, keyset, what, more=more, **fields)


def _found(
    args: KeysetLearnOptions, context: Surroundings, desk: Desk, purposes: Purposes
) -> tuple[Purposes, list[FileChange]]:
    """The purposes with those that were found and are sure, and the file that has them."""
    from olive_compass.cli.sharing.guessing import find, sure_of
    from olive_compass.core.sharing.proposals import accepted
    from olive_compass.desk.writing.changed_files import changed_purposes

    taken = sure_of(find(desk, purposes, context, "", desk.settings.refused))
    if not taken:
        return purposes, []
    after = accepted(purposes, taken)
    commands = sum(len(each.guesses) for each in taken)
    if not args.json:
        new = sum(each.is_new for each in taken)
        rest = clause(", {} of them new", new)
        context.report(
            f"Found: {counted(commands, 'command')} for {counted(len(taken), 'purpose')}{rest}."
        )
    return after, [changed_purposes(desk, after)]


def _say_doubts(context: Surroundings, name: str, learnt: Learnt, purposes: Purposes) -> None:
    """Lists close choices, and purposes that a person must decide."""
    if learnt.close:
        context.say("Close:")
    for each in learnt.close:
        title = purposes.by_id[each.purpose].title
        context.say(f"  {title}: {each.first} before {each.second}, because {each.why}")
    if learnt.unsettled:
        context.say("Not decided:")
        for left in learnt.unsettled:
            context.say(f"  {purposes.by_id[left.purpose].title}: {left.why}")
        first = learnt.unsettled[0].purpose
        context.say(f"To decide one: olive-compass keyset set {name} {first} KEY")
