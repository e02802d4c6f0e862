"""``sheet --as``: the sheets of applications in every form but the terminal's."""

from collections.abc import Sequence
from typing import Any

from olive_compass.cli.output.new_file import put_new
from olive_compass.cli.output.papers import Wanted
from olive_compass.cli.output.printed_tables import give_text
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.sheet import SheetGroup
from olive_compass.desk.desk import Desk

#: An application's keys, its groups, and the mode that was asked for.
Found = tuple[Keymap, list[SheetGroup], str | None]


def give_sheets(asked: Wanted, context: Surroundings, at: Desk, found: Sequence[Found]) -> None:
    """Gives the sheets out in the form that was asked for, on stdout or into the file of ``--out``."""
    if asked.form == "json":
        documents = [_as_json(*each) for each in found]
        document = documents[0] if len(documents) == 1 else {"sheets": documents}
        if not asked.into.out:
            context.json(document)
            return
        import json

        give_text(asked.into, context, json.dumps(document, ensure_ascii=False, indent=2) + "\n")
        return
    from olive_compass.drawing import sheets

    made = [_sheet(context, at, *each) for each in found]
    if asked.form == "pdf":
        from olive_compass.cli.output.wall_sheets import print_sheets

        print_sheets(asked, context, made, [keymap.app.modes for keymap, _, _ in found])
    elif asked.form == "xlsx":
        put_new(asked.into, context, sheets.as_xlsx(made))
    else:
        forms = {"html": sheets.as_html, "csv": sheets.as_csv, "markdown": sheets.as_markdown}
        give_text(asked.into, context, forms[asked.form](made))


def _sheet(
    context: Surroundings, at: Desk, keymap: Keymap, groups: list[SheetGroup], mode: str | None
) -> Any:
    from olive_compass.drawing.sheets import About, Sheet

    about = About(
        title=keymap.app.title,
        version=keymap.app.version,
        desk=at.settings.name,
        mode=mode or "",
        schemes=" over ".join(keymap.stack.names),
        date=context.now().date().isoformat(),
    )
    return Sheet(about, tuple(groups), keymap.app.catalogue.top_menus)


def _as_json(keymap: Keymap, groups: list[SheetGroup], mode: str | None) -> dict[str, Any]:
    return {
        "app": keymap.app.name,
        "title": keymap.app.title,
        "version": keymap.app.version,
        "mode": mode,
        "groups": [
            {
                "name": group.name,
                "lines": [
                    {
                        "keys": [
                            {"key": each.text, "modes": list(each.modes)} for each in line.keys
                        ],
                        "title": line.title,
                        "command": line.id,
                        "where": line.where or None,
                        "does": line.does,
                        "keyless": line.note or None,
                        "asks": list(line.asks),
                    }
                    for line in group.lines
                ],
            }
            for group in groups
        ],
    }
