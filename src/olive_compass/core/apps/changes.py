"""What an updated listing changes in a catalogue."""

from collections import Counter
from collections.abc import Container

from msgspec import Struct

from olive_compass.core.apps.app import Catalogue, Command
from olive_compass.core.apps.carrying import KEPT, carried, field_of
from olive_compass.core.apps.marks import WHOLE
from olive_compass.core.keys.triggers import Run
from olive_compass.structs import replace

#: What of a command is compared, in the words of the command line.
_COMPARED = ("title", "menu", "keys", "modes", "kind", "does", "marks", "inputs", "keys-elsewhere")


class Change(Struct, frozen=True):
    """A command before and after; None before: it is new; None after: it is gone."""

    before: Command | None
    after: Command | None

    @property
    def what(self) -> str:
        """``new``, ``gone``, or the changed fields, separated by commas."""
        if self.before is None or self.after is None:
            if self.before is None:
                return "new"
            return "gone"
        old, new = self.before, self.after
        changed = [f for f in _COMPARED if getattr(old, field_of(f)) != getattr(new, field_of(f))]
        return ", ".join(changed)


class Taken(Struct, frozen=True):
    """The catalogue after a new listing; what changed, in its order, the gone ones last; and of how
    many commands each field stayed because the listing leaves it out."""

    catalogue: Catalogue
    changes: tuple[Change, ...]
    stayed: Counter[str]


def of_one_platform(old: Catalogue, listed: Catalogue) -> Catalogue:
    """A new listing, with its keys as those of the other platform where that is plainly what it has.

    The catalogue of before has the keys of both platforms; a listing with one column of keys is of the platform
    whose keys most of its commands have.
    """
    if any(command.keys_elsewhere is not None for command in listed.commands):
        return listed
    by_title = {command.title: command for command in old.commands}
    keys: dict[str, tuple[Run, ...]] = {}
    own = other = 0
    for command in listed.commands:
        before = old.by_id.get(command.id) or by_title.get(command.title)
        if before is None:
            continue
        keys[command.id] = before.keys
        # Where both platforms have the same keys, they tell nothing.
        if before.keys != before.keys_elsewhere:
            own += command.keys == before.keys
            other += command.keys == before.keys_elsewhere
    if other <= own:
        return listed
    commands = (
        replace(each, keys=keys.get(each.id, ()), keys_elsewhere=each.keys)
        for each in listed.commands
    )
    return Catalogue(tuple(commands), listed.unreadable)


def take_in(old: Catalogue, new: Catalogue, forget: Container[str] = ()) -> Taken:
    """The new catalogue with the ids of the old one where a command is plainly the same.

    The same id is the same command; else a title that stands once in both is. Decisions in
    schemes name ids, so a command that only moved to another menu must keep its id. What a listing
    leaves out stays as it was, but for what ``forget`` names (see ``carrying``).
    """
    new = of_one_platform(old, new)
    before_of = _by_titles(old, new)
    kept: list[Command] = []
    changes: list[Change] = []
    seen: set[str] = set()
    stayed: Counter[str] = Counter()
    for command in new.commands:
        before = old.by_id.get(command.id) or before_of.get(command.title)
        if before is not None:
            seen.add(before.id)
            listed, command = command, carried(before, command, forget)
            stayed.update(_kept_fields(listed, command))
        change = Change(before, command)
        if change.what:
            changes.append(change)
        kept.append(command)
    # What a person added is in no listing.
    kept += [c for c in old.commands if c.id not in seen and c.marks.said == WHOLE]
    seen |= {command.id for command in kept}
    changes += [Change(command, None) for command in old.commands if command.id not in seen]
    return Taken(Catalogue(tuple(kept)), tuple(changes), stayed)


def _by_titles(old: Catalogue, new: Catalogue) -> dict[str, Command]:
    """The old commands by titles that stand once in both catalogues."""
    old_titles = Counter(command.title for command in old.commands)
    new_titles = Counter(command.title for command in new.commands)
    return {
        command.title: command
        for command in old.commands
        # Where the new version gives the old id to another command, the title alone is no proof.
        if old_titles[command.title] == new_titles[command.title] == 1
        and command.id not in new.by_id
    }


def _kept_fields(listed: Command, command: Command) -> list[str]:
    """What a command has otherwise than it is listed: it stayed as it was."""
    fields = {name: field_of(name) for name in KEPT}
    return [
        name for name, field in fields.items() if getattr(command, field) != getattr(listed, field)
    ]
