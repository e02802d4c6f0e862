"""Whether a macro did the same on different documents."""

from olive_compass.core.macros.document import Document
from olive_compass.core.macros.played import Played


def signature(before: Document, played: Played) -> tuple[object, ...]:
    """What a play did, in a form that is the same wherever it did the same."""
    old, new = before.by_id, played.document.by_id
    # Without ids and places: those differ from document to document though the same was done.
    made = tuple(
        (thing.what, tuple(sorted(thing.values.items())))
        for id_, thing in new.items()
        if id_ not in old
    )
    gone = len([id_ for id_ in old if id_ not in new])
    settings = tuple(sorted(played.document.settings.items()))
    steps = tuple((done.path, done.command, done.outcome) for done in played.done)
    stop = ""
    if played.stopped:
        stop = played.stopped.path
    return made, gone, settings, steps, played.document.mode, stop
