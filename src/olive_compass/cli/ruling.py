"""``app rules``: shows what an application allows, and sets it."""

from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.keeping import keep, writing_of
from olive_compass.cli.saving import until_saved
from olive_compass.cli.surroundings import BOLD, OFF, Surroundings
from olive_compass.cli.tables import print_fields
from olive_compass.core.apps.app import App, Rules
from olive_compass.desk import app_file, app_writing, seat_file
from olive_compass.desk.desk import app_path
from olive_compass.desk.records import FileChange
from olive_compass.errors import Refused

#: How the value of each rule is read.
KINDS = {
    "duplicates": str,
    "longest-run": int,
    "typed-runs": bool,
    "fold-pad": bool,
    "closing-key": str,
    "wait": float,
    "most-keys": int,
    "modifiers": list,
    "plain-keys": str,
    "can-mute": bool,
    "text-modes": list,
    "letters-open-menus": bool,
    "takes": list,
}


def rules(args: Any, around: Surroundings) -> int:
    """Runs ``app rules``."""
    return until_saved(lambda: _rules(args, around), around)


def _rules(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    app = at.app(at.app_name(args.app))
    path = app_path(app.name)
    before = at.bytes(path)
    after = before
    own = at.bytes(seat_file.SEAT_FILE) if at.has(seat_file.SEAT_FILE) else None
    seat = own
    said = []
    for table, pairs in (
        ("rules", args.set),
        ("roses", args.rose),
        ("licences", args.licence),
        ("reserved", args.reserve),
        ("built-in", args.built_in),
    ):
        for pair in pairs:
            name, sign, text = pair.partition("=") if "==" not in pair else ("=", "=", pair[2:])
            if not sign:
                raise Refused(
                    f"“{pair}” has no “=”.", hint="Write NAME=VALUE; an empty value takes it out."
                )
            value = _value(table, name.strip(), text.strip())
            if table == "licences" and value is not None:
                # That there is such a licence is known of the application; who has it, of a seat.
                seat = seat_file.with_value(seat, f"licences.{app.name}", name.strip(), value)
                if name.strip() in app.rules.licences:
                    said.append(f"{name.strip()} = {text.strip()}")
                    continue
                value = False
            after = app_writing.with_rule(after, table, name.strip(), value)
            said.append(f"{name.strip()} = {text.strip() or '(none)'}")
    if not said:
        return _show(args.json, around, app, path)
    # Read back before it is written: what is wrong is refused with its line.
    app_file.read(after, path, app.name)
    files = [FileChange(path, before, after), FileChange(seat_file.SEAT_FILE, own, seat)]
    return keep(
        writing_of(args), around, at, files, f"{app.title}: rules {', '.join(said)}", app=app.name
    )


def _value(table: str, name: str, text: str) -> Any:
    if not text:
        return None
    if table == "roses":
        kind: Any = int
    elif table == "licences":
        kind = bool
    elif table in ("reserved", "built-in"):
        return text
    elif name not in KINDS:
        from olive_compass.near import did_you_mean

        raise Refused(
            f"There is no rule “{name}”.",
            hint=did_you_mean(name, KINDS) or f"There are {', '.join(KINDS)}.",
        )
    else:
        kind = KINDS[name]
    if kind is bool:
        if text.lower() not in ("yes", "no", "true", "false"):
            raise Refused(f"{name} is yes or no, not “{text}”.")
        return text.lower() in ("yes", "true")
    if kind is list:
        return [part.strip() for part in text.split(",")]
    try:
        return kind(text)
    except ValueError as error:
        raise Refused(f"{name} is a number, not “{text}”.") from error


def _show(as_json: bool, around: Surroundings, app: App, path: str) -> int:
    if as_json:
        around.json({"app": app.name, "file": path, **_as_json(app.rules)})
        return 0
    around.say(f"{BOLD}{app.title} {app.version}{OFF} ({path})")
    print_fields(around, [*_of_keys(app.rules), *_of_the_rest(app.rules)])
    return 0


def _as_json(r: Rules) -> dict[str, Any]:
    """The rules by the names that they have in the file (docs/json.md)."""
    return {
        "duplicates": r.duplicates,
        "longest-run": r.longest_run,
        "typed-runs": r.typed_runs,
        "fold-pad": r.folds_pad,
        "closing-key": r.closing_key,
        "wait": r.wait,
        "most-keys": r.most_keys,
        "modifiers": list(r.modifiers),
        "plain-keys": r.plain_keys,
        "can-mute": r.can_mute,
        "letters-open-menus": r.letters_open_menus,
        "takes": list(r.takes),
        "text-modes": list(r.text_modes),
        "roses": dict(r.roses),
        "licences": dict(r.licences),
        "slots": dict(r.slots),
        "reserved": {str(run): does for run, does in r.reserved.items()},
        "built-in": {str(run): does for run, does in r.built_in.items()},
    }


#: What the rule for plain keys says in words.
_PLAIN = {"all": "all", "named": "only those with a name, such as F6", "none": "none"}


def _of_keys(r: Rules) -> list[tuple[str, str]]:
    """What a trigger may be."""
    runs = ["none" if r.longest_run == 1 else f"up to {r.longest_run} strokes"]
    runs[0] += ", letters typed" if r.typed_runs else ""
    runs += [f"{r.closing_key} ends one"] if r.closing_key else []
    runs += [f"it ends after {r.wait:g} s"] if r.wait else []
    roses = ", ".join(f"{mode}: {size} bearings" for mode, size in r.roses.items())
    return [
        ("a key given twice", r.duplicates),
        ("keys for a command", str(r.most_keys or "any number")),
        ("runs", "; ".join(runs)),
        ("modifiers", ", ".join(r.modifiers) or "all"),
        ("plain keys", _PLAIN[r.plain_keys]),
        ("switching a key off", "it can" if r.can_mute else "it cannot"),
        ("numeric pad", "its digits are those of the row" if r.folds_pad else "keys of its own"),
        (
            "menus",
            "Alt and their letter open them" if r.letters_open_menus else "no letter opens one",
        ),
        ("swipes", roses or "none"),
        ("takes besides", ", ".join(r.takes) or "nothing but keys and swipes"),
    ]


def _of_the_rest(r: Rules) -> list[tuple[str, str]]:
    """Where text is typed, what this seat has, and what no scheme decides."""
    licences = (f"{name}: {'yes' if has else 'no'}" for name, has in r.licences.items())
    return [
        ("text is typed", ", ".join(r.text_modes) or "in no mode"),
        ("licences", ", ".join(licences)),
        ("slots", "\n".join(f"{command}: {name}" for command, name in r.slots.items())),
        ("reserved", "\n".join(f"{run}: {does}" for run, does in r.reserved.items())),
        ("built-in", "\n".join(f"{run}: {does}" for run, does in r.built_in.items())),
    ]
