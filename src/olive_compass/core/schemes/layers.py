"""Layers, the nearest first: what each is called, who writes it, and in which file it stands."""


class Layer(str):
    """A layer by its name, and what it means to be of it.

    ``by_scheme``: schemes write it, and a person can change it; ``locked``: it lies above all schemes.
    ``table`` is the table of its file in which its keys stand, ``stands_in`` which file that is. ``means`` says what
    it means where a layer without commands decides, ``keeper`` who keeps its keys (``""``: the application).
    """

    by_scheme: bool
    locked: bool
    table: str
    stands_in: str
    means: str
    keeper: str

    def __new__(
        cls,
        name: str,
        *,
        by_scheme: bool = False,
        locked: bool = False,
        table: str = "",
        stands_in: str = "",
        means: str = "",
        keeper: str = "",
    ) -> "Layer":
        layer = super().__new__(cls, name)
        layer.by_scheme, layer.locked = by_scheme, locked
        layer.table, layer.stands_in = table, stands_in
        layer.means, layer.keeper = means, keeper
        return layer


#: The layers that no scheme writes. The locked ones lie above all schemes: what they take is gone.
SYSTEM = Layer(
    "system",
    locked=True,
    table="keys",
    stands_in="system",
    means="the operating system takes it before the application sees it",
    keeper="the operating system",
)
RESERVED = Layer(
    "reserved",
    locked=True,
    table="reserved",
    stands_in="app",
    means="the application keeps it; no scheme can change it",
)
FACTORY = Layer("factory", table="commands", stands_in="catalogue")
UNLISTED = Layer(
    "unlisted",
    table="unlisted",
    stands_in="app",
    means="it is unlisted: the application does it, and its own list does not show it",
)
MENUS = Layer(
    "menus", table="menus", stands_in="menus", means="the menus have it as an access letter"
)

#: The layers that schemes can belong to.
PROJECT = Layer("project", by_scheme=True, stands_in="scheme")
PERSONAL = Layer("personal", by_scheme=True, stands_in="scheme")
HOUSE = Layer("house", by_scheme=True, stands_in="scheme")

#: All layers, the nearest first: the first that has something to say about a press decides it.
LAYERS = (SYSTEM, RESERVED, PROJECT, PERSONAL, HOUSE, FACTORY, UNLISTED, MENUS)

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
