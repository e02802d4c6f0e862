"""What is said of an edit of a tray."""

from olive_compass.cli.trays.common import FILLED, layer_below, place_text, said_text, way_out
from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import joined
from olive_compass.core.apps.trays import PARTING, Tray
from olive_compass.core.changes import edit_tray as core
from olive_compass.core.changes.change import Change, Refusal
from olive_compass.core.changes.view import AppView
from olive_compass.core.trays.verdicts import THERE, Remark
from olive_compass.core.wording import capital, clause, counted
from olive_compass.desk.formats.tray_file import tray_path
from olive_compass.errors import UserError


def make_kind(app: str) -> str:
    return f"Say which it has: olive-compass app trays {app} tab --items 24"


def there(app: App, tray: Tray, change: Change) -> str:
    """That all that was to be put on stands there, ``""`` where it does not."""
    if not change.already:
        return ""
    there = (e for e in change.effects if isinstance(e, Remark) and e.what == THERE)
    return joined(said_text(app, tray, each) for each in there)


def what_was_done(app: App, tray: Tray, wanted: core.Edit) -> str:
    """What was done, in a sentence."""
    name = tray.title
    match wanted:
        case core.New():
            return f"created {tray.kind} {name}, {place_text(tray.place)}{_fills(tray)}"
        case core.Regroup():
            return _regrouped(name, wanted)
        case core.Add() | core.DropItems() | core.MoveItem():
            return _what_of_items(app, name, wanted)
        case core.Rename(title):
            return f"renamed {name} to {title}"
        case core.Stand(place):
            return f"moved {name}, {place_text(place)}"
        case core.Letter(letter):
            return f"{name} has {clause('the access letter {}', letter) or 'no access letter'}"
        case core.SwitchTray(off):
            return f"turned {name} {'off' if off else 'on'}"
        case core.ResetTray(like, group):
            return f"{clause('the group {} of ', group)}{name} is {layer_below(like)}"


def _fills(tray: Tray) -> str:
    """What a new tray fills itself with, at the end of a sentence."""
    if tray.fill:
        return f", with the {tray.most} {FILLED[tray.fill]}"
    return ""


def _what_of_items(app: App, name: str, wanted: core.Add | core.DropItems | core.MoveItem) -> str:
    """What was done with items of the tray ``name``."""
    match wanted:
        case core.Add(items=items, group=group):
            put = joined(app.shown(each) for each in items if each != PARTING)
            return f"added {put or 'a separator'} to {name}" + clause(", in {}", group)
        case core.DropItems(items):
            return f"removed {joined(app.shown(each) for each in items)} from {name}"
    return f"moved {app.shown(wanted.item)} {_where_to(app, wanted)} on {name}"


def _where_to(app: App, wanted: core.MoveItem) -> str:
    if wanted.before:
        return f"before {app.shown(wanted.before)}"
    if wanted.after:
        return f"after {app.shown(wanted.after)}"
    return f"to {wanted.group or 'the end'}"


def _regrouped(name: str, wanted: core.Regroup) -> str:
    """What became of a group of the tray ``name``."""
    if wanted.gone:
        return f"removed the group {wanted.title} from {name}"
    if wanted.new:
        return f"renamed the group {wanted.title} of {name} to {wanted.new}"
    beside = clause(" before {}", wanted.before)
    if wanted.after and not beside:
        beside = f" after {wanted.after}"
    return f"{name} has the group {wanted.title}{beside}"


def report(view: AppView, tray: Tray, change: Change) -> list[str]:
    """Sentences about the change, and the next step."""
    app = view.app
    lines = []
    for effect in change.effects:
        match effect:
            case Remark() as said:
                lines.append(f"{capital(said_text(app, tray, said))}.")
            case core.Over(layer):
                lines.append(f"It is your own now; the one of the {layer} stays as it is.")
            case core.Unopened(id_):
                lines.append(
                    f"Nothing opens it yet. Assign a key: olive-compass assign {app.name} {id_} KEY"
                )
            case core.KeysLeft(id_, keys):
                lines.append(f"Keys still name it: {joined(keys)} ({id_}).")
    for each in change.trays:
        if each.after is not None and each.before is not None and each.after.groups:
            lines.append(f"It has {counted(len(each.after.items), 'item')} now.")
    return lines


def refused(view: AppView, tray: Tray, refusal: Refusal) -> UserError | None:
    """What cannot be, in words."""
    app, about = view.app, refusal.about
    file = tray_path(app.name)
    if refusal.what == core.WRONG:
        says = str(about)
        if says.startswith("it "):
            says = f"{tray.title}: {says}"
        else:
            says = capital(says)
        return UserError(f"{says}; nothing was changed.")
    if refusal.what == core.NO_KIND and isinstance(about, tuple):
        has, hint = "It has none yet.", make_kind(app.name)
        if about:
            has, hint = f"It has {joined(about)}.", ""
        return UserError(f"{app.title} has no trays of the kind “{tray.kind}”. {has}", hint=hint)
    if refusal.what == core.TOO_MANY:
        most = counted(view.app.rules.trays[tray.kind].most, tray.kind)
        return UserError(
            f"{app.title} has {most} at most, and they are there; nothing was changed."
        )
    if refusal.what == core.AGAINST and isinstance(about, Remark):
        says = f"{capital(said_text(app, tray, about))}; nothing was changed."
        return UserError(says, hint=way_out(app, about))
    if refusal.what == core.NOTHING_BELOW:
        return UserError(
            f"The {about} has no tray “{tray.name}”; nothing was changed.",
            file=file,
            hint="--as-in factory removes it.",
        )
    return None
