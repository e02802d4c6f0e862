"""``worklist`` and ``worklist verify``: the changes to make by hand, and what of them is not made yet."""

from typing import TYPE_CHECKING, Any

from olive_compass.cli import exit_status, pick
from olive_compass.cli.intake.reading import ListingOptions, read_for, said_of
from olive_compass.cli.output.forms import give
from olive_compass.cli.output.papers import printing_of, wanted
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, GREEN, OFF, RED
from olive_compass.cli.terminal.tables import print_table
from olive_compass.cli.trays.common import FILLED
from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.apps.rules import DUPLICATES_SAID, Rules
from olive_compass.core.apps.trays import PARTING
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import letter_route
from olive_compass.core.sharing.manual_steps import NotAllowed, Step, WorkList
from olive_compass.core.sharing.recognising import match
from olive_compass.core.sharing.working import (
    differences,
    for_app,
    had_of,
    modes_of_step,
    wanted_of,
)
from olive_compass.core.trays import manual_steps
from olive_compass.core.trays.manual_steps import TrayStep, tray_steps
from olive_compass.core.wording import clause, counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.importing.readings import ReadingOptions
from olive_compass.desk.reported.worklist import title_there, why_left
from olive_compass.drawing.forms import form_called

if TYPE_CHECKING:
    from olive_compass.drawing.documents import Checklist, Printing


class WorklistOptions(ListingOptions, kw_only=True):
    """The options of ``worklist``."""

    app: str
    listing: str | None
    form: str
    out: str | None
    keys_as: str | None
    json: bool
    paper: str | None
    landscape: bool
    size: float | None


class WorklistVerifyOptions(ListingOptions, kw_only=True):
    """The options of ``worklist verify``."""

    app: str
    listing: str
    keys_as: str | None
    json: bool


def show(args: WorklistOptions, context: Surroundings) -> int:
    keymap, had = _now(args, context)
    asked = wanted(args, context, json=args.json)
    found = for_app(keymap, had)
    if args.json:
        from olive_compass.desk.reported.worklist import worklist_report

        context.json(worklist_report(keymap, found))
        return 0
    if asked.form == "text":
        _print(context, keymap, found, args.listing)
    else:
        checklist = _checklist(context, keymap, found, printing_of(asked, "a4"))
        give(asked.into, context, form_called(asked.form).checklist(checklist))
    return 0


def verify(args: WorklistVerifyOptions, context: Surroundings) -> int:
    keymap, had = _now(args, context)
    return _verify(args.json, args.listing, context, keymap, had)


def _now(
    args: WorklistOptions | WorklistVerifyOptions, context: Surroundings
) -> tuple[Keymap, dict[str, Any]]:
    """The keys that the application should have, and those that it has now."""
    desk = pick.desk(args, context)
    pick.show_keys(args.keys_as, context, desk, [args.app])
    keymap = Keymap(desk.stack(desk.app_name(args.app)), desk.keyboard)
    return keymap, _had(args.listing, said_of(args), context, desk, keymap)


def _checklist(
    context: Surroundings, keymap: Keymap, found: WorkList, printing: "Printing"
) -> "Checklist":
    from olive_compass.drawing.documents import Checklist, Task

    app = keymap.app
    # Trays before keys: a tray has to be there before a key can open it.
    tasks = [
        Task(text=tray_sentence(app, step), menu=_menu(app, step.item)) for step in tray_steps(app)
    ]
    for step in found.steps:
        tasks.append(Task(text=sentence(context, keymap, step), menu=_menu(app, step.command)))
    left = tuple(f"{_subject(context, app, each)}: {why_left(app, each)}" for each in found.left)
    return Checklist(title=app.heading, tasks=tuple(tasks), left=left, printing=printing)


def _had(
    path: str | None, said: ReadingOptions, context: Surroundings, desk: Desk, keymap: Keymap
) -> dict[str, Any]:
    """What the application has now: by its factory, or by a listing read back."""
    own = desk.catalogue(keymap.app.name)
    if not path:
        return had_of(own)
    listing = read_for(said, path, context, desk, keymap.app)
    found = {}
    for each in match(own, listing.catalogue, keymap.app.ids):
        if each.old is not None:
            if each.new:
                found[each.old.id] = frozenset(each.new.keys)
            else:
                found[each.old.id] = frozenset()
    return found


def sentence(context: Surroundings, keymap: Keymap, step: Step) -> str:
    """A step as a person does it, with the modes in which the key is to count."""
    app = keymap.app
    title = title_there(app, step.command)
    modes = modes_of_step(keymap, step)
    where = ""
    if ROOT not in modes:
        where = f" {app.modes.phrase(app.modes.inside(modes))}"
    if step.gets is None:
        assert step.loses is not None
        return f"Take {context.key(step.loses)} from {title}{where}."
    if step.loses is None:
        return f"Give {context.key(step.gets)} to {title}{where}."
    spare = ""
    if step.spare:
        spare = ", for a while"
    keys = (context.key(step.loses), context.key(step.gets))
    return f"Change {keys[0]} of {title} to {keys[1]}{where}{spare}."


