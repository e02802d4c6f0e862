"""What a terminal shows while long work goes on; nothing where nobody looks, and nothing at first."""

import contextlib
from collections.abc import Callable, Iterator, Sequence
from time import monotonic
from typing import TYPE_CHECKING, Any

from olive_compass.cli.surroundings import Surroundings

if TYPE_CHECKING:
    from typing import TypeVar

    T = TypeVar("T")

#: Seconds after which a bar appears: before that, the answer comes sooner than it could be read.
PATIENCE = 1.0


def along(context: Surroundings, label: str, items: "Sequence[T]") -> "Iterator[T]":
    """Gives the items; at a terminal a bar on stderr says how far it is, once that takes long."""
    if not context.width or context.quiet or len(items) < 2:
        yield from items
        return
    begun = monotonic()
    with contextlib.ExitStack() as until_the_end:
        bar: Any = None
        for n, item in enumerate(items):
            if bar is None and monotonic() - begun > PATIENCE:
                # Loaded here: most work is done before a bar would be worth its import.
                from rich.console import Console
                from rich.progress import Progress

                bar = until_the_end.enter_context(
                    Progress(console=Console(file=context.err), transient=True)
                )
                task = bar.add_task(label, total=len(items))
            if bar is not None:
                bar.update(task, completed=n)
            yield item


def waiting(
    context: Surroundings, label: str, long: bool
) -> contextlib.AbstractContextManager[Any]:
    """A moving sign at a terminal, for ``long`` work whose length nobody knows."""
    if not long or not context.width or context.quiet:
        return contextlib.nullcontext()
    from rich.console import Console

    return Console(file=context.err).status(label)


@contextlib.contextmanager
def amount(context: Surroundings, label: str, total: int) -> Iterator[Callable[[int], None]]:
    """A bar over ``total`` bytes, with the rest of the time: call what it gives with the bytes since."""
    if not context.width or context.quiet or total < _LARGE:
        yield lambda _size: None
        return
    from rich.console import Console
    from rich.progress import Progress

    with Progress(console=Console(file=context.err), transient=True) as bar:
        task = bar.add_task(label, total=total)
        yield lambda size: bar.advance(task, size)


#: From how many bytes on a bar is worth showing.
_LARGE = 20_000_000
