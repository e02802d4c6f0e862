"""What a command does on the simulator: told by its marks, its kind, or what it says of itself."""

from msgspec import Struct

from olive_compass.core.apps.app import Command

#: What a command can do. ``acts:`` in the marks of a catalogue names one, with ``=`` and a detail.
VERBS = {
    "place": "places a thing at a point",
    "set": "gives a setting its value",
    "style": "gives the selection a style",
    "show": "shows an entry of a list that the user fills",
    "open": "opens a panel, or closes it",
    "enter": "changes the mode: acts:enter=label",
    "leave": "goes back to the mode outside",
    "select": "selects: acts:select=all, none, last or rest",
    "remove": "takes the selection away",
    "copy": "copies the selection beside itself",
    "move": "moves the selection to a point",
    "change": "changes the selection in its own way",
    "undo": "takes back the last change",
    "redo": "does again what was taken back",
    "cancel": "ends what was begun and throws it away",
    "view": "shows another part of the document",
    "zoom": "shows it larger or smaller: acts:zoom=1 or acts:zoom=-1",
    "back": "shows what was shown before",
    "save": "saves the document",
    "batch": "starts work that takes long or cannot be undone",
    "say": "says something and changes nothing",
    "play": "plays a macro",
}

#: What leaves the document itself as it is: only what is shown of it changes.
LOOKS = ("show", "open", "view", "zoom", "back", "say")

_BY_KIND = {
    "part": "place",
    "style": "style",
    "setting": "set",
    "slot": "show",
    "tray": "open",
    "macro": "play",
}

#: Titles that say it all, by their first word.
_BY_TITLE = {
    "undo": "undo",
    "redo": "redo",
    "save": "save",
    "delete": "remove",
    "erase": "remove",
    "duplicate": "copy",
    "abandon": "cancel",
    "cancel": "cancel",
    "stop": "cancel",
}

#: The first word of what a command says that it does, where nothing else tells.
_BY_WORD = {
    "places": "place",
    "draws": "place",
    "fills": "place",
    "adds": "place",
    "removes": "remove",
    "deletes": "remove",
    "moves": "move",
    "copies": "copy",
    "selects": "select",
    "shows": "view",
    "goes": "view",
    "opens": "open",
    "saves": "save",
    "says": "say",
    "measures": "say",
    "lists": "say",
}


class Act(Struct, frozen=True):
    """A verb of ``VERBS`` and its detail."""

    verb: str
    detail: str = ""


def act_of(command: Command) -> Act:
    """What ``command`` does on the simulator."""
    verb, _, detail = command.marks.acts.partition("=")
    if verb in VERBS:
        return Act(verb, detail)
    if command.marks.disruptive:
        return Act("batch")
    if command.kind in _BY_KIND:
        return Act(_BY_KIND[command.kind])
    title = command.title.partition(" ")[0].casefold().rstrip(".…")
    if title in _BY_TITLE:
        return Act(_BY_TITLE[title])
    first = command.does.partition(" ")[0].casefold()
    return Act(_BY_WORD.get(first, "change"), "all" if first == "selects" else "")
