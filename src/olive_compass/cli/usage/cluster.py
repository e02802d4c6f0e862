"""``usage take --cluster``: whole logs where they lie, counted by several processes or machines."""

import contextlib
import logging
from collections.abc import Callable, Iterator
from time import monotonic
from typing import Any

from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.progress import along
from olive_compass.desk import log_counting
from olive_compass.desk.formats import tally_file
from olive_compass.desk.log_counting import Counted, Foreign
from olive_compass.desk.storage.plain_file import open_plain, size_of
from olive_compass.errors import UserError

#: What an address may say instead: this machine's own cores.
HERE = "here"

#: For how long a cluster may say nothing, in seconds.
PATIENCE = 8.0

#: The fewest bytes a second that are counted on any machine.
_SLOWEST = 500_000

#: How often a log is given to another worker where one ends over it.
_RETRIES = 4

#: What a worker gives back: the log's number, its tally as a file of a desk has it, how many events and
#: other lines it had, what is wrong with the first of these; or why it cannot be counted. Bytes, numbers and
#: texts arrive as they were sent, whatever the other side runs.
Answer = tuple[str, bytes, int, int, str, str]


def count_file(
    path: str,
    seat: str,
    backs: frozenset[tuple[str, str]],
    app: str,
    columns: dict[str, str],
    order: Any,
) -> Answer:
    """The tally of one log. What every worker runs: it knows nothing but its arguments."""
    try:
        with open_plain(path) as stream:
            log = log_counting.log_id(stream, seat)
            foreign = Foreign(app, columns, order)
            found = log_counting.count_log(stream, path, log, seat, backs, foreign)
    except UserError as error:
        return "", b"", 0, 0, "", str(error)
    except OSError as error:
        return "", b"", 0, 0, "", f"{path}: This log cannot be read there: {error.strerror}."
    return log, tally_file.write(found.tally), found.events, found.passed, found.first, ""


def count_all(
    context: Surroundings,
    files: list[str],
    work: Callable[[str], Answer],
    address: str,
    patience: float = PATIENCE,
) -> dict[str, tuple[str, Counted]]:
    """The number and the count of each file: on the cluster at ``address``, or on this machine's cores.

    ``work`` is ``count_file`` for one path. Raises ``UserError`` where a log cannot be counted, or nothing
    is heard of the cluster for ``patience`` seconds.
    """
    found = {}
    if address == HERE:
        answers = _here(context, files, work)
    else:
        answers = _there(context, files, work, address, patience)
    for path, (log, data, events, passed, first, wrong) in answers:
        if wrong:
            raise UserError(f"{wrong.rstrip('.')}; nothing was counted.")
        found[path] = (
            log,
            Counted(tally=tally_file.read(data, path), events=events, passed=passed, first=first),
        )
    return {path: found[path] for path in files}


def _here(
    context: Surroundings, files: list[str], work: Callable[[str], Answer]
) -> Iterator[tuple[str, Answer]]:
    from olive_compass.cli.terminal.parallel import each_of, processes_for

    # A log of many gigabytes takes its time; a process that does nothing at all is not waited for.
    patience = PATIENCE + max(map(size_of, files)) / _SLOWEST
    found = each_of(context, "Counting", work, files, processes_for(len(files)), patience)
    # Where no further processes are to be had, this one counts alone.
    yield from zip(files, found or map(work, along(context, "Counting", files)), strict=True)


def _there(
    context: Surroundings,
    files: list[str],
    work: Callable[[str], Answer],
    address: str,
    patience: float,
) -> Iterator[tuple[str, Answer]]:
    with _connected(address, patience) as client:
        futures = {client.submit(work, path, retries=_RETRIES, pure=False): path for path in files}
        ended = _as_they_end(futures, address, patience)
        for _, future in zip(along(context, "Counting", files), ended, strict=True):
            try:
                yield futures[future], tuple(future.result())
            except Exception as error:
                # Whatever a worker raises, its own trouble or a version that does not fit, is its word.
                says = str(error).split("\n")[0][:200] or type(error).__name__
                raise UserError(
                    f"{futures[future]}: the cluster could not count this log: {says}.",
                    hint="Its workers need this version of olive-compass, and the log at that place.",
                ) from error


@contextlib.contextmanager
def _connected(address: str, patience: float) -> Iterator[Any]:
    try:
        from distributed import Client
    except ImportError as error:
        raise UserError(
            "Counting on a cluster takes the extra “cluster”.",
            hint="Install it: pip install 'olive-compass[cluster]'; or use --cluster here",
        ) from error
    # A failure becomes one sentence of ours; its own log would take a hundred lines.
    logging.disable()
    make: Any = Client
    # A client waits without end for a server that takes a call and says nothing: it is asked first.
    _workers_at(address, patience)
    try:
        client: Any = make(address, timeout=patience, name="olive-compass")
    except (OSError, ValueError, TimeoutError) as error:
        raise _no_answer(address, patience) from error
    try:
        yield client
    finally:
        # Where the other side is gone there is nobody to take leave of.
        with contextlib.suppress(Exception):
            client.close(timeout=1)


def _no_answer(address: str, patience: float) -> UserError:
    return UserError(
        f"No cluster answers at {address} within {patience:g} s; nothing was counted.",
        hint="Name its scheduler, as in tcp://NAME:8786; more time: --cluster-timeout SECONDS.",
    )


def _workers_at(address: str, patience: float) -> int:
    """How many workers the scheduler at ``address`` has. Raises ``UserError`` where none answers there."""
    import asyncio

    import distributed

    call: Any = distributed.rpc

    async def asked() -> int:
        async with asyncio.timeout(patience), call(address) as scheduler:
            return len(await scheduler.ncores())

    try:
        return asyncio.run(asked())
    except Exception as error:
        # A web server, a closed port, an address that is none: each has errors of its own.
        raise _no_answer(address, patience) from error


def _as_they_end(futures: dict[Any, str], address: str, patience: float) -> Iterator[Any]:
    """The futures as they are done. Raises ``UserError`` where the scheduler or all workers are gone."""
    import distributed

    wait: Any = distributed.wait

    left = set(futures)
    alone_since = monotonic()
    while left:
        with contextlib.suppress(TimeoutError):
            done = wait(list(left), timeout=1, return_when="FIRST_COMPLETED").done
            left -= done
            yield from done
            alone_since = monotonic()
            continue
        if _workers_at(address, patience):
            # Somebody is at work, and a log may be long.
            alone_since = monotonic()
        elif monotonic() - alone_since > patience:
            raise UserError(
                f"The scheduler at {address} has had no worker for {patience:g} s; nothing was counted.",
                hint=f"Start one on a machine that sees the logs: dask worker {address}",
            )
