"""Two items of one menu with the same access letter."""

from collections.abc import Iterator

from olive_compass.core.findings.finding import Finding, View, catalogue_place

ID = "access-letters"
SEVERITY = "note"
SAYS = "Two items of one menu have the same access letter, so the letter alone starts neither."
ADVICE = "Give what you use a key of its own; the route by letters needs one press more there."


def find(view: View) -> Iterator[Finding]:
    menus: dict[tuple[str, ...], dict[str, dict[str, str]]] = {}
    for command in view.app.catalogue.commands:
        items = (*command.menu, command.title)
        for depth, letter in enumerate(command.access):
            if letter:
                names = menus.setdefault(items[:depth], {}).setdefault(letter, {})
                names.setdefault(items[depth], command.id)
    clashes = [
        (" > ".join(menu) or "the menu bar", letter, names)
        for menu, letters in menus.items()
        for letter, names in letters.items()
        if len(names) > 1
    ]
    if not clashes:
        return
    texts = [f"{letter} in {menu} ({', '.join(names)})" for menu, letter, names in clashes]
    ids = [command for _, _, names in clashes for command in names.values()]
    yield Finding(
        ID,
        SEVERITY,
        view.app.name,
        f"Access letters that stand twice in one menu: {'; '.join(texts[:6])}"
        + (f"; and {len(texts) - 6} more." if texts[6:] else "."),
        f"olive-compass find --app {view.app.name} --menu '{clashes[0][0]}'",
        tuple(catalogue_place(command) for command in ids[:4]),
        tuple(ids),
    )
