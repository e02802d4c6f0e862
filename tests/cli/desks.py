"""Random desks on disk, to follow to the letter what the program advises."""

from pathlib import Path

from olive_compass.core.changes.view import AppView
from olive_compass.desk.formats import catalogue_file, scheme_writing
from olive_compass.desk.texts.toml_text import quoted


def lay_out(folder: Path, view: AppView) -> None:
    """Writes the application of ``view`` with its schemes as a desk in ``folder``."""
    app = view.app
    board = view.keyboard
    assert board.form
    assert board.layout
    names = ", ".join(quoted(scheme.name) for scheme in view.stack.schemes)
    write(
        folder / "desk.toml",
        'format = "olive-compass-desk/1"',
        'name = "Random"',
        f'platform = "{board.platform}"',
        f'keyboard = {{ form = "{board.form.name}", layout = "{board.layout.name}" }}',
        "[stacks]",
        f"app = [{names}]",
    )
    write(
        folder / "system.toml",
        'format = "olive-compass-system/1"',
        "[keys]",
        *(f"{quoted(str(run))} = {quoted(does)}" for run, does in view.stack.system.items()),
    )
    rules = app.rules
    tables = {
        "reserved": {str(run): quoted(does) for run, does in rules.reserved.items()},
        "unlisted": {str(run): quoted(does) for run, does in rules.unlisted.items()},
        "swipes": {mode: str(size) for mode, size in rules.swipes.items()},
        "licences": {name: str(has).lower() for name, has in rules.licences.items()},
        "modes": {mode: quoted(parent) for mode, parent in app.modes.parents.items()},
    }
    write(
        folder / "apps/app/app.toml",
        'format = "olive-compass-app/1"',
        f"title = {quoted(app.title)}",
        "[rules]",
        f"duplicates = {quoted(rules.duplicates)}",
        f"longest-sequence = {rules.longest_sequence}",
        f"typed-sequences = {str(rules.typed_sequences).lower()}",
        f"fold-pad = {str(rules.fold_pad).lower()}",
        f"most-keys = {rules.most_keys}",
        *(
            [f"modifiers = [{', '.join(map(quoted, rules.modifiers))}]"]
            if rules.modifiers is not None
            else []
        ),
        f"plain-keys = {quoted(rules.plain_keys)}",
        f"can-mute = {str(rules.can_mute).lower()}",
        f"text-modes = [{', '.join(map(quoted, rules.text_modes))}]",
        *(
            line
            for table, values in tables.items()
            for line in (f"[{table}]", *(f"{quoted(k)} = {v}" for k, v in values.items()))
        ),
    )
    catalogue = folder / "apps/app/commands.csv"
    catalogue.write_bytes(catalogue_file.write(app.catalogue, board.platform))
    for scheme in view.stack.schemes:
        path = folder / f"schemes/app/{scheme.name}.toml"
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(scheme_writing.new_text(scheme))


def write(path: Path, *lines: str) -> None:
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_text("\n".join(lines) + "\n", encoding="utf-8")
