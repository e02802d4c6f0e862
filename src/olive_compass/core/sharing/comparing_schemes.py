"""What two schemes decide otherwise."""

from collections.abc import Mapping

from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.core.schemes.layers import FACTORY
from olive_compass.core.sharing.comparing import (
    CHANGED,
    GONE,
    MODES,
    MOVED,
    NEW,
    REASON,
    Difference,
    HowChanged,
    came_or_went,
    keys_of,
    with_swaps,
)


def compare_schemes(before: Scheme, after: Scheme) -> list[Difference]:
    """The decisions in which two schemes differ, by table, in the order of the later one."""
    found = _assignments(before, after)
    for table in ("keyless", "mute", "guard", "accept"):
        old: Mapping[object, Decision] = getattr(before, table)
        new: Mapping[object, Decision] = getattr(after, table)
        found += _decisions(table, old, new)
    for run in dict.fromkeys((*after.order, *before.order)):
        old_order, new_order = before.order.get(run, ()), after.order.get(run, ())
        if old_order != new_order:
            found.append(
                Difference(
                    what=came_or_went(old_order, new_order),
                    table="order",
                    subject=str(run),
                    before=", ".join(old_order),
                    after=", ".join(new_order),
                )
            )
    for name in ("layer", "based_on", "project"):
        old_text, new_text = getattr(before, name), getattr(after, name)
        if old_text != new_text:
            found.append(
                Difference(
                    what=CHANGED,
                    table="head",
                    subject=name.replace("_", "-"),
                    before=old_text,
                    after=new_text,
                )
            )
    return found


def factory_scheme(app: App) -> Scheme:
    """The factory keys of an application as a scheme, to compare others with."""
    assign = {
        command.id: (Assignment(keys=command.keys, modes=command.usable_in),)
        for command in app.catalogue.commands
        if command.keys
    }
    return Scheme(app=app.name, name=FACTORY, layer=FACTORY, assign=assign)


def _assignments(before: Scheme, after: Scheme) -> list[Difference]:
    found = []
    for command in dict.fromkeys((*after.assign, *before.assign)):
        old, new = before.assign.get(command, ()), after.assign.get(command, ())
        if old == new:
            continue
        why = "; ".join(dict.fromkeys(each.why for each in new if each.why))
        what = _how_changed(old, new)
        was, is_now = _assigned(old), _assigned(new)
        if what == REASON:
            was, is_now = ("; ".join(e.why for e in side if e.why) for side in (old, new))
        found.append(
            Difference(
                what=what, table="assign", subject=command, before=was, after=is_now, why=why
            )
        )
    return with_swaps(found)


def _how_changed(old: tuple[Assignment, ...], new: tuple[Assignment, ...]) -> HowChanged:
    """What is different between the keys of a command in two schemes: the first that is."""
    if not old:
        return NEW
    if not new:
        return GONE
    if _runs(old) != _runs(new):
        return MOVED
    if [each.modes for each in old] != [each.modes for each in new]:
        return MODES
    if [each.why for each in old] != [each.why for each in new]:
        return REASON
    return CHANGED


def _decisions(
    table: str, old: Mapping[object, Decision], new: Mapping[object, Decision]
) -> list[Difference]:
    found = []
    for key in dict.fromkeys((*new, *old)):
        a, b = old.get(key), new.get(key)
        if a == b:
            continue
        if a is None or b is None:
            what = came_or_went(a, b)
            was, is_now = _decision(a), _decision(b)
        elif a.modes != b.modes:
            what, was, is_now = MODES, " ".join(a.modes), " ".join(b.modes)
        else:
            what, was, is_now = REASON, a.why, b.why
        found.append(
            Difference(
                what=what,
                table=table,
                subject=str(key),
                before=was,
                after=is_now,
                why=b.why if b else "",
            )
        )
    return found


def _runs(each: tuple[Assignment, ...]) -> list[tuple[Run, ...]]:
    return [assignment.keys for assignment in each]


def _assigned(assignments: tuple[Assignment, ...]) -> str:
    return "; ".join(
        keys_of(each.keys) + (f" in {', '.join(each.modes)}" if each.modes != (ROOT,) else "")
        for each in assignments
    )


def _decision(each: Decision | None) -> str:
    if each is None:
        return ""
    modes = ""
    if each.modes != (ROOT,):
        modes = f" in {', '.join(each.modes)}"
    return f"{each.why or 'yes'}{modes}"
