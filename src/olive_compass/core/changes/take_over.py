"""Schemes that come as whole files, from a bundle: which of them are to count here."""

from collections.abc import Container

from msgspec import Struct

from olive_compass.core.changes.change import Change, StackEdit
from olive_compass.core.schemes.claims import in_layer_order
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.layers import PERSONAL


class TakeOver(Struct, frozen=True, kw_only=True):
    """Take schemes of ``app`` over; ``schemes`` are all that are there then.

    ``here`` are the names of those that count here, ``there`` of those that counted where they come
    from; ``new`` of those that were not here before.
    """

    app: str
    schemes: tuple[Scheme, ...]
    here: tuple[str, ...]
    there: tuple[str, ...]
    new: Container[str]


def take_over(request: TakeOver) -> Change:
    """The stack as it is to be.

    Those that counted here go on. Of the new ones those join that counted there, but never a second
    personal one. (Guards are held against all that a bundle brings, keys and catalogues too: by
    ``guard_questions``.)
    """
    known = {scheme.name: scheme for scheme in request.schemes}
    counting = [known[name] for name in request.here if name in known]
    for name in request.there:
        scheme = known.get(name)
        if scheme is None or name not in request.new or scheme in counting:
            continue
        if scheme.layer != PERSONAL or all(each.layer != PERSONAL for each in counting):
            counting.append(scheme)
    names = tuple(scheme.name for scheme in in_layer_order(counting))
    return Change(stacks=(StackEdit(request.app, names),))
