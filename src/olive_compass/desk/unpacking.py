"""What a bundle brings to a desk: keys of the system by platform, and schemes into their stacks."""

from olive_compass.core.changes.change import Change
from olive_compass.core.changes.take_over import TakeOver, take_over
from olive_compass.desk.bundles import Bundle
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import desk_file, system_file
from olive_compass.desk.formats.system_file import SystemKey
from olive_compass.desk.paths import DESK_FILE, SYSTEM_FILE, scheme_path
from olive_compass.structs import replace


def for_this_platform(desk: Desk, bundle: Bundle) -> Bundle:
    """The bundle with the system's keys as this desk is to have them: what operating systems of other
    platforms take there is kept beside what ours takes, and never counts in its place."""
    theirs = bundle.files.get(SYSTEM_FILE)
    if theirs is None:
        return bundle
    stated = desk_file.read(
        bundle.files.get(DESK_FILE) or desk.bytes(DESK_FILE), DESK_FILE
    ).platform
    keys: dict[str, list[SystemKey]] = {}
    for key in system_file.read_all(theirs, SYSTEM_FILE):
        keys.setdefault(stated if key.table == system_file.STATED else key.table, []).append(key)
    ours = desk.bytes_or_none(SYSTEM_FILE)
    here = desk_file.read(desk.bytes(DESK_FILE), DESK_FILE).platform
    known = {
        here if key.table == system_file.STATED else key.table
        for key in system_file.read_all(ours, SYSTEM_FILE)
    }
    own = desk.settings.platform
    if set(keys) <= {own} and here == stated:
        return bundle
    data = ours or system_file.new_text({}, own)
    for platform, each in keys.items():
        if platform not in known:
            data = system_file.with_platform(data, platform, each)
    return replace(bundle, files={**bundle.files, SYSTEM_FILE: data})


def taken_over(desk: Desk, after: Desk, bundle: Bundle, chosen: list[str]) -> list[Change]:
    """What becomes of the stack of each application that gets new schemes."""
    found = []
    for app in after.app_names():
        names = after.scheme_names(app)
        known = []
        if app in desk.app_names():
            known = desk.scheme_names(app)
        # A scheme that was here keeps its place: whoever put it there decided about that.
        new = [n for n in names if scheme_path(app, n) in chosen and n not in known]
        if not new:
            continue
        about = after.app(app)
        here = after.settings.stacks.get(app) or tuple(known and desk.stack_names(app))
        there = bundle.stacks.get(app, tuple(new))
        schemes = tuple(after.scheme(about, name) for name in names)
        found.append(take_over(TakeOver(app=app, schemes=schemes, here=here, there=there, new=new)))
    return found