def tray_sentence(app: App, step: TrayStep) -> str:
    """A step of building a tray, as a person does it."""
    tray = step.tray
    inside = clause(", in {}", step.group)
    if step.what == manual_steps.MAKE:
        if tray.place in ("first", "last"):
            place = f"in {tray.place} place"
        else:
            place = tray.place
        return f"Make the {tray.kind} {tray.title}, {place}."
    if step.what == manual_steps.FILL:
        return f"Let {tray.title} fill itself, with the {tray.most} {FILLED[tray.fill]}."
    if step.what == manual_steps.GROUP:
        return f"Make the group {step.group} on {tray.title}."
    if step.item == PARTING:
        return f"Put a separator on {tray.title}{inside}."
    return f"Put {app.shown(step.item)} on {tray.title}{inside}."


def _rules_text(rules: Rules) -> str:
    """The rules that matter to a person who changes keys by hand."""
    text = DUPLICATES_SAID[rules.duplicates]
    if rules.most_keys:
        text += f"; keys for a command: {rules.most_keys}"
    if not rules.can_mute:
        text += "; no key can be turned off"
    return text


def _where_in_menus(keymap: Keymap, command: str) -> str:
    route = keymap.app.catalogue.by_id[command].route
    if not route:
        return ""
    by = letter_route(keymap, command)
    return f"  {DIM}{route}{clause(' ({})', by)}{OFF}"


def _print(context: Surroundings, keymap: Keymap, found: WorkList, listing: str | None) -> None:
    app = keymap.app
    start = "from the factory keys"
    if listing:
        start = f"from what {listing} says"
    schemes = " over ".join(keymap.stack.names)
    rules = _rules_text(app.rules)
    context.say(f"{BOLD}{app.heading}{OFF} {DIM}({schemes}, {start}; {rules}){OFF}")
    trays = list(tray_steps(app))
    if not found.steps and not trays:
        context.say("There is nothing to change by hand: it has all wanted keys.")
    # Trays first: a key may be wanted for one that is yet to be made.
    width = len(str(len(trays) + len(found.steps)))
    for n, put in enumerate(trays, 1):
        where = clause(f"  {DIM}{{}}{OFF}", _menu(app, put.item))
        context.say(f"  [ ] {n:>{width}}  {tray_sentence(app, put)}{where}")
    for n, step in enumerate(found.steps, len(trays) + 1):
        where = _where_in_menus(keymap, step.command)
        context.say(f"  [ ] {n:>{width}}  {sentence(context, keymap, step)}{where}")
    if found.left:
        context.say(f"{BOLD}What {app.title} does not allow{OFF}")
        for each in found.left:
            context.say(f"  {_subject(context, app, each)}: {why_left(app, each)}.")
    if found.steps or trays:
        context.say(
            f"{counted(len(trays) + len(found.steps), 'step')}. Afterwards: olive-compass worklist verify "
            f"{app.name} --from FILE"
        )


def _verify(
    as_json: bool, listing: str, context: Surroundings, keymap: Keymap, had: dict[str, Any]
) -> int:
    app = keymap.app
    found = differences(for_app(keymap, had_of(app.catalogue)).reached, had)
    wanted = wanted_of(keymap)
    right = sum(bool(wanted.get(id_)) for id_ in had) - sum(bool(d.missing) for d in found)
    if as_json:
        context.json(
            {
                "app": app.name,
                "right": max(right, 0),
                "wrong": [
                    {
                        "command": d.command,
                        "missing": list(map(str, d.missing)),
                        "extra": list(map(str, d.extra)),
                    }
                    for d in found
                ],
            }
        )
    elif not found:
        context.say(f"{GREEN}All took{OFF}: {app.title} has the keys that are wanted.")
    else:
        rows = [
            (
                title_there(app, d.command),
                ", ".join(map(context.key, d.missing)),
                ", ".join(map(context.key, d.extra)),
                _menu(app, d.command),
            )
            for d in found
        ]
        print_table(context, ("title", "did not take", "still has", "menu"), rows)
        context.say(
            f"{RED}{counted(len(found), 'command')} without the wanted keys{OFF}. What is left to do: "
            f"olive-compass worklist {app.name} --from {listing}"
        )
    return exit_status.failed(found)


def _subject(context: Surroundings, app: App, each: NotAllowed) -> str:
    """What a wish is about: a command and a trigger, or the trigger alone."""
    key = context.key(each.trigger)
    if each.command:
        return f"{title_there(app, each.command)}, {key}"
    return key


def _menu(app: App, command: str) -> str:
    known = app.catalogue.by_id.get(command)
    if known:
        return known.route
    return ""
