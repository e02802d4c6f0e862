"""``keyset learn``: a set of what most applications agree on, weighted by use."""

import os
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.keeping import writing_of
from olive_compass.cli.sharing.keysets import keymaps, new_set_name, save_set
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.sharing.learning import learn
from olive_compass.core.wording import counted
from olive_compass.desk import log_file
from olive_compass.desk.desk import Desk
from olive_compass.desk.plain_file import open_plain
from olive_compass.errors import Refused
from olive_compass.structs import replace


def learn_set(args: Any, around: Surroundings) -> int:
    """Runs ``keyset learn``."""
    at = pick.desk(args, around)
    name = new_set_name(at, args.name)
    maps = keymaps(at, args.apps)
    uses = uses_in_logs(at)
    learnt = learn(name, maps, at.purposes, uses)
    if not learnt.keyset.keys:
        raise Refused(
            "There is nothing to learn from: no command with a key serves a purpose.",
            hint="Link some first: olive-compass purpose guess APP",
        )
    keyset = replace(learnt.keyset, title=args.title or name)
    weighted = f", weighted by {sum(uses.values())} uses in the logs" if uses else ""
    apps = ", ".join(keymap.app.title for keymap in maps)
    around.report(f"Learnt from {apps}{weighted}: {counted(len(keyset.keys), 'purpose')}.")
    if learnt.unsettled and not around.quiet:
        around.say("Not settled:")
        for each in learnt.unsettled:
            around.say(f"  {at.purposes.by_id[each.purpose].title}: {each.why}")
        first = learnt.unsettled[0].purpose
        around.say(f"To settle one: olive-compass keyset set {name} {first} KEY")
    return save_set(writing_of(args), around, at, None, keyset, f"New key set {name}")


def uses_in_logs(at: Desk) -> dict[tuple[str, str], int]:
    """How often each command was started, by application and id, in the logs of the desk."""
    folder = os.path.join(at.root, "logs")
    counts: dict[tuple[str, str], int] = {}
    for name in sorted(os.listdir(folder)) if os.path.isdir(folder) else []:
        if not name.endswith(".jsonl"):
            continue
        with open_plain(os.path.join(folder, name), f"logs/{name}") as file:
            for event in log_file.events(file, f"logs/{name}"):
                key = (event.app, event.command)
                counts[key] = counts.get(key, 0) + 1
    return counts
