"""The rules of an application, in words and as JSON."""

from olive_compass.cli.output.plain_values import plain
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import print_fields
from olive_compass.core.apps.app import App
from olive_compass.core.apps.guesses import guessed
from olive_compass.core.apps.rules import Rules
from olive_compass.core.wording import clause, yes_or_no
from olive_compass.desk.formats.app_file import Reading


def _read_by(reading: Reading) -> str:
    """How listings are read, as far as it is kept."""
    parts = []
    if reading.file_format:
        parts = [f"the format {reading.file_format}"]
    if reading.pattern:
        parts.append(f"the pattern {reading.pattern}")
    parts += [f"{field} in {heading}" for field, heading in reading.columns.items()]
    if reading.groups != "guess":
        parts.append(f"rows with one cell: {reading.groups}")
    if reading.headings != "guess":
        parts.append(f"headings: {reading.headings}")
    return "; ".join(parts)


def show_rules(as_json: bool, context: Surroundings, app: App, path: str, reading: Reading) -> int:
    if as_json:
        told = plain(app.rules)
        # Which trays it has is another answer: app trays.
        del told["trays"]
        context.json({"app": app.name, "file": path, **told})
        return 0
    context.say(f"{BOLD}{app.heading}{OFF} ({path})")
    kept = [("listings are read by", _read_by(reading))]
    print_fields(context, [*_of_keys(app), *_of_the_rest(app), *kept])
    return 0


#: What the rule for plain keys says in words.
_PLAIN = {"all": "all", "named": "only those with a name, such as F6", "none": "none"}


def _of_keys(app: App) -> list[tuple[str, str]]:
    """What a trigger may be."""
    r = app.rules
    roses = ", ".join(f"{mode}: {size} directions" for mode, size in r.swipes.items())
    return [
        ("duplicate keys", r.duplicates + guessed(app, "duplicates")),
        ("keys for a command", str(r.most_keys or "any number") + guessed(app, "most-keys")),
        ("sequences", _sequences(r) + guessed(app, "longest-sequence")),
        ("modifiers", _modifiers(r) + guessed(app, "modifiers")),
        ("plain keys", _PLAIN[r.plain_keys]),
        ("turning a key off", "possible" if r.can_mute else "not possible"),
        ("numeric pad", "its digits are those of the row" if r.fold_pad else "keys of its own"),
        (
            "menus",
            "Alt and their letter open them" if r.letters_open_menus else "no letter opens one",
        ),
        ("swipes", roses or "none"),
        ("takes besides", ", ".join(r.takes) or "nothing but keys and swipes"),
    ]


def _modifiers(rules: Rules) -> str:
    """The modifiers that a trigger may have."""
    if rules.modifiers is None:
        return "all"
    return ", ".join(rules.modifiers) or "none"


def _sequences(rules: Rules) -> str:
    """How long a run may be, how it is typed, and what ends one."""
    runs = "none"
    if rules.longest_sequence > 1:
        runs = f"up to {rules.longest_sequence} strokes"
    if rules.typed_sequences:
        runs += ", letters typed"
    runs += clause("; {} ends one", rules.closing_key)
    if rules.wait:
        runs += f"; it ends after {rules.wait:g} s"
    return runs


def _of_the_rest(app: App) -> list[tuple[str, str]]:
    """The text modes, the licences of this seat, and the keys that no scheme decides."""
    r = app.rules
    licences = (f"{name}: {yes_or_no(has)}" for name, has in r.licences.items())
    return [
        ("text is typed", (", ".join(r.text_modes) or "in no mode") + guessed(app, "text-modes")),
        ("licences", ", ".join(licences)),
        ("slots", "\n".join(f"{command}: {name}" for command, name in r.slots.items())),
        ("reserved", "\n".join(f"{run}: {does}" for run, does in r.reserved.items())),
        ("unlisted", "\n".join(f"{run}: {does}" for run, does in r.unlisted.items())),
    ]
