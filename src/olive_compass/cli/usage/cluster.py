"""``usage take --cluster``: whole logs where they lie, counted side by side by the same pure function."""

import glob
import os
from typing import Any

from olive_compass.cli.keeping import Writing, keep
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.tallies import whole_tally
from olive_compass.cli.usage.taking import changes, takes_back
from olive_compass.core.usage.tally import Count, Use, joined
from olive_compass.core.wording import counted
from olive_compass.desk import log_counting
from olive_compass.desk.desk import Desk
from olive_compass.errors import Refused

#: What an address may say instead: this machine's own cores.
HERE = "here"


def take_whole(
    writing: Writing, around: Surroundings, at: Desk, where: list[str], seat: str, cluster: str
) -> int:
    """Counts every log in the folders, or by the patterns, that are named."""
    files = _files(around, where)
    backs = takes_back(at)
    tallies = count_all(files, seat, backs, cluster)
    before = whole_tally(at, follows=True)
    after = joined([before, *tallies])
    strange = {use.app for use in after} - set(at.app_names())
    if strange:
        raise Refused(
            f"They are of “{min(strange)}” too, which is not on this desk; nothing was changed."
        )
    events = sum(count.times for tally in tallies for use, count in tally.items() if use.day)
    what = f"Usage: counted {counted(len(files), 'log')}, {counted(events, 'use')}"
    rows = [{"file": file} for file in files]
    files_ = list(changes(at, before, after))
    return keep(writing, around, at, files_, what, (), seat=seat, logs=rows)


def count_all(
    files: list[str], seat: str, backs: frozenset[tuple[str, str]], address: str
) -> list[dict[Use, Count]]:
    """The tally of each file: on the cluster at ``address``, or (``here``) on this machine's cores."""
    if address == HERE:
        from concurrent.futures import ProcessPoolExecutor

        with ProcessPoolExecutor() as pool:
            return list(pool.map(count_file, files, [seat] * len(files), [backs] * len(files)))
    try:
        from distributed import Client
    except ImportError as error:
        raise Refused(
            "Counting on a cluster takes the extra “cluster”.",
            hint="Install it: pip install 'olive-compass[cluster]'; or say --cluster here",
        ) from error
    try:
        make: Any = Client
        client: Any = make(address, timeout="5s")
    except (OSError, ValueError, TimeoutError) as error:
        raise Refused(f"There is no cluster at {address}: {error}.") from error
    with client:
        # What a worker that dies had in hand is given to another.
        work = client.map(count_file, files, seat=seat, backs=backs, retries=4, pure=True)
        found: list[dict[Use, Count]] = client.gather(work)
    return found


def count_file(path: str, seat: str, backs: frozenset[tuple[str, str]]) -> dict[Use, Count]:
    """The tally of one log. What every worker runs: it knows nothing but its arguments."""
    with open(path, "rb") as stream:
        log = log_counting.log_id(stream, seat)
        return dict(log_counting.count_log(stream, path, log, seat, backs).tally)


def _files(around: Surroundings, where: list[str]) -> list[str]:
    found: dict[str, None] = {}
    for each in where:
        path = os.path.join(around.folder, each)
        pattern = os.path.join(path, "**", "*.jsonl") if os.path.isdir(path) else path
        for file in sorted(glob.glob(pattern, recursive=True)):
            found[os.path.abspath(file)] = None
    if not found:
        raise Refused(f"There is no log in {', '.join(where)}.", hint="Name a folder or a pattern.")
    return list(found)
