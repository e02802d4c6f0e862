"""Layers, the nearest first: what each is called, who writes it, and in which file it stands."""


class Layer(str):
    """A layer by its name, and what it means to be of it.

    ``by_scheme``: schemes write it, and a person can change it; ``locked``: it lies above all schemes.
    ``table`` is the table of its file in which its keys stand, ``stands_in`` which file that is.
    """

    by_scheme: bool
    locked: bool
    table: str
    stands_in: str

    def __new__(
        cls,
        name: str,
        *,
        by_scheme: bool = False,
        locked: bool = False,
        table: str = "",
        stands_in: str = "",
    ) -> "Layer":
        layer = super().__new__(cls, name)
        layer.by_scheme, layer.locked = by_scheme, locked
        layer.table, layer.stands_in = table, stands_in
        return layer


#: The layers that no scheme writes. The locked ones lie above all schemes: what they take is gone.
SYSTEM = Layer("system", locked=True, table="keys", stands_in="system")
RESERVED = Layer("reserved", locked=True, table="reserved", stands_in="app")
FACTORY = Layer("factory", table="commands", stands_in="catalogue")
BUILT_IN = Layer("unlisted", table="unlisted", stands_in="app")
MENUS = Layer("menus", table="menus", stands_in="menus")

#: The layers that schemes can belong to.
PROJECT = Layer("project", by_scheme=True, stands_in="scheme")
PERSONAL = Layer("personal", by_scheme=True, stands_in="scheme")
HOUSE = Layer("house", by_scheme=True, stands_in="scheme")

#: All layers, the nearest first: the first that has something to say about a press decides it.
LAYERS = (SYSTEM, RESERVED, PROJECT, PERSONAL, HOUSE, FACTORY, BUILT_IN, MENUS)

#: The place of each in that order.
PLACE = {layer: n for n, layer in enumerate(LAYERS)}

#: The layers that schemes can belong to, the nearest first.
SCHEME_LAYERS = tuple(layer for layer in LAYERS if layer.by_scheme)


def scheme_layer(name: str) -> Layer | None:
    """The layer of that name that schemes can belong to, None: there is none.

    >>> scheme_layer("house"), scheme_layer("factory")
    ('house', None)
    """
    return next((layer for layer in SCHEME_LAYERS if layer == name), None)
